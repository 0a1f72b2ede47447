//! What is not certain is asked: the readings to choose from, and what each would give.

use serde::{Deserialize, Deserializer, Serialize, Serializer};
use std::collections::BTreeMap;
use std::fmt;
use std::str::FromStr;

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
    /// The question, in a sentence.
    pub say: String,
    /// How it may be read.
    pub readings: Vec<Answer>,
    /// The key of the reading that is more likely, which holds until somebody answers.
    pub default: Option<String>,
}

/// One of the readings.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Answer {
    /// Its key.
    pub key: String,
    /// What it is, in words.
    pub say: String,
    /// What it would give: rows, sums, an example.
    pub gives: String,
}

impl Answer {
    /// A reading with what it would give.
    pub fn new(key: impl ToString, say: impl ToString, gives: impl ToString) -> Self {
        Self { key: key.to_string(), say: say.to_string(), gives: gives.to_string() }
    }
}

/// The key of a reading, by what it is about.
pub type Answers = BTreeMap<About, String>;
