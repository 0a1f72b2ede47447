//! Sum lines and the lines of reports follow a renumbering: their intervals are rewritten so that
//! they add up the same accounts as before.

use super::context::RuleContext;
use crate::activity::Figures;
use crate::chart::{Account, Chart, Kind};
use crate::code::{Code, CodeKey, Interval};
use crate::ids::{AccountId, ById};
use crate::plan::Field;
use crate::rehearsal::cause::{Cause, SumOf};
use crate::rehearsal::draft::Moved;
use crate::rehearsal::effects::Rewriting;
use crate::rehearsal::finding::{Findings, Remedy};
use crate::usage::ReportLine;
use std::collections::{BTreeSet, HashSet};

/// What has to be rewritten.
#[derive(Default)]
pub(in crate::rehearsal) struct Followed {
    /// The new intervals of sum lines.
    pub(in crate::rehearsal) sums: Vec<(AccountId, Vec<Interval>)>,
    /// The lines of reports.
    pub(in crate::rehearsal) report_lines: Vec<Rewriting>,
}

impl Followed {
    /// Keeps what has to be rewritten; the sum lines are rewritten in the chart.
    pub(in crate::rehearsal) fn settle(self, after: &mut Chart) -> Vec<Rewriting> {
        for (sum, intervals) in self.sums {
            if let Some(row) = after.get_mut(sum) {
                row.intervals = intervals;
            }
        }
        self.report_lines
    }
}

/// What adds up stretches of codes: a sum line of the chart, or a line of a report.
enum Sum<'a> {
    Row(&'a Account),
    Report(&'a ReportLine),
}

impl Sum<'_> {
    fn intervals(&self) -> &[Interval] {
        match self {
            Self::Row(account) => &account.intervals,
            Self::Report(line) => &line.intervals,
        }
    }

    fn of(&self) -> SumOf {
        match self {
            Self::Row(account) => SumOf::Row(account.id),
            Self::Report(line) => SumOf::Report(line.name.clone()),
        }
    }
}

/// Rewrites for a plan. What a person writes a sum line to add up is left as written.
pub(super) fn follow(context: &RuleContext<'_>, found: &mut Findings<'_>) -> Followed {
    let written = |sum: AccountId| {
        context.plan.targets.get(&sum).is_some_and(|t| t.contains_key(&Field::Intervals))
    };
    let lines = context.today.usage.report_lines.iter();
    let sums: Vec<Sum<'_>> = sum_lines(&context.today.chart, context.after, |sum| !written(sum))
        .chain(lines.map(Sum::Report))
        .collect();
    if sums.is_empty() {
        return Followed::default();
    }
    let figures = context.plan.splits().next().map(|_| context.figures_after());
    let sides = Sides::of(&context.today.chart, context.after);
    for sum in &sums {
        note_crossing(context, figures, sum, &sides, found);
    }
    sides.rewrite_all(&sums, found)
}

/// Rewrites for an undo, of what it does not restore itself.
pub(in crate::rehearsal) fn follow_back(
    today: &Chart,
    after: &Chart,
    restored: impl Fn(AccountId) -> bool,
    lines: &[&ReportLine],
    found: &mut Findings<'_>,
) -> Followed {
    let sums = sum_lines(today, after, |sum| !restored(sum));
    let sums: Vec<_> = sums.chain(lines.iter().copied().map(Sum::Report)).collect();
    Sides::of(today, after).rewrite_all(&sums, found)
}

/// The sum lines that are there on both sides, in the order of their identities.
fn sum_lines<'a>(
    today: &Chart,
    after: &'a Chart,
    wanted: impl Fn(AccountId) -> bool,
) -> impl Iterator<Item = Sum<'a>> {
    let is_sum = |sum: &Account| sum.kind == Kind::Sum;
    let sums = after.live().filter(|sum| is_sum(sum) && today.get(sum.id).is_some_and(is_sum));
    let mut sums: Vec<_> = sums.filter(|sum| wanted(sum.id)).collect();
    sums.sort_by_key(|sum| sum.id);
    sums.into_iter().map(Sum::Row)
}

/// The posting accounts of a chart in the order of their codes.
fn posting(chart: &Chart) -> Vec<(CodeKey, &Account)> {
    let live = chart.live().filter(|account| account.is_posting());
    let mut accounts: Vec<_> = live.map(|account| (account.code.key(), account)).collect();
    accounts.sort_by(|a, b| a.0.cmp(&b.0));
    accounts
}

fn inside(accounts: &[(CodeKey, &Account)], intervals: &[Interval]) -> BTreeSet<AccountId> {
    let inside = |key: &CodeKey| intervals.iter().any(|interval| interval.contains(key));
    accounts.iter().filter(|(key, _)| inside(key)).map(|(_, a)| a.id).collect()
}

/// Whether a sum still holds what it held.
enum Following {
    AsWritten,
    Rewritten(Vec<Interval>),
    /// None of these is left.
    Lost(BTreeSet<AccountId>),
}

