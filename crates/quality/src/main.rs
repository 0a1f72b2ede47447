//! Measures the review on charts of trades that it was not made from: for each trade the table of weights and the
//! calibration are counted in all the others. `--write FILE` writes the table of all trades; `--missed` names what
//! was missed and what is wrong; `--real DIR` measures, by the table that ships, the real charts of a folder instead.

mod baselines;
mod books;
mod lines;
mod measured;
mod posting;
mod real;
mod trade;

use anyhow::Context;
use baselines::{BASELINES, Likeness, pairs};
use books::{Group, TradeBooks, Wrong};
use measured::{Measured, Share, planted, proposed};
use std::collections::{BTreeMap, BTreeSet};
use std::path::Path;
use trade::{Kind, Trade};
use zf_core::ids::AccountId;
use zf_core::plan::Fate;
use zf_core::review::NotDuplicates;
use zf_core::review::look_alikes::{Found, Levels, Table, compared, find_by};
use zf_core::review::remarks::{self, RemarkKind};
use zf_core::review::unused;

const TRADES: [(&str, &str); 8] = [
    ("builder", include_str!("../trades/builder.txt")),
    ("dental practice", include_str!("../trades/dental.txt")),
    ("farm", include_str!("../trades/farm.txt")),
    ("ferry", include_str!("../trades/ferry.txt")),
    ("hotel", include_str!("../trades/hotel.txt")),
    ("nursery", include_str!("../trades/nursery.txt")),
    ("publisher", include_str!("../trades/publisher.txt")),
    ("theatre", include_str!("../trades/theatre.txt")),
];

/// Books of each trade, each with other lines.
const SEEDS: u64 = 3;

/// The books of a trade, with what their pairs are.
struct Tried {
    name: &'static str,
    books: Vec<TradeBooks>,
}

/// A pair of which it is known what it is.
struct Known {
    levels: Levels,
    score: f64,
    are_twins: bool,
}

fn known(books: &TradeBooks, table: &Table) -> Vec<Known> {
    let planted = planted(books);
    let compared = compared(table, &books.today, &books.sketches);
    let known = compared.into_iter().map(|([a, b], levels, score)| Known {
        levels,
        score,
        are_twins: planted.contains(&(a.min(b), a.max(b))),
    });
    known.collect()
}

/// The table of these books, calibrated on them.
fn table_of<'a>(books: impl Iterator<Item = &'a TradeBooks> + Clone) -> Table {
    let mut table = Table::default();
    for books in books.clone() {
        for pair in known(books, &Table::default()) {
            table.count(&pair.levels, pair.are_twins);
        }
    }
    let pairs: Vec<Known> = books.flat_map(|books| known(books, &table)).collect();
    let (scale, shift) = calibration(&pairs);
    table.calibrate(scale, shift);
    table
}

/// How scores become probabilities: the logistic curve that fits best, found by Newton's steps.
fn calibration(pairs: &[Known]) -> (f64, f64) {
    let (mut scale, mut shift) = (1.0, 0.0);
    for _ in 0..30 {
        let (mut g, mut h) = ([0.0; 2], [[1e-6, 0.0], [0.0, 1e-6]]);
        for pair in pairs {
            let x = [pair.score, 1.0];
            let p = 1.0 / (1.0 + (-(scale * pair.score + shift)).exp());
            let off = f64::from(u8::from(pair.are_twins)) - p;
            for i in 0..2 {
                g[i] += off * x[i];
                for j in 0..2 {
                    h[i][j] += p * (1.0 - p) * x[i] * x[j];
                }
            }
        }
        let det = h[0][0] * h[1][1] - h[0][1] * h[1][0];
        scale += ((h[1][1] * g[0] - h[0][1] * g[1]) / det).clamp(-0.5, 0.5);
        shift += ((h[0][0] * g[1] - h[1][0] * g[0]) / det).clamp(-2.0, 2.0);
    }
    (scale, shift)
}

