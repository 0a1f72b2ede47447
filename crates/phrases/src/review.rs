//! What the review sees, in words: remarks with what fixes them, evidence for look-alikes, why an account is kept,
//! and why one is listed as unused.

use crate::say::a;
use crate::{Say, findings};
use zf_core::code::Interval;
use zf_core::dimension::DimensionValue;
use zf_core::ids::AccountId;
use zf_core::plan::{Change, Fate};
use zf_core::review::Better;
use zf_core::review::fixes::Fix;
use zf_core::review::look_alikes::{InCommon, Observation, Then};
use zf_core::review::remarks::{NameForm, Remark, RemarkKind, Seen};
use zf_core::review::unused::Reason;

/// A kind of remark in a few words.
pub const fn title(kind: RemarkKind) -> &'static str {
    match kind {
        RemarkKind::HeadingPosted => "lines on a heading",
        RemarkKind::SuspenseBalance => "suspense not cleared",
        RemarkKind::InactiveBalance => "retired with a balance",
        RemarkKind::ClassContradicted => "class contradicted",
        RemarkKind::UnusualSide => "balance on the unusual side",
        RemarkKind::OutOfBlock => "out of its block",
        RemarkKind::ParentClass => "heading of another class",
        RemarkKind::BankSilent => "bank account without lines",
        RemarkKind::HeadingEmpty => "nothing under it",
        RemarkKind::LoneChild => "heading of one row",
        RemarkKind::ItemEmpty => "statement item without accounts",
        RemarkKind::SmallShare => "under 1% of its item for years",
        RemarkKind::CodeWidth => "code of another length",
        RemarkKind::ControlByName => "control account without a role",
        RemarkKind::NameForm => "name written otherwise",
    }
}

