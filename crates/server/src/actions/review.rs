//! The review: what somebody who knows the trade would notice.

use super::dismissed::{self, dismissed_view};
use crate::cache::{Review, Reviewed};
use crate::etag::{Known, Tag};
use crate::extract::{Form, Query};
use crate::session::In;
use crate::state::off_thread;
use crate::values::{accounts_of, checked_page, day, reason, within};
use crate::{App, Problem};
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::Response;
use std::collections::BTreeSet;
use std::sync::Arc;
use time::{Date, OffsetDateTime};
use zf_core::ids::AccountId;
use zf_core::names::Charts;
use zf_core::review::NotDuplicates;
use zf_core::review::fixes::ways;
use zf_core::review::look_alikes::{self, LookAlike};
use zf_core::review::remarks::{self};
use zf_core::review::unused::{self};
use zf_phrases::Say;
use zf_store::journal::today::Snapshot;
use zf_store::member::Member;
use zf_store::review::MarkedNotDuplicates;
use zf_wire::review::{
    LookAlikeView, NotDuplicatesForm, NotDuplicatesView, RemarkView, RetiredView, ReviewPage,
    Since, UnusedView,
};
use zf_wire::values::{PageOf, instant};

/// How many findings stand on a page: less than 100 KB of them.
const PAGE: usize = 100;

/// Reviews the books, a page of findings at a time.
#[utoipa::path(get, operation_id = "review_show", path = "/api/books/{books}/review", params(("books" = i64, Path), Since, PageOf),
    responses((status = 200, body = ReviewPage), (status = 304), (status = "4XX", body = Problem)))]
pub(crate) async fn show(
    State(app): State<App>,
    In(member): In,
    Query(since): Query<Since>,
    Query(page): Query<PageOf>,
    known: Known,
) -> Result<Response, Problem> {
    let (since, page) = (day("since", since.since.as_deref())?, checked_page(page.page)?);
    let looking = Looking::at(&app, member, since).await?;
    let dismissed = app.store.dismissed(member).await?;
    let ids: Vec<_> = dismissed.iter().map(|one| one.id).collect();
    let forms = member.forms();
    let tag = Tag::of((&looking.of, ids, page, forms));
    if let Some(unchanged) = tag.unchanged(&known) {
        return Ok(unchanged);
    }
    let review = looking.find(&app, member).await?;
    let Looking { snapshot, marked, of: Reviewed { since, .. } } = looking;
    let write = move || {
        let today = &snapshot.today;
        let names = Charts { today: &today.chart, after: &today.chart };
        let say = Say::to(forms, &names, today.currency);
        let alike = |groups: &[LookAlike]| {
            groups.iter().cloned().map(|group| LookAlikeView::of(group, &say)).collect()
        };
        let retired = unused::retired(today);
        let mut shown = Shown::page(page);
        let look_alikes = shown.of(&review.look_alikes.sure);
        let worth_a_look = shown.of(&review.look_alikes.worth_a_look);
        let right = dismissed::of_all(&dismissed);
        let remarks = review.remarks.iter().filter(|(remark, _)| !right.has(remark));
        let remarks: Vec<_> = remarks.collect();
        let (remarks, unused) = (shown.of(&remarks), shown.of(&review.unused));
        let (retired, marked, dismissed) =
            (shown.of(&retired), shown.of(&marked), shown.of(&dismissed));
        ReviewPage {
            since: since.to_string(),
            pages: shown.pages(),
            look_alikes: alike(look_alikes),
            worth_a_look: alike(worth_a_look),
            others: remarks.iter().copied().cloned().map(|one| RemarkView::of(one, &say)).collect(),
            unused: unused.iter().cloned().map(|one| UnusedView::of(one, today, &say)).collect(),
            retired: retired.iter().map(|account| RetiredView::of(account, today)).collect(),
            not_duplicates: marked.iter().cloned().map(not_duplicates_view).collect(),
            dismissed: dismissed.iter().cloned().map(|one| dismissed_view(one, today)).collect(),
        }
    };
    tag.answer(write).await
}

/// What a review looks at.
pub(super) struct Looking {
    pub(super) snapshot: Arc<Snapshot>,
    marked: Vec<MarkedNotDuplicates>,
    of: Reviewed,
}

