//! Codes for accounts that have none: proposed by the blocks of the books, or by those that charts
//! usually have, and marked as proposed.

use super::against::Books;
use super::came_from::CameFrom;
use super::draft::Draft;
use crate::Rejected;
use crate::columns::Column;
use crate::reading::Reading;
use crate::reason::Reason;
use std::collections::HashSet;
use zf_core::chart::Class;
use zf_core::code::{Code, CodeKey};

/// How wide codes usually are at least.
const USUAL: u32 = 4;

/// The widest code that is proposed.
const WIDEST: u32 = 12;

/// How many numbers of a block are looked at; a chart is never as large.
const LOOKED_AT: usize = 200_000;

/// Gives accounts without a code one that is free, in the order of the file, with room between them.
/// Those that find none, because the form of codes leaves no room, are rejected.
pub(super) fn propose(
    reading: &Reading,
    drafts: &mut Vec<Draft<'_>>,
    books: &Books<'_>,
    rejected: &mut Vec<Rejected>,
) {
    let mut taken: HashSet<CodeKey> =
        books.chart.live().map(|account| account.code.key()).collect();
    taken.extend(drafts.iter().filter(|draft| draft.coded).map(|draft| draft.account.code.key()));
    for class in Class::ALL {
        let wanting: Vec<usize> = drafts
            .iter()
            .enumerate()
            .filter(|(_, draft)| !draft.coded && draft.account.class == *class)
            .map(|(at, _)| at)
            .collect();
        for (at, code) in wanting.iter().zip(free(*class, wanting.len(), &mut taken, books)) {
            drafts[*at].account.code = code;
            drafts[*at].origins.code = Some(CameFrom::Scheme);
        }
    }
    drafts.retain(|draft| {
        let without = draft.origins.code.is_none();
        if without {
            let message =
                "it has no code, and none can be proposed in the form that codes have here";
            let reason = Reason::CodeMissing;
            rejected.push(reading.layout.reject(draft.row, Column::Code, reason, message));
        }
        !without
    });
}

/// So many free codes of a class.
fn free(class: Class, count: usize, taken: &mut HashSet<CodeKey>, books: &Books<'_>) -> Vec<Code> {
    let most = u32::from(books.format.max).clamp(1, WIDEST);
    let least = u32::from(books.format.min).max(USUAL).min(most);
    for width in least..=most {
        let (first, last) = block(class, width, books);
        for step in [10, 5, 2, 1] {
            let fits = |code: &Code| {
                books.format.objection(code).is_none() && !taken.contains(&code.key())
            };
            let numbers = (first..=last).step_by(step).take(LOOKED_AT);
            let found: Vec<Code> =
                numbers.map(Code::from_number).filter(fits).take(count).collect();
            if found.len() == count {
                taken.extend(found.iter().map(Code::key));
                return found;
            }
        }
    }
    Vec::new()
}

/// The first and last number of a class: of its block, or by its first digit.
fn block(class: Class, width: u32, books: &Books<'_>) -> (u64, u64) {
    let number = |code: &Code| code.as_str().parse::<u64>().ok();
    let laid_down =
        books.blocks.iter().find(|block| block.class == class && block.section.is_none());
    let own = laid_down
        .and_then(|block| Some((number(block.codes.first())?, number(block.codes.last())?)));
    own.unwrap_or_else(|| {
        let unit = 10_u64.pow(width - 1);
        let (first, last) = match class {
            Class::Asset => (1, 1),
            Class::Liability => (2, 2),
            Class::Equity => (3, 3),
            Class::Income => (4, 4),
            Class::Expense => (5, 9),
        };
        (first * unit, (last + 1) * unit - 1)
    })
}
