-- The most frequent dimension values of lines are part of what they speak of. All sketches are drawn anew when the
-- review asks for them next, also because those kept so far may name strands from which lines were carved since.
DELETE FROM strand_sketch;
ALTER TABLE strand_sketch ADD COLUMN dimensions text[] NOT NULL, ADD COLUMN dimension_lines integer[] NOT NULL;
