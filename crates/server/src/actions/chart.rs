//! The chart as the sheet shows it: the outline with the figures of every row.

use crate::extract::Query;
use crate::session::In;
use crate::state::off_thread;
use crate::values::{day, instant, within};
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use serde::{Deserialize, Serialize};
use std::borrow::Cow;
use std::collections::HashMap;
use zf_core::access::Capability;
use zf_core::activity::Share;
use zf_core::calendar::{FiscalCalendar, Period};
use zf_core::chart::{Account, Class, Kind, Status};
use zf_core::ids::ItemId;
use zf_core::ids::{AccountId, ById};
use zf_core::row_figures::RowFigures;
use zf_core::statement::{Section, Structure};
use zf_store::journal::today::Snapshot;

/// How many quarters the activity strip shows.
const QUARTERS: i32 = 24;

/// The period of the net change.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct Between {
    /// The first period; the start of the latest fiscal year when missing.
    from: Option<i32>,
    /// The last period; the latest with lines when missing.
    to: Option<i32>,
    /// The day up to the end of whose period figures are shown; that of the books when missing.
    day: Option<String>,
}

impl Between {
    fn check(&self) -> Result<(), Problem> {
        let check = |field, period: Option<i32>| {
            period.map(|p| within(field, p, Period::NUMBERS)).transpose()
        };
        check("from", self.from).and(check("to", self.to)).map(drop)
    }

    /// The last period that is shown, if it is another one than that of the books.
    fn shown(&self, calendar: FiscalCalendar) -> Result<Option<Period>, Problem> {
        let period = day("day", self.day.as_deref())?.map(|day| calendar.period_of(day));
        period.map(|p| within("day", p.0, Period::NUMBERS).map(Period)).transpose()
    }
}

/// The day up to which figures are shown.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct AsOfView {
    /// The last day of a period.
    date: String,
    /// The first day of its fiscal year, from which income and expenses count.
    year_start: String,
    /// Whether the books lay it down; else it is told from the lines.
    fixed: bool,
    /// Whether it is shown for once, and all that is decided goes by the day of the books.
    for_once: bool,
    /// How many lines are dated behind it.
    lines_ahead: u64,
}

/// The chart of a set of books.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ChartView {
    name: String,
    currency: String,
    /// What whoever asks may do in the books.
    may: Vec<Capability>,
    /// The end of the latest fiscal year, as a date.
    year_end: Option<String>,
    /// The day up to which figures are shown; none while nothing is posted.
    as_of: Option<AsOfView>,
    lines: u64,
    /// All periods in which anything was posted, for choosing.
    periods: Vec<PeriodView>,
    from: i32,
    to: i32,
    /// The files that accounts came from, the latest first.
    origins: Vec<OriginView>,
    /// The accounts that one follows.
    followed: Vec<i64>,
    /// The classes, with the statement items, in their order.
    classes: Vec<ClassView>,
    rows: Vec<ChartRow>,
}

/// A file that accounts came from.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct OriginView {
    id: i64,
    file_name: String,
    at: String,
}

/// A fiscal period.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct PeriodView {
    period: i32,
    first: String,
    last: String,
}

/// A class, with the statement items that its accounts can stand under.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ClassView {
    class: Class,
    /// What it is called over its lines.
    title: &'static str,
    captions: Vec<CaptionView>,
}

/// A line of the statements that accounts can stand under.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct CaptionView {
    id: ItemId,
    name: String,
    /// Which of the standard line items it is.
    standard: Option<Section>,
}

impl ClassView {
    fn all(lines: &Structure) -> Vec<Self> {
        let of_class = |class: &Class| {
            let own = lines.captions().filter(|line| line.class == *class).map(|line| {
                CaptionView { id: line.id, name: line.name.clone(), standard: line.standard }
            });
            Self { class: *class, title: class.title(), captions: own.collect() }
        };
        Class::ALL.iter().map(of_class).collect()
    }
}

/// A row of the outline.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ChartRow {
    id: i64,
    code: String,
    /// Whether the code was proposed where a file had none, and nobody gave one since.
    code_proposed: bool,
    name: String,
    /// What it is for.
    description: String,
    kind: Kind,
    class: Class,
    /// The line of the statements that it stands under.
    caption: Option<ItemId>,
    parent: Option<i64>,
    depth: usize,
    status: Status,
    /// The day from which it is deactivated or archived, where that is known.
    status_from: Option<String>,
    role: Option<&'static str>,
    lines: u64,
    last: Option<String>,
    /// Lines by quarter, oldest first, as digits 0 to 9 of the row's own busiest quarter.
    strip: String,
    balance: String,
    net_change: String,
    /// Codes it used to bear, and those of accounts merged into it.
    former: Vec<String>,
    /// Names it used to have, and those of accounts merged into it.
    former_names: Vec<String>,
    /// How many things name it elsewhere.
    uses: usize,
    /// The file it came with; none when it was added by hand.
    origin: Option<i64>,
}

/// Shows the chart.
#[utoipa::path(get, operation_id = "chart_show", path = "/api/books/{books}/chart", params(("books" = i64, Path), Between),
    responses((status = 200, body = ChartView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Query(between): Query<Between>,
) -> Result<Json<ChartView>, Problem> {
    between.check()?;
    let snapshot = app.snapshot(member).await?;
    let shown = between.shown(snapshot.today.calendar)?;
    let origins = app.store.origins(member).await?;
    let origins = origins.into_iter().map(|origin| OriginView {
        id: origin.id,
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
