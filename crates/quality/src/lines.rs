//! What is posted to the accounts of a trade: people, phrases, dimension values, amounts and a rhythm of their own
//! each.

use rand::Rng;
use rand::seq::IndexedRandom;
use rand_chacha::ChaCha8Rng;
use zf_core::dimension::{DimensionValue, written};

/// The months of the journal, counted from January 2021.
pub(crate) const MONTHS: usize = 66;

const FAMILIES: [&str; 40] = [
    "Abbott", "Ainsley", "Barlow", "Birch", "Calder", "Crowe", "Dunmore", "Eddings", "Farrow",
    "Fenwick", "Garrick", "Gower", "Hadley", "Hesketh", "Ibbotson", "Jessop", "Kershaw", "Kirby",
    "Lomax", "Marlow", "Medway", "Naylor", "Oakes", "Orrell", "Penrose", "Pickles", "Quayle",
    "Radley", "Rudge", "Selwyn", "Stroud", "Tarrant", "Thackray", "Umpleby", "Varley", "Wadham",
    "Wickes", "Yarrow", "Yeo", "Zeller",
];

const TRADING_AS: [&str; 12] = [
    "",
    "& Sons",
    "Ltd",
    "Services",
    "Partners",
    "Bros",
    "Group",
    "& Daughters",
    "Agency",
    "Supplies",
    "Works",
    "Company",
];

const QUALITIES: [&str; 24] = [
    "amber", "annual", "blue", "coastal", "double", "eastern", "extra", "fine", "fourth", "green",
    "heavy", "inner", "light", "lower", "middle", "narrow", "northern", "quick", "round", "short",
    "silver", "spring", "upper", "winter",
];

const THINGS: [&str; 30] = [
    "arch", "batch", "bracket", "call", "circuit", "crate", "cycle", "depot", "fitting", "gate",
    "grade", "hatch", "item", "junction", "key", "ladder", "meter", "notice", "order", "panel",
    "parcel", "quota", "round", "scheme", "shift", "slot", "ticket", "unit", "visit", "ward",
];

/// Memos that any account may have.
const ANYWHERE: [&str; 6] =
    ["Invoice {}", "Ref {}", "Monthly payment", "Payment {}", "As agreed", "Batch {}"];

/// Of whom and of what lines speak.
#[derive(Clone, Default)]
pub(crate) struct Voice {
    pub(crate) people: Vec<String>,
    pub(crate) phrases: Vec<String>,
}

impl Voice {
    pub(crate) fn new(rng: &mut ChaCha8Rng) -> Self {
        let (people, phrases) = (rng.random_range(2..5), rng.random_range(2..5));
        Self {
            people: (0..people).map(|_| person(rng)).collect(),
            phrases: (0..phrases).map(|_| phrase(rng)).collect(),
        }
    }

    /// Another voice that shares so much of this one.
    pub(crate) fn sharing(&self, share: f64, rng: &mut ChaCha8Rng) -> Self {
        let mut voice = self.clone();
        for one in &mut voice.people {
            if !rng.random_bool(share) {
                *one = person(rng);
            }
        }
        for one in &mut voice.phrases {
            if !rng.random_bool(share) {
                *one = phrase(rng);
            }
        }
        voice
    }

    /// With whom a line is, and what it says; now and then somebody of `around`.
    pub(crate) fn says(&self, around: &[String], rng: &mut ChaCha8Rng) -> (String, String) {
        let people = if rng.random_bool(0.15) { around } else { &self.people };
        let payee = people.choose(rng).cloned().unwrap_or_default();
        let phrase = self.phrases.choose(rng).filter(|_| rng.random_bool(0.6));
        let number: u32 = rng.random_range(100..9_999);
        let memo = match phrase {
            Some(phrase) if rng.random_bool(0.5) => format!("{phrase} {number}"),
            Some(phrase) => phrase.clone(),
            None => {
                let said = ANYWHERE.choose(rng).copied().unwrap_or_default();
                said.replace("{}", &number.to_string())
            }
        };
        (payee, memo)
    }
}

pub(crate) fn person(rng: &mut ChaCha8Rng) -> String {
    let pick = |all: &[&'static str], rng: &mut ChaCha8Rng| all.choose(rng).copied().unwrap_or("");
    let (family, other) = (pick(&FAMILIES, rng), pick(&FAMILIES, rng));
    let name = if rng.random_bool(0.3) { format!("{family} {other}") } else { family.to_owned() };
    format!("{name} {}", pick(&TRADING_AS, rng)).trim().to_owned()
}

fn phrase(rng: &mut ChaCha8Rng) -> String {
    let pick = |all: &[&'static str], rng: &mut ChaCha8Rng| all.choose(rng).copied().unwrap_or("");
    format!("{} {}", pick(&QUALITIES, rng), pick(&THINGS, rng))
}

const SITES: [&str; 4] = ["North", "South", "Riverside", "Hill"];

/// How many projects the books have.
const PROJECTS: u32 = 14;

/// The dimension values of lines.
#[derive(Clone, Default)]
pub(crate) struct Whereabouts {
    sites: Vec<&'static str>,
    projects: Vec<u32>,
}

impl Whereabouts {
    pub(crate) fn new(rng: &mut ChaCha8Rng) -> Self {
        let at_one = rng.random_bool(0.6);
        let (count, projects) = (if at_one { 1 } else { 3 }, rng.random_range(0..4));
        Self {
            sites: SITES.choose_multiple(rng, count).copied().collect(),
            projects: (0..projects).map(|_| rng.random_range(0..PROJECTS)).collect(),
        }
    }

    /// The values of a line, as it keeps them; now and then it is of another site.
    pub(crate) fn says(&self, rng: &mut ChaCha8Rng) -> String {
        if self.sites.is_empty() {
            return String::new();
        }
        let sites = if rng.random_bool(0.08) { SITES.as_slice() } else { &self.sites };
        let site = sites.choose(rng).map(|site| DimensionValue::new("site", site));
        let project = self.projects.choose(rng).filter(|_| rng.random_bool(0.7));
        let project = project.map(|n| DimensionValue::new("project", &format!("P{n:02}")));
        written(site.into_iter().chain(project))
    }
}

/// When and with how much an account is posted to.
#[derive(Clone)]
pub(crate) struct Rhythm {
    /// Lines a month.
    pub(crate) often: f64,
    /// A usual amount in minor units.
    pub(crate) amount: f64,
    /// The months in which it is in use.
    pub(crate) from: usize,
    pub(crate) to: usize,
}

impl Rhythm {
    pub(crate) fn new(rng: &mut ChaCha8Rng) -> Self {
        let often = [0.3, 1.0, 1.0, 2.0, 4.0].choose(rng).copied().unwrap_or(1.0);
        let amount = 10_f64.powf(rng.random_range(3.2..5.6));
        Self { often, amount, from: 0, to: MONTHS }
    }

    /// The months of its lines, each with an amount.
    pub(crate) fn lines(&self, rng: &mut ChaCha8Rng) -> Vec<(usize, i64)> {
        let mut lines = Vec::new();
        for month in self.from..self.to {
            let mut left = self.often;
            while left >= 1.0 || left > 0.0 && rng.random_bool(left) {
                left -= 1.0;
                let amount = self.amount * 2_f64.powf(rng.random_range(-0.7..0.7));
                lines.push((month, amount.round() as i64 + 1));
            }
        }
        lines
    }
}
