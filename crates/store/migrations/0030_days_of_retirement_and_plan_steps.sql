-- From which day an account is deactivated or archived; which entries open the books; and every edit of a plan, by the revision that it made, so
-- that undo knows the edits from any browser.

ALTER TABLE account ADD COLUMN status_from date;

CREATE TABLE plan_step (
    books_id bigint NOT NULL,
    plan_id bigint NOT NULL,
    revision bigint NOT NULL,
    person_id bigint NOT NULL REFERENCES person,
    at timestamptz NOT NULL DEFAULT now(),
    -- The revision whose edits it reversed, where it was an undo or a redo.
    reverses bigint,
    PRIMARY KEY (books_id, plan_id, revision),
    FOREIGN KEY (books_id, plan_id) REFERENCES plan (books_id, id) ON DELETE CASCADE,
    FOREIGN KEY (books_id, plan_id, reverses) REFERENCES plan_step (books_id, plan_id, revision) ON DELETE CASCADE
);
CREATE INDEX plan_step_person ON plan_step (person_id);
CREATE INDEX plan_step_reverses ON plan_step (books_id, plan_id, reverses) WHERE reverses IS NOT NULL;

CREATE TABLE plan_edit (
    books_id bigint NOT NULL,
    plan_id bigint NOT NULL,
    revision bigint NOT NULL,
    account_id bigint NOT NULL,
    field text NOT NULL,
    -- What was staged in the field before and after; none where nothing was.
    before jsonb,
    after jsonb,
    PRIMARY KEY (books_id, plan_id, revision, account_id, field),
    FOREIGN KEY (books_id, plan_id, revision) REFERENCES plan_step (books_id, plan_id, revision) ON DELETE CASCADE
);

-- Only ever added to; they go with their books.
CREATE FUNCTION plan_steps_are_kept() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF TG_OP = 'DELETE' THEN
        IF NOT EXISTS (SELECT FROM books WHERE id = OLD.books_id) THEN
            RETURN OLD;
        END IF;
    END IF;
    RAISE EXCEPTION 'the edits of a plan are append-only';
END $$;
CREATE TRIGGER plan_step_is_kept BEFORE UPDATE OR DELETE ON plan_step
    FOR EACH ROW EXECUTE FUNCTION plan_steps_are_kept();
CREATE TRIGGER plan_step_is_not_emptied BEFORE TRUNCATE ON plan_step
    FOR EACH STATEMENT EXECUTE FUNCTION plan_steps_are_kept();
CREATE TRIGGER plan_edit_is_kept BEFORE UPDATE OR DELETE ON plan_edit
    FOR EACH ROW EXECUTE FUNCTION plan_steps_are_kept();
CREATE TRIGGER plan_edit_is_not_emptied BEFORE TRUNCATE ON plan_edit
    FOR EACH STATEMENT EXECUTE FUNCTION plan_steps_are_kept();

-- Trial balances tell what opening entries brought from what moved; these entries are few.
CREATE INDEX entry_opening ON entry (books_id, id) WHERE kind = 'opening';
