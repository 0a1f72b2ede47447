//! How much each level of evidence weighs, as record linkage does it: the log of how likely the level is among twins
//! over how likely it is among strangers (Fellegi and Sunter, A Theory for Record Linkage, 1969).

use super::evidence::{ALL, KINDS, Kind, Levels};
use std::sync::LazyLock;

/// The most levels that a kind of evidence has.
const MOST: usize = 11;

/// How many pairs, or shares of pairs, are at each level.
type Counts = [[f64; MOST]; KINDS];

/// What was counted in books where it is known which accounts are twins.
#[derive(Clone, Debug, PartialEq)]
pub struct Table {
    twins: Counts,
    strangers: Counts,
    /// What makes a probability of a score: that of the logistic function of `scale * score + shift`.
    scale: f64,
    shift: f64,
}

/// The table that ships: `kind level twins strangers` a line, and the calibration. `bin/review-quality --write` made
/// it from the made-up charts of all its trades.
const SHIPPED: &str = include_str!("twins.txt");

static TABLE: LazyLock<Table> = LazyLock::new(|| Table::read(SHIPPED));

impl Default for Table {
    fn default() -> Self {
        Self { twins: Counts::default(), strangers: Counts::default(), scale: 1.0, shift: 0.0 }
    }
}

impl Table {
    /// The table that ships.
    pub fn shipped() -> &'static Self {
        &TABLE
    }

    /// Counts a pair of which it is known what it is.
    pub fn count(&mut self, levels: &Levels, are_twins: bool) {
        let counts = if are_twins { &mut self.twins } else { &mut self.strangers };
        add(counts, levels);
    }

    /// Adds what another table counted.
    pub fn add(&mut self, other: &Self) {
        for (own, others) in
            [(&mut self.twins, &other.twins), (&mut self.strangers, &other.strangers)]
        {
            for (own, other) in own.iter_mut().flatten().zip(others.iter().flatten()) {
                *own += other;
            }
        }
    }

    /// Sets what makes probabilities of scores.
    pub fn calibrate(&mut self, scale: f64, shift: f64) {
        (self.scale, self.shift) = (scale, shift);
    }

    /// As it ships.
    pub fn write(&self) -> String {
        let mut text = format!("calibration {:.4} {:.4}\n", self.scale, self.shift);
        for (kind, evidence) in ALL.iter().enumerate() {
            for (level, name) in evidence.levels.iter().enumerate() {
                let counts = [self.twins[kind][level], self.strangers[kind][level]];
                text +=
                    &format!("{} {name} {:.0} {:.0}\n", evidence.kind.key(), counts[0], counts[1]);
            }
        }
        text
    }

    /// A table as it is written; what is not understood is left out, which a test forbids of the one that ships.
    fn read(text: &str) -> Self {
        let mut table = Self::default();
        for line in text.lines() {
            let words: Vec<&str> = line.split(' ').collect();
            let number = |text: &str| text.parse::<f64>().unwrap_or_default();
            match words.as_slice() {
                ["calibration", scale, shift] => table.calibrate(number(scale), number(shift)),
                [key, level, twins, strangers] => {
                    let kind = Kind::from_key(key).map(|kind| kind as usize);
                    let place = kind.and_then(|kind| {
                        Some((kind, ALL[kind].levels.iter().position(|name| name == level)?))
                    });
                    if let Some((kind, level)) = place {
                        table.twins[kind][level] = number(twins);
                        table.strangers[kind][level] = number(strangers);
                    }
                }
                _ => {}
            }
        }
        table
    }
}

fn add(counts: &mut Counts, levels: &Levels) {
    for (counts, level) in counts.iter_mut().zip(levels) {
        counts[usize::from(*level)] += 1.0;
    }
}

/// So many pairs of the table count among those of the books at hand.
const PRIOR: f64 = 400.0;

/// How many twins one expects of a hundred accounts before anything is compared.
const EXPECTED: f64 = 15.0;

/// What the lines weigh together, at least and at most.
const BLOCK: (f64, f64) = (-2.5, 8.5);

/// What codes, places, taxes, marks and times weigh together, at least: what stands elsewhere stands apart in all of
/// them.
const BESIDE: f64 = -2.5;

/// What a level of names weighs, at least and at most.
const NAMES: (f64, f64) = (-3.0, 11.0);

/// What a level of anything else weighs, at least and at most.
const OTHERS: (f64, f64) = (-2.5, 4.0);

/// The weights for the books at hand.
pub(super) struct Weights {
    of: Counts,
    prior: f64,
    scale: f64,
    shift: f64,
}

