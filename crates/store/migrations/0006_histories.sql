-- A part of a strand that was moved is a strand of its own from then on.
ALTER TABLE strand ADD COLUMN carved_from bigint;
ALTER TABLE strand ADD FOREIGN KEY (books_id, carved_from) REFERENCES strand (books_id, id);
CREATE INDEX strand_carved_from ON strand (books_id, carved_from);
