//! The books of a trade: its chart with the twins and misfits that were planted, and what was posted.

use crate::lines::{MONTHS, Rhythm, Voice, Whereabouts, person};
use crate::posting::{Posted, Posting};
use crate::trade::{Kind, Misfit, Planned, Trade};
use anyhow::Context;
use rand::seq::IndexedRandom;
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use std::collections::{BTreeMap, BTreeSet, HashMap};
use zf_core::chart::{Account, Chart, Class, Kind as RowKind};
use zf_core::code::Code;
use zf_core::ids::AccountId;
use zf_core::review::sketch::Sketches;
use zf_core::today::Today;

/// What of the lines of twins is alike.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Shared {
    All,
    Much,
    Nothing,
}

/// Accounts that are the same thing, with the kinds in which the others differ from the first.
pub(crate) struct Group {
    pub(crate) accounts: BTreeSet<AccountId>,
    pub(crate) kinds: BTreeSet<Kind>,
}

/// What is wrong of an account, and with what it would be right.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) enum Wrong {
    Class(Class),
    Block,
    Name,
    Control,
}

pub(crate) struct TradeBooks {
    pub(crate) today: Today,
    pub(crate) sketches: Sketches,
    pub(crate) groups: Vec<Group>,
    pub(crate) tempting: BTreeSet<(AccountId, AccountId)>,
    pub(crate) wrong: BTreeMap<AccountId, Wrong>,
}

struct Maker<'a> {
    trade: &'a Trade,
    rng: ChaCha8Rng,
    made: Vec<Posted>,
    codes: BTreeSet<String>,
    around: Vec<Vec<String>>,
    /// Whether accounts say which tax applies.
    taxed: bool,
    /// Draws dimension values, apart from the rest so that books with and without them are else the same.
    whereabouts_rng: ChaCha8Rng,
    /// Whether lines have dimension values.
    dimensioned: bool,
}

impl TradeBooks {
    /// The books of a trade, others for each seed.
    pub(crate) fn make(trade: &Trade, seed: u64) -> anyhow::Result<Self> {
        let mut rng = ChaCha8Rng::seed_from_u64(seed);
        let around = trade.headings.iter().map(|_| (0..3).map(|_| person(&mut rng)).collect());
        let around = around.collect();
        let codes = trade.accounts.iter().map(|account| account.code.clone()).collect();
        let mut maker = Maker {
            trade,
            rng,
            made: Vec::new(),
            codes,
            around,
            taxed: seed % 3 == 2,
            whereabouts_rng: ChaCha8Rng::seed_from_u64(!seed),
            dimensioned: seed % 3 != 2,
        };
        let mut of_code: HashMap<&str, usize> = HashMap::new();
        for planned in &trade.accounts {
            let voice = match planned.tempting.as_ref().and_then(|code| of_code.get(&**code)) {
                Some(&other) if maker.rng.random_bool(0.5) => {
                    let other = maker.made[other].voice.clone();
                    other.sharing(0.5, &mut maker.rng)
                }
                _ => Voice::new(&mut maker.rng),
            };
            of_code.insert(&planned.code, maker.made.len());
            maker.add(planned, &planned.code, &planned.name, voice)?;
        }
        let mut groups = Vec::new();
        for planned in trade.accounts.iter().filter(|planned| !planned.twins.is_empty()) {
            groups.push(maker.plant(planned, of_code[&*planned.code])?);
        }
        let id = |code: &str| of_code.get(code).map(|at| maker.made[*at].account.id);
        let pairs = trade.accounts.iter().filter_map(|planned| {
            let (one, other) = (id(&planned.code)?, id(planned.tempting.as_ref()?)?);
            Some((one.min(other), one.max(other)))
        });
        let tempting = pairs.collect();
        let wrong = maker.misfits(&of_code)?;
        let (today, sketches) = maker.post()?;
        Ok(Self { today, sketches, groups, tempting, wrong })
    }
}

