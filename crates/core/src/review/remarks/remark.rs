//! A remark: its kind, what it is about, and what would be right.

use crate::chart::{Account, Class, ControlRole, Kind, Status};
use crate::code::Interval;
use crate::ids::{AccountId, ItemId};
use crate::keyed::keyed;
use time::Date;

/// What a remark is about.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Subject {
    /// An account.
    Account(AccountId),
    /// A statement item.
    Item(ItemId),
}

keyed! {
    /// The kinds of remark.
    RemarkKind {
        /// A heading or sum line that has lines.
        HeadingPosted = "heading_posted";
        /// A suspense account that has a balance.
        SuspenseBalance = "suspense_balance";
        /// An account that takes no lines has a balance.
        InactiveBalance = "inactive_balance";
        /// The account is used as one of another class would be.
        ClassContradicted = "class_contradicted";
        /// The balance is on the side where it should not be.
        UnusualSide = "unusual_side";
        /// The code lies outside the blocks of its class, or among those of another.
        OutOfBlock = "out_of_block";
        /// The heading belongs to another class.
        ParentClass = "parent_class";
        /// A bank account without a line for a year.
        BankSilent = "bank_silent";
        /// A heading without rows under it.
        HeadingEmpty = "heading_empty";
        /// A heading with one row under it.
        LoneChild = "lone_child";
        /// A statement item without an account.
        ItemEmpty = "item_empty";
        /// An account that was next to nothing of its statement item for years.
        SmallShare = "small_share";
        /// A code of another length than nearly all others.
        CodeWidth = "code_width";
        /// The account is one that the books rely on by its name, and no role says so.
        ControlByName = "control_by_name";
        /// A name in capitals, in small letters, with stray signs, or with a slip.
        NameForm = "name_form";
    }
}

/// What is seen, in figures. Amounts are minor units of the base currency; debits are positive.
#[derive(Clone, Debug, PartialEq, Eq)]
#[expect(
    missing_docs,
    reason = "a variant is told where its kind is, a field by its name and type"
)]
pub enum Seen {
    HeadingPosted {
        kind: Kind,
        lines: u64,
    },
    SuspenseBalance {
        balance: i128,
    },
    InactiveBalance {
        status: Status,
        balance: i128,
    },
    /// How sure it is, of 100; not said where nearly all lines are on the other side and nothing else speaks for it.
    ClassContradicted {
        class: Class,
        right: Class,
        debits: i128,
        credits: i128,
        percent: Option<u8>,
    },
    UnusualSide {
        class: Class,
        balance: i128,
    },
    /// The codes beside it are of another class.
    AmongOthers {
        class: Class,
        others: Class,
    },
    /// It lies outside these blocks.
    OutsideBlocks {
        class: Class,
        blocks: Vec<Interval>,
    },
    ParentClass {
        class: Class,
        parent: AccountId,
        of_parent: Class,
    },
    /// The day of its last line, if it had any.
    BankSilent {
        last: Option<Date>,
        balance: i128,
    },
    HeadingEmpty,
    LoneChild {
        row: AccountId,
    },
    ItemEmpty {
        class: Class,
    },
    /// Of each year, the latest first, its amount and that of its line.
    SmallShare {
        years: Vec<(i128, i128)>,
    },
    /// How many others have the usual width.
    CodeWidth {
        width: usize,
        usual: usize,
        others: usize,
    },
    ControlByName {
        role: ControlRole,
    },
    NameForm(NameForm),
}

/// How a name is written otherwise than others.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum NameForm {
    /// Spaces that part nothing.
    StraySpaces,
    /// In capitals throughout.
    Capitals,
    /// With a small letter first.
    SmallLetter,
    /// Signs that say nothing.
    StraySigns,
    /// A word with a slip, and the one that others have.
    Slip(String, String),
}

impl Seen {
    /// The kind of remark that it is.
    pub const fn kind(&self) -> RemarkKind {
        match self {
            Self::HeadingPosted { .. } => RemarkKind::HeadingPosted,
            Self::SuspenseBalance { .. } => RemarkKind::SuspenseBalance,
            Self::InactiveBalance { .. } => RemarkKind::InactiveBalance,
            Self::ClassContradicted { .. } => RemarkKind::ClassContradicted,
            Self::UnusualSide { .. } => RemarkKind::UnusualSide,
            Self::AmongOthers { .. } | Self::OutsideBlocks { .. } => RemarkKind::OutOfBlock,
            Self::ParentClass { .. } => RemarkKind::ParentClass,
            Self::BankSilent { .. } => RemarkKind::BankSilent,
            Self::HeadingEmpty => RemarkKind::HeadingEmpty,
            Self::LoneChild { .. } => RemarkKind::LoneChild,
            Self::ItemEmpty { .. } => RemarkKind::ItemEmpty,
            Self::SmallShare { .. } => RemarkKind::SmallShare,
            Self::CodeWidth { .. } => RemarkKind::CodeWidth,
            Self::ControlByName { .. } => RemarkKind::ControlByName,
            Self::NameForm(_) => RemarkKind::NameForm,
        }
    }
}

/// Something odd.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Remark {
    /// What kind of thing it is.
    pub kind: RemarkKind,
    /// The accounts it is about; none when it is about a statement item.
    pub accounts: Vec<AccountId>,
    /// The statement item it is about.
    pub item: Option<ItemId>,
    /// What is seen, in figures.
    pub seen: Seen,
    /// What would be right, where that is known.
    pub proposed: Option<Proposed>,
    /// How sure that is, of 100, where it was calculated.
    pub score: Option<u8>,
}

impl Remark {
    /// What it is about.
    pub fn about(&self) -> impl Iterator<Item = Subject> {
        let accounts = self.accounts.iter().copied().map(Subject::Account);
        accounts.chain(self.item.map(Subject::Item))
    }

    /// What is seen of an account.
    pub(super) fn of(account: &Account, seen: Seen) -> Self {
        let (kind, accounts) = (seen.kind(), vec![account.id]);
        Self { kind, accounts, item: None, seen, proposed: None, score: None }
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
