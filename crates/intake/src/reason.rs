//! Why a row cannot be taken, or what is worth knowing of it, as stable keys: what a script may rely
//! on, and what rows are grouped by.

use super::dates::NotADate;
use super::numbers::{AmountProblem, NotAnAmount};
use zf_core::code::NotACode;
use zf_core::keyed;
use zf_core::plan::texts::NotAText;

keyed! {
    /// What is wrong with a row, or worth knowing of it.
    Reason {
        /// The code was borne by several accounts.
        AccountAmbiguous = "account_ambiguous", "former code of several accounts";
        /// The line is dated after the day from which its account is deactivated or archived.
        AccountRetired = "account_retired", "dated after its account was closed";
        /// The account takes no new lines, and its lines come in as they were posted then.
        AccountPast = "account_past", "account takes no new lines";
        /// A heading or sum line takes no lines.
        AccountNotPosting = "account_not_posting", "not a posting account";
        /// No account has, or ever had, the code.
        AccountUnknown = "account_unknown", "unknown account";
        /// The amount can be read in two ways.
        AmountAmbiguous = "amount_ambiguous", "amount can be read in two ways";
        /// The amount is missing.
        AmountMissing = "amount_missing", "amount is missing";
        /// The amount is too large to be kept.
        AmountTooLarge = "amount_too_large", "amount is too large";
        /// The line has a debit and a credit, or an amount besides.
        AmountTwice = "amount_twice", "more than one amount";
        /// The amount is not a number.
        AmountUnreadable = "amount_unreadable", "not an amount";
        /// The caption is none of the standard lines, and becomes one of the books' own.
        CaptionOwn = "caption_own", "caption of the books’ own";
        /// The caption above is of another class.
        ClassOfCaption = "class_of_caption", "caption of another class";
        /// The file puts the account on the other statement.
        ClassOfStatement = "class_of_statement", "other statement than the class";
        /// The class of the heading is another.
        ClassOfHeading = "class_of_heading", "heading of another class";
        /// The class is missing, and nothing tells it.
        ClassMissing = "class_missing", "class is missing";
        /// No such class is known.
        ClassUnknown = "class_unknown", "unknown class";
        /// The code does not have the form that the books lay down.
        CodeFormat = "code_format", "code has another form";
        /// The code is too long or has characters that cannot be printed.
        CodeMalformed = "code_malformed", "malformed code";
        /// The code is missing.
        CodeMissing = "code_missing", "code is missing";
        /// An earlier row of the file has the same code.
        CodeTwice = "code_twice", "code stands twice";
        /// Contra and normal balance contradict each other.
        ContraContradicts = "contra_contradicts", "contra and normal balance disagree";
        /// A currency may not be fixed on such an account.
        CurrencyNotAllowed = "currency_not_allowed", "no fixed currency here";
        /// The account holds another currency only.
        CurrencyOther = "currency_other", "account holds another currency";
        /// The text is not a currency.
        CurrencyUnknown = "currency_unknown", "unknown currency";
        /// The date can be read in two ways.
        DateAmbiguous = "date_ambiguous", "date can be read in two ways";
        /// The text is not a date.
        DateUnreadable = "date_unreadable", "not a date";
        /// The amount has more decimals than its currency.
        DecimalsTooMany = "decimals_too_many", "too many decimals";
        /// The lines of the entry have different dates.
        EntryDates = "entry_dates", "entry of several dates";
        /// The kind of entry is not known.
        EntryKindUnknown = "entry_kind_unknown", "unknown kind of entry";
        /// The entry number is missing.
        EntryMissing = "entry_missing", "entry number is missing";
        /// Another row of the same entry cannot be taken.
        EntrySpoilt = "entry_spoilt", "another row of the entry is wrong";
        /// The journal has the entry otherwise.
        EntryChanged = "entry_changed", "entry is otherwise in the journal";
        /// The debits and credits of the entry differ.
        EntryUnbalanced = "entry_unbalanced", "entry does not balance";
        /// The amount in the currency of the line is missing.
        ForeignMissing = "foreign_missing", "foreign amount is missing";
        /// The headings above the row stand under each other in a circle.
        HeadingCircle = "heading_circle", "headings in a circle";
        /// The row names itself as its heading.
        HeadingItself = "heading_itself", "stands under itself";
        /// No heading has this code.
        HeadingUnknown = "heading_unknown", "unknown heading";
        /// The row it should stand under is not a heading.
        HeadingUnfit = "heading_unfit", "not a heading";
        /// What the sum line adds up cannot be read.
        IntervalsMalformed = "intervals_malformed", "malformed intervals";
        /// A sum line lacks what it adds up.
        IntervalsMissing = "intervals_missing", "intervals are missing";
        /// Nobody knows what the action asks for.
        ActionUnknown = "action_unknown", "unknown action";
        /// Accounts would be merged into each other, and none be left.
        MergeRing = "merge_ring", "merges in a ring";
        /// Accounts of different classes would be merged.
        MergeClass = "merge_class", "merge across classes";
        /// Accounts and headings would be merged.
        MergeKind = "merge_kind", "merge across kinds";
        /// The name is longer than an account's may be.
        NameTooLong = "name_too_long", "name is too long";
        /// The name is missing.
        NameMissing = "name_missing", "name is missing";
        /// The new name is that of another account.
        NameOfAnother = "name_of_another", "name of another account";
        /// The new code is missing.
        NewCodeMissing = "new_code_missing", "new code is missing";
        /// The open parts of old and new code are not as many.
        PatternsDiffer = "patterns_differ", "patterns do not fit";
        /// The side is neither debit nor credit.
        SideUnknown = "side_unknown", "unknown side";
        /// The date lies in a locked period.
        PeriodLocked = "period_locked", "locked period";
        /// The rate of exchange is not a positive number.
        RateUnreadable = "rate_unreadable", "not a rate";
        /// The control role is not known.
        RoleUnknown = "role_unknown", "unknown control role";
        /// Another account has the control role.
        RoleTaken = "role_taken", "control role is taken";
        /// A new account has the class of those beside it.
        ClassFromNeighbours = "class_from_neighbours", "class from the neighbours";
        /// The headings of the file stand here once more.
        HeaderAgain = "header_again", "headings repeated";
        /// A column that the spreadsheet hides.
        HiddenColumn = "hidden_column", "hidden column";
        /// Rows that the spreadsheet hides.
        HiddenRows = "hidden_rows", "hidden rows";
        /// A text is longer than it may be.
        TextTooLong = "text_too_long", "text is too long";
        /// A text holds what neither a database nor a file can.
        TextUnsound = "text_unsound", "text cannot be kept";
        /// A total of the file is not what it adds up.
        TotalOff = "total_off", "total is not its sum";
        /// A row of totals, which are worked out and not taken.
        TotalRow = "total_row", "row of totals";
        /// One code is to become two.
        TwoTargets = "two_targets", "two new codes for one old";
        /// What names the account is missing.
        UseMissing = "use_missing", "what uses it is missing";
    }
}

