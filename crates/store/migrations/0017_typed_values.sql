-- What is staged is kept as what it is: a change with its field and value in one, and no text that
-- must be taken apart. The same for stretches of codes, whose codes may hold commas and " to ".
CREATE FUNCTION pg_temp.stretches(list text) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
    SELECT COALESCE(jsonb_agg(jsonb_build_object(
        'first', btrim(split_part(part, ' to ', 1)),
        'last', btrim(CASE WHEN part LIKE '% to %' THEN split_part(part, ' to ', 2) ELSE part END)) ORDER BY n), '[]')
    FROM regexp_split_to_table(list, '[,;]') WITH ORDINALITY AS p (part, n) WHERE btrim(part) <> ''
$$;

CREATE FUNCTION pg_temp.part(line text) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
    SELECT jsonb_build_object(
        'to', max(value) FILTER (WHERE word = 'to')::bigint,
        'which', jsonb_build_object(
            'from', max(value) FILTER (WHERE word = 'from'),
            'until', max(value) FILTER (WHERE word = 'until'),
            'payee', COALESCE(max(value) FILTER (WHERE word = 'payee'), ''),
            'memo', COALESCE(max(value) FILTER (WHERE word = 'memo'), ''),
            'dimension', (array_agg(jsonb_build_object('name', split_part(value, '=', 1),
                                                       'value', substr(value, strpos(value, '=') + 1)))
                          FILTER (WHERE word = 'dimension'))[1],
            'entries', COALESCE(jsonb_agg(value) FILTER (WHERE word = 'entry'), '[]')))
    FROM (SELECT split_part(field, ' ', 1) AS word, substr(field, strpos(field, ' ') + 1) AS value
          FROM regexp_split_to_table(line, E'\t') AS f (field)) said
$$;

CREATE FUNCTION pg_temp.split(said text) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
    SELECT jsonb_build_object(
        'parts', COALESCE(jsonb_agg(pg_temp.part(line) ORDER BY n) FILTER (WHERE line <> 'ranked'), '[]'),
        'ranked', COALESCE(bool_or(line = 'ranked'), false))
    FROM regexp_split_to_table(said, E'\n') WITH ORDINALITY AS l (line, n) WHERE btrim(line) <> ''
$$;

CREATE FUNCTION pg_temp.fate(said text) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
    SELECT CASE
        WHEN said LIKE 'merge:%' THEN jsonb_build_object('fate', 'merge_into', 'into', substr(said, 7)::bigint)
        -- What stood there was told as the account's status.
        ELSE jsonb_build_object('fate', CASE said
            WHEN 'active' THEN 'restore' WHEN 'deactivated' THEN 'deactivate' WHEN 'archived' THEN 'archive'
            ELSE said END)
    END
$$;

CREATE FUNCTION pg_temp.change(field text, said text) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
    SELECT jsonb_build_object('field', field, 'value', CASE
        WHEN field IN ('section', 'parent', 'role', 'currency', 'tax', 'origin') AND said = '' THEN 'null'::jsonb
        WHEN field IN ('parent', 'origin') THEN to_jsonb(said::bigint)
        WHEN field = 'contra' THEN to_jsonb(said = 'yes')
        WHEN field = 'intervals' THEN pg_temp.stretches(said)
        WHEN field = 'history' THEN pg_temp.split(said)
        WHEN field = 'fate' THEN pg_temp.fate(said)
        ELSE to_jsonb(said)
    END)
$$;

ALTER TABLE plan_change ADD COLUMN change jsonb, ADD COLUMN stood jsonb;
UPDATE plan_change SET change = pg_temp.change(field, value),
    stood = CASE WHEN base IS NOT NULL THEN pg_temp.change(field, base) END;
ALTER TABLE plan_change DROP CONSTRAINT plan_change_pkey, DROP COLUMN field, DROP COLUMN value, DROP COLUMN base;
ALTER TABLE plan_change RENAME COLUMN stood TO base;
ALTER TABLE plan_change
    ALTER COLUMN change SET NOT NULL,
    ADD COLUMN field text NOT NULL GENERATED ALWAYS AS (change ->> 'field') STORED,
    ADD PRIMARY KEY (books_id, plan_id, account_id, field),
    ADD CHECK (base ->> 'field' = change ->> 'field');

ALTER TABLE account ALTER COLUMN intervals TYPE jsonb USING pg_temp.stretches(intervals);
ALTER TABLE account_use ALTER COLUMN intervals TYPE jsonb
    USING CASE WHEN intervals IS NOT NULL THEN pg_temp.stretches(intervals) END;

CREATE FUNCTION pg_temp.with_stretches(kept jsonb, VARIADIC keys text[]) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
    SELECT CASE WHEN jsonb_typeof(kept) = 'object'
        THEN kept || (SELECT jsonb_object_agg(key, pg_temp.stretches(kept ->> key)) FROM unnest(keys) AS k (key))
        ELSE kept END
$$;
UPDATE application SET effects = effects || jsonb_build_object(
    'rows', (SELECT COALESCE(jsonb_agg(jsonb_build_array(
                 pg_temp.with_stretches(r.row -> 0, 'intervals'), pg_temp.with_stretches(r.row -> 1, 'intervals'))
                 ORDER BY r.n), '[]')
             FROM jsonb_array_elements(effects -> 'rows') WITH ORDINALITY AS r (row, n)),
    'rewritings', (SELECT COALESCE(jsonb_agg(pg_temp.with_stretches(r.one, 'from', 'to') ORDER BY r.n), '[]')
                   FROM jsonb_array_elements(effects -> 'rewritings') WITH ORDINALITY AS r (one, n)));

DROP FUNCTION pg_temp.with_stretches, pg_temp.change, pg_temp.fate, pg_temp.split, pg_temp.part, pg_temp.stretches;
