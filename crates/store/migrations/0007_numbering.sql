-- The form of codes is kept in words, and a block may be of a section.
UPDATE books SET policy = (policy - 'code_min' - 'code_max' - 'digits_only') || jsonb_build_object(
    'format',
    (CASE WHEN policy->>'code_min' = policy->>'code_max' THEN policy->>'code_min'
          ELSE (policy->>'code_min') || '-' || (policy->>'code_max') END)
        || (CASE WHEN (policy->>'digits_only')::boolean THEN ' digits' ELSE ' characters' END),
    'blocks',
    (SELECT COALESCE(jsonb_agg(jsonb_build_object('class', b->>0, 'section', NULL, 'codes', b->>1)), '[]')
     FROM jsonb_array_elements(policy->'blocks') b));
