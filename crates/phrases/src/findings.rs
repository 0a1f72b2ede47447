//! Stops and cautions, in words: of each rule its title, its sentence and its advice, side by side, and what the
//! buttons say. A rule without words does not compile.

use crate::Say;
use crate::changes::which;
use crate::say::a;
use zf_core::chart::Status;
use zf_core::code::{Code, Interval};
use zf_core::ids::{AccountId, ItemId};
use zf_core::money::Currency;
use zf_core::plan::{Change, Fate, Field};
use zf_core::rehearsal::cause::{Cause, Disagreement, Since, Unfit};
use zf_core::rehearsal::finding::Remedy;
use zf_core::rehearsal::rule::{Rule, Severity};

/// Declares the words of the rules, a row each: what its cause says of it, the title, the sentence and, where
/// there is something that only a person can do, the advice.
macro_rules! findings {
    ($say:ident, $severity:ident: $(
        $rule:ident $fields:tt, $title:literal => $sentence:expr $(, advice $advice:expr)?;
    )+) => {
        /// A rule in a few words.
        pub const fn title(rule: Rule) -> &'static str {
            match rule { $(Rule::$rule => $title,)+ }
        }

        /// What is wrong, and of what.
        pub fn sentence(cause: &Cause, $severity: Severity, $say: &Say<'_>) -> String {
            match cause { $(Cause::$rule $fields => $sentence,)+ }
        }

        #[allow(unused_variables, reason = "a sentence may say more than the advice under it")]
        fn advice(cause: &Cause, $say: &Say<'_>) -> Option<String> {
            match cause { $(Cause::$rule $fields => findings!(@optional $($advice)?),)+ }
        }
    };
    (@optional) => { None };
    (@optional $advice:expr) => { Some($advice) };
}

