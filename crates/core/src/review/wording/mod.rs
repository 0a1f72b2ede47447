//! Names reduced to what they speak of: words without their endings, marks that say nothing of the
//! matter, abbreviations and synonyms of the trade.

mod alike;
mod lexicon;
mod lists;
mod stem;
mod word;

pub use alike::{Alike, is_slip};
pub use word::Word;

use lists::{JOINTS, OLD, PHRASES};
use unicode_normalization::UnicodeNormalization;
use unicode_normalization::char::is_combining_mark;

/// A name reduced to what it speaks of.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Wording {
    /// Its words, in the order of the name.
    pub words: Vec<Word>,
    /// Whether it says of the account that it is not to be used any more.
    pub old: bool,
    /// The year that it names.
    pub year: Option<u16>,
    /// Whether it says that it is a copy.
    pub copy: bool,
    /// All its words as they are written, with those that only hold it together.
    pub written: Vec<String>,
}

impl Wording {
    /// Reduces a name.
    pub fn of(name: &str) -> Self {
        let plain = plain_words(name);
        let written: Vec<String> = plain.iter().map(|word| word.text.clone()).collect();
        let mut wording = Self::default();
        let mut at = 0;
        while let Some(word) = plain.get(at) {
            let rest = &written[at..];
            if let Some(said) = OLD.iter().find(|said| begins(rest, said)) {
                wording.old = true;
                at += said.len();
                continue;
            }
            if let Some((said, word)) = PHRASES.iter().find(|(said, _)| begins(rest, said)) {
                wording.words.push(Word::of(word, false));
                at += said.len();
                continue;
            }
            at += 1;
            match word.text.as_str() {
                // Put in front, so that the account sinks to the end of every list.
                "z" | "zz" | "zzz" | "xx" | "xxx" if plain.len() > 1 => wording.old = true,
                "duplicate" | "dup" => wording.copy = true,
                // “Copy of rent” and “Rent (copy)”; but single copies are sold.
                "copy" if word.apart || rest.get(1).is_some_and(|next| next == "of") => {
                    wording.copy = true;
                }
                text => match year(text) {
                    Some(year) => wording.year = Some(year),
                    None if JOINTS.contains(&text) => {}
                    None => wording.words.push(Word::of(text, word.cut)),
                },
            }
        }
        // “Deliveries (2)”: the second account of that name. A name of nothing but a number keeps it.
        if wording.words.len() > 1
            && let Some(last) = wording.words.last()
            && last.stem.len() == 1
            && name.trim_end().ends_with(')')
            && last.stem.bytes().all(|b| b.is_ascii_digit())
        {
            wording.copy = true;
            wording.words.pop();
        }
        wording.written = written;
        wording
    }

    /// What names have in common that say the same: their words by meaning, in any order.
    pub fn key(&self) -> String {
        let mut keys: Vec<&str> = self.words.iter().map(Word::key).collect();
        keys.sort_unstable();
        keys.join(" ")
    }

    /// Whether it has a word, by what it means, without its ending or as it is written; also within a phrase.
    pub fn says(&self, word: &str) -> bool {
        let within = self.written.iter().map(|written| Word::of(written, false));
        let mut all = self.words.iter().cloned().chain(within);
        all.any(|one| one.key() == word || one.stem == word || one.written == word)
    }

    /// Whether the name itself says that the account is one to get rid of.
    pub fn is_marked(&self) -> bool {
        self.old || self.copy
    }
}

/// Whether a word only holds others together.
pub fn is_joint(word: &str) -> bool {
    JOINTS.contains(&word)
}

fn begins(words: &[String], said: &[&str]) -> bool {
    words.len() >= said.len() && words.iter().zip(said).all(|(word, other)| word == other)
}

/// A word as it stands in a name.
struct Plain {
    /// In small letters, without accents and apostrophes.
    text: String,
    /// Whether it is marked as cut short.
    cut: bool,
    /// Whether more than a space stands between it and what is before it.
    apart: bool,
}

/// The words of a name.
fn plain_words(name: &str) -> Vec<Plain> {
    let plain: String =
        name.nfd().filter(|c| !is_combining_mark(*c)).flat_map(char::to_lowercase).collect();
    let plain = plain.replace(['’', '‘'], "'");
    let (mut words, mut after_dash) = (Vec::new(), false);
    let of_word = |c: char| c.is_alphanumeric() || matches!(c, '-' | '\'');
    let mut rest = plain.as_str();
    while let Some(start) = rest.find(of_word) {
        let apart = after_dash || rest[..start].contains(|c: char| !c.is_whitespace());
        let end = rest[start..].find(|c| !of_word(c)).map_or(rest.len(), |at| start + at);
        let word = &rest[start..end];
        rest = &rest[end..];
        // “rec'd” is cut short; “residents'” and “farmer's” belong to somebody.
        let inside = word.trim_end_matches("'s").trim_matches('\'').contains('\'');
        let is_cut = inside || rest.starts_with('.');
        for part in parts(&word.replace('\'', "")).into_iter().filter(|part| !part.is_empty()) {
            words.push(Plain { text: part, cut: is_cut, apart });
        }
        after_dash = word.trim_matches('-').is_empty();
    }
    words
}

