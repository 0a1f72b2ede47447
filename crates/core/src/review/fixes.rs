//! What can be staged about a remark.

use super::remarks::{Proposed, Remark, RemarkKind};
use crate::chart::{Account, Class, Kind, Status};
use crate::code::{CodeKey, Interval};
use crate::free_codes::{free_in_block, next_free};
use crate::history::Split;
use crate::ids::AccountId;
use crate::plan::{Change, Fate};
use crate::rehearsal::guard;
use crate::rehearsal::rule::Severity;
use crate::statement::Structure;
use crate::today::Today;
use std::collections::{BTreeMap, HashSet};

/// A way to mend something, staged like any other change.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Fix {
    /// Changes of accounts that are there.
    Changes(Vec<(AccountId, Change)>),
    /// A new account, which still lacks an identity, and the one whose whole history it takes.
    Added(Box<Account>, AccountId),
}

impl Fix {
    /// Everything to be staged, with an identity for what is new.
    pub fn changes(&self, id: AccountId) -> Vec<(AccountId, Change)> {
        match self {
            Self::Changes(changes) => changes.clone(),
            Self::Added(account, from) => {
                let adding = Change::adding(account).into_iter().map(|change| (id, change));
                adding.chain([(*from, Change::History(Split::whole(id)))]).collect()
            }
        }
    }
}

/// The ways to mend what a remark is about, best first. None where only a person can tell.
pub fn ways(today: &Today, remark: &Remark) -> Vec<Fix> {
    let account = remark.accounts.first().and_then(|id| today.chart.get(*id));
    let Some(account) = account else {
        return Vec::new();
    };
    let one = |change: Change| Fix::Changes(vec![(account.id, change)]);
    match remark.kind {
        RemarkKind::NameForm => {
            let right = match &remark.proposed {
                Some(Proposed::Name(name)) => name,
                _ => &account.name,
            };
            let mut ways = vec![sentence_case(right), title_case(right)];
            ways.dedup();
            ways.retain(|name| *name != account.name);
            ways.into_iter().map(|name| one(Change::Name(name))).collect()
        }
        RemarkKind::OutOfBlock | RemarkKind::CodeWidth => {
            let code =
                free_in_block(&today.chart, &today.policy, account.class, account.standard());
            code.map(|code| one(Change::Code(code))).into_iter().collect()
        }
        RemarkKind::ParentClass => {
            let heading = usual_heading(today, account);
            let put = |heading: &Account| one(Change::Parent(Some(heading.id)));
            heading.map(put).into_iter().collect()
        }
        RemarkKind::HeadingEmpty => {
            let deletes = is_open(today, account, Fate::Delete);
            let fate = if deletes { Fate::Delete } else { Fate::deactivate() };
            vec![one(Change::Fate(fate))]
        }
        RemarkKind::LoneChild => without_heading(today, account).into_iter().collect(),
        RemarkKind::BankSilent => {
            let closed = today.figures_of(account.id).all.net() == 0;
            let deactivates = closed && is_open(today, account, Fate::deactivate());
            deactivates.then(|| one(Change::Fate(Fate::deactivate()))).into_iter().collect()
        }
        RemarkKind::SmallShare => match remark.proposed {
            Some(Proposed::Merged(into)) => {
                vec![one(Change::Fate(Fate::MergeInto { into }))]
            }
            _ => Vec::new(),
        },
        RemarkKind::InactiveBalance => {
            vec![one(Change::Fate(Fate::Restore))]
        }
        RemarkKind::ClassContradicted => {
            let class = match remark.proposed {
                Some(Proposed::Class(class)) => class,
                _ => account.class,
            };
            vec![other_class(account, class, today.chart.structure())]
        }
        RemarkKind::ControlByName => match remark.proposed {
            Some(Proposed::Role(role)) => {
                vec![one(Change::Role(Some(role)))]
            }
            _ => Vec::new(),
        },
        RemarkKind::HeadingPosted => posting_account(today, account).into_iter().collect(),
        RemarkKind::SuspenseBalance | RemarkKind::UnusualSide | RemarkKind::ItemEmpty => Vec::new(),
    }
}

/// Whether a fate is open to an account.
fn is_open(today: &Today, account: &Account, fate: Fate) -> bool {
    !guard(today, account, fate).iter().any(|finding| finding.severity == Severity::Stop)
}

/// The only row under a heading moves up to where the heading stands, and the heading goes.
fn without_heading(today: &Today, heading: &Account) -> Option<Fix> {
    let row = today.chart.live().find(|row| row.parent == Some(heading.id))?;
    let mut changes = vec![(row.id, Change::Parent(heading.parent))];
    if is_open(today, heading, Fate::Delete) {
        changes.push((heading.id, Change::Fate(Fate::Delete)));
    }
    Some(Fix::Changes(changes))
}

