//! A rehearsal as it is sent: what a plan does, and the proof that nothing is lost. Amounts are texts with the
//! decimal places of the base currency; debits are positive.

use serde::Serialize;
use std::collections::BTreeMap;
use utoipa::ToSchema;
use zf_core::chart::{Called, Class};
use zf_core::code::{Code, Interval};
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::plan::edit::Wanted;
use zf_core::rehearsal::cause::SumOf;
use zf_core::rehearsal::finding::{Finding, Remedy};
use zf_core::rehearsal::report::{self, ChangeKind, Followed, MovedPart};
use zf_core::rehearsal::rule::{Rule, Severity};
use zf_phrases::reports::EARLIER_RESULTS;
use zf_phrases::{Say, changes, findings};

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
#[derive(Clone, Debug, PartialEq, Eq, Serialize, ToSchema)]
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
#[derive(Clone, Debug, PartialEq, Eq, Serialize, ToSchema)]
pub struct AllFigures {
    /// Today.
    pub today: String,
    /// After.
    pub after: String,
    /// After less today.
    pub difference: String,
}

/// How many accounts change in one way.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, ToSchema)]
pub struct ChangeCount {
    /// The kind of change.
    pub change: ChangeKind,
    /// The same in words.
    pub words: &'static str,
    /// How many accounts.
    pub accounts: usize,
}

/// One account that changes.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, ToSchema)]
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
#[derive(Clone, Debug, PartialEq, Eq, Serialize, ToSchema)]
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
#[derive(Clone, Debug, PartialEq, Eq, Serialize, ToSchema)]
pub struct MovedYear {
    /// The last day of the year.
    pub end: String,
    /// How many lines.
    pub lines: u64,
    /// What they add up to.
    pub net: String,
}

/// A line that adds up other codes After, for the same accounts.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, ToSchema)]
pub struct RewrittenView {
    /// How it is spoken of.
    pub label: String,
    /// What it adds up today.
    pub today: String,
    /// What it adds up After.
    pub after: String,
}

/// A class on both sides.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, ToSchema)]
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
#[derive(Clone, Debug, PartialEq, Eq, Serialize, ToSchema)]
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
#[derive(Clone, Debug, PartialEq, Eq, Serialize, ToSchema)]
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
#[derive(Clone, Debug, PartialEq, Eq, Serialize, ToSchema)]
pub struct RemedyView {
    /// What the button or the advice says.
    pub label: String,
    /// The account to change.
    pub account: Option<AccountId>,
    /// What to do with it.
    pub wanted: Option<Wanted>,
}

impl Report {
    /// What a rehearsal does, and what blocks it.
    pub fn of(report: &report::Report, findings: &[Finding], say: &Say<'_>) -> Self {
        Self {
            figures: ReportFigures::of(&report.figures),
            crosswalk: report
                .crosswalk
                .iter()
                .map(|crossing| Crossing::of(crossing, say))
                .collect(),
            moved: report.moved.iter().map(|moved| MovedView::of(moved, say)).collect(),
            report_lines: report
                .report_lines
                .iter()
                .map(|line| RewrittenView::of(line, say))
                .collect(),
            findings: findings.iter().map(|finding| FindingView::of(finding, say)).collect(),
        }
    }

    /// How many accounts change in each way that any does. One can change in several.
    pub fn counts(&self) -> Vec<ChangeCount> {
        let counts = report::counts(self.crosswalk.iter().flat_map(|crossing| &crossing.changes));
        let count = |(change, accounts): (ChangeKind, usize)| ChangeCount {
            change,
            words: changes::kind(change),
            accounts,
        };
        counts.into_iter().map(count).collect()
    }
}

impl ReportFigures {
    fn of(figures: &report::ReportFigures) -> Self {
        let money = |minor: i128| figures.currency.format(minor);
        let all = figures.all();
        let class = |(class, sides): &(Class, report::Sides)| ClassFigures {
            class: *class,
            today: money(sides.today),
            after: money(sides.after),
            difference: money(sides.difference()),
        };
        Self {
            currency: figures.currency.to_string(),
            accounts_today: figures.accounts_today,
            accounts_after: figures.accounts_after,
            lines: figures.lines,
            accounted: figures.accounted,
            debits: money(figures.debits),
            credits: money(figures.credits),
            digest: figures.digest.clone(),
            periods: figures.periods,
            difference: money(figures.difference),
            classes: figures.classes.iter().map(class).collect(),
            all: AllFigures {
                today: money(all.today),
                after: money(all.after),
                difference: money(all.difference()),
            },
        }
    }
}