findings! { say, severity:
    AccountGone { account, merged_into }, "account is gone" => match merged_into {
        Some(holder) => format!(
            "{} was merged since; its history stands under {}.",
            say.now(*account),
            say.now(*holder)
        ),
        None => "The plan changes an account that is no longer in the chart.".to_owned(),
    };
    BaseChanged { account, field, base, staged, now }, "changed since it was staged" => format!(
        "{}: the {} was “{}” when the change to “{}” was staged; today it is “{}”.",
        say.now(*account),
        field.words(),
        say.change(base),
        say.change(staged),
        say.change(now),
    );
    AddedIncomplete { .. }, "new account is incomplete" => {
        "A new account needs a code, a name and a class.".to_owned()
    },
        advice "Fill them in, or undo the new account.".to_owned();
    CodeTaken { code, accounts }, "code is taken" => say.code_taken(code, accounts);
    CodeFormat { account, code, objection }, "code has another form" => {
        format!("{code}, the code of {}, {objection}.", say.name(*account))
    };
    CodeOutsideBlock { account, class, standard, blocks }, "outside its block" => format!(
        "{} is outside its block: codes of {} lie in {}.",
        say.after(*account),
        standard.map_or(class.words(), |item| item.words()),
        Interval::format_list(blocks),
    );
    CodeUnlike { form, accounts }, "code unlike all others" => format!(
        "{}: no code of these books has the form {form}.",
        say.some(accounts, Say::after)
    );
    CodeReused { account, code, former }, "former code reused" => format!(
        "{code} was formerly a code of {}; a search for it will find {} first.",
        say.list(former, Say::now),
        say.name(*account),
    );
    NameTaken { accounts }, "name is taken" => {
        format!("{} would be called the same.", say.some(accounts, Say::after))
    };
    MergeCircle { accounts }, "merges in a circle" => format!(
        "{} are merged in a circle, so none of them would be left.",
        say.list(accounts, Say::after)
    );
    MergeChain { account, first, end }, "merge goes on" => format!(
        "{} goes into {}, which itself goes into {end}: all of it ends in {end}.",
        say.after(*account),
        say.after(*first),
        end = say.after(*end),
    );
    MergeIntoRetired { merged, survivor, why }, "survivor is not active" => {
        let (merged, survivor) = (say.now(*merged), say.after(*survivor));
        format!("{merged} can’t go into {survivor}: {}.", unfit(*why))
    };
    MergeKind { merged, survivor, kinds: (one, other) }, "different kind" => {
        let why = format!("one is {}, the other {}", a(one.words()), a(other.words()));
        say.refused(*merged, *survivor, &why)
    };
    MergeClass { merged, survivor, classes: (one, other) }, "different class" => {
        let why = format!("one is {}, the other {}", one.words(), other.words());
        say.refused(*merged, *survivor, &why)
    };
    MergeCurrency { merged, survivor, currencies: (one, other) }, "different currency" => {
        let name = |c: &Option<Currency>| {
            c.map_or_else(|| "any currency".to_owned(), |c| c.to_string())
        };
        let why = format!("one holds {}, the other {}", name(one), name(other));
        say.refused(*merged, *survivor, &why)
    };
    MergeRole { merged, survivor, role, other }, "different control role" => {
        let role = role.words();
        let why = match other {
            None => format!("it is the books’ {role} account, the other is not"),
            Some(other) => format!("one is for {role}, the other for {}", other.words()),
        };
        say.refused(*merged, *survivor, &why)
    },
        advice format!("Merge {} into it instead.", say.after(*survivor));
    MergeSettings { merged, survivor, differ }, "settings differ" => format!(
        "For the history of {} that goes into {}: {}.",
        say.now(*merged),
        say.after(*survivor),
        differ.iter().map(|one| say.disagreement(one)).collect::<Vec<_>>().join("; "),
    );
    MergeBankCleared { merged, survivor, cleared }, "reconciled bank lines" => {
        let why = format!(
            "{} of their lines are cleared in bank reconciliations, which a merge would mix",
            say.style.number(cleared)
        );
        say.refused(*merged, *survivor, &why)
    },
        advice go_on("Keep the two accounts apart");
    ChildrenLeft { parent, rows }, "rows left under it" => {
        let names = say.some(rows, Say::after);
        let stand = if rows.len() == 1 { "stands" } else { "stand" };
        format!("{} can’t go while {names} {stand} under it.", say.now(*parent))
    },
        advice "Put them under another heading first, or let them go as well.".to_owned();
    DeleteUsed { account, lines }, "has lines" => format!(
        "{} can’t be deleted: it has {}.",
        say.now(*account),
        say.counted(*lines, "line")
    ),
        advice merge_instead();
    DeleteMerged { account, merged }, "others were merged into it" => format!(
        "{} can’t be deleted: {} was merged into it, and is found through it.",
        say.now(*account),
        say.now(*merged)
    );
    DeleteNamed { account, uses }, "still named elsewhere" => {
        format!("{} can’t be deleted: {}.", say.now(*account), named_by(uses))
    },
        advice merge_instead();
    DeleteControl { account, role }, "has a control role" => format!(
        "{} can’t be deleted: it is the books’ {} account.",
        say.now(*account),
        role.words()
    );
    DeleteUnproven { account, given, since }, "not proven unused" => format!(
        "{} has no line, but {}: deactivating it is safer.",
        say.now(*account),
        match (given, since) {
            (true, Some(day)) =>
                format!("the journal is complete from {} only", say.day(*day)),
            (true, None) => "the journal may start later than the account".to_owned(),
            (false, _) => "no complete where-used list was given".to_owned(),
        },
    );
    ArchiveBalance { account }, "has a balance" => {
        format!("{} {}: its balance is not zero.", say.now(*account), archived(severity))
    },
        advice merge_instead();
    ArchiveRecent { account, last, prior_year }, "posted to recently" => format!(
        "{} {}: its last line is of {}, and the prior year began on {}.",
        say.now(*account),
        archived(severity),
        say.day(*last),
        say.day(*prior_year)
    ),
        advice merge_instead();
    ArchiveControl { account, role }, "has a control role" => format!(
        "{} can’t be archived: it is the books’ {} account.",
        say.now(*account),
        role.words()
    );
    ArchiveNamed { account, uses }, "still named elsewhere" => {
        format!("{} can’t be archived: {}.", say.now(*account), named_by(uses))
    },
        advice merge_instead();
    DeactivateControl { account, role }, "the books rely on it" => format!(
        "{} would be deactivated, and is the books’ {} account.",
        say.now(*account),
        role.words()
    ),
        advice "Give the role to the account that takes its place first.".to_owned();
    DeactivateBalance { account, balance }, "a balance stays on it" => format!(
        "{} would be deactivated with a balance of {} in {}.",
        say.now(*account),
        say.money(balance.abs()),
        if *balance < 0 { "credit" } else { "debit" }
    ),
        advice "Merge it or move its history first, or clear its balance by an entry.".to_owned();
    DeactivateRecent { account, this_year, last_year, last }, "is still posted to" => format!(
        "{} would be deactivated, and has {} this year and {} in the year before, the latest of {}.",
        say.now(*account),
        say.counted(*this_year, "line"),
        say.style.number(last_year),
        say.day(*last)
    ),
        advice "Settle first which account takes its place, and let bank rules, recurring entries and \
            people know.".to_owned();
    RestoreNothing { account, status }, "nothing to restore" => {
        let why = match status {
            Status::Merged => "its history went elsewhere; undo the plan that merged it",
            _ => "it is active",
        };
        format!("{} can’t be restored: {why}.", say.now(*account))
    };
    ClassWithin { account, from, to }, "class changes" => {
        format!("{} changes from {} to {}.", say.now(*account), from.words(), to.words())
    };
    ClassAcross { account, from, to, older }, "class changes statement" => format!(
        "{} changes from {} to {}, which would change the results of closed years: \
         {} of its lines are older than this year.",
        say.now(*account),
        from.words(),
        to.words(),
        say.style.number(older)
    );
    KindUsed { account, lines, kind }, "cannot become that" => format!(
        "{} has {} and can’t become {}.",
        say.now(*account),
        say.counted(*lines, "line"),
        a(kind.words())
    );
    SumEmpty { account }, "adds nothing up" => {
        format!("{} is a sum line and needs the codes it adds up.", say.after(*account))
    };
    RoleTaken { account, other, role }, "control role is taken" => format!(
        "{} can’t be the {} account: {} is.",
        say.after(*account),
        role.words(),
        say.after(*other)
    );
    CurrencyNotAllowed { account, currency }, "no fixed currency here" => format!(
        "{} can’t hold {currency} only: that belongs to cash, receivables, payables or \
         borrowings.",
        say.after(*account)
    );
    CurrencyMixed { account, currency, lines }, "has other currencies" => format!(
        "{} can’t hold {currency} only: it has {} in other currencies.",
        say.after(*account),
        say.counted(*lines, "line")
    );
    ContraChanges { account, contra }, "contra changes" => format!(
        "{} becomes {} contra account: its balance is expected on the other side.",
        say.now(*account),
        if *contra { "a" } else { "no longer a" }
    );
    SectionForeign { account, class, caption }, "statement item of another class" => format!(
        "{} is {}, but the statement item {} belongs to another class.",
        say.after(*account),
        class.words(),
        say.place((*class, *caption)),
    );
    SectionDropped { account, from }, "leaves its statement item" => format!(
        "{} stands under {} on the statements, and would stand under no statement item.",
        say.now(*account),
        say.item(*from).unwrap_or_default(),
    );
    ParentUnfit { account, parent, found }, "cannot stand there" => {
        let what = match found {
            None => "a heading that is gone".to_owned(),
            Some((status, kind)) => format!(
                "{}, which is {} {}",
                say.after(*parent),
                a(status.words()),
                kind.words()
            ),
        };
        format!("{} can’t stand under {what}.", say.after(*account))
    };
    ParentCircle { accounts }, "headings in a circle" => format!(
        "{} would stand under each other in a circle.",
        say.list(accounts, Say::after)
    );
    ParentClass { account, class, parent, of_parent }, "heading of another class" => format!(
        "{} is {}, but the heading {} is for {}.",
        say.after(*account),
        class.words(),
        say.after(*parent),
        of_parent.words(),
    );
    MoveNowhere { from, to, why }, "cannot take history" => {
        let (from, to) = (say.now(*from), say.after(*to));
        format!("No history of {from} can go to {to}: {}.", unfit(*why))
    };
    MoveOverlap { from, lines, first, second }, "parts overlap" => format!(
        "{} of the lines of {} are both for {} ({}) and for {} ({}).",
        say.style.number(lines),
        say.after(*from),
        say.after(first.0),
        which(&first.1, say.style),
        say.after(second.0),
        which(&second.1, say.style),
    );
    MoveNothing { from, to, which: part }, "nothing moves" => format!(
        "No line of {} fits the part for {}: {}.",
        say.now(*from),
        say.after(*to),
        which(part, say.style),
    );
    MoveCurrency { from, to, lines, currency }, "different currency" => {
        format!("{} can’t move: it takes only {currency}.", say.part(*from, *to, *lines))
    };
    MoveControl { from, to, lines, role }, "leaves a control account" => format!(
        "{} leave the books’ {} account, and what is kept beside it no longer agrees.",
        say.part(*from, *to, *lines),
        role.words()
    );
    MoveBankCleared { from, to, lines, cleared }, "reconciled bank lines" => format!(
        "{} can’t move yet: {} of them are cleared in a bank reconciliation.",
        say.part(*from, *to, *lines),
        say.style.number(cleared)
    ),
        advice go_on("Take only lines that were not cleared");
    MoveCaption { from, to, lines, net, places: (before, after) }, "other statement item" => format!(
        "{}, {} in all, go from {} to {}.",
        say.part(*from, *to, *lines),
        say.money(*net),
        say.place(*before),
        say.place(*after)
    );
    MoveAcross { from, to, lines, classes: (before, after) }, "other statement" => format!(
        "{} go from {} to {} in closed years, whose results would change.",
        say.part(*from, *to, *lines),
        before.words(),
        after.words()
    ),
        advice go_on("Take only lines of this year");
    LockedTotal { from, until, places: (before, after), .. }, "locked period changes" => format!(
        "{} has amounts up to {}, which is locked, and they would move from {} to {}.",
        say.now(*from),
        say.day(*until),
        say.place(*before),
        say.place(*after)
    ),
        advice go_on(&format!(
            "Move only what is later than {}, use the other account from now on",
            say.day(*until)
        ));
    SumLost { sum, intervals }, "sum line cannot follow" => lost(&say.after(*sum), intervals),
        advice "Delete the sum line as well, or keep one of its accounts.".to_owned();
    ReportLineLost { name, intervals, .. }, "report line cannot follow" => {
        lost(&format!("The {name}"), intervals)
    },
        advice "Keep one of its accounts; or go on, and change the report by hand.".to_owned();
    SumEdge { sum, before, after, crossing }, "sum changes" => {
        let (sum, after_it) = (say.sum(sum), say.money(*after));
        let what = if before == after {
            format!(
                "{sum} keeps its figure of {after_it}, but those of other years may change"
            )
        } else {
            let before = say.money(*before);
            format!("{sum} would change from {before} to {after_it}")
        };
        let names = say.list(crossing, Say::after);
        format!("{what}: history of {names} moves into or out of it.")
    };
    UndoLater { plan, .. }, "a later plan builds on it" => format!(
        "“{plan}” was applied later, to some of the same accounts, codes or report lines."
    ),
        advice format!("Undo “{plan}” first.");
    UndoKept { account, since }, "stays, it has lines" => {
        let since = match since {
            Since::Lines => "has lines since".to_owned(),
            Since::Named(by) => format!("{by} names it since"),
        };
        format!("{} was added by the plan and {since}; it stays.", say.now(*account))
    };
}

