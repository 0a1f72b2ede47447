//! The words of the trade in several languages: what headings of columns and the texts under them mean.
//! They are data, a file a language (`words/*.toml`), so that whoever speaks one can add to it.

use crate::columns::{Column, reduce};
use serde::Deserialize;
use std::collections::{BTreeMap, HashMap};
use std::sync::LazyLock;
use zf_core::chart::{Class, ControlRole, Section};
use zf_core::file_kind::FileKind;

type Wordings<K> = BTreeMap<K, Vec<String>>;

/// One file of words.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Language {
    /// Headings that mean the same in every kind of file that has such a column.
    any: Wordings<Column>,
    chart: Wordings<Column>,
    journal: Wordings<Column>,
    balances: Wordings<Column>,
    crosswalk: Wordings<Column>,
    #[serde(default)]
    usage: Wordings<Column>,
    same: BTreeMap<String, Vec<String>>,
    kinds: Wordings<RowWord>,
    classes: Wordings<Class>,
    lines: Wordings<Section>,
    statements: Wordings<Statement>,
    sides: Wordings<SideWord>,
    says: Wordings<Said>,
    actions: Wordings<ActionWord>,
    roles: Wordings<ControlRole>,
}

zf_core::keyed! {
    /// What a word says a row of a chart is.
    RowWord {
        /// A posting account.
        Account = "account", "account";
        /// A heading.
        Heading = "heading", "heading";
        /// A sum line.
        Sum = "sum", "sum line";
        /// The beginning of a sum, which is a heading.
        Opens = "opens", "opens a sum";
        /// The end of a sum, which adds up what stands above it to its beginning.
        Closes = "closes", "closes a sum";
    }
}

zf_core::keyed! {
    /// Which of the two statements.
    Statement {
        /// The statement of financial position.
        BalanceSheet = "balance_sheet", "balance sheet";
        /// The income statement.
        IncomeStatement = "income_statement", "income statement";
    }
}

zf_core::keyed! {
    /// A side of an account.
    SideWord {
        /// Debit.
        Debit = "debit", "debit";
        /// Credit.
        Credit = "credit", "credit";
    }
}

zf_core::keyed! {
    /// What a crosswalk asks for beside codes.
    ActionWord {
        /// It stays as it is.
        Keep = "keep";
        /// It gets another code.
        Renumber = "renumber";
        /// It gets another name.
        Rename = "rename";
        /// It goes into another.
        Merge = "merge";
        /// It takes no postings any more.
        Deactivate = "deactivate";
        /// It goes out of sight.
        Archive = "archive";
        /// It is deleted, which only what was never used can be.
        Delete = "delete";
        /// It takes postings again.
        Restore = "restore";
    }
}

zf_core::keyed! {
    /// What else a word may say.
    Said {
        /// Yes.
        Yes = "yes", "yes";
        /// No.
        No = "no", "no";
        /// Takes postings.
        Active = "active", "active";
        /// Takes none any more.
        Deactivated = "deactivated", "deactivated";
        /// Is out of sight.
        Archived = "archived", "archived";
        /// A row of totals begins with it.
        Totals = "totals", "a total";
        /// Stands in for nothing.
        Nothing = "nothing", "nothing";
        /// Stands before the number of a page.
        Page = "page", "a page";
        /// A column of headings is called so, and another with a number.
        Grouping = "grouping", "a group";
        /// The side of the balance sheet where what is owed and what is the owners' own stand together.
        OwedAndOwn = "owed_and_own", "liabilities and equity";
        /// A word of accounts that hold what is the owners' own.
        OwnFunds = "own_funds", "the owners' own";
        /// What stood there at the beginning.
        Opening = "opening", "opening";
        /// What stands there at the end.
        Closing = "closing", "closing";
        /// Figures beside those of the accounts: budgets, differences.
        Aside = "aside", "aside";
        /// A month or a period.
        Month = "month", "a month";
        /// What an account stands at.
        Balance = "balance", "a balance";
        /// Stands before the account that lines below it are of.
        Account = "account", "an account";
    }
}

