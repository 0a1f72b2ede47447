//! The rules a plan is judged by, one file for each context. Each looks at Today, the plan and the
//! chart After, and raises findings; none changes anything but its own findings, except that sum
//! lines and lines of reports are rewritten so that their members follow the accounts.

mod classes;
pub(super) mod codes;
mod histories;
mod locks;
mod merging;
pub(super) mod outline;
pub(super) mod retiring;
mod settings;
pub(super) mod sums;

use super::draft::{Draft, after_or_today};
use super::effects::figures_after;
use super::finding::Findings;
use crate::activity::{Figures, Strand};
use crate::chart::{Account, Chart};
use crate::ids::{AccountId, ById};
use crate::plan::Plan;
use crate::today::Today;
use std::cell::OnceCell;
use std::collections::BTreeMap;

/// What every rule may look at.
pub(super) struct RuleContext<'a> {
    pub(super) today: &'a Today,
    pub(super) plan: &'a Plan,
    pub(super) after: &'a Chart,
    pub(super) merges: &'a BTreeMap<AccountId, AccountId>,
    pub(super) figures: &'a ById<Figures>,
    pub(super) draft: &'a Draft,
    figures_after: OnceCell<ById<Figures>>,
}

impl RuleContext<'_> {
    fn label(&self, id: AccountId) -> String {
        after_or_today(self.after, self.today, id)
    }

    /// How sentences speak of an account's present self.
    fn today_label(&self, account: &Account) -> String {
        self.today.chart.get(account.id).unwrap_or(account).label()
    }

    /// What accounts would add up to.
    fn figures_after(&self) -> &ById<Figures> {
        let Draft { moves, carvings, .. } = self.draft;
        let presenter = |strand: &Strand| moves.get(&strand.id).map_or(strand.account, |m| m.to);
        self.figures_after.get_or_init(|| figures_after(&self.today.activity, presenter, carvings))
    }

    fn figures(&self, id: AccountId) -> Figures {
        self.figures.get(&id).copied().unwrap_or_default()
    }

    /// Whether the plan touches an account: rules do not nag about what was so before.
    fn touches(&self, id: AccountId) -> bool {
        self.plan.targets.contains_key(&id)
    }
}

pub(super) fn check(today: &Today, plan: &Plan, draft: &mut Draft) {
    let mut found = Findings::new(&today.policy);
    let follow = {
        let context = RuleContext {
            today,
            plan,
            after: &draft.after,
            merges: &draft.merges,
            figures: today.figures(),
            draft,
            figures_after: OnceCell::new(),
        };
        codes::check(&context, &mut found);
        merging::check(&context, &mut found);
        retiring::check(&context, &mut found);
        outline::check(&context, &mut found);
        classes::check(&context, &mut found);
        settings::check(&context, &mut found);
        histories::check(&context, &mut found);
        locks::check(&context, &mut found);
        sums::follow(&context, &mut found)
    };
    draft.rewritings = follow.settle(&mut draft.after);
    draft.findings.extend(found.into_vec());
}
