//! The review: what somebody who knows the trade would notice.

use super::dismissed::{self, DismissedView};
use super::plans::NewAccountForm;
use crate::cache::{Review, Reviewed};
use crate::etag::{Known, Tag};
use crate::extract::{Form, Query};
use crate::session::In;
use crate::state::off_thread;
use crate::values::{PageOf, accounts_of, day, instant, reason, within};
use crate::{App, Problem};
use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::response::Response;
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;
use std::sync::Arc;
use time::{Date, OffsetDateTime};
use zf_core::chart::{Account, Status};
use zf_core::ids::AccountId;
use zf_core::names::Charts;
use zf_core::plan::{Change, Fate};
use zf_core::review::NotDuplicates;
use zf_core::review::fixes::{Fix, ways};
use zf_core::review::look_alikes::{self, LookAlike, Observation};
use zf_core::review::remarks::{self, Remark, RemarkKind};
use zf_core::review::unused::{self, Unused};
use zf_core::today::Today;
use zf_core::trial_balance::balance;
use zf_phrases::Say;
use zf_phrases::review::title;
use zf_store::journal::today::Snapshot;
use zf_store::member::Member;
use zf_store::review::MarkedNotDuplicates;

/// How many findings stand on a page: less than 100 KB of them.
const PAGE: usize = 100;

/// A page of what was noticed in the books as they stand, one kind of finding after the other.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct ReviewPage {
    /// Since when an account must have been posted to, not to be listed.
    since: String,
    /// How many pages there are.
    pages: usize,
    /// Those of which about nine in ten or more are the same thing.
    look_alikes: Vec<LookAlikeView>,
    /// Those that are worth a look.
    worth_a_look: Vec<LookAlikeView>,
    others: Vec<RemarkView>,
    unused: Vec<UnusedView>,
    /// Accounts that take no more lines and can be restored.
    retired: Vec<RetiredView>,
    /// Accounts that somebody said are not the same thing.
    not_duplicates: Vec<NotDuplicatesView>,
    /// Remarks that somebody said are right in these books.
    dismissed: Vec<DismissedView>,
}

/// Accounts that somebody said are not the same thing.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct NotDuplicatesView {
    id: i64,
    accounts: Vec<i64>,
    reason: String,
    person: String,
    at: String,
}

/// An account that takes no more lines.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct RetiredView {
    account: i64,
    /// Deactivated or archived.
    status: Status,
    last_posted: Option<String>,
    balance: String,
    lines: u64,
    uses: usize,
}

/// Accounts that are probably the same thing.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct LookAlikeView {
    accounts: Vec<i64>,
    /// The one that the others would best be merged into.
    survivor: i64,
    /// How sure it is, of 100.
    score: u8,
    /// What speaks for it, in sentences, the strongest first.
    evidence: Vec<String>,
    /// What speaks against it.
    against: Vec<String>,
}

/// An account that is not used.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct UnusedView {
    account: i64,
    last_posted: Option<String>,
    balance: String,
    /// Whether a balance would be left standing on it.
    leaves_balance: bool,
    lines: u64,
    /// What names it elsewhere.
    uses: Vec<String>,
    /// The fate that it qualifies for; none when it has to stay.
    fate: Option<Fate>,
    /// Why it is listed, and what stands against other fates.
    reasons: Vec<String>,
}

/// Something else that is odd.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct RemarkView {
    /// Its kind.
    kind: RemarkKind,
    /// Its kind, in words.
    title: &'static str,
    accounts: Vec<i64>,
    /// The statement item it is about, if it is about one.
    item: Option<i64>,
    message: String,
    /// How sure it is what would be right, of 100, where that was calculated.
    score: Option<u8>,
    /// What can be staged about it, best first.
    fixes: Vec<FixView>,
    /// Whether it is a matter of lines that belong elsewhere.
    moves: bool,
}

