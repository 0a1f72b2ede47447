-- People with their second factor, sessions and one-time links; roles in place of the one mark of a
-- reviewer; and trails whose rows are sealed, for each set of books and for the server itself.

ALTER TABLE person
    ADD COLUMN administrator boolean NOT NULL DEFAULT false,
    ADD COLUMN date_form text NOT NULL DEFAULT 'day_month',
    ADD COLUMN number_form text NOT NULL DEFAULT 'comma_point',
    -- The secret of a second factor, since when it is asked for, and the last step that was taken.
    ADD COLUMN factor_secret bytea,
    ADD COLUMN factor_since timestamptz,
    ADD COLUMN factor_step bigint NOT NULL DEFAULT 0;

-- One of these stands in for a second factor that is lost, once.
CREATE TABLE recovery_code (
    person_id bigint NOT NULL REFERENCES person ON DELETE CASCADE,
    hash bytea NOT NULL,
    PRIMARY KEY (person_id, hash)
);

-- Where somebody is signed in. What the browser shows is kept elsewhere and names this.
CREATE TABLE person_session (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    person_id bigint NOT NULL REFERENCES person ON DELETE CASCADE,
    begun_at timestamptz NOT NULL DEFAULT now(),
    used_at timestamptz NOT NULL DEFAULT now(),
    client text NOT NULL,
    agent text NOT NULL
);
CREATE INDEX person_session_person ON person_session (person_id);

-- A link that is followed once. Only the hash of what it shows is kept.
CREATE TABLE one_time_link (
    hash bytea PRIMARY KEY,
    purpose text NOT NULL CHECK (purpose IN ('first', 'invitation', 'password')),
    email text,
    name text,
    administrator boolean NOT NULL DEFAULT false,
    -- Whose password it is.
    person_id bigint REFERENCES person ON DELETE CASCADE,
    made_by bigint REFERENCES person,
    made_at timestamptz NOT NULL DEFAULT now(),
    expires_at timestamptz NOT NULL
);
CREATE INDEX one_time_link_person ON one_time_link (person_id);
CREATE INDEX one_time_link_made_by ON one_time_link (made_by);

ALTER TABLE membership
    ADD COLUMN roles text[],
    ADD COLUMN plan_id bigint,
    ADD COLUMN until timestamptz;
UPDATE membership SET roles =
    CASE WHEN reviewer THEN '{owner,reviewer,preparer}'::text[] ELSE '{reader,preparer}' END;
ALTER TABLE membership
    ALTER COLUMN roles SET NOT NULL,
    DROP COLUMN reviewer,
    ADD CHECK (cardinality(roles) > 0),
    ADD CHECK (('guest' = ANY (roles)) = (plan_id IS NOT NULL)),
    ADD CHECK (plan_id IS NULL OR until IS NOT NULL),
    ADD FOREIGN KEY (books_id, plan_id) REFERENCES plan (books_id, id);
CREATE INDEX membership_plan ON membership (books_id, plan_id) WHERE plan_id IS NOT NULL;

-- The books that an invitation lets in to.
CREATE TABLE invited (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    link_hash bytea NOT NULL REFERENCES one_time_link ON DELETE CASCADE,
    roles text[] NOT NULL CHECK (cardinality(roles) > 0),
    plan_id bigint,
    until timestamptz,
    PRIMARY KEY (books_id, link_hash),
    CHECK (('guest' = ANY (roles)) = (plan_id IS NOT NULL)),
    FOREIGN KEY (books_id, plan_id) REFERENCES plan (books_id, id)
);
CREATE INDEX invited_link ON invited (link_hash);
CREATE INDEX invited_plan ON invited (books_id, plan_id);

-- The trails. What is there already is sealed here once, in the form that `zf_core::trail` describes.
CREATE TABLE trail_head (
    books_id bigint PRIMARY KEY REFERENCES books ON DELETE CASCADE,
    rows bigint NOT NULL DEFAULT 0,
    seal bytea NOT NULL DEFAULT decode(repeat('00', 32), 'hex')
);
INSERT INTO trail_head (books_id) SELECT id FROM books;

ALTER TABLE trail DISABLE TRIGGER trail_is_append_only;
ALTER TABLE trail
    ADD COLUMN number bigint,
    ADD COLUMN person_name text,
    ADD COLUMN seal bytea;
