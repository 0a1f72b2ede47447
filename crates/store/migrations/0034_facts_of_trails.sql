-- A row of a trail keeps facts, which are put in words when it is read. Rows that were sealed as sentences stay.

ALTER TABLE trail
    ALTER COLUMN detail DROP NOT NULL,
    ADD COLUMN facts text,
    ADD CONSTRAINT trail_tells_once CHECK (num_nonnulls(detail, facts) = 1);
ALTER TABLE server_trail
    ALTER COLUMN detail DROP NOT NULL,
    ADD COLUMN facts text,
    ADD CONSTRAINT server_trail_tells_once CHECK (num_nonnulls(detail, facts) = 1);
