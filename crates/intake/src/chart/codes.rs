//! Codes for accounts that have none: proposed by the blocks of the books, or by those that charts
//! usually have, and marked as proposed.

use super::against::ChartContext;
use super::came_from::CameFrom;
use super::draft::Draft;
use crate::Rejected;
use crate::cause::Cause;
use crate::chart_options::CodesBy;
use crate::columns::Column;
use crate::reading::Reading;
use std::collections::HashSet;
use zf_core::chart::{Class, Kind};
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
    books: &ChartContext<'_>,
    rejected: &mut Vec<Rejected>,
) {
    let mut taken: HashSet<CodeKey> =
        books.chart.live().map(|account| account.code.key()).collect();
    taken.extend(drafts.iter().filter(|draft| draft.coded).map(|draft| draft.account.code.key()));
    for group in groups(reading.options.codes_by, drafts) {
        let codes = free(reading, &group, &mut taken, books);
        for (at, code) in group.at.iter().zip(codes) {
            drafts[*at].account.code = code;
            drafts[*at].origins.code = Some(CameFrom::Scheme);
        }
    }
    drafts.retain(|draft| {
        let without = draft.origins.code.is_none();
        if without {
            rejected.push(reading.layout.reject(draft.row, Column::Code, Cause::CodeMissing));
        }
        !without
    });
}

/// Accounts that get their codes from one block.
struct Group {
    /// The class whose block it is; none for that of the whole chart.
    class: Option<Class>,
    /// The accounts, by place.
    at: Vec<usize>,
    /// Those of them that begin with a round number.
    round: HashSet<usize>,
}

/// The accounts without codes, in the groups by which they get some.
fn groups(by: CodesBy, drafts: &[Draft<'_>]) -> Vec<Group> {
    let wanting = |class: Option<Class>| {
        let wanting = drafts.iter().enumerate().filter(move |(_, draft)| {
            !draft.coded && class.is_none_or(|class| draft.account.class == class)
        });
        let mut wanting: Vec<usize> = wanting.map(|(at, _)| at).collect();
        // A heading that only paths name comes before the first row below it.
        wanting.sort_by_key(|at| (drafts[*at].row.number, drafts[*at].own_row));
        wanting
    };
    let begins = |at: &usize| {
        let draft = &drafts[*at];
        draft.account.parent.is_none() && draft.account.kind == Kind::Heading
    };
    let group = |class: Option<Class>| {
        let at = wanting(class);
        let round = at.iter().filter(|at| by == CodesBy::Heading && begins(at)).copied().collect();
        Group { class, at, round }
    };
    match by {
        CodesBy::Order => vec![group(None)],
        CodesBy::Class | CodesBy::Heading => {
            Class::ALL.iter().map(|class| group(Some(*class))).collect()
        }
    }
}

/// A free code for each of a group; none where there is no room.
fn free(
    reading: &Reading,
    group: &Group,
    taken: &mut HashSet<CodeKey>,
    books: &ChartContext<'_>,
) -> Vec<Code> {
    let most = u32::from(books.format.max).clamp(1, WIDEST);
    let least = u32::from(books.format.min).max(USUAL).min(most);
    let wished = reading.options.code_digits.map(u32::from).filter(|width| *width <= most);
    let widths = wished.map_or(least..=most, |width| width..=width);
    for width in widths {
        let (first, last) = match group.class {
            Some(class) => block(class, width, books),
            None => (10_u64.pow(width - 1), 10_u64.pow(width) - 1),
        };
        // What stands under a heading begins with one of a hundred round numbers of the width.
        let unit = 10_u64.pow(width.saturating_sub(2).max(1));
        for step in [10, 5, 2, 1] {
            let fits = |code: &Code| {
                books.format.objection(code).is_none() && !taken.contains(&code.key())
            };
            let mut next = first;
            let codes = group.at.iter().map_while(|at| {
                if group.round.contains(at) {
                    next = next.next_multiple_of(unit);
                }
                let numbers = (next..=last).step_by(step).take(LOOKED_AT);
                let mut coded = numbers.map(|number| (number, Code::from_number(number)));
                let (number, code) = coded.find(|(_, code)| fits(code))?;
                next = number + step as u64;
                Some(code)
            });
            let found: Vec<Code> = codes.collect();
            if found.len() == group.at.len() {
                taken.extend(found.iter().map(Code::key));
                return found;
            }
        }
    }
    Vec::new()
}

/// The first and last number of a class: of its block, or by its first digit.
fn block(class: Class, width: u32, books: &ChartContext<'_>) -> (u64, u64) {
    let number = |code: &Code| code.as_str().parse::<u64>().ok();
    let fixed = books.blocks.iter().find(|block| block.class == class && block.section.is_none());
    let own =
        fixed.and_then(|block| Some((number(block.codes.first())?, number(block.codes.last())?)));
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
