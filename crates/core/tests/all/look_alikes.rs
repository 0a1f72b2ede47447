//! Look-alikes in books of another trade than the demo's, with an answer key of their own.

use crate::books;
use crate::books::{account, calendar, today};
use std::collections::{BTreeMap, BTreeSet};
use time::{Date, Month};
use zf_core::activity::{Activity, LineContent, Share, Shares, Slot, Strand, add_share};
use zf_core::chart::{Chart, Class, ControlRole, Kind};
use zf_core::ids::{AccountId, StrandId};
use zf_core::review::NotDuplicates;
use zf_core::review::look_alikes::{Found, LookAlike, find, find_slowly};
use zf_core::review::sketch::{Sketch, Sketches};
use zf_core::today::Today;

const PRACTICE: &str = include_str!("review/practice.txt");
const MARINA: &str = include_str!("review/marina.txt");
const BREWERY: &str = include_str!("review/brewery.txt");

/// The months that the journal covers.
const FIRST: (i32, u8) = (2021, 1);
const LAST: (i32, u8) = (2026, 6);

struct Trade {
    today: Today,
    sketches: Sketches,
    /// Groups that are the same thing, and pairs that only look like it.
    same: Vec<BTreeSet<i64>>,
    unlike: Vec<[i64; 2]>,
}

fn month(text: &str) -> (i32, u8) {
    let (year, month) = text.split_once('-').unwrap();
    (year.parse().unwrap(), month.parse().unwrap())
}

/// A line a month for all months of a span, and with whom.
fn posted(id: i64, (from, to): ((i32, u8), (i32, u8)), people: &[&str]) -> (Shares, Sketch) {
    let (mut activity, mut sketch) = (Shares::default(), Sketch::default());
    let count = |(year, month): (i32, u8)| year * 12 + i32::from(month) - 1;
    for n in count(from)..=count(to) {
        let month = Month::try_from(n.rem_euclid(12) as u8 + 1).unwrap();
        let date = Date::from_calendar_date(n.div_euclid(12), month, 14).unwrap();
        let line = LineContent {
            id: id * 1_000 + i64::from(n),
            entry: 0,
            date,
            amount: 100,
            foreign: None,
            payee: "",
            memo: "",
            reference: "",
            dimensions: "",
        };
        let slot = Slot { period: calendar().period_of(date), currency: books::gbp() };
        add_share(&mut activity, slot, Share::of_line(&line, false));
        if let Some(payee) = people.get(n.unsigned_abs() as usize % people.len().max(1)) {
            sketch.payees.add((*payee).to_owned(), 1);
        }
    }
    (activity, sketch)
}

fn trade(text: &str) -> Trade {
    let (mut accounts, mut strands, mut sketches) = (Vec::new(), Vec::new(), Sketches::default());
    let (mut same, mut unlike): (BTreeMap<i64, BTreeSet<i64>>, _) = (BTreeMap::new(), Vec::new());
    for line in text.lines().filter(|line| !line.starts_with('#')) {
        let (head, rest) = line.split_once('|').unwrap();
        let mut head = head.trim().splitn(3, ' ');
        let (kind, code, name) = (head.next().unwrap(), head.next().unwrap(), head.next().unwrap());
        let id: i64 = code.parse().unwrap();
        let mut parts = rest.split('|').map(str::trim);
        let mut place = parts.next().unwrap().split(' ');
        let class = Class::from_key(place.next().unwrap()).unwrap();
        let mut row = account(id, code, name, class);
        row.parent = place.next().map(|parent| AccountId(parent.parse().unwrap()));
        if kind == "H" {
            row.kind = Kind::Heading;
            accounts.push(row);
            continue;
        }
        let span = match parts.next().unwrap() {
            ".." => (FIRST, LAST),
            text => text.split_once(' ').map(|(from, to)| (month(from), month(to))).unwrap(),
        };
        let people: Vec<&str> = parts.next().unwrap().split_whitespace().collect();
        for planted in parts.next().unwrap().split_whitespace() {
            let (what, of) = planted.split_once('=').unwrap_or((planted, ""));
            match what {
                "role" => row.role = ControlRole::from_key(of),
                "contra" => row.contra = true,
                "unlike" => unlike.push([of.parse().unwrap(), id]),
                _ => {
                    let of: i64 = of.parse().unwrap();
                    same.entry(of).or_insert_with(|| BTreeSet::from([of])).insert(id);
                }
            }
        }
        let (activity, sketch) = posted(id, span, &people);
        sketches.insert(row.id, sketch);
        strands.push((Strand::opened(StrandId(id), &row), activity));
        accounts.push(row);
    }
    let today = today(Chart::new(accounts), Activity::new(strands));
    Trade { today, sketches, same: same.into_values().collect(), unlike }
}

