//! Whether two codes of a sum line are the ends of a range or a list.

use super::draft::Draft;
use crate::question::{About, Answer, Asks, Gives, Means, Question};
use crate::reading::Reading;
use zf_core::chart::Kind;
use zf_core::code::{Code, Interval};

/// Settles whether two codes are the ends of a range or a list, for the whole file. It is asked where that
/// makes a difference.
pub(super) fn settle(reading: &Reading, drafts: &mut [Draft<'_>]) -> Option<Question> {
    let sums = || drafts.iter().filter(|draft| draft.account.kind == Kind::Sum);
    let pairs: Vec<&(Code, Code)> = sums().filter_map(|draft| draft.two.as_ref()).collect();
    let first = *pairs.first()?;
    let between = |(first, last): &(Code, Code)| {
        let codes = drafts.iter().filter(|d| d.coded && d.account.kind == Kind::Account);
        let inside = codes.filter(|d| {
            let key = d.account.code.key();
            first.key() < key && key < last.key()
        });
        inside.count()
    };
    let inside: usize = pairs.iter().map(|pair| between(pair)).sum();
    // Where others list more codes than two, two are a list as well.
    let listed = sums().any(|draft| draft.account.intervals.len() > 2);
    let default = if listed { "list" } else { "range" };
    let answer = reading.answers.get(&About::Ranges).map(String::as_str);
    let question = (answer.is_none() && inside > 0).then(|| {
        let (from, to) = first;
        Question {
            about: About::Ranges,
            asks: Asks::Range(from.clone(), to.clone()),
            readings: vec![
                Answer::new(
                    "range",
                    Means::Between(from.clone(), to.clone()),
                    Gives::AddedUp(inside),
                ),
                Answer::new("list", Means::Only(from.clone(), to.clone()), Gives::NothingBetween),
            ],
            default: Some(default.to_owned()),
        }
    });
    let range = answer.unwrap_or(default) == "range";
    for draft in drafts {
        let Some((first, last)) = draft.two.take() else { continue };
        let ends = if range {
            vec![(first, last)]
        } else {
            vec![(first.clone(), first), (last.clone(), last)]
        };
        draft.account.intervals =
            ends.into_iter().filter_map(|(first, last)| Interval::new(first, last).ok()).collect();
    }
    question
}
