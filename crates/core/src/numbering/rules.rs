//! Rules that propose a code for every account of a scope.

use super::pieces::{CodeEdit, NoSuchPiece, Piece, rewrite};
use super::scope::{Order, Scope};
use crate::chart::{Account, Chart, Class, Kind, Status};
use crate::code::{Code, CodeKey, Interval};
use crate::free_codes::{count_to, counted};
use crate::ids::{AccountId, ById};
use crate::plan::Change;
use crate::today::Today;
use crate::trial_balance::balance;
use std::collections::HashSet;

/// How codes are made.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Rule {
    /// Counted up from a code.
    Spread {
        /// The first code.
        start: Code,
        /// How far one is from the next.
        step: u64,
        /// How many numbers are left free below the rows of each heading, for those to come.
        gap: u64,
        /// The order of the rows.
        order: Order,
    },
    /// Spread over the blocks of the books' numbering scheme, around what is not renumbered.
    Fit {
        /// How far one is from the next; as far as there is room when missing.
        step: Option<u64>,
        /// The order of the rows.
        order: Order,
    },
    /// Something is done to a piece of each code.
    Rewrite {
        /// The piece.
        piece: Piece,
        /// What.
        edit: CodeEdit,
    },
    /// Something stands before and behind each code.
    Affix {
        /// Before.
        prefix: String,
        /// Behind.
        suffix: String,
    },
}

/// The code that a rule proposes for an account.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Proposal {
    /// The account.
    pub account: AccountId,
    /// The code it has as the plan stands.
    pub from: Code,
    /// The code it would have; the same when the rule leaves it alone.
    pub to: Code,
}

/// An account for which a rule finds no code.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Refused {
    /// The account.
    pub account: AccountId,
    /// Why.
    pub reason: NoNewCode,
}

/// Why a rule finds no code for an account.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum NoNewCode {
    /// The first code does not end in a number that could be counted up.
    NotCounted(Code),
    /// The codes from the first on run out before it.
    RunsOut(Code),
    /// The numbering scheme has no block for its class.
    NoBlock(Class),
    /// There is no room left in its blocks.
    NoRoom(Vec<Interval>),
    /// Its code has no such piece, or would be none any more.
    NoPiece(NoSuchPiece),
}

/// What a rule proposes.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Proposed {
    /// Codes, in the order in which they were dealt out.
    pub codes: Vec<Proposal>,
    /// Accounts that get none.
    pub refused: Vec<Refused>,
}

impl Proposed {
    fn add(&mut self, row: &Account, code: Result<Code, NoNewCode>) {
        match code {
            Ok(to) => {
                self.codes.push(Proposal { account: row.id, from: row.code.clone(), to });
            }
            Err(reason) => self.refused.push(Refused { account: row.id, reason }),
        }
    }
}

/// What a rule proposes for the accounts of a scope, on the chart as a plan would leave it.
pub fn propose(today: &Today, after: &Chart, scope: &Scope, rule: &Rule) -> Proposed {
    let size = |id: AccountId| {
        let account = after.get(id);
        account.map_or(0, |account| balance(account, &today.figures_of(id)).unsigned_abs())
    };
    match rule {
        Rule::Spread { start, step, gap, order } => {
            spread(&scope.rows(after, *order, size), start, *step, *gap)
        }
        Rule::Fit { step, order } => fit(today, after, &scope.rows(after, *order, size), *step),
        Rule::Rewrite { piece, edit } => {
            let separator = today.policy.format.segments.map_or('-', |s| s.separator());
            each(&scope.rows(after, Order::Code, size), |row| {
                rewrite(&row.code, *piece, edit, separator).map_err(NoNewCode::NoPiece)
            })
        }
        Rule::Affix { prefix, suffix } => each(&scope.rows(after, Order::Code, size), |row| {
            let text = format!("{prefix}{}{suffix}", row.code);
            Code::parse(&text).map_err(|why| NoNewCode::NoPiece(why.into()))
        }),
    }
}

fn each(rows: &[&Account], code: impl Fn(&Account) -> Result<Code, NoNewCode>) -> Proposed {
    let mut proposed = Proposed::default();
    rows.iter().for_each(|row| proposed.add(row, code(row)));
    proposed
}

fn spread(rows: &[&Account], start: &Code, step: u64, gap: u64) -> Proposed {
    let mut proposed = Proposed::default();
    let Some((stem, mut number, width)) = counted(start) else {
        let reason = NoNewCode::NotCounted(start.clone());
        let refused = rows.iter().map(|row| Refused { account: row.id, reason: reason.clone() });
        proposed.refused.extend(refused);
        return proposed;
    };
    for (n, row) in rows.iter().enumerate() {
        if row.kind == Kind::Heading && n > 0 {
            number = number.saturating_add(gap);
        }
        let code = count_to(stem, number, width);
        proposed.add(row, code.ok_or_else(|| NoNewCode::RunsOut(start.clone())));
        number = number.saturating_add(step.max(1));
    }
    proposed
}

/// Steps that people like, the widest first.
const STEPS: [u64; 10] = [1_000, 500, 200, 100, 50, 20, 10, 5, 2, 1];