impl Say<'_> {
    /// What is seen, and why it matters.
    pub fn remark(&self, remark: &Remark) -> String {
        let account = remark.accounts.first().map_or_else(String::new, |id| self.now(*id));
        match &remark.seen {
            Seen::HeadingPosted { kind, lines } => format!(
                "{account} is {} and has {}, which no total of it shows apart.",
                a(kind.words()),
                self.counted(*lines, "line")
            ),
            Seen::SuspenseBalance { balance } => format!(
                "{account} stands at {}: what it holds belongs elsewhere.",
                self.balance(*balance)
            ),
            Seen::InactiveBalance { status, balance } => format!(
                "{account} is {} and stands at {}, which the statements still show; restore it, or leave it, \
                 and nothing of it is lost.",
                status.words(),
                self.balance(*balance)
            ),
            Seen::ClassContradicted { class, right, debits, credits, percent } => {
                let (class, right) = (class.words(), right.words());
                let lines =
                    format!("{} debits, {} credits", self.money(*debits), self.money(*credits));
                match percent {
                    Some(percent) => format!(
                        "{account} is classed as {class}; its name, its lines ({lines}) and the accounts beside \
                         it speak for {right}, {percent}% sure."
                    ),
                    None => format!(
                        "{account} is classed as {class}, and nearly all of its lines ({lines}) are on the other \
                         side, as those of {right} would be."
                    ),
                }
            }
            Seen::UnusualSide { class, balance } => format!(
                "{account} stands at {}, the unusual side for its class, {}.",
                self.balance(*balance),
                class.words()
            ),
            Seen::AmongOthers { class, others } => {
                format!("{account} is {} among codes of {}.", class.words(), others.words())
            }
            Seen::OutsideBlocks { class, blocks } => format!(
                "{account} lies outside the block of {}, {}.",
                class.words(),
                Interval::format_list(blocks)
            ),
            Seen::ParentClass { class, parent, of_parent } => format!(
                "{account} is {} and stands under {}, which is {}: totals mix the two.",
                class.words(),
                self.now(*parent),
                of_parent.words()
            ),
            Seen::BankSilent { last, balance } => {
                let since = last.map_or_else(
                    || "was never posted to".to_owned(),
                    |last| format!("was last posted to on {}", self.day(last)),
                );
                match balance {
                    0 => format!(
                        "{account} {since} and stands at nothing: if it is closed, deactivate it."
                    ),
                    balance => format!(
                        "{account} {since} and stands at {}: ask the bank what it holds before it is closed.",
                        self.balance(*balance)
                    ),
                }
            }
            Seen::HeadingEmpty => format!("Nothing stands under {account}."),
            Seen::LoneChild { row } => format!(
                "Only {} stands under {account}: the heading says the same figure twice.",
                self.now(*row)
            ),
            Seen::ItemEmpty { class } => format!(
                "No account stands under the statement item “{}” of {}.",
                remark.item.and_then(|item| self.item(item)).unwrap_or_default(),
                class.title().to_lowercase()
            ),
            Seen::SmallShare { years } => {
                let said = years.iter();
                let said =
                    said.map(|(own, all)| format!("{} of {}", self.money(*own), self.money(*all)));
                format!(
                    "{account} was less than 1% of its statement item in each of the last {} whole years: {}.",
                    years.len(),
                    said.collect::<Vec<_>>().join(", ")
                )
            }
            Seen::CodeWidth { width, usual, others } => format!(
                "The code of {account} has {width} characters where {} others have {usual}.",
                self.style.number(others)
            ),
            Seen::ControlByName { role } => format!(
                "{account} is the books’ {} account by its name, and no role says so: rules that keep such \
                 accounts do not hold for it.",
                role.words()
            ),
            Seen::NameForm(form) => {
                let how = match form {
                    NameForm::StraySpaces => "has stray spaces".to_owned(),
                    NameForm::Capitals => "is written in capitals".to_owned(),
                    NameForm::SmallLetter => "begins with a small letter".to_owned(),
                    NameForm::StraySigns => "has stray signs".to_owned(),
                    NameForm::Slip(wrong, right) => {
                        format!("has “{wrong}” where others have “{right}”")
                    }
                };
                format!("The name of {account} {how}.")
            }
        }
    }

    /// An amount with its side.
    fn balance(&self, balance: i128) -> String {
        let side = if balance < 0 { "credit" } else { "debit" };
        format!("{} {side}", self.money(balance.abs()))
    }

    /// What a button says that fixes what was seen.
    pub fn fix(&self, fix: &Fix, remark: &Remark) -> String {
        match (fix, &remark.seen) {
            (Fix::Added(account, _), _) => {
                format!("Give its lines to a new {}", account.label())
            }
            (Fix::Changes(changes), Seen::LoneChild { row }) => {
                let also = if changes.len() > 1 { " and delete it" } else { "" };
                format!("Put {} in its place{also}", self.now(*row))
            }
            (Fix::Changes(changes), _) => {
                changes.first().map_or_else(String::new, |(_, change)| self.mended(change))
            }
        }
    }

    fn mended(&self, change: &Change) -> String {
        match change {
            Change::Name(name) => format!("Write “{name}”"),
            Change::Code(code) => format!("Give it {code}"),
            Change::Class(class) => format!("Class it as {}", class.words()),
            Change::Role(Some(role)) => format!("Make it the books’ {} account", role.words()),
            Change::Parent(Some(heading)) => format!("Put it under {}", self.now(*heading)),
            Change::Fate(Fate::Delete) => "Delete it".to_owned(),
            Change::Fate(Fate::Deactivate { .. }) => "Deactivate it".to_owned(),
            Change::Fate(Fate::Restore) => "Restore it".to_owned(),
            Change::Fate(Fate::MergeInto { into }) => format!("Merge it into {}", self.now(*into)),
            change => format!("Set its {} to {}", change.field().words(), self.change(change)),
        }
    }

    /// Something that is seen of two accounts.
    pub fn observation(&self, seen: &Observation) -> String {
        match seen {
            Observation::Names(one, other, in_common) => {
                let both = format!("“{}” and “{}”", self.name(*one), self.name(*other));
                in_common_of(&both, in_common)
            }
            Observation::Marked(marked) => {
                format!("“{}” is marked as one to give up, or as one of two.", self.name(*marked))
            }
            Observation::NeighbouringCodes(one, other) => {
                format!("{} and {} are neighbours.", self.code(*one), self.code(*other))
            }
            Observation::CodeVariants(one, other) => {
                format!("{} and {} are variants of one code.", self.code(*one), self.code(*other))
            }
            Observation::OtherPlace => "They stand in two places of the statements.".to_owned(),
            Observation::SameHeading => "They stand under the same heading.".to_owned(),
            Observation::SameItem => "They stand under the same statement item.".to_owned(),
            Observation::OtherTax => "They have two tax codes.".to_owned(),
            Observation::NeverPosted(never, used) => {
                format!("{} was never posted to; {} is.", self.code(*never), self.code(*used))
            }
            Observation::BothInUse => "Both are in use.".to_owned(),
            Observation::Stopped(old, last, new, then) => {
                let then = match then {
                    Then::StartsAfter => "starts after that",
                    Then::GoesOn => "goes on",
                    Then::StartsThere => "starts there",
                };
                format!(
                    "{} was last posted to on {}; {} {then}.",
                    self.code(*old),
                    self.day(*last),
                    self.code(*new)
                )
            }
            Observation::OtherAmounts => "Their lines are of quite other amounts.".to_owned(),
            Observation::OtherRhythm => "They are posted to in quite another rhythm.".to_owned(),
            Observation::OtherPeople => "Their lines are with other people.".to_owned(),
            Observation::SamePeople(names) => {
                format!("Both have lines with {}.", names.join(" and "))
            }
            Observation::SamePhrases(texts) => {
                format!("Lines of both say “{}”.", texts.join("” and “"))
            }
            Observation::SameCounterAccounts(accounts) => {
                let labels: Vec<_> = accounts.iter().map(|id| self.now(*id)).collect();
                format!("Both have lines against {}.", labels.join(" and "))
            }
            Observation::OtherDimensions => "Their lines have other dimension values.".to_owned(),
            Observation::SameDimensions(values) => {
                let said = values.iter();
                let said = said.map(|DimensionValue { name, value }| format!("{name} {value}"));
                format!("Both have lines of {}.", said.collect::<Vec<_>>().join(" and "))
            }
        }
    }

    /// Why an account is listed as unused, or cannot go further.
    pub fn unused(&self, reason: &Reason, account: AccountId) -> String {
        match reason {
            Reason::NeverPosted => "It was never posted to.".to_owned(),
            Reason::NotSince { last, since } => format!(
                "It was last posted to on {}, and not since {}.",
                self.day(*last),
                self.day(*since)
            ),
            Reason::NamedOld => {
                format!("Its name, “{}”, says that it is given up.", self.name(account))
            }
            Reason::StaysFor(role) => format!(
                "It stays: it is the books’ {} account. Give the role to another one first.",
                role.words()
            ),
            Reason::StaysByName => {
                "It stays: by its name the books rely on it, though no role says so. Give it \
                 the role, or another name."
                    .to_owned()
            }
            Reason::Against(cause, severity) => findings::sentence(cause, *severity, self),
        }
    }
}

