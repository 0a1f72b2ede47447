//! The chart as the sheet shows it: the outline with the figures of every row.

use crate::extract::Query;
use crate::session::In;
use crate::state::off_thread;
use crate::values::{day, within};
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use std::borrow::Cow;
use std::collections::HashMap;
use zf_core::access::Capability;
use zf_core::activity::Share;
use zf_core::calendar::{FiscalCalendar, Period};
use zf_core::chart::Account;
use zf_core::ids::{AccountId, ById};
use zf_core::row_figures::RowFigures;
use zf_store::journal::today::Snapshot;
use zf_wire::chart::{AsOfView, Between, ChartRow, ChartView, ClassView, OriginView, PeriodView};
use zf_wire::values::instant;

/// How many quarters the activity strip shows.
const QUARTERS: i32 = 24;

fn check_between(between: &Between) -> Result<(), Problem> {
    let check =
        |field, period: Option<i32>| period.map(|p| within(field, p, Period::NUMBERS)).transpose();
    check("from", between.from).and(check("to", between.to)).map(drop)
}

/// The last period that is shown, if it is another one than that of the books.
fn shown_period(between: &Between, calendar: FiscalCalendar) -> Result<Option<Period>, Problem> {
    let period = day("day", between.day.as_deref())?.map(|day| calendar.period_of(day));
    period.map(|p| within("day", p.0, Period::NUMBERS).map(Period)).transpose()
}

