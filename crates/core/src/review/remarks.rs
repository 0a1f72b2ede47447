//! What else is odd in a chart: each remark is of a kind, says what it sees in figures, and why that
//! matters.

use crate::chart::{Account, Class, ControlRole, Kind, Status};
use crate::code::Interval;
use crate::ids::AccountId;
use crate::keyed::keyed;
use crate::text::{a, counted};
use crate::today::Today;
use crate::trial_balance::balance;
use std::collections::{BTreeMap, HashMap, HashSet};

keyed! {
    /// The kinds of remark.
    RemarkKind {
        /// A heading or sum line that has lines.
        HeadingPosted = "heading_posted", "lines on a heading";
        /// A suspense account that has a balance.
        SuspenseBalance = "suspense_balance", "suspense not cleared";
        /// An account that takes no lines has a balance.
        InactiveBalance = "inactive_balance", "retired with a balance";
        /// The account is used as one of another class would be.
        ClassContradicted = "class_contradicted", "class contradicted";
        /// The balance is on the side where it should not be.
        UnusualSide = "unusual_side", "balance on the unusual side";
        /// The code lies outside the blocks of its class, or among those of another.
        OutOfBlock = "out_of_block", "out of its block";
        /// The heading belongs to another class.
        ParentClass = "parent_class", "heading of another class";
        /// A heading without rows under it.
        HeadingEmpty = "heading_empty", "nothing under it";
        /// A code of another length than nearly all others.
        CodeWidth = "code_width", "code of another length";
        /// A name in capitals, in small letters, or with stray spaces.
        NameForm = "name_form", "name written otherwise";
    }
}

/// Something odd.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Remark {
    /// What kind of thing it is.
    pub kind: RemarkKind,
    /// The accounts it is about.
    pub accounts: Vec<AccountId>,
    /// What is seen and why it matters, in a plain sentence.
    pub message: String,
}

/// How many of ten have to agree before the others are odd.
const MOST: usize = 9;

/// So many lines show how an account is used.
const ENOUGH: u64 = 6;

/// Finds what is odd, the worst kinds first.
pub fn find(today: &Today) -> Vec<Remark> {
    let mut rows: Vec<&Account> = today.chart.live().collect();
    rows.sort_by(|a, b| a.code.chart_order(&b.code));
    let finder = Finder { today, rows };
    let mut found = finder.one_by_one();
    found.extend(finder.strays());
    found.extend(finder.empty_headings());
    found.extend(finder.odd_widths());
    found.sort_by_key(|remark| remark.kind as usize);
    found
}

/// Whether debits make the account larger, as its class and contra mark say.
fn grows_by_debits(account: &Account) -> bool {
    account.class.is_usually_debit() != account.contra
}

/// What is seen of one account, and how it is said.
type Seen = (RemarkKind, String);

struct Finder<'a> {
    today: &'a Today,
    rows: Vec<&'a Account>,
}

