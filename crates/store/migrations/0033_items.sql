-- What accounts stand under on the statements is called an item: a line is one of the journal.

UPDATE structure_line SET kind = 'item' WHERE kind = 'line';
UPDATE dismissed SET kind = 'item_empty' WHERE kind = 'line_empty';
