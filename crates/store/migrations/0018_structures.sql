-- The lines of the statements are rows of the books, in place of a fixed list of sections. Every set of
-- books has one structure of its own; an account stands under one of its lines.
CREATE TABLE structure (
    books_id bigint NOT NULL REFERENCES books ON DELETE CASCADE,
    id bigint NOT NULL,
    name text NOT NULL,
    -- The books' own, under whose lines accounts stand.
    own boolean NOT NULL,
    PRIMARY KEY (books_id, id)
);
CREATE UNIQUE INDEX structure_own ON structure (books_id) WHERE own;

CREATE TABLE structure_line (
    books_id bigint NOT NULL,
    id bigint NOT NULL,
    structure_id bigint NOT NULL,
    parent_id bigint,
    -- Its place among all lines of the structure.
    position integer NOT NULL,
    kind text NOT NULL,
    class text NOT NULL,
    name text NOT NULL,
    -- Which of the standard line items it is; rules ask for it.
    standard text,
    -- A line that a plan or a proof names is retired and not deleted.
    retired boolean NOT NULL DEFAULT false,
    PRIMARY KEY (books_id, id),
    UNIQUE (books_id, structure_id, position) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (books_id, structure_id) REFERENCES structure (books_id, id) ON DELETE CASCADE,
    FOREIGN KEY (books_id, parent_id) REFERENCES structure_line (books_id, id)
);
CREATE INDEX structure_line_structure ON structure_line (books_id, structure_id);
CREATE INDEX structure_line_parent ON structure_line (books_id, parent_id);

CREATE SEQUENCE structure_ids;
CREATE SEQUENCE structure_line_ids INCREMENT BY 32;

-- What stood in two classes becomes two lines.
CREATE TEMPORARY TABLE standard_line (position integer, class text, standard text, name text) ON COMMIT DROP;
INSERT INTO standard_line VALUES
    (0, 'asset', NULL, 'Assets'),
    (1, 'asset', 'cash', 'cash and cash equivalents'),
    (2, 'asset', 'receivables', 'trade and other receivables'),
    (3, 'asset', 'inventories', 'inventories'),
    (4, 'asset', 'prepayments', 'prepayments'),
    (5, 'asset', 'property', 'property, plant and equipment'),
    (6, 'asset', 'intangibles', 'intangible assets'),
    (7, 'asset', 'investments', 'investments'),
    (8, 'asset', 'taxes', 'taxes'),
    (9, 'liability', NULL, 'Liabilities'),
    (10, 'liability', 'payables', 'trade and other payables'),
    (11, 'liability', 'taxes', 'taxes'),
    (12, 'liability', 'deferred_income', 'deferred income'),
    (13, 'liability', 'borrowings', 'borrowings'),
    (14, 'liability', 'provisions', 'provisions'),
    (15, 'equity', NULL, 'Equity'),
    (16, 'equity', 'capital', 'capital and funds'),
    (17, 'equity', 'retained_earnings', 'retained earnings'),
    (18, 'income', NULL, 'Income'),
    (19, 'income', 'revenue', 'revenue'),
    (20, 'income', 'other_income', 'other income'),
    (21, 'expense', NULL, 'Expenses'),
    (22, 'expense', 'cost_of_sales', 'cost of sales'),
    (23, 'expense', 'staff', 'employee benefits'),
    (24, 'expense', 'depreciation', 'depreciation and amortisation'),
    (25, 'expense', 'administration', 'administrative expenses'),
    (26, 'expense', 'other_expense', 'other expenses'),
    (27, 'expense', 'finance_costs', 'finance costs'),
    (28, 'expense', 'income_tax', 'income tax');

INSERT INTO structure (books_id, id, name, own) SELECT id, nextval('structure_ids'), 'Statements', true FROM books;
INSERT INTO structure_line (books_id, id, structure_id, parent_id, position, kind, class, name, standard)
SELECT s.books_id, f.first + l.position, s.id,
       CASE WHEN l.standard IS NOT NULL THEN f.first + (
           SELECT h.position FROM standard_line h WHERE h.class = l.class AND h.standard IS NULL) END,
       l.position, CASE WHEN l.standard IS NULL THEN 'heading' ELSE 'line' END, l.class, l.name, l.standard
FROM (SELECT books_id, id, nextval('structure_line_ids') AS first FROM structure) f
JOIN structure s ON s.books_id = f.books_id AND s.id = f.id
CROSS JOIN standard_line l;

-- The line that a section of a class became; of a class that does not have it, where it does stand.
CREATE FUNCTION pg_temp.line_of(books bigint, of_class text, section text) RETURNS bigint LANGUAGE sql STABLE AS $$
    SELECT id FROM structure_line WHERE books_id = books AND standard = section
    ORDER BY class = of_class DESC, position LIMIT 1
$$;

ALTER TABLE account ADD COLUMN caption_id bigint;
UPDATE account SET caption_id = pg_temp.line_of(books_id, class, section) WHERE section IS NOT NULL;
ALTER TABLE account DROP COLUMN section,
    ADD FOREIGN KEY (books_id, caption_id) REFERENCES structure_line (books_id, id);
CREATE INDEX account_caption ON account (books_id, caption_id);

ALTER TABLE strand ADD COLUMN posted_caption bigint;
UPDATE strand SET posted_caption = pg_temp.line_of(books_id, posted_class, posted_section)
WHERE posted_section IS NOT NULL;
ALTER TABLE strand DROP COLUMN posted_section,
    ADD FOREIGN KEY (books_id, posted_caption) REFERENCES structure_line (books_id, id);
CREATE INDEX strand_posted_caption ON strand (books_id, posted_caption);

-- What is staged, by the class that is staged with it, or that the account has.
ALTER TABLE plan_change DROP CONSTRAINT plan_change_check;
UPDATE plan_change c SET
    change = jsonb_build_object('field', 'caption', 'value', pg_temp.line_of(c.books_id, COALESCE(
        (SELECT o.change ->> 'value' FROM plan_change o WHERE o.books_id = c.books_id AND o.plan_id = c.plan_id
         AND o.account_id = c.account_id AND o.field = 'class'),
        (SELECT class FROM account a WHERE a.books_id = c.books_id AND a.id = c.account_id)), c.change ->> 'value')),
    base = CASE WHEN c.base IS NOT NULL THEN jsonb_build_object('field', 'caption', 'value', pg_temp.line_of(
        c.books_id, (SELECT class FROM account a WHERE a.books_id = c.books_id AND a.id = c.account_id),
        c.base ->> 'value')) END
WHERE c.field = 'section';
ALTER TABLE plan_change ADD CHECK (base ->> 'field' = change ->> 'field');

CREATE FUNCTION pg_temp.with_caption(books bigint, kept jsonb) RETURNS jsonb LANGUAGE sql STABLE AS $$
    SELECT CASE WHEN jsonb_typeof(kept) = 'object'
        THEN (kept - 'section') || jsonb_build_object('caption_id',
            pg_temp.line_of(books, kept ->> 'class', kept ->> 'section'))
        ELSE kept END
$$;
UPDATE application a SET effects = effects || jsonb_build_object('rows', (
    SELECT COALESCE(jsonb_agg(jsonb_build_array(
        pg_temp.with_caption(a.books_id, r.row -> 0), pg_temp.with_caption(a.books_id, r.row -> 1)) ORDER BY r.n), '[]')
    FROM jsonb_array_elements(effects -> 'rows') WITH ORDINALITY AS r (row, n)));

DROP FUNCTION pg_temp.with_caption, pg_temp.line_of;
