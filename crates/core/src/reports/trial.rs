//! The trial balance in its forms: what every account stood at, what moved it, and what it stands at now.

use super::columns::Months;
use super::drawing::sort_key;
use super::pieces::Piece;
use super::reading::{Read, add_to};
use crate::activity::Totals;
use crate::calendar::Period;
use crate::chart::{Class, Kind};
use crate::ids::AccountId;
use crate::keyed::keyed;
use std::collections::HashSet;

keyed! {
    /// A form of the trial balance.
    TrialForm {
        /// What every account stands at on the last day of each column; of the latest by side.
        Balances = "balances", "balances";
        /// What was posted in the months of the latest column, on either side.
        Movements = "movements", "movements";
        /// What stood there before the months of the latest column, what was posted, what stands there now.
        Roll = "roll", "opening, movement and closing";
        /// The same, month by month.
        ByMonth = "by_month", "by month";
    }
}

keyed! {
    /// What a column of a trial balance holds.
    TrialFigure {
        /// What stood there before the months, with what opening entries in them brought.
        Opening = "opening", "opening";
        /// Debits in the months.
        Debits = "debits", "debits";
        /// Credits in the months, as more than nothing.
        Credits = "credits", "credits";
        /// Debits less credits in the months.
        Movement = "movement", "movement";
        /// What stands there at the end of the months.
        Closing = "closing", "closing";
        /// The same where it stands in debit.
        DebitBalance = "debit_balance", "debit";
        /// The same where it stands in credit, as more than nothing.
        CreditBalance = "credit_balance", "credit";
    }
}

/// A column of a trial balance.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct TrialColumn {
    /// What it holds.
    pub figure: TrialFigure,
    /// Of which months.
    pub months: Months,
    /// The month from which income and expenses count: the first of a fiscal year.
    pub since: Period,
}

/// A row of a trial balance: an account, or of a history as it was posted what it was then.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct TrialLine {
    /// The account; `None` for the results of the years before, which no closing entry brought into equity.
    pub account: Option<AccountId>,
    /// Its code, or the one it was posted under.
    pub code: String,
    /// Its name, or the one it was posted under.
    pub name: String,
    /// Its class.
    pub class: Class,
    /// Minor units of the base currency in each column; debits less credits, unless a column is of one side.
    pub amounts: Vec<i128>,
}

/// A trial balance.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Trial {
    /// Its columns.
    pub columns: Vec<TrialColumn>,
    /// By class and code.
    pub rows: Vec<TrialLine>,
    /// What each class adds up to in each column.
    pub classes: Vec<(Class, Vec<i128>)>,
    /// What each column adds up to: zero, or as many credits as debits.
    pub totals: Vec<i128>,
    /// How many accounts are left out because nothing stands in any column.
    pub left_out: usize,
}

/// Draws up the trial balance of a history, as it is read.
pub fn trial(read: &Read<'_>, form: TrialForm, with_zeros: bool) -> Trial {
    let columns = columns(read.columns, form);
    let none = || vec![0; columns.len()];
    let mut rows: Vec<TrialLine> = read
        .bearers
        .iter()
        .map(|bearer| TrialLine {
            account: Some(bearer.account),
            code: bearer.code.to_owned(),
            name: bearer.name.to_owned(),
            class: bearer.class(),
            amounts: none(),
        })
        .collect();
    let mut earlier = none();
    for (piece, at) in &read.pieces {
        let class = rows[*at].class;
        let amounts: Vec<i128> = columns.iter().map(|column| column.of(piece, class)).collect();
        add_to(&mut rows[*at].amounts, &amounts);
        if !class.on_balance_sheet() {
            let amounts: Vec<i128> = columns.iter().map(|column| column.earlier(piece)).collect();
            add_to(&mut earlier, &amounts);
        }
    }
    for amounts in rows.iter_mut().map(|row| &mut row.amounts).chain([&mut earlier]) {
        amounts.iter_mut().zip(&columns).for_each(|(amount, column)| column.take_side(amount));
    }
    let known: HashSet<_> = rows.iter().map(|row| row.account).collect();
    let idle = read
        .chart()
        .live()
        .filter(|account| account.kind == Kind::Account && !known.contains(&Some(account.id)));
    rows.extend(idle.map(|account| TrialLine {
        account: Some(account.id),
        code: account.code.to_string(),
        name: account.name.clone(),
        class: account.class,
        amounts: none(),
    }));
    let all = rows.len();
    let has_amount = |row: &TrialLine| row.amounts.iter().any(|amount| *amount != 0);
    rows.retain(|row| with_zeros || has_amount(row));
    let left_out = all - rows.len();
    rows.sort_by_cached_key(|row| (row.class, sort_key(&row.code, &row.name), row.account));
    if earlier.iter().any(|amount| *amount != 0) {
        let at = rows.partition_point(|row| row.class <= Class::Equity);
        let (account, code, name, class) = (None, String::new(), String::new(), Class::Equity);
        rows.insert(at, TrialLine { account, code, name, class, amounts: earlier });
    }
    let mut totals = none();
    let mut classes: Vec<_> = Class::ALL.iter().map(|class| (*class, none())).collect();
    for row in &rows {
        add_to(&mut totals, &row.amounts);
        add_to(&mut classes[row.class as usize].1, &row.amounts);
    }
    Trial { columns, rows, classes, totals, left_out }
}

