//! To which class an account belongs by all that is seen of it but its class: its name, the sides of its lines, the
//! accounts beside it by code, and its heading. What speaks for a class is added up as the log of a likelihood.

use super::wording::{Word, Wording};
use crate::chart::{Account, Class, Kind};
use crate::ids::AccountId;
use crate::today::Today;
use std::collections::HashMap;

/// The log of the odds from which on another class is proposed.
const CONTRADICTED: f64 = 2.5;

/// How much of that name and lines have to say at least: what only stands elsewhere is out of its block.
const BY_USE: f64 = 0.8;

/// A class that an account has not, and what speaks for it.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct Judged {
    /// The class.
    pub(super) class: Class,
    /// By how much more name and sides of lines speak for it than for its own: the log of the odds.
    pub(super) by_use: f64,
    /// By how much the accounts beside it do.
    pub(super) by_place: f64,
}

impl Judged {
    /// By how much more all that is seen speaks for it: the log of the odds.
    fn odds(&self) -> f64 {
        self.by_use + self.by_place
    }

    /// How likely it is that it should be that class, of 100.
    pub(super) fn percent(&self) -> u8 {
        // Nothing that is seen of an account is a proof.
        (100.0 / (1.0 + (-self.odds()).exp())).clamp(1.0, 99.0).round() as u8
    }
}

/// Words of which the trade knows the class.
const KNOWN: [(Class, &[&str]); 5] = [
    (
        Class::Asset,
        &["bank", "cash", "debtor", "prepaid", "stock", "till", "petty", "deposit", "reclaimable"],
    ),
    (
        Class::Liability,
        &["creditor", "accrued", "loan", "overdraft", "mortgage", "payable", "deferred", "owed"],
    ),
    (Class::Equity, &["capital", "reserve", "retained", "drawing", "fund", "share", "dividend"]),
    (Class::Income, &["sale", "fare", "donation", "grant", "royalty", "received"]),
    (
        Class::Expense,
        &[
            "wage",
            "insurance",
            "repair",
            "cost",
            "expense",
            "depreciation",
            "audit",
            "rate",
            "postage",
            "training",
        ],
    ),
];

/// What a word of the trade weighs.
const WORD: f64 = 1.6;

/// What a heading weighs for its class.
const HEADING: f64 = 1.5;

/// What it weighs that nearly all lines are on one side.
const SIDE: f64 = 1.3;

/// How many accounts beside one are looked at.
const BESIDE: usize = 6;

/// So many lines show how an account is used.
const ENOUGH: u64 = 6;

/// What of a chart is needed to judge its accounts.
pub(super) struct Judge<'a> {
    today: &'a Today,
    /// The accounts by code, with their places.
    rows: Vec<&'a Account>,
    places: HashMap<AccountId, usize>,
    /// In how many names of each class a word stands.
    words: HashMap<String, [f64; 5]>,
    sizes: [f64; 5],
}

fn place_of(class: Class) -> usize {
    Class::ALL.iter().position(|one| *one == class).unwrap_or_default()
}

impl<'a> Judge<'a> {
    pub(super) fn of(today: &'a Today) -> Self {
        let mut rows: Vec<&Account> =
            today.chart.live().filter(|row| row.kind == Kind::Account).collect();
        rows.sort_by(|a, b| a.code.chart_order(&b.code));
        let places = rows.iter().enumerate().map(|(at, row)| (row.id, at)).collect();
        let (mut words, mut sizes): (HashMap<String, [f64; 5]>, _) = (HashMap::new(), [0.0; 5]);
        for row in &rows {
            sizes[place_of(row.class)] += 1.0;
            for word in Wording::of(&row.name).words {
                words.entry(word.key().to_owned()).or_default()[place_of(row.class)] += 1.0;
            }
        }
        Self { today, rows, places, words, sizes }
    }

    /// The class that an account should have by all that is seen, where its own is contradicted.
    pub(super) fn contradicted(&self, account: &Account) -> Option<Judged> {
        if account.kind != Kind::Account || account.role.is_some() {
            return None;
        }
        let judged = self.by_all(account)?;
        let by_all = judged.odds() >= CONTRADICTED && judged.by_use >= BY_USE;
        (by_all || self.is_used_like_the_opposite(account)).then_some(judged)
    }

