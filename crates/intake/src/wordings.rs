//! What classes and sections are called: the wordings of the trade and of IAS 1.

use super::columns::reduce;
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
    settled.get(&wording).copied().or_else(|| known(&wording))
}

fn known(wording: &str) -> Option<Caption> {
    let of = |class, section| Some(Caption { class, section });
    if let Some(section) = section_named(wording) {
        // Taxes stand on both sides; the wording alone tells no class but the first.
        return of(section.classes()[0], Some(section));
    }
    CLASSES
        .iter()
        .find(|(_, words)| words.contains(&wording))
        .map(|(class, _)| Caption { class: *class, section: None })
}

/// The section with these words, this key, or another usual wording.
pub fn section_named(wording: &str) -> Option<Section> {
    let own = |s: &&Section| reduce(s.words()) == wording || reduce(s.key()) == wording;
    Section::ALL
        .iter()
        .find(own)
        .or_else(|| SECTIONS.iter().find(|(_, w)| w.contains(&wording)).map(|(section, _)| section))
        .copied()
}

const CLASSES: [(Class, &[&str]); 5] = [
    (
        Class::Asset,
        &[
            "asset",
            "assets",
            "a",
            "current asset",
            "current assets",
            "other current asset",
            "other current assets",
            "non current asset",
            "non current assets",
            "other asset",
            "other assets",
            "long term assets",
            "long term asset",
            "total assets",
        ],
    ),
    (
        Class::Liability,
        &[
            "liability",
            "liabilities",
            "l",
            "current liability",
            "current liabilities",
            "other current liability",
            "other current liabilities",
            "non current liability",
            "non current liabilities",
            "long term liability",
            "long term liabilities",
            "other liability",
            "other liabilities",
            "total liabilities",
        ],
    ),
    (
        Class::Equity,
        &[
            "equity",
            "capital",
            "net assets",
            "funds",
            "reserves",
            "owners equity",
            "owner s equity",
            "shareholders equity",
            "shareholders funds",
            "members funds",
            "e q",
            "capital and reserves",
            "share capital",
            "net worth",
            "partners capital",
        ],
    ),
    (
        Class::Income,
        &["income", "incomes", "i", "gains", "other incomes", "income accounts", "proceeds"],
    ),
    (
        Class::Expense,
        &[
            "expense",
            "expenses",
            "x",
            "cost",
            "costs",
            "expenditure",
            "operating expense",
            "operating expenses",
            "other expenditure",
            "losses",
            "charges",
        ],
    ),
];

const SECTIONS: [(Section, &[&str]); 23] = [
    (
        Section::Cash,
        &[
            "cash",
            "bank",
            "banks",
            "bank and cash",
            "cash and bank",
            "cash at bank",
            "cash at bank and in hand",
            "cash equivalents",
            "bank account",
            "bank accounts",
        ],
    ),
    (
        Section::Receivables,
        &[
            "receivables",
            "trade receivables",
            "accounts receivable",
            "receivable",
            "debtors",
            "trade debtors",
            "amounts receivable",
            "trade and other debtors",
            "a r",
            "ar",
        ],
    ),
    (
        Section::Inventories,
        &["inventory", "inventories", "stock", "stocks", "stock in trade", "work in progress"],
    ),
    (
        Section::Prepayments,
        &["prepayments", "prepaid expenses", "prepayments and accrued income", "prepaids"],
    ),
    (
        Section::Property,
        &[
            "fixed",
            "fixed asset",
            "fixed assets",
            "tangible assets",
            "tangible fixed assets",
            "ppe",
            "plant and equipment",
            "property plant equipment",
            "property and equipment",
        ],
    ),
    (
        Section::Intangibles,
        &["intangibles", "intangible asset", "intangible fixed assets", "goodwill"],
    ),
    (Section::Investments, &["investment", "financial assets", "fixed asset investments"]),
    (
        Section::Payables,
        &[
            "payables",
            "trade payables",
            "accounts payable",
            "payable",
            "creditors",
            "trade creditors",
            "accruals",
            "accruals and other creditors",
            "a p",
            "ap",
            "trade and other creditors",
        ],
    ),
    (Section::Taxes, &["tax", "sales tax", "vat", "tax payable", "tax liabilities", "current tax"]),
    (
        Section::DeferredIncome,
        &["deferred revenue", "contract liabilities", "income in advance", "unearned revenue"],
    ),
    (
        Section::Borrowings,
        &[
            "borrowing",
            "loans",
            "loan",
            "bank loans",
            "debt",
            "long term debt",
            "credit card",
            "credit cards",
            "overdraft",
        ],
    ),
    (Section::Provisions, &["provision", "provisions for liabilities"]),
    (
        Section::Capital,
        &["issued capital", "contributed capital", "funds and reserves", "restricted funds"],
    ),
    (
        Section::RetainedEarnings,
        &[
            "retained profit",
            "retained profits",
            "accumulated surplus",
            "profit and loss reserve",
            "accumulated profit",
        ],
    ),
    (
        Section::Revenue,
        &[
            "revenue",
            "revenues",
            "sales",
            "turnover",
            "trading income",
            "operating income",
            "sales revenue",
            "sales income",
        ],
    ),
    (
        Section::OtherIncome,
        &[
            "other revenue",
            "other operating income",
            "non operating income",
            "sundry income",
            "grants",
        ],
    ),
    (
        Section::CostOfSales,
        &[
            "cost of goods sold",
            "cogs",
            "direct costs",
            "direct expenses",
            "cost of revenue",
            "purchases",
        ],
    ),
    (
        Section::Staff,
        &[
            "staff costs",
            "payroll",
            "wages and salaries",
            "salaries",
            "employee costs",
            "personnel",
            "payroll expenses",
        ],
    ),
    (
        Section::Depreciation,
        &["depreciation", "amortisation", "amortization", "depreciation and amortization"],
    ),
    (
        Section::Administration,
        &[
            "overheads",
            "overhead",
            "administration",
            "administrative costs",
            "admin expenses",
            "general and administrative",
            "establishment costs",
        ],
    ),
    (
        Section::OtherExpense,
        &["other expense", "other costs", "other operating expenses", "sundry expenses"],
    ),
    (
        Section::FinanceCosts,
        &[
            "finance cost",
            "interest",
            "interest expense",
            "interest payable",
            "bank charges",
            "financial expenses",
        ],
    ),
    (
        Section::IncomeTax,
        &["income taxes", "income tax expense", "corporation tax", "tax expense", "taxation"],
    ),
];

#[cfg(test)]
mod tests {
    use super::*;
    use std::collections::HashSet;

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

    #[test]
    fn no_wording_means_two_things_and_all_are_reduced() {
        let mut seen = HashSet::new();
        let sections = SECTIONS.iter().flat_map(|(_, words)| words.iter());
        for wording in CLASSES.iter().flat_map(|(_, words)| words.iter()).chain(sections) {
            assert!(seen.insert(*wording), "{wording} twice");
            assert_eq!(reduce(wording), *wording);
        }
        for section in Section::ALL {
            assert!(SECTIONS.iter().any(|(s, _)| s == section));
            assert_eq!(section_named(&reduce(section.words())), Some(*section));
        }
    }
}
