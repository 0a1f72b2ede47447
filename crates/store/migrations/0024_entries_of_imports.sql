-- That an entry's books exist is known by its import: each of them was checked for every entry. Entries of books that
-- are deleted go with their imports.
ALTER TABLE entry
    DROP CONSTRAINT entry_books_id_fkey,
    DROP CONSTRAINT entry_books_id_import_id_fkey,
    ADD FOREIGN KEY (books_id, import_id) REFERENCES import (books_id, id) ON DELETE CASCADE;
