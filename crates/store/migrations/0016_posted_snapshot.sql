-- What an account was when lines were posted to it, so that statements can show them as posted. A change
-- of any of it opens a new strand, as a change of code or name always did.
ALTER TABLE strand
    ADD COLUMN posted_class text,
    ADD COLUMN posted_section text,
    ADD COLUMN posted_parent bigint,
    ADD COLUMN posted_contra boolean;

-- Of strands that are there it is told from what applications say was before. A strand was posted to while
-- its account bore the strand's code and name: of the states with both, the earliest.
WITH RECURSIVE root AS (
    SELECT books_id, id, id AS root FROM strand WHERE carved_from IS NULL
    UNION ALL
    SELECT s.books_id, s.id, r.root FROM strand s JOIN root r ON r.books_id = s.books_id AND r.id = s.carved_from
),
-- The account that lines were posted to: the one that the first move took the strand from.
poster AS (
    SELECT DISTINCT ON (a.books_id, m.move ->> 0)
           a.books_id, (m.move ->> 0)::bigint AS strand, (m.move ->> 1)::bigint AS account
    FROM application a CROSS JOIN LATERAL jsonb_array_elements(a.effects -> 'moves') AS m (move)
    ORDER BY a.books_id, m.move ->> 0, a.id
),
state AS (
    SELECT a.books_id, (r.change -> 0 ->> 'id')::bigint AS account, a.id AS until, r.change -> 0 AS was
    FROM application a CROSS JOIN LATERAL jsonb_array_elements(a.effects -> 'rows') AS r (change)
    WHERE jsonb_typeof(r.change -> 0) = 'object'
    UNION ALL
    SELECT books_id, id, 9223372036854775807, to_jsonb(account) FROM account
),
posted AS (
    SELECT DISTINCT ON (s.books_id, s.id) s.books_id, s.id, state.was
    FROM strand s
    LEFT JOIN poster ON poster.books_id = s.books_id AND poster.strand = s.id
    JOIN state ON state.books_id = s.books_id AND state.account = COALESCE(poster.account, s.account_id)
    WHERE s.carved_from IS NULL
    ORDER BY s.books_id, s.id,
             (state.was ->> 'code' = s.posted_code AND state.was ->> 'name' = s.posted_name) DESC, state.until
)
UPDATE strand s
SET posted_class = p.was ->> 'class', posted_section = p.was ->> 'section',
    posted_parent = (p.was ->> 'parent_id')::bigint, posted_contra = (p.was ->> 'contra')::boolean
FROM root r JOIN posted p ON p.books_id = r.books_id AND p.id = r.root
WHERE s.books_id = r.books_id AND s.id = r.id;

ALTER TABLE strand
    ALTER COLUMN posted_class SET NOT NULL,
    ALTER COLUMN posted_contra SET NOT NULL;
