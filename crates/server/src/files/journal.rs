//! The journal, line by line, with the code each line was posted under.

use super::{saved_as, unwritten};
use crate::state::off_thread;
use crate::{App, Problem};
use axum::response::Response;
use std::sync::Arc;
use zf_core::chart::Chart;
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_exports::journal::{self, JournalRow};
use zf_sheets::{Format, Writer};
use zf_store::journal::lines::{JournalFilter, LineRow};
use zf_store::member::Member;

/// How many lines are read and written at a time.
const PAGE: i64 = 20_000;

/// Writes the lines that pass a filter, entry by entry.
pub(crate) async fn file(
    app: &App,
    member: Member,
    format: Format,
    filter: &JournalFilter,
) -> Result<Response, Problem> {
    let _place = app.write_large().await?;
    let mut reader = app.store.read_journal(member).await?;
    let snapshot = Arc::new(reader.snapshot().await?);
    let names = journal::dimension_names(&reader.dimensions().await?);
    let mut writer =
        Writer::new(format, "Journal", &journal::headed(&names)).map_err(|e| unwritten(&e))?;
    let mut after = (0, 0);
    loop {
        let lines = reader.lines(filter, after, PAGE).await?;
        let Some(last) = lines.last() else { break };
        after = (last.entry_id, last.id);
        let (snapshot, names) = (snapshot.clone(), names.clone());
        writer = off_thread(move || {
            let today = &snapshot.today;
            for line in lines {
                let line = row(&line, &today.chart, today.currency);
                writer.row(&journal::row(&line, &names))?;
            }
            Ok(writer)
        })
        .await?
        .map_err(|e| unwritten(&e))?;
    }
    let content = off_thread(move || writer.finish()).await?.map_err(|e| unwritten(&e))?;
    saved_as("journal", format, content).await
}

/// A line as it is written, by the account that presents it now.
fn row<'a>(line: &'a LineRow, chart: &'a Chart, base: Currency) -> JournalRow<'a> {
    let account = chart.get(AccountId(line.account));
    JournalRow {
        entry: &line.entry,
        date: line.date,
        code: account.map_or(&line.posted_code, |account| account.code.as_str()),
        name: account.map_or("", |account| &account.name),
        amount: line.amount,
        base,
        foreign: line.foreign(),
        payee: &line.payee,
        memo: &line.memo,
        reference: &line.reference,
        entry_kind: &line.entry_kind,
        cleared: line.cleared,
        dimensions: &line.dimensions,
        posted_code: &line.posted_code,
    }
}
