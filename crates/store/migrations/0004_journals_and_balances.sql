-- Of a stored journal: tells its lines from those of other files, so that none is stored twice unseen.
ALTER TABLE import ADD COLUMN digest numeric(39);

-- Balances wait like any other upload until they were compared, or open the books.
ALTER TABLE import DROP CONSTRAINT import_kind_check;
ALTER TABLE import ADD CONSTRAINT import_kind_check
    CHECK (kind IN ('chart', 'journal', 'usage', 'crosswalk', 'balances'));

-- A stored file may be taken back, as long as nothing was built on it.
ALTER TABLE import ADD COLUMN taken_back_at timestamptz;
