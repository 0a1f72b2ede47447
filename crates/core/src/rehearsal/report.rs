//! A rehearsal in the words and figures that are shown, kept with an application, and handed over.
//! Amounts are written out with the decimal places of the base currency; debits are positive.

use super::effects::{Rewriting, RowChange};
use super::finding::{Finding, Remedy};
use super::rule::{Rule, Severity};
use super::{Moved, Rehearsal, effects::Effects};
use crate::calendar::{Period, say_day};
use crate::chart::{Account, Chart, Class, Kind, Status};
use crate::code::{Code, Interval};
use crate::history::cut::Tally;
use crate::ids::{AccountId, ById};
use crate::keyed::keyed;
use crate::money::Currency;
use crate::plan::edit::Wanted;
use crate::plan::{Change, Field};
use crate::row_figures::RowFigures;
use crate::today::Today;
use crate::trial_balance::TrialBalance;
use serde::Serialize;
use std::collections::BTreeMap;

keyed! {
    /// The kinds of change a plan can make to an account.
    ChangeKind {
        /// Its history stands under another account.
        Merged = "merged", "merged";
        /// It bears another code.
        Renumbered = "renumbered", "renumbered";
        /// It bears another name.
        Renamed = "renamed", "renamed";
        /// It stands under another heading.
        Regrouped = "regrouped", "under another heading";
        /// Its class or section is another.
        ClassChanged = "reclassified", "class or section changed";
        /// It is new.
        Added = "added", "added";
        /// It takes no new postings.
        Deactivated = "deactivated", "deactivated";
        /// It is out of sight as well.
        Archived = "archived", "archived";
        /// It is active again.
        Restored = "restored", "restored";
        /// It is gone.
        Deleted = "deleted", "deleted";
        /// Other settings of it change.
        SettingsChanged = "reset", "settings changed";
        /// A sum line adds up other codes, for the same accounts.
        Rewritten = "rewritten", "sum lines that follow";
    }
}

/// What a plan does, and the proof that nothing is lost.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Report {
    /// The figures of it.
    pub figures: ReportFigures,
    /// Every account that changes, with its old and new self.
    pub crosswalk: Vec<Crossing>,
    /// Every part of a history that moves.
    pub moved: Vec<MovedView>,
    /// Every line of a report that follows.
    pub report_lines: Vec<RewrittenView>,
    /// Stops and cautions.
    pub findings: Vec<FindingView>,
}

/// The figures of what a plan does.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ReportFigures {
    /// The base currency.
    pub currency: String,
    /// How many rows the chart has today.
    pub accounts_today: usize,
    /// How many After.
    pub accounts_after: usize,
    /// Lines in all.
    pub lines: u64,
    /// Lines that an account presents After.
    pub accounted: u64,
    /// Sum of all debits.
    pub debits: String,
    /// Sum of all credits.
    pub credits: String,
    /// The digest of the content of every line.
    pub digest: String,
    /// In how many periods anything was posted.
    pub periods: usize,
    /// What no account presents After.
    pub difference: String,
    /// Totals by class.
    pub classes: Vec<ClassFigures>,
    /// What all accounts add up to.
    pub all: AllFigures,
}

/// What all accounts together add up to on both sides: nothing, or something is wrong.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AllFigures {
    /// Today.
    pub today: String,
    /// After.
    pub after: String,
    /// After less today.
    pub difference: String,
}

/// How many accounts change in one way.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChangeCount {
    /// The kind of change.
    pub change: ChangeKind,
    /// The same in words.
    pub words: &'static str,
    /// How many accounts.
    pub accounts: usize,
}

/// One account that changes.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Crossing {
    /// The account.
    pub account: i64,
    /// What changes.
    pub changes: Vec<ChangeKind>,
    /// The code today; none for an added account.
    pub old_code: Option<String>,
    /// The name today.
    pub old_name: Option<String>,
    /// The code that holds its history After; none for a deleted account.
    pub new_code: Option<String>,
    /// The name After.
    pub new_name: Option<String>,
    /// Whatever else changes, in words.
    pub detail: String,
    /// How many lines it holds today.
    pub lines: u64,
    /// Its balance today.
    pub balance: String,
}

/// A part of a history that moves.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MovedView {
    /// The account whose history it was.
    pub from: i64,
    /// Its code and name today.
    pub from_label: String,
    /// Where it goes.
    pub to: i64,
    /// Its code and name After.
    pub to_label: String,
    /// Which lines, in words.
    pub which: String,
    /// How many.
    pub lines: u64,
    /// What they add up to.
    pub net: String,
    /// The same by fiscal year.
    pub years: Vec<MovedYear>,
}

