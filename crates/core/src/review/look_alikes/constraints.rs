//! What two accounts that are the same thing would never differ in. Each rule says why.

use super::names::{Common, Names};
use super::rarity::Rarity;
use super::subject::Subject;
use crate::chart::ControlRole;
use crate::review::survivor::has_stopped;
use time::Date;

/// Two accounts, with their names beside each other.
pub(super) struct Two<'a> {
    pub(super) a: &'a Subject<'a>,
    pub(super) b: &'a Subject<'a>,
    pub(super) names: &'a Names,
    pub(super) rarity: &'a Rarity,
    /// The last day on which anything was posted.
    pub(super) latest: Option<Date>,
}

/// Whether a rule keeps two apart.
type Rule = fn(&Two<'_>) -> bool;

/// The rules, each with its reason.
pub(super) const RULES: [(Rule, &str); 11] = [
    (other_class, "They are of two classes."),
    (other_currency, "They are in two currencies."),
    (asset_and_wear, "One takes off from what the other holds."),
    (other_roles, "The books need each of them for a role of its own."),
    (two_banks, "Two bank accounts have a statement each."),
    (other_numbers, "They are numbered apart."),
    (other_state, "One of them holds what is in another state."),
    (opposites, "What goes in is not what goes out."),
    (other_years, "They are of two years, and no account goes through them."),
    (departments, "They are of two departments or sites, which have the same accounts."),
    (series, "Their names are of a series, in which these words take turns."),
];

/// Why two accounts cannot be the same thing, if anything says so.
pub(super) fn apart(two: &Two<'_>) -> Option<&'static str> {
    RULES.iter().find(|(rule, _)| rule(two)).map(|(_, why)| *why)
}

/// Words that say in which state something is: prepaid insurance is not insurance.
const STATES: [&str; 25] = [
    "accrued",
    "accumulated",
    "advance",
    "ahead",
    "allowance",
    "amortisation",
    "deferred",
    "deposit",
    "depreciation",
    "designated",
    "endowment",
    "impairment",
    "intercompany",
    "invoiced",
    "loss",
    "prepaid",
    "provision",
    "reserve",
    "restricted",
    "retention",
    "revaluation",
    "unearned",
    "unexpired",
    "uninvoiced",
    "unrestricted",
];

/// Words that say the opposite of each other.
const OPPOSITES: [(&str, &str); 27] = [
    ("purchase", "selling"),
    ("collected", "paid"),
    ("creditor", "debtor"),
    ("day", "night"),
    ("daytime", "evening"),
    ("direct", "indirect"),
    ("domestic", "foreign"),
    ("eastern", "western"),
    ("employee", "employer"),
    ("external", "internal"),
    ("fixed", "variable"),
    ("gain", "loss"),
    ("home", "overseas"),
    ("import", "export"),
    ("income", "expense"),
    ("input", "output"),
    ("inward", "outward"),
    ("issued", "received"),
    ("long", "short"),
    ("new", "used"),
    ("paid", "received"),
    ("payable", "receivable"),
    ("permanent", "temporary"),
    ("private", "public"),
    ("purchase", "sale"),
    ("retail", "wholesale"),
    ("small", "large"),
];

fn other_class(two: &Two<'_>) -> bool {
    !two.a.is_of_class_of(two.b)
}

fn other_currency(two: &Two<'_>) -> bool {
    two.a.account.currency != two.b.account.currency
}

fn asset_and_wear(two: &Two<'_>) -> bool {
    two.a.account.contra != two.b.account.contra
}

fn other_roles(two: &Two<'_>) -> bool {
    two.a.account.role.zip(two.b.account.role).is_some_and(|(one, other)| one != other)
}

fn two_banks(two: &Two<'_>) -> bool {
    let is_bank = |subject: &Subject<'_>| subject.account.role == Some(ControlRole::Bank);
    is_bank(two.a) && is_bank(two.b)
}

/// Whether only one of the names has a word of a kind.
fn one_says(two: &Two<'_>, kind: impl Fn(&str) -> bool) -> bool {
    two.names.own.iter().flatten().any(|word| kind(word))
}

fn other_numbers(two: &Two<'_>) -> bool {
    one_says(two, |word| word.bytes().any(|b| b.is_ascii_digit()))
}

fn other_state(two: &Two<'_>) -> bool {
    // Names without a word in common say nothing of the other’s state.
    two.names.common != Common::Nothing && one_says(two, |word| STATES.contains(&word))
}

fn opposites(two: &Two<'_>) -> bool {
    let says = |own: &[String], word: &str| own.iter().any(|own| own == word);
    let [a, b] = &two.names.own;
    OPPOSITES
        .iter()
        .any(|(one, other)| says(a, one) && says(b, other) || says(a, other) && says(b, one))
}

fn other_years(two: &Two<'_>) -> bool {
    let years = two.a.wording.year.zip(two.b.wording.year);
    // Where one account goes through the years, those of single years are parts of it.
    years.is_some_and(|(one, other)| one != other) && !two.rarity.has_undated(two.a)
}

fn departments(two: &Two<'_>) -> bool {
    // Where one was given up, its heading may be a whole chart that was taken over.
    let in_use = |subject: &Subject<'_>| !has_stopped(subject.last, two.latest);
    let alike = two.rarity.of_departments(two.a.account, two.b.account);
    alike && in_use(two.a) && in_use(two.b)
}

fn series(two: &Two<'_>) -> bool {
    let each_says_more = two.names.own.iter().all(|own| !own.is_empty());
    each_says_more && two.rarity.take_turns(&two.names.own)
}
