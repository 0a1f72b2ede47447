-- What of the review is right in these books: one remark, by its kind and what it is about, or all of a kind.
CREATE TABLE dismissed (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    id bigint GENERATED ALWAYS AS IDENTITY,
    kind text NOT NULL,
    account_id bigint,
    line_id bigint,
    reason text NOT NULL,
    person_id bigint NOT NULL REFERENCES person,
    at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (books_id, id),
    CHECK (account_id IS NULL OR line_id IS NULL)
);
CREATE INDEX dismissed_person ON dismissed (person_id);
