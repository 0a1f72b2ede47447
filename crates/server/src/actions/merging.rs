//! Merging by hand or after a finding: the accounts side by side.

use crate::extract::Query;
use crate::session::In;
use crate::state::off_thread;
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use zf_core::ids::AccountId;
use zf_core::review::side_by_side::side_by_side;
use zf_wire::merging::{MergingView, Which};
use zf_wire::problem::ProblemCode;

/// How many accounts are set side by side at most.
pub(crate) const MOST: usize = 200;

/// Sets accounts side by side.
#[utoipa::path(get, operation_id = "merging_show", path = "/api/books/{books}/merging",
    params(("books" = i64, Path), Which),
    responses((status = 200, body = MergingView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Query(which): Query<Which>,
) -> Result<Json<MergingView>, Problem> {
    let numbers = which.accounts.split(',').map(|number| number.trim().parse().map(AccountId));
    let accounts: Vec<AccountId> = numbers
        .collect::<Result<_, _>>()
        .map_err(|_| Problem::field("accounts", "give the numbers of accounts"))?;
    if accounts.len() > MOST {
        let why = format!("at most {MOST} accounts are set side by side, not {}", accounts.len());
        return Err(Problem::field("accounts", why));
    }
    let snapshot = app.snapshot(member).await?;
    let view = move || {
        let beside = side_by_side(&snapshot.today, &accounts)?;
        Some(MergingView::of(&beside, &snapshot.today, member.forms()))
    };
    off_thread(view).await?.map(Json).ok_or_else(|| {
        let none = "none of these is a row of the chart";
        Problem::new(StatusCode::NOT_FOUND, ProblemCode::NotFound, none)
    })
}