fn pairs(group: &BTreeSet<i64>) -> BTreeSet<[i64; 2]> {
    group.iter().flat_map(|a| group.range(a + 1..).map(move |b| [*a, *b])).collect()
}

fn all(found: &Found) -> impl Iterator<Item = &LookAlike> {
    found.sure.iter().chain(&found.worth_a_look)
}

fn proposed(found: &Found) -> BTreeSet<[i64; 2]> {
    let codes = |group: &LookAlike| group.accounts.iter().map(|id| id.0).collect::<BTreeSet<_>>();
    all(found).flat_map(|group| pairs(&codes(group))).collect()
}

/// Of how many planted groups how many are found, and of how many proposed pairs how many are planted.
#[derive(Clone, Copy, Default)]
struct Measured {
    groups: [usize; 2],
    pairs: [usize; 2],
}

impl Measured {
    fn of(trade: &Trade, proposed: &BTreeSet<[i64; 2]>) -> Self {
        let planted: BTreeSet<[i64; 2]> = trade.same.iter().flat_map(pairs).collect();
        let missed = trade.same.iter().filter(|group| !pairs(group).is_subset(proposed));
        let wrong: Vec<_> = proposed.difference(&planted).collect();
        println!("missed {:?}; wrong {wrong:?}", missed.clone().collect::<Vec<_>>());
        Self {
            groups: [trade.same.len() - missed.count(), trade.same.len()],
            pairs: [proposed.len() - wrong.len(), proposed.len()],
        }
    }

    fn add(self, other: Self) -> Self {
        let sum = |a: [usize; 2], b: [usize; 2]| [a[0] + b[0], a[1] + b[1]];
        Self { groups: sum(self.groups, other.groups), pairs: sum(self.pairs, other.pairs) }
    }

    fn reaches(self, groups: f64, pairs: f64) -> bool {
        let share = |[found, of]: [usize; 2]| found as f64 / of as f64;
        share(self.groups) >= groups && share(self.pairs) >= pairs
    }
}

#[test]
fn planted_groups_of_other_trades_are_found_and_little_else() {
    let (mut sure, mut both) = (Measured::default(), Measured::default());
    for text in [PRACTICE, MARINA, BREWERY] {
        let trade = trade(text);
        let found = find(&trade.today, &trade.sketches, &NotDuplicates::default());
        let all = proposed(&found);
        let of_sure = proposed(&Found { worth_a_look: Vec::new(), ..found });
        for pair in &trade.unlike {
            assert!(!of_sure.contains(pair), "{pair:?} only look alike");
        }
        sure = sure.add(Measured::of(&trade, &of_sure));
        both = both.add(Measured::of(&trade, &all));
    }
    assert!(sure.reaches(0.6, 0.97), "sure: {:?} {:?}", sure.groups, sure.pairs);
    assert!(both.reaches(0.95, 0.85), "both tiers: {:?} {:?}", both.groups, both.pairs);
}

#[test]
fn the_survivor_is_the_one_in_use_and_there_is_a_reason() {
    let Trade { today, sketches, .. } = trade(PRACTICE);
    for group in all(&find(&today, &sketches, &NotDuplicates::default())) {
        let last = |id: &AccountId| today.figures()[id].last;
        assert_eq!(last(&group.survivor), group.accounts.iter().map(last).max().unwrap());
        assert!(!group.evidence.is_empty());
    }
}

#[test]
fn nothing_is_lost_by_not_comparing_every_pair() {
    let Trade { today, sketches, .. } = trade(PRACTICE);
    let found = find(&today, &sketches, &NotDuplicates::default());
    assert!(found.sure == find_slowly(&today, &sketches).sure);
}

#[test]
fn what_a_person_told_apart_is_not_proposed_again() {
    let Trade { today, sketches, .. } = trade(PRACTICE);
    let found = find(&today, &sketches, &NotDuplicates::default());
    let mut apart = NotDuplicates::default();
    let told = &found.sure[0].accounts;
    apart.add(told.iter().copied());
    let left = find(&today, &sketches, &apart);
    let both = |group: &LookAlike| told.iter().filter(|id| group.accounts.contains(id)).count() > 1;
    assert!(all(&found).any(both) && !all(&left).any(both));
    assert!(all(&left).count() + 1 >= all(&found).count(), "the others are found as before");
}
