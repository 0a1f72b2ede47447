//! What a set of books lays down for itself: code format, blocks, and how strict some rules are.

use crate::chart::{Account, Class, Section};
use crate::code::{Code, Interval};
use crate::keyed::keyed;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use std::fmt;

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

/// Declares the rules that books can tighten or relax: key, and how strict it is where books say nothing.
macro_rules! relaxable {
    ($($(#[$doc:meta])* $name:ident = $key:literal, $usual:ident;)+) => {
        keyed! {
            /// A rule that books can tighten or relax.
            RelaxableRule { $($(#[$doc])* $name = $key;)+ }
        }

        impl RelaxableRule {
            /// How strict it is where books say nothing.
            const fn usual(self) -> Level {
                match self { $(Self::$name => Level::$usual,)+ }
            }
        }
    };
}

relaxable! {
    /// Codes outside the blocks of their class.
    OutsideBlock = "outside_block", Caution;
    /// Codes that another account used to bear.
    ReusedCode = "reused_code", Caution;
    /// Archiving what has a balance.
    ArchiveWithBalance = "archive_with_balance", Stop;
    /// Archiving what was used of late.
    ArchiveWhenRecent = "archive_when_recent", Stop;
}

/// A stretch of the code line that belongs to a class, or to one of its sections.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Block {
    /// The class whose accounts belong there.
    pub class: Class,
    /// The section that it is kept for; `None` for all of the class.
    pub section: Option<Section>,
    /// The stretch.
    pub codes: Interval,
}

/// The form every code of the books has.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct CodeFormat {
    /// Fewest characters.
    pub min: u8,
    /// Most characters.
    pub max: u8,
    /// Whether only the digits 0 to 9 may stand in it, but for what separates segments.
    pub digits_only: bool,
    /// The segments of a code; `None` when it is all of a piece.
    pub segments: Option<Segments>,
}

/// The most segments that a code can have.
pub const MAX_SEGMENTS: usize = 6;

/// The runs of digits that a code is made of, such as a site and an account: `##-####`.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
pub struct Segments {
    /// How many digits each has; zero from the first one on that there is not.
    widths: [u8; MAX_SEGMENTS],
    /// What stands between them.
    separator: char,
}

impl Segments {
    /// Reads a picture of a code, with `#` for each digit.
    fn parse(picture: &str) -> Option<Self> {
        let separator = picture.chars().find(|c| *c != '#')?;
        let sound = |c: char| c == '#' || c == separator;
        let separates = !separator.is_alphanumeric() && !separator.is_control();
        let mut widths = [0; MAX_SEGMENTS];
        for (at, part) in picture.split(separator).enumerate() {
            let width = u8::try_from(part.len()).ok().filter(|width| *width > 0)?;
            *widths.get_mut(at)? = width;
        }
        (separates && picture.chars().all(sound)).then_some(Self { widths, separator })
    }

    /// How many digits each segment has.
    pub fn widths(&self) -> impl Iterator<Item = u8> + '_ {
        self.widths.iter().copied().take_while(|width| *width > 0)
    }

    /// What stands between segments.
    pub fn separator(&self) -> char {
        self.separator
    }

    fn fit(&self, code: &str) -> bool {
        let parts: Vec<&str> = code.split(self.separator).collect();
        parts.len() == self.widths().count()
            && parts.iter().zip(self.widths()).all(|(part, width)| {
                part.len() == usize::from(width) && part.bytes().all(|b| b.is_ascii_digit())
            })
    }
}

impl fmt::Display for Segments {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let parts: Vec<String> = self.widths().map(|width| "#".repeat(width.into())).collect();
        f.write_str(&parts.join(&self.separator.to_string()))
    }
}

impl TryFrom<String> for Segments {
    type Error = NotAFormat;

    fn try_from(picture: String) -> Result<Self, NotAFormat> {
        Self::parse(&picture).ok_or(NotAFormat(picture))
    }
}

impl From<Segments> for String {
    fn from(segments: Segments) -> Self {
        segments.to_string()
    }
}

/// Why a text is no form of codes.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("“{0}” is not a form of codes; write `4`, `4-6 digits`, `1-12 characters` or `##-####`")]
pub struct NotAFormat(String);

impl CodeFormat {
    /// So many characters, whatever they are.
    pub const fn any(min: u8, max: u8) -> Self {
        Self { min, max, digits_only: false, segments: None }
    }

    /// So many digits.
    pub const fn digits(min: u8, max: u8) -> Self {
        Self { min, max, digits_only: true, segments: None }
    }

    /// Reads a form: how many, or from how many to how many, digits or characters, or a picture of
    /// segments. Without either word digits are meant.
    ///
    /// # Errors
    /// When it is no such text, or from is more than to.
    pub fn parse(text: &str) -> Result<Self, NotAFormat> {
        let wrong = || NotAFormat(text.to_owned());
        if text.contains('#') {
            let segments = Segments::parse(text.trim()).ok_or_else(wrong)?;
            let width = u8::try_from(text.trim().chars().count()).map_err(|_| wrong())?;
            let sound = usize::from(width) <= crate::code::MAX_CODE;
            let format = Self { segments: Some(segments), ..Self::digits(width, width) };
            return sound.then_some(format).ok_or_else(wrong);
        }
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
        sound.then_some(Self { min, max, digits_only, segments: None }).ok_or_else(wrong)
    }

    /// What is wrong with a code, if anything.
    pub fn objection(&self, code: &Code) -> Option<Objection> {
        let &Self { min, max, digits_only, segments } = self;
        let length = code.as_str().chars().count();
        if let Some(segments) = segments {
            let objection = Objection::Segments(segments);
            return (!segments.fit(code.as_str())).then_some(objection);
        }
        if digits_only && !code.as_str().bytes().all(|b| b.is_ascii_digit()) {
            return Some(Objection::NotDigits);
        }
        let fits = (usize::from(min)..=usize::from(max)).contains(&length);
        (!fits).then_some(Objection::Length { length, min, max })
    }
}

/// What is wrong with a code under a form; said of the code.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Objection {
    /// It does not have these segments.
    Segments(Segments),
    /// Digits only are allowed.
    NotDigits,
    /// It is too long or too short.
    Length {
        /// How many characters it has.
        length: usize,
        /// The fewest.
        min: u8,
        /// The most.
        max: u8,
    },
}

