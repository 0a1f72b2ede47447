//! The proof of an applied plan as tables.

use super::{crosswalk, table};
use crate::proved;
use crate::values::instant;
use zf_core::people::Forms;
use zf_sheets::{ColumnKind, Table};
use zf_store::plans::applying::AppliedPlan;
use zf_wire::rehearsal::{Report, TrialBalances, TrialLine};

pub(crate) fn tables(applied: &AppliedPlan, recounted: &str) -> Vec<Table> {
    let report = proved::report(applied, Forms::default());
    vec![
        summary(applied, &report, recounted),
        trial_balance(&proved::trials(applied)),
        crosswalk::table(&report.crosswalk),
        moved(&report),
        findings(&report),
    ]
}

fn summary(applied: &AppliedPlan, report: &Report, recounted: &str) -> Table {
    let rows = [
        ("Plan", applied.name.clone()),
        ("Applied by", applied.person.clone()),
        ("Applied at", instant(applied.applied_at)),
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
        ("Recounted from the lines", recounted.to_owned()),
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
