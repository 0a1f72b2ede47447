//! Names reduced to what they speak of: words without their endings, marks that say nothing of the
//! matter, abbreviations and synonyms of the trade.

use std::collections::{HashMap, HashSet};
use std::sync::LazyLock;
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
}

/// A word of a name.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Word {
    /// Without its ending and accents, in small letters.
    pub stem: String,
    /// What it means, when others mean the same: the first of its [`SYNONYMS`].
    pub meaning: Option<&'static str>,
    /// Whether names say it or not as it happens: costs, fees, account.
    pub filler: bool,
}

/// Words that mean the same in a chart of accounts. The first of each row stands for all.
const SYNONYMS: [&[&str]; 36] = [
    &["accrued", "accrual"],
    &["prepaid", "prepayment"],
    &["bicycle", "bike", "cycle"],
    &["phone", "telephone", "telecom", "telecoms", "mobile"],
    &["internet", "broadband", "wifi"],
    &["post", "postage", "courier"],
    &["carriage", "freight", "haulage", "delivery", "shipping"],
    &["wage", "salary", "payroll", "pay"],
    &["vehicle", "motor"],
    &["advertising", "advert", "advertisement", "marketing", "publicity", "promotion"],
    &["repair", "maintenance", "upkeep"],
    &["computer", "it", "computing"],
    &["software", "licence", "license"],
    &["debtor", "receivable", "owing"],
    &["creditor", "payable"],
    &["stock", "inventory"],
    &["accountancy", "accounting", "accountant", "bookkeeping"],
    &["legal", "solicitor", "lawyer"],
    &["electricity", "electric", "power"],
    &["waste", "rubbish", "refuse"],
    &["travel", "travelling", "mileage"],
    &["training", "course", "cpd"],
    &["gift", "donation"],
    &["sundry", "miscellaneous", "misc", "general"],
    &["rent", "lease"],
    &["staff", "employee", "personnel"],
    &["sale", "revenue", "turnover", "takings", "income"],
    &["hire", "rental", "hired"],
    &["subscription", "membership", "dues"],
    &["customer", "client"],
    &["refreshment", "catering"],
    &["booking", "reservation"],
    &["stationery", "stationary"],
    &["petrol", "fuel"],
    &["machinery", "machine"],
    &["doubtful", "bad"],
];

/// What is said in several words, with the one that says the same.
const PHRASES: [(&[&str], &str); 2] =
    [(&["paid", "in", "advance"], "prepaid"), (&["paid", "ahead"], "prepaid")];

/// What the trade shortens, with what it stands for.
const ABBREVIATIONS: [(&str, &str); 40] = [
    ("acc", "account"),
    ("acct", "account"),
    ("accts", "account"),
    ("adv", "advertising"),
    ("advtg", "advertising"),
    ("amort", "amortisation"),
    ("assoc", "association"),
    ("bal", "balance"),
    ("bldg", "building"),
    ("chg", "charge"),
    ("chgs", "charge"),
    ("comm", "commission"),
    ("conf", "conference"),
    ("contr", "contractor"),
    ("depn", "depreciation"),
    ("depr", "depreciation"),
    ("dept", "department"),
    ("elec", "electricity"),
    ("ent", "entertaining"),
    ("equip", "equipment"),
    ("exp", "expense"),
    ("exps", "expense"),
    ("furn", "furniture"),
    ("gen", "general"),
    ("govt", "government"),
    ("ins", "insurance"),
    ("insce", "insurance"),
    ("int", "interest"),
    ("maint", "maintenance"),
    ("mgmt", "management"),
    ("mkt", "marketing"),
    ("mktg", "marketing"),
    ("mtce", "maintenance"),
    ("prof", "professional"),
    ("pymt", "payment"),
    ("rec", "receivable"),
    ("sal", "salary"),
    ("stat", "stationery"),
    ("subs", "subscription"),
    ("tel", "telephone"),
];

/// Words that one of two names for the same thing may have and the other not.
const FILLERS: [&str; 22] = [
    "account",
    "balance",
    "charge",
    "control",
    "cost",
    "due",
    "expenditure",
    "expense",
    "fee",
    "ledger",
    "new",
    "other",
    "outstanding",
    "owe",
    "owing",
    "own",
    "payment",
    "purchase",
    "same",
    "supply",
    "total",
    "various",
];

/// Words that only hold a name together.
const JOINTS: [&str; 24] = [
    "a", "ac", "an", "and", "at", "by", "c", "etc", "for", "from", "in", "inc", "incl", "into",
    "o", "of", "on", "or", "our", "re", "s", "the", "to", "with",
];

/// What names say of accounts that are not to be used any more, as words without their endings.
const OLD: [&[&str]; 15] = [
    &["do", "not", "use"],
    &["dont", "use"],
    &["not", "in", "use"],
    &["no", "longer", "use"],
    &["not", "used"],
    &["dnu"],
    &["old"],
    &["closed"],
    &["obsolete"],
    &["inactive"],
    &["unused"],
    &["defunct"],
    &["superseded"],
    &["discontinued"],
    &["dormant"],
];

/// What words with synonyms mean, by their stems.
static MEANINGS: LazyLock<HashMap<String, &str>> = LazyLock::new(|| {
    let mut meanings = HashMap::new();
    for row in SYNONYMS {
        for word in row {
            meanings.entry(stem(word)).or_insert(row[0]);
        }
    }
    meanings
});

/// The stems of fillers.
static FILLING: LazyLock<HashSet<String>> =
    LazyLock::new(|| FILLERS.iter().map(|filler| stem(filler)).collect());

