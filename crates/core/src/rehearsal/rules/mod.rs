//! The rules a plan is judged by, one file for each context. Each looks at Today, the plan and the
//! chart After, and raises findings; none changes anything but its own findings, except that sum
//! lines and lines of reports are rewritten so that their members follow the accounts.

mod classes;
pub(super) mod codes;
mod context;
mod histories;
mod locks;
mod merging;
mod names;
pub(super) mod outline;
pub(super) mod retiring;
mod settings;
pub(super) mod sums;

use super::draft::Draft;
use super::finding::Findings;
use crate::plan::Plan;
use crate::today::Today;
use context::RuleContext;
use std::cell::OnceCell;

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
        names::check(&context, &mut found);
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
    draft.raised.extend(found.into_vec());
}
