-- Only accounts of the books are told apart, each once.
UPDATE told_apart t SET accounts = ARRAY(
    SELECT DISTINCT a.id FROM unnest(t.accounts) AS n (id)
    JOIN account a ON a.books_id = t.books_id AND a.id = n.id ORDER BY a.id);
DELETE FROM told_apart WHERE cardinality(accounts) < 2;