/// All languages together.
struct Words {
    columns: HashMap<FileKind, Vec<Heading>>,
    same: HashMap<String, String>,
    kinds: HashMap<String, RowWord>,
    classes: HashMap<String, Class>,
    lines: HashMap<String, Section>,
    statements: HashMap<String, Statement>,
    sides: HashMap<String, SideWord>,
    says: HashMap<Said, Vec<String>>,
    actions: HashMap<String, ActionWord>,
    roles: HashMap<String, ControlRole>,
}

/// A wording of a heading.
pub(crate) struct Heading {
    pub(crate) means: Column,
    /// Its words, the short ones written out.
    pub(crate) words: Vec<String>,
    /// How many plainer wordings of the column there are.
    pub(crate) rank: usize,
}

const FILES: [&str; 5] = [
    include_str!("../words/en.toml"),
    include_str!("../words/de.toml"),
    include_str!("../words/fr.toml"),
    include_str!("../words/es.toml"),
    include_str!("../words/nl.toml"),
];

static WORDS: LazyLock<Words> = LazyLock::new(|| Words::of(&languages()));

#[allow(clippy::expect_used, reason = "the files ship with the program; a test reads them")]
fn languages() -> Vec<Language> {
    FILES.iter().map(|file| toml::from_str(file).expect("a sound file of words")).collect()
}

fn turned<K: Copy>(of: impl Iterator<Item = (K, String)>) -> HashMap<String, K> {
    let mut found = HashMap::new();
    for (key, wording) in of {
        // Of two languages the first counts.
        found.entry(wording).or_insert(key);
    }
    found
}

fn pairs<K: Copy>(wordings: &Wordings<K>) -> impl Iterator<Item = (K, String)> {
    wordings.iter().flat_map(|(key, words)| words.iter().map(|word| (*key, word.clone())))
}

impl Words {
    fn of(languages: &[Language]) -> Self {
        let same: HashMap<String, String> = languages
            .iter()
            .flat_map(|l| &l.same)
            .flat_map(|(long, short)| short.iter().map(|short| (short.clone(), long.clone())))
            .collect();
        let columns = FileKind::ALL.iter().map(|kind| {
            let mut headings = Vec::new();
            for language in languages {
                let own = match kind {
                    FileKind::Chart => &language.chart,
                    FileKind::Journal => &language.journal,
                    FileKind::Balances => &language.balances,
                    FileKind::Crosswalk => &language.crosswalk,
                    FileKind::Usage => &language.usage,
                };
                for column in Column::ALL {
                    let any = language.any.get(column).into_iter().flatten();
                    let wordings = own.get(column).into_iter().flatten().chain(any);
                    headings.extend(wordings.enumerate().map(|(rank, wording)| Heading {
                        means: *column,
                        words: split(wording, &same),
                        rank,
                    }));
                }
            }
            (*kind, headings)
        });
        let lines = languages.iter().flat_map(|l| pairs(&l.lines));
        let own = Section::ALL
            .iter()
            .flat_map(|line| [line.words(), line.key()].map(|wording| (*line, reduce(wording))));
        let mut says: HashMap<Said, Vec<String>> = HashMap::new();
        for (said, wording) in languages.iter().flat_map(|l| pairs(&l.says)) {
            says.entry(said).or_default().push(wording);
        }
        Self {
            columns: columns.collect(),
            kinds: turned(
                languages.iter().flat_map(|l| pairs(&l.kinds)).map(|(k, w)| (k, ordered(&w))),
            ),
            classes: turned(languages.iter().flat_map(|l| pairs(&l.classes))),
            lines: turned(own.chain(lines)),
            statements: turned(languages.iter().flat_map(|l| pairs(&l.statements))),
            sides: turned(languages.iter().flat_map(|l| pairs(&l.sides))),
            says,
            actions: turned(languages.iter().flat_map(|l| pairs(&l.actions))),
            roles: turned(languages.iter().flat_map(|l| pairs(&l.roles))),
            same,
        }
    }
}

