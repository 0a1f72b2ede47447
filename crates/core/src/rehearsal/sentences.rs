//! What is raised, in plain sentences. All of them stand here.

use super::cause::{Cause, Disagreement, Place, Since, SumOf, Unfit};
use super::rule::Severity;
use crate::calendar::say_day;
use crate::chart::{Account, Chart, Status};
use crate::code::{Code, Interval};
use crate::ids::{AccountId, LineId};
use crate::money::Currency;
use crate::plan::Change;
use crate::text::{a, counted, grouped};

/// How many accounts a sentence names before it counts the others.
const SHOWN: usize = 5;

/// How sentences name accounts, lines of the statements and amounts.
pub(super) struct Names<'a> {
    pub(super) today: &'a Chart,
    pub(super) after: &'a Chart,
    pub(super) currency: Currency,
}

impl Names<'_> {
    fn on(first: &Chart, second: &Chart, id: AccountId) -> String {
        let account = first.get(id).or_else(|| second.get(id));
        account.map_or_else(|| "an account that is gone".to_owned(), Account::label)
    }

    /// An account as it would be called After.
    fn after(&self, id: AccountId) -> String {
        Self::on(self.after, self.today, id)
    }

    /// An account as it is called today.
    fn now(&self, id: AccountId) -> String {
        Self::on(self.today, self.after, id)
    }

    fn name(&self, id: AccountId) -> &str {
        self.after.get(id).or_else(|| self.today.get(id)).map_or("", |account| &account.name)
    }

    fn list(&self, ids: &[AccountId], name: impl Fn(&Self, AccountId) -> String) -> String {
        ids.iter().map(|id| name(self, *id)).collect::<Vec<_>>().join(", ")
    }

    /// The first few of them, and how many more there are.
    fn some(&self, ids: &[AccountId], name: impl Fn(&Self, AccountId) -> String) -> String {
        let (shown, more) = ids.split_at(ids.len().min(SHOWN));
        let names: Vec<_> = shown.iter().map(|id| name(self, *id)).collect();
        match (names.as_slice(), more.len()) {
            ([first @ .., last], 0) if !first.is_empty() => {
                format!("{} and {last}", first.join(", "))
            }
            (names, 0) => names.join(", "),
            (names, more) => format!("{} and {more} more", names.join(", ")),
        }
    }

    fn line(&self, id: LineId) -> Option<String> {
        self.today.structure().caption(id).map(|line| line.name.clone())
    }

    fn place(&self, (class, caption): Place) -> String {
        caption.and_then(|id| self.line(id)).unwrap_or_else(|| class.words().to_owned())
    }

    fn staged(&self, change: &Change) -> String {
        let label =
            |id| self.today.get(id).map_or_else(|| "a new account".to_owned(), Account::label);
        change.say(self.today.structure(), label)
    }

    fn sum(&self, sum: &SumOf) -> String {
        match sum {
            SumOf::Row(id) => self.after(*id),
            SumOf::Report(name) => format!("The {name}"),
        }
    }

    /// What is wrong, and of what.
    pub(super) fn sentence(&self, cause: &Cause, severity: Severity) -> String {
        use Cause as C;
        match cause {
            C::AccountGone { account, merged: true } => format!(
                "{} was merged since; its history stands under {}.",
                self.now(*account),
                self.today.holder(*account).map_or_else(String::new, Account::label),
            ),
            C::AccountGone { merged: false, .. } => {
                "The plan changes an account that is no longer in the chart.".to_owned()
            }
            C::BaseChanged { account, field, base, staged, now } => format!(
                "{}: the {} was “{}” when the change to “{}” was staged; today it is “{}”.",
                self.now(*account),
                field.words(),
                self.staged(base),
                self.staged(staged),
                self.staged(now),
            ),
            C::AddedIncomplete { .. } => {
                "A new account needs a code, a name and a class.".to_owned()
            }
            C::CodeTaken { code, accounts } => self.code_taken(code, accounts),
            C::CodeFormat { account, code, objection } => {
                format!("{code}, the code of {}, {objection}.", self.name(*account))
            }
            C::CodeOutsideBlock { account, class, standard, blocks } => format!(
                "{} is outside its block: codes of {} lie in {}.",
                self.after(*account),
                standard.map_or(class.words(), |item| item.words()),
                Interval::format_list(blocks),
            ),
            C::CodeUnlike { form, accounts } => format!(
                "{}: no code of these books has the form {form}.",
                self.some(accounts, Self::after)
            ),
            C::CodeReused { account, code, former } => format!(
                "{code} was formerly a code of {}; a search for it will find {} first.",
                self.list(former, Self::now),
                self.name(*account),
            ),
            C::NameTaken { accounts } => {
                format!("{} would be called the same.", self.some(accounts, Self::after))
            }
            C::MergeCircle { accounts } => format!(
                "{} are merged in a circle, so none of them would be left.",
                self.list(accounts, Self::after)
            ),
            C::MergeChain { account, first, end } => format!(
                "{} goes into {}, which itself goes into {end}: all of it ends in {end}.",
                self.after(*account),
                self.after(*first),
                end = self.after(*end),
            ),
            C::MergeIntoRetired { merged, survivor, why } => {
                let (merged, survivor) = (self.now(*merged), self.after(*survivor));
                format!("{merged} can’t go into {survivor}: {}.", unfit(*why))
            }
            C::MergeKind { merged, survivor, kinds: (one, other) } => {
                let why = format!("one is {}, the other {}", a(one.words()), a(other.words()));
                self.refused(*merged, *survivor, &why)
            }
            C::MergeClass { merged, survivor, classes: (one, other) } => {
                let why = format!("one is {}, the other {}", one.words(), other.words());
                self.refused(*merged, *survivor, &why)
            }
            C::MergeCurrency { merged, survivor, currencies: (one, other) } => {
                let name = |c: &Option<Currency>| {
                    c.map_or_else(|| "any currency".to_owned(), |c| c.to_string())
                };
                let why = format!("one holds {}, the other {}", name(one), name(other));
                self.refused(*merged, *survivor, &why)
            }
            C::MergeRole { merged, survivor, role, other } => {
                let role = role.words();
                let why = match other {
                    None => format!("it is the books’ {role} account, the other is not"),
                    Some(other) => format!("one is for {role}, the other for {}", other.words()),
                };
                self.refused(*merged, *survivor, &why)
            }
            C::MergeSettings { merged, survivor, differ } => format!(
                "For the history of {} that goes into {}: {}.",
                self.now(*merged),
                self.after(*survivor),
                differ.iter().map(|one| self.disagreement(one)).collect::<Vec<_>>().join("; "),
            ),
            C::MergeBankCleared { merged, survivor, cleared } => {
                let why = format!(
                    "{cleared} of their lines are cleared in bank reconciliations, which a merge would mix"
                );
                self.refused(*merged, *survivor, &why)
            }
            C::ChildrenLeft { parent, rows } => {
                let names = self.some(rows, Self::after);
                let stand = if rows.len() == 1 { "stands" } else { "stand" };
                format!("{} can’t go while {names} {stand} under it.", self.now(*parent))
            }
            C::DeleteUsed { account, lines } => format!(
                "{} can’t be deleted: it has {}.",
                self.now(*account),
                counted(lines, "line")
            ),
            C::DeleteMerged { account, merged } => format!(
                "{} can’t be deleted: {} was merged into it, and is found through it.",
                self.now(*account),
                self.now(*merged)
            ),
            C::DeleteNamed { account, uses } => {
                format!("{} can’t be deleted: {}.", self.now(*account), named_by(uses))
            }
            C::DeleteControl { account, role } => format!(
                "{} can’t be deleted: it is the books’ {} account.",
                self.now(*account),
                role.words()
            ),
            C::DeleteUnproven { account, given, since } => format!(
                "{} has no line, but {}: deactivating it is safer.",
                self.now(*account),
                match (given, since) {
                    (true, Some(day)) =>
                        format!("the journal is complete from {} only", say_day(*day)),
                    (true, None) => "the journal may start later than the account".to_owned(),
                    (false, _) => "no complete where-used list was given".to_owned(),
                },
            ),
            C::ArchiveBalance { account } => {
                format!("{} {}: its balance is not zero.", self.now(*account), archived(severity))
            }
            C::ArchiveRecent { account, last, prior_year } => format!(
                "{} {}: its last line is of {}, and the prior year began on {}.",
                self.now(*account),
                archived(severity),
                say_day(*last),
                say_day(*prior_year)
            ),
            C::ArchiveControl { account, role } => format!(
                "{} can’t be archived: it is the books’ {} account.",
                self.now(*account),
                role.words()
            ),
            C::ArchiveNamed { account, uses } => {
                format!("{} can’t be archived: {}.", self.now(*account), named_by(uses))
            }
            C::DeactivateControl { account, role } => format!(
                "{} would be deactivated, and is the books’ {} account.",
                self.now(*account),
                role.words()
            ),
            C::DeactivateBalance { account, balance } => format!(
                "{} would be deactivated with a balance of {} in {}.",
                self.now(*account),
                self.currency.say(balance.abs()),
                if *balance < 0 { "credit" } else { "debit" }
            ),
            C::DeactivateRecent { account, this_year, last_year, last } => format!(
                "{} would be deactivated, and has {} this year and {} in the year before, the latest of {}.",
                self.now(*account),
                counted(this_year, "line"),
                grouped(&last_year.to_string()),
                say_day(*last)
            ),
            C::RestoreNothing { account, status } => {
                let why = match status {
                    Status::Merged => "its history went elsewhere; undo the plan that merged it",
                    _ => "it is active",
                };
                format!("{} can’t be restored: {why}.", self.now(*account))
            }
            C::ClassWithin { account, from, to } => {
                format!("{} changes from {} to {}.", self.now(*account), from.words(), to.words())
            }
            C::ClassAcross { account, from, to, older } => format!(
                "{} changes from {} to {}, which would change the results of closed years: \
                 {older} of its lines are older than this year.",
                self.now(*account),
                from.words(),
                to.words()
            ),
            C::KindUsed { account, lines, kind } => format!(
                "{} has {} and can’t become {}.",
                self.now(*account),
                counted(lines, "line"),
                a(kind.words())
            ),
            C::SumEmpty { account } => {
                format!("{} is a sum line and needs the codes it adds up.", self.after(*account))
            }
            C::RoleTaken { account, other, role } => format!(
                "{} can’t be the {} account: {} is.",
                self.after(*account),
                role.words(),
                self.after(*other)
            ),
            C::CurrencyNotAllowed { account, currency } => format!(
                "{} can’t hold {currency} only: that belongs to cash, receivables, payables or \
                 borrowings.",
                self.after(*account)
            ),
            C::CurrencyMixed { account, currency, lines } => format!(
                "{} can’t hold {currency} only: it has {} in other currencies.",
                self.after(*account),
                counted(lines, "line")
            ),
            C::ContraChanges { account, contra } => format!(
                "{} becomes {} contra account: its balance is expected on the other side.",
                self.now(*account),
                if *contra { "a" } else { "no longer a" }
            ),
            C::SectionForeign { account, class, caption } => format!(
                "{} is {}, but the section {} belongs to another class.",
                self.after(*account),
                class.words(),
                self.place((*class, *caption)),
            ),
            C::SectionDropped { account, from } => format!(
                "{} stands under {} on the statements, and would stand under no section.",
                self.now(*account),
                self.line(*from).unwrap_or_default(),
            ),
            C::ParentUnfit { account, parent, found } => {
                let what = match found {
                    None => "a heading that is gone".to_owned(),
                    Some((status, kind)) => format!(
                        "{}, which is {} {}",
                        self.after(*parent),
                        a(status.words()),
                        kind.words()
                    ),
                };
                format!("{} can’t stand under {what}.", self.after(*account))
            }
            C::ParentCircle { accounts } => format!(
                "{} would stand under each other in a circle.",
                self.list(accounts, Self::after)
            ),
            C::ParentClass { account, class, parent, of_parent } => format!(
                "{} is {}, but the heading {} is for {}.",
                self.after(*account),
                class.words(),
                self.after(*parent),
                of_parent.words(),
            ),
            C::MoveNowhere { from, to, why } => {
                let (from, to) = (self.now(*from), self.after(*to));
                format!("No history of {from} can go to {to}: {}.", unfit(*why))
            }
            C::MoveOverlap { from, lines, first, second } => format!(
                "{} of the lines of {} are both for {} ({}) and for {} ({}).",
                grouped(&lines.to_string()),
                self.after(*from),
                self.after(first.0),
                first.1,
                self.after(second.0),
                second.1,
            ),
            C::MoveNothing { from, to, which } => format!(
                "No line of {} fits the part for {}: {which}.",
                self.now(*from),
                self.after(*to),
            ),
            C::MoveCurrency { from, to, lines, currency } => {
                format!("{} can’t move: it takes only {currency}.", self.part(*from, *to, *lines))
            }
            C::MoveControl { from, to, lines, role } => format!(
                "{} leave the books’ {} account, and what is kept beside it no longer agrees.",
                self.part(*from, *to, *lines),
                role.words()
            ),
            C::MoveBankCleared { from, to, lines, cleared } => format!(
                "{} can’t move yet: {} of them are cleared in a bank reconciliation.",
                self.part(*from, *to, *lines),
                grouped(&cleared.to_string())
            ),
            C::MoveCaption { from, to, lines, net, places: (before, after) } => format!(
                "{}, {} in all, go from {} to {}.",
                self.part(*from, *to, *lines),
                self.currency.say(*net),
                self.place(*before),
                self.place(*after)
            ),
            C::MoveAcross { from, to, lines, classes: (before, after) } => format!(
                "{} go from {} to {} in closed years, whose results would change.",
                self.part(*from, *to, *lines),
                before.words(),
                after.words()
            ),
            C::LockedTotal { from, until, places: (before, after), .. } => format!(
                "{} has amounts up to {}, which is locked, and they would move from {} to {}.",
                self.now(*from),
                say_day(*until),
                self.place(*before),
                self.place(*after)
            ),
            C::SumLost { sum, intervals } => lost(&self.after(*sum), intervals),
            C::ReportLineLost { name, intervals, .. } => lost(&format!("The {name}"), intervals),
            C::SumEdge { sum, before, after, crossing } => {
                let (sum, after_it) = (self.sum(sum), self.currency.say(*after));
                let what = if before == after {
                    format!(
                        "{sum} keeps its figure of {after_it}, but those of other years may change"
                    )
                } else {
                    let before = self.currency.say(*before);
                    format!("{sum} would change from {before} to {after_it}")
                };
                let names = self.list(crossing, Self::after);
                format!("{what}: history of {names} goes across its edge.")
            }
            C::UndoLater { plan, .. } => format!(
                "“{plan}” was applied later, to some of the same accounts, codes or report lines."
            ),
            C::UndoKept { account, since } => {
                let since = match since {
                    Since::Lines => "has lines since".to_owned(),
                    Since::Named(by) => format!("{by} names it since"),
                };
                format!("{} was added by the plan and {since}; it stays.", self.now(*account))
            }
        }
    }

    fn code_taken(&self, code: &Code, accounts: &[AccountId]) -> String {
        let count = match accounts.len() {
            2 => "two accounts".to_owned(),
            n => counted(n, "account"),
        };
        let names = self.some(accounts, |names, id| names.name(id).to_owned());
        format!("{code} would belong to {count}: {names}.")
    }

    fn refused(&self, merged: AccountId, survivor: AccountId, why: &str) -> String {
        format!("{} can’t go into {} yet: {why}.", self.now(merged), self.after(survivor))
    }

    fn part(&self, from: AccountId, to: AccountId, lines: u64) -> String {
        format!("{} of {} to {}", counted(lines, "line"), self.now(from), self.after(to))
    }

    fn disagreement(&self, one: &Disagreement) -> String {
        let none = || "none".to_owned();
        let line = |id: &Option<LineId>| id.and_then(|id| self.line(id)).unwrap_or_else(none);
        let parent = |id: &Option<AccountId>| id.map_or_else(none, |id| self.after(id));
        let tax = |code: &Option<String>| code.clone().unwrap_or_else(none);
        let contra = |is: bool| if is { "contra" } else { "not contra" }.to_owned();
        let (what, merged, survivor) = match one {
            Disagreement::Caption(merged, survivor) => ("section", line(merged), line(survivor)),
            Disagreement::Parent(merged, survivor) => ("heading", parent(merged), parent(survivor)),
            Disagreement::Tax(merged, survivor) => ("tax code", tax(merged), tax(survivor)),
            Disagreement::Contra(merged) => ("presentation", contra(*merged), contra(!merged)),
        };
        format!("{what} {merged} becomes {survivor}")
    }
}

fn unfit(why: Unfit) -> String {
    match why {
        Unfit::Gone => "it would be gone".to_owned(),
        Unfit::Same => "that is where it stands".to_owned(),
        Unfit::Kind(kind) => format!("it is {}", a(kind.words())),
        Unfit::Status(status) => format!("it is {}", status.words()),
    }
}

fn named_by(uses: &[String]) -> String {
    let shown = uses.iter().take(3).cloned().collect::<Vec<_>>().join(", ");
    match uses.len() {
        1 => format!("{shown} still names it"),
        n if n > 3 => format!("{shown} and {} more still name it", n - 3),
        _ => format!("{shown} still name it"),
    }
}

fn archived(severity: Severity) -> &'static str {
    match severity {
        Severity::Stop => "can’t be archived",
        Severity::Caution => "would be archived",
    }
}

fn lost(sum: &str, intervals: &[Interval]) -> String {
    format!(
        "{sum} adds up {}, and none of its accounts would be left to follow.",
        Interval::format_list(intervals),
    )
}