impl Weights {
    /// Weights from a table, and from pairs of the books at hand that are taken for strangers: those whose names are
    /// alike are not among them.
    pub(super) fn new(
        table: &Table,
        at_hand: impl Iterator<Item = Levels>,
        accounts: usize,
    ) -> Self {
        let mut strangers = Counts::default();
        at_hand.for_each(|levels| add(&mut strangers, &levels));
        let mut of = Counts::default();
        for (kind, evidence) in ALL.iter().enumerate() {
            let unknown = usize::from(evidence.can_be_unknown);
            let known = |counts: &[f64; MOST]| counts[unknown..].iter().sum::<f64>();
            let levels = evidence.levels.len();
            let share = |counts: &[f64; MOST], level: usize| {
                (counts[level] + 0.5) / (known(counts) + 0.5 * levels as f64)
            };
            let here = known(&strangers[kind]);
            for level in unknown..levels {
                let twins = share(&table.twins[kind], level);
                let shipped = share(&table.strangers[kind], level);
                // Of names only the table says how often strangers have the same.
                let mixed = (strangers[kind][level] + PRIOR * shipped) / (here + PRIOR);
                let among = if kind == Kind::Name as usize { shipped } else { mixed };
                let seen = table.twins[kind][level] + table.strangers[kind][level] > 0.0;
                let weight = if seen { (twins / among).ln() } else { 0.0 };
                // Only names were counted in enough ways to be trusted with more.
                let bounds = if kind == Kind::Name as usize { NAMES } else { OTHERS };
                of[kind][level] = weight.clamp(bounds.0, bounds.1);
            }
        }
        let prior = (EXPECTED / 100.0 * 8.0 / accounts.max(2) as f64).ln();
        Self { of, prior, scale: table.scale, shift: table.shift }
    }

    /// What a level of a kind weighs.
    pub(super) fn of(&self, kind: Kind, levels: &Levels) -> f64 {
        let at = kind as usize;
        self.of[at][usize::from(levels[at])]
    }

    /// The log of the odds that two are twins, before calibration.
    pub(super) fn score(&self, levels: &Levels) -> f64 {
        let name = self.of(Kind::Name, levels);
        let (mut beside, mut lines) = (0.0, 0.0);
        for kind in Kind::ALL.iter().copied().filter(|kind| *kind != Kind::Name) {
            *(if kind.is_of_lines() { &mut lines } else { &mut beside }) += self.of(kind, levels);
        }
        self.prior + name + beside.max(BESIDE) + lines.clamp(BLOCK.0, BLOCK.1)
    }

    /// The log of the odds after calibration.
    pub(super) fn odds(&self, score: f64) -> f64 {
        self.scale * score + self.shift
    }
}

/// A probability from the log of odds.
pub(super) fn probability(odds: f64) -> f64 {
    1.0 / (1.0 + (-odds).exp())
}

/// The log of the odds of a probability.
pub(super) fn odds_of(probability: f64) -> f64 {
    (probability / (1.0 - probability)).ln()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::review::look_alikes::evidence::Evidence;

    #[test]
    fn the_table_that_ships_is_read_whole() {
        assert_eq!(Table::read(SHIPPED).write(), SHIPPED);
        let twins = Table::shipped().twins.iter().map(|counts| counts.iter().sum::<f64>());
        assert!(twins.into_iter().all(|sum| sum > 100.0), "each kind was counted");
    }

    /// The levels of two with nothing known of them but that their names are at a level.
    fn named(level: u8) -> Levels {
        let mut levels = Levels::default();
        levels[Kind::Name as usize] = level;
        levels
    }

    #[test]
    fn what_is_unknown_weighs_nothing_and_the_same_words_weigh_most() {
        let weights = Weights::new(Table::shipped(), std::iter::empty(), 200);
        for evidence in ALL.iter().filter(|evidence| evidence.can_be_unknown) {
            let weight = weights.of(evidence.kind, &Levels::default());
            assert!(weight.abs() < f64::EPSILON, "{:?}", evidence.kind);
        }
        let last = u8::try_from(ALL[Kind::Name as usize].levels.len() - 1).unwrap_or_default();
        let scores: Vec<f64> = (0..=last).map(|level| weights.score(&named(level))).collect();
        assert!(scores.iter().all(|score| *score <= scores[usize::from(last)] + 1.0), "{scores:?}");
        assert!(scores[0] < scores[1] && scores[1] < scores[usize::from(last)], "{scores:?}");
    }

    #[test]
    fn the_lines_weigh_no_more_together_than_their_block() {
        let weights = Weights::new(Table::shipped(), std::iter::empty(), 200);
        let with = |level: u8| {
            let mut levels = named(0);
            let of_lines = |(_, evidence): &(_, &Evidence)| evidence.kind.is_of_lines();
            for (own, evidence) in levels.iter_mut().zip(&ALL).filter(of_lines) {
                *own = level.min(u8::try_from(evidence.levels.len() - 1).unwrap_or_default());
            }
            weights.score(&levels) - weights.score(&named(0))
        };
        assert!(with(9) <= BLOCK.1 + 1e-9 && with(9) > 0.0);
        assert!(with(1) >= BLOCK.0 - 1e-9 && with(1) < 0.0);
    }

    #[test]
    fn what_many_strangers_of_the_books_share_weighs_less_in_them() {
        let same_people = {
            let mut levels = named(0);
            levels[Kind::People as usize] = 5;
            levels
        };
        let rare = Weights::new(Table::shipped(), std::iter::empty(), 200);
        let common = Weights::new(Table::shipped(), std::iter::repeat_n(same_people, 3_000), 200);
        assert!(common.of(Kind::People, &same_people) < rare.of(Kind::People, &same_people) - 1.0);
    }

    #[test]
    fn odds_and_probabilities_are_the_same_thing() {
        for p in [0.01, 0.3, 0.5, 0.9, 0.999] {
            assert!((probability(odds_of(p)) - p).abs() < 1e-12);
        }
    }
}