fn columns(asked: &[Months], form: TrialForm) -> Vec<TrialColumn> {
    let column = |figure, months: Months, since: Period| TrialColumn { figure, months, since };
    let Some(latest) = asked.first().copied() else { return Vec::new() };
    let since = latest.first.year_start();
    match form {
        TrialForm::Balances => {
            let of =
                |figure| move |months: &Months| column(figure, *months, months.last.year_start());
            let sides = [TrialFigure::DebitBalance, TrialFigure::CreditBalance];
            let earlier = asked.iter().skip(1).map(of(TrialFigure::Closing));
            sides.iter().map(|side| of(*side)(&latest)).chain(earlier).collect()
        }
        TrialForm::Movements => [TrialFigure::Debits, TrialFigure::Credits, TrialFigure::Movement]
            .map(|figure| column(figure, latest, since))
            .to_vec(),
        TrialForm::Roll => {
            use TrialFigure::{Closing, Credits, Debits, Opening};
            [Opening, Debits, Credits, Closing].map(|figure| column(figure, latest, since)).to_vec()
        }
        TrialForm::ByMonth => {
            let month = |month| {
                let months = Months { first: Period(month), last: Period(month) };
                column(TrialFigure::Movement, months, since)
            };
            let months = (latest.first.0..=latest.last.0).map(month);
            std::iter::once(column(TrialFigure::Opening, latest, since))
                .chain(months)
                .chain([column(TrialFigure::Closing, latest, since)])
                .collect()
        }
    }
}

impl TrialColumn {
    /// The last month that counts: of an opening, the one before its months.
    pub fn until(&self) -> Period {
        match self.figure {
            TrialFigure::Opening => Period(self.months.first.0 - 1),
            _ => self.months.last,
        }
    }

    /// What a piece of the history of an account of a class comes to.
    fn of(&self, piece: &Piece<'_>, class: Class) -> i128 {
        let Months { first, last } = self.months;
        let counts = |period: Period| class.on_balance_sheet() || period >= self.since;
        match self.figure {
            // What an opening entry brings stood there before, whatever day it is dated.
            TrialFigure::Opening => {
                let before = piece.sum(|period| counts(period) && period < first);
                before.net() + piece.opened(&self.months).net()
            }
            TrialFigure::Closing | TrialFigure::DebitBalance | TrialFigure::CreditBalance => {
                piece.sum(|period| counts(period) && period <= last).net()
            }
            TrialFigure::Movement => self.moved(piece, Totals::net),
            TrialFigure::Debits => self.moved(piece, |totals| totals.debit),
            TrialFigure::Credits => self.moved(piece, |totals| totals.credit),
        }
    }

    /// What was posted in the months, but for opening entries.
    fn moved(&self, piece: &Piece<'_>, of: impl Fn(&Totals) -> i128) -> i128 {
        of(&piece.sum(|period| self.months.contains(period))) - of(&piece.opened(&self.months))
    }

    /// What a piece of the history of income or expenses comes to in the years before.
    fn earlier(&self, piece: &Piece<'_>) -> i128 {
        match self.figure {
            TrialFigure::Movement | TrialFigure::Debits | TrialFigure::Credits => 0,
            _ => piece.sum(|period| period < self.since).net(),
        }
    }

    /// Of a balance keeps what is on the side of the column.
    fn take_side(&self, amount: &mut i128) {
        match self.figure {
            TrialFigure::DebitBalance => *amount = (*amount).max(0),
            TrialFigure::CreditBalance => *amount = (-*amount).max(0),
            _ => {}
        }
    }
}
