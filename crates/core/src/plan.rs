//! A plan: the proposed chart, as a target for each touched account and not as a list of steps.
//! Nothing in it depends on the order in which it was staged.

use crate::chart::{Account, Class, ControlRole, Kind, Section, Status, keyed};
use crate::code::{Code, Interval, NotACode, NotIntervals};
use crate::history::cut::Cuts;
use crate::history::{NotASplit, Split};
use crate::ids::{AccountId, ImportId};
use crate::money::{Currency, NotACurrency};
use crate::text::a;
use std::collections::{BTreeMap, BTreeSet};

/// The longest account name that is accepted, in characters.
pub const MAX_NAME: usize = 200;

/// The longest description or tax code that is accepted, in characters.
pub const MAX_TEXT: usize = 2_000;

/// How a mark that is set is written.
const YES: &str = "yes";

keyed! {
    /// What a plan can change of an account.
    Field {
        /// Its code.
        Code = "code", "code";
        /// Its name.
        Name = "name", "name";
        /// Account, heading or sum line.
        Kind = "kind", "kind";
        /// Its class.
        Class = "class", "class";
        /// Its section.
        Section = "section", "section";
        /// The heading it stands under.
        Parent = "parent", "heading";
        /// Whether it is presented as a deduction from another account.
        Contra = "contra", "contra mark";
        /// The job the books rely on it for.
        Role = "role", "control role";
        /// The one currency it may hold.
        Currency = "currency", "fixed currency";
        /// What it is for.
        Description = "description", "description";
        /// The tax code that new lines start with.
        Tax = "tax", "tax code";
        /// What a sum line adds up.
        Intervals = "intervals", "codes added up";
        /// Which of its lines are to stand under other accounts.
        History = "history", "history";
        /// The file it came with; only of an account the plan adds.
        Origin = "origin", "origin";
        /// What becomes of it.
        Fate = "fate", "fate";
    }
}

/// What a plan has in store for an account beyond its fields.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Fate {
    /// It does not exist yet; the plan adds it.
    Add,
    /// Its history is to stand under another account.
    MergeInto(AccountId),
    /// No new postings; still on reports.
    Deactivate,
    /// No new postings and out of sight.
    Archive,
    /// Active again.
    Restore,
    /// Gone; only for what was never used.
    Delete,
}

/// One change of one field.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Change {
    /// A new code.
    Code(Code),
    /// A new name.
    Name(String),
    /// Another kind of row.
    Kind(Kind),
    /// Another class.
    Class(Class),
    /// Another section, or none.
    Section(Option<Section>),
    /// Another heading, or none.
    Parent(Option<AccountId>),
    /// Contra or not.
    Contra(bool),
    /// Another control role, or none.
    Role(Option<ControlRole>),
    /// Another fixed currency, or none.
    Currency(Option<Currency>),
    /// Another description; may be empty.
    Description(String),
    /// Another tax code, or none.
    Tax(Option<String>),
    /// Other codes that a sum line adds up.
    Intervals(Vec<Interval>),
    /// Which lines are to stand under other accounts.
    History(Split),
    /// The file that an added account came with.
    Origin(Option<ImportId>),
    /// A fate.
    Fate(Fate),
}