fn main() -> anyhow::Result<()> {
    let arguments: Vec<String> = std::env::args().skip(1).collect();
    if let Some(at) = arguments.iter().position(|argument| argument == "--real") {
        let folder = arguments.get(at + 1).context("--real needs a folder")?;
        return real::measure(Path::new(folder));
    }
    let all = TRADES.iter().map(|(name, text)| {
        let trade = Trade::read(name, text)?;
        let books = (0..SEEDS).map(|seed| TradeBooks::make(&trade, seed));
        anyhow::Ok(Tried { name, books: books.collect::<anyhow::Result<_>>()? })
    });
    let all = all.collect::<anyhow::Result<Vec<Tried>>>()?;
    let (mut sure, mut both) = (Measured::default(), Measured::default());
    let mut said: Vec<(f64, bool)> = Vec::new();
    let mut others_found: BTreeMap<&str, Share> = BTreeMap::new();
    for tried in &all {
        let others = all.iter().filter(|other| other.name != tried.name);
        let table = table_of(others.flat_map(|other| &other.books));
        let (mut of_sure, mut of_both) = (Measured::default(), Measured::default());
        for books in &tried.books {
            let none_marked = NotDuplicates::default();
            let found = find_by(&table, &books.today, &books.sketches, &none_marked);
            let planted = planted(books);
            for group in found.sure.iter().chain(&found.worth_a_look) {
                for pair in measured::pairs_of(&group.accounts) {
                    said.push((group.score, planted.contains(&pair)));
                }
            }
            let Found { sure, worth_a_look } = found;
            let mut pairs = proposed(&sure);
            let here = Measured::of(books, &pairs);
            if arguments.iter().any(|argument| argument == "--missed") {
                tell("sure", books, &here);
            }
            of_sure += here;
            pairs.extend(proposed(&worth_a_look));
            let here = Measured::of(books, &pairs);
            if arguments.iter().any(|argument| argument == "--missed") {
                tell("both tiers", books, &here);
            }
            of_both += here;
        }
        println!("{}", tried.name);
        print("sure", &of_sure);
        print("both tiers", &of_both);
        for (name, likeness) in BASELINES {
            print(name, &best(&tried.books, likeness));
        }
        for (what, share) in others_of(&tried.books) {
            println!("  {what:24} {} of {}", share.found, share.of);
            *others_found.entry(what).or_default() += share;
        }
        sure += of_sure;
        both += of_both;
    }
    println!("all trades, each by the others");
    print("sure", &sure);
    print("both tiers", &both);
    println!("  groups by kind (sure, both tiers)");
    for (kind, share) in &sure.by_kind {
        let both = both.by_kind.get(kind).copied().unwrap_or_default();
        println!("    {kind:24} {:3} {:3} of {:3}", share.found, both.found, share.of);
    }
    for (what, share) in &others_found {
        println!("  {what:24} {} of {}", share.found, share.of);
    }
    println!("  of pairs called so sure, so many are planted");
    for from in [0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 0.97] {
        let to = if from < 0.9 {
            from + 0.1
        } else if from < 0.97 {
            0.97
        } else {
            1.01
        };
        let within = said.iter().filter(|(score, _)| (from..to).contains(score));
        let share =
            Share { found: within.clone().filter(|(_, right)| *right).count(), of: within.count() };
        println!(
            "    {:3.0}% to {:3.0}%  {:5.1}% of {}",
            from * 100.0,
            f64::min(to, 1.0) * 100.0,
            share.ratio() * 100.0,
            share.of
        );
    }
    if let Some(at) = arguments.iter().position(|argument| argument == "--write") {
        let table = table_of(all.iter().flat_map(|tried| &tried.books));
        let path = arguments.get(at + 1).map_or("twins.txt", String::as_str);
        std::fs::write(path, table.write())?;
    }
    Ok(())
}

/// What else is planted, and how much of it is found; and how much is said besides, of what is not planted.
fn others_of(books: &[TradeBooks]) -> BTreeMap<&'static str, Share> {
    let mut shares: BTreeMap<&str, Share> = BTreeMap::new();
    for books in books {
        let remarks = remarks::find(&books.today);
        let since = unused::usual_since(&books.today, time::macros::date!(2026 - 07 - 01));
        let deleted: Vec<AccountId> = unused::find(&books.today, since)
            .into_iter()
            .filter(|unused| unused.fate == Some(Fate::Delete))
            .map(|unused| unused.account)
            .collect();
        let says = |id: &AccountId, kind: RemarkKind| {
            remarks.iter().any(|remark| remark.kind == kind && remark.accounts.contains(id))
        };
        for (id, wrong) in &books.wrong {
            let (what, is_found) = match wrong {
                Wrong::Class(_) => ("class contradicted", says(id, RemarkKind::ClassContradicted)),
                Wrong::Block => ("out of its block", says(id, RemarkKind::OutOfBlock)),
                Wrong::Name => ("badly written names", says(id, RemarkKind::NameForm)),
                Wrong::Control => ("control by name is kept", !deleted.contains(id)),
            };
            *shares.entry(what).or_default() += Share { found: usize::from(is_found), of: 1 };
        }
        for (kind, what) in [
            (RemarkKind::ClassContradicted, "of classes said, right"),
            (RemarkKind::OutOfBlock, "of blocks said, right"),
            (RemarkKind::NameForm, "of names said, right"),
        ] {
            for remark in remarks.iter().filter(|remark| remark.kind == kind) {
                // A twin that is a slip of the pen is badly written, too.
                let slips = |group: &&Group| group.kinds.contains(&Kind::Slip);
                let is_slip = |id: &AccountId| {
                    let mut groups = books.groups.iter().filter(slips);
                    kind == RemarkKind::NameForm && groups.any(|group| group.accounts.contains(id))
                };
                let right = |id: &AccountId| books.wrong.contains_key(id) || is_slip(id);
                let right = remark.accounts.iter().any(right);
                *shares.entry(what).or_default() += Share { found: usize::from(right), of: 1 };
            }
        }
    }
    shares
}

