//! What else is odd in a chart: each remark is of a kind, says what it sees in figures, and why that
//! matters.

use super::classes::Judge;
use super::controls::by_name;
use super::wording::{Word, Wording, is_slip};
use crate::chart::{Account, Class, ControlRole, Kind, Status};
use crate::code::Interval;
use crate::ids::AccountId;
use crate::keyed::keyed;
use crate::text::{a, counted};
use crate::today::Today;
use crate::trial_balance::balance;
use std::collections::{BTreeMap, HashMap, HashSet};
use strsim::osa_distance as edits;

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
        /// The account is one that the books rely on by its name, and no role says so.
        ControlByName = "control_by_name", "control account without a role";
        /// A name in capitals, in small letters, with stray signs, or with a slip.
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
    /// What would be right, where that is known.
    pub proposed: Option<Proposed>,
}

/// What would be right of an account.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Proposed {
    /// This class.
    Class(Class),
    /// This name.
    Name(String),
    /// This role.
    Role(ControlRole),
}

/// How many of ten have to agree before the others are odd.
const MOST: usize = 9;

/// So many lines show how an account is used.
const ENOUGH: u64 = 6;

/// The log of the odds from which on another class is proposed.
const CONTRADICTED: f64 = 2.5;

/// How much of that name and lines have to say at least: what only stands elsewhere is out of its block.
const BY_USE: f64 = 0.8;

/// What the accounts beside one have to say at least for it to be out of its block.
const OUT_OF_PLACE: f64 = 2.5;

/// A name without signs at its ends, and doubled ones, that say nothing.
fn without_stray_signs(name: &str) -> Option<String> {
    let kept = name.trim_end_matches(['.', ',', ';', ':', '-', '_', '*', '/', ' ']);
    let kept = kept.trim_start_matches(['.', ',', ';', ':', '-', '_', '*', '/', ' ']);
    let kept = kept.replace(",,", ",").replace("..", ".");
    // “Repairs etc.” and “Fuel reclaim.” end in a sign that says something.
    let is_cut = name.ends_with('.') && kept.len() + 1 == name.len();
    (kept != name && !is_cut && !kept.is_empty()).then_some(kept)
}

/// Whether a word is another but for one letter, and not the same with another ending.
fn is_a_letter_off(word: &Word, other: &str) -> bool {
    let starts = other.starts_with(&word.stem) || word.written.starts_with(other);
    !starts && edits(&word.written, other) == 1 && is_slip(&word.written, other)
}

/// A name with one of its words written right.
fn written_right(name: &str, wrong: &str, right: &str) -> Option<String> {
    let at = name.to_lowercase().find(wrong)?;
    let written = name.get(at..at + wrong.len())?;
    let large = written.starts_with(char::is_uppercase);
    let mut letters = right.chars();
    let first = letters.next()?;
    let first = if large { first.to_uppercase().to_string() } else { first.to_string() };
    Some(format!("{}{first}{}{}", &name[..at], letters.as_str(), &name[at + wrong.len()..]))
}

/// Finds what is odd, the worst kinds first.
pub fn find(today: &Today) -> Vec<Remark> {
    let mut rows: Vec<&Account> = today.chart.live().collect();
    rows.sort_by(|a, b| a.code.chart_order(&b.code));
    let names = names_of(&rows);
    let finder = Finder { today, rows, judge: Judge::of(today), names };
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

/// What is seen of one account, how it is said, and what would be right.
type Seen = (RemarkKind, String, Option<Proposed>);

struct Finder<'a> {
    today: &'a Today,
    rows: Vec<&'a Account>,
    judge: Judge<'a>,
    /// In how many names each word stands, as it is written, and whether anybody knows it.
    names: HashMap<String, (usize, bool)>,
}

fn names_of(rows: &[&Account]) -> HashMap<String, (usize, bool)> {
    let mut names: HashMap<String, (usize, bool)> = HashMap::new();
    for row in rows {
        let words: HashMap<String, bool> = Wording::of(&row.name)
            .words
            .into_iter()
            .map(|word| (word.written.clone(), word.is_known()))
            .collect();
        for (word, is_known) in words {
            let entry = names.entry(word).or_default();
            *entry = (entry.0 + 1, is_known);
        }
    }
    names
}