/// What an account that is to be kept has over the next best, as a sentence goes on.
pub fn better(better: Better) -> String {
    match better {
        Better::Role(role) => format!("it is the books’ {} account", role.words()),
        Better::Active => "it is active".to_owned(),
        Better::Unmarked => "its name does not say that it is old".to_owned(),
        Better::Undated => "its name is not bound to a year".to_owned(),
        Better::InUse => "it is still posted to".to_owned(),
        Better::MostLines => "it has the most lines".to_owned(),
        Better::FirstCode => "its code comes first".to_owned(),
    }
}

fn in_common_of(both: &str, in_common: &InCommon) -> String {
    match in_common {
        InCommon::NoWord => format!("{both} share no word."),
        InCommon::EachSaysMore([own, others]) => {
            format!("{both} each say something else: {own}; {others}.")
        }
        InCommon::OneSaysMore(more) => format!("{both}: only one of them says {more}."),
        InCommon::TellingWords => format!("{both} share their telling words."),
        InCommon::AllWords => format!("{both} have the same words."),
        InCommon::Meaning(read) if read.is_empty() => format!("{both} say the same."),
        InCommon::Meaning(read) => {
            let read = read.iter().map(|(one, other)| format!("“{one}” and “{other}”"));
            format!("{both} say the same: {}.", read.collect::<Vec<_>>().join(", "))
        }
    }
}
