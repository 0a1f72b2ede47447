//! Two accounts side by side, before one is merged into the other.

use serde::{Deserialize, Serialize};
use time::Date;
use zf_core::names::Charts;
use zf_core::people::Forms;
use zf_core::plan::{Change, Field};
use zf_core::review::side_by_side::{Setting, SideBySide};
use zf_core::today::Today;
use zf_phrases::Say;
use zf_phrases::review::better;

/// Which accounts.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Which {
    /// Their numbers, set apart by commas.
    pub accounts: String,
}

/// Accounts side by side.
#[derive(Serialize, utoipa::ToSchema)]
pub struct MergingView {
    pub accounts: Vec<MergedView>,
    /// The one that would best be kept.
    pub survivor: i64,
    /// Why, as a sentence goes on.
    pub reason: String,
    pub settings: Vec<SettingView>,
    pub years: Vec<YearsView>,
    /// What is budgeted for each, by month.
    pub budgets: Vec<BudgetView>,
    /// The same in all months, and at the end for all together.
    pub budgeted: Vec<String>,
}

/// What is budgeted for a month: for each account, and all together.
#[derive(Serialize, utoipa::ToSchema)]
pub struct BudgetView {
    /// The first day of the month.
    pub month: String,
    pub amounts: Vec<String>,
    pub together: String,
}

/// One of the accounts.
#[derive(Serialize, utoipa::ToSchema)]
pub struct MergedView {
    pub account: i64,
    pub lines: u64,
    /// How many were cleared in a bank reconciliation.
    pub cleared: u64,
    /// What names it elsewhere.
    pub uses: Vec<String>,
}

/// A setting of all the accounts.
#[derive(Serialize, utoipa::ToSchema)]
pub struct SettingView {
    pub field: Field,
    pub title: &'static str,
    /// What each has, as it is staged.
    pub values: Vec<Change>,
    /// The same in words.
    pub words: Vec<String>,
    pub differs: bool,
    /// Whether one can be kept of any of them.
    pub can_be_kept: bool,
}

/// What each account adds up to in a fiscal year, and all together.
#[derive(Serialize, utoipa::ToSchema)]
pub struct YearsView {
    /// The first day of the year.
    pub start: String,
    /// The last day.
    pub end: String,
    pub nets: Vec<String>,
    pub together: String,
}

impl MergingView {
    pub fn of(beside: &SideBySide, today: &Today, forms: Forms) -> Self {
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
    pub fn of(setting: &Setting, say: &Say<'_>) -> Self {
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
