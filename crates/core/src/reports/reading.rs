//! A history, read in one way: who bears what was posted, and under which statement item it stands.

use super::columns::Months;
use super::pieces::{Piece, pieces};
use crate::chart::{Account, Chart, Class};
use crate::ids::{AccountId, ItemId};
use crate::keyed::keyed;
use crate::rehearsal::Rehearsal;
use crate::statement::ItemKind;
use crate::today::Today;
use std::collections::HashMap;

keyed! {
    /// Under what a history is read.
    Reading {
        /// The code, class and item that it was posted under.
        AsPosted = "as_posted", "as it was posted";
        /// Today's chart.
        AsItIs = "as_it_is", "as it is today";
        /// The chart that a plan would leave.
        AsPlanned = "as_planned", "as the plan would leave it";
    }
}

/// Where an amount stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Place {
    /// The class.
    pub class: Class,
    /// The statement item, if it is one of the class.
    pub item: Option<ItemId>,
}

impl Place {
    /// What it is called on the statements of a chart: its item, or its class.
    pub fn words(&self, chart: &Chart) -> String {
        let item = self.item.and_then(|item| chart.structure().item(item));
        item.map_or_else(|| self.class.title().to_owned(), |item| item.name.clone())
    }
}

/// The place that a row of the chart has. One under an item of another class, as it can be while a class is staged,
/// stands under none.
pub fn place_of(account: &Account) -> Place {
    let item = account.caption.as_ref().filter(|_| !account.is_under_foreign_caption());
    Place { class: account.class, item: item.map(|item| item.id) }
}

/// The chart that a history is read under: that of today for one as it was posted, whose items are its items.
pub fn chart_of<'a>(today: &'a Today, rehearsal: &'a Rehearsal, reading: Reading) -> &'a Chart {
    match reading {
        Reading::AsPlanned => &rehearsal.after,
        Reading::AsPosted | Reading::AsItIs => &today.chart,
    }
}

/// A history, read in one way, in the columns of a statement.
pub struct Read<'a> {
    pub(super) today: &'a Today,
    pub(super) rehearsal: &'a Rehearsal,
    pub(super) reading: Reading,
    pub(super) chart: &'a Chart,
    pub(super) columns: &'a [Months],
    pub(super) bearers: Vec<Bearer<'a>>,
    /// Each piece, with the place of who bears it among the bearers.
    pub(super) pieces: Vec<(Piece<'a>, usize)>,
}

/// An account, or of a history as it was posted what the account was then.
pub(super) struct Bearer<'a> {
    pub(super) account: AccountId,
    pub(super) code: &'a str,
    pub(super) name: &'a str,
    /// Where it stands.
    home: Place,
    /// Where it stands with a balance on the side that is unusual at home.
    other_side: Option<Place>,
    /// Minor units of the base currency in each column, debits less credits.
    pub(super) amounts: Vec<i128>,
}

impl Bearer<'_> {
    /// Where it stands, unless its balance is on the other side.
    pub(super) fn home(&self) -> Place {
        self.home
    }

    /// The class it belongs to.
    pub(super) fn class(&self) -> Class {
        self.home.class
    }

    /// Where it stands in a column.
    pub(super) fn place(&self, column: usize) -> Place {
        let other = self.other_side.filter(|_| is_on_other_side(self.home, self.amounts[column]));
        other.unwrap_or(self.home)
    }

    /// All the places that it stands on in any column.
    pub(super) fn places(&self) -> impl Iterator<Item = Place> {
        std::iter::once(self.home).chain(self.other_side)
    }
}

/// Whether an amount is on the side that is unusual for the class of a place.
fn is_on_other_side(place: Place, amount: i128) -> bool {
    if place.class.is_usually_debit() { amount < 0 } else { amount > 0 }
}

/// Where a balance of an account stands, by the side that it is on.
pub(super) fn place_by_side(account: &Account, chart: &Chart, balance: i128) -> Place {
    let home = place_of(account);
    let other = other_side(chart, home, account.contra);
    other.filter(|_| is_on_other_side(home, balance)).unwrap_or(home)
}

/// The item that the item of a place names for balances on the other side. A contra account is always on it, and stays.
fn other_side(chart: &Chart, home: Place, contra: bool) -> Option<Place> {
    let item = chart.structure().caption(home.item.filter(|_| !contra)?)?;
    let other = chart.structure().caption(item.other_side?)?;
    Some(Place { class: other.class, item: Some(other.id) })
}

impl<'a> Read<'a> {
    /// Reads all of a history.
    pub fn new(
        today: &'a Today,
        rehearsal: &'a Rehearsal,
        reading: Reading,
        columns: &'a [Months],
    ) -> Self {
        let chart = chart_of(today, rehearsal, reading);
        let mut read = Self {
            today,
            rehearsal,
            reading,
            chart,
            columns,
            bearers: Vec::new(),
            pieces: Vec::new(),
        };
        let items = chart.structure().items().filter(|item| item.kind == ItemKind::Item);
        let items: HashMap<ItemId, Class> = items.map(|item| (item.id, item.class)).collect();
        let has_sides = chart.structure().names_other_sides();
        let mut known = HashMap::new();
        for piece in pieces(&today.activity, &rehearsal.effects) {
            let Some((mut home, account, code, name, contra)) = read.bears(&piece) else {
                continue;
            };
            // What stands under an item that these statements do not have stands on none.
            home.item = home.item.filter(|item| items.get(item) == Some(&home.class));
            let at = *known.entry((account, code, name, home, contra)).or_insert_with(|| {
                let other_side = has_sides.then(|| other_side(chart, home, contra)).flatten();
                let amounts = vec![0; columns.len()];
                read.bearers.push(Bearer { account, code, name, home, other_side, amounts });
                read.bearers.len() - 1
            });
            add_to(&mut read.bearers[at].amounts, &piece.on(home.class, columns));
            read.pieces.push((piece, at));
        }
        read
    }

    /// The same history in the same columns, read in another way.
    pub fn again(&self, reading: Reading) -> Self {
        Self::new(self.today, self.rehearsal, reading, self.columns)
    }

    /// The books that it is read of.
    pub fn today(&self) -> &'a Today {
        self.today
    }

    /// What the plan does that it may be read by.
    pub fn rehearsal(&self) -> &'a Rehearsal {
        self.rehearsal
    }

    /// The columns that it is read in.
    pub fn columns(&self) -> &'a [Months] {
        self.columns
    }

    /// Under what it is read.
    pub fn reading(&self) -> Reading {
        self.reading
    }

    /// The chart that it is read under.
    pub fn chart(&self) -> &'a Chart {
        self.chart
    }

    /// Under which place, account, code and name a piece is read, and whether as that of a contra account.
    fn bears(&self, piece: &Piece<'a>) -> Option<(Place, AccountId, &'a str, &'a str, bool)> {
        let strand = piece.strand;
        let holder = match self.reading {
            Reading::AsPosted => {
                let posted = &strand.posted;
                let place = Place { class: posted.class, item: posted.caption };
                return Some((place, strand.account, &posted.code, &posted.name, posted.contra));
            }
            Reading::AsItIs => strand.account,
            Reading::AsPlanned => piece.after,
        };
        let account = self.chart.get(holder)?;
        let (code, name) = (account.code.as_str(), account.name.as_str());
        Some((place_of(account), account.id, code, name, account.contra))
    }
}

pub(super) fn add_to(sums: &mut [i128], amounts: &[i128]) {
    sums.iter_mut().zip(amounts).for_each(|(sum, amount)| *sum += amount);
}