impl Looking {
    /// The books as they stand, for accounts that were not posted to since a day.
    pub(super) async fn at(
        app: &App,
        member: Member,
        since: Option<Date>,
    ) -> Result<Self, Problem> {
        let snapshot = app.snapshot(member).await?;
        let marked = app.store.not_duplicates(member).await?;
        let now = OffsetDateTime::now_utc().date();
        let since = since.unwrap_or_else(|| unused::usual_since(&snapshot.today, now));
        let of = Reviewed {
            books: member.books(),
            revision: snapshot.books.revision,
            not_duplicates: marked.iter().map(|one| one.id).collect(),
            since,
        };
        Ok(Self { snapshot, marked, of })
    }

    /// What the review finds; what was found before is not looked for again.
    pub(super) async fn find(&self, app: &App, member: Member) -> Result<Arc<Review>, Problem> {
        let since = self.of.since;
        let find = async {
            let sketches = app.store.sketches(member).await?;
            let mut not_duplicates = NotDuplicates::default();
            for one in &self.marked {
                not_duplicates.add(one.accounts.iter().map(|id| AccountId(*id)));
            }
            let books = Arc::clone(&self.snapshot);
            let find = move || {
                let today = &books.today;
                let with_ways = |remark| {
                    let ways = ways(today, &remark);
                    (remark, ways)
                };
                Arc::new(Review {
                    look_alikes: look_alikes::find(today, &sketches, &not_duplicates),
                    unused: unused::find(today, since),
                    remarks: remarks::find(today).into_iter().map(with_ways).collect(),
                })
            };
            off_thread(find).await
        };
        app.kept.reviews.try_get_with(self.of.clone(), find).await.map_err(Problem::shared)
    }
}

/// Which of several lists, one after the other, stand on a page.
struct Shown {
    from: usize,
    before: usize,
}

impl Shown {
    fn page(page: u32) -> Self {
        Self { from: page as usize * PAGE, before: 0 }
    }

    /// What of the next list stands there.
    fn of<'a, T>(&mut self, list: &'a [T]) -> &'a [T] {
        let at = |from: usize| from.saturating_sub(self.before).min(list.len());
        let shown = at(self.from)..at(self.from + PAGE);
        self.before += list.len();
        &list[shown]
    }

    fn pages(&self) -> usize {
        self.before.div_ceil(PAGE).max(1)
    }
}

/// How many accounts are marked at once: more than anybody sets side by side.
const MOST_APART: usize = 200;

/// Remembers that accounts are not the same thing, so that they are not proposed again.
#[utoipa::path(post, operation_id = "review_mark_not_duplicates", path = "/api/books/{books}/not-duplicates", params(("books" = i64, Path)),
    request_body = NotDuplicatesForm, responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn mark_not_duplicates(
    State(app): State<App>,
    In(member): In,
    Form(form): Form<NotDuplicatesForm>,
) -> Result<StatusCode, Problem> {
    let reason = reason(&form.reason)?;
    let accounts: BTreeSet<i64> = form.accounts.into_iter().collect();
    within("accounts", accounts.len(), 2..=MOST_APART)?;
    let snapshot = app.snapshot(member).await?;
    let known = accounts_of(&snapshot.today.chart, "accounts", accounts)?;
    app.store.mark_not_duplicates(member, &known, reason).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Forgets that accounts are not the same thing.
#[utoipa::path(delete, operation_id = "review_unmark_not_duplicates", path = "/api/books/{books}/not-duplicates/{mark}",
    params(("books" = i64, Path), ("mark" = i64, Path)),
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn unmark_not_duplicates(
    State(app): State<App>,
    In(member): In,
    Path((_, mark)): Path<(i64, i64)>,
) -> Result<StatusCode, Problem> {
    app.store.unmark_not_duplicates(member, mark).await?;
    Ok(StatusCode::NO_CONTENT)
}

fn not_duplicates_view(marked: MarkedNotDuplicates) -> NotDuplicatesView {
    let MarkedNotDuplicates { id, accounts, reason, person, at } = marked;
    NotDuplicatesView { id, accounts, reason, person, at: instant(at) }
}
