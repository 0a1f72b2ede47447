//! Files to hand over.

use crate::extract::Query;
use crate::files::{asked, audit, journal, saved};
use crate::session::{In, SignedIn};
use crate::state::off_thread;
use crate::values::{accounts_of, day};
use crate::{App, Problem, proofs};
use axum::extract::{Path, State};
use axum::response::Response;
use zf_core::chart::Chart;
use zf_core::file_kind::FileKind;
use zf_core::people::Forms;
use zf_exports::proof::Applied;
use zf_exports::{balances, crosswalk, forms, items, usage};
use zf_sheets::Format;
use zf_store::jobs::RecountState;
use zf_store::journal::lines::JournalFilter;
use zf_wire::exports::ExportQuery;
use zf_wire::values::instant;

/// Hands over a proof as XLSX.
#[utoipa::path(get, operation_id = "files_proof", path = "/api/books/{books}/applications/{application}/proof.xlsx",
    params(("books" = i64, Path), ("application" = i64, Path)),
    responses((status = 200, content_type = "application/octet-stream"), (status = "4XX", body = Problem)))]
pub(crate) async fn proof(
    State(app): State<App>,
    In(member): In,
    Path((_, application)): Path<(i64, i64)>,
) -> Result<Response, Problem> {
    let applied = app.store.application(member, application).await?;
    let recount = app.store.recount_state(member, application).await?;
    let recounted = match recount {
        None | Some(RecountState::Waiting) => "not yet".to_owned(),
        Some(RecountState::Done { at, .. }) => instant(at),
        Some(RecountState::Failed { why, .. }) => format!("no: {}", Problem::from(why).detail),
    };
    let report = proofs::report(&applied, Forms::default());
    let trials = proofs::trials(&applied);
    let head = Applied {
        plan: &applied.name,
        person: &applied.person,
        at: instant(applied.applied_at),
        recounted,
    };
    let tables = zf_exports::proof::tables(&head, &report, &trials);
    saved(&format!("proof-{application}"), Format::Xlsx, tables).await
}

/// Which part of the journal is wanted.
fn journal_filter(asked: &ExportQuery, chart: &Chart) -> Result<JournalFilter, Problem> {
    let account = accounts_of(chart, "account", asked.account)?.first().copied();
    let (from, to) = (day("from", asked.from.as_deref())?, day("to", asked.to.as_deref())?);
    Ok(JournalFilter { account, from, to })
}

/// Hands over a part of the books: `chart`, `journal`, `trial-balance`, `where-used`, `items` or, of a draft,
/// `crosswalk`, as CSV, XLSX or ODS, or all of them as a Standard Audit File, `books.xml`.
#[utoipa::path(get, operation_id = "files_export", path = "/api/books/{books}/exports/{file}",
    params(("books" = i64, Path), ("file" = String, Path), ExportQuery),
    responses((status = 200, content_type = "application/octet-stream"), (status = "4XX", body = Problem)))]
pub(crate) async fn export(
    State(app): State<App>,
    In(member): In,
    Path((_, file)): Path<(i64, String)>,
    Query(query): Query<ExportQuery>,
) -> Result<Response, Problem> {
    if file == "books.xml" {
        return audit::file(&app, member).await;
    }
    let (name, format) = asked(&file)?;
    let snapshot = app.snapshot(member).await?;
    let today = &snapshot.today;
    if name == "journal" {
        return journal::file(&app, member, format, &journal_filter(&query, &today.chart)?).await;
    }
    let table = match name {
        "chart" => {
            let (snapshot, proposed) = (snapshot.clone(), query.proposed.unwrap_or(true));
            off_thread(move || zf_exports::chart::table(&snapshot.today.chart, proposed)).await?
        }
        "trial-balance" => balances::table(today, &app.store.trial_balance(member).await?),
        "where-used" => usage::table(&today.chart, &app.store.uses(member).await?, today.currency),
        "items" => items::table(today.chart.structure()),
        "crosswalk" => {
            let plan = query.plan.ok_or_else(|| Problem::field("plan", "say which draft"))?;
            let (.., rehearsed) = app.rehearsed(member, plan).await?;
            // Files keep forms of their own.
            let report = rehearsed.report(Forms::default());
            off_thread(move || crosswalk::to_import(&report.crosswalk)).await?
        }
        _ => return Err(Problem::field("file", "no such file is handed over")),
    };
    saved(name, format, vec![table]).await
}

/// Hands over an empty form of what can be imported, as CSV, XLSX or ODS.
#[utoipa::path(get, operation_id = "files_template", path = "/api/templates/{file}",
    params(("file" = String, Path)),
    responses((status = 200, content_type = "application/octet-stream"), (status = "4XX", body = Problem)))]
pub(crate) async fn form(_: SignedIn, Path(file): Path<String>) -> Result<Response, Problem> {
    let (name, format) = asked(&file)?;
    let kind = FileKind::from_key(name)
        .ok_or_else(|| Problem::field("file", "no such file can be imported"))?;
    saved(name, format, forms::tables(kind)).await
}
