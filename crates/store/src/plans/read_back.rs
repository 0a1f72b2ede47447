//! What the database says after a plan was written: whether it is what was predicted, and whether no more of
//! the journal was written to than was to move.

use crate::StoreError;
use crate::chart::rows;
use crate::journal::ledger;
use crate::journal::today::Snapshot;
use crate::plans::history::Written;
use crate::writing::Writing;
use zf_core::chart::Account;
use zf_core::rehearsal::Rehearsal;
use zf_core::rehearsal::effects::Effects;
use zf_core::rehearsal::proof::{
    Miss, compare_charts, compare_ledgers, is_presented_as_predicted, ledger_after,
};

/// How many rows of the journal this session has written, by PostgreSQL's own count.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) struct JournalWrites {
    /// Lines whose strand changed.
    lines: i64,
    /// Rows of totals, in whatever way.
    totals: i64,
    /// Anything else of entries, lines and marks.
    others: i64,
}

impl JournalWrites {
    /// What there may be once carving has written so much.
    pub(super) fn with(self, written: Written) -> Self {
        let Written { lines, totals } = written;
        Self { lines: self.lines + lines, totals: self.totals + totals, others: self.others }
    }
}

pub(super) async fn journal_writes(tx: &mut Writing) -> Result<JournalWrites, StoreError> {
    let writes = sqlx::query_as!(
        JournalWrites,
        r#"SELECT COALESCE(sum(n_tup_upd) FILTER (WHERE relname = 'line'), 0)::bigint AS "lines!",
                  COALESCE(sum(n_tup_ins + n_tup_upd + n_tup_del)
                           FILTER (WHERE relname = 'strand_total'), 0)::bigint AS "totals!",
                  COALESCE(sum(n_tup_ins + n_tup_del + CASE WHEN relname = 'line' THEN 0 ELSE n_tup_upd END)
                           FILTER (WHERE relname <> 'strand_total'), 0)::bigint AS "others!"
           FROM pg_stat_xact_user_tables
           WHERE schemaname = current_schema() AND relname IN ('entry', 'line', 'line_cleared', 'strand_total')"#
    );
    Ok(writes.fetch_one(tx).await?)
}

/// Compares everything that was predicted with what the database now says.
pub(super) async fn read_back(
    tx: &mut Writing,
    snapshot: &Snapshot,
    rehearsal: &Rehearsal,
) -> Result<Vec<String>, StoreError> {
    let (books, before) = (snapshot.books.id, &snapshot.today.activity);
    let chart = rows::read(tx, books).await?;
    let mut misses = compare_charts(&rehearsal.after, &chart);
    let read = ledger::read_activity(tx, books).await?;
    let as_predicted = is_presented_as_predicted(before, &rehearsal.effects, &read);
    if !as_predicted {
        let predicted = ledger_after(before, &rehearsal.effects);
        misses.extend(compare_ledgers(&predicted, &ledger_after(&read, &Effects::default())));
    }
    let in_words = |miss: Miss| {
        let account = chart.get(miss.account).or_else(|| snapshot.today.chart.get(miss.account));
        format!(
            "{}: {}",
            account.map_or_else(|| miss.account.to_string(), Account::label),
            miss.what
        )
    };
    let mut misses: Vec<String> = misses.into_iter().map(in_words).collect();
    if !as_predicted && read.by_slot() != before.by_slot() {
        misses.push(
            "all lines together do not add up to what they did, by period and currency".to_owned(),
        );
    }
    if rehearsal.proof.after.total() != 0 || rehearsal.proof.difference != 0 {
        misses.push("the trial balance After is not zero".to_owned());
    }
    Ok(misses)
}
