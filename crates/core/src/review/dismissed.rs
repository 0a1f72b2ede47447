//! What people have said is right in these books, though it looks odd.

use super::remarks::{Remark, RemarkKind};
use std::collections::BTreeSet;

pub use super::remarks::Subject;

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

#[cfg(test)]
mod tests {
    use super::*;
    use crate::ids::{AccountId, ItemId};
    use crate::review::remarks::Seen;

    fn remark(kind: RemarkKind, accounts: &[i64], item: Option<i64>) -> Remark {
        Remark {
            kind,
            accounts: accounts.iter().map(|id| AccountId(*id)).collect(),
            item: item.map(ItemId),
            seen: Seen::HeadingEmpty,
            proposed: None,
            score: None,
        }
    }

    #[test]
    fn a_remark_is_dismissed_alone_or_with_all_of_its_kind() {
        use RemarkKind::{HeadingEmpty, ItemEmpty, NameForm};
        let mut dismissed = Dismissed::default();
        dismissed.dismiss(NameForm, Some(Subject::Account(AccountId(1))));
        dismissed.dismiss(ItemEmpty, Some(Subject::Item(ItemId(1))));
        assert!(dismissed.has(&remark(NameForm, &[1], None)));
        assert!(!dismissed.has(&remark(NameForm, &[2], None)), "another account");
        assert!(!dismissed.has(&remark(NameForm, &[1, 2], None)), "not all it is about");
        assert!(!dismissed.has(&remark(HeadingEmpty, &[1], None)), "another kind");
        assert!(dismissed.has(&remark(ItemEmpty, &[], Some(1))));
        assert!(!dismissed.has(&remark(ItemEmpty, &[], Some(2))));
        assert!(!dismissed.has(&remark(ItemEmpty, &[], None)), "nothing is said of it");
        dismissed.dismiss(NameForm, None);
        assert!(dismissed.has(&remark(NameForm, &[2], None)));
        assert!(!dismissed.has(&remark(HeadingEmpty, &[2], None)));
    }
}
