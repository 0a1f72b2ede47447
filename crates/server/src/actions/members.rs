//! Who is a member of the books, and as what.

use super::people::{invitation_view, letter_sent};
use crate::extract::Form;
use crate::letters::News;
use crate::people::expiry;
use crate::session::{In, SignedIn};
use crate::values::day;
use crate::{App, Problem};
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use time::{Date, OffsetDateTime, Time};
use zf_core::access::{Role, Roles};
use zf_core::ids::{BooksId, PersonId, PlanId};
use zf_core::people::{self, Purpose};
use zf_store::books::members::Membership;
use zf_store::people::links::{Admission, Invitation};
use zf_wire::members::{MemberAdded, MemberForm, MemberView, MembersView};
use zf_wire::people::Withdrawn;
use zf_wire::values::instant;

fn member_view(member: Membership) -> MemberView {
    let (plan, plan_name) = member.plan.unzip();
    MemberView {
        person: member.person.0,
        name: member.name,
        email: member.email,
        roles: member.roles.iter().collect(),
        plan,
        plan_name,
        until: member.until.map(instant),
        over: member.until.is_some_and(|until| until <= OffsetDateTime::now_utc()),
    }
}

/// Lists the members of the books.
#[utoipa::path(get, operation_id = "members_list", path = "/api/books/{books}/members", params(("books" = i64, Path)),
    responses((status = 200, body = MembersView), (status = "4XX", body = Problem)))]
pub(crate) async fn list(
    State(app): State<App>,
    In(member): In,
) -> Result<Json<MembersView>, Problem> {
    let members = app.store.members(member.books()).await?;
    let waiting = app.store.waiting(Some(member.books())).await?;
    Ok(Json(MembersView {
        members: members.into_iter().map(member_view).collect(),
        invitations: waiting.into_iter().map(invitation_view).collect(),
    }))
}

/// When a day is over, in UTC.
fn end_of(day: Date) -> Result<OffsetDateTime, Problem> {
    let next = day.next_day().ok_or_else(|| Problem::field("until", "this day is too far off"))?;
    Ok(next.with_time(Time::MIDNIGHT).assume_utc())
}

/// Lets somebody in, changes as what they are there, or invites who cannot sign in yet.
#[utoipa::path(put, operation_id = "members_add", path = "/api/books/{books}/members", params(("books" = i64, Path)),
    request_body = MemberForm,
    responses((status = 200, body = MemberAdded), (status = "4XX", body = Problem)))]
pub(crate) async fn add(
    State(app): State<App>,
    In(member): In,
    SignedIn { person: by, .. }: SignedIn,
    Form(form): Form<MemberForm>,
) -> Result<Json<MemberAdded>, Problem> {
    let email = people::email(&form.email).map_err(|e| Problem::field("email", e))?;
    let roles = Roles::of(form.roles.iter().copied()).map_err(|e| Problem::field("roles", e))?;
    let guest = roles.hold(Role::Guest);
    let until = day("until", form.until.as_deref())?.map(end_of).transpose()?;
    if until.is_some_and(|until| until <= OffsetDateTime::now_utc()) {
        return Err(Problem::field("until", "this day is over"));
    }
    if guest && until.is_none() {
        return Err(Problem::field("until", "say until when a guest sees the plan"));
    }
    match form.plan {
        Some(plan) if guest => drop(app.store.draft(member, PlanId(plan)).await?),
        Some(_) => return Err(Problem::field("plan", "only a guest sees a single plan")),
        None if guest => return Err(Problem::field("plan", "say which plan a guest sees")),
        None => {}
    }
    let admission = Admission { books: member.books(), roles, plan: form.plan.map(PlanId), until };
    if let Some(person) = app.store.person_by_email(&email).await? {
        app.store.admit(member, person.id, &admission).await?;
        let (books, roles) = app.store.standing_of(member.books(), person.id).await?;
        app.tell(&person, News::LetIn { books, roles: roles.words(), by: by.name }).await?;
        return Ok(Json(MemberAdded { invited: None }));
    }
    let name = form.name.as_deref().unwrap_or_default();
    let name = people::name(name).map_err(|_| {
        Problem::field("name", "nobody signs in with this address yet; give a name to invite them")
    })?;
    let expires_at = expiry(Purpose::Invitation);
    let books = app.store.books(member).await?.name;
    let (admission, administrator) = (Some(admission), false);
    let invitation = Invitation { email, name, administrator, admission, expires_at };
    app.invite(&by, &invitation, &format!("the books of {books} in Zero Fold")).await?;
    let invited = Some(letter_sent(&app, &invitation.email, expires_at));
    Ok(Json(MemberAdded { invited }))
}

/// Lets a member out.
#[utoipa::path(delete, operation_id = "members_remove", path = "/api/books/{books}/members/{person}",
    params(("books" = i64, Path), ("person" = i64, Path)),
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn remove(
    State(app): State<App>,
    In(member): In,
    Path((_, person)): Path<(BooksId, PersonId)>,
) -> Result<StatusCode, Problem> {
    app.store.remove_member(member, person).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Withdraws an invitation to the books.
#[utoipa::path(post, operation_id = "members_withdraw", path = "/api/books/{books}/members/withdrawal",
    params(("books" = i64, Path)), request_body = Withdrawn,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn withdraw(
    State(app): State<App>,
    In(member): In,
    Form(form): Form<Withdrawn>,
) -> Result<StatusCode, Problem> {
    let (email, books) = (form.email.to_lowercase(), Some(member.books()));
    app.store.withdraw(member.person(), &email, books).await?;
    Ok(StatusCode::NO_CONTENT)
}