impl Maker<'_> {
    fn add(
        &mut self,
        planned: &Planned,
        code: &str,
        name: &str,
        voice: Voice,
    ) -> anyhow::Result<usize> {
        let at = self.made.len();
        let heading = &self.trade.headings[planned.heading];
        let id = AccountId(1 + at as i64);
        let mut account = Account::new(id, Code::parse(code)?, name.to_owned(), heading.class);
        account.parent = Some(heading_id(planned.heading));
        account.contra = planned.contra;
        let taxes = ["standard", "reduced", "zero", "exempt"];
        account.tax_code =
            taxes.choose(&mut self.rng).filter(|_| self.taxed).map(|t| (*t).to_owned());
        let silent = planned.contra || heading.class == Class::Equity;
        let voice = if silent { Voice::default() } else { voice };
        let rhythm = Rhythm::new(&mut self.rng);
        let whereabouts = match self.dimensioned {
            true => Whereabouts::new(&mut self.whereabouts_rng),
            false => Whereabouts::default(),
        };
        let class = heading.class;
        let made = Posted { account, class, voice, rhythm, whereabouts, heading: planned.heading };
        self.made.push(made);
        if name == planned.name {
            self.made[at].account.role = planned.role;
        }
        Ok(at)
    }

    /// Plants the twins of an account.
    fn plant(&mut self, planned: &Planned, first: usize) -> anyhow::Result<Group> {
        let mut group = Group {
            accounts: BTreeSet::from([self.made[first].account.id]),
            kinds: planned.twins.iter().map(|(kind, _)| *kind).collect(),
        };
        let count = planned.twins.len();
        for (n, (kind, name)) in planned.twins.iter().enumerate() {
            let shared = match self.rng.random_range(0..10) {
                0 | 1 if !matches!(kind, Kind::Lines | Kind::Name) => Shared::Nothing,
                2..5 => Shared::Much,
                _ => Shared::All,
            };
            let share = match shared {
                Shared::All => 1.0,
                Shared::Much => self.rng.random_range(0.6..0.8),
                Shared::Nothing => 0.0,
            };
            let voice = self.made[first].voice.clone().sharing(share, &mut self.rng);
            let code = self.free_code(&planned.code, *kind == Kind::Code);
            let twin = self.add(planned, &code, name, voice)?;
            self.made[twin].rhythm = self.made[first].rhythm.clone();
            if self.whereabouts_rng.random_bool(0.85) {
                self.made[twin].whereabouts = self.made[first].whereabouts.clone();
            }
            self.share_time(first, twin, n, count);
            self.vary(first, twin);
            group.accounts.insert(self.made[twin].account.id);
        }
        Ok(group)
    }

    /// Not all of a twin is like the account: it may stand elsewhere, be posted to more or less, or never.
    fn vary(&mut self, first: usize, twin: usize) {
        let class = self.made[first].account.class;
        let others = self.trade.headings.iter().enumerate().filter(|(_, h)| h.class == class);
        let others: Vec<usize> = others.map(|(at, _)| at).collect();
        if self.rng.random_bool(0.15)
            && let Some(heading) = others.choose(&mut self.rng)
        {
            self.made[twin].account.parent = Some(heading_id(*heading));
        }
        if self.rng.random_bool(0.2) {
            self.made[twin].rhythm.amount *= 3_f64.powf(self.rng.random_range(-1.0..1.0));
        }
        if self.rng.random_bool(0.2) {
            self.made[twin].rhythm.often *= 3_f64.powf(self.rng.random_range(-1.0..1.0));
        }
        if self.rng.random_bool(0.06) {
            self.made[twin].rhythm.to = self.made[twin].rhythm.from;
        }
        if self.rng.random_bool(0.85) {
            let tax = self.made[first].account.tax_code.clone();
            self.made[twin].account.tax_code = tax;
        }
    }

    /// Lets one of two follow the other, stop while the other goes on, or run beside it.
    fn share_time(&mut self, first: usize, twin: usize, n: usize, count: usize) {
        let from = n * MONTHS / (count + 1);
        let cut = self.rng.random_range(from + 8..from + MONTHS / (count + 1));
        match self.rng.random_range(0..10) {
            0..6 => {
                let of_twin = &mut self.made[twin].rhythm;
                (of_twin.from, of_twin.to) = (from, cut);
                self.made[first].rhythm.from = cut;
            }
            6..8 => {
                let of_twin = &mut self.made[twin].rhythm;
                (of_twin.from, of_twin.to) = (from, cut);
            }
            _ => {
                self.made[twin].rhythm.often *= 0.5;
                (self.made[twin].rhythm.from, self.made[twin].rhythm.to) = (from, MONTHS);
            }
        }
    }

    /// A code that nobody bears: a variant of another, or one near it or behind all others.
    fn free_code(&mut self, code: &str, variant: bool) -> String {
        let digits = code.rfind(|c: char| !c.is_ascii_digit()).map_or(0, |at| at + 1);
        let (head, tail) = code.split_at(digits);
        let number: u32 = tail.parse().unwrap_or(0);
        let with = |n: u32| format!("{head}{n:0width$}", width = tail.len());
        let variants =
            [format!("{code}A"), format!("{code}-1"), format!("{code}0"), format!("0{code}")];
        let mut tried: Vec<String> = if variant {
            let at = self.rng.random_range(0..variants.len());
            variants[at..].iter().chain(&variants[..at]).cloned().collect()
        } else if self.rng.random_bool(0.5) {
            (number + 1..number + 30).map(with).collect()
        } else {
            let behind = number / 100 * 100 + 60;
            (behind..behind + 400).map(with).collect()
        };
        tried.retain(|code| !self.codes.contains(code));
        let code = tried.first().cloned().unwrap_or_else(|| format!("{code}X"));
        self.codes.insert(code.clone());
        code
    }

    fn misfits(
        &mut self,
        of_code: &HashMap<&str, usize>,
    ) -> anyhow::Result<BTreeMap<AccountId, Wrong>> {
        let mut wrong = BTreeMap::new();
        for misfit in &self.trade.misfits {
            let find = |code: &String| {
                of_code.get(&**code).copied().with_context(|| format!("no {code} to be wrong"))
            };
            let (at, how) = match misfit {
                Misfit::Class(code, class) => {
                    let at = find(code)?;
                    self.made[at].account.class = *class;
                    (at, Wrong::Class(self.made[at].class))
                }
                Misfit::Block(code, other) => {
                    let at = find(code)?;
                    self.made[at].account.code = Code::parse(other)?;
                    (at, Wrong::Block)
                }
                Misfit::Name(code, name) => {
                    let at = find(code)?;
                    self.made[at].account.name.clone_from(name);
                    (at, Wrong::Name)
                }
                Misfit::Control(code) => {
                    let at = find(code)?;
                    self.made[at].account.role = None;
                    (at, Wrong::Control)
                }
            };
            wrong.insert(self.made[at].account.id, how);
        }
        Ok(wrong)
    }

    /// The accounts that stand against lines of a class.
    fn against(&self, class: Class) -> Vec<AccountId> {
        let named = |words: &[&str]| {
            let found = self.made.iter().filter(|made| {
                let name = made.account.name.to_lowercase();
                made.class.on_balance_sheet() && words.iter().any(|word| name.contains(word))
            });
            found.map(|made| made.account.id).take(3).collect::<Vec<_>>()
        };
        match class {
            Class::Income => named(&["bank", "current", "till", "debtors", "customers", "patient"]),
            Class::Expense => named(&["bank", "current", "creditors", "suppliers", "payable"]),
            _ => named(&["bank", "current", "practice account"]),
        }
    }

    fn post(mut self) -> anyhow::Result<(Today, Sketches)> {
        let against =
            [Class::Income, Class::Expense, Class::Asset].map(|class| self.against(class));
        let [income, expense, others] = &against;
        let posting = Posting {
            accounts: &self.made,
            around: &self.around,
            against: &|class| match class {
                Class::Income => income,
                Class::Expense => expense,
                _ => others,
            },
        };
        let posted = posting.post(&mut self.rng, &mut self.whereabouts_rng)?;
        let headings = self.trade.headings.iter().enumerate().map(|(at, heading)| {
            let code = Code::parse(&heading.code)?;
            let mut row = Account::new(heading_id(at), code, heading.name.clone(), heading.class);
            row.kind = RowKind::Heading;
            anyhow::Ok(row)
        });
        let mut accounts = headings.collect::<anyhow::Result<Vec<Account>>>()?;
        accounts.extend(self.made.into_iter().map(|made| made.account));
        Ok(posted.books(Chart::new(accounts)))
    }
}

fn heading_id(at: usize) -> AccountId {
    AccountId(10_000 + at as i64)
}
