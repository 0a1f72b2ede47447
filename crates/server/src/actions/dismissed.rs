//! Remarks of the review that are right in these books: why, and who said so.

use crate::extract::Form;
use crate::session::In;
use crate::values::{accounts_of, reason};
use crate::{App, Problem};
use axum::extract::{Path, State};
use axum::http::StatusCode;
use zf_core::ids::ItemId;
use zf_core::review::dismissed::{Dismissed, Subject};
use zf_core::today::Today;
use zf_phrases::review::title;
use zf_store::review::DismissedRemark;
use zf_wire::review::{DismissForm, DismissedView};
use zf_wire::values::instant;

pub(crate) fn dismissed_view(dismissed: DismissedRemark, today: &Today) -> DismissedView {
    let DismissedRemark { id, kind, about, reason, person, at } = dismissed;
    let about = about.map(|about| match about {
        Subject::Account(id) => today
            .chart
            .get(id)
            .map_or_else(|| "an account that is gone".to_owned(), |account| account.label()),
        Subject::Item(id) => {
            let item = today.chart.structure().items().find(|item| item.id == id);
            item.map_or_else(|| "an item that is gone".to_owned(), |item| item.name.clone())
        }
    });
    DismissedView { id, title: title(kind), about, reason, person, at: instant(at) }
}

/// What is not to be shown again.
pub(crate) fn of_all(dismissed: &[DismissedRemark]) -> Dismissed {
    let mut all = Dismissed::default();
    dismissed.iter().for_each(|one| all.dismiss(one.kind, one.about));
    all
}

/// Remembers that a remark is right in these books, so that it is not shown again.
#[utoipa::path(post, operation_id = "review_dismiss", path = "/api/books/{books}/dismissed", params(("books" = i64, Path)),
    request_body = DismissForm, responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn dismiss(
    State(app): State<App>,
    In(member): In,
    Form(form): Form<DismissForm>,
) -> Result<StatusCode, Problem> {
    let reason = reason(&form.reason)?;
    let snapshot = app.snapshot(member).await?;
    let chart = &snapshot.today.chart;
    let account = accounts_of(chart, "account", form.account)?.first().copied();
    let item = form.item.map(ItemId);
    if item.is_some_and(|id| !chart.structure().items().any(|item| item.id == id)) {
        return Err(Problem::field("item", "the statements have no such item"));
    }
    if account.is_some() && item.is_some() {
        return Err(Problem::field("item", "a remark is about an account or an item"));
    }
    let about = account.map(Subject::Account).or(item.map(Subject::Item));
    app.store.dismiss(member, form.kind, about, reason).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Shows again what was dismissed.
#[utoipa::path(delete, operation_id = "review_forget_dismissed", path = "/api/books/{books}/dismissed/{dismissed}",
    params(("books" = i64, Path), ("dismissed" = i64, Path)),
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn forget(
    State(app): State<App>,
    In(member): In,
    Path((_, dismissed)): Path<(i64, i64)>,
) -> Result<StatusCode, Problem> {
    app.store.forget_dismissed(member, dismissed).await?;
    Ok(StatusCode::NO_CONTENT)
}
