//! What speaks for two accounts being the same thing, each kind alone; what keeps two apart, each rule alone; and
//! groups.

use crate::books::{account, calendar, gbp, today};
use proptest::prelude::*;
use std::collections::BTreeMap;
use time::{Date, Month};
use zf_core::activity::{Activity, LineContent, Share, Shares, Slot, Strand, add_share};
use zf_core::chart::{Account, Chart, Class, ControlRole, Kind};
use zf_core::code::Code;
use zf_core::ids::{AccountId, StrandId};
use zf_core::money::Currency;
use zf_core::review::NotDuplicates;
use zf_core::review::look_alikes::{Found, Observation, Table, compared, find};
use zf_core::review::sketch::{Sketches, Sketching};
use zf_core::today::Today;

const BANK: i64 = 1;
const TILL: i64 = 2;

/// The two accounts that are looked at.
const ONE: i64 = 50;
const OTHER: i64 = 60;

/// Names of other accounts, none like another.
const STRANGERS: [&str; 24] = [
    "Abrel", "Bontic", "Cuvane", "Dolmir", "Erphus", "Fankel", "Gostry", "Hevrid", "Ixomar",
    "Jupend", "Kwarth", "Lobeska", "Mintov", "Nerquil", "Ostrava", "Pilmeck", "Quandor", "Rishel",
    "Sorvex", "Tumbrik", "Ulvane", "Vexhol", "Wurdip", "Yamrok",
];

/// A line a month of an account.
#[derive(Clone)]
struct Posted {
    from: i32,
    to: i32,
    amount: i64,
    lines: i32,
    payee: String,
    memo: String,
    dimensions: String,
    against: i64,
}

impl Posted {
    fn by(name: &str) -> Self {
        Self {
            from: 0,
            to: 60,
            amount: 900,
            lines: 1,
            payee: format!("{name} & Sons"),
            memo: format!("{name} parcels"),
            dimensions: String::new(),
            against: BANK,
        }
    }
}

/// Books of a bank, a till, strangers, and two accounts that are looked at.
struct Books {
    accounts: BTreeMap<i64, Account>,
    posted: BTreeMap<i64, Posted>,
}

impl Books {
    fn new(one: &str, other: &str) -> Self {
        let mut books = Self { accounts: BTreeMap::new(), posted: BTreeMap::new() };
        for (id, name) in [(BANK, "Current account"), (TILL, "Cash drawer")] {
            books.accounts.insert(id, account(id, &format!("{}", 1_000 + id), name, Class::Asset));
        }
        let strangers = STRANGERS.iter().enumerate().map(|(n, name)| (100 + n as i64, *name));
        // Between the two stand others, so that they are no neighbours.
        for (id, name) in strangers.chain([(ONE, one), (OTHER, other)]) {
            let code = match id {
                ONE => 5_005,
                OTHER => 5_905,
                _ => 5_000 + id,
            };
            books.accounts.insert(id, account(id, &code.to_string(), name, Class::Expense));
            books.posted.insert(id, Posted::by(&format!("{name} {id}")));
        }
        books
    }

    fn edit(&mut self, id: i64, edit: impl FnOnce(&mut Account)) -> &mut Self {
        edit(self.accounts.get_mut(&id).unwrap());
        self
    }

    fn post(&mut self, id: i64, edit: impl FnOnce(&mut Posted)) -> &mut Self {
        edit(self.posted.get_mut(&id).unwrap());
        self
    }

    fn today(&self) -> (Today, Sketches) {
        let mut shares: BTreeMap<i64, Shares> = BTreeMap::new();
        let mut sketching = Sketching::default();
        let mut entry = 0;
        for (id, posted) in &self.posted {
            for n in posted.from * posted.lines..posted.to * posted.lines {
                entry += 1;
                let month = n / posted.lines;
                let of_year = Month::try_from((month % 12 + 1) as u8).unwrap();
                let date = Date::from_calendar_date(2021 + month / 12, of_year, 14).unwrap();
                let both = [(*id, posted.amount), (posted.against, -posted.amount)];
                for (on, amount) in both {
                    let content = LineContent {
                        id: entry,
                        entry,
                        date,
                        amount,
                        foreign: None,
                        payee: &posted.payee,
                        memo: &posted.memo,
                        reference: "",
                        dimensions: &posted.dimensions,
                    };
                    let slot = Slot { period: calendar().period_of(date), currency: gbp() };
                    let of = shares.entry(on).or_default();
                    add_share(of, slot, Share::of_line(&content, false));
                    sketching.line(on, &posted.payee, &posted.memo, &posted.dimensions);
                }
                sketching.entry(&both.map(|(on, amount)| (on, amount >= 0)));
            }
        }
        let strands = shares
            .into_iter()
            .map(|(id, shares)| (Strand::opened(StrandId(id), &self.accounts[&id]), shares));
        let activity = Activity::new(strands);
        let sketches = sketching.done().map(|(id, sketch)| (AccountId(id), sketch)).collect();
        (today(Chart::new(self.accounts.values().cloned()), activity), sketches)
    }

