//! What is wrong with a row of a file, or worth knowing of it. A cause without words does not compile.

use super::place;
use crate::Style;
use crate::say::a;
use zf_core::chart::Kind;
use zf_core::code::Code;
use zf_intake::cause::Cause;
use zf_intake::reason::Reason;

/// A reason in a few words.
pub const fn title(reason: Reason) -> &'static str {
    match reason {
        Reason::AccountAmbiguous => "former code of several accounts",
        Reason::AccountRetired => "dated after its account was closed",
        Reason::AccountPast => "account takes no new lines",
        Reason::AccountNotPosting => "not a posting account",
        Reason::AccountUnknown => "unknown account",
        Reason::AmountAmbiguous => "amount can be read in two ways",
        Reason::AmountMissing => "amount is missing",
        Reason::AmountTooLarge => "amount is too large",
        Reason::AmountTwice => "more than one amount",
        Reason::AmountUnreadable => "not an amount",
        Reason::CaptionOwn => "caption of the books’ own",
        Reason::ClassOfCaption => "caption of another class",
        Reason::ClassOfStatement => "other statement than the class",
        Reason::ClassOfHeading => "heading of another class",
        Reason::ClassMissing => "class is missing",
        Reason::ClassUnknown => "unknown class",
        Reason::CodeFormat => "code has another form",
        Reason::CodeMalformed => "malformed code",
        Reason::CodeMissing => "code is missing",
        Reason::CodeTwice => "code stands twice",
        Reason::ContraContradicts => "contra and normal balance disagree",
        Reason::CurrencyNotAllowed => "no fixed currency here",
        Reason::CurrencyOther => "account holds another currency",
        Reason::CurrencyUnknown => "unknown currency",
        Reason::DateAmbiguous => "date can be read in two ways",
        Reason::DateUnreadable => "not a date",
        Reason::DecimalsTooMany => "too many decimals",
        Reason::EntryDates => "entry of several dates",
        Reason::EntryKindUnknown => "unknown kind of entry",
        Reason::EntryMissing => "entry number is missing",
        Reason::EntrySpoilt => "another row of the entry is wrong",
        Reason::EntryChanged => "entry is otherwise in the journal",
        Reason::EntryUnbalanced => "entry does not balance",
        Reason::ForeignMissing => "foreign amount is missing",
        Reason::HeadingCircle => "headings in a circle",
        Reason::HeadingItself => "stands under itself",
        Reason::HeadingUnknown => "unknown heading",
        Reason::HeadingUnfit => "not a heading",
        Reason::IntervalsMalformed => "malformed intervals",
        Reason::IntervalsMissing => "intervals are missing",
        Reason::ActionUnknown => "unknown action",
        Reason::MergeRing => "merges in a ring",
        Reason::MergeClass => "merge across classes",
        Reason::MergeKind => "merge across kinds",
        Reason::NameTooLong => "name is too long",
        Reason::NameMissing => "name is missing",
        Reason::NameOfAnother => "name of another account",
        Reason::NewCodeMissing => "new code is missing",
        Reason::PatternsDiffer => "patterns do not fit",
        Reason::SideUnknown => "unknown side",
        Reason::PeriodLocked => "locked period",
        Reason::RateUnreadable => "not a rate",
        Reason::RoleUnknown => "unknown control role",
        Reason::RoleTaken => "control role is taken",
        Reason::ClassFromNeighbours => "class from the neighbours",
        Reason::HeaderAgain => "headings repeated",
        Reason::HiddenColumn => "hidden column",
        Reason::HiddenRows => "hidden rows",
        Reason::TextTooLong => "text is too long",
        Reason::TextUnsound => "text cannot be kept",
        Reason::TotalOff => "total is not its sum",
        Reason::TotalRow => "row of totals",
        Reason::TwoTargets => "two new codes for one old",
        Reason::UseMissing => "what uses it is missing",
    }
}

/// Why a sum line has no lines of its own.
pub(super) fn not_posting(account: &str) -> String {
    format!("{account} is a sum line, which adds up other accounts and can have no lines")
}

