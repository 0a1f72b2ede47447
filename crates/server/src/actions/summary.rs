//! What one wants to know of a set of books before opening it.

use super::dismissed;
use super::review::Looking;
use crate::session::In;
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use zf_core::plan::PlanStatus;
use zf_wire::summary::{OpenPlanView, SummaryView};

/// Sums a set of books up.
#[utoipa::path(get, operation_id = "books_summary", path = "/api/books/{books}/summary", params(("books" = i64, Path)),
    responses((status = 200, body = SummaryView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
) -> Result<Json<SummaryView>, Problem> {
    let looking = Looking::at(&app, member, None).await?;
    let review = looking.find(&app, member).await?;
    let right = dismissed::of_all(&app.store.dismissed(member).await?);
    let mut plans = Vec::new();
    for plan in app.store.plans(member).await? {
        if plan.status != PlanStatus::Draft {
            continue;
        }
        let (_, _, rehearsed) = app.rehearsed(member, plan.id).await?;
        plans.push(OpenPlanView {
            id: plan.id.0,
            name: plan.name,
            person: plan.person,
            changes: rehearsed.changes(),
            stops: rehearsed.rehearsal.stops().count(),
        });
    }
    let today = &looking.snapshot.today;
    let last = today.figures().values().filter_map(|figures| figures.last).max();
    let people = app.store.members(member.books()).await?;
    Ok(Json(SummaryView {
        as_of: today.activity.last().map(|last| today.calendar.last_day(last).to_string()),
        last_posted: last.map(|day| day.to_string()),
        plans,
        look_alikes: review.look_alikes.sure.len() + review.look_alikes.worth_a_look.len(),
        unused: review.unused.iter().filter(|unused| unused.fate.is_some()).count(),
        remarks: review.remarks.iter().filter(|(remark, _)| !right.has(remark)).count(),
        people: people.into_iter().map(|one| one.name).collect(),
    }))
}