/// Why a text cannot be staged in a field.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum NotAChange {
    /// Not a code.
    #[error(transparent)]
    Code(#[from] NotACode),
    /// The name is empty.
    #[error("the name is empty")]
    EmptyName,
    /// Longer than [`MAX_NAME`].
    #[error("the name is longer than {MAX_NAME} characters")]
    LongName,
    /// Longer than [`MAX_TEXT`].
    #[error("the {} is longer than {MAX_TEXT} characters", .0.words())]
    LongText(Field),
    /// Not a currency.
    #[error(transparent)]
    Currency(#[from] NotACurrency),
    /// Not a list of intervals.
    #[error(transparent)]
    Intervals(#[from] NotIntervals),
    /// Not a split of a history.
    #[error(transparent)]
    History(#[from] NotASplit),
    /// None of the values the field can have.
    #[error("“{value}” is not {}", a(.field.words()))]
    NoSuchValue {
        /// The field.
        field: Field,
        /// What was given.
        value: String,
    },
}

impl Change {
    /// Reads the stable text of a change, as [`Change::text`] writes it; codes and names are read
    /// as a person types them.
    ///
    /// # Errors
    /// When the field cannot have that value.
    pub fn parse(field: Field, text: &str) -> Result<Self, NotAChange> {
        let none = || NotAChange::NoSuchValue { field, value: text.to_owned() };
        Ok(match field {
            Field::Code => Self::Code(Code::parse(text)?),
            Field::Name => Self::Name(parse_name(text)?),
            Field::Kind => Self::Kind(Kind::from_key(text).ok_or_else(none)?),
            Field::Class => Self::Class(Class::from_key(text).ok_or_else(none)?),
            Field::Section if text.is_empty() => Self::Section(None),
            Field::Section => Self::Section(Some(Section::from_key(text).ok_or_else(none)?)),
            Field::Parent if text.is_empty() => Self::Parent(None),
            Field::Parent => Self::Parent(Some(AccountId(text.parse().map_err(|_| none())?))),
            Field::Contra if text.is_empty() => Self::Contra(false),
            Field::Contra if text == YES => Self::Contra(true),
            Field::Contra => return Err(none()),
            Field::Role if text.is_empty() => Self::Role(None),
            Field::Role => Self::Role(Some(ControlRole::from_key(text).ok_or_else(none)?)),
            Field::Currency if text.is_empty() => Self::Currency(None),
            Field::Currency => Self::Currency(Some(Currency::parse(text)?)),
            Field::Description => Self::Description(parse_text(field, text)?),
            Field::Tax => Self::Tax(Some(parse_text(field, text)?).filter(|code| !code.is_empty())),
            Field::Intervals => Self::Intervals(Interval::parse_list(text)?),
            Field::History => Self::History(Split::parse(text)?),
            Field::Origin if text.is_empty() => Self::Origin(None),
            Field::Origin => Self::Origin(Some(ImportId(text.parse().map_err(|_| none())?))),
            Field::Fate => Self::Fate(Fate::parse(text).ok_or_else(none)?),
        })
    }

    /// The field it changes.
    pub fn field(&self) -> Field {
        match self {
            Self::Code(_) => Field::Code,
            Self::Name(_) => Field::Name,
            Self::Kind(_) => Field::Kind,
            Self::Class(_) => Field::Class,
            Self::Section(_) => Field::Section,
            Self::Parent(_) => Field::Parent,
            Self::Contra(_) => Field::Contra,
            Self::Role(_) => Field::Role,
            Self::Currency(_) => Field::Currency,
            Self::Description(_) => Field::Description,
            Self::Tax(_) => Field::Tax,
            Self::Intervals(_) => Field::Intervals,
            Self::History(_) => Field::History,
            Self::Origin(_) => Field::Origin,
            Self::Fate(_) => Field::Fate,
        }
    }

    /// The stable text of the new value, for storage and interchange.
    pub fn text(&self) -> String {
        match self {
            Self::Code(code) => code.to_string(),
            Self::Name(name) => name.clone(),
            Self::Kind(kind) => kind.key().to_owned(),
            Self::Class(class) => class.key().to_owned(),
            Self::Section(section) => section.map_or(String::new(), |s| s.key().to_owned()),
            Self::Parent(parent) => parent.map_or(String::new(), |p| p.to_string()),
            Self::Contra(contra) => if *contra { YES } else { "" }.to_owned(),
            Self::Role(role) => role.map_or(String::new(), |r| r.key().to_owned()),
            Self::Currency(currency) => currency.map_or(String::new(), |c| c.to_string()),
            Self::Description(text) => text.clone(),
            Self::Tax(code) => code.clone().unwrap_or_default(),
            Self::Intervals(intervals) => Interval::format_list(intervals),
            Self::History(split) => split.text(),
            Self::Origin(import) => import.map_or(String::new(), |i| i.to_string()),
            Self::Fate(fate) => fate.text(),
        }
    }

    /// The stable text of what an account has in a field today.
    pub fn today(account: &Account, field: Field) -> String {
        match field {
            Field::Code => Self::Code(account.code.clone()).text(),
            Field::Name => account.name.clone(),
            Field::Kind => Self::Kind(account.kind).text(),
            Field::Class => Self::Class(account.class).text(),
            Field::Section => Self::Section(account.section).text(),
            Field::Parent => Self::Parent(account.parent).text(),
            Field::Contra => Self::Contra(account.contra).text(),
            Field::Role => Self::Role(account.role).text(),
            Field::Currency => Self::Currency(account.currency).text(),
            Field::Description => account.description.clone(),
            Field::Tax => account.tax_code.clone().unwrap_or_default(),
            Field::Intervals => Interval::format_list(&account.intervals),
            // Moving history is something that is done, and not a setting that an account has.
            Field::History => String::new(),
            Field::Origin => Self::Origin(account.origin).text(),
            Field::Fate => account.status.key().to_owned(),
        }
    }

    /// The change that gives an account what this one has in a field; `None` for what no account can
    /// be given.
    pub fn of(account: &Account, field: Field) -> Option<Self> {
        Some(match field {
            Field::Code => Self::Code(account.code.clone()),
            Field::Name => Self::Name(account.name.clone()),
            Field::Kind => Self::Kind(account.kind),
            Field::Class => Self::Class(account.class),
            Field::Section => Self::Section(account.section),
            Field::Parent => Self::Parent(account.parent),
            Field::Contra => Self::Contra(account.contra),
            Field::Role => Self::Role(account.role),
            Field::Currency => Self::Currency(account.currency),
            Field::Description => Self::Description(account.description.clone()),
            Field::Tax => Self::Tax(account.tax_code.clone()),
            Field::Intervals => Self::Intervals(account.intervals.clone()),
            Field::Origin => Self::Origin(account.origin),
            Field::History => return None,
            Field::Fate => Self::Fate(match account.status {
                Status::Active => Fate::Restore,
                Status::Deactivated => Fate::Deactivate,
                Status::Archived => Fate::Archive,
                Status::Merged => return None,
            }),
        })
    }

    /// Everything that has to be staged for an account that a plan adds.
    pub fn adding(account: &Account) -> Vec<Self> {
        let plain =
            Account::new(account.id, account.code.clone(), account.name.clone(), account.class);
        let always = [Field::Code, Field::Name, Field::Class];
        let settings = Field::ALL.iter().filter(|field| {
            **field != Field::Fate
                && !always.contains(field)
                && Self::today(&plain, **field) != Self::today(account, **field)
        });
        let fields = always.iter().chain(settings).filter_map(|field| Self::of(account, *field));
        std::iter::once(Self::Fate(Fate::Add)).chain(fields).collect()
    }

    pub(crate) fn carry_out(&self, account: &mut Account) {
        match self {
            Self::Code(code) => account.code = code.clone(),
            Self::Name(name) => account.name.clone_from(name),
            Self::Kind(kind) => account.kind = *kind,
            Self::Class(class) => account.class = *class,
            Self::Section(section) => account.section = *section,
            Self::Parent(parent) => account.parent = *parent,
            Self::Contra(contra) => account.contra = *contra,
            Self::Role(role) => account.role = *role,
            Self::Currency(currency) => account.currency = *currency,
            Self::Description(text) => account.description.clone_from(text),
            Self::Tax(code) => account.tax_code.clone_from(code),
            Self::Intervals(intervals) => account.intervals.clone_from(intervals),
            Self::Origin(import) => account.origin = *import,
            Self::Fate(Fate::MergeInto(survivor)) => {
                (account.status, account.merged_into) = (Status::Merged, Some(*survivor));
            }
            Self::Fate(Fate::Deactivate) => account.status = Status::Deactivated,
            Self::Fate(Fate::Archive) => account.status = Status::Archived,
            Self::Fate(Fate::Restore) => account.status = Status::Active,
            Self::History(_) | Self::Fate(Fate::Add | Fate::Delete) => {}
        }
    }
}

/// How the stable text of a value is said to a person; `label` names accounts.
pub fn say(field: Field, text: &str, label: impl Fn(AccountId) -> String) -> String {
    let known = match field {
        _ if text.is_empty() && field == Field::Parent => Some("the top".to_owned()),
        _ if text.is_empty() => Some("nothing".to_owned()),
        Field::Kind => Kind::from_key(text).map(|kind| kind.words().to_owned()),
        Field::Class => Class::from_key(text).map(|class| class.words().to_owned()),
        Field::Section => Section::from_key(text).map(|section| section.words().to_owned()),
        Field::Role => ControlRole::from_key(text).map(|role| role.words().to_owned()),
        Field::Parent => text.parse().ok().map(|id| label(AccountId(id))),
        Field::Fate => match text {
            "restore" => Some(Status::Active.words().to_owned()),
            "deactivate" => Some(Status::Deactivated.words().to_owned()),
            "archive" => Some(Status::Archived.words().to_owned()),
            _ => {
                let into = text.strip_prefix("merge:").and_then(|id| id.parse().ok());
                into.map(|id| format!("merge into {}", label(AccountId(id))))
            }
        },
        Field::History => Split::parse(text).ok().map(|split| {
            let parts = split.parts.iter().map(|p| format!("{} to {}", p.which, label(p.to)));
            parts.collect::<Vec<_>>().join("; ")
        }),
        _ => None,
    };
    known.unwrap_or_else(|| text.to_owned())
}

fn parse_name(text: &str) -> Result<String, NotAChange> {
    let name = text.split_whitespace().collect::<Vec<_>>().join(" ");
    match name.chars().count() {
        0 => Err(NotAChange::EmptyName),
        n if n > MAX_NAME => Err(NotAChange::LongName),
        _ => Ok(name),
    }
}

fn parse_text(field: Field, text: &str) -> Result<String, NotAChange> {
    let text = text.trim();
    if text.chars().count() > MAX_TEXT {
        return Err(NotAChange::LongText(field));
    }
    Ok(text.to_owned())
}

impl Fate {
    fn parse(text: &str) -> Option<Self> {
        Some(match text {
            "add" => Self::Add,
            "deactivate" => Self::Deactivate,
            "archive" => Self::Archive,
            "restore" => Self::Restore,
            "delete" => Self::Delete,
            _ => Self::MergeInto(AccountId(text.strip_prefix("merge:")?.parse().ok()?)),
        })
    }

    fn text(self) -> String {
        match self {
            Self::Add => "add".to_owned(),
            Self::MergeInto(survivor) => format!("merge:{survivor}"),
            Self::Deactivate => "deactivate".to_owned(),
            Self::Archive => "archive".to_owned(),
            Self::Restore => "restore".to_owned(),
            Self::Delete => "delete".to_owned(),
        }
    }
}

/// A staged change with what stood there when it was staged.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Staged {
    /// The field's text on the day of staging; `None` for an account that the plan adds.
    pub base: Option<String>,
    /// What it should become.
    pub change: Change,
}

/// What should become of one account: at most one change a field.
pub type Target = BTreeMap<Field, Staged>;

keyed! {
    /// How a plan stands.
    PlanStatus {
        /// It is staged, and can be changed.
        Draft = "draft", "draft";
        /// It was carried out.
        Applied = "applied", "applied";
        /// It was given up.
        Discarded = "discarded", "discarded";
    }
}

/// Why a reviewer goes on in spite of a stop.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Override {
    /// The reason, as typed.
    pub reason: String,
    /// The reviewer, by name.
    pub by: String,
}

/// A plan as the rehearsal sees it.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Plan {
    /// The touched accounts.
    pub targets: BTreeMap<AccountId, Target>,
    /// Stops in spite of which a reviewer goes on, by the stop's key.
    pub overrides: BTreeMap<String, Override>,
    /// What the parts of moved histories take; worked out from the lines as the books stand.
    pub cuts: Cuts,
}

