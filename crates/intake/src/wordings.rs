//! What classes and sections are called: the wordings of the trade and of IAS 1.

use super::columns::reduce;
use super::words;
use std::collections::{BTreeMap, BTreeSet};
use zf_core::chart::{Class, Section};

/// What a wording stands for: a class, and a section when it tells one.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Caption {
    /// The class.
    pub class: Class,
    /// The section, when the wording tells it.
    pub section: Option<Section>,
}

/// Wordings a person has settled for a file, reduced, with what each stands for.
pub type Settled = BTreeMap<String, Caption>;

/// What a text in a column of classes or sections stands for: as the person settled it, or as the
/// trade knows it.
pub fn caption(text: &str, settled: &Settled) -> Option<Caption> {
    let wording = reduce(text);
    settled.get(&wording).copied().or_else(|| known(&wording)).or_else(|| in_parts(text))
}

/// What stands before a class, in one language or another, and says nothing.
const ACCOUNTS_OF: [&str; 7] = [
    "comptes de ",
    "comptes d ",
    "compte de ",
    "cuentas de ",
    "conti di ",
    "konten der ",
    "rekeningen ",
];

/// What a text stands for without what is put in parentheses, without `accounts of`, or as one of two
/// parts: `Accounts receivable (A/R)`, `Comptes de charges`, `Current assets: cash`.
fn in_parts(text: &str) -> Option<Caption> {
    let bare = bare(text);
    let wording = reduce(bare);
    let rest = ACCOUNTS_OF.iter().find_map(|prefix| wording.strip_prefix(prefix));
    if let Some(found) = known(&wording).or_else(|| rest.and_then(known)) {
        return Some(found);
    }
    let (first, last) =
        [": ", " - ", " – ", " > ", " / "].iter().find_map(|mark| bare.split_once(mark))?;
    let (first, last) = (known(&reduce(first)), known(&reduce(last)));
    let Some(first) = first else { return last };
    // The second part is a line of the class that the first one says.
    match last.and_then(|last| last.section).filter(|line| line.classes().contains(&first.class)) {
        Some(line) => Some(Caption { class: first.class, section: Some(line) }),
        None => Some(first),
    }
}

/// A wording without what is put in parentheses, and without a number before it, as `1 Current assets`.
pub(crate) fn bare(text: &str) -> &str {
    let bare = text.split_once('(').map_or(text, |(before, _)| before);
    bare.trim_start_matches(|c: char| c.is_ascii_digit() || " .-)".contains(c))
}

/// Words that turn what is spent or earned into what is owed or due.
const TURNED: [&str; 9] = [
    "prepaid",
    "accrued",
    "deferred",
    "unearned",
    "advance",
    "payable",
    "receivable",
    "anticipes",
    "anticipados",
];

/// The class that the first or the last word of a wording says: `Employee benefits expense`, `Charges de
/// personnel`, `Personalaufwand`.
pub fn headed(text: &str) -> Option<Class> {
    let wording = reduce(text);
    let statement = words::statement(&wording).is_some();
    if statement || wording.split(' ').any(|word| TURNED.contains(&word)) {
        return None;
    }
    let (first, last) = (wording.split(' ').next()?, wording.split(' ').next_back()?);
    let of = |word: &str| words::class(word).filter(|_| word.len() > 3);
    let joined = || {
        let ends = (4..last.len().saturating_sub(3)).filter(|at| last.is_char_boundary(*at));
        ends.filter_map(|at| of(&last[at..]).filter(|_| last.len() - at > 5)).next()
    };
    match (of(first), of(last).or_else(joined)) {
        (Some(a), Some(b)) => (a == b).then_some(a),
        (a, b) => a.or(b),
    }
}

/// How like a standard line a wording must be at least for it to be offered, from 0 to 1.
const LIKE: f64 = 0.5;

/// The standard line of a class that a wording is most like: by the words that both have, and their letters.
pub fn nearest_line(text: &str, class: Class) -> Option<Section> {
    let wording = reduce(text);
    let words = |text: &str| text.split(' ').map(str::to_owned).collect::<BTreeSet<_>>();
    let own = words(&wording);
    let like = |known: &str| {
        let other = words(known);
        let shared = own.intersection(&other).count() as f64;
        let share = 2.0 * shared / (own.len() + other.len()).max(1) as f64;
        share.max(strsim::normalized_levenshtein(&wording, known))
    };
    words::lines()
        .filter(|(_, line)| line.classes().contains(&class))
        .map(|(known, line)| (like(known), line))
        .filter(|(like, _)| *like >= LIKE)
        .max_by(|(a, x), (b, y)| a.total_cmp(b).then(y.cmp(x)))
        .map(|(_, line)| line)
}

fn known(wording: &str) -> Option<Caption> {
    let of = |class, section| Some(Caption { class, section });
    if let Some(section) = words::line(wording) {
        // Taxes stand on both sides; the wording alone tells no class but the first.
        return of(section.classes()[0], Some(section));
    }
    words::class(wording).and_then(|class| of(class, None))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn wordings_of_the_trade_are_known() {
        let of = |text: &str| caption(text, &Settled::new()).map(|c| (c.class, c.section));
        assert_eq!(of("Current Assets"), Some((Class::Asset, None)));
        assert_eq!(of("Cost of Goods Sold"), Some((Class::Expense, Some(Section::CostOfSales))));
        assert_eq!(of("TRADE DEBTORS"), Some((Class::Asset, Some(Section::Receivables))));
        assert_eq!(of("Owner’s equity"), Some((Class::Equity, None)));
        assert_eq!(
            of("property, plant and equipment"),
            Some((Class::Asset, Some(Section::Property)))
        );
        assert_eq!(of("things"), None);
        assert_eq!(of("1 Current assets"), Some((Class::Asset, None)));
    }

    #[test]
    fn the_first_or_the_last_word_tells_a_class() {
        assert_eq!(headed("Employee benefits expense"), Some(Class::Expense));
        assert_eq!(headed("Charges de personnel"), Some(Class::Expense));
        assert_eq!(headed("Personalaufwand"), Some(Class::Expense));
        assert_eq!(headed("Accrued expenses"), None);
        assert_eq!(headed("Income from asset"), None);
        assert_eq!(headed("Sundry"), None);
    }

    #[test]
    fn what_a_person_settled_counts_first() {
        let cash = Caption { class: Class::Asset, section: Some(Section::Cash) };
        let settled = Settled::from([("things".to_owned(), cash), ("stock".to_owned(), cash)]);
        assert_eq!(caption("Things!", &settled), Some(cash));
        assert_eq!(caption("Stock", &settled), Some(cash));
    }
}
