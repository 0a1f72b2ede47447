-- Recounts wait for a server where files do: one table of jobs, with turns and beats for both.
ALTER TABLE import_job RENAME TO job;
ALTER SEQUENCE recount_ids RENAME TO job_ids;
ALTER TABLE job
    DROP CONSTRAINT import_job_pkey,
    DROP CONSTRAINT import_job_step_check,
    ALTER COLUMN import_id DROP NOT NULL,
    ADD COLUMN id bigint,
    -- Of a recount: which application queued it.
    ADD COLUMN application_id bigint,
    ADD COLUMN finished_at timestamptz,
    -- Of a recount: how many lines were read, and where they and their totals disagree.
    ADD COLUMN lines bigint,
    ADD COLUMN misses jsonb;
ALTER TABLE job RENAME COLUMN step TO task;
UPDATE job SET id = nextval('job_ids');
ALTER TABLE job
    ALTER COLUMN id SET NOT NULL,
    ADD PRIMARY KEY (books_id, id),
    ADD UNIQUE (import_id, books_id),
    ADD UNIQUE (application_id, books_id),
    ADD FOREIGN KEY (books_id, application_id) REFERENCES application (books_id, id),
    ADD CONSTRAINT job_task_check CHECK (task IN ('look', 'store', 'recount')),
    ADD CONSTRAINT job_about_check CHECK ((task = 'recount') = (import_id IS NULL)
        AND (task = 'recount') = (application_id IS NOT NULL));
ALTER INDEX import_job_person RENAME TO job_person;
ALTER INDEX import_job_waiting RENAME TO job_waiting;

INSERT INTO job (books_id, id, task, application_id, state, person_id, agreed, queued_at, finished_at, lines, misses)
SELECT r.books_id, r.id, 'recount', r.application_id, CASE WHEN r.finished_at IS NULL THEN 'queued' ELSE 'done' END,
       a.person_id, 'null', r.queued_at, r.finished_at, r.lines, r.misses
FROM recount r JOIN application a ON a.books_id = r.books_id AND a.id = r.application_id;
DROP TABLE recount;

-- A stored file is rolled back; edits of a plan are taken back.
ALTER TABLE import RENAME COLUMN taken_back_at TO rolled_back_at;

-- Stops are known by their causes, and no longer by their words: those of open plans are asked again.
DELETE FROM plan_override o USING plan p WHERE p.books_id = o.books_id AND p.id = o.plan_id AND p.status = 'draft';
