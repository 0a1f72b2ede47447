//! Sum lines follow a renumbering: their intervals are rewritten so that they add up the same
//! accounts as before.

use super::Matter;
use crate::activity::Figures;
use crate::chart::{Account, Kind};
use crate::code::{Code, CodeKey, Interval};
use crate::ids::{AccountId, ById};
use crate::plan::Field;
use crate::rehearsal::Moved;
use crate::rehearsal::finding::{Findings, Remedy, Rule};
use std::collections::{BTreeSet, HashSet};

/// The new intervals of every sum line that has to be rewritten.
pub(super) fn follow(
    matter: &Matter<'_>,
    found: &mut Findings<'_>,
) -> Vec<(AccountId, Vec<Interval>)> {
    let sums = matter.after.live().filter(|account| account.kind == Kind::Sum);
    // What a person writes a sum line to add up is left as written.
    let written = |sum: &Account| {
        matter.plan.targets.get(&sum.id).is_some_and(|t| t.contains_key(&Field::Intervals))
    };
    let was_sum = |sum: &Account| {
        matter.today.chart.get(sum.id).is_some_and(|before| before.kind == Kind::Sum)
    };
    let mut sums: Vec<_> = sums.filter(|sum| was_sum(sum) && !written(sum)).collect();
    if sums.is_empty() {
        return Vec::new();
    }
    sums.sort_by_key(|sum| sum.id);
    let row = Row::of(matter);
    // While two accounts bear one code no interval can tell them apart; that has its own stop.
    if row.accounts.windows(2).any(|pair| pair[0].0 == pair[1].0) {
        return Vec::new();
    }
    sums.into_iter().filter_map(|sum| follow_one(matter, &row, sum, found)).collect()
}

/// The posting accounts After in the order of their codes.
struct Row<'a> {
    accounts: Vec<(CodeKey, &'a Account)>,
    /// What accounts add up to After, when history moves other than by merges.
    figures: Option<ById<Figures>>,
}

impl<'a> Row<'a> {
    fn of(matter: &Matter<'a>) -> Self {
        let live = matter.after.live().filter(|account| account.is_posting());
        let mut accounts: Vec<_> = live.map(|account| (account.code.key(), account)).collect();
        accounts.sort_by(|a, b| a.0.cmp(&b.0));
        let figures = matter.plan.splits().next().map(|_| matter.figures_after());
        Self { accounts, figures }
    }

    fn inside(&self, intervals: &[Interval]) -> BTreeSet<AccountId> {
        let inside = |key: &CodeKey| intervals.iter().any(|interval| interval.contains(key));
        self.accounts.iter().filter(|(key, _)| inside(key)).map(|(_, a)| a.id).collect()
    }
}

fn follow_one(
    matter: &Matter<'_>,
    row: &Row<'_>,
    sum: &Account,
    found: &mut Findings<'_>,
) -> Option<(AccountId, Vec<Interval>)> {
    let within = |account: &Account| {
        let key = account.code.key();
        sum.intervals.iter().any(|interval| interval.contains(&key))
    };
    let posting = matter.today.chart.live().filter(|account| account.is_posting());
    let members: HashSet<AccountId> = posting.filter(|a| within(a)).map(|a| a.id).collect();
    note_crossing(matter, row, sum, &members, found);
    // Accounts that the plan adds may fall inside or not; all others stay where they were.
    let added = |id: &AccountId| matter.today.chart.get(*id).is_none();
    let exact = |intervals: &[Interval]| {
        let inside = row.inside(intervals);
        row.accounts.iter().all(|(_, account)| {
            added(&account.id) || inside.contains(&account.id) == members.contains(&account.id)
        })
    };
    let lost = !members.is_empty() && !row.accounts.iter().any(|(_, a)| members.contains(&a.id));
    if !lost && exact(&sum.intervals) {
        return None;
    }
    let intervals = rewrite(row, &members, added);
    if lost || !exact(&intervals) {
        let sentence = format!(
            "{} adds up {}, and none of its accounts would be left to follow.",
            sum.label(),
            Interval::format_list(&sum.intervals),
        );
        let advice = "Delete the sum line as well, or keep one of its accounts.".to_owned();
        found.raise(Rule::SumLost, [sum.id], sentence, [Remedy::Advice(advice)]);
        return None;
    }
    Some((sum.id, intervals))
}

/// The stretches of neighbouring members: as few intervals as hold exactly them.
fn rewrite(
    row: &Row<'_>,
    members: &HashSet<AccountId>,
    added: impl Fn(&AccountId) -> bool,
) -> Vec<Interval> {
    let mut stretches: Vec<(&Code, &Code)> = Vec::new();
    let mut open = false;
    for (_, account) in &row.accounts {
        if members.contains(&account.id) {
            match stretches.last_mut().filter(|_| open) {
                Some(stretch) => stretch.1 = &account.code,
                None => stretches.push((&account.code, &account.code)),
            }
            open = true;
        } else if !added(&account.id) {
            open = false;
        }
    }
    let intervals = stretches.into_iter();
    intervals.filter_map(|(a, b)| Interval::new(a.clone(), b.clone()).ok()).collect()
}

/// Merges, and parts of histories, that go in or out of a sum line: both of its figures are said.
fn note_crossing(
    matter: &Matter<'_>,
    row: &Row<'_>,
    sum: &Account,
    members: &HashSet<AccountId>,
    found: &mut Findings<'_>,
) {
    let of = |id: AccountId, figures: &Figures| {
        let account = matter.today.chart.get(id).or_else(|| matter.after.get(id));
        account.map_or(0, |account| crate::trial_balance::balance(account, figures))
    };
    let net = |id: AccountId| of(id, &matter.figures(id));
    let before: i128 = members.iter().map(|id| net(*id)).sum();
    let mut after = before;
    let mut crossing = BTreeSet::new();
    for (&from, &to) in matter.merges {
        match (members.contains(&from), members.contains(&to)) {
            (true, false) => after -= net(from),
            (false, true) => after += net(from),
            _ => continue,
        }
        crossing.insert(from);
    }
    if let Some(figures) = &row.figures {
        // An account that the plan adds is inside where its code is.
        let added = matter.after.live().filter(|account| {
            let key = account.code.key();
            matter.today.chart.get(account.id).is_none()
                && sum.intervals.iter().any(|interval| interval.contains(&key))
        });
        let inside: HashSet<AccountId> =
            members.iter().copied().chain(added.map(|account| account.id)).collect();
        let crosses = |moved: &&Moved| {
            moved.tally.lines() > 0 && inside.contains(&moved.from) != inside.contains(&moved.to)
        };
        crossing.extend(matter.draft.moved.iter().filter(crosses).map(|moved| moved.from));
        after = inside.iter().filter_map(|id| Some(of(*id, figures.get(id)?))).sum();
    }
    if crossing.is_empty() {
        return;
    }
    let names = crossing.iter().map(|id| matter.label(*id)).collect::<Vec<_>>().join(", ");
    let (label, say) = (sum.label(), |sum| matter.today.currency.say(sum));
    let what = if before == after {
        format!("{label} keeps its figure of {}, but those of other years may change", say(after))
    } else {
        format!("{label} would change from {} to {}", say(before), say(after))
    };
    let sentence = format!("{what}: history of {names} goes across its edge.");
    found.raise(Rule::SumEdge, std::iter::once(sum.id).chain(crossing), sentence, []);
}
