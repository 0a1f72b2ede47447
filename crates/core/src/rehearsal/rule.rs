//! The rules that a plan is judged by: their names, and how grave each is under a policy.

use crate::keyed::keyed;
use crate::policy::{Level, Policy, RelaxableRule};

keyed! {
    /// How grave a finding is; stops come first.
    Severity {
        /// Must be resolved before the plan can be applied.
        Stop = "stop", "stop";
        /// Must be acknowledged.
        Caution = "caution", "caution";
    }
}

/// What a rule does to a plan that breaks it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Force {
    /// The plan cannot be applied.
    Stop,
    /// It cannot, unless a reviewer goes on with a typed reason.
    StopUnlessOverridden,
    /// A person must have read it.
    Caution,
    /// As the books' policy has it.
    AsPolicy(RelaxableRule),
}

/// Declares the rules, a row each: key, title, and what it does to a plan.
macro_rules! rules {
    ($($(#[$doc:meta])* $name:ident = $key:literal, $title:literal, $force:ident$(($rule:expr))?;)+) => {
        keyed! {
            /// The rules. The sentence of a finding says what is wrong; these say which kind of thing.
            Rule { $($(#[$doc])* $name = $key, $title;)+ }
        }

        impl Rule {
            const fn force(self) -> Force {
                match self { $(Self::$name => Force::$force$(($rule))?,)+ }
            }
        }
    };
}

rules! {
    /// The plan names an account that no longer exists.
    AccountGone = "account_gone", "account is gone", Stop;
    /// A field changed between staging and today.
    BaseChanged = "base_changed", "changed since it was staged", Caution;
    /// An added account lacks its code, name or class.
    AddedIncomplete = "added_incomplete", "new account is incomplete", Stop;
    /// Two accounts After bear the same code.
    CodeTaken = "code_taken", "code is taken", Stop;
    /// The code does not have the form that the books lay down.
    CodeFormat = "code_format", "code has another form", Stop;
    /// No code of the books has the form, where none is laid down.
    CodeUnlike = "code_unlike", "code unlike all others", Caution;
    /// The code lies outside the blocks of its class.
    CodeOutsideBlock = "code_outside_block", "outside its block", AsPolicy(RelaxableRule::OutsideBlock);
    /// Another account used to bear the code.
    CodeReused = "code_reused", "former code reused", AsPolicy(RelaxableRule::ReusedCode);
    /// Another account is called so.
    NameTaken = "name_taken", "name is taken", Caution;
    /// Merged accounts form a circle.
    MergeCircle = "merge_circle", "merges in a circle", Stop;
    /// The survivor is itself merged.
    MergeChain = "merge_chain", "merge goes on", Caution;
    /// The survivor does not exist, is not active, or is being retired.
    MergeIntoRetired = "merge_into_retired", "survivor is not active", Stop;
    /// Heading, account and sum line cannot merge into each other.
    MergeKind = "merge_kind", "different kind", Stop;
    /// The classes differ.
    MergeClass = "merge_class", "different class", Stop;
    /// The fixed currencies differ.
    MergeCurrency = "merge_currency", "different currency", Stop;
    /// The control roles do not agree.
    MergeRole = "merge_role", "different control role", Stop;
    /// Section, contra, tax or heading differ.
    MergeSettings = "merge_settings", "settings differ", Caution;
    /// A bank account with lines cleared in a reconciliation.
    MergeBankCleared = "merge_bank_cleared", "reconciled bank lines", StopUnlessOverridden;
    /// Rows that stand under an account which goes away.
    ChildrenLeft = "children_left", "rows left under it", Stop;
    /// An account with journal lines cannot be deleted.
    DeleteUsed = "delete_used", "has lines", Stop;
    /// An account that others were merged into cannot be deleted.
    DeleteMerged = "delete_merged", "others were merged into it", Stop;
    /// An account that something names cannot be deleted.
    DeleteNamed = "delete_named", "still named elsewhere", Stop;
    /// An account with a control role cannot be deleted.
    DeleteControl = "delete_control", "has a control role", Stop;
    /// It cannot be known that the account was never used.
    DeleteUnproven = "delete_unproven", "not proven unused", Caution;
    /// Archiving an account that has a balance.
    ArchiveBalance = "archive_balance", "has a balance", AsPolicy(RelaxableRule::ArchiveWithBalance);
    /// Archiving an account that was posted to recently.
    ArchiveRecent = "archive_recent", "posted to recently", AsPolicy(RelaxableRule::ArchiveWhenRecent);
    /// Archiving an account with a control role.
    ArchiveControl = "archive_control", "has a control role", Stop;
    /// Archiving an account that something names.
    ArchiveNamed = "archive_named", "still named elsewhere", Stop;
    /// Deactivating an account with a control role.
    DeactivateControl = "deactivate_control", "the books rely on it", Caution;
    /// Deactivating an account of the balance sheet that has a balance.
    DeactivateBalance = "deactivate_balance", "a balance stays on it", Caution;
    /// Deactivating an account that was posted to recently.
    DeactivateRecent = "deactivate_recent", "is still posted to", Caution;
    /// Restoring an account that is active, or that was merged.
    RestoreNothing = "restore_nothing", "nothing to restore", Stop;
    /// The class changes within one statement.
    ClassWithin = "class_within", "class changes", Caution;
    /// The class changes between balance sheet and income statement.
    ClassAcross = "class_across", "class changes statement", StopUnlessOverridden;
    /// A row with lines, or with rows under it, becomes another kind of row.
    KindUsed = "kind_used", "cannot become that", Stop;
    /// A sum line adds nothing up.
    SumEmpty = "sum_empty", "adds nothing up", Stop;
    /// The books can have one account of the role, and have another.
    RoleTaken = "role_taken", "control role is taken", Stop;
    /// A currency may not be fixed on such an account.
    CurrencyNotAllowed = "currency_not_allowed", "no fixed currency here", Stop;
    /// The account has lines in other currencies than the one to be fixed.
    CurrencyMixed = "currency_mixed", "has other currencies", Stop;
    /// The account is presented on the other side.
    ContraChanges = "contra_changes", "contra changes", Caution;
    /// The section does not belong to the class.
    SectionForeign = "section_foreign", "section of another class", Stop;
    /// The account stood under a section, and is to stand under none.
    SectionDropped = "section_dropped", "leaves its section", Caution;
    /// The parent is missing or is no heading.
    ParentUnfit = "parent_unfit", "cannot stand there", Stop;
    /// Headings stand under each other in a circle.
    ParentCircle = "parent_circle", "headings in a circle", Stop;
    /// The heading belongs to another class.
    ParentClass = "parent_class", "heading of another class", Caution;
    /// The account that history is to go to does not take any.
    MoveNowhere = "move_nowhere", "cannot take history", Stop;
    /// Several parts of a split would take the same lines.
    MoveOverlap = "move_overlap", "parts overlap", Stop;
    /// No line fits a part of a split.
    MoveNothing = "move_nothing", "nothing moves", Caution;
    /// The lines are in other currencies than the account takes.
    MoveCurrency = "move_currency", "different currency", Stop;
    /// Lines leave an account that the books rely on.
    MoveControl = "move_control", "leaves a control account", Caution;
    /// Lines cleared in a bank reconciliation.
    MoveBankCleared = "move_bank_cleared", "reconciled bank lines", StopUnlessOverridden;
    /// The amounts stand elsewhere on the statements.
    MoveCaption = "move_caption", "other section", Caution;
    /// The amounts of closed years stand on the other statement.
    MoveAcross = "move_across", "other statement", StopUnlessOverridden;
    /// The total of a section changes inside a locked period.
    LockedTotal = "locked_total", "locked period changes", StopUnlessOverridden;
    /// A sum line cannot follow its members.
    SumLost = "sum_lost", "sum line cannot follow", Stop;
    /// A line of a report cannot follow its members.
    ReportLineLost = "report_line_lost", "report line cannot follow", StopUnlessOverridden;
    /// A merge crosses the edge of a sum line, or of a line of a report.
    SumEdge = "sum_edge", "sum changes", Caution;
    /// A later plan built on what is to be undone.
    UndoLater = "undo_later", "a later plan stands on it", Stop;
    /// An added account was posted to since and is kept.
    UndoKept = "undo_kept", "stays, it has lines", Caution;
}

impl Rule {
    /// How grave the rule is under a policy; `None` when the policy has it switched off.
    pub fn severity(self, policy: &Policy) -> Option<Severity> {
        let level = match self.force() {
            Force::Stop | Force::StopUnlessOverridden => Level::Stop,
            Force::Caution => Level::Caution,
            Force::AsPolicy(rule) => policy.level(rule),
        };
        match level {
            Level::Stop => Some(Severity::Stop),
            Level::Caution => Some(Severity::Caution),
            Level::Off => None,
        }
    }

    /// Whether a reviewer may go on in spite of the stop, with a typed reason.
    pub fn can_be_overridden(self) -> bool {
        self.force() == Force::StopUnlessOverridden
    }
}
