-- Where-used entries that name stretches of codes instead of one account, as lines of reports do.
ALTER TABLE account_use ALTER COLUMN account_id DROP NOT NULL, ADD COLUMN intervals text;
ALTER TABLE account_use ADD CHECK ((account_id IS NULL) <> (intervals IS NULL));