/// What lines of one fiscal year add up to.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MovedYear {
    /// The last day of the year.
    pub end: String,
    /// How many lines.
    pub lines: u64,
    /// What they add up to.
    pub net: String,
}

/// A line that adds up other codes After, for the same accounts.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RewrittenView {
    /// How it is spoken of.
    pub label: String,
    /// What it adds up today.
    pub today: String,
    /// What it adds up After.
    pub after: String,
}

/// A class on both sides.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ClassFigures {
    /// The class.
    pub class: Class,
    /// Its total today.
    pub today: String,
    /// Its total After.
    pub after: String,
    /// After less today.
    pub difference: String,
}

/// The trial balance on both sides.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct TrialBalances {
    /// Today.
    pub today: Vec<TrialLine>,
    /// After.
    pub after: Vec<TrialLine>,
}

/// A line of the trial balance on both sides.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TrialPair {
    /// The class.
    pub class: Class,
    /// The code; empty for the results of earlier years.
    pub code: String,
    /// The name.
    pub name: String,
    /// The balance today; none where no account is called so.
    pub today: Option<String>,
    /// The balance After, likewise.
    pub after: Option<String>,
}

/// A line of a trial balance.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct TrialLine {
    /// The class.
    pub class: Class,
    /// The code; empty for the results of earlier years.
    pub code: String,
    /// The name.
    pub name: String,
    /// The balance.
    pub balance: String,
}

/// A stop or caution as shown.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FindingView {
    /// Tells it from all others; what is acknowledged or overridden.
    pub key: String,
    /// The rule.
    pub rule: Rule,
    /// The rule in a few words.
    pub title: String,
    /// Stop or caution.
    pub severity: Severity,
    /// The accounts it is about, first the one whose row shows it.
    pub accounts: Vec<i64>,
    /// What is wrong.
    pub sentence: String,
    /// Ways out.
    pub remedies: Vec<RemedyView>,
    /// Whether a reviewer may go on with a typed reason.
    pub can_override: bool,
    /// The reason given for going on in spite of it.
    pub overridden: Option<String>,
    /// Who gave it.
    pub overridden_by: Option<String>,
}

/// A way out as shown: a button when it names an account, else advice.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RemedyView {
    /// What the button or the advice says.
    pub label: String,
    /// The account to change.
    pub account: Option<AccountId>,
    /// What to do with it.
    pub wanted: Option<Wanted>,
}

impl Report {
    /// How many accounts change in each way that any does. One can change in several.
    pub fn counts(&self) -> Vec<ChangeCount> {
        let mut counts = BTreeMap::new();
        for change in self.crosswalk.iter().flat_map(|crossing| &crossing.changes) {
            *counts.entry(*change).or_default() += 1;
        }
        let count = |(change, accounts): (ChangeKind, usize)| ChangeCount {
            change,
            words: change.words(),
            accounts,
        };
        counts.into_iter().map(count).collect()
    }

    /// Writes a rehearsal out.
    pub fn of(today: &Today, rehearsal: &Rehearsal) -> Self {
        Self {
            figures: ReportFigures::of(today, rehearsal),
            crosswalk: crosswalk(today, rehearsal),
            moved: rehearsal.moved.iter().map(|m| MovedView::of(m, today, rehearsal)).collect(),
            report_lines: RewrittenView::of_report_lines(&rehearsal.effects).collect(),
            findings: rehearsal.findings.iter().map(FindingView::of).collect(),
        }
    }
}

impl ReportFigures {
    fn of(today: &Today, rehearsal: &Rehearsal) -> Self {
        let proof = &rehearsal.proof;
        let money = |minor: i128| today.currency.format(minor);
        Self {
            currency: today.currency.to_string(),
            accounts_today: today.chart.live().count(),
            accounts_after: rehearsal.after.live().count(),
            lines: proof.lines.lines,
            accounted: proof.accounted,
            debits: money(proof.lines.debit),
            credits: money(proof.lines.credit),
            digest: format!("{:016x}", proof.lines.digest),
            periods: proof.periods,
            difference: money(proof.difference),
            classes: proof
                .classes()
                .map(|(class, before, after)| ClassFigures {
                    class,
                    today: money(before),
                    after: money(after),
                    difference: money(after - before),
                })
                .collect(),
            all: AllFigures {
                today: money(proof.today.total()),
                after: money(proof.after.total()),
                difference: money(proof.after.total() - proof.today.total()),
            },
        }
    }
}

