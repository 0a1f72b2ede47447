//! What else is odd in a chart: each remark is of a kind, and holds what is seen in figures.

mod belonging;
mod books;
mod codes;
mod headings;
mod names;
mod postings;
mod remark;
mod shares;
mod spelling;

pub use remark::{NameForm, Proposed, Remark, RemarkKind, Seen, Subject};

use crate::chart::Account;
use crate::today::Today;
use books::RemarkContext;

/// What is seen of one account.
type Check = fn(&RemarkContext<'_>, &Account) -> Option<Remark>;

/// What is looked for in each account alone.
const OF_EACH: [Check; 9] = [
    postings::on_heading,
    postings::suspense,
    postings::inactive,
    postings::unusual_side,
    postings::silent_bank,
    belonging::contradicted,
    belonging::foreign_heading,
    belonging::control,
    names::written_otherwise,
];

/// What is looked for in the chart as a whole.
const OF_ALL: [fn(&RemarkContext<'_>) -> Vec<Remark>; 6] = [
    codes::strays,
    codes::odd_widths,
    headings::empty,
    headings::lone_children,
    headings::empty_items,
    shares::small,
];

/// Finds what is odd, the worst kinds first.
pub fn find(today: &Today) -> Vec<Remark> {
    let books = RemarkContext::of(today);
    let of_each = books
        .rows
        .iter()
        .flat_map(|account| OF_EACH.iter().filter_map(|check| check(&books, account)));
    let mut found: Vec<Remark> = of_each.collect();
    found.extend(OF_ALL.iter().flat_map(|look| look(&books)));
    found.sort_by_key(|remark| remark.kind as usize);
    found
}
