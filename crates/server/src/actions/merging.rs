//! Merging by hand or after a finding: the accounts side by side.

use crate::catalogue::ProblemCode;
use crate::extract::Query;
use crate::session::In;
use crate::state::off_thread;
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use time::Date;
use zf_core::ids::AccountId;
use zf_core::names::Charts;
use zf_core::people::Forms;
use zf_core::plan::{Change, Field};
use zf_core::review::side_by_side::{Setting, SideBySide, side_by_side};
use zf_core::today::Today;
use zf_phrases::Say;
use zf_phrases::review::better;

/// Which accounts.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct Which {
    /// Their numbers, set apart by commas.
    accounts: String,
}

/// Accounts side by side.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct MergingView {
    accounts: Vec<MergedView>,
    /// The one that would best be kept.
    survivor: i64,
    /// Why, as a sentence goes on.
    reason: String,
    settings: Vec<SettingView>,
    years: Vec<YearsView>,
    /// What is budgeted for each, by month.
    budgets: Vec<BudgetView>,
    /// The same in all months, and at the end for all together.
    budgeted: Vec<String>,
}

/// What is budgeted for a month: for each account, and all together.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct BudgetView {
    /// The first day of the month.
    month: String,
    amounts: Vec<String>,
    together: String,
}

/// One of the accounts.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct MergedView {
    account: i64,
    lines: u64,
    /// How many were cleared in a bank reconciliation.
    cleared: u64,
    /// What names it elsewhere.
    uses: Vec<String>,
}

/// A setting of all the accounts.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct SettingView {
    field: Field,
    title: &'static str,
    /// What each has, as it is staged.
    values: Vec<Change>,
    /// The same in words.
    words: Vec<String>,
    differs: bool,
    /// Whether one can be kept of any of them.
    can_be_kept: bool,
}

/// What each account adds up to in a fiscal year, and all together.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct YearsView {
    /// The first day of the year.
    start: String,
    /// The last day.
    end: String,
    nets: Vec<String>,
    together: String,
}

/// How many accounts are set side by side at most.
pub(crate) const MOST: usize = 200;

/// Sets accounts side by side.
#[utoipa::path(get, operation_id = "merging_show", path = "/api/books/{books}/merging",
    params(("books" = i64, Path), Which),
    responses((status = 200, body = MergingView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Query(which): Query<Which>,
) -> Result<Json<MergingView>, Problem> {
    let numbers = which.accounts.split(',').map(|number| number.trim().parse().map(AccountId));
    let accounts: Vec<AccountId> = numbers
        .collect::<Result<_, _>>()
        .map_err(|_| Problem::field("accounts", "give the numbers of accounts"))?;
    if accounts.len() > MOST {
        let why = format!("at most {MOST} accounts are set side by side, not {}", accounts.len());
        return Err(Problem::field("accounts", why));
    }
    let snapshot = app.snapshot(member).await?;
    let view = move || {
        let beside = side_by_side(&snapshot.today, &accounts)?;
        Some(MergingView::of(&beside, &snapshot.today, member.forms()))
    };
    off_thread(view).await?.map(Json).ok_or_else(|| {
        let none = "none of these is a row of the chart";
        Problem::new(StatusCode::NOT_FOUND, ProblemCode::NotFound, none)
    })
}

impl MergingView {
    fn of(beside: &SideBySide, today: &Today, forms: Forms) -> Self {
        let accounts = beside.accounts.iter().zip(&beside.tallies).map(|(id, tally)| MergedView {
            account: id.0,
            lines: tally.lines(),
            cleared: tally.cleared,
            uses: today.usage.of(*id).to_vec(),
        });
        let year = |start: &zf_core::calendar::Period| {
            let nets: Vec<i128> = beside
                .tallies
                .iter()
                .map(|tally| tally.years.get(start).map_or(0, |(_, net)| *net))
                .collect();
            YearsView {
                start: today.calendar.first_day(*start).to_string(),
                end: today.calendar.last_day(start.year_end()).to_string(),
                together: today.currency.format(nets.iter().sum()),
                nets: nets.into_iter().map(|net| today.currency.format(net)).collect(),
            }
        };
        let money = |sum: i128| today.currency.format(sum);
        let names = Charts { today: &today.chart, after: &today.chart };
        let say = Say::to(forms, &names, today.currency);
        let budget = |(month, amounts): (&Date, &Vec<i128>)| BudgetView {
            month: month.to_string(),
            amounts: amounts.iter().map(|amount| money(*amount)).collect(),
            together: money(amounts.iter().sum()),
        };
        let of = |at: usize| beside.budgets.values().filter_map(move |months| months.get(at)).sum();
        let budgeted = (0..beside.accounts.len()).map(of);
        let all: i128 = budgeted.clone().sum();
        Self {
            accounts: accounts.collect(),
            survivor: beside.survivor.0,
            reason: beside.why.map(better).unwrap_or_default(),
            settings: beside.settings.iter().map(|one| SettingView::of(one, &say)).collect(),
            years: beside.years().iter().map(year).collect(),
            budgets: beside.budgets.iter().map(budget).collect(),
            budgeted: budgeted.chain([all]).map(money).collect(),
        }
    }
}

impl SettingView {
    fn of(setting: &Setting, say: &Say<'_>) -> Self {
        let title = match setting.field {
            Field::Parent => "heading",
            field => field.words(),
        };
        Self {
            field: setting.field,
            title,
            values: setting.values.clone(),
            words: setting.values.iter().map(|value| say.change(value)).collect(),
            differs: setting.differs,
            can_be_kept: setting.can_be_kept,
        }
    }
}