impl fmt::Display for Objection {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Segments(segments) => write!(f, "is not of the form {segments}"),
            Self::NotDigits => f.write_str("has something other than digits"),
            Self::Length { length, min, max } => {
                write!(f, "has {length} characters where these books use {min}")?;
                if min == max { Ok(()) } else { write!(f, " to {max}") }
            }
        }
    }
}

/// The form as [`CodeFormat::parse`] reads it.
impl fmt::Display for CodeFormat {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if let Some(segments) = self.segments {
            return segments.fmt(f);
        }
        let what = if self.digits_only { "digits" } else { "characters" };
        match (self.min, self.max) {
            (min, max) if min == max => write!(f, "{min} {what}"),
            (min, max) => write!(f, "{min}-{max} {what}"),
        }
    }
}

/// The rules that a set of books can tighten or relax, and what they are measured against.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Policy {
    /// The form of codes.
    pub format: CodeFormat,
    /// Which codes belong to which class; empty when the books have no blocks.
    pub blocks: Vec<Block>,
    /// How strict the books take rules; those that they say nothing of are as usual.
    levels: BTreeMap<RelaxableRule, Level>,
}

impl Default for Policy {
    /// The format takes any code; there are no blocks; every rule is as strict as usual.
    fn default() -> Self {
        Self::new(CodeFormat::any(1, crate::code::MAX_CODE as u8), Vec::new())
    }
}

impl Policy {
    /// A policy under which every rule is as strict as usual.
    pub const fn new(format: CodeFormat, blocks: Vec<Block>) -> Self {
        Self { format, blocks, levels: BTreeMap::new() }
    }

    /// How strict a rule is.
    pub fn level(&self, rule: RelaxableRule) -> Level {
        self.levels.get(&rule).copied().unwrap_or(rule.usual())
    }

    /// The same of every rule.
    pub fn levels(&self) -> impl Iterator<Item = (RelaxableRule, Level)> + '_ {
        RelaxableRule::ALL.iter().map(|rule| (*rule, self.level(*rule)))
    }

    /// Takes a rule this strictly.
    pub fn take(&mut self, rule: RelaxableRule, level: Level) {
        // Policies that mean the same are the same.
        if level == rule.usual() {
            self.levels.remove(&rule);
        } else {
            self.levels.insert(rule, level);
        }
    }

    /// Where the codes of an account belong: in the blocks of its section, or, where the section has
    /// none of its own, in those of its class.
    pub fn blocks_of(&self, class: Class, section: Option<Section>) -> Vec<&Interval> {
        let of = |wanted: &dyn Fn(&Block) -> bool| -> Vec<&Interval> {
            let blocks = self.blocks.iter().filter(|block| block.class == class && wanted(block));
            blocks.map(|block| &block.codes).collect()
        };
        let own = of(&|block| block.section.is_some() && block.section == section);
        let general = of(&|block| block.section.is_none());
        match (own.is_empty(), general.is_empty()) {
            (false, _) => own,
            (true, false) => general,
            // Only other sections have blocks: the class is at least there.
            (true, true) => of(&|_| true),
        }
    }

    /// The blocks inside those of a class and section that the scheme keeps for other sections.
    pub fn kept_for_others(&self, class: Class, section: Option<Section>) -> Vec<&Interval> {
        let of_class = || self.blocks.iter().filter(move |block| block.class == class);
        // Where only other sections have blocks, those are all there is.
        let has_general = of_class().any(|block| block.section.is_none());
        let has_own = of_class().any(|block| block.section.is_some() && block.section == section);
        if has_own || !has_general {
            return Vec::new();
        }
        let others = of_class().filter(|block| block.section.is_some());
        others.map(|block| &block.codes).collect()
    }

    /// Where an account's code should lie, when it does not. A code that was only proposed should lie
    /// nowhere.
    pub fn missed_blocks(&self, account: &Account) -> Option<Vec<&Interval>> {
        if account.code_proposed {
            return None;
        }
        let blocks = self.blocks_of(account.class, account.own_standard());
        let key = account.code.key();
        (!blocks.is_empty() && !blocks.iter().any(|b| b.contains(&key))).then_some(blocks)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn forms_of_codes_are_read_as_written() {
        for text in ["4 digits", "4-6 digits", "1-12 characters", "##-####", "#.##.###"] {
            assert_eq!(CodeFormat::parse(text).unwrap().to_string(), text);
        }
        for text in ["", "0", "6-4", "4 letters", "##-", "##-##.##", "##a##", "25"] {
            assert!(CodeFormat::parse(text).is_err(), "{text}");
        }
        let format = CodeFormat::parse("##-####").unwrap();
        let objects = |code: &str| {
            format.objection(&Code::parse(code).unwrap()).map(|objection| objection.to_string())
        };
        assert_eq!(objects("40-5010"), None);
        for code in ["405010", "4-05010", "40-501A", "40-5010-1"] {
            assert_eq!(objects(code).as_deref(), Some("is not of the form ##-####"), "{code}");
        }
    }
}
