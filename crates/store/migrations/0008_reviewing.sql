-- Accounts that a person has said are not the same thing, and why.
CREATE TABLE told_apart (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    id bigint GENERATED ALWAYS AS IDENTITY,
    accounts bigint[] NOT NULL,
    reason text NOT NULL,
    person_id bigint NOT NULL REFERENCES person,
    at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (books_id, id)
);
CREATE INDEX told_apart_person ON told_apart (person_id);

-- The accounts that a person keeps at the top of the sheet.
CREATE TABLE followed (
    books_id bigint NOT NULL,
    person_id bigint NOT NULL REFERENCES person ON DELETE CASCADE,
    account_id bigint NOT NULL,
    PRIMARY KEY (books_id, person_id, account_id),
    FOREIGN KEY (books_id, account_id) REFERENCES account (books_id, id) ON DELETE CASCADE
);
CREATE INDEX followed_person ON followed (person_id);
CREATE INDEX followed_account ON followed (books_id, account_id);
