//! The review: what somebody who knows the trade would notice.

use crate::session::In;
use crate::state::off_thread;
use crate::{App, Problem};
use axum::Json;
use axum::extract::State;
use serde::Serialize;
use time::OffsetDateTime;
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::plan::Change;
use zf_core::review::look_alikes::{self, LookAlike};
use zf_core::review::remarks::{self, Remark};
use zf_core::review::unused::{self, Unused};

/// What was noticed in the books as they stand.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ReviewView {
    look_alikes: Vec<LookAlikeView>,
    unused: Vec<UnusedView>,
    others: Vec<RemarkView>,
}

/// Accounts that are probably the same thing.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct LookAlikeView {
    accounts: Vec<i64>,
    /// The one that the others would best be merged into.
    survivor: i64,
    /// How sure it is, of 100.
    score: u8,
    /// What speaks for it, in sentences.
    evidence: Vec<String>,
}

/// An account that is not used.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct UnusedView {
    account: i64,
    last_posted: Option<String>,
    balance: String,
    lines: u64,
    /// The fate that it qualifies for, as it is staged; none when it has to stay.
    fate: Option<String>,
    /// Why it is listed, and what stands against other fates.
    reasons: Vec<String>,
}

/// Something else that is odd.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct RemarkView {
    /// The key of its kind.
    kind: &'static str,
    /// Its kind, in words.
    title: &'static str,
    accounts: Vec<i64>,
    message: String,
}

/// Reviews the books.
#[utoipa::path(get, operation_id = "review_show", path = "/api/books/{books}/review", params(("books" = i64, Path)),
    responses((status = 200, body = ReviewView), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
) -> Result<Json<ReviewView>, Problem> {
    let snapshot = app.snapshot(member).await?;
    let sketches = app.store.sketches(member).await?;
    let day = OffsetDateTime::now_utc().date();
    let review = move || {
        let today = &snapshot.today;
        let look_alikes = look_alikes::find(today, &sketches);
        let unused = unused::find(today, day);
        ReviewView {
            look_alikes: look_alikes.into_iter().map(LookAlikeView::of).collect(),
            unused: unused.into_iter().map(|u| UnusedView::of(u, today.currency)).collect(),
            others: remarks::find(today).into_iter().map(RemarkView::of).collect(),
        }
    };
    Ok(Json(off_thread(review).await?))
}

fn numbers(accounts: &[AccountId]) -> Vec<i64> {
    accounts.iter().map(|id| id.0).collect()
}

impl LookAlikeView {
    fn of(group: LookAlike) -> Self {
        Self {
            accounts: numbers(&group.accounts),
            survivor: group.survivor.0,
            score: (group.score * 100.0).round() as u8,
            evidence: group.evidence,
        }
    }
}

impl UnusedView {
    fn of(unused: Unused, currency: Currency) -> Self {
        Self {
            account: unused.account.0,
            last_posted: unused.last.map(|date| date.to_string()),
            balance: currency.format(unused.balance),
            lines: unused.lines,
            fate: unused.fate.map(|fate| Change::Fate(fate).text()),
            reasons: unused.reasons,
        }
    }
}

impl RemarkView {
    fn of(remark: Remark) -> Self {
        Self {
            kind: remark.kind.key(),
            title: remark.kind.words(),
            accounts: numbers(&remark.accounts),
            message: remark.message,
        }
    }
}