    /// What speaks for the two; none when something keeps them apart.
    fn score(&self) -> Option<f64> {
        let (today, sketches) = self.today();
        let pairs = compared(Table::shipped(), &today, &sketches);
        let wanted = [AccountId(ONE), AccountId(OTHER)];
        let pair = pairs.into_iter().find(|(ids, ..)| wanted.iter().all(|id| ids.contains(id)));
        pair.map(|(_, _, score)| score)
    }

    fn found(&self) -> Found {
        let (today, sketches) = self.today();
        find(&today, &sketches, &NotDuplicates::default())
    }
}

fn groups(found: &Found) -> Vec<Vec<i64>> {
    let all = found.sure.iter().chain(&found.worth_a_look);
    let ids = all.map(|group| {
        let mut ids: Vec<i64> = group.accounts.iter().map(|id| id.0).collect();
        ids.sort_unstable();
        ids
    });
    ids.collect()
}

#[test]
fn each_kind_of_evidence_speaks_for_itself() {
    type Change = fn(&mut Books);
    let unlike: Change = |books| {
        books.post(ONE, |posted| *posted = Posted::by("Zanth")).post(OTHER, |posted| {
            *posted = Posted { amount: 40_000, lines: 4, against: TILL, ..Posted::by("Plume") };
        });
        books.edit(OTHER, |row| row.name = "Ferrule binding".to_owned());
    };
    let more: [(&str, Change); 9] = [
        ("codes", |b| {
            b.edit(OTHER, |a| a.code = Code::parse("5006").unwrap());
        }),
        ("variants of a code", |b| {
            b.edit(OTHER, |a| a.code = Code::parse("5005A").unwrap());
        }),
        ("amounts", |b| {
            b.post(OTHER, |p| p.amount = 900);
        }),
        ("rhythm", |b| {
            b.post(OTHER, |p| p.lines = 1);
        }),
        ("people", |b| {
            b.post(OTHER, |p| p.payee = "Zanth & Sons".to_owned());
        }),
        ("phrases", |b| {
            b.post(OTHER, |p| p.memo = "Zanth parcels".to_owned());
        }),
        ("dimension values", |b| {
            for (at, posted) in &mut b.posted {
                let room = if [ONE, OTHER].contains(at) { ONE } else { *at };
                posted.dimensions = format!("room={room}");
            }
        }),
        ("what stands against it", |b| {
            b.post(ONE, |p| p.against = 100).post(OTHER, |p| p.against = 100);
        }),
        ("one that stops where the other starts", |b| {
            b.post(ONE, |p| p.to = 30).post(OTHER, |p| p.from = 30);
        }),
    ];
    for (what, change) in more {
        let mut plain = Books::new("Ferrule binding", "Ferrule oddments");
        unlike(&mut plain);
        // So that nothing is capped from below.
        plain.post(OTHER, |posted| match what {
            "people" => posted.memo = "Zanth parcels".to_owned(),
            _ => posted.payee = "Zanth & Sons".to_owned(),
        });
        if what.contains("code") {
            plain.post(ONE, |p| p.to = 30).post(OTHER, |p| p.from = 30);
        }
        let before = plain.score().unwrap();
        change(&mut plain);
        assert!(plain.score().unwrap() > before, "{what}");
    }
}

#[test]
fn names_speak_the_more_the_more_of_them_is_the_same() {
    let score = |other: &str| Books::new("Ferrule binding", other).score().unwrap();
    let said = [
        "Gravel",
        "Ferrule oddments",
        "Ferrule binding and oddments",
        "Ferrule bind.",
        "Binding of ferrules",
    ];
    let scores = said.map(score);
    assert!(scores.windows(2).all(|two| two[0] < two[1]), "{scores:?}");
    for (one, other) in [
        ("Ferrule binding", "Ferule binding"),
        ("Ferrule & binding", "Ferrule and binding"),
        ("Ferrulebinding", "Ferrule binding"),
        ("Front of house staff", "FOH staff"),
        ("Ferrule binding OLD", "Ferrule binding"),
    ] {
        let found = Books::new(one, other).found();
        assert_eq!(groups(&found), [[ONE, OTHER]], "{one}, {other}");
    }
}