impl TrialBalances {
    /// Both sides beside each other, by class and code. What has another code or name After stands in both
    /// places, each time on one side.
    pub fn beside(&self) -> Vec<TrialPair> {
        let place = |line: &TrialLine| {
            let class = Class::ALL.iter().position(|class| *class == line.class);
            // The results of earlier years have no code, and come last.
            let code = Code::parse(&line.code).ok().map(|code| code.key());
            (class, code.is_none(), code, line.name.clone())
        };
        let mut pairs = BTreeMap::new();
        let pair = |line: &TrialLine| TrialPair {
            class: line.class,
            code: line.code.clone(),
            name: line.name.clone(),
            today: None,
            after: None,
        };
        for line in &self.today {
            let one = pairs.entry(place(line)).or_insert_with(|| pair(line));
            one.today = Some(line.balance.clone());
        }
        for line in &self.after {
            let one = pairs.entry(place(line)).or_insert_with(|| pair(line));
            one.after = Some(line.balance.clone());
        }
        pairs.into_values().collect()
    }

    /// Writes out what a rehearsal makes of the trial balance.
    pub fn of(today: &Today, rehearsal: &Rehearsal) -> Self {
        let proof = &rehearsal.proof;
        Self {
            today: trial_lines(&proof.today, &today.chart, today.currency),
            after: trial_lines(&proof.after, &rehearsal.after, today.currency),
        }
    }
}

fn trial_lines(trial: &TrialBalance, chart: &Chart, currency: Currency) -> Vec<TrialLine> {
    let earlier = (trial.earlier_results != 0).then(|| TrialLine {
        class: Class::Equity,
        code: String::new(),
        name: "Results of earlier years".to_owned(),
        balance: currency.format(trial.earlier_results),
    });
    let rows = trial.rows.iter().map(|row| TrialLine {
        class: row.class,
        code: row.code.to_string(),
        name: chart.get(row.account).map_or_else(String::new, |account| account.name.clone()),
        balance: currency.format(row.balance),
    });
    rows.chain(earlier).collect()
}

fn crosswalk(today: &Today, rehearsal: &Rehearsal) -> Vec<Crossing> {
    let own = RowFigures::all(&today.chart, today.figures(), &ById::default());
    let Effects { rows, .. } = &rehearsal.effects;
    rows.iter()
        .filter_map(|row| {
            let id = row.account()?;
            let own = own.get(&id).copied().unwrap_or_default();
            let before = row.before.as_ref();
            let after = row.after.as_ref().and_then(|after| match after.status {
                Status::Merged => rehearsal.after.holder(after.id),
                _ => Some(after),
            });
            let (changes, detail) = describe(today, rehearsal, row);
            Some(Crossing {
                account: id.0,
                changes,
                old_code: before.map(|a| a.code.to_string()),
                old_name: before.map(|a| a.name.clone()),
                new_code: after.map(|a| a.code.to_string()),
                new_name: after.map(|a| a.name.clone()),
                detail,
                lines: own.lines,
                balance: today.currency.format(own.balance),
            })
        })
        .collect()
}

/// The settings beyond code, name and place.
const SETTINGS: [Field; 6] =
    [Field::Kind, Field::Contra, Field::Role, Field::Currency, Field::Description, Field::Tax];

