//! Sum lines: what they add up, where the file does not give the codes.

use super::came_from::CameFrom;
use super::draft::Draft;
use super::sorting::Sorted;
use crate::Rejected;
use crate::cause::Cause;
use crate::columns::{Column, reduce};
use crate::reading::Reading;
use crate::row_kind::RowKind;
use crate::words::{self, RowWord};
use std::collections::HashSet;
use zf_core::chart::Kind;
use zf_core::code::{Code, CodeKey, Interval};
use zf_core::ids::AccountId;
use zf_core::plan::texts;

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

/// Makes sum lines of totals, each below what it adds up. Of two tables beside each other the totals stay
/// what they are.
pub(super) fn of_totals<'a>(reading: &Reading, sorted: &[Sorted<'a>], drafts: &mut Vec<Draft<'a>>) {
    if reading.layout.second_table().is_some() {
        return;
    }
    let last = drafts.iter().map(|draft| draft.account.id.0).max().unwrap_or(0);
    let totals = sorted.iter().filter(|sorted| sorted.is == RowKind::Total);
    let named = totals.filter_map(|sorted| {
        let (_, text) = sorted.row.filled().next()?;
        Some((sorted, texts::name(text).ok()?))
    });
    for ((sorted, name), id) in named.zip(last + 1..) {
        let at = drafts.partition_point(|draft| draft.row.number < sorted.row.number);
        drafts.insert(at, Draft::total(sorted, AccountId(id), &name));
    }
}

/// Tells the class of sum lines of which nothing else does: that of all that they add up.
pub(super) fn classes(drafts: &mut Vec<Draft<'_>>) {
    let names = names(drafts);
    for at in 0..drafts.len() {
        if drafts[at].account.kind != Kind::Sum || drafts[at].class.is_some() {
            continue;
        }
        let mut classes: Vec<_> =
            parts(drafts, &names, at).iter().filter_map(|part| part.class).collect();
        classes.dedup();
        if let [class] = classes[..] {
            drafts[at].class = Some(class);
            drafts[at].origins.class = Some(CameFrom::Parent);
        }
    }
    // A total of several classes, such as a result, stays a total.
    drafts.retain(|draft| !draft.total || draft.class.is_some());
}

/// Gives sum lines without codes what stands above them: to the row that opens them, the heading of the
/// same name, the heading they stand under, or the sum line before.
pub(super) fn add_up(reading: &Reading, drafts: &mut Vec<Draft<'_>>, rejected: &mut Vec<Rejected>) {
    let names = names(drafts);
    let mut posting: Vec<Code> = drafts
        .iter()
        .filter(|draft| draft.account.kind == Kind::Account)
        .map(|draft| draft.account.code.clone())
        .collect();
    posting.sort_by(Code::chart_order);
    for at in 0..drafts.len() {
        if drafts[at].account.kind == Kind::Sum && drafts[at].account.intervals.is_empty() {
            let codes =
                parts(drafts, &names, at).iter().map(|part| part.account.code.key()).collect();
            drafts[at].account.intervals = stretches(&posting, &codes);
        }
    }
    drafts.retain(|draft| {
        let lacks = draft.account.kind == Kind::Sum && draft.account.intervals.is_empty();
        if lacks && !draft.total {
            let cause = Cause::IntervalsMissing;
            rejected.push(reading.layout.reject(draft.row, Column::Intervals, cause));
        }
        !lacks
    });
}

/// The fewest intervals that hold certain codes and no other code of the file.
fn stretches(posting: &[Code], wanted: &HashSet<CodeKey>) -> Vec<Interval> {
    posting
        .chunk_by(|a, b| wanted.contains(&a.key()) == wanted.contains(&b.key()))
        .filter(|run| run.first().is_some_and(|code| wanted.contains(&code.key())))
        .filter_map(|run| Interval::new(run.first()?.clone(), run.last()?.clone()).ok())
        .collect()
}

/// The names as they are compared.
fn names(drafts: &[Draft<'_>]) -> Vec<String> {
    drafts.iter().map(|draft| reduce(&draft.account.name)).collect()
}

/// The accounts that a sum line adds up.
fn parts<'d, 'a>(drafts: &'d [Draft<'a>], names: &[String], at: usize) -> Vec<&'d Draft<'a>> {
    let sum = &drafts[at];
    let of = words::total_of(&names[at]).unwrap_or(&names[at]).to_owned();
    let before = &drafts[..at];
    let opened = (sum.word == Some(RowWord::Closes)).then(|| opening(before)).flatten();
    let same = || (0..at).rfind(|at| drafts[*at].account.kind == Kind::Heading && names[*at] == of);
    let under = |draft: &Draft<'_>| draft.captions.iter().any(|caption| caption.wording == of);
    let captioned = opened.is_none() && same().is_none() && before.iter().any(under);
    let parent = || before.iter().rposition(|d| Some(d.account.id) == sum.account.parent);
    let last = || before.iter().rposition(|d| d.account.kind != Kind::Account).map(|at| at + 1);
    let of_class = words::class(&of).filter(|_| sum.total && !captioned);
    let first = match opened.or_else(same) {
        Some(first) => first,
        None if captioned || of_class.is_some() => 0,
        None => parent().or_else(last).unwrap_or(0),
    };
    let posting = before[first..].iter().filter(|draft| draft.account.kind == Kind::Account);
    let of_class = |draft: &Draft<'_>| of_class.is_none_or(|class| draft.class == Some(class));
    posting.filter(|draft| (!captioned || under(draft)) && of_class(draft)).collect()
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