/// The posting accounts on both sides.
struct Sides<'a> {
    today: Vec<(CodeKey, &'a Account)>,
    after: Vec<(CodeKey, &'a Account)>,
    /// Those there are today. What a plan adds may fall inside or not.
    known: HashSet<AccountId>,
}

impl<'a> Sides<'a> {
    fn of(today: &'a Chart, after: &'a Chart) -> Self {
        let (today, after) = (posting(today), posting(after));
        let known = today.iter().map(|(_, account)| account.id).collect();
        Self { today, after, known }
    }

    fn rewrite_all(&self, sums: &[Sum<'_>], found: &mut Findings<'_>) -> Followed {
        let mut followed = Followed::default();
        // While two accounts bear one code no interval can tell them apart; that has its own stop.
        if self.after.windows(2).any(|pair| pair[0].0 == pair[1].0) {
            return followed;
        }
        for sum in sums {
            match (self.rewrite(sum.intervals()), sum) {
                (Following::AsWritten, _) => {}
                (Following::Rewritten(to), Sum::Row(account)) => {
                    followed.sums.push((account.id, to));
                }
                (Following::Rewritten(to), Sum::Report(line)) => {
                    let (name, from) = (line.name.clone(), line.intervals.clone());
                    followed.report_lines.push(Rewriting { line: line.id, name, from, to });
                }
                (Following::Lost(members), _) => raise_lost(sum, members, found),
            }
        }
        followed
    }

    fn rewrite(&self, intervals: &[Interval]) -> Following {
        let members = inside(&self.today, intervals);
        let exact = |intervals: &[Interval]| {
            let inside = inside(&self.after, intervals);
            self.after.iter().all(|(_, account)| {
                let (id, known) = (&account.id, self.known.contains(&account.id));
                !known || inside.contains(id) == members.contains(id)
            })
        };
        let lost = !members.is_empty() && !self.after.iter().any(|(_, a)| members.contains(&a.id));
        if !lost && exact(intervals) {
            return Following::AsWritten;
        }
        let rewritten = self.stretches(&members);
        if lost || !exact(&rewritten) {
            return Following::Lost(members);
        }
        Following::Rewritten(rewritten)
    }

    /// The accounts that the plan adds and that a sum holds then, by their codes.
    fn added_to(&self, intervals: &[Interval]) -> BTreeSet<AccountId> {
        let is_new = |account: &Account| !self.known.contains(&account.id);
        if !self.after.iter().any(|(_, account)| is_new(account)) {
            return BTreeSet::new();
        }
        let rewritten = match self.rewrite(intervals) {
            Following::Rewritten(to) => to,
            Following::AsWritten | Following::Lost(_) => intervals.to_vec(),
        };
        let inside = inside(&self.after, &rewritten);
        inside.into_iter().filter(|id| !self.known.contains(id)).collect()
    }

    /// The stretches of neighbouring members: as few intervals as hold exactly them.
    fn stretches(&self, members: &BTreeSet<AccountId>) -> Vec<Interval> {
        let mut stretches: Vec<(&Code, &Code)> = Vec::new();
        let mut open = false;
        for (_, account) in &self.after {
            if members.contains(&account.id) {
                match stretches.last_mut().filter(|_| open) {
                    Some(stretch) => stretch.1 = &account.code,
                    None => stretches.push((&account.code, &account.code)),
                }
                open = true;
            } else if self.known.contains(&account.id) {
                open = false;
            }
        }
        let intervals = stretches.into_iter();
        intervals.filter_map(|(a, b)| Interval::new(a.clone(), b.clone()).ok()).collect()
    }
}

fn raise_lost(sum: &Sum<'_>, members: BTreeSet<AccountId>, found: &mut Findings<'_>) {
    let intervals = sum.intervals().to_vec();
    match sum {
        Sum::Row(account) => {
            let cause = Cause::SumLost { sum: account.id, intervals };
            found.raise(cause, [Remedy::Advice]);
        }
        Sum::Report(line) => {
            let (name, members) = (line.name.clone(), members.into_iter().collect());
            let cause = Cause::ReportLineLost { name, intervals, members };
            found.raise(cause, [Remedy::Advice]);
        }
    }
}

/// Merges, and parts of histories, that go in or out of a sum: both of its figures are said.
fn note_crossing(
    context: &RuleContext<'_>,
    figures: Option<&ById<Figures>>,
    sum: &Sum<'_>,
    sides: &Sides<'_>,
    found: &mut Findings<'_>,
) {
    if context.merges.is_empty() && figures.is_none() {
        return;
    }
    let members = inside(&sides.today, sum.intervals());
    let added = sides.added_to(sum.intervals());
    let holds = |id: &AccountId| members.contains(id) || added.contains(id);
    let of = |id: AccountId, figures: &Figures| {
        let account = context.today.chart.get(id).or_else(|| context.after.get(id));
        account.map_or(0, |account| crate::trial_balance::balance(account, figures))
    };
    let net = |id: AccountId| of(id, &context.figures(id));
    let before: i128 = members.iter().map(|id| net(*id)).sum();
    let mut after = before;
    let mut crossing = BTreeSet::new();
    for (&from, &to) in context.merges {
        match (holds(&from), holds(&to)) {
            (true, false) => after -= net(from),
            (false, true) => after += net(from),
            _ => continue,
        }
        crossing.insert(from);
    }
    if let Some(figures) = figures {
        let crosses =
            |moved: &&Moved| moved.tally.lines() > 0 && holds(&moved.from) != holds(&moved.to);
        crossing.extend(context.draft.moved.iter().filter(crosses).map(|moved| moved.from));
        let inside = members.iter().chain(&added);
        after = inside.filter_map(|id| Some(of(*id, figures.get(id)?))).sum();
    }
    if crossing.is_empty() {
        return;
    }
    let (sum, crossing) = (sum.of(), crossing.into_iter().collect());
    found.raise(Cause::SumEdge { sum, before, after, crossing }, []);
}
