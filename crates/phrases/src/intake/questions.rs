//! What is asked of a file that can be read in more than one way, what each reading means and what it would give.

use super::causes::side_over;
use super::place;
use crate::Style;
use zf_core::code::Code;
use zf_intake::dates::DateOrder;
use zf_intake::numbers::DecimalMark;
use zf_intake::period_text::PeriodsAs;
use zf_intake::question::{Asks, Explained, Gives, Means};
use zf_intake::rows::Place;
use zf_intake::words::ActionWord;

/// How many sheets a question names; of more it names one less, and counts the others.
const SHEETS: usize = 4;

/// The question.
pub fn question(asks: &Asks, style: Style) -> String {
    match asks {
        Asks::Action(text) => format!("What does “{text}” ask for?"),
        Asks::NewClass(account) => format!("Which class has the new account {account}?"),
        Asks::Openings { accounts, first, balance, currency } => {
            let have = if *accounts == 1 { "has" } else { "have" };
            format!(
                "{} {have} a balance before the lines, as {first} with {}. What becomes of that?",
                style.counted(accounts, "account"),
                style.money(*currency, *balance)
            )
        }
        Asks::TaxAccount(heading) => format!(
            "Which account takes the tax of the column “{heading}”? Its code or name is the answer."
        ),
        Asks::Sheets(names) => {
            format!("The sheets {} have the same columns. Are they one table?", sheets(names))
        }
        Asks::Rings(codes) => {
            let codes: Vec<&str> = codes.iter().map(Code::as_str).collect();
            format!("{} take each other’s codes. Do they only change codes?", codes.join(", "))
        }
        Asks::Entries { lines, entries } => format!(
            "Nothing numbers the entries, so that {} are {}. Is that so?",
            style.counted(lines, "line"),
            style.counted(entries, "entry")
        ),
        Asks::Signs => "What does the sign of an amount say?".to_owned(),
        Asks::Periods(rows) => format!(
            "Which day do the periods stand for? {} have no date.",
            style.counted(rows, "row")
        ),
        Asks::Difference { gap, currency, explained } => {
            let over = style.money(*currency, gap.abs());
            let why: Vec<String> = explained.iter().map(explanation).collect();
            let why = match why.as_slice() {
                [] => "Nothing in the file explains it by itself.".to_owned(),
                why => why.join(" "),
            };
            format!("The {} are {over} too much. {why}", side_over(*gap))
        }
        Asks::Dates(text, rows) => format!(
            "Which comes first in a date such as {text}? {} wait for it.",
            style.counted(rows, "row")
        ),
        Asks::Decimal(text, rows) => format!(
            "Which mark parts the decimals of {text}? {} wait for it.",
            style.counted(rows, "row")
        ),
        Asks::Figures => "Which figures say what the accounts stand at?".to_owned(),
        Asks::Column(heading) => format!("What does the column “{heading}” hold?"),
        Asks::Kind(text) => format!("What is a row whose kind is “{text}”?"),
        Asks::Status(text) => format!("What does the status “{text}” say?"),
        Asks::Side(text) => format!("Which side is “{text}”?"),
        Asks::Range(from, to) => format!("A sum line names {from} and {to}. Is that a range?"),
        Asks::StatusFrom(accounts) => format!(
            "{} {} in the file deactivated or archived, without a day. From which day?",
            style.counted(accounts, "account"),
            if *accounts == 1 { "is" } else { "are" }
        ),
        Asks::Class(text) => format!("Which class is “{text}”?"),
        Asks::ClassUnder(text) => format!("Which class is what stands under “{text}”?"),
        Asks::OwedAndOwn(example) => format!(
            "What is owed and what is the owners’ own stand together here. Which are the others, \
             such as “{example}”?"
        ),
        Asks::ClassOfCodes(first) => {
            format!("Which class are accounts whose codes begin with {first}?")
        }
        Asks::ClassOfOthers => {
            "Which class are the accounts of which nothing tells one?".to_owned()
        }
        Asks::Encoding => "Which of these is how the text is written?".to_owned(),
    }
}

/// What the file says by one reading.
pub fn means(means: &Means) -> String {
    match means {
        Means::Class(class) => class.words().to_owned(),
        Means::Action(action) => asked_for(*action).to_owned(),
        Means::Kind(kind) => kind.words().to_owned(),
        Means::Status(status) => status.words().to_owned(),
        Means::Side(side) => side.words().to_owned(),
        Means::NoSide => "nothing".to_owned(),
        Means::PositiveIsDebit => "what is positive is a debit".to_owned(),
        Means::PositiveIsUsual => "what is positive stands on the usual side of its account: \
                                   credits of liabilities, equity and income"
            .to_owned(),
        Means::Periods(periods) => days_of(*periods).to_owned(),
        Means::Dates(DateOrder::DayFirst) => "day first".to_owned(),
        Means::Dates(DateOrder::MonthFirst) => "month first".to_owned(),
        Means::Dates(DateOrder::YearFirst) => "year first".to_owned(),
        Means::Decimal(DecimalMark::Point) => "the point".to_owned(),
        Means::Decimal(DecimalMark::Comma) => "the comma".to_owned(),
        Means::AllSheets => "all of them, as one table".to_owned(),
        Means::OnlySheet(name) => format!("only “{name}”"),
        Means::Rotation => "they change codes".to_owned(),
        Means::Merges => "each is merged into the next".to_owned(),
        Means::OpeningsAside => "they are left out".to_owned(),
        Means::OpeningEntry => "they are an opening entry".to_owned(),
        Means::Account(called) => format!("the one called “{called}”"),
        Means::DayIsEntry => "each day is one entry".to_owned(),
        Means::NumberedBy(heading) => format!("“{heading}” numbers them"),
        Means::AsItIs => "take the balances as they are".to_owned(),
        Means::Correct => "correct the file first".to_owned(),
        Means::Figures(called) => called.clone(),
        Means::Column(column) => column.words().to_owned(),
        Means::Unused => "not used".to_owned(),
        Means::Between(from, to) => format!("all from {from} to {to}"),
        Means::Only(from, to) => format!("{from} and {to} only"),
        Means::DayUnknown => "not known".to_owned(),
        Means::DayStored => "from the day on which the file is stored".to_owned(),
        Means::Encoding(name) => (*name).to_owned(),
    }
}

