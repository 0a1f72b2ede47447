-- A code that was proposed where a file had none, and that no person or plan gave since.
ALTER TABLE account ADD COLUMN code_proposed boolean NOT NULL DEFAULT false;
