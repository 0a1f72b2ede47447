//! What is not certain is asked: the readings to choose from, and what each would give.

use super::columns::Column;
use super::dates::DateOrder;
use super::numbers::DecimalMark;
use super::period_text::PeriodsAs;
use super::rows::Place;
use super::words::{ActionWord, RowWord, SideWord};
use serde::{Deserialize, Deserializer, Serialize, Serializer};
use std::collections::BTreeMap;
use std::fmt;
use std::str::FromStr;
use time::Date;
use zf_core::chart::{Class, Status};
use zf_core::code::Code;
use zf_core::money::Currency;

/// Declares what questions can be about, each with the key that answers name it by: some of the whole file, others of
/// one thing in it, which stands behind the key and a colon.
macro_rules! abouts {
    (
        of the file { $($(#[$doc:meta])* $whole:ident = $key:literal;)+ }
        of one thing { $($(#[$of_doc:meta])* $one:ident($type:ty) = $of_key:literal;)+ }
    ) => {
        /// What a question is about. It is written as a key, `dates`, or with the one thing in the file that is meant,
        /// `class:Moonbeams`; scripts rely on these texts.
        #[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
        pub enum About {
            $($(#[$doc])* $whole,)+
            $($(#[$of_doc])* $one($type),)+
        }

        impl About {
            /// The keys that there are, and whether one thing is named behind them.
            pub const KEYS: &'static [(&'static str, bool)] = &[$(($key, false),)+ $(($of_key, true)),+];
        }

        impl fmt::Display for About {
            fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
                match self {
                    $(Self::$whole => f.write_str($key),)+
                    $(Self::$one(one) => write!(f, "{}:{one}", $of_key),)+
                }
            }
        }

        impl FromStr for About {
            type Err = NotAsked;

            fn from_str(text: &str) -> Result<Self, NotAsked> {
                let unknown = || NotAsked(text.to_owned());
                match text.split_once(':') {
                    None => match text {
                        $($key => Ok(Self::$whole),)+
                        _ => Err(unknown()),
                    },
                    Some((key, one)) => match key {
                        $($of_key => one.parse().map(Self::$one).map_err(|_| unknown()),)+
                        _ => Err(unknown()),
                    },
                }
            }
        }
    };
}

abouts! {
    of the file {
        /// Whether the codes of new accounts are made by name or by place.
        CodesBy = "codes_by";
        /// How many digits codes have that are made.
        CodeDigits = "code_digits";
        /// The mark before decimals.
        Decimal = "decimal";
        /// The order of day, month and year.
        Dates = "dates";
        /// What becomes of the difference of a trial balance.
        Difference = "difference";
        /// The encoding of a text.
        Encoding = "encoding";
        /// What numbers the entries.
        Entries = "entries";
        /// Which figures a trial balance is read from.
        Figures = "figures";
        /// The class of accounts without codes of which nothing tells one.
        Names = "names";
        /// What becomes of balances before the first line.
        Openings = "openings";
        /// What is owed, and what is the owners' own.
        OwedAndOwn = "owed_and_own";
        /// Which days periods stand for.
        Periods = "periods";
        /// Whether two codes are the ends of a range.
        Ranges = "ranges";
        /// What becomes of accounts that take each other's codes.
        Rings = "rings";
        /// Whether control roles are told by names.
        Roles = "roles";
        /// Which sheet is read.
        Sheet = "sheet";
        /// What signs of amounts say.
        Signs = "signs";
        /// From which day accounts are deactivated or archived.
        StatusFrom = "status_from";
        /// The account that takes the tax, by its code or name.
        TaxAccount = "tax_account";
        /// What becomes of totals.
        Totals = "totals";
    }
    of one thing {
        /// What a word in a column of actions asks for.
        Action(String) = "action";
        /// The class that a wording stands for.
        Class(String) = "class";
        /// The code of the account in a row, by the number of that.
        Code(u32) = "code";
        /// The class of codes that begin with a character.
        Codes(char) = "codes";
        /// What a column holds, by its heading.
        Column(String) = "column";
        /// What a row is, by a word in the column of kinds.
        Kind(String) = "kind";
        /// The class of a new account, by its code.
        NewClass(String) = "new_class";
        /// The side that a word stands for.
        Normal(String) = "normal";
        /// The status that a word stands for.
        Status(String) = "status";
    }
}

/// Nothing is ever asked about that.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("nothing is asked about “{0}”")]
pub struct NotAsked(String);

impl Serialize for About {
    fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
        to.collect_str(self)
    }
}

impl<'de> Deserialize<'de> for About {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<Self, D::Error> {
        String::deserialize(from)?.parse().map_err(serde::de::Error::custom)
    }
}

/// Something of a file that can be read in more than one way.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Question {
    /// The subject, which an answer names.
    pub about: About,
    /// What is asked of it.
    pub asks: Asks,
    /// How it may be read.
    pub readings: Vec<Answer>,
    /// The key of the reading that is more likely, which holds until somebody answers.
    pub default: Option<String>,
}

/// What is asked, with what the question names. Accounts are named as they are called.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Asks {
    /// What a word in a column of actions asks for.
    Action(String),
    /// The class of an account that a crosswalk adds.
    NewClass(String),
    /// What becomes of balances before the first line: of how many accounts, and the first with its amount.
    Openings {
        /// How many accounts have one.
        accounts: usize,
        /// The first of them.
        first: String,
        /// What it stands at, in minor units.
        balance: i128,
        /// Their currency.
        currency: Currency,
    },
    /// The account of the tax in the column of this heading.
    TaxAccount(String),
    /// Whether these sheets are one table.
    Sheets(Vec<String>),
    /// Whether accounts that take each other's codes only change them.
    Rings(Vec<Code>),
    /// Whether so few entries have so many lines.
    Entries {
        /// How many lines there are.
        lines: usize,
        /// How many entries that is by their day.
        entries: usize,
    },
    /// What the sign of an amount says.
    Signs,
    /// Which day periods stand for, in so many rows.
    Periods(usize),
    /// What debits are more than credits, in minor units, and what may explain it.
    Difference {
        /// Debits less credits.
        gap: i128,
        /// Their currency.
        currency: Currency,
        /// What may explain it.
        explained: Vec<Explained>,
    },
    /// The order of day, month and year in such a date, for which so many rows wait.
    Dates(String, usize),
    /// The mark before decimals in such an amount, for which so many rows wait.
    Decimal(String, usize),
    /// Which figures a trial balance is read from.
    Figures,
    /// What the column of this heading holds.
    Column(String),
    /// What a row of this kind is.
    Kind(String),
    /// What this status says.
    Status(String),
    /// Which side this word is.
    Side(String),
    /// Whether two codes are the ends of a range.
    Range(Code, Code),
    /// From which day so many accounts are deactivated or archived.
    StatusFrom(usize),
    /// The class of a wording.
    Class(String),
    /// The class of what stands under a caption.
    ClassUnder(String),
    /// Whether such an account is owed, or the owners' own.
    OwedAndOwn(String),
    /// The class of codes that begin so.
    ClassOfCodes(char),
    /// The class of accounts of which nothing tells one.
    ClassOfOthers,
    /// The encoding of a text.
    Encoding,
}

/// What may explain the difference of a trial balance.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Explained {
    /// Rows, each with its account, whose amount is just that: it may be there once too often.
    Twice(Vec<(Place, String)>),
    /// Rows with that amount on the other side, where another is missing.
    Missing(Vec<(Place, String)>),
    /// Rows with half of it, which may stand on the wrong side.
    WrongSide(Vec<(Place, String)>),
    /// It can be divided by nine, as after two digits that were swapped.
    Swapped,
    /// It is as small as what rounding leaves over.
    Rounding,
}

/// One of the readings.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Answer {
    /// Its key.
    pub key: String,
    /// What the file says by it.
    pub means: Means,
    /// What it would give: rows, sums, an example.
    pub gives: Gives,
}

/// What a file says by one reading.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Means {
    /// A class.
    Class(Class),
    /// An action.
    Action(ActionWord),
    /// A kind of row.
    Kind(RowWord),
    /// A status.
    Status(Status),
    /// A side.
    Side(SideWord),
    /// Nothing of the side.
    NoSide,
    /// What is positive is a debit.
    PositiveIsDebit,
    /// What is positive stands on the usual side of its account.
    PositiveIsUsual,
    /// A day of each period.
    Periods(PeriodsAs),
    /// An order of day, month and year.
    Dates(DateOrder),
    /// A mark before decimals.
    Decimal(DecimalMark),
    /// All sheets are one table.
    AllSheets,
    /// This sheet alone is read.
    OnlySheet(String),
    /// Accounts change their codes.
    Rotation,
    /// Each account is merged into the next.
    Merges,
    /// Balances before the first line are left out.
    OpeningsAside,
    /// They are an opening entry.
    OpeningEntry,
    /// The account of this code or name.
    Account(String),
    /// All lines of a day are one entry.
    DayIsEntry,
    /// The column of this heading numbers the entries.
    NumberedBy(String),
    /// Balances are taken as they are.
    AsItIs,
    /// The file is corrected first.
    Correct,
    /// Figures of this heading, or of these together.
    Figures(String),
    /// A column is this.
    Column(Column),
    /// A column is not used.
    Unused,
    /// All codes between two.
    Between(Code, Code),
    /// Two codes only.
    Only(Code, Code),
    /// The day is not known.
    DayUnknown,
    /// From the day on which the file is stored.
    DayStored,
    /// An encoding, by its name.
    Encoding(&'static str),
}

/// What a reading would give.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Gives {
    /// So many rows.
    Rows(usize),
    /// So many rows, such as this one.
    RowsAs(usize, String),
    /// So many rows, and so many more whose names tell it.
    RowsAndNamed(usize, usize),
    /// An account added with a class.
    AddedAs(String, Class),
    /// A sum in minor units, from so many rows.
    Sum(i128, Currency, usize),
    /// So many accounts that get the code of another.
    CodesOfOthers(usize),
    /// No account that would be left, so that nothing is staged.
    NoneLeft,
    /// So many entries.
    Entries(usize),
    /// As many entries as a column has values.
    EntriesByValue,
    /// The entries of the file alone.
    FileOnly,
    /// One entry on the first day of the file.
    EntryOnFirstDay,
    /// Entries that do not balance.
    Unbalanced,
    /// Entries that all balance.
    Balanced,
    /// Debits and credits that differ, in minor units.
    DebitsDiffer(i128, Currency),
    /// Debits and credits that are the same.
    DebitsSame,
    /// A day; of a period, as the file writes it.
    Day(Date, Option<String>),
    /// Debits and credits, in minor units.
    Sides {
        /// The debits.
        debits: i128,
        /// The credits.
        credits: i128,
        /// Their currency.
        currency: Currency,
    },
    /// An amount with decimals behind this mark.
    DecimalsAs(String, DecimalMark),
    /// Cells of a column.
    Cells(Vec<String>),
    /// A field that another column holds then, with cells of that; none where there is no such column.
    Instead(Column, Option<(String, Vec<String>)>),
    /// So many more accounts that are added up, by all such sum lines.
    AddedUp(usize),
    /// Nothing between two codes.
    NothingBetween,
    /// The difference stays.
    DifferenceStays,
    /// Nothing is taken as right.
    NothingTaken,
    /// Lines of any day come in as they are.
    AnyDay,
    /// Of later lines it is asked what becomes of them.
    LaterAsked,
    /// What a text would be.
    Text(String),
}

impl Answer {
    /// A reading with what it would give.
    pub fn new(key: impl ToString, means: Means, gives: Gives) -> Self {
        Self { key: key.to_string(), means, gives }
    }
}

/// The key of a reading, by what it is about.
pub type Answers = BTreeMap<About, String>;
