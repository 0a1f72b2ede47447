//! Undo: the inverse of an application, computed, rehearsed and proved like any other plan. What
//! was posted since stays with the account it was posted to.

use super::cause::{Cause, Since};
use super::draft::Draft;
use super::effects::{Effects, Rewriting, StrandMove};
use super::finding::{Findings, Remedy};
use super::rules::{codes, outline, sums};
use super::{Rehearsal, finish};
use crate::activity::Strand;
use crate::ids::{AccountId, ApplicationId, ReportLineId, StrandId};
use crate::today::Today;
use crate::usage::ReportLine;
use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;

/// A plan that was applied, or the undo of one, as far as later undoing needs it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Application {
    /// Its identity; later ones are greater.
    pub id: ApplicationId,
    /// What it is called in sentences.
    pub name: String,
    /// What it wrote.
    pub effects: Effects,
}

impl Application {
    /// The accounts that it changed, or moved history of.
    pub fn accounts(&self) -> BTreeSet<AccountId> {
        let rows = self.effects.rows.iter().filter_map(super::effects::RowChange::account);
        let moved = self.effects.moves.values().flat_map(|m| [m.from, m.to]);
        let carved = self.effects.carves().flat_map(|c| [c.from, c.to]);
        rows.chain(moved).chain(carved).collect()
    }

    fn codes(&self) -> BTreeSet<crate::code::CodeKey> {
        let rows = self.effects.rows.iter();
        rows.flat_map(|row| [&row.before, &row.after])
            .flatten()
            .map(|account| account.code.key())
            .collect()
    }

    fn report_lines(&self) -> BTreeSet<ReportLineId> {
        self.effects.rewritings.iter().map(|rewriting| rewriting.line).collect()
    }

    /// Whether undoing this one would disturb what `later` did.
    fn is_built_on_by(&self, later: &Self) -> bool {
        !self.accounts().is_disjoint(&later.accounts())
            || !self.codes().is_disjoint(&later.codes())
            || !self.report_lines().is_disjoint(&later.report_lines())
    }
}

/// Computes everything that undoing an application would do. `later` are the applications since
/// then that still stand.
pub fn rehearse_undo(today: &Today, application: &Application, later: &[Application]) -> Rehearsal {
    let mut found = Findings::new(&today.policy);
    for other in later.iter().filter(|other| application.is_built_on_by(other)) {
        let shared = application.accounts();
        let shared = shared.intersection(&other.accounts()).copied().collect::<Vec<_>>();
        let plan = other.name.clone();
        found.raise(Cause::UndoLater { plan, shared }, [Remedy::Advice]);
    }
    let mut after = today.chart.clone();
    let moves = moves_back(today, application);
    for row in &application.effects.rows {
        match (&row.before, &row.after) {
            (Some(before), _) => after.put(Arc::clone(before)),
            (None, Some(added)) => {
                let holds_lines = today.activity.strands().any(|(strand, ..)| {
                    moves.get(&strand.id).map_or(strand.account, |m| m.to) == added.id
                });
                let uses = today.usage.of(added.id);
                if holds_lines || !uses.is_empty() {
                    let since = match uses.first() {
                        Some(first) if !holds_lines => Since::Named(first.clone()),
                        _ => Since::Lines,
                    };
                    found.raise(Cause::UndoKept { account: added.id, since }, []);
                } else {
                    after.remove(added.id);
                }
            }
            (None, None) => {}
        }
    }
    let restored: BTreeSet<AccountId> = application.accounts();
    codes::check_unique(&after, |id| restored.contains(&id), &mut found);
    outline::check_parents(&after, &today.chart, &mut found);
    let (mut rewritings, others) = rewritings_back(today, application);
    let is_restored = |id| restored.contains(&id);
    let followed = sums::follow_back(&today.chart, &after, is_restored, &others, &mut found);
    rewritings.extend(followed.settle(&mut after));
    let raised = found.into_vec();
    let draft = Draft { after, moves, rewritings, raised, ..Draft::default() };
    finish(today, draft, &BTreeMap::new())
}

/// The lines of reports that go back to what they were, and all others.
fn rewritings_back<'a>(
    today: &'a Today,
    application: &Application,
) -> (Vec<Rewriting>, Vec<&'a ReportLine>) {
    let mut back = Vec::new();
    let mut others = Vec::new();
    for line in &today.usage.report_lines {
        match application.effects.rewritings.iter().find(|r| r.line == line.id) {
            Some(Rewriting { from: was, .. }) => {
                let (name, from) = (line.name.clone(), line.intervals.clone());
                back.push(Rewriting { line: line.id, name, from, to: was.clone() });
            }
            None => others.push(line),
        }
    }
    (back, others)
}

/// Every strand goes back to the account that presented it before, or that presented the strand it
/// was carved from. What was carved stays a strand of its own: so no line is written again.
fn moves_back(today: &Today, application: &Application) -> BTreeMap<StrandId, StrandMove> {
    let moved = application.effects.moves.values().map(|moved| (moved.strand, moved.from));
    let carves = application.effects.carves();
    let carved = carves.filter_map(|carve| Some((carve.carved?, carve.from)));
    let owners: BTreeMap<StrandId, AccountId> = moved.chain(carved).collect();
    // What was carved later from a strand that goes back, and given back since, goes with it.
    let owner = |strand: &Strand| {
        let mut at = Some(strand);
        while let Some(one) = at.filter(|one| one.account == strand.account) {
            if let Some(owner) = owners.get(&one.id) {
                return Some(*owner);
            }
            at = one.carved_from.and_then(|parent| today.activity.strand(parent));
        }
        None
    };
    let back = today.activity.strands().filter_map(|(strand, ..)| {
        let moved = StrandMove { strand: strand.id, from: strand.account, to: owner(strand)? };
        (moved.from != moved.to).then_some((strand.id, moved))
    });
    back.collect()
}
