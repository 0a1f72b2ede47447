-- What the lines of a strand speak of: the most frequent payees, phrases of memos and strands on the other side of
-- their entries, each with its lines. Written with the lines; a strand whose lines changed otherwise has none until
-- the review asks for it.
CREATE TABLE strand_sketch (
    books_id bigint NOT NULL,
    strand_id bigint NOT NULL,
    payees text[] NOT NULL,
    payee_lines integer[] NOT NULL,
    phrases text[] NOT NULL,
    phrase_lines integer[] NOT NULL,
    counters bigint[] NOT NULL,
    counter_lines integer[] NOT NULL,
    PRIMARY KEY (books_id, strand_id),
    FOREIGN KEY (books_id, strand_id) REFERENCES strand (books_id, id) ON DELETE CASCADE
);