impl Wording {
    /// Reduces a name.
    pub fn of(name: &str) -> Self {
        let plain: Vec<String> = plain_words(name);
        let mut wording = Self::default();
        let mut at = 0;
        while let Some(word) = plain.get(at) {
            let rest = &plain[at..];
            if let Some(said) = OLD.iter().find(|said| begins(rest, said)) {
                wording.old = true;
                at += said.len();
                continue;
            }
            if let Some((said, word)) = PHRASES.iter().find(|(said, _)| begins(rest, said)) {
                wording.words.push(Word::of(word));
                at += said.len();
                continue;
            }
            at += 1;
            match word.as_str() {
                // Put in front, so that the account sinks to the end of every list.
                "z" | "zz" | "zzz" | "xx" | "xxx" if plain.len() > 1 => wording.old = true,
                "copy" | "duplicate" | "dup" => wording.copy = true,
                _ => match year(word) {
                    Some(year) => wording.year = Some(year),
                    None if JOINTS.contains(&word.as_str()) => {}
                    None => wording.words.push(Word::of(word)),
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
        wording
    }

    /// Whether the name itself says that the account is one to get rid of.
    pub fn is_marked(&self) -> bool {
        self.old || self.copy
    }
}

impl Word {
    fn of(word: &str) -> Self {
        let long = ABBREVIATIONS.iter().find(|(short, _)| *short == word).map(|(_, long)| *long);
        let stem = stem(long.unwrap_or(word));
        let meaning = MEANINGS.get(&stem).copied();
        let filler = FILLING.contains(&stem);
        Self { stem, meaning, filler }
    }

    /// What two words have to share to mean the same.
    pub fn key(&self) -> &str {
        self.meaning.unwrap_or(&self.stem)
    }

    /// What a deed has in common with its name: `servic` of `service` and `servicing`.
    pub fn root(&self) -> &str {
        let without = |ending: &str| self.stem.strip_suffix(ending).filter(|rest| rest.len() >= 4);
        without("ing").or_else(|| without("e")).unwrap_or(&self.stem)
    }

    /// How alike two words are: 1 for the same, less for synonyms and slips of the pen, 0 for others.
    pub fn likeness(&self, other: &Self) -> f64 {
        if self.stem == other.stem {
            return 1.0;
        }
        if self.meaning.is_some() && self.meaning == other.meaning {
            return 0.9;
        }
        if self.root() == other.root() {
            return 0.95;
        }
        let (a, b) = (&self.stem, &other.stem);
        let has_digit = |text: &str| text.bytes().any(|b| b.is_ascii_digit());
        if has_digit(a) || has_digit(b) {
            return 0.0;
        }
        let longest = a.chars().count().max(b.chars().count());
        let slips = strsim::damerau_levenshtein(a, b);
        match (longest, slips) {
            (6.., 1) => 0.9,
            (8.., 2) => 0.85,
            _ if is_shortened(a, b) || is_shortened(b, a) => 0.8,
            _ => 0.0,
        }
    }
}

/// Whether a word is the beginning of another that was cut short, as `subscr` of `subscription`.
fn is_shortened(short: &str, long: &str) -> bool {
    (4..=6).contains(&short.len()) && long.len() >= short.len() + 4 && long.starts_with(short)
}

fn begins(words: &[String], said: &[&str]) -> bool {
    words.len() >= said.len() && words.iter().zip(said).all(|(word, other)| word == other)
}

/// The words of a name in small letters, without accents and apostrophes.
fn plain_words(name: &str) -> Vec<String> {
    let plain: String = name
        .nfd()
        .filter(|c| !is_combining_mark(*c) && !matches!(c, '\'' | '’' | '‘'))
        .flat_map(char::to_lowercase)
        .collect();
    let words = plain.split(|c: char| !c.is_alphanumeric() && c != '-');
    words.flat_map(parts).filter(|word| !word.is_empty()).collect()
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

/// A word without the ending that tells one from many.
fn stem(word: &str) -> String {
    let without =
        |ending: &str, least: usize| word.strip_suffix(ending).filter(|rest| rest.len() >= least);
    if let Some(rest) = without("ies", 2) {
        return format!("{rest}y");
    }
    if let Some(rest) = ["sses", "shes", "ches", "xes"].iter().find_map(|e| without(e, 2)) {
        return format!("{rest}{}", &word[rest.len()..word.len() - 2]);
    }
    if let Some(rest) = without("es", 3).filter(|rest| rest.len() == 3 && rest.ends_with('s')) {
        return rest.to_owned();
    }
    match without("s", 3) {
        Some(rest) if !rest.ends_with(['s', 'u', 'i']) => rest.to_owned(),
        _ => word.to_owned(),
    }
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
        assert_eq!(marks("Van 2"), (words("van 2"), false, None, false), "a second van");
    }

    #[test]
    fn words_are_alike_when_they_mean_the_same_or_are_slips() {
        let like = |a: &str, b: &str| Word::of(a).likeness(&Word::of(b));
        for (a, b) in [
            ("insurance", "insurances"),
            ("phone", "telephone"),
            ("maint", "repairs"),
            ("electricty", "electricity"),
            ("refurb", "refurbishment"),
            ("lifting", "lift"),
            ("servicing", "services"),
        ] {
            assert!(like(a, b) >= 0.8, "{a} {b}");
        }
        for (a, b) in
            [("north", "south"), ("21", "22"), ("coal", "coat"), ("loan", "lean"), ("ring", "re")]
        {
            assert!(like(a, b) < 0.1, "{a} {b}");
        }
    }

    proptest! {
        #[test]
        fn no_name_makes_it_panic(name in "\\PC{0,40}", other in "\\PC{0,12}") {
            let (a, b) = (Wording::of(&name), Wording::of(&other));
            for (x, y) in a.words.iter().zip(&b.words) {
                prop_assert!((x.likeness(y) - y.likeness(x)).abs() < f64::EPSILON);
            }
        }
    }
}
