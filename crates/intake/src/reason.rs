//! Why a row cannot be taken, or what is worth knowing of it, as stable keys: what a script may rely
//! on, and what rows are grouped by.

use super::dates::NotADate;
use super::numbers::{AmountProblem, NotAnAmount};
use zf_core::code::{NotACode, NotIntervals};
use zf_core::keyed;
use zf_core::money::NotACurrency;
use zf_core::plan::texts::NotAText;
use zf_core::text::Unsound;

keyed! {
    /// What is wrong with a row, or worth knowing of it.
    Reason {
        /// The code was borne by several accounts.
        AccountAmbiguous = "account_ambiguous";
        /// The line is dated after the day from which its account is deactivated or archived.
        AccountRetired = "account_retired";
        /// The account takes no new lines, and its lines come in as they were posted then.
        AccountPast = "account_past";
        /// A heading or sum line takes no lines.
        AccountNotPosting = "account_not_posting";
        /// No account has, or ever had, the code.
        AccountUnknown = "account_unknown";
        /// The amount can be read in two ways.
        AmountAmbiguous = "amount_ambiguous";
        /// The amount is missing.
        AmountMissing = "amount_missing";
        /// The amount is too large to be kept.
        AmountTooLarge = "amount_too_large";
        /// The line has a debit and a credit, or an amount besides.
        AmountTwice = "amount_twice";
        /// The amount is not a number.
        AmountUnreadable = "amount_unreadable";
        /// The caption is none of the standard lines, and becomes one of the books' own.
        CaptionOwn = "caption_own";
        /// The caption above is of another class.
        ClassOfCaption = "class_of_caption";
        /// The file puts the account on the other statement.
        ClassOfStatement = "class_of_statement";
        /// The class of the heading is another.
        ClassOfHeading = "class_of_heading";
        /// The class is missing, and nothing tells it.
        ClassMissing = "class_missing";
        /// No such class is known.
        ClassUnknown = "class_unknown";
        /// The code does not have the form that the books lay down.
        CodeFormat = "code_format";
        /// The code is too long or has characters that cannot be printed.
        CodeMalformed = "code_malformed";
        /// The code is missing.
        CodeMissing = "code_missing";
        /// An earlier row of the file has the same code.
        CodeTwice = "code_twice";
        /// Contra and normal balance contradict each other.
        ContraContradicts = "contra_contradicts";
        /// A currency may not be fixed on such an account.
        CurrencyNotAllowed = "currency_not_allowed";
        /// The account holds another currency only.
        CurrencyOther = "currency_other";
        /// The text is not a currency.
        CurrencyUnknown = "currency_unknown";
        /// The date can be read in two ways.
        DateAmbiguous = "date_ambiguous";
        /// The text is not a date.
        DateUnreadable = "date_unreadable";
        /// The amount has more decimals than its currency.
        DecimalsTooMany = "decimals_too_many";
        /// The lines of the entry have different dates.
        EntryDates = "entry_dates";
        /// The kind of entry is not known.
        EntryKindUnknown = "entry_kind_unknown";
        /// The entry number is missing.
        EntryMissing = "entry_missing";
        /// Another row of the same entry cannot be taken.
        EntrySpoilt = "entry_spoilt";
        /// The journal has the entry otherwise.
        EntryChanged = "entry_changed";
        /// The debits and credits of the entry differ.
        EntryUnbalanced = "entry_unbalanced";
        /// The amount in the currency of the line is missing.
        ForeignMissing = "foreign_missing";
        /// The headings above the row stand under each other in a circle.
        HeadingCircle = "heading_circle";
        /// The row names itself as its heading.
        HeadingItself = "heading_itself";
        /// No heading has this code.
        HeadingUnknown = "heading_unknown";
        /// The row it should stand under is not a heading.
        HeadingUnfit = "heading_unfit";
        /// What the sum line adds up cannot be read.
        IntervalsMalformed = "intervals_malformed";
        /// A sum line lacks what it adds up.
        IntervalsMissing = "intervals_missing";
        /// Nobody knows what the action asks for.
        ActionUnknown = "action_unknown";
        /// Accounts would be merged into each other, and none be left.
        MergeRing = "merge_ring";
        /// Accounts of different classes would be merged.
        MergeClass = "merge_class";
        /// Accounts and headings would be merged.
        MergeKind = "merge_kind";
        /// The name is longer than an account's may be.
        NameTooLong = "name_too_long";
        /// The name is missing.
        NameMissing = "name_missing";
        /// The new name is that of another account.
        NameOfAnother = "name_of_another";
        /// The new code is missing.
        NewCodeMissing = "new_code_missing";
        /// The open parts of old and new code are not as many.
        PatternsDiffer = "patterns_differ";
        /// The side is neither debit nor credit.
        SideUnknown = "side_unknown";
        /// The date lies in a locked period.
        PeriodLocked = "period_locked";
        /// The rate of exchange is not a positive number.
        RateUnreadable = "rate_unreadable";
        /// The control role is not known.
        RoleUnknown = "role_unknown";
        /// Another account has the control role.
        RoleTaken = "role_taken";
        /// A new account has the class of those beside it.
        ClassFromNeighbours = "class_from_neighbours";
        /// The headings of the file stand here once more.
        HeaderAgain = "header_again";
        /// A column that the spreadsheet hides.
        HiddenColumn = "hidden_column";
        /// Rows that the spreadsheet hides.
        HiddenRows = "hidden_rows";
        /// A text is longer than it may be.
        TextTooLong = "text_too_long";
        /// A text holds what neither a database nor a file can.
        TextUnsound = "text_unsound";
        /// A total of the file is not what it adds up.
        TotalOff = "total_off";
        /// A row of totals, which are worked out and not taken.
        TotalRow = "total_row";
        /// One code is to become two.
        TwoTargets = "two_targets";
        /// What names the account is missing.
        UseMissing = "use_missing";
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

impl From<&NotACurrency> for Reason {
    fn from(_: &NotACurrency) -> Self {
        Self::CurrencyUnknown
    }
}

impl From<&NotIntervals> for Reason {
    fn from(_: &NotIntervals) -> Self {
        Self::IntervalsMalformed
    }
}

impl From<&Unsound> for Reason {
    fn from(_: &Unsound) -> Self {
        Self::TextUnsound
    }
}