fn fit(today: &Today, after: &Chart, rows: &[&Account], step: Option<u64>) -> Proposed {
    let mut proposed = Proposed::default();
    let own: HashSet<AccountId> = rows.iter().map(|row| row.id).collect();
    let others = after.live().filter(|account| !own.contains(&account.id));
    let mut taken: HashSet<CodeKey> = others.map(|account| account.code.key()).collect();
    type Group<'a> = (Vec<&'a Interval>, Vec<&'a Interval>, Vec<&'a Account>);
    let mut by_block: Vec<Group<'_>> = Vec::new();
    for &row in rows {
        let blocks = today.policy.blocks_of(row.class, row.standard());
        let kept = today.policy.kept_for_others(row.class, row.standard());
        match by_block.iter_mut().find(|(same, others, _)| *same == blocks && *others == kept) {
            Some((.., rows)) => rows.push(row),
            None => by_block.push((blocks, kept, vec![row])),
        }
    }
    for (blocks, kept, rows) in by_block {
        let room = Room::of(&blocks, kept, &taken);
        let holds = |step: &u64| room.codes(*step).take(rows.len()).count() == rows.len();
        let widest = || STEPS.into_iter().find(holds).unwrap_or(1);
        let mut codes = room.codes(step.filter(|step| *step > 0).unwrap_or_else(widest));
        let named: Vec<Interval> = blocks.iter().copied().cloned().collect();
        for row in rows {
            let why = || match named.as_slice() {
                [] => NoNewCode::NoBlock(row.class),
                blocks => NoNewCode::NoRoom(blocks.to_vec()),
            };
            let code = codes.next().ok_or_else(why);
            proposed.add(row, code);
        }
        drop(codes);
        taken.extend(proposed.codes.iter().map(|proposal| proposal.to.key()));
    }
    let places: ById<usize> = rows.iter().enumerate().map(|(at, row)| (row.id, at)).collect();
    proposed.codes.sort_by_key(|proposal| places.get(&proposal.account).copied());
    proposed.refused.sort_by_key(|refused| places.get(&refused.account).copied());
    proposed
}

/// The codes of some blocks that are not taken.
struct Room<'a> {
    blocks: Vec<(&'a str, u64, u64, usize)>,
    /// What narrower blocks keep for other sections.
    kept: Vec<&'a Interval>,
    taken: &'a HashSet<CodeKey>,
}

impl<'a> Room<'a> {
    fn of(blocks: &[&'a Interval], kept: Vec<&'a Interval>, taken: &'a HashSet<CodeKey>) -> Self {
        let ends = blocks.iter().filter_map(|block| {
            let (stem, first, width) = counted(block.first())?;
            let (_, last, _) = counted(block.last())?;
            Some((stem, first, last, width))
        });
        Self { blocks: ends.collect(), kept, taken }
    }

    fn codes(&self, step: u64) -> impl Iterator<Item = Code> + '_ {
        let step = usize::try_from(step).unwrap_or(usize::MAX);
        self.blocks
            .iter()
            .flat_map(move |&(stem, first, last, width)| {
                (first..=last).step_by(step).filter_map(move |number| count_to(stem, number, width))
            })
            .filter(|code| {
                let key = code.key();
                !self.taken.contains(&key) && !self.kept.iter().any(|block| block.contains(&key))
            })
    }
}

/// How a set of accounts is made after an existing one.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Copying {
    /// What names read where they differ; empty to keep the names.
    pub reads: String,
    /// What stands there in the new names.
    pub with: String,
}

/// New accounts after existing ones: with the codes that a rule proposes for those, their settings,
/// and names in which one text stands in the place of another. Where a heading is among them, the
/// new accounts stand under the new one.
pub fn copies(
    after: &Chart,
    proposed: &Proposed,
    copying: &Copying,
    ids: impl IntoIterator<Item = AccountId>,
) -> Vec<Account> {
    let ids = proposed.codes.iter().zip(ids).map(|(p, id)| (p.account, id));
    let ids: ById<AccountId> = ids.collect();
    let rename = |name: &str| match copying.reads.as_str() {
        "" => name.to_owned(),
        reads => name.replace(reads, &copying.with),
    };
    // What a sum line adds up is said in codes, and those of the copies are others.
    let follow = |intervals: &[Interval]| -> Vec<Interval> {
        let inside = |key: &CodeKey| intervals.iter().any(|interval| interval.contains(key));
        let members = proposed.codes.iter().filter(|p| inside(&p.from.key())).map(|p| &p.to);
        let first = members.clone().min_by_key(|code| code.key());
        let last = members.max_by_key(|code| code.key());
        let all = first.zip(last).and_then(|(a, b)| Interval::new(a.clone(), b.clone()).ok());
        all.map_or_else(|| intervals.to_vec(), |all| vec![all])
    };
    let copy = |proposal: &Proposal| {
        let like = after.get(proposal.account)?;
        let parent = like.parent.map(|parent| ids.get(&parent).copied().unwrap_or(parent));
        Some(Account {
            id: *ids.get(&proposal.account)?,
            code: proposal.to.clone(),
            name: rename(&like.name),
            parent,
            status: Status::Active,
            role: like.role.filter(|role| !role.is_unique()),
            intervals: follow(&like.intervals),
            origin: None,
            ..like.clone()
        })
    };
    proposed.codes.iter().filter_map(copy).collect()
}

/// Everything that has to be staged so that new accounts are there.
pub fn adding(accounts: &[Account]) -> impl Iterator<Item = (AccountId, Change)> + '_ {
    accounts
        .iter()
        .flat_map(|account| Change::adding(account).into_iter().map(|change| (account.id, change)))
}
