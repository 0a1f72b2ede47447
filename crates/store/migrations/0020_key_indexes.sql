-- Indexes of foreign keys begin with what is pointed to and end with the books. Those that began with the books,
-- as the primary key does, could lead whoever checks that a line's strand is there: before a table was looked at
-- all of them seem equally good, and all strands of the books were read for each line.
DROP INDEX strand_account, strand_carved_from, strand_posted_caption,
    account_caption, account_import, account_merged_into, account_parent, entry_import;
CREATE INDEX strand_account ON strand (account_id, books_id);
CREATE INDEX strand_carved_from ON strand (carved_from, books_id) WHERE carved_from IS NOT NULL;
CREATE INDEX strand_posted_caption ON strand (posted_caption, books_id) WHERE posted_caption IS NOT NULL;
CREATE INDEX account_caption ON account (caption_id, books_id) WHERE caption_id IS NOT NULL;
CREATE INDEX account_import ON account (import_id, books_id) WHERE import_id IS NOT NULL;
CREATE INDEX account_merged_into ON account (merged_into, books_id) WHERE merged_into IS NOT NULL;
CREATE INDEX account_parent ON account (parent_id, books_id) WHERE parent_id IS NOT NULL;
CREATE INDEX entry_import ON entry (import_id, books_id) WHERE import_id IS NOT NULL;
