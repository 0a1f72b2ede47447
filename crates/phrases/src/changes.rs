//! What a plan changes, in words: values of fields, parts of histories, and the rows of a crosswalk.

use crate::{Say, Style};
use time::Date;
use zf_core::chart::{Called, Status};
use zf_core::code::Interval;
use zf_core::history::Which;
use zf_core::ids::AccountId;
use zf_core::plan::{Change, Fate};
use zf_core::rehearsal::cause::Place;
use zf_core::rehearsal::report::{ChangeKind, Detail};

/// What is said of a field that has no value.
const NOTHING: &str = "nothing";

impl Say<'_> {
    /// The value that a change gives.
    pub fn change(&self, change: &Change) -> String {
        let label = |id: AccountId| {
            let called = self.names.after(id).or_else(|| self.names.today(id));
            called.map_or_else(|| "a new account".to_owned(), Called::label)
        };
        let or_nothing = |text: Option<String>| text.unwrap_or_else(|| NOTHING.to_owned());
        let text = |text: &str| if text.is_empty() { NOTHING } else { text }.to_owned();
        match change {
            Change::Code(code) => code.to_string(),
            Change::Name(name) => name.clone(),
            Change::Kind(kind) => kind.words().to_owned(),
            Change::Class(class) => class.words().to_owned(),
            Change::Caption(item) => {
                or_nothing(item.and_then(|item| Some(self.item(item)?.to_owned())))
            }
            Change::Parent(parent) => parent.map_or_else(|| "the top".to_owned(), label),
            Change::Contra(contra) => if *contra { "yes" } else { "no" }.to_owned(),
            Change::Role(role) => or_nothing(role.map(|role| role.words().to_owned())),
            Change::Currency(currency) => or_nothing(currency.map(|currency| currency.to_string())),
            Change::Description(description) => text(description),
            Change::Tax(code) => or_nothing(code.clone()),
            Change::Intervals(intervals) => text(&Interval::format_list(intervals)),
            Change::History(split) => {
                let parts = split.parts.iter();
                let parts = parts.map(|part| {
                    format!("{} to {}", which(&part.which, self.style), label(part.to))
                });
                text(&parts.collect::<Vec<_>>().join("; "))
            }
            Change::Origin(import) => or_nothing(import.map(|import| format!("file {import}"))),
            Change::Fate(fate) => match fate {
                Fate::Add => "added".to_owned(),
                Fate::MergeInto { into } => format!("merge into {}", label(*into)),
                Fate::Deactivate { from } => self.since(Status::Deactivated, *from),
                Fate::Archive { from } => self.since(Status::Archived, *from),
                Fate::Restore => Status::Active.words().to_owned(),
                Fate::Delete => "deleted".to_owned(),
            },
        }
    }

    fn since(&self, status: Status, from: Option<Date>) -> String {
        let day = from.map(|day| format!(" from {}", self.day(day))).unwrap_or_default();
        format!("{}{day}", status.words())
    }

    /// What changes of an account beyond code, name and fate.
    pub fn details(&self, details: &[Detail]) -> String {
        details.iter().map(|detail| self.detail(detail)).collect::<Vec<_>>().join("; ")
    }

    fn detail(&self, detail: &Detail) -> String {
        let place = |(class, item): Place| match item.and_then(|item| self.item(item)) {
            Some(item) => format!("{}, {item}", class.words()),
            None => class.words().to_owned(),
        };
        match detail {
            Detail::Heading(from, to) => {
                let top = || "the top".to_owned();
                let from = from.map_or_else(top, |id| self.now(id));
                format!("from {from} to {}", to.map_or_else(top, |id| self.after(id)))
            }
            Detail::Place(from, to) => format!("from {} to {}", place(*from), place(*to)),
            Detail::Setting(from, to) => {
                format!("{} from {} to {}", to.field().words(), self.change(from), self.change(to))
            }
            Detail::State(fate) => self.change(fate),
            Detail::Codes(from, to) => {
                format!("{} becomes {}", Interval::format_list(from), Interval::format_list(to))
            }
            Detail::From(day) => format!("from {}", self.day(*day)),
        }
    }
}

/// A kind of change, as a heading over the accounts that change so.
pub const fn kind(change: ChangeKind) -> &'static str {
    match change {
        ChangeKind::Merged => "merged",
        ChangeKind::Renumbered => "renumbered",
        ChangeKind::Renamed => "renamed",
        ChangeKind::Regrouped => "under another heading",
        ChangeKind::ClassChanged => "class or statement item changed",
        ChangeKind::Added => "added",
        ChangeKind::Deactivated => "deactivated",
        ChangeKind::Archived => "archived",
        ChangeKind::Restored => "restored",
        ChangeKind::Deleted => "deleted",
        ChangeKind::SettingsChanged => "settings changed",
        ChangeKind::Rewritten => "sum lines that follow",
    }
}

/// Which lines are meant: `from 1 Feb 2024, payee “Harrock”`.
pub fn which(which: &Which, style: Style) -> String {
    let mut words = Vec::new();
    words.extend(which.from.map(|day| format!("from {}", style.day(day))));
    words.extend(which.until.map(|day| format!("until {}", style.day(day))));
    let texts = [("payee", &which.payee), ("memo", &which.memo)];
    let said = texts.iter().filter(|(_, text)| !text.is_empty());
    words.extend(said.map(|(what, text)| format!("{what} “{text}”")));
    words.extend(which.dimension.as_ref().map(|d| format!("{} {}", d.name, d.value)));
    words.extend(match which.entries.len() {
        0 => None,
        1 => Some("1 chosen entry".to_owned()),
        n => Some(format!("{} chosen entries", style.number(n))),
    });
    if words.is_empty() { "all lines".to_owned() } else { words.join(", ") }
}