/// The parts of a word with hyphens; a syllable that only begins a word belongs to it.
fn parts(word: &str) -> Vec<String> {
    const BEGINNINGS: [&str; 6] = ["re", "pre", "co", "non", "sub", "un"];
    match word.split_once('-') {
        Some((first, rest)) if BEGINNINGS.contains(&first) => {
            vec![format!("{first}{}", rest.replace('-', ""))]
        }
        _ => word.split('-').map(str::to_owned).collect(),
    }
}

fn year(word: &str) -> Option<u16> {
    word.parse().ok().filter(|year| word.len() == 4 && (1950..2100).contains(year))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn said(name: &str) -> String {
        let words = Wording::of(name).words;
        words.iter().map(|word| word.stem.as_str()).collect::<Vec<_>>().join(" ")
    }

    #[test]
    fn names_are_reduced_to_what_they_speak_of() {
        for (name, words) in [
            ("Tools, small", "tool small"),
            ("Members' Subscriptions", "member subscription"),
            ("CAFÉ SUPPLIES", "cafe supply"),
            ("Cleaning of the cottages", "cleaning cottage"),
            ("Books (for re-sale)", "book resale"),
            ("Welding gases", "welding gas"),
            ("Business taxes", "business tax"),
            ("Audit & accountancy fees", "audit accountancy fee"),
            ("Insurance paid in advance", "insurance prepaid"),
        ] {
            assert_eq!(said(name), words, "{name}");
        }
    }

    #[test]
    fn marks_are_told_from_words() {
        let marks = |name: &str| {
            let wording = Wording::of(name);
            (said(name), wording.old, wording.year, wording.copy)
        };
        let words = |text: &str| text.to_owned();
        assert_eq!(marks("Lamps (OLD - do not use)"), (words("lamp"), true, None, false));
        assert_eq!(marks("ZZ Lamps"), (words("lamp"), true, None, false));
        assert_eq!(marks("Lamps 2021"), (words("lamp"), false, Some(2021), false));
        assert_eq!(marks("Lamp oil (2)"), (words("lamp oil"), false, None, true));
        assert_eq!(marks("Lamps (copy)"), (words("lamp"), false, None, true));
        assert_eq!(marks("Lamps - copy"), (words("lamp"), false, None, true));
        assert_eq!(marks("Copy of lamps"), (words("lamp"), false, None, true));
        assert_eq!(marks("Single copy"), (words("single copy"), false, None, false));
        assert_eq!(marks("Van 2"), (words("van 2"), false, None, false), "a second van");
    }

    #[test]
    fn what_is_said_in_several_words_is_one_and_still_says_each() {
        for (name, key) in [
            ("Trade debtors", "debtor"),
            ("Accounts receivable", "debtor"),
            ("Sales ledger", "debtor"),
            ("Trade creditors", "creditor"),
            ("Purchase ledger", "creditor"),
            ("Office supplies", "stationery"),
            ("Profit brought forward", "retained surplus"),
        ] {
            assert_eq!(Wording::of(name).key(), key, "{name}");
        }
        let ledger = Wording::of("Sales ledger control");
        assert!(ledger.says("ledger") && ledger.says("sale") && ledger.says("control"));
        assert!(!ledger.says("purchase"));
    }

    #[test]
    fn many_are_told_from_one_whatever_their_ending() {
        for (many, one) in [
            ("Calves", "Calf"),
            ("Loaves", "Loaf"),
            ("Shelves", "Shelf"),
            ("People", "Person"),
            ("Taxes", "Tax"),
            ("Berries", "Berry"),
        ] {
            assert_eq!(said(many), said(one), "{many}");
        }
    }

    #[test]
    fn a_short_word_is_a_slip_of_another_only_where_one_of_them_is_unknown() {
        let like = |a: &str, b: &str| Word::of(a, false).alike(&Word::of(b, false));
        assert_eq!(like("levy", "leavy"), Some(Alike::Slip));
        for (a, b) in [("plan", "plain"), ("boat", "boot"), ("coal", "cool"), ("duty", "duly")] {
            assert_eq!(like(a, b), None, "{a} {b}");
        }
    }

    #[test]
    fn words_are_alike_when_they_mean_the_same_or_are_slips() {
        let like = |a: &str, b: &str| Word::of(a, false).alike(&Word::of(b, false)).is_some();
        for (a, b) in [
            ("insurance", "insurances"),
            ("phone", "telephone"),
            ("maint", "repairs"),
            ("electricty", "electricity"),
            ("refurb", "refurbishment"),
            ("lifting", "lift"),
            ("servicing", "services"),
        ] {
            assert!(like(a, b), "{a} {b}");
        }
        for (a, b) in
            [("north", "south"), ("21", "22"), ("coal", "coat"), ("loan", "lean"), ("ring", "re")]
        {
            assert!(!like(a, b), "{a} {b}");
        }
    }

    proptest! {
        #[test]
        fn no_name_makes_it_panic(name in "\\PC{0,40}", other in "\\PC{0,12}") {
            let (a, b) = (Wording::of(&name), Wording::of(&other));
            for (x, y) in a.words.iter().zip(&b.words) {
                prop_assert_eq!(x.alike(y), y.alike(x));
            }
        }
    }
}
