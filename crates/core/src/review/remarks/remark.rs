//! A remark: its kind, what it is about, and what would be right.

use crate::chart::{Account, Class, ControlRole};
use crate::ids::{AccountId, LineId};
use crate::keyed::keyed;

/// What a remark is about.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Subject {
    /// An account.
    Account(AccountId),
    /// A line of the statements.
    Line(LineId),
}

keyed! {
    /// The kinds of remark.
    RemarkKind {
        /// A heading or sum line that has lines.
        HeadingPosted = "heading_posted", "lines on a heading";
        /// A suspense account that has a balance.
        SuspenseBalance = "suspense_balance", "suspense not cleared";
        /// An account that takes no lines has a balance.
        InactiveBalance = "inactive_balance", "retired with a balance";
        /// The account is used as one of another class would be.
        ClassContradicted = "class_contradicted", "class contradicted";
        /// The balance is on the side where it should not be.
        UnusualSide = "unusual_side", "balance on the unusual side";
        /// The code lies outside the blocks of its class, or among those of another.
        OutOfBlock = "out_of_block", "out of its block";
        /// The heading belongs to another class.
        ParentClass = "parent_class", "heading of another class";
        /// A bank account without a line for a year.
        BankSilent = "bank_silent", "bank account without lines";
        /// A heading without rows under it.
        HeadingEmpty = "heading_empty", "nothing under it";
        /// A heading with one row under it.
        LoneChild = "lone_child", "heading of one row";
        /// A line of the statements without an account.
        LineEmpty = "line_empty", "statement line without accounts";
        /// An account that was next to nothing of its line of the statements for years.
        SmallShare = "small_share", "under 1% of its line for years";
        /// A code of another length than nearly all others.
        CodeWidth = "code_width", "code of another length";
        /// The account is one that the books rely on by its name, and no role says so.
        ControlByName = "control_by_name", "control account without a role";
        /// A name in capitals, in small letters, with stray signs, or with a slip.
        NameForm = "name_form", "name written otherwise";
    }
}

/// Something odd.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Remark {
    /// What kind of thing it is.
    pub kind: RemarkKind,
    /// The accounts it is about; none when it is about a line of the statements.
    pub accounts: Vec<AccountId>,
    /// The line of the statements it is about.
    pub line: Option<LineId>,
    /// What is seen and why it matters, in a plain sentence.
    pub message: String,
    /// What would be right, where that is known.
    pub proposed: Option<Proposed>,
    /// How sure that is, of 100, where it was reckoned.
    pub score: Option<u8>,
}

impl Remark {
    /// What it is about.
    pub fn about(&self) -> impl Iterator<Item = Subject> {
        let accounts = self.accounts.iter().copied().map(Subject::Account);
        accounts.chain(self.line.map(Subject::Line))
    }

    /// What is seen of an account.
    pub(super) fn of(kind: RemarkKind, account: &Account, message: String) -> Self {
        Self { kind, accounts: vec![account.id], line: None, message, proposed: None, score: None }
    }

    /// The same with what would be right.
    pub(super) fn proposing(self, proposed: Proposed) -> Self {
        Self { proposed: Some(proposed), ..self }
    }
}

/// What would be right of an account.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Proposed {
    /// This class.
    Class(Class),
    /// This name.
    Name(String),
    /// This role.
    Role(ControlRole),
    /// To be merged into this account.
    Merged(AccountId),
}