/// What a button or an advice says.
pub fn remedy(remedy: &Remedy, cause: &Cause, say: &Say<'_>) -> String {
    match remedy {
        Remedy::Stage { account, change } => stage(*account, change, cause, say),
        Remedy::Unstage { field, .. } => unstage(*field, cause),
        Remedy::Advice => advice(cause, say).unwrap_or_default(),
    }
}

fn stage(account: AccountId, change: &Change, cause: &Cause, say: &Say<'_>) -> String {
    let code = say.code(account);
    match (change, cause) {
        (Change::Code(code), _) => format!("Use {code}"),
        (Change::Fate(Fate::MergeInto { into }), Cause::NameTaken { .. }) => {
            format!("Merge {code} into {}", say.after(*into))
        }
        (Change::Fate(Fate::MergeInto { into }), _) => format!("Merge into {}", say.after(*into)),
        (Change::Fate(Fate::Deactivate { .. }), _) => format!("Deactivate {code} instead"),
        (Change::Fate(Fate::Archive { .. }), _) => format!("Archive {code} instead"),
        (Change::History(_), _) => "Let the first part that fits take them".to_owned(),
        (change, _) => format!("Set the {} to {}", change.field().words(), say.change(change)),
    }
}

fn unstage(field: Field, cause: &Cause) -> String {
    match (field, cause) {
        (_, Cause::AccountGone { .. } | Cause::BaseChanged { .. }) => {
            format!("Undo the change of its {}", field.words())
        }
        (Field::Fate, Cause::NameTaken { .. }) => "Undo the new account".to_owned(),
        (Field::Fate, Cause::MergeCircle { .. }) => "Undo one merge".to_owned(),
        (
            Field::Fate,
            Cause::DeactivateControl { .. }
            | Cause::DeactivateBalance { .. }
            | Cause::DeactivateRecent { .. },
        ) => "Leave it active".to_owned(),
        (Field::Fate, Cause::RestoreNothing { .. }) => "Undo it".to_owned(),
        (Field::Fate, _) => "Undo the merge".to_owned(),
        (Field::Parent, _) => "Leave it where it was".to_owned(),
        (Field::History, _) => "Leave its history where it is".to_owned(),
        (field, _) => format!("Leave the {} as it was", field.words()),
    }
}

