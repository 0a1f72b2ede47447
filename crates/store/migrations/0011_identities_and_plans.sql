-- Identities come from sequences: `nextval` holds no lock and needs no connection beside the one in
-- hand. What is taken by the thousand is taken in blocks: a sequence steps by the size of its block.
CREATE SEQUENCE account_ids INCREMENT BY 16;
CREATE SEQUENCE application_ids;
CREATE SEQUENCE books_ids;
CREATE SEQUENCE entry_ids INCREMENT BY 256;
CREATE SEQUENCE import_ids;
CREATE SEQUENCE line_ids INCREMENT BY 1024;
CREATE SEQUENCE plan_ids;
CREATE SEQUENCE recount_ids;
CREATE SEQUENCE strand_ids INCREMENT BY 16;
SELECT setval((CASE kind WHEN 'job' THEN 'recount' ELSE kind END || '_ids')::regclass, next, false) FROM id_counter;
DROP TABLE id_counter;

-- Counts every change of what is staged, so that a late answer is never taken for a newer one.
ALTER TABLE plan ADD COLUMN revision bigint NOT NULL DEFAULT 0;

-- Who comes too late is told who ended the plan, and when.
ALTER TABLE plan ADD COLUMN ended_by bigint REFERENCES person, ADD COLUMN ended_at timestamptz;
CREATE INDEX plan_ended_by ON plan (ended_by);
UPDATE plan p SET ended_by = a.person_id, ended_at = a.applied_at
FROM application a WHERE a.books_id = p.books_id AND a.plan_id = p.id AND p.status = 'applied';
