//! The proof of an applied plan as it is shown, in whatever form it was archived.

use zf_core::people::Forms;
use zf_phrases::{Say, findings};
use zf_store::plans::applying::AppliedPlan;
use zf_store::plans::archive::earlier::{
    EarlierCrossing, EarlierFinding, EarlierLine, EarlierMove, EarlierProof,
};
use zf_store::plans::archive::proof::{Proof, ProofFacts};
use zf_wire::rehearsal::{
    AllFigures, ClassFigures, Crossing, FindingView, MovedView, MovedYear, Report, ReportFigures,
    RewrittenView, TrialBalances, TrialLine,
};

/// What a plan did, for whoever has chosen these forms. What was archived in texts is as it was said then.
pub(crate) fn report(applied: &AppliedPlan, forms: Forms) -> Report {
    match &applied.proof {
        Proof::Archived(proof) => {
            let ProofFacts { report, findings, names, .. } = &**proof;
            Report::of(report, findings, &Say::to(forms, names, report.figures.currency))
        }
        Proof::Earlier(proof) => earlier(proof),
    }
}

/// The trial balance before and after.
pub(crate) fn trials(applied: &AppliedPlan) -> TrialBalances {
    match &applied.proof {
        Proof::Archived(proof) => {
            let ProofFacts { report, trials, names, .. } = &**proof;
            TrialBalances::of(trials, &Say::plain(names, report.figures.currency))
        }
        Proof::Earlier(proof) => {
            let trial = |lines: &[EarlierLine]| lines.iter().map(trial_line).collect();
            TrialBalances { today: trial(&proof.trial_today), after: trial(&proof.trial_after) }
        }
    }
}

fn earlier(proof: &EarlierProof) -> Report {
    let rewritten = proof.report_lines.iter().map(|line| RewrittenView {
        label: line.label.clone(),
        today: line.today.clone(),
        after: line.after.clone(),
    });
    Report {
        figures: figures(proof),
        crosswalk: proof.crosswalk.iter().map(crossing).collect(),
        moved: proof.moved.iter().map(moved).collect(),
        report_lines: rewritten.collect(),
        findings: proof.findings.iter().map(finding).collect(),
    }
}

fn figures(proof: &EarlierProof) -> ReportFigures {
    let classes = proof.classes.iter().map(|class| ClassFigures {
        class: class.class,
        today: class.today.clone(),
        after: class.after.clone(),
        difference: class.difference.clone(),
    });
    let all = proof.all();
    ReportFigures {
        currency: proof.currency.clone(),
        accounts_today: proof.accounts_today,
        accounts_after: proof.accounts_after,
        lines: proof.lines,
        accounted: proof.accounted,
        debits: proof.debits.clone(),
        credits: proof.credits.clone(),
        digest: proof.digest.clone(),
        periods: proof.periods,
        difference: proof.difference.clone(),
        classes: classes.collect(),
        all: AllFigures { today: all.today, after: all.after, difference: all.difference },
    }
}

fn crossing(crossing: &EarlierCrossing) -> Crossing {
    let crossing = crossing.clone();
    Crossing {
        account: crossing.account,
        changes: crossing.changes,
        old_code: crossing.old_code,
        old_name: crossing.old_name,
        new_code: crossing.new_code,
        new_name: crossing.new_name,
        detail: crossing.detail,
        lines: crossing.lines,
        balance: crossing.balance,
    }
}

fn moved(moved: &EarlierMove) -> MovedView {
    let moved = moved.clone();
    let years = moved.years.into_iter();
    MovedView {
        from: moved.from,
        from_label: moved.from_label,
        to: moved.to,
        to_label: moved.to_label,
        which: moved.which,
        lines: moved.lines,
        net: moved.net,
        years: years.map(|y| MovedYear { end: y.end, lines: y.lines, net: y.net }).collect(),
    }
}

fn finding(found: &EarlierFinding) -> FindingView {
    let found = found.clone();
    FindingView {
        key: found.key,
        rule: found.rule,
        title: findings::title(found.rule).to_owned(),
        severity: found.severity,
        accounts: found.accounts,
        sentence: found.sentence,
        remedies: Vec::new(),
        can_override: found.rule.can_be_overridden(),
        overridden: found.overridden,
        overridden_by: found.overridden_by,
    }
}

fn trial_line(line: &EarlierLine) -> TrialLine {
    let EarlierLine { class, code, name, balance } = line.clone();
    TrialLine { class, code, name, balance }
}
