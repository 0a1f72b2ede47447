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

/// Declares the rules, a row each: key, and what it does to a plan.
macro_rules! rules {
    ($($(#[$doc:meta])* $name:ident = $key:literal, $force:ident$(($rule:expr))?;)+) => {
        keyed! {
            /// The rules.
            Rule { $($(#[$doc])* $name = $key;)+ }
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
    AccountGone = "account_gone", Stop;
    /// A field changed between staging and today.
    BaseChanged = "base_changed", Caution;
    /// An added account lacks its code, name or class.
    AddedIncomplete = "added_incomplete", Stop;
    /// Two accounts After bear the same code.
    CodeTaken = "code_taken", Stop;
    /// The code does not have the form that the books lay down.
    CodeFormat = "code_format", Stop;
    /// No code of the books has the form, where none is laid down.
    CodeUnlike = "code_unlike", Caution;
    /// The code lies outside the blocks of its class.
    CodeOutsideBlock = "code_outside_block", AsPolicy(RelaxableRule::OutsideBlock);
    /// Another account used to bear the code.
    CodeReused = "code_reused", AsPolicy(RelaxableRule::ReusedCode);
    /// Another account is called so.
    NameTaken = "name_taken", Caution;
    /// Merged accounts form a circle.
    MergeCircle = "merge_circle", Stop;
    /// The survivor is itself merged.
    MergeChain = "merge_chain", Caution;
    /// The survivor does not exist, is not active, or is being retired.
    MergeIntoRetired = "merge_into_retired", Stop;
    /// Heading, account and sum line cannot merge into each other.
    MergeKind = "merge_kind", Stop;
    /// The classes differ.
    MergeClass = "merge_class", Stop;
    /// The fixed currencies differ.
    MergeCurrency = "merge_currency", Stop;
    /// The control roles do not agree.
    MergeRole = "merge_role", Stop;
    /// Section, contra, tax or heading differ.
    MergeSettings = "merge_settings", Caution;
    /// A bank account with lines cleared in a reconciliation.
    MergeBankCleared = "merge_bank_cleared", StopUnlessOverridden;
    /// Rows that stand under an account which goes away.
    ChildrenLeft = "children_left", Stop;
    /// An account with journal lines cannot be deleted.
    DeleteUsed = "delete_used", Stop;
    /// An account that others were merged into cannot be deleted.
    DeleteMerged = "delete_merged", Stop;
    /// An account that something names cannot be deleted.
    DeleteNamed = "delete_named", Stop;
    /// An account with a control role cannot be deleted.
    DeleteControl = "delete_control", Stop;
    /// It cannot be known that the account was never used.
    DeleteUnproven = "delete_unproven", Caution;
    /// Archiving an account that has a balance.
    ArchiveBalance = "archive_balance", AsPolicy(RelaxableRule::ArchiveWithBalance);
    /// Archiving an account that was posted to recently.
    ArchiveRecent = "archive_recent", AsPolicy(RelaxableRule::ArchiveWhenRecent);
    /// Archiving an account with a control role.
    ArchiveControl = "archive_control", Stop;
    /// Archiving an account that something names.
    ArchiveNamed = "archive_named", Stop;
    /// Deactivating an account with a control role.
    DeactivateControl = "deactivate_control", Caution;
    /// Deactivating an account of the balance sheet that has a balance.
    DeactivateBalance = "deactivate_balance", Caution;
    /// Deactivating an account that was posted to recently.
    DeactivateRecent = "deactivate_recent", Caution;
    /// Restoring an account that is active, or that was merged.
    RestoreNothing = "restore_nothing", Stop;
    /// The class changes within one statement.
    ClassWithin = "class_within", Caution;
    /// The class changes between balance sheet and income statement.
    ClassAcross = "class_across", StopUnlessOverridden;
    /// A row with lines, or with rows under it, becomes another kind of row.
    KindUsed = "kind_used", Stop;
    /// A sum line adds nothing up.
    SumEmpty = "sum_empty", Stop;
    /// The books can have one account of the role, and have another.
    RoleTaken = "role_taken", Stop;
    /// A currency may not be fixed on such an account.
    CurrencyNotAllowed = "currency_not_allowed", Stop;
    /// The account has lines in other currencies than the one to be fixed.
    CurrencyMixed = "currency_mixed", Stop;
    /// The account is presented on the other side.
    ContraChanges = "contra_changes", Caution;
    /// The section does not belong to the class.
    SectionForeign = "section_foreign", Stop;
    /// The account stood under a section, and is to stand under none.
    SectionDropped = "section_dropped", Caution;
    /// The parent is missing or is no heading.
    ParentUnfit = "parent_unfit", Stop;
    /// Headings stand under each other in a circle.
    ParentCircle = "parent_circle", Stop;
    /// The heading belongs to another class.
    ParentClass = "parent_class", Caution;
    /// The account that history is to go to does not take any.
    MoveNowhere = "move_nowhere", Stop;
    /// Several parts of a split would take the same lines.
    MoveOverlap = "move_overlap", Stop;
    /// No line fits a part of a split.
    MoveNothing = "move_nothing", Caution;
    /// The lines are in other currencies than the account takes.
    MoveCurrency = "move_currency", Stop;
    /// Lines leave an account that the books rely on.
    MoveControl = "move_control", Caution;
    /// Lines cleared in a bank reconciliation.
    MoveBankCleared = "move_bank_cleared", StopUnlessOverridden;
    /// The amounts stand elsewhere on the statements.
    MoveCaption = "move_caption", Caution;
    /// The amounts of closed years stand on the other statement.
    MoveAcross = "move_across", StopUnlessOverridden;
    /// The total of a section changes inside a locked period.
    LockedTotal = "locked_total", StopUnlessOverridden;
    /// A sum line cannot follow its members.
    SumLost = "sum_lost", Stop;
    /// A line of a report cannot follow its members.
    ReportLineLost = "report_line_lost", StopUnlessOverridden;
    /// A merge crosses the edge of a sum line, or of a line of a report.
    SumEdge = "sum_edge", Caution;
    /// A later plan built on what is to be undone.
    UndoLater = "undo_later", Stop;
    /// An added account was posted to since and is kept.
    UndoKept = "undo_kept", Caution;
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
