//! What classes and sections are called: the wordings of the trade and of IAS 1.

use super::columns::reduce;
use super::words;
use std::collections::BTreeMap;
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
    let bare = text.split_once('(').map_or(text, |(before, _)| before);
    let wording = reduce(bare);
    let rest = ACCOUNTS_OF.iter().find_map(|prefix| wording.strip_prefix(prefix));
    if let Some(found) = known(&wording).or_else(|| rest.and_then(known)) {
        return Some(found);
    }
    let (first, last) =
        [": ", " - ", " – ", " > ", " / "].iter().find_map(|mark| bare.split_once(mark))?;
    let (first, last) = (known(&reduce(first))?, known(&reduce(last)));
    // The second part is a line of the class that the first one says.
    match last.and_then(|last| last.section).filter(|line| line.classes().contains(&first.class)) {
        Some(line) => Some(Caption { class: first.class, section: Some(line) }),
        None => Some(first),
    }
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
    }

    #[test]
    fn what_a_person_settled_counts_first() {
        let cash = Caption { class: Class::Asset, section: Some(Section::Cash) };
        let settled = Settled::from([("things".to_owned(), cash), ("stock".to_owned(), cash)]);
        assert_eq!(caption("Things!", &settled), Some(cash));
        assert_eq!(caption("Stock", &settled), Some(cash));
    }
}