#[test]
fn other_words_for_the_same_thing_are_worth_a_look_with_the_same_people() {
    let mut books = Books::new("Ferrule carriage", "Ferrule freight");
    let payee = books.posted[&ONE].payee.clone();
    books.post(OTHER, |posted| posted.payee = payee);
    assert_eq!(groups(&books.found()), [[ONE, OTHER]]);
}

#[test]
fn the_same_name_in_a_class_that_is_contradicted_is_worth_a_look() {
    let mut books = Books::new("Ferrule binding", "Ferrule binding");
    books.edit(OTHER, |row| row.class = Class::Income);
    let found = books.found();
    assert!(found.sure.is_empty());
    assert_eq!(groups(&found), [[ONE, OTHER]], "nothing but debits are posted to it");
}

#[test]
fn two_lines_of_one_kind_in_use_stay_apart_without_lines_in_common() {
    let mut books = Books::new("Ferrule binding", "Ferrule varnish");
    assert!(groups(&books.found()).is_empty());
    let payee = books.posted[&ONE].payee.clone();
    books.post(OTHER, |posted| posted.payee = payee);
    assert!(groups(&books.found()).is_empty(), "the same people alone say nothing");
}

#[test]
fn a_chart_that_was_taken_over_may_say_less() {
    let mut books = Books::new("Ferrule and varnish", "Annex ferrule");
    let heading = account(900, "8000", "Annex", Class::Expense);
    books.accounts.insert(900, Account { kind: Kind::Heading, ..heading });
    for (n, name) in ["Annex twine", "Annex gravel", "Annex lamps", "Annex rope"].iter().enumerate()
    {
        let id = 910 + n as i64;
        let row = account(id, &format!("{}", 8_010 + n), name, Class::Expense);
        books.accounts.insert(id, Account { parent: Some(AccountId(900)), ..row });
        books.posted.insert(id, Posted { to: 30, ..Posted::by(name) });
    }
    books.edit(OTHER, |row| row.parent = Some(AccountId(900))).post(OTHER, |posted| posted.to = 30);
    assert!(groups(&books.found()).contains(&vec![ONE, OTHER]));
    books.posted.remove(&OTHER);
    books.post(910, |posted| posted.to = 60);
    assert!(!groups(&books.found()).contains(&vec![ONE, OTHER]), "it is still in use");
}

#[test]
fn a_place_and_a_tax_code_speak_for_two_or_against() {
    let heading = |id: i64, code: &str| {
        let mut row = account(id, code, "Parts", Class::Expense);
        row.kind = Kind::Heading;
        row
    };
    let mut books = Books::new("Ferrule binding", "Ferrule binding 2021");
    for (id, code) in [(900, "5000"), (901, "5900")] {
        books.accounts.insert(id, heading(id, code));
    }
    let mut with = |parents: [i64; 2], taxes: [&str; 2]| {
        for ((id, parent), tax) in [ONE, OTHER].into_iter().zip(parents).zip(taxes) {
            books.edit(id, |row| {
                row.parent = Some(AccountId(parent));
                row.tax_code = Some(tax.to_owned());
            });
        }
        books.score().unwrap()
    };
    assert!(with([900, 900], ["full", "full"]) > with([900, 901], ["full", "full"]));
    assert!(with([900, 900], ["full", "full"]) > with([900, 900], ["full", "zero"]));
}

#[test]
fn each_rule_alone_keeps_two_apart() {
    type Change = fn(&mut Account);
    let rules: [(&str, [Change; 2]); 5] = [
        ("class", [|_| (), |row| row.class = Class::Asset]),
        ("currency", [|_| (), |row| row.currency = Some(Currency::parse("EUR").unwrap())]),
        ("asset and wear", [|_| (), |row| row.contra = true]),
        (
            "roles",
            [
                |row| row.role = Some(ControlRole::Receivables),
                |row| row.role = Some(ControlRole::Suspense),
            ],
        ),
        (
            "two banks",
            [|row| row.role = Some(ControlRole::Bank), |row| row.role = Some(ControlRole::Bank)],
        ),
    ];
    for (what, [of_one, of_other]) in rules {
        let mut books = Books::new("Ferrule binding", "Ferrule binding");
        assert!(books.score().is_some());
        books.edit(ONE, of_one).edit(OTHER, of_other);
        assert_eq!(books.score(), None, "{what}");
    }
    for (one, other) in [
        ("Ferrule 1", "Ferrule 2"),
        ("Ferrule binding", "Ferrule binding 3"),
        ("Prepaid ferrule", "Ferrule"),
        ("Ferrule, accumulated depreciation", "Ferrule"),
        ("Ferrule received", "Ferrule paid"),
        ("Ferrule inward", "Ferrule outward"),
        ("Restricted ferrule", "Ferrule"),
        ("Ferrule 2021", "Ferrule 2022"),
    ] {
        assert_eq!(Books::new(one, other).score(), None, "{one}, {other}");
    }
}

