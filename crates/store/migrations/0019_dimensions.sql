-- Dimensions by identity: a line carries a set of values, and a value can be merged into another one by
-- one update. The text that a line was posted with stays, since its digest hashes it.
CREATE TABLE dimension (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    id bigint GENERATED ALWAYS AS IDENTITY,
    name text NOT NULL,
    PRIMARY KEY (books_id, id),
    UNIQUE (books_id, name)
);

CREATE TABLE dimension_value (
    books_id bigint NOT NULL,
    id bigint GENERATED ALWAYS AS IDENTITY,
    dimension_id bigint NOT NULL,
    value text NOT NULL,
    -- The value that stands for it since; null while it stands for itself.
    merged_into bigint,
    PRIMARY KEY (books_id, id),
    UNIQUE (books_id, dimension_id, value),
    FOREIGN KEY (books_id, dimension_id) REFERENCES dimension (books_id, id) ON DELETE CASCADE,
    FOREIGN KEY (books_id, merged_into) REFERENCES dimension_value (books_id, id)
);
CREATE INDEX dimension_value_merged_into ON dimension_value (books_id, merged_into);

CREATE TABLE dimension_set (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    -- Told from the text, so that whoever posts at the same time comes to the same.
    id bigint NOT NULL,
    -- The values as they were posted, all in one text.
    posted text NOT NULL,
    PRIMARY KEY (books_id, id),
    UNIQUE (books_id, posted)
);

CREATE TABLE dimension_set_value (
    books_id bigint NOT NULL,
    set_id bigint NOT NULL,
    value_id bigint NOT NULL,
    PRIMARY KEY (books_id, set_id, value_id),
    FOREIGN KEY (books_id, set_id) REFERENCES dimension_set (books_id, id) ON DELETE CASCADE,
    FOREIGN KEY (books_id, value_id) REFERENCES dimension_value (books_id, id)
);
CREATE INDEX dimension_set_value_value ON dimension_set_value (books_id, value_id);

-- Lines refer to sets without a foreign key: sets are never deleted, and a check for each of a million
-- lines would cost more than the copying of them.
ALTER TABLE line ADD COLUMN dimension_set_id bigint;
ALTER TABLE strand ADD COLUMN dimension_set_id bigint;

INSERT INTO dimension_set (books_id, id, posted)
SELECT books_id, row_number() OVER (ORDER BY books_id, dimensions), dimensions
FROM (SELECT DISTINCT books_id, dimensions FROM line WHERE dimensions <> '') AS d;

CREATE TEMPORARY TABLE said ON COMMIT DROP AS
SELECT s.books_id, s.id AS set_id, split_part(pair, '=', 1) AS name, substr(pair, strpos(pair, '=') + 1) AS value
FROM dimension_set s CROSS JOIN LATERAL regexp_split_to_table(s.posted, '; ') AS p (pair) WHERE pair LIKE '%=%';

INSERT INTO dimension (books_id, name) SELECT DISTINCT books_id, name FROM said;
INSERT INTO dimension_value (books_id, dimension_id, value)
SELECT DISTINCT s.books_id, d.id, s.value FROM said s JOIN dimension d ON d.books_id = s.books_id AND d.name = s.name;
INSERT INTO dimension_set_value (books_id, set_id, value_id)
SELECT DISTINCT s.books_id, s.set_id, v.id FROM said s
JOIN dimension d ON d.books_id = s.books_id AND d.name = s.name
JOIN dimension_value v ON v.books_id = s.books_id AND v.dimension_id = d.id AND v.value = s.value;

UPDATE line l SET dimension_set_id = s.id
FROM dimension_set s WHERE s.books_id = l.books_id AND s.posted = l.dimensions AND l.dimensions <> '';
