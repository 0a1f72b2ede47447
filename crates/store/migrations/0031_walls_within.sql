-- Links know who made them, an address is confirmed by one, and what people are told of it.

ALTER TABLE one_time_link
    DROP CONSTRAINT one_time_link_purpose_check,
    ADD CONSTRAINT one_time_link_purpose_check
        CHECK (purpose IN ('first', 'invitation', 'password', 'address'));

-- When somebody's password was last chosen by a link that somebody else had made, and who that was.
ALTER TABLE person
    ADD COLUMN linked_at timestamptz,
    ADD COLUMN linked_by bigint REFERENCES person;
CREATE INDEX person_linked_by ON person (linked_by);

-- What was noted in the trail of a try that failed: it is noted once within the time that tries count.
ALTER TABLE sign_in_try ADD COLUMN noted text;

-- The trail of the server names books by number, so that it is known which there must be. Of those that
-- were opened before, a row is added here once, sealed in the form that `zf_core::trail` describes.
ALTER TABLE server_trail ADD COLUMN about_books bigint;
DO $$
DECLARE
    row record;
    head record;
    moment timestamptz;
    sealed bytea;
BEGIN
    FOR row IN SELECT id, name FROM books ORDER BY id LOOP
        SELECT * INTO head FROM server_trail_head FOR UPDATE;
        moment := clock_timestamp();
        sealed := sha256(convert_to(
            '{"application":null'
            || ',"at":"' || to_char(moment AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"')
            || '","before":"' || encode(head.seal, 'hex')
            || '","books":' || row.id
            || ',"by":"the update","detail":' || to_json(row.name)
            || ',"number":' || head.rows + 1
            || ',"person":null,"what":"found_books"}', 'UTF8'));
        INSERT INTO server_trail (number, at, person_name, what, detail, seal, about_books)
            VALUES (head.rows + 1, moment, 'the update', 'found_books', row.name, sealed, row.id);
        UPDATE server_trail_head SET rows = rows + 1, seal = sealed;
    END LOOP;
END $$;
