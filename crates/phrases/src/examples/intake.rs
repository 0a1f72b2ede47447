//! An example of what is said of the rows of a file, and of each question.

use super::{COAL, DAY, Example, chart};
use crate::Style;
use crate::intake::{gives, kind, means, question, sentence, title};
use zf_core::chart::{Account, Class, ControlRole, Kind, Status};
use zf_core::code::{Code, Interval};
use zf_core::money::Currency;
use zf_core::plan::texts;
use zf_core::policy::Objection;
use zf_core::text;
use zf_intake::cause::Cause;
use zf_intake::columns::Column;
use zf_intake::dates::DateOrder;
use zf_intake::numbers::{DecimalMark, Rate};
use zf_intake::period_text::PeriodsAs;
use zf_intake::question::{Asks, Explained, Gives, Means};
use zf_intake::row_kind::RowKind;
use zf_intake::rows::Place;
use zf_intake::words::{ActionWord, RowWord, SideWord, Statement};

/// What is said of rows that cannot be taken, or of which something is worth knowing.
pub fn of_rows() -> Vec<Example> {
    let example = |cause: Cause| Example {
        key: cause.reason().key(),
        title: title(cause.reason()),
        sentence: sentence(&cause, Style::default()),
        advice: None,
    };
    causes().into_iter().map(example).collect()
}

/// What is asked of files, what readings mean and what they would give, and what rows are called.
pub fn of_questions() -> Vec<String> {
    let style = Style::default();
    let asked = asks().into_iter().map(|asks| question(&asks, style));
    let meant = meanings().into_iter().map(|meaning| means(&meaning));
    let given = given().into_iter().map(|given| gives(&given, style));
    let kinds = RowKind::ALL.iter().map(|of| kind(*of).to_owned());
    asked.chain(meant).chain(given).chain(kinds).collect()
}