impl Crossing {
    fn of(crossing: &report::Crossing, say: &Say<'_>) -> Self {
        let before = say.names.today(crossing.account);
        let after = crossing.holder.and_then(|holder| say.names.after(holder));
        Self {
            account: crossing.account.0,
            changes: crossing.changes.clone(),
            old_code: before.map(|called| called.code.to_string()),
            old_name: before.map(|called| called.name.to_owned()),
            new_code: after.map(|called| called.code.to_string()),
            new_name: after.map(|called| called.name.to_owned()),
            detail: say.details(&crossing.details),
            lines: crossing.lines,
            balance: say.currency.format(crossing.balance),
        }
    }
}

impl TrialBalances {
    /// The trial balance with the names of the accounts.
    pub fn of(trials: &report::TrialBalances, say: &Say<'_>) -> Self {
        let line = |line: &report::TrialLine, called: Option<Called<'_>>| TrialLine {
            class: line.class,
            code: called.map_or_else(String::new, |called| called.code.to_string()),
            name: called
                .map_or_else(|| EARLIER_RESULTS.to_owned(), |called| called.name.to_owned()),
            balance: say.currency.format(line.balance),
        };
        let today = trials
            .today
            .iter()
            .map(|one| line(one, one.account.and_then(|id| say.names.today(id))));
        let after = trials
            .after
            .iter()
            .map(|one| line(one, one.account.and_then(|id| say.names.after(id))));
        Self { today: today.collect(), after: after.collect() }
    }

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
}

impl MovedYear {
    /// What lines of one fiscal year add up to.
    pub fn of(year: &report::MovedYear, currency: Currency) -> Self {
        Self { end: year.end.to_string(), lines: year.lines, net: currency.format(year.net) }
    }
}

impl RewrittenView {
    /// Something that adds up other codes After.
    pub fn of(followed: &Followed, say: &Say<'_>) -> Self {
        let called = |id| say.names.after(id).map(Called::label);
        Self {
            label: match &followed.sum {
                SumOf::Row(id) => called(*id).unwrap_or_default(),
                SumOf::Report(name) => name.clone(),
            },
            today: Interval::format_list(&followed.today),
            after: Interval::format_list(&followed.after),
        }
    }
}

impl MovedView {
    fn of(moved: &MovedPart, say: &Say<'_>) -> Self {
        let label = |called: Option<Called<'_>>| called.map_or_else(String::new, Called::label);
        Self {
            from: moved.from.0,
            from_label: label(say.names.today(moved.from)),
            to: moved.to.0,
            to_label: label(say.names.after(moved.to)),
            which: changes::which(&moved.which, say.style),
            lines: moved.lines,
            net: say.currency.format(moved.net),
            years: moved.years.iter().map(|year| MovedYear::of(year, say.currency)).collect(),
        }
    }
}

impl FindingView {
    /// A finding in words.
    pub fn of(finding: &Finding, say: &Say<'_>) -> Self {
        let remedy = |remedy: &Remedy| RemedyView::of(remedy, finding, say);
        Self {
            key: finding.key.clone(),
            rule: finding.rule(),
            title: findings::title(finding.rule()).to_owned(),
            severity: finding.severity,
            accounts: finding.accounts.iter().map(|id| id.0).collect(),
            sentence: findings::sentence(&finding.cause, finding.severity, say),
            remedies: finding.remedies.iter().map(remedy).collect(),
            can_override: finding.rule().can_be_overridden(),
            overridden: finding.overridden.as_ref().map(|o| o.reason.clone()),
            overridden_by: finding.overridden.as_ref().map(|o| o.by.clone()),
        }
    }
}

impl RemedyView {
    fn of(remedy: &Remedy, finding: &Finding, say: &Say<'_>) -> Self {
        let (account, wanted) = match remedy {
            Remedy::Advice => (None, None),
            Remedy::Unstage { account, field } => (Some(*account), Some(Wanted::Unstage(*field))),
            Remedy::Stage { account, change } => {
                (Some(*account), Some(Wanted::Stage(change.clone())))
            }
        };
        Self { label: findings::remedy(remedy, &finding.cause, say), account, wanted }
    }
}
