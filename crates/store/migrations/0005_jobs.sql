-- A file is kept in pieces, so that no statement is as large as the file.
CREATE TABLE import_piece (
    books_id bigint NOT NULL,
    import_id bigint NOT NULL,
    number integer NOT NULL,
    content bytea NOT NULL,
    PRIMARY KEY (books_id, import_id, number),
    FOREIGN KEY (books_id, import_id) REFERENCES import (books_id, id) ON DELETE CASCADE
);
INSERT INTO import_piece (books_id, import_id, number, content)
SELECT books_id, id, 0, content FROM import WHERE content IS NOT NULL AND stored_at IS NULL;
ALTER TABLE import DROP COLUMN content;

-- What is being done with a waiting file, by whichever server takes it up.
CREATE TABLE import_job (
    books_id bigint NOT NULL,
    import_id bigint NOT NULL,
    step text NOT NULL CHECK (step IN ('look', 'store')),
    state text NOT NULL CHECK (state IN ('queued', 'running', 'done', 'failed', 'cancelled')),
    -- On whose behalf.
    person_id bigint NOT NULL REFERENCES person,
    -- Of storing: to what that person agreed.
    agreed jsonb NOT NULL,
    queued_at timestamptz NOT NULL DEFAULT now(),
    -- Changes whenever it is queued, taken up or cancelled: who took it up before that stops.
    turn bigint NOT NULL DEFAULT 0,
    -- How many servers took it up since it was queued, and when the last one said that it lives.
    tries integer NOT NULL DEFAULT 0,
    beat timestamptz,
    rows_read bigint NOT NULL DEFAULT 0,
    rows_checked bigint NOT NULL DEFAULT 0,
    rows_stored bigint NOT NULL DEFAULT 0,
    -- Of looking: what is shown, and the revision of the books that it was read against.
    shown jsonb,
    revision bigint,
    -- Why it failed.
    problem jsonb,
    PRIMARY KEY (books_id, import_id),
    FOREIGN KEY (books_id, import_id) REFERENCES import (books_id, id) ON DELETE CASCADE
);
CREATE INDEX import_job_person ON import_job (person_id);
CREATE INDEX import_job_waiting ON import_job (queued_at) WHERE state IN ('queued', 'running');
