//! What is wrong with a row, or worth knowing of it, with all that a sentence about it needs. The words stand in the
//! crate of phrases; here is what was found.

use super::dates::NotADate;
use super::numbers::NotAnAmount;
use super::reason::Reason;
use super::rows::Place;
use super::words::Statement;
use time::Date;
use zf_core::chart::{Class, ControlRole, Kind, Status};
use zf_core::code::{Code, NotACode, NotIntervals};
use zf_core::money::{Currency, NotACurrency};
use zf_core::plan::texts::NotAText;
use zf_core::policy::Objection;
use zf_core::text::Unsound;

/// Declares the causes, each with the reason that it counts as; of what cannot be read as what it should be, the
/// error says which.
macro_rules! causes {
    (
        found { $($(#[$doc:meta])* $cause:ident $({ $($field:ident: $type:ty),+ })? => $reason:ident;)+ }
        errors { $($(#[$error_doc:meta])* $of:ident($error:ty);)+ }
    ) => {
        /// What is wrong with a row, or worth knowing of it. Accounts are named as they are called, since those of a
        /// file have no identity yet.
        #[derive(Clone, Debug, PartialEq, Eq)]
        #[allow(missing_docs, reason = "fields are what the sentence names")]
        pub enum Cause {
            $($(#[$doc])* $cause $({ $($field: $type),+ })?,)+
            $($(#[$error_doc])* $of($error),)+
        }

        impl Cause {
            /// The reason that rows are grouped by.
            pub fn reason(&self) -> Reason {
                match self {
                    $(Self::$cause { .. } => Reason::$reason,)+
                    $(Self::$of(error) => Reason::from(error),)+
                }
            }
        }

        $(impl From<$error> for Cause {
            fn from(error: $error) -> Self {
                Self::$of(error)
            }
        })+
    };
}

causes! {
    found {
        /// A code or name is that of several accounts, or was.
        AccountAmbiguous { called: String, accounts: Vec<String> } => AccountAmbiguous;
        /// No account has, or ever had, the code.
        CodeUnknown { code: Code } => AccountUnknown;
        /// No account is, or ever was, called so.
        NameUnknown { called: String } => AccountUnknown;
        /// Codes of a list that stand for no one account.
        ListUnknown { codes: Vec<Code> } => AccountUnknown;
        /// No account has a code of this pattern.
        PatternUnknown { pattern: String } => AccountUnknown;
        /// A sum line takes no lines.
        AccountNotPosting { account: String } => AccountNotPosting;
        /// Lines of an account that takes no new ones come in as they were posted.
        AccountPast { account: String, kind: Kind, status: Status, lines: usize } => AccountPast;
        /// A line dated after its account was closed; `left_out` when a person has said so.
        AccountRetired { account: String, status: Status, from: Date, left_out: bool } => AccountRetired;
        /// An account stands in two rows.
        AccountTwice { account: String, first: Place } => CodeTwice;
        /// An amount can be read in two ways.
        AmountAmbiguous { text: String } => AmountAmbiguous;
        /// No amount.
        AmountMissing => AmountMissing;
        /// A month without its amount.
        MonthWithoutAmount => AmountMissing;
        /// An amount beyond the largest, in minor units.
        AmountTooLarge { largest: i128, currency: Currency } => AmountTooLarge;
        /// An amount that is too large once it is converted or added up.
        SumTooLarge => AmountTooLarge;
        /// A debit and a credit, or an amount besides.
        AmountTwice => AmountTwice;
        /// A figure that is no amount.
        AmountUnreadable { text: String } => AmountUnreadable;
        /// A caption that is none of the standard items becomes one of the books' own.
        CaptionOwn { name: String, class: Class } => CaptionOwn;
        /// The caption above is of another class.
        ClassOfCaption { account: String, class: Class, caption: String, other: Class } => ClassOfCaption;
        /// The file puts the account on the other statement.
        ClassOfStatement { account: String, class: Class, statement: Statement } => ClassOfStatement;
        /// The heading is of another class.
        ClassOfHeading { account: String, class: Class, heading: String, other: Class } => ClassOfHeading;
        /// Nothing tells the class.
        ClassMissing => ClassMissing;
        /// The wording is none of a class.
        ClassUnknown => ClassUnknown;
        /// A new account has the class of the codes on both sides of it.
        ClassFromNeighbours { account: String, class: Class } => ClassFromNeighbours;
        /// A code of another form than the books ask for.
        CodeFormat { code: Code, objection: Objection } => CodeFormat;
        /// An account without a code, and none can be proposed.
        CodeMissing => CodeMissing;
        /// An earlier row has the code.
        CodeTwice { code: Code, first: Place } => CodeTwice;
        /// An earlier row of a crosswalk has the code, and says the same.
        RowAgain { code: Code } => CodeTwice;
        /// A row without an old code whose new one is that of an account.
        OldCodeMissing { code: Code } => CodeTwice;
        /// The normal balance is on this side, and the class, contra or not, has the other.
        ContraContradicts { debit: bool, contra: bool, class: Class } => ContraContradicts;
        /// An account that may have no fixed currency.
        CurrencyNotAllowed => CurrencyNotAllowed;
        /// An account that holds another currency only.
        CurrencyOther { account: String, fixed: Currency } => CurrencyOther;
        /// A budget without its month.
        MonthMissing => DateUnreadable;
        /// No month.
        MonthUnreadable { text: String } => DateUnreadable;
        /// No period.
        PeriodMissing => DateUnreadable;
        /// A period without its year.
        PeriodWithoutYear { text: String } => DateUnreadable;
        /// Something else than a period.
        PeriodUnreadable { text: String } => DateUnreadable;
        /// Lines of one entry with different dates.
        EntryDates { entry: String } => EntryDates;
        /// Neither ordinary nor opening nor closing.
        EntryKindUnknown => EntryKindUnknown;
        /// No entry number.
        EntryMissing => EntryMissing;
        /// Another row of the entry cannot be taken.
        EntrySpoilt { entry: String, place: Place } => EntrySpoilt;
        /// The journal has the entry otherwise.
        EntryChanged { entry: String } => EntryChanged;
        /// Debits less credits of an entry, in minor units.
        EntryUnbalanced { entry: String, gap: i128, currency: Currency } => EntryUnbalanced;
        /// No amount in the currency of the line.
        ForeignMissing { currency: Currency } => ForeignMissing;
        /// Headings under each other in a circle.
        HeadingCircle => HeadingCircle;
        /// A row that names itself as its heading.
        HeadingItself => HeadingItself;
        /// No heading has the code.
        HeadingUnknown => HeadingUnknown;
        /// The heading above cannot be taken itself.
        HeadingRejected => HeadingUnknown;
        /// What the row should stand under is no heading.
        HeadingUnfit => HeadingUnfit;
        /// A budget for a range of codes.
        BudgetOfRange => IntervalsMalformed;
        /// A sum line that adds up nothing.
        IntervalsMissing => IntervalsMissing;
        /// Nobody knows what the action asks for.
        ActionUnknown => ActionUnknown;
        /// Accounts merged into each other, of which none is left.
        MergeRing { code: Code } => MergeRing;
        /// Accounts of two classes.
        MergeClass { merged: String, survivor: String, classes: (Class, Class) } => MergeClass;
        /// Rows of two kinds.
        MergeKind { merged: String, survivor: String, kinds: (Kind, Kind) } => MergeKind;
        /// A code that nobody becomes, without the name of a new account.
        NewWithoutName { code: Code } => NameMissing;
        /// A renaming without a name.
        NewNameMissing => NameMissing;
        /// The new name is today that of another account.
        NameOfAnother { account: String } => NameOfAnother;
        /// A merge that does not say into which code.
        MergeWithoutCode => NewCodeMissing;
        /// A renumbering without a code.
        NewCodeMissing => NewCodeMissing;
        /// Old and new code have not as many open parts.
        PatternsDiffer => PatternsDiffer;
        /// Codes of a range that are no plain numbers.
        RangesNotNumbers => PatternsDiffer;
        /// Ranges that are not as long as each other.
        RangesDiffer => PatternsDiffer;
        /// Neither debit nor credit.
        SideUnknown => SideUnknown;
        /// The date lies in a locked period.
        PeriodLocked => PeriodLocked;
        /// No such control role.
        RoleUnknown => RoleUnknown;
        /// Another account has the role.
        RoleTaken { role: ControlRole, account: String } => RoleTaken;
        /// The headings of the columns once more.
        HeaderAgain => HeaderAgain;
        /// A hidden column.
        HiddenColumn { heading: String } => HiddenColumn;
        /// Hidden rows, from the first on.
        HiddenRows { first: Place, rows: usize } => HiddenRows;
        /// What a total says and what it adds up, in minor units.
        TotalOff { said: i128, sum: i128, currency: Currency } => TotalOff;
        /// A running balance that is not what its lines come to.
        RunningBalanceOff => TotalOff;
        /// A total of a ledger that is not what its lines come to.
        LedgerTotalOff => TotalOff;
        /// A row of totals.
        TotalRow => TotalRow;
        /// A row that adds up others.
        Subtotal => TotalRow;
        /// One code is to become two.
        TwoTargets { code: Code } => TwoTargets;
        /// What names the account is missing.
        UseMissing => UseMissing;
    }
    errors {
        /// Not an amount, or not one of its currency.
        Amount(NotAnAmount);
        /// Not a code.
        Code(NotACode);
        /// Not a currency.
        Currency(NotACurrency);
        /// Not a date.
        Date(NotADate);
        /// Not what a sum line can add up.
        Intervals(NotIntervals);
        /// Not a name or text of an account.
        Text(NotAText);
        /// A text that cannot be kept.
        Unsound(Unsound);
    }
}