fn merge_instead() -> String {
    "Or merge it into the account that takes its place.".to_owned()
}

/// An advice for a stop that a reviewer can override.
fn go_on(otherwise: &str) -> String {
    format!("{otherwise}, or have a reviewer go on with a typed reason.")
}

impl Say<'_> {
    fn code_taken(&self, code: &Code, accounts: &[AccountId]) -> String {
        let count = match accounts.len() {
            2 => "two accounts".to_owned(),
            n => self.style.counted(n, "account"),
        };
        let names = self.some(accounts, |names, id| names.name(id).to_owned());
        format!("{code} would belong to {count}: {names}.")
    }

    fn refused(&self, merged: AccountId, survivor: AccountId, why: &str) -> String {
        format!("{} can’t go into {} yet: {why}.", self.now(merged), self.after(survivor))
    }

    fn part(&self, from: AccountId, to: AccountId, lines: u64) -> String {
        format!("{} of {} to {}", self.counted(lines, "line"), self.now(from), self.after(to))
    }

    fn disagreement(&self, one: &Disagreement) -> String {
        let none = || "none".to_owned();
        let line =
            |id: &Option<ItemId>| id.and_then(|id| self.item(id)).map_or_else(none, str::to_owned);
        let parent = |id: &Option<AccountId>| id.map_or_else(none, |id| self.after(id));
        let tax = |code: &Option<String>| code.clone().unwrap_or_else(none);
        let contra = |is: bool| if is { "contra" } else { "not contra" }.to_owned();
        let (what, merged, survivor) = match one {
            Disagreement::Caption(merged, survivor) => {
                ("statement item", line(merged), line(survivor))
            }
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
