//! People, for who administers the server.

use crate::extract::Form;
use crate::letters::News;
use crate::people::expiry;
use crate::session::SignedIn;
use crate::{App, Problem};
use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use time::OffsetDateTime;
use zf_core::access::Role;
use zf_core::ids::{BooksId, PersonId};
use zf_core::people::{self, Purpose};
use zf_store::StoreError;
use zf_store::people::Listed;
use zf_store::people::links::{Invitation, Waiting};
use zf_store::trail::Actor;
use zf_wire::people::{
    AdministratorForm, BooksWithoutOwnerView, InvitationForm, InvitationView, LetterSent,
    OwnershipForm, PeopleView, PersonView, Withdrawn,
};
use zf_wire::values::instant;

fn person_view(listed: Listed) -> PersonView {
    let person = listed.person;
    PersonView {
        id: person.id.0,
        name: person.name,
        email: person.email,
        administrator: person.administrator,
        factor: person.factor_since.is_some(),
        books: listed.books,
        seen_at: listed.seen_at.map(instant),
    }
}

pub(crate) fn invitation_view(waiting: Waiting) -> InvitationView {
    InvitationView {
        name: waiting.name,
        email: waiting.email,
        invited_by: waiting.made_by,
        made_at: instant(waiting.made_at),
        expires_at: instant(waiting.expires_at),
        administrator: waiting.administrator,
        plan: waiting.plan,
        until: waiting.until.map(instant),
        roles: waiting.roles.iter().flat_map(zf_core::access::Roles::iter).collect(),
    }
}

/// Lists people and invitations.
#[utoipa::path(get, operation_id = "people_list", path = "/api/people",
    responses((status = 200, body = PeopleView), (status = "4XX", body = Problem)))]
pub(crate) async fn list(State(app): State<App>) -> Result<Json<PeopleView>, Problem> {
    let people = app.store.people().await?.into_iter().map(person_view).collect();
    let waiting = app.store.waiting(None).await?;
    let without_owner = app.store.books_without_owner().await?;
    Ok(Json(PeopleView {
        without_owner: without_owner
            .into_iter()
            .map(|(id, name)| BooksWithoutOwnerView { id: id.0, name })
            .collect(),
        people,
        invitations: waiting.into_iter().map(invitation_view).collect(),
    }))
}

pub(crate) fn letter_sent(app: &App, to: &str, expires_at: OffsetDateTime) -> LetterSent {
    let in_folder = app.config.mail().is_folder();
    LetterSent { to: to.to_owned(), expires_at: instant(expires_at), in_folder }
}

/// Invites somebody by a letter with a link.
#[utoipa::path(post, operation_id = "people_invite", path = "/api/people/invitations", request_body = InvitationForm,
    responses((status = 201, body = LetterSent), (status = "4XX", body = Problem), (status = 502, body = Problem)))]
pub(crate) async fn invite(
    State(app): State<App>,
    SignedIn { person, .. }: SignedIn,
    Form(form): Form<InvitationForm>,
) -> Result<(StatusCode, Json<LetterSent>), Problem> {
    let email = people::email(&form.email).map_err(|e| Problem::field("email", e))?;
    if app.store.person_by_email(&email).await?.is_some() {
        return Err(Problem::field("email", "somebody signs in with this address already"));
    }
    let invitation = Invitation {
        email,
        name: people::name(&form.name).map_err(|e| Problem::field("name", e))?,
        administrator: form.administrator,
        admission: None,
        expires_at: expiry(Purpose::Invitation),
    };
    app.invite(&person, &invitation, "Zero Fold").await?;
    let sent = letter_sent(&app, &invitation.email, invitation.expires_at);
    Ok((StatusCode::CREATED, Json(sent)))
}

/// Withdraws an invitation.
#[utoipa::path(post, operation_id = "people_withdraw", path = "/api/people/invitations/withdrawal", request_body = Withdrawn,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn withdraw(
    State(app): State<App>,
    SignedIn { person, .. }: SignedIn,
    Form(form): Form<Withdrawn>,
) -> Result<StatusCode, Problem> {
    app.store.withdraw(person.id, &form.email.to_lowercase(), None).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Makes somebody an administrator, or an ordinary person again.
#[utoipa::path(put, operation_id = "people_administer", path = "/api/people/{person}/administrator",
    params(("person" = i64, Path)), request_body = AdministratorForm,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn administer(
    State(app): State<App>,
    SignedIn { person: by, .. }: SignedIn,
    Path(person): Path<PersonId>,
    Form(form): Form<AdministratorForm>,
) -> Result<StatusCode, Problem> {
    app.store.administer(Actor::Person(by.id), person, form.administrator).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Removes somebody: they sign in no more and are a member of no books.
#[utoipa::path(delete, operation_id = "people_remove", path = "/api/people/{person}", params(("person" = i64, Path)),
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn remove(
    State(app): State<App>,
    SignedIn { person: by, .. }: SignedIn,
    Path(person): Path<PersonId>,
) -> Result<StatusCode, Problem> {
    app.store.remove_person(Actor::Person(by.id), person).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Has a link by which somebody chooses a new password sent to them. The owners of their books are told.
#[utoipa::path(post, operation_id = "people_make_link", path = "/api/people/{person}/password-link",
    params(("person" = i64, Path)),
    responses((status = 201, body = LetterSent), (status = "4XX", body = Problem), (status = 502, body = Problem)))]
pub(crate) async fn make_link(
    State(app): State<App>,
    SignedIn { person: by, .. }: SignedIn,
    Path(person): Path<PersonId>,
) -> Result<(StatusCode, Json<LetterSent>), Problem> {
    let person = app.send_password_link(&by, person).await?;
    let sent = letter_sent(&app, &person.email, expiry(Purpose::Password));
    Ok((StatusCode::CREATED, Json(sent)))
}

/// Removes the second factor of somebody who lost it together with their codes. They are told, and so are
/// the owners of their books.
#[utoipa::path(delete, operation_id = "people_remove_factor", path = "/api/people/{person}/factor",
    params(("person" = i64, Path)), responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn remove_factor(
    State(app): State<App>,
    SignedIn { person: by, .. }: SignedIn,
    Path(person): Path<PersonId>,
) -> Result<StatusCode, Problem> {
    app.store.remove_factor(Actor::Person(by.id), person).await?;
    let person = app.store.person(person).await?.ok_or(StoreError::NotFound("person"))?;
    app.tell(&person, News::FactorRemoved { by: Some(by.name) }).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Makes somebody the owner of books that have none any more.
#[utoipa::path(post, operation_id = "people_give_books", path = "/api/people/{person}/books",
    params(("person" = i64, Path)), request_body = OwnershipForm,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn give_books(
    State(app): State<App>,
    SignedIn { person: by, .. }: SignedIn,
    Path(person): Path<PersonId>,
    Form(form): Form<OwnershipForm>,
) -> Result<StatusCode, Problem> {
    let books = app.store.give_owner(by.id, BooksId(form.books), person).await?;
    let person = app.store.person(person).await?.ok_or(StoreError::NotFound("person"))?;
    let roles = Role::Owner.words().to_owned();
    app.tell(&person, News::LetIn { books, roles, by: by.name }).await?;
    Ok(StatusCode::NO_CONTENT)
}
