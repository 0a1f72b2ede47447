//! The proof of an applied plan as tables.

use crate::{crosswalk, table};
use zf_sheets::{ColumnKind, Table};
use zf_wire::rehearsal::{Report, TrialBalances, TrialLine};

/// Who applied which plan, and what has been found of it since.
#[derive(Clone, Debug)]
pub struct Applied<'a> {
    /// What the plan is called.
    pub plan: &'a str,
    /// Who applied it.
    pub person: &'a str,
    /// When, as it is shown.
    pub at: String,
    /// What the latest recount from the lines found, in a sentence.
    pub recounted: String,
}

/// All tables of a proof.
pub fn tables(applied: &Applied<'_>, report: &Report, trials: &TrialBalances) -> Vec<Table> {
    vec![
        summary(applied, report),
        trial_balance(trials),
        crosswalk::whole(&report.crosswalk),
        moved(report),
        findings(report),
    ]
}

fn summary(applied: &Applied<'_>, report: &Report) -> Table {
    let rows = [
        ("Plan", applied.plan.to_owned()),
        ("Applied by", applied.person.to_owned()),
        ("Applied at", applied.at.clone()),
        ("Rows of the chart before", report.figures.accounts_today.to_string()),
        ("Rows of the chart after", report.figures.accounts_after.to_string()),
        (
            "Lines before and after",
            format!("{} = {}", report.figures.lines, report.figures.accounted),
        ),
        ("Debits", report.figures.debits.clone()),
        ("Credits", report.figures.credits.clone()),
        ("Content of every line", report.figures.digest.clone()),
        ("Periods", report.figures.periods.to_string()),
        ("Difference", report.figures.difference.clone()),
        ("Recounted from the lines", applied.recounted.clone()),
    ];
    let rows = rows.map(|(what, value)| vec![what.to_owned(), value]).to_vec();
    table("Proof", &[("What", ColumnKind::Text), ("Figure", ColumnKind::Text)], rows)
}

fn trial_balance(trials: &TrialBalances) -> Table {
    const COLUMNS: [(&str, ColumnKind); 5] = [
        ("Side", ColumnKind::Text),
        ("Class", ColumnKind::Text),
        ("Code", ColumnKind::Text),
        ("Name", ColumnKind::Text),
        ("Balance", ColumnKind::Money),
    ];
    let side = |side: &'static str, lines: &[TrialLine]| -> Vec<Vec<String>> {
        let row = |l: &TrialLine| {
            vec![
                side.to_owned(),
                l.class.key().to_owned(),
                l.code.clone(),
                l.name.clone(),
                l.balance.clone(),
            ]
        };
        lines.iter().map(row).collect()
    };
    let rows = [side("before", &trials.today), side("after", &trials.after)].concat();
    table("Trial balance", &COLUMNS, rows)
}

fn moved(report: &Report) -> Table {
    const COLUMNS: [(&str, ColumnKind); 5] = [
        ("From", ColumnKind::Text),
        ("To", ColumnKind::Text),
        ("Which lines", ColumnKind::Text),
        ("Lines", ColumnKind::Text),
        ("Sum", ColumnKind::Money),
    ];
    let rows = report.moved.iter().map(|part| {
        let (from, to) = (part.from_label.clone(), part.to_label.clone());
        vec![from, to, part.which.clone(), part.lines.to_string(), part.net.clone()]
    });
    table("History moved", &COLUMNS, rows.collect())
}

fn findings(report: &Report) -> Table {
    const COLUMNS: [(&str, ColumnKind); 4] = [
        ("Acknowledged", ColumnKind::Text),
        ("Sentence", ColumnKind::Text),
        ("Reason given", ColumnKind::Text),
        ("By", ColumnKind::Text),
    ];
    let rows = report.findings.iter().map(|f| {
        let said = |text: &Option<String>| text.clone().unwrap_or_default();
        vec![f.title.clone(), f.sentence.clone(), said(&f.overridden), said(&f.overridden_by)]
    });
    table("Cautions", &COLUMNS, rows.collect())
}
