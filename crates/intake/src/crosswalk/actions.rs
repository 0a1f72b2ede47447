//! What the column of actions of a crosswalk asks for, in the words of whoever wrote it.

use crate::cause::Cause;
use crate::columns::{Column, reduce};
use crate::question::{About, Answer, Asks, Gives, Means, Question};
use crate::reading::Reading;
use crate::words::{self, ActionWord};
use crate::{RawRow, Rejected};
use std::collections::BTreeMap;
use zf_core::plan::Fate;

/// Reads actions.
pub(super) struct Actions<'a>(&'a Reading);

impl<'a> Actions<'a> {
    pub(super) fn of(reading: &'a Reading) -> Self {
        Self(reading)
    }

    fn wording(&self, row: &RawRow) -> String {
        reduce(self.0.layout.cell(row, Column::Action))
    }

    fn known(&self, wording: &str) -> Option<ActionWord> {
        let answered = || self.0.answers.get(&About::Action(wording.to_owned()));
        words::action(wording).or_else(|| ActionWord::from_key(answered()?))
    }

    /// The action of a row; none where the row has none.
    ///
    /// # Errors
    /// When nobody knows the word, which is asked.
    pub(super) fn read(&self, row: &RawRow) -> Result<Option<ActionWord>, Rejected> {
        let wording = self.wording(row);
        match self.known(&wording) {
            None if !wording.is_empty() => {
                Err(self.0.layout.reject(row, Column::Action, Cause::ActionUnknown))
            }
            action => Ok(action),
        }
    }

    /// Asks what words mean that nobody knows.
    pub(super) fn questions(&self, rows: &[&RawRow]) -> Vec<Question> {
        let mut unknown: BTreeMap<String, (String, usize)> = BTreeMap::new();
        for row in rows {
            let wording = self.wording(row);
            if !wording.is_empty() && self.known(&wording).is_none() {
                let text = self.0.layout.cell(row, Column::Action).to_owned();
                unknown.entry(wording).or_insert((text, 0)).1 += 1;
            }
        }
        let ask = |(wording, (text, rows)): (String, (String, usize))| {
            let answer = |action: &ActionWord| {
                Answer::new(action.key(), Means::Action(*action), Gives::Rows(rows))
            };
            Question {
                about: About::Action(wording),
                asks: Asks::Action(text),
                readings: ActionWord::ALL.iter().map(answer).collect(),
                default: None,
            }
        };
        unknown.into_iter().map(ask).collect()
    }
}

/// What a row asks for, with what it gives.
pub(super) struct RowActions {
    pub(super) action: Option<ActionWord>,
    pub(super) has_code: bool,
    pub(super) has_name: bool,
}

impl RowActions {
    /// What becomes of the account beside a code or a name.
    pub(super) fn fate(&self) -> Option<Fate> {
        match self.action? {
            ActionWord::Deactivate => Some(Fate::deactivate()),
            ActionWord::Archive => Some(Fate::archive()),
            ActionWord::Delete => Some(Fate::Delete),
            ActionWord::Restore => Some(Fate::Restore),
            _ => None,
        }
    }

    /// Refuses an action that lacks its target, or has one that it cannot have.
    pub(super) fn check(&self) -> Result<(), (Column, Cause)> {
        let lacks = |cause| Err((Column::NewCode, cause));
        match self.action {
            Some(ActionWord::Merge) if !self.has_code => lacks(Cause::MergeWithoutCode),
            Some(ActionWord::Renumber) if !self.has_code => lacks(Cause::NewCodeMissing),
            Some(ActionWord::Rename) if !self.has_name && !self.has_code => {
                Err((Column::NewName, Cause::NewNameMissing))
            }
            _ => Ok(()),
        }
    }
}
