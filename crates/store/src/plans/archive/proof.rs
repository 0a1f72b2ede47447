//! The proof of an application as it is archived: in a form of its own that no screen changes, with a
//! version. What was archived in an earlier form is read for good.

use serde::{Deserialize, Serialize};
use zf_core::chart::Class;
use zf_core::money::Currency;
use zf_core::rehearsal::report::{
    AllFigures, ChangeKind, ClassFigures, Crossing, FindingView, MovedView, MovedYear, Report,
    ReportFigures, RewrittenView, TrialBalances, TrialLine,
};
use zf_core::rehearsal::rule::{Rule, Severity};

/// The version that is written. The first knew neither moved histories, lines of reports nor who overrode
/// a stop; the second kept the ways out of what was found; neither said its version, nor what all accounts
/// add up to.
const VERSION: u8 = 3;

/// Declares the archived form of something whose fields are kept as they are.
macro_rules! archived {
    ($($name:ident of $shown:ident { $($field:ident: $type:ty),+ $(,)? })+) => { $(
        #[derive(Debug, Serialize, Deserialize)]
        struct $name { $($field: $type),+ }

        impl From<$shown> for $name {
            fn from($shown { $($field),+ }: $shown) -> Self {
                Self { $($field),+ }
            }
        }

        impl From<$name> for $shown {
            fn from($name { $($field),+ }: $name) -> Self {
                Self { $($field),+ }
            }
        }
    )+ };
}

archived! {
    ArchivedCrossing of Crossing {
        account: i64,
        changes: Vec<ChangeKind>,
        old_code: Option<String>,
        old_name: Option<String>,
        new_code: Option<String>,
        new_name: Option<String>,
        detail: String,
        lines: u64,
        balance: String,
    }
    ArchivedYear of MovedYear { end: String, lines: u64, net: String }
    ArchivedRewriting of RewrittenView { label: String, today: String, after: String }
    ArchivedClass of ClassFigures { class: Class, today: String, after: String, difference: String }
    ArchivedTotal of AllFigures { today: String, after: String, difference: String }
    ArchivedLine of TrialLine { class: Class, code: String, name: String, balance: String }
}

#[derive(Debug, Serialize, Deserialize)]
struct ArchivedMove {
    from: i64,
    from_label: String,
    to: i64,
    to_label: String,
    which: String,
    lines: u64,
    net: String,
    years: Vec<ArchivedYear>,
}

/// What stood against the plan, without the ways out: they are of then.
#[derive(Debug, Serialize, Deserialize)]
struct ArchivedFinding {
    key: String,
    rule: Rule,
    severity: Severity,
    accounts: Vec<i64>,
    sentence: String,
    overridden: Option<String>,
    #[serde(default)]
    overridden_by: Option<String>,
}

/// A proof as archived.
#[derive(Debug, Serialize, Deserialize)]
pub(in crate::plans) struct ArchivedProof {
    #[serde(default)]
    version: Option<u8>,
    currency: String,
    accounts_today: usize,
    accounts_after: usize,
    lines: u64,
    accounted: u64,
    debits: String,
    credits: String,
    digest: String,
    periods: usize,
    difference: String,
    classes: Vec<ArchivedClass>,
    #[serde(default)]
    all: Option<ArchivedTotal>,
    crosswalk: Vec<ArchivedCrossing>,
    #[serde(default)]
    moved: Vec<ArchivedMove>,
    #[serde(default)]
    report_lines: Vec<ArchivedRewriting>,
    findings: Vec<ArchivedFinding>,
    trial_today: Vec<ArchivedLine>,
    trial_after: Vec<ArchivedLine>,
}

fn each<A: Into<B>, B>(all: Vec<A>) -> Vec<B> {
    all.into_iter().map(Into::into).collect()
}

/// What all classes come to, of a proof that did not say it.
fn total(currency: &str, classes: &[ArchivedClass]) -> AllFigures {
    let minor = |amount: &str| amount.replace('.', "").parse::<i128>().unwrap_or_default();
    let sum = |of: fn(&ArchivedClass) -> &str| {
        let sum: i128 = classes.iter().map(|class| minor(of(class))).sum();
        Currency::parse(currency).map_or_else(|_| sum.to_string(), |known| known.format(sum))
    };
    AllFigures {
        today: sum(|class| &class.today),
        after: sum(|class| &class.after),
        difference: sum(|class| &class.difference),
    }
}

impl From<MovedView> for ArchivedMove {
    fn from(moved: MovedView) -> Self {
        let MovedView { from, from_label, to, to_label, which, lines, net, years } = moved;
        Self { from, from_label, to, to_label, which, lines, net, years: each(years) }
    }
}

