//! Edits of a plan: what is no change, who was first, and what was done.

use super::{Change, Fate, Field, Plan};
use crate::chart::Chart;
use crate::ids::AccountId;
use serde::{Deserialize, Serialize};
use std::collections::HashSet;
use time::Date;

/// What is wanted of one field of an account.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Wanted {
    /// That it becomes this.
    Stage(Change),
    /// That what is staged in it is taken back.
    Unstage(Field),
}

/// An edit of one field, as a person sent it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Edit {
    /// The account.
    pub account: AccountId,
    /// What the person saw staged in the field; `None` when nothing was.
    pub seen: Option<Change>,
    /// What is wanted.
    pub wanted: Wanted,
}

/// What an edit did to a field.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Done {
    /// The account.
    pub account: AccountId,
    /// The field.
    pub field: Field,
    /// What was staged there before, if anything.
    pub before: Option<Change>,
    /// What is staged there now, if anything.
    pub after: Option<Change>,
    /// What stands there today; `None` for an account that the plan adds.
    pub base: Option<Change>,
}

/// Something else is staged in a field than the person saw there.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Conflict {
    /// The account.
    pub account: AccountId,
    /// The field.
    pub field: Field,
    /// What the person wanted; `None` to take the change back.
    pub mine: Option<Change>,
    /// What is staged now; `None` when it was taken back.
    pub theirs: Option<Change>,
    /// What stands there today.
    pub today: Option<Change>,
}

/// Why none of some edits was done.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum NotEdited {
    /// The same field is edited twice, so that it is not known which is meant.
    Twice(AccountId, Field),
    /// No account is put under such a line of the statements: there is none, or it is retired.
    NoSuchLine(AccountId),
    /// Somebody else was first in these fields.
    Conflicts(Vec<Conflict>),
}

impl Wanted {
    /// The field that it is about.
    pub fn field(&self) -> Field {
        match self {
            Self::Stage(change) => change.field(),
            Self::Unstage(field) => *field,
        }
    }

    /// What should be staged then, on some day. What becomes as it is today is no change.
    fn against(&self, today: Option<&Change>, day: Date) -> Option<Change> {
        let change = match (self, today) {
            (Self::Unstage(_), _) => return None,
            (Self::Stage(Change::Fate(fate)), Some(Change::Fate(is))) => {
                Change::Fate(fate.dated(Some(*is), day))
            }
            (Self::Stage(change), _) => change.clone(),
        };
        Some(change).filter(|change| today != Some(change))
    }
}

impl Edit {
    /// An edit of a field in which one knows what is staged.
    pub fn over(plan: &Plan, account: AccountId, wanted: Wanted) -> Self {
        Self { account, seen: plan.staged(account, wanted.field()).cloned(), wanted }
    }

    /// The edit that makes a field what it was before one was done, as long as nobody changed it since.
    pub fn reversing(done: &Done) -> Self {
        let wanted = done.before.clone().map_or(Wanted::Unstage(done.field), Wanted::Stage);
        Self { account: done.account, seen: done.after.clone(), wanted }
    }

    /// An edit of an account that a plan adds, which nobody has seen yet.
    pub fn adding(account: AccountId, change: Change) -> Self {
        Self { account, seen: None, wanted: Wanted::Stage(change) }
    }
}

impl Plan {
    /// What is staged in a field of an account.
    pub fn staged(&self, account: AccountId, field: Field) -> Option<&Change> {
        Some(&self.targets.get(&account)?.get(&field)?.change)
    }

    /// Carries out edits on the chart as it stands on a day: all of them or none. With an account that the plan
    /// adds, all that is staged of it is taken back.
    ///
    /// # Errors
    /// When a field is edited twice, there is no such line of the statements, or something else is staged in one than the person saw there.
    /// Both wanting the same is no conflict.
    pub fn edit(
        &mut self,
        chart: &Chart,
        edits: &[Edit],
        day: Date,
    ) -> Result<Vec<Done>, NotEdited> {
        let whole = self.with_all_of_added(edits);
        let edits = whole.as_deref().unwrap_or(edits);
        let mut fields = HashSet::with_capacity(edits.len());
        let (mut done, mut conflicts) = (Vec::with_capacity(edits.len()), Vec::new());
        for Edit { account, seen, wanted } in edits {
            let (account, field) = (*account, wanted.field());
            if !fields.insert((account, field)) {
                return Err(NotEdited::Twice(account, field));
            }
            if let Wanted::Stage(Change::Caption(Some(line))) = wanted
                && !chart.structure().offers(*line)
            {
                return Err(NotEdited::NoSuchLine(account));
            }
            let base = chart.get(account).map(|today| Change::of(today, field));
            let before = self.staged(account, field);
            let after = wanted.against(base.as_ref(), day);
            let before = before.cloned();
            if before != *seen && before != after {
                let (mine, theirs) = (after, before);
                conflicts.push(Conflict { account, field, mine, theirs, today: base });
            } else {
                done.push(Done { account, field, before, after, base });
            }
        }
        if !conflicts.is_empty() {
            return Err(NotEdited::Conflicts(conflicts));
        }
        self.carry_out(&done);
        Ok(done)
    }

    /// The edits with all that goes with an account that is not to be added any more, if there is one.
    fn with_all_of_added(&self, edits: &[Edit]) -> Option<Vec<Edit>> {
        let is_added = |edit: &&Edit| {
            edit.wanted == Wanted::Unstage(Field::Fate)
                && self.fate(edit.account) == Some(Fate::Add)
        };
        let gone: Vec<_> = edits.iter().filter(is_added).map(|edit| edit.account).collect();
        if gone.is_empty() {
            return None;
        }
        let said: HashSet<_> = edits.iter().map(|e| (e.account, e.wanted.field())).collect();
        let fields = |account: AccountId| self.targets.get(&account).into_iter().flatten();
        let others = gone.into_iter().flat_map(|account| {
            let staged = fields(account).map(move |(field, _)| (account, *field));
            staged.filter(|one| !said.contains(one))
        });
        let others =
            others.map(|(account, field)| Edit::over(self, account, Wanted::Unstage(field)));
        Some(edits.iter().cloned().chain(others).collect())
    }

    /// Carries out what edits were found to do.
    pub fn carry_out(&mut self, done: &[Done]) {
        for Done { account, field, after, base, .. } in done {
            match after {
                Some(change) => self.stage(*account, base.clone(), change.clone()),
                None => self.unstage(*account, *field),
            }
        }
    }

    /// Stages a change on the chart as it stands today, in place of whatever is staged in the field.
    /// What becomes as it is today takes that back.
    pub fn set(&mut self, chart: &Chart, account: AccountId, change: Change) {
        let base = chart.get(account).map(|today| Change::of(today, change.field()));
        if base.as_ref() == Some(&change) {
            self.unstage(account, change.field());
        } else {
            self.stage(account, base, change);
        }
    }

    fn unstage(&mut self, account: AccountId, field: Field) {
        if let Some(target) = self.targets.get_mut(&account) {
            target.remove(&field);
            if target.is_empty() {
                self.targets.remove(&account);
            }
        }
    }
}
