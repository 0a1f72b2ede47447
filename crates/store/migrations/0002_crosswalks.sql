-- A crosswalk waits like any other upload until it is staged in a plan.
ALTER TABLE import DROP CONSTRAINT import_kind_check;
ALTER TABLE import ADD CONSTRAINT import_kind_check
    CHECK (kind IN ('chart', 'journal', 'usage', 'crosswalk'));