fn split(wording: &str, same: &HashMap<String, String>) -> Vec<String> {
    let word = |word: &str| same.get(word).map_or_else(|| word.to_owned(), Clone::clone);
    wording.split(' ').filter(|w| !w.is_empty()).map(word).collect()
}

/// The wordings of headings in a kind of file.
pub(crate) fn headings(kind: FileKind) -> &'static [Heading] {
    WORDS.columns.get(&kind).map_or(&[], Vec::as_slice)
}

/// The words of a heading, the short ones written out: `AcctNo` and `acct. no` are the same. What is
/// said of units, as in `Balance (GBP)`, is left out.
pub(crate) fn heading_words(text: &str) -> Vec<String> {
    let mut plain = String::with_capacity(text.len());
    let mut depth = 0_usize;
    let mut before = ' ';
    for c in text.chars() {
        match c {
            '(' | '[' => depth += 1,
            ')' | ']' => depth = depth.saturating_sub(1),
            _ if depth > 0 => {}
            '#' | '№' | '°' => plain.push_str(" no "),
            _ => {
                if c.is_uppercase() && before.is_lowercase() {
                    plain.push(' ');
                }
                plain.push(c);
            }
        }
        before = c;
    }
    let words = split(&reduce(&plain), &WORDS.same);
    if words.is_empty() { split(&reduce(text), &WORDS.same) } else { words }
}

/// The words of a wording in one order: which of them comes first does not matter.
fn ordered(wording: &str) -> String {
    let mut words: Vec<&str> = wording.split(' ').collect();
    words.sort_unstable();
    words.join(" ")
}

/// What a reduced wording says a row is.
pub(crate) fn row_word(wording: &str) -> Option<RowWord> {
    WORDS.kinds.get(&ordered(wording)).copied()
}

/// The class that a reduced wording means.
pub(crate) fn class(wording: &str) -> Option<Class> {
    WORDS.classes.get(wording).copied()
}

/// The standard line item that a reduced wording means.
pub(crate) fn line(wording: &str) -> Option<Section> {
    WORDS.lines.get(wording).copied()
}

/// The wordings of the standard line items.
pub(crate) fn lines() -> impl Iterator<Item = (&'static str, Section)> {
    WORDS.lines.iter().map(|(wording, line)| (wording.as_str(), *line))
}

/// The statement that a reduced wording means.
pub(crate) fn statement(wording: &str) -> Option<Statement> {
    WORDS.statements.get(wording).copied()
}

/// The side that a reduced wording means.
pub(crate) fn side(wording: &str) -> Option<SideWord> {
    WORDS.sides.get(wording).copied()
}

/// What a reduced wording asks for: the whole of it, or its first word.
pub(crate) fn action(wording: &str) -> Option<ActionWord> {
    let first = wording.split(' ').next().unwrap_or_default();
    WORDS.actions.get(wording).or_else(|| WORDS.actions.get(first)).copied()
}

/// The control role that accounts so called usually have.
pub(crate) fn role(wording: &str) -> Option<ControlRole> {
    let plain = wording.strip_suffix(" account").unwrap_or(wording);
    let plain = plain.strip_suffix(" control").unwrap_or(plain);
    WORDS.roles.get(wording).or_else(|| WORDS.roles.get(plain)).copied()
}

/// Whether a reduced wording says something.
pub(crate) fn says(said: Said, wording: &str) -> bool {
    WORDS.says.get(&said).is_some_and(|words| words.iter().any(|word| word == wording))
}

