//! What a set of books lays down for itself: code format, blocks, and how strict some rules are.

use crate::chart::{Class, keyed};
use crate::code::{Code, CodeKey, Interval};

keyed! {
    /// How strictly a rule is taken.
    Level {
        /// The plan cannot be applied while it is broken.
        Stop = "stop", "stop";
        /// A person must have read it.
        Caution = "caution", "caution";
        /// Not looked at.
        Off = "off", "off";
    }
}

/// A stretch of the code line that belongs to a class.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Block {
    /// The class whose accounts belong there.
    pub class: Class,
    /// The stretch.
    pub codes: Interval,
}

/// The form every code of the books has.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct CodeFormat {
    /// Fewest characters.
    pub min: u8,
    /// Most characters.
    pub max: u8,
    /// Whether only the digits 0 to 9 may stand in it.
    pub digits_only: bool,
}

/// Why a text is no form of codes.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("“{0}” is not a form of codes; write `4`, `4-6 digits` or `1-12 characters`")]
pub struct NotAFormat(String);

impl CodeFormat {
    /// Reads a form: how many, or from how many to how many, digits or characters. Without either
    /// word digits are meant.
    ///
    /// # Errors
    /// When it is no such text, or from is more than to.
    pub fn parse(text: &str) -> Result<Self, NotAFormat> {
        let wrong = || NotAFormat(text.to_owned());
        let (counts, what) = text.trim().split_once(' ').unwrap_or((text.trim(), "digits"));
        let digits_only = match what.trim() {
            "digits" => true,
            "characters" => false,
            _ => return Err(wrong()),
        };
        let (min, max) = counts.split_once('-').unwrap_or((counts, counts));
        let number = |part: &str| part.parse::<u8>().map_err(|_| wrong());
        let (min, max) = (number(min)?, number(max)?);
        let sound = 1 <= min && min <= max && usize::from(max) <= crate::code::MAX_CODE;
        sound.then_some(Self { min, max, digits_only }).ok_or_else(wrong)
    }

    /// Says in words what is wrong with a code, if anything.
    pub fn objection(&self, code: &Code) -> Option<String> {
        let length = code.as_str().chars().count();
        if self.digits_only && !code.as_str().bytes().all(|b| b.is_ascii_digit()) {
            return Some("has something other than digits".to_owned());
        }
        if length < self.min.into() || length > self.max.into() {
            let wanted = match (self.min, self.max) {
                (a, b) if a == b => format!("{a}"),
                (a, b) => format!("{a} to {b}"),
            };
            return Some(format!("has {length} characters where these books use {wanted}"));
        }
        None
    }
}

/// The rules that a set of books can tighten or relax, and what they are measured against.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Policy {
    /// The form of codes.
    pub format: CodeFormat,
    /// Which codes belong to which class; empty when the books have no blocks.
    pub blocks: Vec<Block>,
    /// A code outside the blocks of its class.
    pub outside_block: Level,
    /// A code that another account used to bear.
    pub reused_code: Level,
    /// Archiving an account that has a balance.
    pub archive_with_balance: Level,
    /// Archiving an account with a line since the start of the prior fiscal year.
    pub archive_when_recent: Level,
}

impl Default for Policy {
    /// The format takes any code; there are no blocks; old codes may be reused once read about;
    /// archiving is strict.
    fn default() -> Self {
        Self {
            format: CodeFormat { min: 1, max: crate::code::MAX_CODE as u8, digits_only: false },
            blocks: Vec::new(),
            outside_block: Level::Caution,
            reused_code: Level::Caution,
            archive_with_balance: Level::Stop,
            archive_when_recent: Level::Stop,
        }
    }
}

impl Policy {
    /// The blocks of a class, when a code lies in none of them.
    pub fn missed_blocks(&self, class: Class, key: &CodeKey) -> Option<Vec<&Interval>> {
        let blocks: Vec<_> =
            self.blocks.iter().filter(|b| b.class == class).map(|b| &b.codes).collect();
        (!blocks.is_empty() && !blocks.iter().any(|b| b.contains(key))).then_some(blocks)
    }
}