fn print(what: &str, measured: &Measured) {
    let percent = |share: Share| format!("{:5.1}%", share.ratio() * 100.0);
    println!(
        "  {what:16} groups {} of {:3}, pairs right {} of {:3}, tempting {} of {}",
        percent(measured.groups),
        measured.groups.of,
        percent(measured.pairs),
        measured.pairs.of,
        measured.tempting.found,
        measured.tempting.of
    );
}

/// A baseline at the threshold at which it does best: the harmonic mean of groups found and pairs right.
fn best(books: &[TradeBooks], likeness: Likeness) -> Measured {
    let at = |least: f64| {
        let mut all = Measured::default();
        for books in books {
            all += Measured::of(books, &pairs(&books.today, likeness, least));
        }
        all
    };
    let worth = |measured: &Measured| {
        let (groups, right) = (measured.groups.ratio(), measured.pairs.ratio());
        2.0 * groups * right / (groups + right).max(f64::MIN_POSITIVE)
    };
    let tried = (8..20).map(|n| at(f64::from(n) / 20.0));
    tried.max_by(|a, b| worth(a).total_cmp(&worth(b))).unwrap_or_default()
}

fn tell(tier: &str, books: &TradeBooks, measured: &Measured) {
    let label = |id: &AccountId| books.today.chart.get(*id).map(|a| a.label()).unwrap_or_default();
    let say = |what: &str, pairs: &BTreeSet<(AccountId, AccountId)>| {
        for (a, b) in pairs {
            println!("    {tier} {what}: {} = {}", label(a), label(b));
        }
    };
    say("wrong", &measured.wrong.iter().copied().collect());
    say("missed", &measured.missed.iter().copied().collect());
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "what cannot be made fails the test")]
mod tests {
    use super::*;

    fn books(name: &str, seed: u64) -> TradeBooks {
        let text = TRADES.iter().find(|(known, _)| *known == name).unwrap().1;
        TradeBooks::make(&Trade::read(name, text).unwrap(), seed).unwrap()
    }

    #[test]
    fn every_trade_is_read_and_the_same_seed_makes_the_same_books() {
        for (name, _) in TRADES {
            let made = books(name, 0);
            assert!(made.groups.len() >= 45 && made.tempting.len() >= 25, "{name}");
            let kinds: BTreeSet<_> = made.groups.iter().flat_map(|group| &group.kinds).collect();
            assert_eq!(kinds.len(), 11, "{name}");
            let again = books(name, 0);
            assert_eq!(made.sketches, again.sketches, "{name}");
            assert_ne!(made.sketches, books(name, 1).sketches, "{name}");
            for group in &made.groups {
                let of =
                    |id: &AccountId| made.today.chart.get(*id).map(|account| account.is_live());
                assert!(
                    group.accounts.len() > 1
                        && group.accounts.iter().all(|id| of(id) == Some(true))
                );
            }
        }
    }

    #[test]
    fn a_trade_is_measured_by_what_was_counted_in_another() {
        let (ferry, nursery) = (books("ferry", 0), books("nursery", 0));
        let table = table_of([&ferry].into_iter());
        let apart = NotDuplicates::default();
        let found = find_by(&table, &nursery.today, &nursery.sketches, &apart);
        let sure = Measured::of(&nursery, &proposed(&found.sure));
        assert!(sure.groups.ratio() >= 0.7, "{} of {}", sure.groups.found, sure.groups.of);
        assert!(sure.pairs.ratio() >= 0.95, "{} of {}", sure.pairs.found, sure.pairs.of);
        for (name, likeness) in BASELINES {
            let baseline = best(std::slice::from_ref(&nursery), likeness);
            assert!(sure.groups.found > baseline.groups.found, "{name}");
        }
    }

    #[test]
    fn what_is_called_so_sure_is_so_often_right() {
        let pairs = |even: bool| -> Vec<Known> {
            let score = |n: u32| f64::from(n % 40) - 20.0;
            let known = |n: u32| Known {
                levels: Levels::default(),
                score: score(n),
                are_twins: (n * 7 + u32::from(even)) % 41 < n % 40,
            };
            (0..4_000).map(known).collect()
        };
        for even in [true, false] {
            let (scale, shift) = calibration(&pairs(even));
            assert!(scale > 0.0 && (scale * 20.0 + shift) > 0.0 && (scale * -20.0 + shift) < 0.0);
        }
    }
}
