//! The balance sheet and the income statement, line by line.

use super::columns::Months;
use crate::chart::Class;
use crate::ids::{AccountId, ItemId};
use crate::keyed::keyed;

keyed! {
    /// A statement.
    StatementKind {
        /// What is owned, what is owed, and what is left.
        BalanceSheet = "balance_sheet", "Balance sheet";
        /// What was earned and spent.
        IncomeStatement = "income_statement", "Income statement";
    }
}

impl StatementKind {
    /// The statement that the accounts of a class stand on.
    pub const fn of(class: Class) -> Self {
        if class.on_balance_sheet() { Self::BalanceSheet } else { Self::IncomeStatement }
    }

    /// What a person reads of what all of it adds up to is debits less credits times this: 1 or -1.
    pub const fn shown_as(self) -> i8 {
        match self {
            Self::BalanceSheet => 1,
            Self::IncomeStatement => -1,
        }
    }
}

keyed! {
    /// What a row of a statement is.
    RowKind {
        /// What the rows below it, one level in, add up to.
        Heading = "heading", "heading";
        /// A statement item: the accounts under it.
        Item = "item", "item";
        /// What was earned less what was spent, where no closing entry brought it into equity.
        Result = "result", "result";
        /// What a class, or all of the statement, adds up to.
        Total = "total", "total";
        /// What rows that the books chose come to, added and taken off.
        Subtotal = "subtotal", "subtotal";
        /// What one row is of another.
        Ratio = "ratio", "ratio";
    }
}

/// What a row of a statement is called.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum RowName {
    /// As the books call the item.
    Own(String),
    /// Accounts of a class that stand under no item.
    WithoutItem,
    /// What a class adds up to.
    Total(Class),
    /// What all classes of a statement add up to.
    Whole(StatementKind),
    /// What was earned less what was spent in years before.
    EarlierResults,
    /// What was earned less what was spent in the year.
    ResultOfYear,
}

/// The balance sheet or the income statement.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Statement {
    /// Which.
    pub kind: StatementKind,
    /// From top to bottom.
    pub rows: Vec<Row>,
}

/// A row of a statement.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Row {
    /// What it is.
    pub kind: RowKind,
    /// How far it stands in.
    pub level: usize,
    /// What it is called.
    pub name: RowName,
    /// The class it belongs to; `None` for what all classes of the statement add up to.
    pub class: Option<Class>,
    /// The statement item that it is.
    pub item: Option<ItemId>,
    /// Minor units of the base currency in each column, debits less credits; zeros of a ratio.
    pub amounts: Vec<i128>,
    /// What a person reads is the amount times this: 1 or -1.
    pub shown_as: i8,
    /// Of a ratio, tenths of a per cent in each column; `None` where nothing stands below the bar.
    pub ratios: Vec<Option<i64>>,
    /// Who has amounts on it.
    pub accounts: Vec<Standing>,
}

impl Row {
    /// What tells it from the others of its statement.
    pub(super) fn key(&self) -> RowKey {
        let name = self.item.is_none().then(|| self.name.clone());
        (self.kind, self.class, self.item, name)
    }
}

pub(super) type RowKey = (RowKind, Option<Class>, Option<ItemId>, Option<RowName>);

/// An account with what it stands at in each column.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Standing {
    /// The account; of a history as it was posted, the one that presents it today.
    pub account: AccountId,
    /// Its code, or the one it was posted under.
    pub code: String,
    /// Its name, or the one it was posted under.
    pub name: String,
    /// Minor units of the base currency in each column, debits less credits.
    pub amounts: Vec<i128>,
}

/// How long a statement is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Length {
    /// How many items accounts stand under.
    pub items: usize,
    /// How many accounts stand under them.
    pub accounts: usize,
    /// About how many sheets of A4 it takes with all items open.
    pub pages: usize,
}

/// About how many rows a printed page holds under its heads.
const ROWS_OF_A_PAGE: usize = 48;

/// How the latest column of a row differs from the one beside it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Difference {
    /// How much it is more, in minor units, debits less credits.
    pub amount: i128,
    /// The same in tenths of a per cent of the size of what stands beside it, with the sign that the amount has as it
    /// is shown; `None` when nothing stands beside it.
    pub tenths: Option<i64>,
}

impl Statement {
    /// How long it is.
    pub fn length(&self) -> Length {
        let items = self.rows.iter().filter(|row| row.kind == RowKind::Item).count();
        let accounts = self.rows.iter().map(|row| row.accounts.len()).sum();
        Length { items, accounts, pages: (self.rows.len() + accounts).div_ceil(ROWS_OF_A_PAGE) }
    }

    /// How the latest column of a row differs from the one beside it. `None` when there is none, when the row is a
    /// ratio, or when what was earned and spent in more months would stand beside that of fewer.
    pub fn difference(&self, row: &Row, columns: &[Months]) -> Option<Difference> {
        let [first, second, ..] = columns else { return None };
        let of_time = self.kind == StatementKind::IncomeStatement;
        if row.kind == RowKind::Ratio || of_time && first.count() != second.count() {
            return None;
        }
        let (latest, beside) = (*row.amounts.first()?, *row.amounts.get(1)?);
        let amount = latest - beside;
        let shown = amount * i128::from(row.shown_as);
        Some(Difference { amount, tenths: tenths(shown, beside.abs()) })
    }
}

/// What one amount is of another in tenths of a per cent, rounded half away from zero; `None` of nothing.
pub(super) fn tenths(part: i128, whole: i128) -> Option<i64> {
    if whole == 0 {
        return None;
    }
    let (doubled, below) = (part.checked_mul(2_000)?, whole.checked_mul(2)?);
    let half = if (doubled < 0) == (below < 0) { whole } else { -whole };
    i64::try_from((doubled + half) / below).ok()
}
