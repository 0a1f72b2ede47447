-- What a person chose of how a waiting file is read.
ALTER TABLE import ADD COLUMN choices jsonb NOT NULL DEFAULT '{}';

-- How a file with these headings was read, for the next one of the same form.
CREATE TABLE file_form (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    kind text NOT NULL,
    headings text[] NOT NULL,
    choices jsonb NOT NULL,
    met_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (books_id, kind, headings)
);
