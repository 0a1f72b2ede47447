//! What people have said is right in these books, though it looks odd.

use super::remarks::{Remark, RemarkKind};
use crate::ids::{AccountId, LineId};
use std::collections::BTreeSet;

/// What a remark is about.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Subject {
    /// An account.
    Account(AccountId),
    /// A line of the statements.
    Line(LineId),
}

/// Remarks that are not to be shown again.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Dismissed {
    kinds: BTreeSet<RemarkKind>,
    single: BTreeSet<(RemarkKind, Subject)>,
}

impl Dismissed {
    /// Dismisses what is remarked about a subject; without one, all of the kind.
    pub fn dismiss(&mut self, kind: RemarkKind, about: Option<Subject>) {
        match about {
            Some(subject) => self.single.insert((kind, subject)),
            None => self.kinds.insert(kind),
        };
    }

    /// Whether a remark is dismissed: all of its kind, or that about each of what it is about.
    pub fn has(&self, remark: &Remark) -> bool {
        let mut about = remark.about().peekable();
        let single = |subject| self.single.contains(&(remark.kind, subject));
        self.kinds.contains(&remark.kind) || about.peek().is_some() && about.all(single)
    }
}
