//! Look-alikes in books of another trade than the demo's, with an answer key of their own.

use crate::books;
use crate::books::{account, calendar, today};
use std::collections::{BTreeMap, BTreeSet};
use time::{Date, Month};
use zf_core::activity::{Activity, LineContent, Share, Shares, Slot, Strand, add_share};
use zf_core::chart::{Chart, Class, ControlRole, Kind};
use zf_core::ids::{AccountId, StrandId};
use zf_core::review::look_alikes::{LookAlike, find, find_slowly};
use zf_core::review::{NotDuplicates, Sketch, Sketches};
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
            sketch.see(payee, 1);
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

fn proposed(found: &[LookAlike]) -> BTreeSet<[i64; 2]> {
    let codes = |group: &LookAlike| group.accounts.iter().map(|id| id.0).collect::<BTreeSet<_>>();
    found.iter().flat_map(|group| pairs(&codes(group))).collect()
}

/// Of how many planted groups how many are found, and of how many proposed pairs how many are planted.
struct Measured {
    groups: [usize; 2],
    pairs: [usize; 2],
}

fn measure(text: &str) -> Measured {
    let Trade { today, sketches, same, unlike } = trade(text);
    let found = find(&today, &sketches, &NotDuplicates::default());
    let proposed = proposed(&found);
    let planted: BTreeSet<[i64; 2]> = same.iter().flat_map(pairs).collect();
    let missed: Vec<_> = same.iter().filter(|group| !pairs(group).is_subset(&proposed)).collect();
    let wrong: Vec<_> = proposed.difference(&planted).collect();
    println!("of {} groups missed {missed:?}; of {} wrong {wrong:?}", same.len(), proposed.len());
    for pair in unlike {
        assert!(!proposed.contains(&pair), "{pair:?} only look alike");
    }
    Measured {
        groups: [same.len(), same.len() - missed.len()],
        pairs: [proposed.len(), proposed.len() - wrong.len()],
    }
}

#[test]
fn planted_groups_of_other_trades_are_found_and_little_else() {
    let trades = [PRACTICE, MARINA, BREWERY].map(measure);
    let shares = |counts: &[[usize; 2]]| {
        let [of, found] = counts.iter().fold([0, 0], |sum, c| [sum[0] + c[0], sum[1] + c[1]]);
        found as f64 / of as f64
    };
    for counts in [trades.each_ref().map(|t| t.groups), trades.each_ref().map(|t| t.pairs)] {
        assert!(shares(&counts) >= 0.95, "over all trades {counts:?}");
        for one in counts {
            assert!(shares(&[one]) >= 0.9, "of one trade {counts:?}");
        }
    }
}

#[test]
fn the_survivor_is_the_one_in_use_and_there_is_a_reason() {
    let Trade { today, sketches, .. } = trade(PRACTICE);
    for group in find(&today, &sketches, &NotDuplicates::default()) {
        let last = |id: &AccountId| today.figures()[id].last;
        assert_eq!(last(&group.survivor), group.accounts.iter().map(last).max().unwrap());
        assert!(!group.evidence.is_empty());
    }
}

#[test]
fn nothing_is_lost_by_not_comparing_every_pair() {
    let Trade { today, sketches, .. } = trade(PRACTICE);
    assert_eq!(find(&today, &sketches, &NotDuplicates::default()), find_slowly(&today, &sketches));
}

#[test]
fn what_a_person_told_apart_is_not_proposed_again() {
    let Trade { today, sketches, .. } = trade(PRACTICE);
    let found = find(&today, &sketches, &NotDuplicates::default());
    let mut apart = NotDuplicates::default();
    let told = &found[0].accounts;
    apart.tell(told.iter().copied());
    let left = find(&today, &sketches, &apart);
    let both = |group: &LookAlike| told.iter().filter(|id| group.accounts.contains(id)).count() > 1;
    assert!(found.iter().any(both) && !left.iter().any(both));
    assert!(left.len() + 1 >= found.len(), "the others are found as before");
}
