//! The statements: the balance sheet and the income statement, line by line, and what they tie to.

use crate::door::Query;
use crate::files;
use crate::session::In;
use crate::state::off_thread;
use crate::values::{day, within};
use crate::{App, Problem};
use axum::Json;
use axum::extract::{Path, State};
use axum::response::Response;
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, BTreeSet};
use zf_core::calendar::Period;
use zf_core::chart::{Account, Chart, Class, Kind, Status};
use zf_core::ids::AccountId;
use zf_core::plan::Plan;
use zf_core::rehearsal::{Rehearsal, rehearse};
use zf_core::reports::columns::{Beside, Columns, MOST, Months, Span};
use zf_core::reports::moved::{Moved, earlier_changes, moved};
use zf_core::reports::statement::{
    Difference, Length, Reading, Row, RowKind, Standing, Statement, StatementKind, chart_of, draw,
    place_of,
};
use zf_core::reports::ties::ties;
use zf_core::today::Today;
use zf_store::member::Member;

/// Which columns, and how the history is read.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct Asked {
    /// The plan that is looked at; without one After is as today.
    plan: Option<i64>,
    /// Under what the history is read: as the plan would leave it when there is one and nothing is said.
    reading: Option<Reading>,
    /// How much time a column holds; a fiscal year when it is not said.
    span: Option<Span>,
    /// What stands beside the latest; those before it when it is not said.
    beside: Option<Beside>,
    /// How many columns, 3 when it is not said.
    count: Option<usize>,
    /// The last day: the end of its period. The as-of date of the books when it is not said.
    until: Option<String>,
}

/// The statements of the books.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct StatementsView {
    reading: Reading,
    span: Span,
    beside: Beside,
    /// The latest first; none when nothing was posted.
    columns: Vec<StatementColumn>,
    statements: Vec<StatementView>,
    ties: Vec<TieView>,
    /// How many accounts lines are posted to, and how many of them stand on no line.
    accounts: usize,
    on_no_line: usize,
    /// How many lines and totals of the columns behind the latest the plan changes.
    earlier_changed: usize,
    /// What the plan moves from one line to another.
    moved: Vec<MovedAmount>,
    /// How many histories stand under a code that was another when they were posted.
    former: usize,
}

/// The months of a column.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct StatementColumn {
    /// How many months.
    months: i32,
    /// The first day.
    from: String,
    /// The last day.
    until: String,
}

/// A statement.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct StatementView {
    kind: StatementKind,
    name: &'static str,
    rows: Vec<StatementRow>,
    /// How long it is today.
    today: LengthView,
    /// How long the plan would leave it.
    after: LengthView,
}

/// How long a statement is.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct LengthView {
    lines: usize,
    accounts: usize,
    /// With all lines open, on A4.
    pages: usize,
}

/// A row of a statement.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct StatementRow {
    kind: RowKind,
    /// How far it stands in.
    level: usize,
    label: String,
    class: Option<Class>,
    /// Its line of the structure.
    line: Option<i64>,
    /// As a person reads them.
    amounts: Vec<String>,
    /// By how much the latest differs from the one beside it, as a person reads both; none when they hold another
    /// number of months.
    difference: Option<String>,
    /// By how many tenths of a per cent it is more of what its class usually holds.
    change: Option<i64>,
    accounts: Vec<StandingView>,
}

/// An account on a line.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct StandingView {
    account: i64,
    code: String,
    name: String,
    amounts: Vec<String>,
    /// What there is to know: new, deactivated, archived, or what the plan puts there.
    note: String,
}

/// A total and by how much it is not what it should be.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct TieView {
    name: String,
    difference: String,
}

/// What stands on another line After.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct MovedAmount {
    account: i64,
    code: String,
    from: String,
    to: String,
    /// In the latest column, as the line that it leaves shows it.
    amount: String,
    lines: u64,
}

/// The statements of up to eight periods beside each other.
#[utoipa::path(get, operation_id = "reports_statements", path = "/api/books/{books}/reports/statements",
    params(("books" = i64, Path), Asked),
    responses((status = 200, body = StatementsView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Query(asked): Query<Asked>,
) -> Result<Json<StatementsView>, Problem> {
    Ok(Json(look(&app, member, asked, StatementsView::of).await?))
}

/// Hands a statement over, `balance_sheet` or `income_statement`, as CSV, or as XLSX or ODS with totals that are
/// formulas.
#[utoipa::path(get, operation_id = "reports_file", path = "/api/books/{books}/reports/files/{file}",
    params(("books" = i64, Path), ("file" = String, Path), Asked),
    responses((status = 200, content_type = "application/octet-stream"), (status = "4XX", body = Problem)))]