impl From<&NotACode> for Reason {
    fn from(error: &NotACode) -> Self {
        match error {
            NotACode::Empty => Self::CodeMissing,
            NotACode::TooLong(_) | NotACode::Unprintable(_) => Self::CodeMalformed,
        }
    }
}

impl From<&NotAText> for Reason {
    fn from(error: &NotAText) -> Self {
        match error {
            NotAText::EmptyName => Self::NameMissing,
            NotAText::LongName => Self::NameTooLong,
            NotAText::LongText(_) => Self::TextTooLong,
        }
    }
}

impl From<&NotADate> for Reason {
    fn from(error: &NotADate) -> Self {
        match error {
            NotADate::Ambiguous(_) => Self::DateAmbiguous,
            NotADate::Unreadable(_) => Self::DateUnreadable,
        }
    }
}

impl From<&NotAnAmount> for Reason {
    fn from(error: &NotAnAmount) -> Self {
        match error.problem {
            AmountProblem::NotANumber => Self::AmountUnreadable,
            AmountProblem::OtherCurrency { .. } => Self::CurrencyOther,
            AmountProblem::TooManyDecimals { .. } => Self::DecimalsTooMany,
            AmountProblem::TooLarge => Self::AmountTooLarge,
            AmountProblem::NotARate => Self::RateUnreadable,
        }
    }
}
