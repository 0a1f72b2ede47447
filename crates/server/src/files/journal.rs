//! The journal, line by line, with the code each line was posted under.

use super::{headed, saved_as, unwritten};
use crate::state::off_thread;
use crate::{App, Problem};
use axum::response::Response;
use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;
use zf_core::chart::Chart;
use zf_core::dimension;
use zf_core::file_kind::FileKind;
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_intake::template::columns;
use zf_sheets::{ColumnKind, Columns, Format, Writer};
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
    let mut journal = app.store.read_journal(member).await?;
    let snapshot = Arc::new(journal.snapshot().await?);
    let names = dimension_names(&journal.dimensions().await?);
    let mut writer = Writer::new(format, "Journal", &heads(&names)).map_err(|e| unwritten(&e))?;
    let mut after = (0, 0);
    loop {
        let lines = journal.lines(filter, after, PAGE).await?;
        let Some(last) = lines.last() else { break };
        after = (last.entry_id, last.id);
        let (snapshot, names) = (snapshot.clone(), names.clone());
        writer = off_thread(move || {
            let today = &snapshot.today;
            for line in lines {
                writer.row(&cells(line, &today.chart, today.currency, &names))?;
            }
            Ok(writer)
        })
        .await?
        .map_err(|e| unwritten(&e))?;
    }
    let content = off_thread(move || writer.finish()).await?.map_err(|e| unwritten(&e))?;
    saved_as("journal", format, content).await
}

fn heads(names: &BTreeSet<String>) -> Columns {
    let own = headed(FileKind::Journal, columns(FileKind::Journal)).into_iter();
    let dimensions = names.iter().map(|name| (name.clone(), ColumnKind::Text));
    let posted = ("Posted under".to_owned(), ColumnKind::Text);
    own.chain(dimensions).chain([posted]).collect()
}

/// The names of all dimensions.
fn dimension_names(values: &[String]) -> BTreeSet<String> {
    values.iter().flat_map(|posted| dimension::values(posted)).map(|value| value.name).collect()
}

fn cells(line: LineRow, chart: &Chart, base: Currency, names: &BTreeSet<String>) -> Vec<String> {
    let account = chart.get(AccountId(line.account));
    let amount = i128::from(line.amount);
    let side = |amount: i128| if amount > 0 { base.format(amount) } else { String::new() };
    // A line of nothing is written as a debit of nothing, or it could not be brought in again.
    let debit = if amount == 0 { base.format(0) } else { side(amount) };
    let foreign = line.foreign();
    let mut values: BTreeMap<String, String> =
        dimension::values(&line.dimensions).into_iter().map(|v| (v.name, v.value)).collect();
    let dimensions: Vec<String> =
        names.iter().map(|name| values.remove(name).unwrap_or_default()).collect();
    let own = [
        line.entry,
        line.date.to_string(),
        account.map_or_else(|| line.posted_code.clone(), |a| a.code.to_string()),
        account.map_or_else(String::new, |a| a.name.clone()),
        debit,
        side(-amount),
        line.payee,
        line.memo,
        line.reference,
        foreign.map_or_else(String::new, |(currency, _)| currency.to_string()),
        foreign.map_or_else(String::new, |(c, amount)| c.format(amount.into())),
        line.entry_kind,
        if line.cleared { "yes" } else { "" }.to_owned(),
    ];
    own.into_iter().chain(dimensions).chain([line.posted_code]).collect()
}
