//! What is not certain is asked: the readings to choose from, and what each would give.

use std::collections::BTreeMap;

/// Something of a file that can be read in more than one way.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Question {
    /// The subject, as a key that an answer names.
    pub about: String,
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
pub type Answers = BTreeMap<String, String>;