pub(crate) async fn file(
    State(app): State<App>,
    In(member): In,
    Path((_, file)): Path<(i64, String)>,
    Query(asked): Query<Asked>,
) -> Result<Response, Problem> {
    let (name, format) = files::asked(&file)?;
    let kind = StatementKind::from_key(name)
        .ok_or_else(|| Problem::field("file", "no such statement is handed over"))?;
    let table = move |today: &Today, rehearsal: &Rehearsal, shown: &Shown| {
        let columns = &shown.columns;
        let statements = draw(today, rehearsal, shown.reading, columns);
        let of_kind = statements.iter().find(|statement| statement.kind == kind);
        of_kind.map(|statement| files::statement::table(statement, columns, today))
    };
    let table = look(&app, member, asked, table).await?;
    files::saved(name, format, table.into_iter().collect()).await
}

/// What is shown of the books, with what was not asked for filled in.
struct Shown {
    reading: Reading,
    span: Span,
    beside: Beside,
    columns: Vec<Months>,
}

/// Looks at the books as they are asked for: with the rehearsal of the plan, or one of nothing.
async fn look<T: Send + 'static>(
    app: &App,
    member: Member,
    asked: Asked,
    answer: impl FnOnce(&Today, &Rehearsal, &Shown) -> T + Send + 'static,
) -> Result<T, Problem> {
    let count = within("count", asked.count.unwrap_or(3), 1..=MOST)?;
    let until = day("until", asked.until.as_deref())?;
    let (snapshot, rehearsed) = match asked.plan {
        Some(id) => {
            let (snapshot, _, rehearsed) = app.rehearsed(member, id).await?;
            (snapshot, Some(rehearsed))
        }
        None => (app.snapshot(member).await?, None),
    };
    off_thread(move || {
        let today = &snapshot.today;
        let bare;
        let (rehearsal, usual) = match &rehearsed {
            Some(rehearsed) => (&rehearsed.rehearsal, Reading::AsPlanned),
            None => {
                bare = rehearse(today, &Plan::default());
                (&bare, Reading::AsItIs)
            }
        };
        let last = until.map(|day| today.calendar.period_of(day)).or(today.activity.last());
        let (span, beside) = (asked.span, asked.beside);
        let (span, beside) = (span.unwrap_or(Span::Year), beside.unwrap_or(Beside::Before));
        let columns =
            |last: Period| Columns { last, span, beside, count }.months(today.activity.first());
        let columns = last.map(columns).unwrap_or_default();
        let reading = asked.reading.unwrap_or(usual);
        answer(today, rehearsal, &Shown { reading, span, beside, columns })
    })
    .await
}

impl StatementsView {
    fn of(today: &Today, rehearsal: &Rehearsal, shown: &Shown) -> Self {
        let Shown { reading, span, beside, ref columns } = *shown;
        let statements = draw(today, rehearsal, reading, columns);
        let [before, after] = [Reading::AsItIs, Reading::AsPlanned]
            .map(|reading| draw(today, rehearsal, reading, columns));
        let chart = chart_of(today, rehearsal, reading);
        let accounts: Vec<&Account> =
            chart.live().filter(|account| account.kind == Kind::Account).collect();
        let notes = Notes::of(today, rehearsal, reading);
        let format = |amount| today.currency.format(amount);
        let ties = ties(today, rehearsal, reading, &statements, columns);
        Self {
            reading,
            span,
            beside,
            columns: columns.iter().map(|months| StatementColumn::of(today, months)).collect(),
            ties: ties
                .into_iter()
                .map(|tie| TieView { name: tie.name, difference: format(tie.difference) })
                .collect(),
            on_no_line: accounts.iter().filter(|a| place_of(a).line.is_none()).count(),
            accounts: accounts.len(),
            earlier_changed: earlier_changes(&before, &after),
            moved: moved(today, rehearsal, columns)
                .into_iter()
                .map(|moved| MovedAmount::of(moved, today, rehearsal))
                .collect(),
            former: former(today),
            statements: statements
                .into_iter()
                .zip(before.iter().zip(&after))
                .map(|(statement, lengths)| StatementView::of(statement, lengths, columns, &notes))
                .collect(),
        }
    }
}