/// What is wrong with a row, or worth knowing of it, in a sentence that begins in the middle of one.
pub fn sentence(cause: &Cause, style: Style) -> String {
    let money = |minor: i128, currency| style.money(currency, minor);
    match cause {
        Cause::AccountAmbiguous { called, accounts } => format!(
            "“{called}” is, or was, what several accounts are called: {}",
            accounts.join(", ")
        ),
        Cause::CodeUnknown { code } => format!("no account has, or ever had, the code {code}"),
        Cause::NameUnknown { called } => format!("no account is, or ever was, called “{called}”"),
        Cause::ListUnknown { codes } => {
            let codes: Vec<&str> = codes.iter().map(Code::as_str).collect();
            format!("of this list {} stands for no one account", codes.join(", "))
        }
        Cause::PatternUnknown { pattern } => format!("no account has a code of “{pattern}”"),
        Cause::AccountNotPosting { account } => not_posting(account),
        Cause::AccountPast { account, kind, status, lines } => {
            let is = match kind {
                Kind::Account => status.words().to_owned(),
                kind => a(kind.words()),
            };
            let lines = match lines {
                1 => "its line is".to_owned(),
                lines => format!("its {} are", style.counted(lines, "line")),
            };
            format!("{account} is {is}; {lines} imported as posted then")
        }
        Cause::AccountRetired { account, status, from, left_out } => {
            let then = if *left_out {
                "left out, as you said"
            } else {
                "say what becomes of lines dated after it"
            };
            format!("{account} is {} from {}; {then}", status.words(), style.day(*from))
        }
        Cause::AccountTwice { account, first } => format!("{account} is in {} too", place(first)),
        Cause::AmountAmbiguous { text } => format!(
            "“{text}” can be read in two ways and nothing else in the file tells which; say whether \
             point or comma parts the decimals"
        ),
        Cause::AmountMissing => "the amount is missing".to_owned(),
        Cause::MonthWithoutAmount => "the amount of the month is missing".to_owned(),
        Cause::AmountTooLarge { largest, currency } => {
            format!("an amount cannot be more than {}", money(*largest, *currency))
        }
        Cause::SumTooLarge => "the amount is too large".to_owned(),
        Cause::AmountTwice => "the line has more than one amount".to_owned(),
        Cause::AmountUnreadable { text } => format!("“{text}” is no amount"),
        Cause::CaptionOwn { name, class } => format!(
            "“{name}” is none of the standard items; it becomes one of the books’ own under {}",
            class.title()
        ),
        Cause::ClassOfCaption { account, class, caption, other } => format!(
            "{account} is {}, but the caption “{caption}” above it is {}",
            class.words(),
            other.words()
        ),
        Cause::ClassOfStatement { account, class, statement } => format!(
            "{account} is {}, but the file puts it on the {}",
            class.words(),
            statement.words()
        ),
        Cause::ClassOfHeading { account, class, heading, other } => format!(
            "{account} is {}, but its heading {heading} is {}",
            class.words(),
            other.words()
        ),
        Cause::ClassMissing => {
            "the class is missing, and neither caption nor heading tells it".to_owned()
        }
        Cause::ClassUnknown => {
            "it is not one of the classes asset, liability, equity, income or expense".to_owned()
        }
        Cause::ClassFromNeighbours { account, class } => format!(
            "{account} is new; it is {}, as the codes on both sides of it are",
            class.words()
        ),
        Cause::CodeFormat { code, objection } => format!("{code} {objection}"),
        Cause::CodeMissing => {
            "it has no code, and none can be proposed in the form that codes have here".to_owned()
        }
        Cause::CodeTwice { code, first } => format!("code {code} is already in {}", place(first)),
        Cause::RowAgain { code } => format!("{code} is in an earlier row too; passed over"),
        Cause::OldCodeMissing { code } => {
            format!("the old code is missing, and {code} is that of an account")
        }
        Cause::ContraContradicts { debit, contra, class } => format!(
            "its normal balance is {}, but a {}{} has the other",
            if *debit { "debit" } else { "credit" },
            if *contra { "contra " } else { "" },
            class.words()
        ),
        Cause::CurrencyNotAllowed => {
            "a fixed currency belongs to cash, receivables, payables or borrowings".to_owned()
        }
        Cause::CurrencyOther { account, fixed } => format!("{account} holds {fixed} only"),
        Cause::MonthMissing => "the month of the amount is missing".to_owned(),
        Cause::MonthUnreadable { text } => format!("“{text}” is not a month; write it as 2026-03"),
        Cause::PeriodMissing => "the period is missing".to_owned(),
        Cause::PeriodWithoutYear { text } => format!("“{text}” lacks its year"),
        Cause::PeriodUnreadable { text } => {
            format!("“{text}” is not a period; write it as 2026-03")
        }
        Cause::EntryDates { entry } => format!("entry {entry} has lines of different dates"),
        Cause::EntryKindUnknown => "it is not ordinary, opening or closing".to_owned(),
        Cause::EntryMissing => "the entry number is missing".to_owned(),
        Cause::EntrySpoilt { entry, place: at } => {
            format!("{} of the same entry, {entry}, can’t be taken", place(at))
        }
        Cause::EntryChanged { entry } => {
            format!("entry {entry} is in the journal, and not as it is here")
        }
        Cause::EntryUnbalanced { entry, gap, currency } => format!(
            "entry {entry} does not balance: its {} are {} too much",
            side_over(*gap),
            money(gap.abs(), *currency)
        ),
        Cause::ForeignMissing { currency } => format!("the amount in {currency} is missing"),
        Cause::HeadingCircle => {
            "the headings above this row stand under each other in a circle".to_owned()
        }
        Cause::HeadingItself => "a row cannot stand under itself".to_owned(),
        Cause::HeadingUnknown => "no heading with this code is in the file or the chart".to_owned(),
        Cause::HeadingRejected => "the heading above this row cannot be taken".to_owned(),
        Cause::HeadingUnfit => "the row it should stand under is not a heading".to_owned(),
        Cause::BudgetOfRange => {
            "an amount is budgeted for one account, not for a range of codes".to_owned()
        }
        Cause::IntervalsMissing => {
            "a sum line needs the codes it adds up, and no account stands above it".to_owned()
        }
        Cause::ActionUnknown => "it is not known what that asks for".to_owned(),
        Cause::MergeRing { code } => {
            format!("{code} and others are merged in a ring, and none is left")
        }
        Cause::MergeClass { merged, survivor, classes: (one, other) } => {
            refused(merged, survivor, one.words(), other.words())
        }
        Cause::MergeKind { merged, survivor, kinds: (one, other) } => {
            refused(merged, survivor, one.words(), other.words())
        }
        Cause::NewWithoutName { code } => {
            format!("nobody becomes {code}, so that it would be a new account; it lacks a name")
        }
        Cause::NewNameMissing => "the new name is missing".to_owned(),
        Cause::NameOfAnother { account } => format!("the new name is today that of {account}"),
        Cause::MergeWithoutCode => "it does not say into which code".to_owned(),
        Cause::NewCodeMissing => "the new code is missing".to_owned(),
        Cause::PatternsDiffer => {
            "its open parts are not as many as those of the old code".to_owned()
        }
        Cause::RangesNotNumbers => {
            "the codes of a range on both sides must be plain numbers".to_owned()
        }
        Cause::RangesDiffer => "the range is not as long as that of the old codes".to_owned(),
        Cause::SideUnknown => "it is neither debit nor credit".to_owned(),
        Cause::PeriodLocked => "the date lies in a locked period".to_owned(),
        Cause::RoleUnknown => "no such control role is known".to_owned(),
        Cause::RoleTaken { role, account } => {
            format!("{account} is already the {} account", role.words())
        }
        Cause::HeaderAgain => "the headings are here once more; passed over".to_owned(),
        Cause::HiddenColumn { heading } => {
            format!(
                "the column “{heading}” is hidden in the spreadsheet; it is read like any other"
            )
        }
        Cause::HiddenRows { first, rows: 1 } => {
            format!("{} is hidden in the spreadsheet; it is read like any other", place(first))
        }
        Cause::HiddenRows { first, rows } => format!(
            "{}, from {} on, are hidden in the spreadsheet; they are read like any other",
            style.counted(rows, "row"),
            place(first)
        ),
        Cause::TotalOff { said, sum, currency } => format!(
            "the total says {}, and what it adds up is {}",
            money(*said, *currency),
            money(*sum, *currency)
        ),
        Cause::RunningBalanceOff => {
            "the running balance of the file is not what its lines come to".to_owned()
        }
        Cause::LedgerTotalOff => {
            "the total of the file is not what the lines above it come to".to_owned()
        }
        Cause::TotalRow => "a row of totals; passed over".to_owned(),
        Cause::Subtotal => "it adds up other rows; passed over".to_owned(),
        Cause::TwoTargets { code } => format!("{code} is to become more than one code"),
        Cause::UseMissing => "what uses the account is missing".to_owned(),
        Cause::Amount(error) => error.to_string(),
        Cause::Code(error) => error.to_string(),
        Cause::Currency(error) => error.to_string(),
        Cause::Date(error) => error.to_string(),
        Cause::Intervals(error) => error.to_string(),
        Cause::Text(error) => error.to_string(),
        Cause::Unsound(error) => error.to_string(),
    }
}

/// The side of which there is too much.
pub(super) const fn side_over(gap: i128) -> &'static str {
    if gap > 0 { "debits" } else { "credits" }
}

fn refused(merged: &str, survivor: &str, one: &str, other: &str) -> String {
    format!("{merged} would be merged into {survivor}, but one is {one}, the other {other}")
}