impl Finder<'_> {
    fn one_by_one(&self) -> Vec<Remark> {
        let checks: [fn(&Self, &Account) -> Option<Seen>; 8] = [
            Self::posted_heading,
            Self::suspense,
            Self::inactive,
            Self::contradicted,
            Self::unusual_side,
            Self::foreign_heading,
            Self::control,
            Self::written_otherwise,
        ];
        let of = |account: &&Account| {
            let found = checks.iter().filter_map(|check| check(self, account));
            let remark = |(kind, message, proposed)| Remark {
                kind,
                accounts: vec![account.id],
                message,
                proposed,
            };
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
            (RemarkKind::HeadingPosted, message, None)
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
            (RemarkKind::SuspenseBalance, message, None)
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
            (RemarkKind::InactiveBalance, message, None)
        })
    }

    /// An account that by its name, the sides of its lines and what stands beside it belongs to another class.
    fn contradicted(&self, account: &Account) -> Option<Seen> {
        if account.kind != Kind::Account || account.role.is_some() {
            return None;
        }
        let judged = self.judge.by_all(account)?;
        let odds = judged.by_use + judged.by_place;
        let by_all = odds >= CONTRADICTED && judged.by_use >= BY_USE;
        if !by_all && !self.is_used_like_the_opposite(account) {
            return None;
        }
        let all = self.today.figures_of(account.id).all;
        let message = format!(
            "{} is classed as {}; its name, its lines ({} debits, {} credits) and the accounts beside it speak for {}.",
            account.label(),
            account.class.words(),
            self.today.currency.say(all.debit),
            self.today.currency.say(all.credit),
            judged.class.words()
        );
        Some((RemarkKind::ClassContradicted, message, Some(Proposed::Class(judged.class))))
    }

    /// Whether nearly all that is posted is on the side on which the class of an account falls.
    fn is_used_like_the_opposite(&self, account: &Account) -> bool {
        let all = self.today.figures_of(account.id).all;
        let against = if grows_by_debits(account) { all.credit } else { all.debit };
        all.lines >= ENOUGH && against * 10 >= (all.debit + all.credit) * 9
    }

    /// An account that the books rely on by its name, without a role.
    fn control(&self, account: &Account) -> Option<Seen> {
        let role = (account.kind == Kind::Account).then(|| by_name(account)).flatten()?;
        // Where others have the role, this one is a part of it that is kept apart.
        let is_open = |role: &ControlRole| {
            !self.rows.iter().any(|row| row.role == Some(*role) && row.class == account.class)
        };
        let role = role.filter(is_open)?;
        let message = format!(
            "{} is the books’ {} account by its name, and no role says so: rules that keep such accounts do not \
             hold for it.",
            account.label(),
            role.words()
        );
        Some((RemarkKind::ControlByName, message, Some(Proposed::Role(role))))
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
            (RemarkKind::UnusualSide, message, None)
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
            (RemarkKind::ParentClass, message, None)
        })
    }

    fn written_otherwise(&self, account: &Account) -> Option<Seen> {
        let name = &account.name;
        let letters = || name.chars().filter(|c| c.is_alphabetic());
        let long = letters().count() > 3;
        let mut proposed = None;
        let how = if name.trim() != name || name.contains("  ") || name.contains(" ,") {
            "has stray spaces".to_owned()
        } else if long && letters().all(char::is_uppercase) && !self.is_usual(char::is_uppercase) {
            "is written in capitals".to_owned()
        } else if long
            && letters().next().is_some_and(char::is_lowercase)
            && !self.is_usual(char::is_lowercase)
        {
            "begins with a small letter".to_owned()
        } else if let Some(kept) = without_stray_signs(name) {
            proposed = Some(Proposed::Name(kept));
            "has stray signs".to_owned()
        } else if let Some((wrong, right)) = self.slip(name) {
            proposed = written_right(name, &wrong, &right).map(Proposed::Name);
            format!("has “{wrong}” where others have “{right}”")
        } else {
            return None;
        };
        let message = format!("The name of {} {how}.", account.label());
        Some((RemarkKind::NameForm, message, proposed))
    }

    /// Whether most names are of such letters as a whole, or begin with one.
    fn is_usual(&self, of: fn(char) -> bool) -> bool {
        let first = |row: &&&Account| row.name.chars().find(|c| c.is_alphabetic()).is_some_and(of);
        let whole = |row: &&Account| row.name.chars().filter(|c| c.is_alphabetic()).all(of);
        let count = self.rows.iter().filter(first).filter(|row| of('a') || whole(row)).count();
        count * 2 > self.rows.len()
    }

    /// A word that stands nowhere else, a letter off one that several names have.
    fn slip(&self, name: &str) -> Option<(String, String)> {
        let wording = Wording::of(name);
        let names = |word: &str| self.names.get(word).map_or(0, |(names, _)| *names);
        wording.words.iter().find_map(|word| {
            if names(&word.written) > 1 || word.has_digit() || word.is_known() {
                return None;
            }
            let mut right: Vec<&String> = self
                .names
                .iter()
                .filter(|(_, (names, is_known))| *names > 1 || *is_known)
                .filter(|(other, _)| is_a_letter_off(word, other))
                .map(|(other, _)| other)
                .collect();
            right.sort();
            right.first().map(|right| (word.written.clone(), (*right).clone()))
        })
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
            let message = if laid_down {
                outside(account)
            } else {
                among(account).or_else(|| self.beside(account))
            }?;
            let accounts = vec![account.id];
            Some(Remark { kind: RemarkKind::OutOfBlock, accounts, message, proposed: None })
        };
        self.given().filter_map(stray).collect()
    }

    /// An account whose name and lines are of its class, among accounts of another.
    fn beside(&self, account: &Account) -> Option<String> {
        let judged = (account.kind == Kind::Account)
            .then(|| self.judge.by_place_alone(account))
            .flatten()?;
        let is_stray = judged.by_place >= OUT_OF_PLACE && judged.by_use < 0.0;
        is_stray.then(|| {
            format!(
                "{} is {} among codes of {}.",
                account.label(),
                account.class.words(),
                judged.class.words()
            )
        })
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
            proposed: None,
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
            proposed: None,
        };
        odd.map(remark).collect()
    }
}