/// What may be wrong with the rows of a made-up file. Those that cannot be made are left out.
fn causes() -> Vec<Cause> {
    let chart = chart();
    let account = || chart.get(COAL).map_or_else(String::new, Account::label);
    let other = || "5030 Fuel".to_owned();
    let entry = || "J-118".to_owned();
    let place = || Place { sheet: Some("2026".to_owned()), row: 12 };
    let said = |text: &str| text.to_owned();
    let (Ok(code), Ok(currency)) = (Code::parse("5010"), Currency::parse("EUR")) else {
        return Vec::new();
    };
    let class = Class::Expense;
    let known = vec![
        Cause::AccountAmbiguous { called: said("Coal"), accounts: vec![account(), other()] },
        Cause::CodeUnknown { code: code.clone() },
        Cause::NameUnknown { called: said("Coal, old") },
        Cause::ListUnknown { codes: vec![code.clone()] },
        Cause::PatternUnknown { pattern: said("50xx") },
        Cause::AccountNotPosting { account: account() },
        Cause::AccountPast {
            account: account(),
            kind: Kind::Account,
            status: Status::Archived,
            lines: 3,
        },
        Cause::AccountRetired {
            account: account(),
            status: Status::Deactivated,
            from: DAY,
            left_out: false,
        },
        Cause::AccountTwice { account: account(), first: place() },
        Cause::AmountAmbiguous { text: said("1,234") },
        Cause::AmountMissing,
        Cause::MonthWithoutAmount,
        Cause::AmountTooLarge { largest: 1_000_000_000_000_000, currency },
        Cause::SumTooLarge,
        Cause::AmountTwice,
        Cause::AmountUnreadable { text: said("lots") },
        Cause::CaptionOwn { name: said("Rolling stock"), class },
        Cause::ClassOfCaption { account: account(), class, caption: other(), other: Class::Asset },
        Cause::ClassOfStatement { account: account(), class, statement: Statement::BalanceSheet },
        Cause::ClassOfHeading { account: account(), class, heading: other(), other: Class::Asset },
        Cause::ClassMissing,
        Cause::ClassUnknown,
        Cause::ClassFromNeighbours { account: account(), class },
        Cause::CodeFormat { code: code.clone(), objection: Objection::NotDigits },
        Cause::CodeMissing,
        Cause::CodeTwice { code: code.clone(), first: place() },
        Cause::RowAgain { code: code.clone() },
        Cause::OldCodeMissing { code: code.clone() },
        Cause::ContraContradicts { debit: true, contra: true, class },
        Cause::CurrencyNotAllowed,
        Cause::CurrencyOther { account: account(), fixed: currency },
        Cause::MonthMissing,
        Cause::MonthUnreadable { text: said("Spring") },
        Cause::PeriodMissing,
        Cause::PeriodWithoutYear { text: said("P3") },
        Cause::PeriodUnreadable { text: said("Spring") },
        Cause::EntryDates { entry: entry() },
        Cause::EntryKindUnknown,
        Cause::EntryMissing,
        Cause::EntrySpoilt { entry: entry(), place: place() },
        Cause::EntryChanged { entry: entry() },
        Cause::EntryUnbalanced { entry: entry(), gap: -123_456, currency },
        Cause::ForeignMissing { currency },
        Cause::HeadingCircle,
        Cause::HeadingItself,
        Cause::HeadingUnknown,
        Cause::HeadingRejected,
        Cause::HeadingUnfit,
        Cause::BudgetOfRange,
        Cause::IntervalsMissing,
        Cause::ActionUnknown,
        Cause::MergeRing { code: code.clone() },
        Cause::MergeClass { merged: account(), survivor: other(), classes: (class, Class::Asset) },
        Cause::MergeKind {
            merged: account(),
            survivor: other(),
            kinds: (Kind::Account, Kind::Heading),
        },
        Cause::NewWithoutName { code: code.clone() },
        Cause::NewNameMissing,
        Cause::NameOfAnother { account: other() },
        Cause::MergeWithoutCode,
        Cause::NewCodeMissing,
        Cause::PatternsDiffer,
        Cause::RangesNotNumbers,
        Cause::RangesDiffer,
        Cause::SideUnknown,
        Cause::PeriodLocked,
        Cause::RoleUnknown,
        Cause::RoleTaken { role: ControlRole::Bank, account: other() },
        Cause::HeaderAgain,
        Cause::HiddenColumn { heading: said("Old no.") },
        Cause::HiddenRows { first: place(), rows: 3 },
        Cause::TotalOff { said: 123_456, sum: 123_465, currency },
        Cause::RunningBalanceOff,
        Cause::LedgerTotalOff,
        Cause::TotalRow,
        Cause::Subtotal,
        Cause::TwoTargets { code },
        Cause::UseMissing,
    ];
    let amounts = ["lots", "1.234", "EUR 5", "99999999999999999999"];
    let read = |text: &&str| DecimalMark::Point.read(Currency::parse("GBP").ok()?, text).err();
    let errors = [
        Code::parse("").err().map(Cause::Code),
        Code::parse("a code that is far too long for the column that it is to be kept in")
            .err()
            .map(Cause::Code),
        Currency::parse("pounds").err().map(Cause::Currency),
        DateOrder::read(None, "03/04/2026").err().map(Cause::Date),
        DateOrder::read(None, "Easter").err().map(Cause::Date),
        Interval::parse_list("5020 to 5010").err().map(Cause::Intervals),
        Rate::read(DecimalMark::Point, "dear").err().map(Cause::Amount),
        texts::name("").err().map(Cause::Text),
        texts::name(&"Coal ".repeat(texts::MAX_NAME)).err().map(Cause::Text),
        texts::text("description", &"Coal ".repeat(texts::MAX_TEXT)).err().map(Cause::Text),
        text::look_at("a\0b").err().map(Cause::Unsound),
    ];
    let amounts = amounts.iter().filter_map(read).map(Cause::Amount);
    known.into_iter().chain(amounts).chain(errors.into_iter().flatten()).collect()
}