impl Plan {
    /// Stages a change, in place of one of the same field.
    pub fn stage(&mut self, account: AccountId, base: Option<String>, change: Change) {
        let target = self.targets.entry(account).or_default();
        target.insert(change.field(), Staged { base, change });
    }

    /// The accounts whose history is to move, with how.
    pub fn splits(&self) -> impl Iterator<Item = (AccountId, &Split)> {
        self.targets.iter().filter_map(|(id, target)| match &target.get(&Field::History)?.change {
            Change::History(split) if !split.parts.is_empty() => Some((*id, split)),
            _ => None,
        })
    }

    /// Every account that the plan changes, or that a change of it names.
    pub fn accounts(&self) -> BTreeSet<AccountId> {
        let named =
            self.targets.values().flat_map(BTreeMap::values).flat_map(|staged| {
                match &staged.change {
                    Change::Parent(Some(id)) | Change::Fate(Fate::MergeInto(id)) => vec![*id],
                    Change::History(split) => split.parts.iter().map(|part| part.to).collect(),
                    _ => Vec::new(),
                }
            });
        self.targets.keys().copied().chain(named).collect()
    }

    /// What a plan has in store for an account.
    pub fn fate(&self, account: AccountId) -> Option<Fate> {
        match self.targets.get(&account)?.get(&Field::Fate)?.change {
            Change::Fate(fate) => Some(fate),
            _ => None,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn changes_survive_storage() {
        for (field, text) in [
            (Field::Code, "50-10"),
            (Field::Name, "Coal"),
            (Field::Kind, "heading"),
            (Field::Class, "asset"),
            (Field::Section, ""),
            (Field::Section, "cash"),
            (Field::Parent, "12"),
            (Field::Contra, "yes"),
            (Field::Contra, ""),
            (Field::Role, "bank"),
            (Field::Role, ""),
            (Field::Currency, "EUR"),
            (Field::Description, "What the café takes in."),
            (Field::Tax, "T1"),
            (Field::Intervals, "1000 to 1999, 2500"),
            (Field::History, "ranked\nto 7\tfrom 2024-02-01\tpayee Harrock\tentry J1\tentry J2"),
            (Field::History, "to 7\tuntil 2024-02-01\tmemo coal\tdimension site=Larkfell"),
            (Field::Origin, "7"),
            (Field::Fate, "merge:7"),
            (Field::Fate, "archive"),
        ] {
            let change = Change::parse(field, text).unwrap();
            assert_eq!((change.field(), change.text().as_str()), (field, text));
        }
    }

    #[test]
    fn what_cannot_be_staged_says_why() {
        let says = |field, text: &str| Change::parse(field, text).unwrap_err().to_string();
        assert_eq!(says(Field::Name, "  "), "the name is empty");
        assert_eq!(says(Field::Class, "thing"), "“thing” is not a class");
        assert_eq!(says(Field::Fate, "merge:x"), "“merge:x” is not a fate");
        assert_eq!(says(Field::Contra, "maybe"), "“maybe” is not a contra mark");
        assert_eq!(
            says(Field::History, "to 7\nmemo coal"),
            "part 2 does not say which account it goes to"
        );
        let unknown = "“from 2024-13-01” says nothing about a part of a history";
        assert_eq!(says(Field::History, "to 7\tfrom 2024-13-01"), unknown);
        let long = "x".repeat(MAX_TEXT + 1);
        assert_eq!(
            says(Field::Tax, &long),
            format!("the tax code is longer than {MAX_TEXT} characters")
        );
    }
}
