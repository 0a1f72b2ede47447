//! The journal: entries with all their lines, to be read.

use super::cards::line_view;
use crate::extract::Query;
use crate::session::In;
use crate::values::{accounts_of, day, within};
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use zf_core::entry::EntryKind;
use zf_core::ids::{AccountId, ImportId, PlanId};
use zf_core::money::Currency;
use zf_core::rehearsal::Rehearsal;
use zf_intake::numbers::DecimalMark;
use zf_store::journal::entries::{EntryFilter, EntryRow};
use zf_wire::journal::{JournalEntry, JournalLine, JournalPage, JournalQuery};

/// No journal ever numbers as many entries.
const LAST: i64 = 1_000_000_000_000_000;

/// No server ever counts as many imports.
const IMPORTS: i64 = 1_000_000_000;

/// How many entries stand on a page.
const PAGE: i64 = 50;

/// Lists entries, the latest first.
#[utoipa::path(get, operation_id = "journal_show", path = "/api/books/{books}/journal",
    params(("books" = i64, Path), JournalQuery),
    responses((status = 200, body = JournalPage), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Query(asked): Query<JournalQuery>,
) -> Result<Json<JournalPage>, Problem> {
    let (snapshot, rehearsed) = app.looked_at(member, asked.plan.map(PlanId)).await?;
    let accounts = match &rehearsed {
        None => accounts_of(&snapshot.today.chart, "account", asked.account)?,
        Some(rehearsed) => {
            let Rehearsal { after, effects, .. } = &rehearsed.rehearsal;
            let after = accounts_of(after, "account", asked.account)?;
            let put = |id: &AccountId| effects.presented(*id, &snapshot.today.activity);
            after.iter().flat_map(put).collect()
        }
    };
    let currency = snapshot.today.currency;
    let read = |text: &str| {
        let minor = DecimalMark::Point.read(currency, text);
        minor.map(i64::saturating_abs).map_err(|wrong| Problem::field("amount", wrong))
    };
    let said = |text: Option<String>| text.map(|t| t.trim().to_owned()).filter(|t| !t.is_empty());
    let filter = EntryFilter {
        accounts,
        posted_code: said(asked.code),
        import: asked.import.map(|id| within("import", id, 1..=IMPORTS)).transpose()?.map(ImportId),
        from: day("from", asked.from.as_deref())?,
        to: day("to", asked.to.as_deref())?,
        text: said(asked.text),
        amount: said(asked.amount).as_deref().map(read).transpose()?,
    };
    let after = match (day("after_day", asked.after_day.as_deref())?, asked.after_entry) {
        (None, None) => None,
        (Some(day), Some(entry)) => Some((day, within("after_entry", entry, 0..=LAST)?)),
        _ => return Err(Problem::field("after_entry", "say the day and the entry, or neither")),
    };
    let mut rows = app.store.entries(member, &filter, after, PAGE + 1).await?;
    let more = rows.len() as i64 > PAGE;
    rows.truncate(PAGE as usize);
    let entries = rows.into_iter().map(|row| journal_entry(row, currency)).collect();
    Ok(Json(JournalPage { entries, more }))
}

fn journal_entry(row: EntryRow, currency: Currency) -> JournalEntry {
    let line = |line: zf_store::journal::lines::LineRow| JournalLine {
        account: line.account,
        line: line_view(line, currency),
    };
    JournalEntry {
        id: row.id,
        number: row.number,
        date: row.date.to_string(),
        kind: EntryKind::from_key(&row.kind),
        import: row.import.0,
        source: row.source,
        lines: row.lines.into_iter().map(line).collect(),
    }
}
