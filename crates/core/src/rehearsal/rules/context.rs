//! What the rules look at.

use crate::activity::{Figures, Strand};
use crate::chart::Chart;
use crate::ids::{AccountId, ById};
use crate::plan::Plan;
use crate::rehearsal::draft::Draft;
use crate::rehearsal::effects::figures_after;
use crate::today::Today;
use std::cell::OnceCell;
use std::collections::BTreeMap;

/// What every rule may look at.
pub(in crate::rehearsal) struct RuleContext<'a> {
    pub(super) today: &'a Today,
    pub(super) plan: &'a Plan,
    pub(super) after: &'a Chart,
    pub(super) merges: &'a BTreeMap<AccountId, AccountId>,
    pub(super) figures: &'a ById<Figures>,
    pub(super) draft: &'a Draft,
    pub(super) figures_after: OnceCell<ById<Figures>>,
}

impl RuleContext<'_> {
    /// What accounts would add up to.
    pub(super) fn figures_after(&self) -> &ById<Figures> {
        let Draft { moves, carvings, .. } = self.draft;
        let presenter = |strand: &Strand| moves.get(&strand.id).map_or(strand.account, |m| m.to);
        self.figures_after.get_or_init(|| figures_after(&self.today.activity, presenter, carvings))
    }

    pub(super) fn figures(&self, id: AccountId) -> Figures {
        self.figures.get(&id).copied().unwrap_or_default()
    }

    /// Whether the plan touches an account: rules do not nag about what was so before.
    pub(super) fn touches(&self, id: AccountId) -> bool {
        self.plan.targets.contains_key(&id)
    }
}
