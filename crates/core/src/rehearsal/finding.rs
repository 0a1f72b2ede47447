//! What a rehearsal raises: stops and cautions, each with its cause and ways out.

use super::cause::Cause;
use super::rule::{Rule, Severity};
use crate::ids::AccountId;
use crate::plan::{Change, Field, Override};
use crate::policy::Policy;
use std::collections::BTreeMap;

/// A way out.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Remedy {
    /// Stage this instead.
    Stage {
        /// The account to change.
        account: AccountId,
        /// The change.
        change: Change,
    },
    /// Undo what is staged of a field.
    Unstage {
        /// The account.
        account: AccountId,
        /// The field.
        field: Field,
    },
    /// Something only a person can do; what that is follows from the cause.
    Advice,
}

/// One thing that a rehearsal raises.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Finding {
    /// What raised it, as data.
    pub cause: Cause,
    /// Stop or caution.
    pub severity: Severity,
    /// The accounts it is about; the first is the one whose row shows it.
    pub accounts: Vec<AccountId>,
    /// Ways out, best first.
    pub remedies: Vec<Remedy>,
    /// Tells this finding from all others, and from itself once its cause changes: what a person
    /// acknowledged or overrode is exactly what was found, however it is worded.
    pub key: String,
    /// The reason a reviewer gave for going on.
    pub overridden: Option<Override>,
}

impl Finding {
    /// The rule that raised it.
    pub const fn rule(&self) -> Rule {
        self.cause.rule()
    }

    fn of(raised: Raised, overrides: &BTreeMap<String, Override>) -> Self {
        let Raised { cause, severity, remedies } = raised;
        // A reason that was given under an earlier key holds, and is taken back by it.
        let earlier = cause.earlier_key().filter(|key| overrides.contains_key(key));
        let key = earlier.unwrap_or_else(|| cause.key());
        let may_go_on = cause.rule().can_be_overridden();
        Self {
            severity,
            accounts: cause.accounts(),
            overridden: overrides.get(&key).filter(|_| may_go_on).cloned(),
            remedies,
            key,
            cause,
        }
    }
}

/// A cause that a rule came upon.
#[derive(Debug)]
pub(super) struct Raised {
    cause: Cause,
    severity: Severity,
    remedies: Vec<Remedy>,
}

/// Collects causes under a policy.
pub(super) struct Findings<'a> {
    policy: &'a Policy,
    raised: Vec<Raised>,
}

impl<'a> Findings<'a> {
    pub(super) fn new(policy: &'a Policy) -> Self {
        Self { policy, raised: Vec::new() }
    }

    /// Raises what a rule came upon, unless the policy has the rule switched off.
    pub(super) fn raise(&mut self, cause: Cause, remedies: impl IntoIterator<Item = Remedy>) {
        if let Some(severity) = cause.rule().severity(self.policy) {
            let remedies = remedies.into_iter().collect();
            self.raised.push(Raised { cause, severity, remedies });
        }
    }

    pub(super) fn into_vec(self) -> Vec<Raised> {
        self.raised
    }
}

/// What was raised, with the reasons that reviewers gave; stops first, and each once.
pub(super) fn judged(raised: Vec<Raised>, overrides: &BTreeMap<String, Override>) -> Vec<Finding> {
    let mut found: Vec<_> =
        raised.into_iter().map(|raised| Finding::of(raised, overrides)).collect();
    found.sort_by(|a, b| (a.severity, &a.key).cmp(&(b.severity, &b.key)));
    found.dedup_by(|a, b| a.key == b.key);
    found
}