fn describe(today: &Today, rehearsal: &Rehearsal, row: &RowChange) -> (Vec<ChangeKind>, String) {
    let (before, after) = match (&row.before, &row.after) {
        (None, _) => return (vec![ChangeKind::Added], String::new()),
        (_, None) => return (vec![ChangeKind::Deleted], String::new()),
        (Some(before), Some(after)) => (before, after),
    };
    let mut changes = Vec::new();
    let mut details = Vec::new();
    let status = match after.status {
        now if now == before.status => None,
        Status::Merged => return (vec![ChangeKind::Merged], String::new()),
        Status::Active => Some(ChangeKind::Restored),
        Status::Deactivated => Some(ChangeKind::Deactivated),
        Status::Archived => Some(ChangeKind::Archived),
    };
    changes.extend((before.code != after.code).then_some(ChangeKind::Renumbered));
    changes.extend((before.name != after.name).then_some(ChangeKind::Renamed));
    if before.parent != after.parent {
        changes.push(ChangeKind::Regrouped);
        let heading = |account: &Account, chart: &Chart| {
            let parent = account.parent.and_then(|p| chart.get(p));
            parent.map_or_else(|| "the top".to_owned(), Account::label)
        };
        let (old, new) = (heading(before, &today.chart), heading(after, &rehearsal.after));
        details.push(format!("from {old} to {new}"));
    }
    if before.place() != after.place() {
        changes.push(ChangeKind::ClassChanged);
        let caption = |a: &Account| match &a.caption {
            Some(line) => format!("{}, {}", a.class.words(), line.name),
            None => a.class.words().to_owned(),
        };
        details.push(format!("from {} to {}", caption(before), caption(after)));
    }
    let reset = SETTINGS.iter().filter_map(|field| {
        let (old, new) = (Change::of(before, *field), Change::of(after, *field));
        let say = |change: Change| change.say(today.chart.structure(), |_| String::new());
        (old != new).then(|| format!("{} from {} to {}", field.words(), say(old), say(new)))
    });
    let mut reset: Vec<String> = reset.collect();
    if status.is_none() && before.status_from != after.status_from {
        reset.push(Change::of(after, Field::Fate).say(today.chart.structure(), |_| String::new()));
    }
    changes.extend((!reset.is_empty()).then_some(ChangeKind::SettingsChanged));
    details.extend(reset);
    if before.kind == Kind::Sum && before.intervals != after.intervals {
        changes.push(ChangeKind::Rewritten);
        let list = Interval::format_list;
        details.push(format!("{} becomes {}", list(&before.intervals), list(&after.intervals)));
    }
    if let (Some(_), Some(day)) = (status, after.status_from) {
        details.push(format!("from {}", say_day(day)));
    }
    changes.extend(status);
    (changes, details.join("; "))
}

impl MovedYear {
    /// A tally as shown.
    pub fn of(tally: &Tally, today: &Today) -> Vec<Self> {
        let year = |(start, (lines, net)): (&Period, &(u64, i128))| Self {
            end: today.calendar.last_day(start.year_end()).to_string(),
            lines: *lines,
            net: today.currency.format(*net),
        };
        tally.years.iter().map(year).collect()
    }
}

impl RewrittenView {
    /// The lines of reports that follow, as shown.
    pub fn of_report_lines(effects: &Effects) -> impl Iterator<Item = Self> + '_ {
        effects.rewritings.iter().map(|Rewriting { name, from, to, .. }| Self::of(name, from, to))
    }

    /// The sum lines that follow, as shown.
    pub fn of_sum_lines(effects: &Effects) -> impl Iterator<Item = Self> + '_ {
        effects.rows.iter().filter_map(|row| {
            let (before, after) = (row.before.as_ref()?, row.after.as_ref()?);
            (before.intervals != after.intervals)
                .then(|| Self::of(&after.label(), &before.intervals, &after.intervals))
        })
    }

    fn of(label: &str, today: &[Interval], after: &[Interval]) -> Self {
        let label = label.to_owned();
        Self { label, today: Interval::format_list(today), after: Interval::format_list(after) }
    }
}

impl MovedView {
    /// A part of a history as shown.
    pub fn of(moved: &Moved, today: &Today, rehearsal: &Rehearsal) -> Self {
        let label = |chart: &Chart, id| chart.get(id).map_or_else(String::new, Account::label);
        Self {
            from: moved.from.0,
            from_label: label(&today.chart, moved.from),
            to: moved.to.0,
            to_label: label(&rehearsal.after, moved.to),
            which: moved.which.to_string(),
            lines: moved.tally.lines(),
            net: today.currency.format(moved.tally.net()),
            years: MovedYear::of(&moved.tally, today),
        }
    }
}

impl FindingView {
    /// A finding as shown.
    pub fn of(finding: &Finding) -> Self {
        Self {
            key: finding.key.clone(),
            rule: finding.rule(),
            title: finding.rule().words().to_owned(),
            severity: finding.severity,
            accounts: finding.accounts.iter().map(|id| id.0).collect(),
            sentence: finding.sentence.clone(),
            remedies: finding.remedies.iter().map(RemedyView::of).collect(),
            can_override: finding.rule().can_be_overridden(),
            overridden: finding.overridden.as_ref().map(|o| o.reason.clone()),
            overridden_by: finding.overridden.as_ref().map(|o| o.by.clone()),
        }
    }
}

impl RemedyView {
    fn of(remedy: &Remedy) -> Self {
        let (label, account, wanted) = match remedy {
            Remedy::Advice(advice) => (advice, None, None),
            Remedy::TakeBack { label, account, field } => {
                (label, Some(*account), Some(Wanted::TakeBack(*field)))
            }
            Remedy::Stage { label, account, change } => {
                (label, Some(*account), Some(Wanted::Stage(change.clone())))
            }
        };
        Self { label: label.clone(), account, wanted }
    }
}
