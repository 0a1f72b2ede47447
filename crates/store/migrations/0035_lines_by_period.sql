-- How many lines each period has, kept with the totals: it tells up to which day figures are shown, without going
-- through the totals of all accounts.

CREATE TABLE period_total (
    books_id bigint NOT NULL REFERENCES books,
    period integer NOT NULL,
    lines bigint NOT NULL,
    PRIMARY KEY (books_id, period)
);
INSERT INTO period_total SELECT books_id, period, sum(lines) FROM strand_total GROUP BY books_id, period;
