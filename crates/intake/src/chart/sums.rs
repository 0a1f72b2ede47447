//! Sum lines: what they add up, where the file does not give the codes.

use super::came_from::CameFrom;
use super::draft::Draft;
use crate::Rejected;
use crate::columns::{Column, reduce};
use crate::reading::Reading;
use crate::reason::Reason;
use crate::words::{self, RowWord};
use zf_core::chart::Kind;
use zf_core::code::Interval;

/// A coded row that is the total of a heading above it is a sum line, though nothing else says so.
pub(super) fn tell(drafts: &mut [Draft<'_>]) {
    let names = names(drafts);
    for at in 0..drafts.len() {
        let Some(of) = words::total_of(&names[at]).filter(|of| !of.is_empty()) else { continue };
        let named = |above: usize| {
            names[above] == of || drafts[above].captions.iter().any(|c| c.wording == of)
        };
        if drafts[at].word.is_none()
            && drafts[at].account.kind == Kind::Account
            && (0..at).any(named)
        {
            drafts[at].account.kind = Kind::Sum;
            drafts[at].word = Some(RowWord::Closes);
            drafts[at].origins.kind = Some(CameFrom::Wording);
        }
    }
}

/// Gives sum lines without codes what stands above them: to the row that opens them, the heading of the
/// same name, the heading they stand under, or the sum line before.
pub(super) fn add_up(reading: &Reading, drafts: &mut Vec<Draft<'_>>, rejected: &mut Vec<Rejected>) {
    let names = names(drafts);
    for at in 0..drafts.len() {
        if drafts[at].account.kind == Kind::Sum && drafts[at].account.intervals.is_empty() {
            drafts[at].account.intervals = above(drafts, &names, at).into_iter().collect();
        }
    }
    drafts.retain(|draft| {
        let lacks = draft.account.kind == Kind::Sum && draft.account.intervals.is_empty();
        if lacks {
            let message = "a sum line needs the codes it adds up, and no account stands above it";
            let reason = Reason::IntervalsMissing;
            rejected.push(reading.layout.reject(draft.row, Column::Intervals, reason, message));
        }
        !lacks
    });
}

/// The names as they are compared.
fn names(drafts: &[Draft<'_>]) -> Vec<String> {
    drafts.iter().map(|draft| reduce(&draft.account.name)).collect()
}

fn above(drafts: &[Draft<'_>], names: &[String], at: usize) -> Option<Interval> {
    let sum = &drafts[at];
    let of = words::total_of(&names[at]).unwrap_or(&names[at]);
    let before = &drafts[..at];
    let opened = (sum.word == Some(RowWord::Closes)).then(|| opening(before)).flatten();
    let same = || (0..at).rfind(|at| drafts[*at].account.kind == Kind::Heading && names[*at] == of);
    let caption = || before.iter().position(|d| d.captions.iter().any(|c| c.wording == of));
    let parent = || before.iter().rposition(|d| Some(d.account.id) == sum.account.parent);
    let last = || before.iter().rposition(|d| d.account.kind != Kind::Account).map(|at| at + 1);
    let first = opened.or_else(same).or_else(caption).or_else(parent).or_else(last).unwrap_or(0);
    let posting = before[first..].iter().filter(|d| d.account.kind == Kind::Account);
    let mut codes: Vec<_> = posting.map(|d| d.account.code.clone()).collect();
    codes.sort_by(|a, b| a.chart_order(b));
    Interval::new(codes.first()?.clone(), codes.last()?.clone()).ok()
}

/// The row that opens what ends here: beginnings and ends stand in each other.
fn opening(before: &[Draft<'_>]) -> Option<usize> {
    let mut ends = 0_usize;
    for (at, draft) in before.iter().enumerate().rev() {
        match draft.word {
            Some(RowWord::Closes) => ends += 1,
            Some(RowWord::Opens) if ends == 0 => return Some(at),
            Some(RowWord::Opens) => ends -= 1,
            _ => {}
        }
    }
    None
}