/// An account that takes the lines of a heading, and stands right below it: so that they are seen
/// beside its total and not only in it.
fn posting_account(today: &Today, heading: &Account) -> Option<Fix> {
    if heading.status != Status::Active {
        return None;
    }
    let taken: HashSet<CodeKey> = today.chart.live().map(|row| row.code.key()).collect();
    let (code, parent) = match heading.kind {
        Kind::Heading => (next_free(&heading.code, 1, &taken)?, Some(heading.id)),
        // What a sum line adds up already.
        _ => {
            let within = |stretch: &Interval| {
                let free = next_free(stretch.first(), 0, &taken);
                free.filter(|code| stretch.contains(&code.key()))
            };
            (heading.intervals.iter().find_map(within)?, heading.parent)
        }
    };
    let longer = format!("{}, general", heading.name);
    let fits = longer.chars().count() <= crate::plan::texts::MAX_NAME;
    let name = if fits { longer } else { heading.name.clone() };
    let account = Account {
        caption: heading.caption.clone(),
        parent,
        contra: heading.contra,
        ..Account::new(AccountId(0), code, name, heading.class)
    };
    Some(Fix::Added(Box::new(account), heading.id))
}

/// A name with single spaces and one capital, but for words that have capitals of their own.
pub fn sentence_case(name: &str) -> String {
    in_case(name, |word, first| if first { capital(word) } else { word.to_lowercase() })
}

/// A name with single spaces and a capital for every word but the small ones.
pub fn title_case(name: &str) -> String {
    const SMALL: [&str; 14] =
        ["a", "an", "and", "at", "but", "by", "for", "from", "in", "of", "on", "or", "the", "to"];
    in_case(name, |word, first| {
        let small = word.to_lowercase();
        if !first && SMALL.contains(&small.as_str()) { small } else { capital(word) }
    })
}

/// A word with its first letter large, and the others small.
fn capital(word: &str) -> String {
    let first = word.find(char::is_alphabetic).unwrap_or(0);
    let (before, letters) = word.split_at(first);
    let mut letters = letters.chars();
    let large = letters.next().into_iter().flat_map(char::to_uppercase);
    before.chars().chain(large).chain(letters.flat_map(char::to_lowercase)).collect()
}

/// Words of a name that is not in capitals as a whole keep capitals that they have.
fn in_case(name: &str, write: impl Fn(&str, bool) -> String) -> String {
    let shouted = !name.chars().any(char::is_lowercase);
    let words = name.split_whitespace().enumerate().map(|(at, word)| {
        let own = word.chars().skip(1).any(char::is_uppercase)
            || at > 0 && word.starts_with(char::is_uppercase);
        if own && !shouted { word.to_owned() } else { write(word, at == 0) }
    });
    words.collect::<Vec<_>>().join(" ")
}

/// The heading of its class under which most accounts of its section stand.
fn usual_heading<'a>(today: &'a Today, account: &Account) -> Option<&'a Account> {
    let mut counts: BTreeMap<AccountId, usize> = BTreeMap::new();
    let alike = |a: &&Account| a.place() == account.place();
    for parent in today.chart.live().filter(alike).filter_map(|a| a.parent) {
        *counts.entry(parent).or_default() += 1;
    }
    let headings = counts.into_iter().filter_map(|(id, count)| {
        let heading = today.chart.get(id)?;
        let fits = heading.kind == Kind::Heading && heading.class == account.class;
        (fits && heading.is_live()).then_some((count, heading))
    });
    headings.max_by_key(|(count, heading)| (*count, std::cmp::Reverse(heading.id))).map(|(_, h)| h)
}

/// Another class, under the line that its caption is there if there is one.
fn other_class(account: &Account, class: Class, lines: &Structure) -> Fix {
    let there = account.standard().and_then(|standard| lines.of_standard(class, standard));
    let caption = Change::Caption(there.map(|line| line.id));
    let caption = account.caption.as_ref().map(|_| (account.id, caption));
    let changes = std::iter::once((account.id, Change::Class(class))).chain(caption);
    Fix::Changes(changes.collect())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_are_written_in_one_way() {
        for (name, sentence, title) in [
            ("POSTAGE AND STAMPS", "Postage and stamps", "Postage and Stamps"),
            ("  postage  and stamps", "Postage and stamps", "Postage and Stamps"),
            ("VAT on purchases", "VAT on purchases", "VAT on Purchases"),
            ("repairs, Mossdale café", "Repairs, Mossdale café", "Repairs, Mossdale Café"),
            ("émile's stall", "Émile's stall", "Émile's Stall"),
        ] {
            assert_eq!(
                (sentence_case(name), title_case(name)),
                (sentence.to_owned(), title.to_owned())
            );
        }
    }
}