impl From<ArchivedMove> for MovedView {
    fn from(moved: ArchivedMove) -> Self {
        let ArchivedMove { from, from_label, to, to_label, which, lines, net, years } = moved;
        Self { from, from_label, to, to_label, which, lines, net, years: each(years) }
    }
}

impl From<FindingView> for ArchivedFinding {
    fn from(found: FindingView) -> Self {
        Self {
            key: found.key,
            rule: found.rule,
            severity: found.severity,
            accounts: found.accounts,
            sentence: found.sentence,
            overridden: found.overridden,
            overridden_by: found.overridden_by,
        }
    }
}

impl From<ArchivedFinding> for FindingView {
    fn from(found: ArchivedFinding) -> Self {
        Self {
            key: found.key,
            rule: found.rule,
            title: found.rule.words().to_owned(),
            severity: found.severity,
            accounts: found.accounts,
            sentence: found.sentence,
            remedies: Vec::new(),
            can_override: found.rule.can_be_overridden(),
            overridden: found.overridden,
            overridden_by: found.overridden_by,
        }
    }
}

impl ArchivedProof {
    /// What is archived of what was proved.
    pub(in crate::plans) fn of(report: Report, trials: TrialBalances) -> Self {
        let Report { figures, crosswalk, moved, report_lines, findings } = report;
        Self {
            version: Some(VERSION),
            currency: figures.currency,
            accounts_today: figures.accounts_today,
            accounts_after: figures.accounts_after,
            lines: figures.lines,
            accounted: figures.accounted,
            debits: figures.debits,
            credits: figures.credits,
            digest: figures.digest,
            periods: figures.periods,
            difference: figures.difference,
            classes: each(figures.classes),
            all: Some(figures.all.into()),
            crosswalk: each(crosswalk),
            moved: each(moved),
            report_lines: each(report_lines),
            findings: each(findings),
            trial_today: each(trials.today),
            trial_after: each(trials.after),
        }
    }

    /// The proof as it is shown, from whatever version.
    pub(in crate::plans) fn shown(self) -> (Report, TrialBalances) {
        let all = self.all.map_or_else(|| total(&self.currency, &self.classes), AllFigures::from);
        let figures = ReportFigures {
            all,
            currency: self.currency,
            accounts_today: self.accounts_today,
            accounts_after: self.accounts_after,
            lines: self.lines,
            accounted: self.accounted,
            debits: self.debits,
            credits: self.credits,
            digest: self.digest,
            periods: self.periods,
            difference: self.difference,
            classes: each(self.classes),
        };
        let report = Report {
            figures,
            crosswalk: each(self.crosswalk),
            moved: each(self.moved),
            report_lines: each(self.report_lines),
            findings: each(self.findings),
        };
        let trials = TrialBalances { today: each(self.trial_today), after: each(self.trial_after) };
        (report, trials)
    }
}

#[cfg(test)]
mod tests {
    #![allow(clippy::unwrap_used, reason = "what cannot be read fails the test")]

    use super::*;
    use serde_json::{Value, from_str, from_value, to_value};

    const FIRST: &str = include_str!("../../../tests/all/fixtures/proof_1.json");
    const SECOND: &str = include_str!("../../../tests/all/fixtures/proof_2.json");
    const THIRD: &str = include_str!("../../../tests/all/fixtures/proof_3.json");

    fn read(text: &str) -> (Report, TrialBalances) {
        from_str::<ArchivedProof>(text).unwrap().shown()
    }

    #[test]
    fn what_is_written_now_is_what_the_third_version_is() {
        let (report, trials) = read(THIRD);
        let again = to_value(ArchivedProof::of(report, trials)).unwrap();
        assert_eq!(again, from_str::<Value>(THIRD).unwrap());
    }

    #[test]
    fn all_versions_of_one_proof_say_what_they_know_of_it() {
        let (first, second, third) = (read(FIRST), read(SECOND), read(THIRD));
        assert_eq!(second, third, "nothing that is shown was left out of the third");
        let (mut known, trials) = third;
        assert!(!known.moved.is_empty() && !known.report_lines.is_empty());
        assert!(known.findings.iter().any(|found| found.overridden_by.is_some()));
        (known.moved, known.report_lines) = (Vec::new(), Vec::new());
        known.findings.iter_mut().for_each(|found| found.overridden_by = None);
        assert_eq!(first, (known, trials));
    }

    #[test]
    fn what_is_no_proof_is_not_taken_for_one() {
        let mut proof: Value = from_str(THIRD).unwrap();
        proof.as_object_mut().unwrap().remove("trial_after");
        assert!(from_value::<ArchivedProof>(proof).is_err());
    }
}