/// A way to fix something.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct FixView {
    /// What a button says.
    label: String,
    edits: Vec<FixEdit>,
    /// An account to be added, which takes the history of another one.
    adds: Option<NewAccountForm>,
}

/// A change to stage.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct FixEdit {
    account: AccountId,
    change: Change,
}

/// Since when.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub(crate) struct Since {
    /// An account not posted to since this day is not used; the start of the prior fiscal year when
    /// missing.
    since: Option<String>,
}

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
    let (since, page) = (day("since", since.since.as_deref())?, page.checked()?);
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
            not_duplicates: marked.iter().cloned().map(NotDuplicatesView::of).collect(),
            dismissed: dismissed.iter().cloned().map(|one| DismissedView::of(one, today)).collect(),
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

/// Accounts that are not the same thing.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct NotDuplicatesForm {
    accounts: Vec<i64>,
    /// Why; remembered and shown.
    reason: String,
}

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

fn numbers(accounts: &[AccountId]) -> Vec<i64> {
    accounts.iter().map(|id| id.0).collect()
}

impl LookAlikeView {
    fn of(group: LookAlike, say: &Say<'_>) -> Self {
        let said = |seen: &[Observation]| seen.iter().map(|one| say.observation(one)).collect();
        Self {
            accounts: numbers(&group.accounts),
            survivor: group.survivor.0,
            // Nothing that is seen of accounts is a proof.
            score: (group.score * 100.0).round().min(99.0) as u8,
            evidence: said(&group.evidence),
            against: said(&group.against),
        }
    }
}

impl NotDuplicatesView {
    fn of(marked: MarkedNotDuplicates) -> Self {
        let MarkedNotDuplicates { id, accounts, reason, person, at } = marked;
        Self { id, accounts, reason, person, at: instant(at) }
    }
}

impl UnusedView {
    fn of(unused: Unused, today: &Today, say: &Say<'_>) -> Self {
        let account = unused.account;
        let reasons = unused.reasons.iter().map(|why| say.unused(why, account));
        Self {
            account: unused.account.0,
            last_posted: unused.last.map(|date| date.to_string()),
            balance: today.currency.format(unused.balance),
            leaves_balance: unused.leaves_balance,
            lines: unused.lines,
            uses: today.usage.of(unused.account).to_vec(),
            fate: unused.fate,
            reasons: reasons.collect(),
        }
    }
}

impl RetiredView {
    fn of(account: &Account, today: &Today) -> Self {
        let figures = today.figures_of(account.id);
        Self {
            account: account.id.0,
            status: account.status,
            last_posted: figures.last.map(|date| date.to_string()),
            balance: today.currency.format(balance(account, &figures)),
            lines: figures.all.lines,
            uses: today.usage.of(account.id).len(),
        }
    }
}

impl RemarkView {
    fn of((remark, fixes): (Remark, Vec<Fix>), say: &Say<'_>) -> Self {
        let fixes = fixes.into_iter().map(|fix| FixView::of(fix, &remark, say)).collect();
        let moves = matches!(
            remark.kind,
            RemarkKind::HeadingPosted | RemarkKind::SuspenseBalance | RemarkKind::SmallShare
        );
        Self {
            kind: remark.kind,
            title: title(remark.kind),
            accounts: numbers(&remark.accounts),
            item: remark.item.map(|item| item.0),
            message: say.remark(&remark),
            score: remark.score,
            fixes,
            moves,
        }
    }
}

impl FixView {
    fn of(fix: Fix, remark: &Remark, say: &Say<'_>) -> Self {
        let label = say.fix(&fix, remark);
        let edit = |(account, change): (AccountId, Change)| FixEdit { account, change };
        let (edits, adds) = match fix {
            Fix::Changes(changes) => (changes.into_iter().map(edit).collect(), None),
            Fix::Added(account, from) => (Vec::new(), Some(NewAccountForm::taking(&account, from))),
        };
        Self { label, edits, adds }
    }
}
