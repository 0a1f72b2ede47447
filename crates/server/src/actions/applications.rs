//! Apply, proof and undo.

use crate::etag::{Known, Tag};
use crate::extract::{Form, Query};
use crate::session::In;
use crate::values::checked_page;
use crate::{App, Problem, proofs};
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::Response;
use serde::Serialize;
use std::time::Instant;
use zf_core::ids::{BooksId, PlanId};
use zf_core::names::Charts;
use zf_core::rehearsal::report;
use zf_phrases::Say;
use zf_store::jobs::RecountState;
use zf_store::member::Member;
use zf_store::plans::applying::{Agreement, AppliedPlan};
use zf_wire::applications::{AgreementForm, ProofView, UndoView};
use zf_wire::books::Created;
use zf_wire::plans::report::{CrosswalkPage, ReportView, TrialPage};
use zf_wire::rehearsal::Report;
use zf_wire::values::{PageOf, instant};

fn agreement(form: AgreementForm) -> Agreement {
    let acknowledged = form.acknowledged.into_iter().collect();
    let AgreementForm { fingerprint, revision, .. } = form;
    Agreement { fingerprint, revision, acknowledged, books: None }
}

/// Applies a draft.
#[utoipa::path(post, operation_id = "applications_apply", path = "/api/books/{books}/plans/{plan}/apply", request_body = AgreementForm,
    params(("books" = i64, Path), ("plan" = i64, Path)),
    responses((status = 201, body = Created), (status = "4XX", body = Problem)))]
pub(crate) async fn apply(
    State(app): State<App>,
    In(member): In,
    Path((_, plan)): Path<(BooksId, PlanId)>,
    Form(form): Form<AgreementForm>,
) -> Result<(StatusCode, Json<Created>), Problem> {
    let agreed = Agreement { books: Some(app.snapshot(member).await?), ..agreement(form) };
    let began = Instant::now();
    let id = app.store.apply(member, plan, &agreed).await?;
    app.metrics.applied(began.elapsed());
    Ok((StatusCode::CREATED, Json(Created { id: id.0 })))
}

/// Shows the proof of an applied plan, or of an undo.
#[utoipa::path(get, operation_id = "applications_show", path = "/api/books/{books}/applications/{application}",
    params(("books" = i64, Path), ("application" = i64, Path)),
    responses((status = 200, body = ProofView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Path((_, application)): Path<(i64, i64)>,
) -> Result<Json<ProofView>, Problem> {
    let applied = app.store.application(member, application).await?;
    let (recounted_at, recount_misses) = match app.store.recount_state(member, application).await? {
        None | Some(RecountState::Waiting) => (None, Vec::new()),
        Some(RecountState::Done { at, misses }) => (Some(instant(at)), misses),
        Some(RecountState::Failed { at, why }) => {
            let why = Problem::from(why).detail;
            (Some(instant(at)), vec![format!("not recounted: {why}")])
        }
    };
    let report = proofs::report(&applied, member.forms());
    Ok(Json(ProofView {
        id: applied.id,
        name: applied.name,
        person: applied.person,
        applied_at: instant(applied.applied_at),
        undo_of: applied.undo_of,
        undone_by: applied.undone_by,
        recounted_at,
        recount_misses,
        counts: report.counts(),
        report: ReportView::of(&report),
    }))
}

/// Shows the accounts that an applied plan changed, a page at a time.
#[utoipa::path(get, operation_id = "applications_crosswalk", path = "/api/books/{books}/applications/{application}/crosswalk",
    params(("books" = i64, Path), ("application" = i64, Path), PageOf),
    responses((status = 200, body = CrosswalkPage), (status = 304), (status = "4XX", body = Problem)))]
pub(crate) async fn crosswalk(
    State(app): State<App>,
    In(member): In,
    Path((_, application)): Path<(i64, i64)>,
    Query(page): Query<PageOf>,
    known: Known,
) -> Result<Response, Problem> {
    let page = checked_page(page.page)?;
    let of = ("crosswalk", application, page);
    let forms = member.forms();
    let write =
        move |applied: AppliedPlan| CrosswalkPage::of(&proofs::report(&applied, forms), None, page);
    page_of(&app, member, of, &known, write).await
}

/// Shows the trial balance before and after an applied plan, a page at a time.
#[utoipa::path(get, operation_id = "applications_trial_balances", path = "/api/books/{books}/applications/{application}/trial-balances",
    params(("books" = i64, Path), ("application" = i64, Path), PageOf),
    responses((status = 200, body = TrialPage), (status = 304), (status = "4XX", body = Problem)))]
pub(crate) async fn trial_balances(
    State(app): State<App>,
    In(member): In,
    Path((_, application)): Path<(i64, i64)>,
    Query(page): Query<PageOf>,
    known: Known,
) -> Result<Response, Problem> {
    let page = checked_page(page.page)?;
    let of = ("trial", application, page);
    let write = move |applied: AppliedPlan| TrialPage::of(&proofs::trials(&applied).beside(), page);
    page_of(&app, member, of, &known, write).await
}

/// Answers a page of what was proved, which never changes.
async fn page_of<T: Serialize + Send + 'static>(
    app: &App,
    member: Member,
    of: (&str, i64, u32),
    known: &Known,
    write: impl FnOnce(AppliedPlan) -> T + Send + 'static,
) -> Result<Response, Problem> {
    let tag = Tag::of((member.books(), of, member.forms()));
    if let Some(unchanged) = tag.unchanged(known) {
        return Ok(unchanged);
    }
    let (_, application, _) = of;
    let applied = app.store.application(member, application).await?;
    tag.answer(move || write(applied)).await
}

/// Rehearses the undo of an applied plan.
#[utoipa::path(get, operation_id = "applications_rehearse_undo", path = "/api/books/{books}/applications/{application}/undo",
    params(("books" = i64, Path), ("application" = i64, Path)),
    responses((status = 200, body = UndoView), (status = "4XX", body = Problem)))]
pub(crate) async fn rehearse_undo(
    State(app): State<App>,
    In(member): In,
    Path((_, application)): Path<(i64, i64)>,
) -> Result<Json<UndoView>, Problem> {
    let (snapshot, rehearsal) = app.store.rehearse_undo(member, application).await?;
    let today = &snapshot.today;
    let names = Charts { today: &today.chart, after: &rehearsal.after };
    let say = Say::to(member.forms(), &names, today.currency);
    let report = Report::of(&report::Report::of(today, &rehearsal), &rehearsal.findings, &say);
    let fingerprint = rehearsal.fingerprint();
    Ok(Json(UndoView { fingerprint, report: ReportView::of(&report) }))
}

/// Undoes an applied plan.
#[utoipa::path(post, operation_id = "applications_undo", path = "/api/books/{books}/applications/{application}/undo",
    request_body = AgreementForm,
    params(("books" = i64, Path), ("application" = i64, Path)),
    responses((status = 201, body = Created), (status = "4XX", body = Problem)))]
pub(crate) async fn undo(
    State(app): State<App>,
    In(member): In,
    Path((_, application)): Path<(i64, i64)>,
    Form(form): Form<AgreementForm>,
) -> Result<(StatusCode, Json<Created>), Problem> {
    let agreed = Agreement { books: Some(app.snapshot(member).await?), ..agreement(form) };
    let id = app.store.undo(member, application, &agreed).await?;
    Ok((StatusCode::CREATED, Json(Created { id: id.0 })))
}