/// How many accounts present lines that were posted under another code.
fn former(today: &Today) -> usize {
    let accounts: BTreeSet<AccountId> = today
        .activity
        .strands()
        .filter(|(strand, ..)| {
            let account = today.chart.get(strand.account);
            account.is_some_and(|account| account.code.as_str() != strand.posted.code)
        })
        .map(|(strand, ..)| strand.account)
        .collect();
    accounts.len()
}

impl StatementColumn {
    fn of(today: &Today, months: &Months) -> Self {
        Self {
            months: months.count(),
            from: today.calendar.first_day(months.first).to_string(),
            until: today.calendar.last_day(months.last).to_string(),
        }
    }
}

impl StatementView {
    fn of(
        statement: Statement,
        (before, after): (&Statement, &Statement),
        columns: &[Months],
        notes: &Notes<'_>,
    ) -> Self {
        let row = |row| notes.row(row, statement.difference(row, columns));
        let rows = statement.rows.iter().map(row).collect();
        let [today, after] = [before, after].map(|of| LengthView::of(of.length()));
        Self { kind: statement.kind, name: statement.kind.words(), rows, today, after }
    }
}

impl LengthView {
    fn of(length: Length) -> Self {
        Self { lines: length.lines, accounts: length.accounts, pages: length.pages }
    }
}

impl MovedAmount {
    fn of(moved: Moved, today: &Today, rehearsal: &Rehearsal) -> Self {
        let code = today.chart.get(moved.from_account).map(|account| account.code.to_string());
        let is_asset = moved.from.class == Class::Asset;
        let latest = moved.amounts.first().copied().unwrap_or_default();
        Self {
            account: moved.from_account.0,
            code: code.unwrap_or_default(),
            from: moved.from.words(&today.chart),
            to: moved.to.words(&rehearsal.after),
            amount: today.currency.format(if is_asset { latest } else { -latest }),
            lines: moved.lines,
        }
    }
}

/// What is said beside an account.
struct Notes<'a> {
    today: &'a Today,
    /// The chart that the history is read under.
    chart: &'a Chart,
    reading: Reading,
    /// Whom the plan puts into each account.
    taken: BTreeMap<AccountId, Vec<String>>,
}

impl<'a> Notes<'a> {
    fn of(today: &'a Today, rehearsal: &'a Rehearsal, reading: Reading) -> Self {
        let after = &rehearsal.after;
        let mut taken: BTreeMap<AccountId, Vec<String>> = BTreeMap::new();
        let rows = rehearsal.effects.rows.iter().filter(|_| reading == Reading::AsPlanned);
        for row in rows.filter_map(|row| row.before.as_ref()).filter(|row| row.is_live()) {
            if let Some(holder) = after.holder(row.id).filter(|holder| holder.id != row.id) {
                taken.entry(holder.id).or_default().push(row.label());
            }
        }
        Self { today, chart: chart_of(today, rehearsal, reading), reading, taken }
    }

    fn row(&self, row: &Row, difference: Option<Difference>) -> StatementRow {
        let sign = i128::from(row.shown_as);
        let say = |amount: i128| self.today.currency.format(sign * amount);
        let shown = |amounts: &[i128]| amounts.iter().map(|amount| say(*amount)).collect();
        let standing = |standing: &Standing| StandingView {
            account: standing.account.0,
            code: standing.code.clone(),
            name: standing.name.clone(),
            amounts: shown(&standing.amounts),
            note: self.beside(standing),
        };
        StatementRow {
            difference: difference.map(|difference| say(difference.amount)),
            change: difference.and_then(|difference| difference.tenths),
            amounts: shown(&row.amounts),
            accounts: row.accounts.iter().map(standing).collect(),
            kind: row.kind,
            level: row.level,
            label: row.label.clone(),
            class: row.class,
            line: row.line.map(|line| line.0),
        }
    }

    fn beside(&self, standing: &Standing) -> String {
        let id = standing.account;
        if let Some(taken) = self.taken.get(&id) {
            return format!("takes {}", taken.join(", "));
        }
        match self.chart.get(id) {
            Some(_) if self.today.chart.get(id).is_none() => "new".to_owned(),
            Some(account) if account.status == Status::Deactivated => "deactivated".to_owned(),
            Some(account) if account.status == Status::Archived => "archived".to_owned(),
            Some(account)
                if self.reading == Reading::AsPosted && account.code.as_str() != standing.code =>
            {
                format!("now {}", account.label())
            }
            _ => String::new(),
        }
    }
}