fn asks() -> Vec<Asks> {
    let said = |text: &str| text.to_owned();
    let (Ok(from), Ok(to), Ok(currency)) =
        (Code::parse("5010"), Code::parse("5020"), Currency::parse("EUR"))
    else {
        return Vec::new();
    };
    let row = vec![(Place { sheet: None, row: 12 }, said("5010 Coal"))];
    let explained = vec![
        Explained::Twice(row.clone()),
        Explained::Missing(row.clone()),
        Explained::WrongSide(row),
        Explained::Swapped,
        Explained::Rounding,
    ];
    vec![
        Asks::Action(said("keep open")),
        Asks::NewClass(said("5030 Fuel")),
        Asks::Openings { accounts: 2, first: said("1010 Bank"), balance: 123_456, currency },
        Asks::TaxAccount(said("Tax")),
        Asks::Sheets(["January", "February", "March", "April", "May"].map(said).into()),
        Asks::Rings(vec![from.clone(), to.clone()]),
        Asks::Entries { lines: 2_583, entries: 12 },
        Asks::Signs,
        Asks::Periods(24),
        Asks::Difference { gap: 900, currency, explained },
        Asks::Difference { gap: -900, currency, explained: Vec::new() },
        Asks::Dates(said("03/04/2026"), 12),
        Asks::Decimal(said("1,234"), 12),
        Asks::Figures,
        Asks::Column(said("No.")),
        Asks::Kind(said("group")),
        Asks::Status(said("resting")),
        Asks::Side(said("left")),
        Asks::Range(from, to),
        Asks::StatusFrom(1),
        Asks::Class(said("Sundries")),
        Asks::ClassUnder(said("Sundries")),
        Asks::OwedAndOwn(said("Reserve")),
        Asks::ClassOfCodes('9'),
        Asks::ClassOfOthers,
        Asks::Encoding,
    ]
}

fn meanings() -> Vec<Means> {
    let said = |text: &str| text.to_owned();
    let (Ok(from), Ok(to)) = (Code::parse("5010"), Code::parse("5020")) else { return Vec::new() };
    let of_words = ActionWord::ALL.iter().map(|action| Means::Action(*action));
    let of_periods = PeriodsAs::ALL.iter().map(|periods| Means::Periods(*periods));
    let of_dates = DateOrder::ALL.iter().map(|order| Means::Dates(*order));
    let of_marks = DecimalMark::ALL.iter().map(|mark| Means::Decimal(*mark));
    let others = vec![
        Means::Class(Class::Expense),
        Means::Kind(RowWord::Heading),
        Means::Status(Status::Archived),
        Means::Side(SideWord::Credit),
        Means::NoSide,
        Means::PositiveIsDebit,
        Means::PositiveIsUsual,
        Means::AllSheets,
        Means::OnlySheet(said("January")),
        Means::Rotation,
        Means::Merges,
        Means::OpeningsAside,
        Means::OpeningEntry,
        Means::Account(said("Tax")),
        Means::DayIsEntry,
        Means::NumberedBy(said("Voucher")),
        Means::AsItIs,
        Means::Correct,
        Means::Figures(said("2026")),
        Means::Column(Column::Memo),
        Means::Unused,
        Means::Between(from.clone(), to.clone()),
        Means::Only(from, to),
        Means::DayUnknown,
        Means::DayStored,
        Means::Encoding("UTF-8"),
    ];
    others.into_iter().chain(of_words).chain(of_periods).chain(of_dates).chain(of_marks).collect()
}

fn given() -> Vec<Gives> {
    let said = |text: &str| text.to_owned();
    let Ok(currency) = Currency::parse("EUR") else { return Vec::new() };
    let cells = || vec![said("Coal"), said("Firewood")];
    vec![
        Gives::Rows(2_583),
        Gives::RowsAs(12, said("Coal")),
        Gives::RowsAndNamed(12, 3),
        Gives::AddedAs(said("5030 Fuel"), Class::Expense),
        Gives::Sum(123_456, currency, 12),
        Gives::CodesOfOthers(3),
        Gives::NoneLeft,
        Gives::Entries(12),
        Gives::EntriesByValue,
        Gives::FileOnly,
        Gives::EntryOnFirstDay,
        Gives::Unbalanced,
        Gives::Balanced,
        Gives::DebitsDiffer(900, currency),
        Gives::DebitsSame,
        Gives::Day(DAY, None),
        Gives::Day(DAY, Some(said("P5 2026"))),
        Gives::Sides { debits: 123_456, credits: 123_456, currency },
        Gives::DecimalsAs(said("1,234"), DecimalMark::Point),
        Gives::DecimalsAs(said("1,234"), DecimalMark::Comma),
        Gives::Cells(cells()),
        Gives::Instead(Column::Memo, Some((said("Text"), cells()))),
        Gives::Instead(Column::Memo, None),
        Gives::AddedUp(12),
        Gives::NothingBetween,
        Gives::DifferenceStays,
        Gives::NothingTaken,
        Gives::AnyDay,
        Gives::LaterAsked,
        Gives::Text(said("Café")),
    ]
}
