//! Files to hand over: the proof of an applied plan as a workbook.

use super::instant;
use crate::session::In;
use crate::state::off_thread;
use crate::{App, Problem};
use axum::extract::{Path, State};
use axum::http::header;
use axum::response::IntoResponse;
use zf_core::rehearsal::report::{Report, TrialLine};
use zf_sheets::{ColumnKind, Table, xlsx};
use zf_store::applying::AppliedPlan;

const XLSX: &str = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

/// Hands over a proof as XLSX.
#[utoipa::path(get, operation_id = "files_proof", path = "/api/books/{books}/applications/{application}/proof.xlsx",
    params(("books" = i64, Path), ("application" = i64, Path)),
    responses((status = 200, content_type = "application/octet-stream"), (status = "4XX", body = Problem)))]
pub(crate) async fn proof(
    State(app): State<App>,
    In(member): In,
    Path((_, application)): Path<(i64, i64)>,
) -> Result<impl IntoResponse, Problem> {
    let applied = app.store.application(member, application).await?;
    let recount = app.store.recount_state(member, application).await?;
    let recounted = recount.and_then(|r| r.finished_at).map_or("not yet".to_owned(), instant);
    let name = format!("attachment; filename=\"proof-{application}.xlsx\"");
    let content = off_thread(move || xlsx(&tables(&applied, &recounted))).await?;
    let content = content.map_err(|e| Problem::internal(&e))?;
    Ok(([(header::CONTENT_TYPE, XLSX.to_owned()), (header::CONTENT_DISPOSITION, name)], content))
}

fn tables(applied: &AppliedPlan, recounted: &str) -> Vec<Table> {
    vec![
        summary(applied, recounted),
        trial_balance(&applied.report),
        crosswalk(&applied.report),
        findings(&applied.report),
    ]
}

fn table(name: &str, columns: &[(&str, ColumnKind)], rows: Vec<Vec<String>>) -> Table {
    let columns = columns.iter().map(|(title, kind)| ((*title).to_owned(), *kind)).collect();
    Table { name: name.to_owned(), columns, rows }
}

fn summary(applied: &AppliedPlan, recounted: &str) -> Table {
    let report = &applied.report;
    let rows = [
        ("Plan", applied.name.clone()),
        ("Applied by", applied.person.clone()),
        ("Applied at", instant(applied.applied_at)),
        ("Rows of the chart before", report.accounts_today.to_string()),
        ("Rows of the chart after", report.accounts_after.to_string()),
        ("Lines before and after", format!("{} = {}", report.lines, report.accounted)),
        ("Debits", report.debits.clone()),
        ("Credits", report.credits.clone()),
        ("Content of every line", report.digest.clone()),
        ("Periods", report.periods.to_string()),
        ("Difference", report.difference.clone()),
        ("Recounted from the lines", recounted.to_owned()),
    ];
    let rows = rows.map(|(what, value)| vec![what.to_owned(), value]).to_vec();
    table("Proof", &[("What", ColumnKind::Text), ("Figure", ColumnKind::Text)], rows)
}

fn trial_balance(report: &Report) -> Table {
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
                l.class.clone(),
                l.code.clone(),
                l.name.clone(),
                l.balance.clone(),
            ]
        };
        lines.iter().map(row).collect()
    };
    let rows = [side("before", &report.trial_today), side("after", &report.trial_after)].concat();
    table("Trial balance", &COLUMNS, rows)
}

fn crosswalk(report: &Report) -> Table {
    const COLUMNS: [(&str, ColumnKind); 8] = [
        ("Old code", ColumnKind::Text),
        ("Old name", ColumnKind::Text),
        ("New code", ColumnKind::Text),
        ("New name", ColumnKind::Text),
        ("What happened", ColumnKind::Text),
        ("Details", ColumnKind::Text),
        ("Lines", ColumnKind::Count),
        ("Balance before", ColumnKind::Money),
    ];
    let rows = report.crosswalk.iter().map(|c| {
        let text = |t: &Option<String>| t.clone().unwrap_or_default();
        vec![
            text(&c.old_code),
            text(&c.old_name),
            text(&c.new_code),
            text(&c.new_name),
            c.changes.join(", "),
            c.detail.clone(),
            c.lines.to_string(),
            c.balance.clone(),
        ]
    });
    table("Crosswalk", &COLUMNS, rows.collect())
}

fn findings(report: &Report) -> Table {
    const COLUMNS: [(&str, ColumnKind); 3] = [
        ("Acknowledged", ColumnKind::Text),
        ("Sentence", ColumnKind::Text),
        ("Reason given", ColumnKind::Text),
    ];
    let rows = report.findings.iter().map(|f| {
        vec![f.title.clone(), f.sentence.clone(), f.overridden.clone().unwrap_or_default()]
    });
    table("Cautions", &COLUMNS, rows.collect())
}
