//! The statements: rows, columns and what stands under each.

use serde::Serialize;
use zf_core::chart::Class;
use zf_core::ids::AccountId;
use zf_core::reports::columns::{Beside, Months, Span};
use zf_core::reports::reading::{Read, Reading};
use zf_core::reports::statement::{Length, RowKind, StatementKind};
use zf_core::today::Today;

/// The statements of the books.
#[derive(Serialize, utoipa::ToSchema)]
pub struct StatementsView {
    pub reading: Reading,
    /// The reading that stands beside it.
    pub against: Option<Reading>,
    pub span: Span,
    pub beside: Beside,
    /// The latest first; none when nothing was posted.
    pub columns: Vec<StatementColumn>,
    pub statements: Vec<StatementView>,
    pub ties: Vec<TieView>,
    /// How many accounts lines are posted to, and how many of them stand under no statement item.
    pub accounts: usize,
    pub without_item: usize,
    /// What moves from one line to another, and between which readings.
    pub moved: Vec<MovedAmount>,
    pub moved_from: Reading,
    pub moved_to: Reading,
    /// How many lines and totals of the columns behind the latest differ between the two.
    pub earlier_changed: usize,
    /// How many histories stand under a code that was another when they were posted.
    pub former: usize,
}

/// The months of a column.
#[derive(Serialize, utoipa::ToSchema)]
pub struct StatementColumn {
    /// How many months.
    pub months: i32,
    /// The first day.
    pub from: String,
    /// The last day.
    pub until: String,
}

/// A statement.
#[derive(Serialize, utoipa::ToSchema)]
pub struct StatementView {
    pub kind: StatementKind,
    pub name: &'static str,
    pub rows: Vec<StatementRow>,
    /// How long it is today.
    pub today: LengthView,
    /// How long the plan would leave it.
    pub after: LengthView,
    /// Where rounding leaves something over.
    pub left_over: Vec<LeftOverView>,
}

/// Where rounded figures no longer add up.
#[derive(Serialize, utoipa::ToSchema)]
pub struct LeftOverView {
    /// The total.
    pub label: String,
    pub column: usize,
    /// By how many thousands the rows above come to more.
    pub by: String,
}

/// How long a statement is.
#[derive(Serialize, utoipa::ToSchema)]
pub struct LengthView {
    pub items: usize,
    pub accounts: usize,
    /// With all lines open, on A4.
    pub pages: usize,
}

/// A row of a statement.
#[derive(Serialize, utoipa::ToSchema)]
pub struct StatementRow {
    pub kind: RowKind,
    /// How far it stands in.
    pub level: usize,
    pub label: String,
    pub class: Option<Class>,
    /// Its line of the structure.
    pub item: Option<i64>,
    /// As a person reads them; none where only the other reading has the row, and of a ratio.
    pub amounts: Vec<String>,
    /// The same under the reading beside it.
    pub against: Vec<String>,
    /// Of a ratio, tenths of a per cent in each column; none where nothing stands below the bar.
    pub ratios: Vec<Option<i64>>,
    /// The same under the reading beside it.
    pub ratios_against: Vec<Option<i64>>,
    /// Whether something moves from or to the line.
    pub moves: bool,
    /// By how much the latest differs from the one beside it, as a person reads both; none when they hold another
    /// number of months.
    pub difference: Option<String>,
    /// By how many tenths of a per cent it is more, with the sign of the difference.
    pub change: Option<i64>,
    /// The headings of the chart that its accounts stand under, when there are several.
    pub headings: Vec<HeadingView>,
    pub accounts: Vec<StandingView>,
}

/// A heading of the chart, with what of a line its accounts come to.
#[derive(Serialize, utoipa::ToSchema)]
pub struct HeadingView {
    /// None for the accounts under no heading.
    pub heading: Option<i64>,
    pub label: String,
    pub amounts: Vec<String>,
    /// The same under the reading beside it.
    pub against: Vec<String>,
}

/// An account on a line.
#[derive(Serialize, utoipa::ToSchema)]
pub struct StandingView {
    pub account: i64,
    pub code: String,
    pub name: String,
    /// The heading of the chart that it stands under.
    pub heading: Option<i64>,
    pub amounts: Vec<String>,
    /// The same under the reading beside it.
    pub against: Vec<String>,
    /// What there is to know: new, deactivated, archived, or what the plan puts there.
    pub note: String,
    /// Whether the plan puts others there.
    pub takes_others: bool,
}

/// A total and by how much it is not what it should be.
#[derive(Serialize, utoipa::ToSchema)]
pub struct TieView {
    pub name: String,
    pub difference: String,
}

/// What stands on another line under the other reading.
#[derive(Serialize, utoipa::ToSchema)]
pub struct MovedAmount {
    pub from: String,
    pub to: String,
    /// In each column, as the line that it leaves shows it.
    pub amounts: Vec<String>,
    pub lines: u64,
    pub accounts: Vec<MovedAccount>,
}

/// An account that stands on another line.
#[derive(Serialize, utoipa::ToSchema)]
pub struct MovedAccount {
    pub account: i64,
    pub code: String,
    pub name: String,
    pub amounts: Vec<String>,
}

/// What an account, or what it was when lines were posted, comes to month by month.
#[derive(Serialize, utoipa::ToSchema)]
pub struct MonthsOfAccount {
    pub code: String,
    pub name: String,
    pub class: Class,
    /// The line of the structure that it stands on.
    pub item: Option<i64>,
    /// Of each column, its months.
    pub columns: Vec<Vec<MonthView>>,
}

/// A month of an account.
#[derive(Serialize, utoipa::ToSchema)]
pub struct MonthView {
    pub from: String,
    pub until: String,
    pub amount: String,
}

impl StatementColumn {
    pub fn of(today: &Today, months: &Months) -> Self {
        Self {
            months: months.count(),
            from: today.calendar.first_day(months.first).to_string(),
            until: today.calendar.last_day(months.last).to_string(),
        }
    }
}

impl LengthView {
    pub fn of(length: Length) -> Self {
        Self { items: length.items, accounts: length.accounts, pages: length.pages }
    }
}

impl MonthsOfAccount {
    pub fn of(read: &Read<'_>, account: AccountId) -> Vec<Self> {
        let today = read.today();
        let months = read.months(account);
        let of = |months: zf_core::reports::months::OfMonths| Self {
            class: months.place.class,
            item: months.place.item.map(|item| item.0),
            columns: months
                .columns
                .iter()
                .map(|column| {
                    let sign = i128::from(months.place.class.shown_as());
                    let month = |(period, amount): &(_, i128)| MonthView {
                        from: today.calendar.first_day(*period).to_string(),
                        until: today.calendar.last_day(*period).to_string(),
                        amount: today.currency.format(amount * sign),
                    };
                    column.iter().map(month).collect()
                })
                .collect(),
            code: months.code,
            name: months.name,
        };
        months.into_iter().map(of).collect()
    }
}
