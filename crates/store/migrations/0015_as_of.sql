-- The last period that counts for balances, when the books lay one down; else it is told from the lines.
ALTER TABLE books ADD COLUMN as_of_period integer;
