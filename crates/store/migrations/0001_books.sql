-- The whole model: people, books, chart, journal as strands, plans, applications, imports, trail.
-- Every table of a set of books is keyed by books_id first, so that isolation and partitioning by
-- books are natural.

-- Identities are handed out in blocks, so that a large import takes one trip for all of its lines.
CREATE TABLE id_counter (
    kind text PRIMARY KEY,
    next bigint NOT NULL
);
INSERT INTO id_counter (kind, next)
SELECT kind, 1 FROM unnest(ARRAY['books', 'account', 'strand', 'entry', 'line', 'import', 'plan', 'application', 'job']) AS kind;

CREATE TABLE person (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    email text NOT NULL UNIQUE CHECK (email = lower(email)),
    name text NOT NULL,
    password_hash text NOT NULL
);

-- Failed sign-ins of the last minutes: what the rate limit counts, whichever server was asked.
CREATE TABLE sign_in_failure (
    email text NOT NULL,
    at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX sign_in_failure_email ON sign_in_failure (email, at);

CREATE TABLE books (
    id bigint PRIMARY KEY,
    name text NOT NULL,
    currency char(3) NOT NULL,
    year_month smallint NOT NULL CHECK (year_month BETWEEN 1 AND 12),
    year_day smallint NOT NULL CHECK (year_day BETWEEN 1 AND 28),
    -- Counts every change of chart or journal: what was computed at one revision holds for it.
    revision bigint NOT NULL DEFAULT 0,
    locked_period integer,
    usage_given boolean NOT NULL DEFAULT false,
    journal_complete boolean NOT NULL DEFAULT false,
    policy jsonb NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE membership (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    person_id bigint NOT NULL REFERENCES person ON DELETE CASCADE,
    -- A reviewer may go on in spite of some stops, with a typed reason.
    reviewer boolean NOT NULL,
    PRIMARY KEY (books_id, person_id)
);
CREATE INDEX membership_person ON membership (person_id);

CREATE TABLE import (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    id bigint NOT NULL,
    kind text NOT NULL CHECK (kind IN ('chart', 'journal', 'usage')),
    file_name text NOT NULL,
    -- Held until it is stored or its time is up.
    content bytea,
    person_id bigint NOT NULL REFERENCES person,
    uploaded_at timestamptz NOT NULL DEFAULT now(),
    stored_at timestamptz,
    stored_rows bigint,
    PRIMARY KEY (books_id, id)
);
CREATE INDEX import_person ON import (person_id);

CREATE TABLE account (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    id bigint NOT NULL,
    code text NOT NULL,
    -- The code reduced to what tells it apart; null once merged, since the code is free again.
    live_key text,
    name text NOT NULL,
    kind text NOT NULL,
    class text NOT NULL,
    section text,
    parent_id bigint,
    status text NOT NULL,
    contra boolean NOT NULL,
    role text,
    currency char(3),
    description text NOT NULL,
    tax_code text,
    merged_into bigint,
    intervals text NOT NULL,
    -- The strand that new lines go to; null after a change of code or name, or a merge.
    open_strand bigint,
    import_id bigint,
    PRIMARY KEY (books_id, id),
    -- Deferred, so that codes can be swapped in one stroke.
    CONSTRAINT account_code_is_unique UNIQUE (books_id, live_key) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (books_id, parent_id) REFERENCES account (books_id, id) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (books_id, merged_into) REFERENCES account (books_id, id) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (books_id, import_id) REFERENCES import (books_id, id)
);
CREATE INDEX account_parent ON account (books_id, parent_id);
CREATE INDEX account_merged_into ON account (books_id, merged_into);
CREATE INDEX account_import ON account (books_id, import_id);

-- One row for each stretch of time in which an account bore a code.
CREATE TABLE code_use (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    id bigint GENERATED ALWAYS AS IDENTITY,
    account_id bigint NOT NULL,
    code text NOT NULL,
    code_key text NOT NULL,
    name text NOT NULL,
    -- Null for a code the account came with: how long it had borne it is not known here.
    used_from timestamptz,
    -- Null while the account bears it.
    used_to timestamptz,
    PRIMARY KEY (books_id, id)
);
CREATE INDEX code_use_account ON code_use (books_id, account_id);

CREATE TABLE strand (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    id bigint NOT NULL,
    account_id bigint NOT NULL,
    posted_code text NOT NULL,
    posted_name text NOT NULL,
    PRIMARY KEY (books_id, id),
    FOREIGN KEY (books_id, account_id) REFERENCES account (books_id, id)
);
CREATE INDEX strand_account ON strand (books_id, account_id);

CREATE TABLE entry (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    id bigint NOT NULL,
    number text NOT NULL,
    date date NOT NULL,
    kind text NOT NULL,
    import_id bigint NOT NULL,
    PRIMARY KEY (books_id, id),
    UNIQUE (books_id, number),
    FOREIGN KEY (books_id, import_id) REFERENCES import (books_id, id)
);
CREATE INDEX entry_import ON entry (books_id, import_id);

-- After posting nothing in a line ever changes but its strand.
CREATE TABLE line (
    books_id bigint NOT NULL,
    id bigint NOT NULL,
    entry_id bigint NOT NULL,
    date date NOT NULL,
    strand_id bigint NOT NULL,
    amount bigint NOT NULL,
    foreign_amount bigint,
    currency char(3),
    payee text NOT NULL,
    memo text NOT NULL,
    reference text NOT NULL,
    dimensions text NOT NULL,
    PRIMARY KEY (books_id, id),
    FOREIGN KEY (books_id, entry_id) REFERENCES entry (books_id, id) ON DELETE CASCADE,
    FOREIGN KEY (books_id, strand_id) REFERENCES strand (books_id, id)
);
CREATE INDEX line_strand ON line (books_id, strand_id, date, id);
CREATE INDEX line_entry ON line (books_id, entry_id);

-- Kept beside the line, since it does change.
CREATE TABLE line_cleared (
    books_id bigint NOT NULL,
    line_id bigint NOT NULL,
    PRIMARY KEY (books_id, line_id),
    FOREIGN KEY (books_id, line_id) REFERENCES line (books_id, id) ON DELETE CASCADE
);

-- Written in the transaction that writes the lines; reports read these and not the lines.
CREATE TABLE strand_total (
    books_id bigint NOT NULL,
    strand_id bigint NOT NULL,
    period integer NOT NULL,
    currency char(3) NOT NULL,
    debit bigint NOT NULL,
    credit bigint NOT NULL,
    foreign_debit bigint NOT NULL,
    foreign_credit bigint NOT NULL,
    lines bigint NOT NULL,
    -- The sum of unsigned 64-bit hashes; numeric cannot overflow.
    digest numeric(39) NOT NULL,
    last_date date NOT NULL,
    cleared bigint NOT NULL,
    PRIMARY KEY (books_id, strand_id, period, currency),
    FOREIGN KEY (books_id, strand_id) REFERENCES strand (books_id, id)
);

CREATE TABLE account_use (
    books_id bigint NOT NULL,
    id bigint GENERATED ALWAYS AS IDENTITY,
    account_id bigint NOT NULL,
    used_by text NOT NULL,
    label text NOT NULL,
    import_id bigint NOT NULL,
    PRIMARY KEY (books_id, id),
    FOREIGN KEY (books_id, account_id) REFERENCES account (books_id, id),
    FOREIGN KEY (books_id, import_id) REFERENCES import (books_id, id)
);
CREATE INDEX account_use_account ON account_use (books_id, account_id);
CREATE INDEX account_use_import ON account_use (books_id, import_id);

CREATE TABLE plan (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    id bigint NOT NULL,
    name text NOT NULL,
    status text NOT NULL DEFAULT 'draft' CHECK (status IN ('draft', 'applied', 'discarded')),
    person_id bigint NOT NULL REFERENCES person,
    created_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (books_id, id)
);
CREATE INDEX plan_person ON plan (person_id);

-- One staged change of one field. The account need not exist (yet, or any more).
CREATE TABLE plan_change (
    books_id bigint NOT NULL,
    plan_id bigint NOT NULL,
    account_id bigint NOT NULL,
    field text NOT NULL,
    base text,
    value text NOT NULL,
    person_id bigint NOT NULL REFERENCES person,
    changed_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (books_id, plan_id, account_id, field),
    FOREIGN KEY (books_id, plan_id) REFERENCES plan (books_id, id) ON DELETE CASCADE
);
CREATE INDEX plan_change_person ON plan_change (person_id);

-- A reviewer's reason for going on in spite of a stop.
CREATE TABLE plan_override (
    books_id bigint NOT NULL,
    plan_id bigint NOT NULL,
    finding text NOT NULL,
    reason text NOT NULL,
    person_id bigint NOT NULL REFERENCES person,
    at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (books_id, plan_id, finding),
    FOREIGN KEY (books_id, plan_id) REFERENCES plan (books_id, id) ON DELETE CASCADE
);
CREATE INDEX plan_override_person ON plan_override (person_id);

-- A plan that was carried out, or the undo of one, with all that was proved then.
CREATE TABLE application (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    id bigint NOT NULL,
    name text NOT NULL,
    plan_id bigint,
    undo_of bigint,
    undone_by bigint,
    person_id bigint NOT NULL REFERENCES person,
    applied_at timestamptz NOT NULL DEFAULT now(),
    -- Account rows before and after, and strands with the accounts that presented them.
    effects jsonb NOT NULL,
    proof jsonb NOT NULL,
    PRIMARY KEY (books_id, id),
    FOREIGN KEY (books_id, plan_id) REFERENCES plan (books_id, id),
    FOREIGN KEY (books_id, undo_of) REFERENCES application (books_id, id),
    FOREIGN KEY (books_id, undone_by) REFERENCES application (books_id, id)
);
CREATE INDEX application_plan ON application (books_id, plan_id);
CREATE INDEX application_undo_of ON application (books_id, undo_of);
CREATE INDEX application_undone_by ON application (books_id, undone_by);
CREATE INDEX application_person ON application (person_id);

-- A recount from the lines themselves, queued by each application or at will.
CREATE TABLE recount (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    id bigint NOT NULL,
    application_id bigint,
    queued_at timestamptz NOT NULL DEFAULT now(),
    started_at timestamptz,
    finished_at timestamptz,
    lines bigint,
    misses jsonb,
    PRIMARY KEY (books_id, id),
    FOREIGN KEY (books_id, application_id) REFERENCES application (books_id, id)
);
CREATE INDEX recount_application ON recount (books_id, application_id);
CREATE INDEX recount_waiting ON recount (queued_at) WHERE finished_at IS NULL;

CREATE TABLE trail (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    id bigint GENERATED ALWAYS AS IDENTITY,
    at timestamptz NOT NULL DEFAULT now(),
    person_id bigint NOT NULL REFERENCES person,
    what text NOT NULL,
    detail text NOT NULL,
    application_id bigint,
    PRIMARY KEY (books_id, id)
);
CREATE INDEX trail_person ON trail (person_id);

-- The trail is only ever added to.
CREATE FUNCTION trail_is_append_only() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'the trail is append-only';
END $$;
CREATE TRIGGER trail_is_append_only BEFORE UPDATE ON trail
    FOR EACH ROW EXECUTE FUNCTION trail_is_append_only();