UPDATE trail t SET person_name = p.name FROM person p WHERE p.id = t.person_id;
UPDATE trail SET
    detail = CASE WHEN what IN ('applied', 'undid', 'took back', 'staged', 'imported', 'dismissed', 'told apart',
                                'went on in spite of a stop', 'laid down a numbering scheme', 'opened the books',
                                'changed the as-of date', 'was let into the books')
             THEN detail ELSE what || ': ' || detail END,
    what = CASE what
        WHEN 'applied' THEN 'applied' WHEN 'undid' THEN 'undid' WHEN 'took back' THEN 'took_back'
        WHEN 'staged' THEN 'staged' WHEN 'imported' THEN 'imported' WHEN 'dismissed' THEN 'dismissed'
        WHEN 'told apart' THEN 'told_apart' WHEN 'went on in spite of a stop' THEN 'overrode'
        WHEN 'laid down a numbering scheme' THEN 'laid_down_scheme' WHEN 'opened the books' THEN 'opened_books'
        WHEN 'changed the as-of date' THEN 'changed_as_of' WHEN 'was let into the books' THEN 'let_in'
        ELSE 'changed_lines' END;
DO $$
DECLARE
    row record;
    head record;
    sealed bytea;
BEGIN
    FOR row IN SELECT * FROM trail ORDER BY books_id, id LOOP
        SELECT * INTO head FROM trail_head WHERE books_id = row.books_id;
        sealed := sha256(convert_to(
            '{"application":' || coalesce(row.application_id::text, 'null')
            || ',"at":"' || to_char(row.at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"')
            || '","before":"' || encode(head.seal, 'hex')
            || '","books":' || row.books_id
            || ',"by":' || to_json(row.person_name)
            || ',"detail":' || to_json(row.detail)
            || ',"number":' || head.rows + 1
            || ',"person":' || row.person_id
            || ',"what":' || to_json(row.what) || '}', 'UTF8'));
        UPDATE trail SET number = head.rows + 1, seal = sealed WHERE books_id = row.books_id AND id = row.id;
        UPDATE trail_head SET rows = rows + 1, seal = sealed WHERE books_id = row.books_id;
    END LOOP;
END $$;
ALTER TABLE trail
    DROP CONSTRAINT trail_pkey,
    DROP COLUMN id,
    ALTER COLUMN number SET NOT NULL,
    ALTER COLUMN person_name SET NOT NULL,
    ALTER COLUMN seal SET NOT NULL,
    ADD PRIMARY KEY (books_id, number);

-- The trail of the server: sign-ins, people, and what became of books.
CREATE TABLE server_trail (
    number bigint PRIMARY KEY,
    at timestamptz NOT NULL,
    person_id bigint REFERENCES person,
    person_name text NOT NULL,
    what text NOT NULL,
    detail text NOT NULL,
    seal bytea NOT NULL
);
CREATE INDEX server_trail_person ON server_trail (person_id);
CREATE TABLE server_trail_head (
    one boolean PRIMARY KEY DEFAULT true CHECK (one),
    rows bigint NOT NULL DEFAULT 0,
    seal bytea NOT NULL DEFAULT decode(repeat('00', 32), 'hex')
);
INSERT INTO server_trail_head DEFAULT VALUES;

-- Rows are only ever added; those of books go with the books.
CREATE FUNCTION trail_is_kept() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF TG_OP = 'DELETE' AND TG_TABLE_NAME = 'trail' THEN
        IF NOT EXISTS (SELECT FROM books WHERE id = OLD.books_id) THEN
            RETURN OLD;
        END IF;
    END IF;
    RAISE EXCEPTION 'the trail is append-only';
END $$;
DROP TRIGGER trail_is_append_only ON trail;
DROP FUNCTION trail_is_append_only();
CREATE TRIGGER trail_is_kept BEFORE UPDATE OR DELETE ON trail
    FOR EACH ROW EXECUTE FUNCTION trail_is_kept();
CREATE TRIGGER trail_is_not_emptied BEFORE TRUNCATE ON trail
    FOR EACH STATEMENT EXECUTE FUNCTION trail_is_kept();
CREATE TRIGGER server_trail_is_kept BEFORE UPDATE OR DELETE ON server_trail
    FOR EACH ROW EXECUTE FUNCTION trail_is_kept();
CREATE TRIGGER server_trail_is_not_emptied BEFORE TRUNCATE ON server_trail
    FOR EACH STATEMENT EXECUTE FUNCTION trail_is_kept();

ALTER TABLE books
    -- When they were put away: nothing is changed in them from then on.
    ADD COLUMN archived_at timestamptz,
    -- The first day from which the journal is known to be complete, when that is not the beginning.
    ADD COLUMN complete_from date;

-- What browsers show of sessions, in the form of the library that keeps it.
CREATE SCHEMA IF NOT EXISTS tower_sessions;
CREATE TABLE IF NOT EXISTS tower_sessions.session (
    id text PRIMARY KEY NOT NULL,
    data bytea NOT NULL,
    expiry_date timestamptz NOT NULL
);
