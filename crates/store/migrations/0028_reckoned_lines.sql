-- Lines that are reckoned from others, and the line on which accounts stand whose balance is on the other side.

ALTER TABLE structure_line
    ADD COLUMN other_side_id bigint,
    ADD FOREIGN KEY (books_id, other_side_id) REFERENCES structure_line (books_id, id);
CREATE INDEX structure_line_other_side ON structure_line (books_id, other_side_id);

-- What a subtotal adds up, or the part and the whole of a ratio, in its order.
CREATE TABLE structure_term (
    books_id bigint NOT NULL,
    line_id bigint NOT NULL,
    position bigint NOT NULL,
    of_class text,
    of_line_id bigint,
    taken_off boolean NOT NULL,
    PRIMARY KEY (books_id, line_id, position),
    CHECK (num_nonnulls(of_class, of_line_id) = 1),
    FOREIGN KEY (books_id, line_id) REFERENCES structure_line (books_id, id) ON DELETE CASCADE,
    FOREIGN KEY (books_id, of_line_id) REFERENCES structure_line (books_id, id)
);
CREATE INDEX structure_term_of_line ON structure_term (books_id, of_line_id);