#[test]
fn names_in_which_words_take_turns_are_of_a_series() {
    let mut books = Books::new("Northgate ferrule", "Southgate ferrule");
    assert!(books.score().is_some());
    for (id, name) in [(100, "Northgate"), (101, "Southgate")] {
        for (n, what) in ["binding", "carriage"].into_iter().enumerate() {
            books.edit(id + 2 * n as i64, |row| row.name = format!("{name} {what}"));
        }
    }
    assert_eq!(books.score(), None);
}

#[test]
fn departments_have_the_same_accounts_until_one_is_given_up() {
    let mut books = Books::new("Ferrule", "Ferrule");
    let heading = |id: i64, code: &str| {
        let mut row = account(id, code, "Works", Class::Expense);
        row.kind = Kind::Heading;
        row
    };
    for (id, code) in [(900, "5000"), (901, "5900")] {
        books.accounts.insert(id, heading(id, code));
    }
    let under = [(ONE, 900), (OTHER, 901), (100, 900), (101, 901), (102, 900), (103, 901)];
    for (id, parent) in under {
        books.edit(id, |row| row.parent = Some(AccountId(parent)));
    }
    for (id, name) in [(100, "Carriage"), (101, "Carriage"), (102, "Gravel"), (103, "Gravel")] {
        books.edit(id, |row| row.name = name.to_owned());
    }
    assert_eq!(books.score(), None);
    books.post(OTHER, |posted| posted.to = 20);
    assert!(books.score().is_some(), "a chart that was taken over");
}

#[test]
fn three_names_of_one_thing_are_one_group() {
    let mut books = Books::new("Ferrule binding", "Ferule binding");
    books.edit(100, |row| row.name = "FERRULE BINDING (old)".to_owned());
    assert_eq!(groups(&books.found()), [[ONE, OTHER, 100]]);
    // Accounts of single years are parts of the one that goes through them.
    let mut books = Books::new("Ferrule binding 2021", "Ferrule binding 2022");
    books.edit(100, |row| row.name = "Ferrule binding".to_owned());
    assert_eq!(groups(&books.found()), [[ONE, OTHER, 100]]);
}

#[test]
fn lines_alone_carry_a_hand_over_under_another_name() {
    let mut books = Books::new("Ferrule binding", "Gravel");
    assert_eq!(groups(&books.found()), [[0_i64; 0]; 0]);
    let of_one = Posted::by("Zanth");
    books.post(ONE, |posted| *posted = Posted { to: 30, ..of_one.clone() });
    books.post(OTHER, |posted| *posted = Posted { from: 30, ..of_one.clone() });
    books.edit(OTHER, |row| row.code = Code::parse("5006").unwrap());
    let found = books.found();
    assert_eq!(groups(&found), [[ONE, OTHER]]);
    let evidence = found.sure.iter().chain(&found.worth_a_look).flat_map(|group| &group.evidence);
    let seen: Vec<&Observation> = evidence.collect();
    for one in [
        Observation::SamePeople(vec!["Zanth & Sons".to_owned()]),
        Observation::SamePhrases(vec!["zanth parcels".to_owned()]),
    ] {
        assert!(seen.contains(&&one), "{seen:?}");
    }
}

/// Names none of which could be a slip of another: each begins with two letters of its own.
fn apart(names: std::collections::HashSet<String>) -> Vec<String> {
    let letter = |n: usize| char::from(b'a' + n as u8);
    names
        .into_iter()
        .enumerate()
        .map(|(n, name)| format!("{0}{0}{0}{name}", letter(n % 26)))
        .collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(12))]

    /// Unrelated words for all words of a chart, with whatever lines, never make a sure pair of strangers.
    #[test]
    fn strangers_are_never_surely_one(
        names in prop::collection::hash_set("[bdfgklmnprstvz][aeiou][bdfgklmnprst]{2}[aeiou][bdfgklmnprst]{1,3}", 26)
            .prop_map(apart),
        spans in prop::collection::vec((0..50_i32, 10..60_i32, 1..90_000_i64, 1..4_i32), 26),
    ) {
        let mut books = Books::new("Ferrule", "Gravel");
        let ids: Vec<i64> = books.posted.keys().copied().collect();
        for ((id, name), (from, more, amount, lines)) in ids.into_iter().zip(names).zip(spans) {
            books.edit(id, |row| row.name = name.clone());
            books.post(id, |posted| {
                let to = (from + more).min(60);
                *posted = Posted { from, to, amount, lines, ..Posted::by(&name) };
            });
        }
        let found = books.found();
        prop_assert!(found.sure.is_empty(), "{:?}", found.sure);
    }
}
