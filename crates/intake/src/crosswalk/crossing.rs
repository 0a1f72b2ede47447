//! What a row of a crosswalk comes to for one account.

use zf_core::chart::Chart;
use zf_core::code::Code;
use zf_core::history::{Part, Split, Which};
use zf_core::ids::AccountId;
use zf_core::plan::edit::Wanted;
use zf_core::plan::{Change, Fate, Field, Plan};

/// One row of a crosswalk, with what it comes to.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Crossing {
    /// The row of the file.
    pub row: u32,
    /// The account today.
    pub account: AccountId,
    /// The code it gives up.
    pub code: Code,
    /// The code that is to hold its history.
    pub new_code: Code,
    /// The name After, when the file gives one.
    pub new_name: Option<String>,
    /// Another account whose history it joins.
    pub into: Option<AccountId>,
    /// What becomes of it beside that: it is deactivated, archived, restored or deleted.
    pub fate: Option<Fate>,
}

impl Crossing {
    /// What has to be staged for it in a plan: what differs from today, and what the plan
    /// holds that the crosswalk contradicts.
    pub fn edits(&self, chart: &Chart, plan: &Plan) -> Vec<Wanted> {
        let wanted = match self.into {
            _ if self.fate.is_some() => self.fate.map(Change::Fate).into_iter().collect(),
            Some(survivor) => vec![Change::Fate(Fate::MergeInto { into: survivor })],
            None => {
                let name = self.new_name.clone().map(Change::Name);
                std::iter::once(Change::Code(self.new_code.clone())).chain(name).collect()
            }
        };
        let today = chart.get(self.account);
        let mut edits = Vec::new();
        for change in wanted {
            let field = change.field();
            let same = today.is_some_and(|a| Change::of(a, field) == change);
            if !same {
                edits.push(Wanted::Stage(change));
            } else if plan.staged(self.account, field).is_some() {
                edits.push(Wanted::Unstage(field));
            }
        }
        // An account that has a code After cannot be on its way into another, or out.
        let leaves = matches!(plan.fate(self.account), Some(Fate::MergeInto { .. } | Fate::Delete));
        if self.into.is_none() && self.fate.is_none() && leaves {
            edits.push(Wanted::Unstage(Field::Fate));
        }
        edits
    }
}

impl Crossing {
    /// The split that moves all history of the account to the one that bears the new code today;
    /// `None` where nobody does, or where it stands there already.
    pub fn moving(&self, chart: &Chart) -> Option<Split> {
        let to = chart.by_code(&self.new_code.key()).map(|account| account.id);
        let to = to.filter(|to| *to != self.account)?;
        Some(Split { parts: vec![Part { which: Which::default(), to }], ranked: false })
    }
}