    /// Whether nearly all that is posted is on the side on which the class of an account falls.
    fn is_used_like_the_opposite(&self, account: &Account) -> bool {
        let all = self.today.figures_of(account.id).all;
        let grows_by_debits = account.grows_by_debits_as(account.class);
        let against = if grows_by_debits { all.credit } else { all.debit };
        all.lines >= ENOUGH && against * 10 >= (all.debit + all.credit) * 9
    }

    /// The class for which, beside the account's own, all that is seen speaks most.
    fn by_all(&self, account: &Account) -> Option<Judged> {
        self.judge(account, |by_use, by_place| by_use + by_place)
    }

    /// The class for which, beside the account's own, the accounts around it speak most.
    pub(super) fn by_place_alone(&self, account: &Account) -> Option<Judged> {
        self.judge(account, |_, by_place| by_place)
    }

    fn judge(&self, account: &Account, worth: impl Fn(f64, f64) -> f64) -> Option<Judged> {
        let (by_use, by_place) = (self.by_use(account), self.by_place(account));
        let own = place_of(account.class);
        let judged = (0..5).filter(|at| *at != own).map(|at| Judged {
            class: Class::ALL[at],
            by_use: by_use[at] - by_use[own],
            by_place: by_place[at] - by_place[own],
        });
        let worth = |judged: &Judged| worth(judged.by_use, judged.by_place);
        judged.max_by(|a, b| worth(a).total_cmp(&worth(b)))
    }

    /// What the name and the sides of the lines say.
    fn by_use(&self, account: &Account) -> [f64; 5] {
        let mut scores = [0.0; 5];
        let own = place_of(account.class);
        for word in &Wording::of(&account.name).words {
            self.add_word(word, own, &mut scores);
        }
        let all = self.today.figures_of(account.id).all;
        let turnover = all.debit + all.credit;
        if all.lines >= ENOUGH && turnover > 0 {
            let one_sided = all.debit.max(all.credit) * 10 >= turnover * 9;
            for (score, class) in scores.iter_mut().zip(Class::ALL) {
                let usual = account.grows_by_debits_as(*class);
                let on_its_side = usual == (all.debit > all.credit);
                let of_results = matches!(class, Class::Income | Class::Expense);
                *score += match (one_sided, on_its_side) {
                    (true, true) => SIDE,
                    (true, false) => -SIDE,
                    // What goes in and out is of the balance sheet.
                    (false, _) if of_results => -SIDE / 2.0,
                    (false, _) => 0.0,
                };
            }
        }
        scores
    }

    fn add_word(&self, word: &Word, own: usize, scores: &mut [f64; 5]) {
        for (class, known) in KNOWN {
            if known.contains(&word.key()) {
                scores[place_of(class)] += WORD;
            }
        }
        let Some(counts) = self.words.get(word.key()) else { return };
        // The account itself is no witness.
        let others = |at: usize| counts[at] - if at == own { 1.0 } else { 0.0 };
        let all: f64 = (0..5).map(others).sum();
        if all < 2.0 {
            return;
        }
        for (at, score) in scores.iter_mut().enumerate() {
            let of_class = (others(at) + 0.5) / (self.sizes[at] + 2.5);
            let of_all = (all + 2.5) / (self.rows.len() as f64 + 12.5);
            *score += (of_class / of_all).ln().clamp(-1.0, WORD);
        }
    }

    /// What the accounts beside it say, and its heading.
    fn by_place(&self, account: &Account) -> [f64; 5] {
        let mut scores = [0.0; 5];
        if let Some(heading) = account.parent.and_then(|id| self.today.chart.get(id)) {
            scores[place_of(heading.class)] += HEADING;
        }
        if !account.code_proposed
            && let Some(&at) = self.places.get(&account.id)
        {
            let first = at.saturating_sub(BESIDE / 2);
            let beside = self.rows[first..(at + BESIDE / 2 + 1).min(self.rows.len())].iter();
            let mut counts = [0.3; 5];
            for row in beside.filter(|row| row.id != account.id && !row.code_proposed) {
                counts[place_of(row.class)] += 1.0;
            }
            let sum: f64 = counts.iter().sum();
            for (score, count) in scores.iter_mut().zip(counts) {
                *score += (count / sum).ln();
            }
        }
        scores
    }
}
