//! The rehearsal: everything that a plan, or the undo of one, would do, without doing it.
//!
//! [`draft`] works out the chart After and [`moving`] where each strand goes; [`rules`] says what
//! blocks it, each with its [`cause`]; [`effects`] lists what the store has to write;
//! [`proof`] predicts what must be read back.

pub mod cause;
pub mod changed;
mod draft;
pub mod effects;
pub mod finding;
mod moving;
pub mod proof;
pub mod report;
pub mod rule;
mod rules;
pub mod undo;

use crate::activity::{Figures, Strand};
use crate::chart::{Account, Chart};
use crate::ids::{AccountId, ById};
use crate::plan::{Fate, Override, Plan};
use crate::today::Today;
use draft::Draft;
use effects::{Effects, changed_rows};
use finding::{Finding, Findings, judged};
use proof::Proof;
use rule::Severity;
use std::collections::BTreeMap;
use std::hash::Hash;
use xxhash_rust::xxh3::Xxh3;

pub use draft::Moved;

/// What a plan would do.
#[derive(Clone, Debug)]
pub struct Rehearsal {
    /// The chart as the plan would leave it.
    pub after: Chart,
    /// What has to be written.
    pub effects: Effects,
    /// Stops and cautions, stops first.
    pub findings: Vec<Finding>,
    /// The predicted reconciliation.
    pub proof: Proof,
    /// What every account adds up to After.
    pub figures_after: ById<Figures>,
    /// What each part of a split history takes.
    pub moved: Vec<Moved>,
}

impl Rehearsal {
    /// The stops that nobody has overridden.
    pub fn stops(&self) -> impl Iterator<Item = &Finding> {
        self.findings.iter().filter(|f| f.severity == Severity::Stop && f.overridden.is_none())
    }

    /// What has to be read before applying: cautions, and stops that were overridden.
    pub fn cautions(&self) -> impl Iterator<Item = &Finding> {
        self.findings.iter().filter(|f| f.severity == Severity::Caution || f.overridden.is_some())
    }

    /// A digest of what would be done and of what blocks it. Two rehearsals with the same
    /// fingerprint would do the same and ask a person the same.
    pub fn fingerprint(&self) -> String {
        let mut hash = Xxh3::new();
        self.effects.hash(&mut hash);
        for finding in &self.findings {
            (&finding.key, finding.overridden.as_ref().map(|o| &o.reason)).hash(&mut hash);
        }
        format!("{:032x}", hash.digest128())
    }

    /// Where the accounts that the plan adds stand in the outline of today's chart, from its top.
    pub fn added_places(&self, today: &Chart) -> Vec<AddedPlace> {
        let is_added = |id: AccountId| today.get(id).is_none();
        let added = self.after.live().filter(|account| is_added(account.id));
        let added: Vec<_> = added.cloned().collect();
        if added.is_empty() {
            return Vec::new();
        }
        let mut chart = today.clone();
        added.into_iter().for_each(|account| chart.put(account));
        let mut above = None;
        let mut places = Vec::new();
        for (row, depth) in chart.outline() {
            let below = above.replace(row.id);
            if is_added(row.id) {
                places.push(AddedPlace { account: row.id, below, depth });
            }
        }
        places
    }

    /// The account that would present a strand, or what is left of it.
    pub fn presenter(&self, strand: &Strand) -> AccountId {
        self.effects.presenter(strand)
    }
}

/// Where a row that the plan adds stands in the outline of today's chart.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct AddedPlace {
    /// The account that the plan adds.
    pub account: AccountId,
    /// The row right above it, which can be an added one as well; none at the top.
    pub below: Option<AccountId>,
    /// How many headings it stands under.
    pub depth: usize,
}

/// Computes everything that a plan would do to the books as they stand today.
pub fn rehearse(today: &Today, plan: &Plan) -> Rehearsal {
    let mut draft = draft::of_plan(today, plan);
    moving::allocate(today, plan, &mut draft);
    rules::check(today, plan, &mut draft);
    finish(today, draft, &plan.overrides)
}

/// What blocks one account from being retired or restored, without anything else being planned.
pub fn guard(today: &Today, account: &Account, fate: Fate) -> Vec<Finding> {
    let mut found = Findings::new(&today.policy);
    let figures = today.figures_of(account.id);
    rules::retiring::check_fate(today, account, fate, &figures, &mut found);
    judged(found.into_vec(), &BTreeMap::new())
}

fn finish(today: &Today, draft: Draft, overrides: &BTreeMap<String, Override>) -> Rehearsal {
    let Draft { after, moves, carvings, moved, rewritings, raised, .. } = draft;
    let findings = judged(raised, overrides);
    let rows = changed_rows(&today.chart, &after);
    let effects = Effects { rows, moves, carvings, rewritings };
    let figures_after = effects.figures_after(&today.activity);
    let proof = Proof::predict(today, &after, &effects, &figures_after);
    Rehearsal { after, effects, findings, proof, figures_after, moved }
}