/// Whether a text stands in for an empty cell.
pub(crate) fn is_nothing(text: &str) -> bool {
    let wording = reduce(text);
    wording.is_empty() || says(Said::Nothing, &wording)
}

/// What a total is of: the rest of a reduced text that begins, or ends, with a word for totals.
pub(crate) fn total_of(wording: &str) -> Option<&str> {
    let words = WORDS.says.get(&Said::Totals)?;
    let after = |word: &String| {
        let rest = wording.strip_prefix(word.as_str())?;
        (rest.is_empty() || rest.starts_with(' ')).then(|| rest.trim())
    };
    let before =
        |word: &String| Some(wording.strip_suffix(word.as_str())?.strip_suffix(' ')?.trim());
    // The longest word counts: a grand total is one of nothing.
    let mut found: Vec<&str> = words.iter().filter_map(after).collect();
    found.sort_by_key(|rest| rest.len());
    found.first().copied().or_else(|| words.iter().find_map(before))
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::collections::HashSet;

    #[test]
    fn every_wording_is_reduced_and_means_one_thing() {
        let languages = languages();
        let of = |what: &str, all: Vec<(String, String)>| {
            let mut seen: HashMap<String, String> = HashMap::new();
            for (key, wording) in all {
                assert_eq!(reduce(&wording), wording, "{what}");
                let other = seen.insert(wording.clone(), key.clone());
                assert!(other.is_none_or(|o| o == key), "{what}: {wording} is {key} and more");
            }
        };
        let text = |key: &'static str, wording: String| (key.to_owned(), wording);
        let l = || languages.iter();
        of("kinds", l().flat_map(|l| pairs(&l.kinds)).map(|(k, w)| text(k.key(), w)).collect());
        let meant = l().flat_map(|l| pairs(&l.classes)).map(|(k, w)| text(k.key(), w));
        let lines = l().flat_map(|l| pairs(&l.lines)).map(|(k, w)| text(k.key(), w));
        of("classes and lines", meant.chain(lines).collect());
        of("sides", l().flat_map(|l| pairs(&l.sides)).map(|(k, w)| text(k.key(), w)).collect());
        let statements = l().flat_map(|l| pairs(&l.statements));
        of("statements", statements.map(|(k, w)| text(k.key(), w)).collect());
    }

    #[test]
    fn every_standard_line_has_words_in_every_language() {
        for language in languages() {
            let of: HashSet<Section> = language.lines.keys().copied().collect();
            assert_eq!(of.len(), Section::ALL.len());
            assert_eq!(language.classes.len(), Class::ALL.len());
        }
    }

    #[test]
    fn the_order_of_words_does_not_matter_for_what_a_row_is() {
        for (wording, word) in [("total start", RowWord::Opens), ("start total", RowWord::Opens)] {
            assert_eq!(row_word(wording), Some(word), "{wording}");
        }
        for wording in ["closing total", "total closing", "end sum", "summe bis"] {
            assert_eq!(row_word(wording), Some(RowWord::Closes), "{wording}");
        }
        assert_eq!(row_word("total whatever"), None);
    }

    #[test]
    fn headings_are_taken_apart() {
        assert_eq!(heading_words("AcctNo"), ["account", "no"]);
        assert_eq!(heading_words("Balance (GBP)"), ["balance"]);
        assert_eq!(heading_words("Account #"), ["account", "no"]);
        assert_eq!(heading_words("N° de compte"), ["n", "no", "de", "compte"]);
        assert_eq!(heading_words("(Konto)"), ["konto"]);
    }

    #[test]
    fn totals_are_known_in_every_language() {
        assert_eq!(total_of("total current assets"), Some("current assets"));
        assert_eq!(total_of("grand total"), Some(""));
        assert_eq!(total_of("zwischensumme umlaufvermogen"), Some("umlaufvermogen"));
        assert_eq!(total_of("aktiva gesamt"), Some("aktiva"));
        assert_eq!(total_of("totally new"), None);
    }
}