/// What a reading would give.
pub fn gives(gives: &Gives, style: Style) -> String {
    let rows = |rows: &usize| style.counted(rows, "row");
    match gives {
        Gives::Rows(count) => rows(count),
        Gives::RowsAs(count, example) => format!("{}, as {example}", rows(count)),
        Gives::RowsAndNamed(count, named) => format!("{}; {named} by their names", rows(count)),
        Gives::AddedAs(account, class) => format!("{account} is added as {}", class.words()),
        Gives::Sum(sum, currency, count) => {
            format!("{} in {}", style.money(*currency, *sum), rows(count))
        }
        Gives::CodesOfOthers(accounts) => {
            format!("{} get the code of another", style.counted(accounts, "account"))
        }
        Gives::NoneLeft => "none would be left, so none of it is staged".to_owned(),
        Gives::Entries(entries) => style.counted(entries, "entry"),
        Gives::EntriesByValue => "as many as it has values".to_owned(),
        Gives::FileOnly => "entries of the file alone are stored".to_owned(),
        Gives::EntryOnFirstDay => "one entry, on the first day of the file".to_owned(),
        Gives::Unbalanced => "entries do not balance".to_owned(),
        Gives::Balanced => "every entry balances".to_owned(),
        Gives::DebitsDiffer(by, currency) => {
            format!("debits and credits differ by {}", style.money(*currency, *by))
        }
        Gives::DebitsSame => "debits and credits are the same".to_owned(),
        Gives::Day(day, None) => style.day(*day),
        Gives::Day(day, Some(period)) => format!("“{period}” is {}", style.day(*day)),
        Gives::Sides { debits, credits, currency } => format!(
            "debits {}, credits {}",
            style.money(*currency, *debits),
            style.money(*currency, *credits)
        ),
        Gives::DecimalsAs(text, DecimalMark::Point) => format!("{text} as in 1,250.00"),
        Gives::DecimalsAs(text, DecimalMark::Comma) => format!("{text} as in 1.250,00"),
        Gives::Cells(cells) => quoted(cells),
        Gives::Instead(column, Some((heading, cells))) => {
            format!("{} is “{heading}”: {}", column.words(), quoted(cells))
        }
        Gives::Instead(column, None) => format!("no column is {}", column.words()),
        Gives::AddedUp(accounts) => {
            format!("{} more, by all such sum lines together", style.counted(accounts, "account"))
        }
        Gives::NothingBetween => "nothing between them".to_owned(),
        Gives::DifferenceStays => "the difference stays".to_owned(),
        Gives::NothingTaken => "nothing is taken as right".to_owned(),
        Gives::AnyDay => "lines of any day are imported as they are".to_owned(),
        Gives::LaterAsked => "later lines are asked".to_owned(),
        Gives::Text(example) => format!("“{example}”"),
    }
}

/// What becomes of an account by an action.
const fn asked_for(action: ActionWord) -> &'static str {
    match action {
        ActionWord::Keep => "it stays",
        ActionWord::Renumber => "it gets the new code",
        ActionWord::Rename => "it gets the new name",
        ActionWord::Merge => "it is merged into the new code",
        ActionWord::Deactivate => "it is deactivated",
        ActionWord::Archive => "it is archived",
        ActionWord::Delete => "it is deleted",
        ActionWord::Restore => "it is active again",
    }
}

const fn days_of(periods: PeriodsAs) -> &'static str {
    match periods {
        PeriodsAs::MonthEnd => "months of the calendar, by their last day",
        PeriodsAs::MonthStart => "months of the calendar, by their first day",
        PeriodsAs::YearEnding => {
            "periods of the fiscal year that ends in the year named, by their last day"
        }
        PeriodsAs::YearStarting => {
            "periods of the fiscal year that begins in the year named, by their last day"
        }
    }
}

fn explanation(explained: &Explained) -> String {
    let rows = |rows: &[(Place, String)], why: &str| {
        let rows: Vec<String> =
            rows.iter().map(|(at, account)| format!("{} ({account})", place(at))).collect();
        format!("{} {why}.", rows.join(", "))
    };
    match explained {
        Explained::Twice(found) => {
            rows(found, "has just that amount, and may be there once too often")
        }
        Explained::Missing(found) => {
            rows(found, "has just that amount on the other side, where another is missing")
        }
        Explained::WrongSide(found) => {
            rows(found, "has half of it, and may stand on the wrong side")
        }
        Explained::Swapped => {
            "It can be divided by nine, as after two digits that were swapped.".to_owned()
        }
        Explained::Rounding => "It is as small as what rounding leaves over.".to_owned(),
    }
}

fn sheets(names: &[String]) -> String {
    let quote = |names: &[String]| names.iter().map(|name| format!("“{name}”")).collect();
    let named: Vec<String> = match names.len() {
        ..=SHEETS => quote(names),
        many => {
            let mut named: Vec<String> = quote(&names[..SHEETS - 1]);
            named.push(format!("{} more", many - (SHEETS - 1)));
            named
        }
    };
    named.join(", ")
}

fn quoted(cells: &[String]) -> String {
    cells.iter().map(|cell| format!("“{cell}”")).collect::<Vec<_>>().join(", ")
}
