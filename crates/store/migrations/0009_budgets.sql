-- Of a budget line: the first day of its month, and what is budgeted, in minor units.
ALTER TABLE account_use ADD COLUMN month date, ADD COLUMN amount bigint;
ALTER TABLE account_use ADD CHECK ((month IS NULL) = (amount IS NULL));
