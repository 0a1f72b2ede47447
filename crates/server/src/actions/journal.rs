//! The journal: entries with all their lines, to be read.

use super::cards::LineView;
use crate::extract::Query;
use crate::session::In;
use crate::values::{accounts_of, day, within};
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use serde::{Deserialize, Serialize};
use zf_core::entry::EntryKind;
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::rehearsal::Rehearsal;
use zf_intake::numbers::DecimalMark;
use zf_store::journal::entries::{EntryFilter, EntryRow};

/// No journal ever numbers as many entries.
const LAST: i64 = 1_000_000_000_000_000;

/// No server ever counts as many imports.
const IMPORTS: i64 = 1_000_000_000;

/// How many entries stand on a page.
const PAGE: i64 = 50;

/// Which entries.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct JournalQuery {
    /// Those with lines that this account presents.
    account: Option<i64>,
    /// Or that the plan would have it present: those of all accounts of which it puts anything there.
    plan: Option<i64>,
    /// Of those lines the ones that were posted under this code.
    code: Option<String>,
    /// Those that came with this import.
    import: Option<i64>,
    /// The first day.
    from: Option<String>,
    /// The last day.
    to: Option<String>,
    /// What stands in the number, or in the payee, memo or reference of a line.
    text: Option<String>,
    /// What a line amounts to, on either side, in the base currency.
    amount: Option<String>,
    /// The day of the entry that the page begins behind.
    after_day: Option<String>,
    /// That entry.
    after_entry: Option<i64>,
}

/// A page of entries, the latest first.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct JournalPage {
    entries: Vec<JournalEntry>,
    /// Whether there are earlier ones.
    more: bool,
}

/// An entry with all its lines.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct JournalEntry {
    id: i64,
    number: String,
    date: String,
    kind: Option<EntryKind>,
    /// The import it came with.
    import: i64,
    /// The file of that.
    source: String,
    lines: Vec<JournalLine>,
}

/// A line of an entry.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct JournalLine {
    /// The account that presents it.
    account: i64,
    #[serde(flatten)]
    line: LineView,
}

/// Lists entries, the latest first.
#[utoipa::path(get, operation_id = "journal_show", path = "/api/books/{books}/journal",
    params(("books" = i64, Path), JournalQuery),
    responses((status = 200, body = JournalPage), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Query(asked): Query<JournalQuery>,
) -> Result<Json<JournalPage>, Problem> {
    let (snapshot, rehearsed) = app.looked_at(member, asked.plan).await?;
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
        import: asked.import.map(|id| within("import", id, 1..=IMPORTS)).transpose()?,
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
    let entries = rows.into_iter().map(|row| JournalEntry::of(row, currency)).collect();
    Ok(Json(JournalPage { entries, more }))
}

impl JournalEntry {
    fn of(row: EntryRow, currency: Currency) -> Self {
        let line = |line: zf_store::journal::lines::LineRow| JournalLine {
            account: line.account,
            line: LineView::of(line, currency),
        };
        Self {
            id: row.id,
            number: row.number,
            date: row.date.to_string(),
            kind: EntryKind::from_key(&row.kind),
            import: row.import,
            source: row.source,
            lines: row.lines.into_iter().map(line).collect(),
        }
    }
}