/// Shows the chart.
#[utoipa::path(get, operation_id = "chart_show", path = "/api/books/{books}/chart", params(("books" = i64, Path), Between),
    responses((status = 200, body = ChartView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Query(between): Query<Between>,
) -> Result<Json<ChartView>, Problem> {
    check_between(&between)?;
    let snapshot = app.snapshot(member).await?;
    let shown = shown_period(&between, snapshot.today.calendar)?;
    let origins = app.store.origins(member).await?;
    let origins = origins.into_iter().map(|origin| OriginView {
        id: origin.id.0,
        file_name: origin.file_name,
        at: instant(origin.stored_at),
    });
    let origins = origins.collect();
    let followed = app.store.followed(member).await?;
    let may = member.capabilities().iter().collect();
    off_thread(move || Json(view(&snapshot, origins, followed, may, &between, shown))).await
}

fn view(
    snapshot: &Snapshot,
    origins: Vec<OriginView>,
    followed: Vec<i64>,
    may: Vec<Capability>,
    between: &Between,
    shown: Option<Period>,
) -> ChartView {
    let today = &snapshot.today;
    let latest = today.activity.latest().unwrap_or(Period(0));
    let last = shown.or(today.activity.last()).unwrap_or(latest);
    let from = between.from.unwrap_or(last.year_start().0);
    let to = between.to.unwrap_or(last.0);
    let figures = match shown {
        Some(last) => Cow::Owned(today.activity.figures_to(last)),
        None => Cow::Borrowed(today.figures()),
    };
    let figures = &*figures;
    let history = Histories::of(snapshot, latest, from, to);
    let rows = RowFigures::all(&today.chart, figures, &history.changes);
    let former = Past::of_all(snapshot);
    let money = |minor| today.currency.format(minor);
    let row = |(account, depth): (&Account, usize)| {
        let own = rows.get(&account.id).copied().unwrap_or_default();
        let past = former.get(&account.id).cloned().unwrap_or_default();
        ChartRow {
            id: account.id.0,
            code: account.code.to_string(),
            code_proposed: account.code_proposed,
            name: account.name.clone(),
            description: account.description.clone(),
            kind: account.kind,
            class: account.class,
            caption: account.place().1,
            parent: account.parent.map(|p| p.0),
            depth,
            status: account.status,
            status_from: account.status_from.map(|day| day.to_string()),
            role: account.role.map(|r| r.words()),
            lines: own.lines,
            last: figures.get(&account.id).and_then(|f| f.last).map(|d| d.to_string()),
            strip: history.strip(account.id),
            balance: money(own.balance),
            net_change: money(own.net_change),
            former: past.codes,
            former_names: past.names,
            uses: today.usage.of(account.id).len(),
            origin: account.origin.map(|origin| origin.0),
        }
    };
    let has_lines = today.activity.latest().is_some();
    let calendar = today.calendar;
    ChartView {
        name: snapshot.books.name.clone(),
        currency: today.currency.to_string(),
        may,
        year_end: has_lines.then(|| calendar.last_day(last.year_end()).to_string()),
        as_of: has_lines.then(|| AsOfView {
            date: calendar.last_day(last).to_string(),
            year_start: calendar.first_day(last.year_start()).to_string(),
            fixed: snapshot.books.as_of.is_some(),
            for_once: shown.is_some(),
            lines_ahead: today.activity.lines_after(last),
        }),
        lines: today.figures().values().map(|f| f.all.lines).sum(),
        periods: history
            .first
            .map_or_else(Vec::new, |first| (first..=latest.0).collect())
            .into_iter()
            .map(|p| PeriodView {
                period: p,
                first: calendar.first_day(Period(p)).to_string(),
                last: calendar.last_day(Period(p)).to_string(),
            })
            .collect(),
        from,
        to,
        origins,
        followed,
        classes: ClassView::all(today.chart.structure()),
        rows: today.chart.outline().into_iter().map(row).collect(),
    }
}

/// Lines by quarter and net change of every account.
struct Histories {
    quarters: HashMap<AccountId, [u64; QUARTERS as usize]>,
    changes: ById<i128>,
    first: Option<i32>,
}

impl Histories {
    fn of(snapshot: &Snapshot, latest: Period, from: i32, to: i32) -> Self {
        let mut histories =
            Self { quarters: HashMap::new(), changes: ById::default(), first: None };
        let last_quarter = latest.0.div_euclid(3);
        for (strand, activity, _) in snapshot.today.activity.strands() {
            let quarters =
                histories.quarters.entry(strand.account).or_insert([0; QUARTERS as usize]);
            for (slot, Share { totals, .. }) in activity {
                let period = slot.period.0;
                let at = QUARTERS - 1 - (last_quarter - period.div_euclid(3));
                if let Some(count) = usize::try_from(at).ok().and_then(|at| quarters.get_mut(at)) {
                    *count += totals.lines;
                }
                if (from..=to).contains(&period) {
                    *histories.changes.entry(strand.account).or_default() += totals.net();
                }
                histories.first = Some(histories.first.map_or(period, |f| f.min(period)));
            }
        }
        histories
    }

    fn strip(&self, account: AccountId) -> String {
        let Some(quarters) = self.quarters.get(&account) else { return String::new() };
        let most = quarters.iter().copied().max().unwrap_or(0).max(1);
        quarters.iter().map(|n| char::from(b'0' + (n * 9).div_ceil(most).min(9) as u8)).collect()
    }
}

/// What an account was once found under.
#[derive(Clone, Default)]
struct Past {
    codes: Vec<String>,
    names: Vec<String>,
}

impl Past {
    /// By the account that holds the history now, every other code and name it was once found under.
    fn of_all(snapshot: &Snapshot) -> HashMap<AccountId, Self> {
        let chart = &snapshot.today.chart;
        let mut former: HashMap<AccountId, Self> = HashMap::new();
        for used in snapshot.code_uses.iter().filter(|u| u.to.is_some()) {
            let Some(holder) = chart.holder(used.account) else { continue };
            let past = former.entry(holder.id).or_default();
            let code = used.code.to_string();
            if used.code.key() != holder.code.key() && !past.codes.contains(&code) {
                past.codes.push(code);
            }
            if used.name != holder.name && !past.names.contains(&used.name) {
                past.names.push(used.name.clone());
            }
        }
        former
    }
}