impl Finder<'_> {
    fn one_by_one(&self) -> Vec<Remark> {
        let checks: [fn(&Self, &Account) -> Option<Seen>; 7] = [
            Self::posted_heading,
            Self::suspense,
            Self::inactive,
            Self::contradicted,
            Self::unusual_side,
            Self::foreign_heading,
            Self::written_otherwise,
        ];
        let of = |account: &&Account| {
            let found = checks.iter().filter_map(|check| check(self, account));
            let remark = |(kind, message)| Remark { kind, accounts: vec![account.id], message };
            found.map(remark).collect::<Vec<_>>()
        };
        self.rows.iter().flat_map(of).collect()
    }

    fn say(&self, sum: i128) -> String {
        let side = if sum < 0 { "credit" } else { "debit" };
        format!("{} {side}", self.today.currency.say(sum.abs()))
    }

    fn posted_heading(&self, account: &Account) -> Option<Seen> {
        let lines = self.today.figures_of(account.id).all.lines;
        (account.kind != Kind::Account && lines > 0).then(|| {
            let message = format!(
                "{} is {} and has {}, which no total of it shows apart.",
                account.label(),
                a(account.kind.words()),
                counted(lines, "line"),
            );
            (RemarkKind::HeadingPosted, message)
        })
    }

    fn suspense(&self, account: &Account) -> Option<Seen> {
        let sum = self.today.figures_of(account.id).all.net();
        let waiting =
            matches!(account.role, Some(ControlRole::Suspense | ControlRole::OpeningDifference));
        (waiting && sum != 0).then(|| {
            let message = format!(
                "{} stands at {}: what it holds belongs elsewhere.",
                account.label(),
                self.say(sum)
            );
            (RemarkKind::SuspenseBalance, message)
        })
    }

    fn inactive(&self, account: &Account) -> Option<Seen> {
        let sum = balance(account, &self.today.figures_of(account.id));
        (account.status != Status::Active && sum != 0).then(|| {
            let message = format!(
                "{} is {} and stands at {}, which the statements still show; restore it, or leave it, and \
                 nothing of it is lost.",
                account.label(),
                account.status.words(),
                self.say(sum)
            );
            (RemarkKind::InactiveBalance, message)
        })
    }

    /// An account that is nearly always posted to on the side on which its class should fall.
    fn contradicted(&self, account: &Account) -> Option<Seen> {
        let all = self.today.figures_of(account.id).all;
        let against = if grows_by_debits(account) { all.credit } else { all.debit };
        let turnover = all.debit + all.credit;
        let odd = account.kind == Kind::Account
            && account.role.is_none()
            && all.lines >= ENOUGH
            && against * 10 >= turnover * 9
            && turnover > 0;
        odd.then(|| {
            let message = format!(
                "{} is classed as {} and nearly always posted to like the opposite: {} debits, {} credits.",
                account.label(),
                account.class.words(),
                self.today.currency.say(all.debit),
                self.today.currency.say(all.credit)
            );
            (RemarkKind::ClassContradicted, message)
        })
    }

    fn unusual_side(&self, account: &Account) -> Option<Seen> {
        let sum = balance(account, &self.today.figures_of(account.id));
        let against = if grows_by_debits(account) { sum < 0 } else { sum > 0 };
        let unusual = account.kind == Kind::Account && against;
        unusual.then(|| {
            let message = format!(
                "{} stands at {}, the unusual side for its class, {}.",
                account.label(),
                self.say(sum),
                account.class.words()
            );
            (RemarkKind::UnusualSide, message)
        })
    }

    fn foreign_heading(&self, account: &Account) -> Option<Seen> {
        let parent = account.parent.and_then(|parent| self.today.chart.get(parent))?;
        (parent.class != account.class).then(|| {
            let message = format!(
                "{} is {} and stands under {}, which is {}: totals mix the two.",
                account.label(),
                account.class.words(),
                parent.label(),
                parent.class.words()
            );
            (RemarkKind::ParentClass, message)
        })
    }

    fn written_otherwise(&self, account: &Account) -> Option<Seen> {
        let name = &account.name;
        let letters = || name.chars().filter(|c| c.is_alphabetic());
        let long = letters().count() > 4;
        let how = if name.trim() != name || name.contains("  ") {
            "has stray spaces"
        } else if long && letters().all(char::is_uppercase) {
            "is written in capitals"
        } else if long && letters().next().is_some_and(char::is_lowercase) {
            "begins with a small letter"
        } else {
            return None;
        };
        Some((RemarkKind::NameForm, format!("The name of {} {how}.", account.label())))
    }

    /// The rows whose code somebody gave: one that was only proposed is evidence of nothing.
    fn given(&self) -> impl Iterator<Item = &&Account> {
        self.rows.iter().filter(|account| !account.code_proposed)
    }

    /// Codes outside the blocks that the books lay down; where they lay down none, those among codes
    /// that nearly all belong to another class.
    fn strays(&self) -> Vec<Remark> {
        let laid_down = !self.today.policy.blocks.is_empty();
        let mut first_signs: HashMap<char, BTreeMap<Class, usize>> = HashMap::new();
        for account in self.given() {
            if let Some(sign) = account.code.as_str().chars().next() {
                *first_signs.entry(sign).or_default().entry(account.class).or_default() += 1;
            }
        }
        let among = |account: &Account| {
            let classes = first_signs.get(&account.code.as_str().chars().next()?)?;
            let (class, most) = classes.iter().max_by_key(|(_, count)| **count)?;
            let all: usize = classes.values().sum();
            (*class != account.class && all > 10 && most * 10 >= all * MOST).then(|| {
                let among = class.words();
                format!("{} is {} among codes of {among}.", account.label(), account.class.words())
            })
        };
        let outside = |account: &Account| {
            let blocks = self.today.policy.missed_blocks(account)?;
            let blocks: Vec<Interval> = blocks.into_iter().cloned().collect();
            let blocks = Interval::format_list(&blocks);
            Some(format!(
                "{} lies outside the block of {}, {blocks}.",
                account.label(),
                account.class.words()
            ))
        };
        let stray = |account: &&Account| {
            let message = if laid_down { outside(account) } else { among(account) }?;
            Some(Remark { kind: RemarkKind::OutOfBlock, accounts: vec![account.id], message })
        };
        self.given().filter_map(stray).collect()
    }

    fn empty_headings(&self) -> Vec<Remark> {
        let parents: HashSet<AccountId> =
            self.rows.iter().filter_map(|account| account.parent).collect();
        let empty = self
            .rows
            .iter()
            .filter(|account| account.kind == Kind::Heading && !parents.contains(&account.id));
        let remark = |account: &&Account| Remark {
            kind: RemarkKind::HeadingEmpty,
            accounts: vec![account.id],
            message: format!("Nothing stands under {}.", account.label()),
        };
        empty.map(remark).collect()
    }

    fn odd_widths(&self) -> Vec<Remark> {
        let width = |account: &Account| account.code.as_str().chars().count();
        let mut widths: BTreeMap<usize, usize> = BTreeMap::new();
        for account in self.given() {
            *widths.entry(width(account)).or_default() += 1;
        }
        let Some((usual, count)) = widths.into_iter().max_by_key(|(_, count)| *count) else {
            return Vec::new();
        };
        if count * 10 < self.given().count() * MOST {
            return Vec::new();
        }
        let odd = self.given().filter(|account| width(account) != usual);
        let remark = |account: &&Account| Remark {
            kind: RemarkKind::CodeWidth,
            accounts: vec![account.id],
            message: format!(
                "The code of {} has {} characters where {count} others have {usual}.",
                account.label(),
                width(account)
            ),
        };
        odd.map(remark).collect()
    }
}
