//! What would come of a rule's proposals, seen before they are staged.

use super::rules::Proposed;
use crate::chart::{Account, Chart, Class};
use crate::ids::AccountId;
use crate::plan::{Change, Plan};
use crate::rehearsal::finding::Finding;
use crate::rehearsal::rule::Rule;
use crate::rehearsal::{Rehearsal, rehearse};
use crate::today::Today;
use std::collections::{BTreeSet, HashMap};

/// What would come of proposals.
#[derive(Clone, Debug)]
pub struct Preview {
    /// The plan with the proposals staged.
    pub rehearsal: Rehearsal,
    /// What would block the codes, or has to be read.
    pub findings: Vec<Finding>,
    /// Accounts that would come to stand between others on the statements than they do today.
    pub out_of_order: Vec<AccountId>,
}

/// Stages proposals in a copy of the plan and rehearses it.
pub fn preview(
    today: &Today,
    plan: &Plan,
    changes: impl IntoIterator<Item = (AccountId, Change)>,
) -> Preview {
    let mut with = plan.clone();
    let mut concerned = BTreeSet::new();
    for (account, change) in changes {
        concerned.insert(account);
        with.set(&today.chart, account, change);
    }
    let rehearsal = rehearse(today, &with);
    let findings = rehearsal.findings.iter().filter(|finding| {
        is_about_codes(finding.rule())
            && (finding.accounts.iter().any(|id| concerned.contains(id))
                || is_about_sums(finding.rule()))
    });
    let findings = findings.cloned().collect();
    let out_of_order = moved_among(&today.chart, &rehearsal.after);
    let out_of_order = out_of_order.into_iter().filter(|id| concerned.contains(id)).collect();
    Preview { findings, out_of_order, rehearsal }
}

/// The changes of code that carry proposals out; a code that stays as today takes a staged one back.
pub fn changes(proposed: &Proposed) -> impl Iterator<Item = (AccountId, Change)> + '_ {
    proposed.codes.iter().map(|p| (p.account, Change::Code(p.to.clone())))
}

fn is_about_codes(rule: Rule) -> bool {
    matches!(rule, Rule::CodeTaken | Rule::CodeFormat | Rule::CodeOutsideBlock | Rule::CodeReused)
        || is_about_sums(rule)
}

fn is_about_sums(rule: Rule) -> bool {
    matches!(rule, Rule::SumLost | Rule::ReportLineLost | Rule::SumEdge)
}

/// The accounts that do not keep their place among the others of their class: all but the most that
/// stay in order.
fn moved_among(today: &Chart, after: &Chart) -> Vec<AccountId> {
    let mut moved = Vec::new();
    for class in Class::ALL {
        let ranks = ranks(today, *class);
        let order = in_order(after, *class);
        let known: Vec<(AccountId, usize)> =
            order.iter().filter_map(|a| Some((a.id, *ranks.get(&a.id)?))).collect();
        let staying = longest_rising(&known.iter().map(|(_, rank)| *rank).collect::<Vec<_>>());
        moved.extend(
            known.iter().enumerate().filter(|(at, _)| !staying.contains(at)).map(|(_, k)| k.0),
        );
    }
    moved
}

fn in_order(chart: &Chart, class: Class) -> Vec<&Account> {
    let mut rows: Vec<&Account> =
        chart.live().filter(|account| account.is_posting() && account.class == class).collect();
    rows.sort_by(|a, b| a.code.chart_order(&b.code));
    rows
}

fn ranks(chart: &Chart, class: Class) -> HashMap<AccountId, usize> {
    in_order(chart, class).iter().enumerate().map(|(rank, account)| (account.id, rank)).collect()
}

/// The places of a longest rising run through a list without repetitions, by patience sorting.
fn longest_rising(ranks: &[usize]) -> BTreeSet<usize> {
    let mut tops: Vec<usize> = Vec::new();
    let mut below: Vec<Option<usize>> = vec![None; ranks.len()];
    for (at, rank) in ranks.iter().enumerate() {
        let pile = tops.partition_point(|top| ranks[*top] < *rank);
        below[at] = pile.checked_sub(1).map(|left| tops[left]);
        if pile == tops.len() {
            tops.push(at);
        } else {
            tops[pile] = at;
        }
    }
    let mut run = BTreeSet::new();
    let mut next = tops.last().copied();
    while let Some(at) = next {
        run.insert(at);
        next = below[at];
    }
    run
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn a_rising_run_rises_and_none_is_longer(ranks in Just((0..9usize).collect::<Vec<_>>()).prop_shuffle()) {
            let run: Vec<usize> = longest_rising(&ranks).into_iter().map(|at| ranks[at]).collect();
            prop_assert!(run.windows(2).all(|pair| pair[0] < pair[1]));
            let rises = |mask: u32| {
                let kept: Vec<_> = (0..9).filter(|n| mask >> n & 1 == 1).map(|n| ranks[n]).collect();
                kept.windows(2).all(|pair| pair[0] < pair[1])
            };
            let longest = (0..1u32 << 9).filter(|m| rises(*m)).map(u32::count_ones).max();
            prop_assert_eq!(Some(run.len() as u32), longest);
        }
    }
}
