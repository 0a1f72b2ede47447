//! Undo: the inverse of an application, computed, rehearsed and proved like any other plan. What
//! was posted since stays with the account it was posted to.

use super::draft::Draft;
use super::effects::{Effects, StrandMove};
use super::finding::{Findings, Remedy, Rule};
use super::rules::{codes, outline};
use super::{Rehearsal, Today, finish};
use crate::ids::{AccountId, ApplicationId, StrandId};
use std::collections::{BTreeMap, BTreeSet};

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
        rows.chain(self.effects.moves.values().flat_map(|m| [m.from, m.to])).collect()
    }

    fn codes(&self) -> BTreeSet<crate::code::CodeKey> {
        let rows = self.effects.rows.iter();
        rows.flat_map(|row| [&row.before, &row.after])
            .flatten()
            .map(|account| account.code.key())
            .collect()
    }

    /// Whether undoing this one would disturb what `later` did.
    fn is_built_on_by(&self, later: &Self) -> bool {
        !self.accounts().is_disjoint(&later.accounts()) || !self.codes().is_disjoint(&later.codes())
    }
}

/// Computes everything that undoing an application would do. `later` are the applications since
/// then that still stand.
pub fn rehearse_undo(today: &Today, application: &Application, later: &[Application]) -> Rehearsal {
    let mut found = Findings::new(&today.policy);
    for other in later.iter().filter(|other| application.is_built_on_by(other)) {
        let shared = application.accounts();
        let shared = shared.intersection(&other.accounts()).copied().collect::<Vec<_>>();
        let sentence =
            format!("“{}” was applied later, to some of the same accounts or codes.", other.name);
        let advice = Remedy::Advice(format!("Undo “{}” first.", other.name));
        found.raise(Rule::UndoLater, shared, sentence, [advice]);
    }
    let mut after = today.chart.clone();
    let moves = moves_back(today, application);
    for row in &application.effects.rows {
        match (&row.before, &row.after) {
            (Some(before), _) => after.put(before.clone()),
            (None, Some(added)) => {
                let holds_lines = today.activity.strands().any(|(strand, ..)| {
                    moves.get(&strand.id).map_or(strand.account, |m| m.to) == added.id
                });
                if holds_lines {
                    let sentence = format!(
                        "{} was added by the plan and has lines since; it stays.",
                        added.label()
                    );
                    found.raise(Rule::UndoKept, [added.id], sentence, []);
                } else {
                    after.remove(added.id);
                }
            }
            (None, None) => {}
        }
    }
    let restored: BTreeSet<AccountId> = application.accounts();
    codes::check_unique(&after, |id| restored.contains(&id), &mut found);
    outline::check_parents(&after, &today.chart, |id| restored.contains(&id), &mut found);
    let draft = Draft { after, merges: BTreeMap::new(), moves, findings: found.into_vec() };
    finish(today, draft, &BTreeMap::new())
}

/// Every strand goes back to the account that presented it before.
fn moves_back(today: &Today, application: &Application) -> BTreeMap<StrandId, StrandMove> {
    let back = application.effects.moves.values().filter_map(|moved| {
        let now = today.activity.strand(moved.strand)?.account;
        (now != moved.from).then_some((
            moved.strand,
            StrandMove { strand: moved.strand, from: now, to: moved.from },
        ))
    });
    back.collect()
}
