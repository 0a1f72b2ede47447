//! Intake of a chart of accounts: from rows to accounts under headings and captions, with what told each
//! part of them.

mod against;
mod came_from;
mod captions;
mod classes;
mod codes;
mod draft;
mod outline;
mod parents;
mod range_or_list;
pub mod retired;
mod roles;
mod row_words;
mod side_by_side;
mod sorting;
mod sums;
mod totals;

pub use against::ChartContext;
pub use came_from::{CameFrom, Origins};
pub use outline::OutlineBy;
pub(crate) use row_words::side_or_none;

use crate::cause::Cause;
use crate::chart_options::TotalsAs;
use crate::question::Question;
use crate::reading::Reading;
use crate::row_kind::RowKind;
use crate::{Intake, RawRow, Warning};
use draft::Reader;
use std::collections::{BTreeMap, HashMap, HashSet};
use zf_core::chart::{Account, ControlRole, Kind, Structure};
use zf_core::ids::AccountId;

/// What a file of accounts holds.
#[derive(Clone, Debug)]
pub struct ChartIntake {
    /// The accounts, with the number of the row that each came from, and the rejected rows.
    pub intake: Intake<(u32, Account)>,
    /// How the outline was told.
    pub outline: OutlineBy,
    /// What told the parts of each account.
    pub origins: HashMap<AccountId, Origins>,
    /// Control roles that names tell; given only if that is wished.
    pub roles: BTreeMap<AccountId, ControlRole>,
    /// The statement items, with those that the file adds to them.
    pub structure: Structure,
    /// What is not certain.
    pub questions: Vec<Question>,
    /// What each row of the sheet is, but for those that are rejected.
    pub kinds: BTreeMap<u32, RowKind>,
}

/// Reads the accounts of a file. Their identities count up from `first_id`; their parents are
/// accounts of the file or of the chart.
pub fn read(
    reading: &Reading,
    rows: &[RawRow],
    books: &ChartContext<'_>,
    first_id: AccountId,
) -> ChartIntake {
    let rows = &*side_by_side::stacked(reading, rows);
    let mut sorted = sorting::sort(reading, rows);
    let mut reader = Reader::new(reading, books);
    let accounts = || sorted.iter().filter(|sorted| sorted.is == RowKind::Account);
    accounts().for_each(|sorted| reader.take(sorted));
    let mut questions = reader.words.questions(accounts().map(|sorted| sorted.row));
    let Reader { mut drafts, mut rejected, mut warnings, .. } = reader;
    for (draft, id) in drafts.iter_mut().zip(first_id.0..) {
        draft.account.id = AccountId(id);
    }
    let outline = parents::stand_under(reading, &mut drafts, books.chart, &mut rejected);
    sums::tell(&mut drafts);
    if reading.options.totals == TotalsAs::SumLines {
        sums::of_totals(reading, &sorted, &mut drafts);
    }
    questions.extend(classes::settle(reading, &mut drafts, books, &mut rejected));
    parents::drop_orphans(reading, &mut drafts, books.chart, &mut rejected);
    codes::propose(reading, &mut drafts, books, &mut rejected);
    questions.extend(range_or_list::settle(reading, &mut drafts));
    sums::add_up(reading, &mut drafts, &mut rejected);
    let roles = roles::propose(reading, &mut drafts);
    let structure =
        captions::put_under(&mut drafts, books.chart.structure(), &reading.settled, &mut warnings);
    draft::settle_settings(reading, &mut drafts, &mut rejected, &mut warnings);
    classes::warn(&drafts, books.chart, &mut warnings);
    let taken: HashSet<u32> = drafts.iter().map(|draft| draft.row.number).collect();
    sorted.retain(|sorted| sorted.is != RowKind::Total || !taken.contains(&sorted.row.number));
    warnings.extend(passed_over(&sorted));
    warnings.extend(totals::compare(reading, &sorted, &drafts, reading.currency));

    let mut kinds: BTreeMap<u32, RowKind> = sorted
        .iter()
        .filter(|sorted| sorted.is != RowKind::Account)
        .map(|sorted| (sorted.row.number, sorted.is))
        .collect();
    // A heading that only paths name has no row of its own.
    kinds.extend(drafts.iter().filter(|draft| draft.own_row).map(|draft| {
        let kind = match draft.account.kind {
            Kind::Account => RowKind::Account,
            Kind::Heading => RowKind::Heading,
            Kind::Sum => RowKind::Sum,
        };
        (draft.row.number, kind)
    }));
    questions.extend(retired::question(reading, drafts.iter().map(|draft| &draft.account)));
    let origins = drafts.iter().map(|draft| (draft.account.id, draft.origins)).collect();
    let ready: Vec<_> = drafts.into_iter().map(|d| (d.row.number, d.account)).collect();
    let count = ready.len();
    let intake = Intake::of(ready, count, rejected, warnings);
    ChartIntake { intake, outline, origins, roles, structure, questions, kinds }
}

/// Rows that are no accounts and said to be passed over.
fn passed_over<'a>(sorted: &'a [sorting::Sorted<'a>]) -> impl Iterator<Item = Warning> + 'a {
    sorted.iter().filter_map(|sorted| {
        let cause = match sorted.is {
            RowKind::Repeated => Cause::HeaderAgain,
            RowKind::Total => Cause::TotalRow,
            _ => return None,
        };
        Some(Warning { row: sorted.row.number, cause })
    })
}
