//! Links that are followed once: by the first person, by whoever is invited, by who forgot a password.

use super::sessions::begin;
use crate::catalogue::ProblemCode;
use crate::door::Form;
use crate::session::{Client, unread};
use crate::values::instant;
use crate::{App, Problem, secrets};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use tower_sessions::Session;
use zf_core::people::{self, Purpose};
use zf_store::people::links::Link;
use zf_store::trail::Actor;

/// What a link shows.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct LinkForm {
    link: String,
}

/// What a link is for.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct LinkView {
    purpose: Purpose,
    email: Option<String>,
    name: Option<String>,
    /// Who invited.
    invited_by: Option<String>,
    expires_at: String,
}

impl From<Link> for LinkView {
    fn from(link: Link) -> Self {
        Self {
            purpose: link.purpose,
            email: link.email,
            name: link.name,
            invited_by: link.made_by,
            expires_at: instant(link.expires_at),
        }
    }
}

/// Says what a link is for.
#[utoipa::path(post, operation_id = "links_look", path = "/api/link", request_body = LinkForm,
    responses((status = 200, body = LinkView), (status = "4XX", body = Problem)))]
pub(crate) async fn look(
    State(app): State<App>,
    Form(form): Form<LinkForm>,
) -> Result<Json<LinkView>, Problem> {
    Ok(Json(app.store.link(&secrets::hash(&form.link)).await?.into()))
}

/// What somebody gives who follows a link.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct FollowForm {
    link: String,
    /// The first person says who they are; who was invited has the address that was invited.
    email: Option<String>,
    /// Not asked of whoever only chooses a password.
    name: Option<String>,
    password: String,
}

/// Follows a link: whoever does is signed in, unless they have a second factor to show.
#[utoipa::path(post, operation_id = "links_follow", path = "/api/link/follow", request_body = FollowForm,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn follow(
    State(app): State<App>,
    session: Session,
    client: Client,
    Form(form): Form<FollowForm>,
) -> Result<StatusCode, Problem> {
    let hash = secrets::hash(&form.link);
    let link = app.store.link(&hash).await?;
    let email = match (&link.email, &form.email) {
        (Some(email), _) => email.clone(),
        (None, Some(given)) => people::email(given).map_err(|e| Problem::field("email", e))?,
        (None, None) => return Err(Problem::field("email", "give your e-mail address")),
    };
    let name = match (link.purpose, form.name.as_ref().or(link.name.as_ref())) {
        (Purpose::Password, _) => link.name.clone().unwrap_or_default(),
        (_, Some(name)) => people::name(name).map_err(|e| Problem::field("name", e))?,
        (_, None) => return Err(Problem::field("name", people::NotAName)),
    };
    let password = app.take_password(form.password, &[&name, &email]).await?;
    let id = app.store.follow_link(&hash, &email, &name, &password).await?;
    let person = app.store.person(id).await?.ok_or_else(crate::session::signed_out)?;
    // Whoever was signed in here is not any more, whoever comes in.
    session.flush().await.map_err(unread)?;
    if person.factor_since.is_none() {
        begin(&app, &session, &client, &person).await?;
    }
    Ok(StatusCode::NO_CONTENT)
}

/// Whose password is forgotten.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct ForgotForm {
    email: String,
}

/// Sends a link for a new password, if there is somebody with this address; which is not said.
#[utoipa::path(post, operation_id = "links_forgot", path = "/api/link/forgotten", request_body = ForgotForm,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn forgot(
    State(app): State<App>,
    client: Client,
    Form(form): Form<ForgotForm>,
) -> Result<StatusCode, Problem> {
    let email = people::email(&form.email).map_err(|e| Problem::field("email", e))?;
    let from = client.address.to_string();
    if app.store.try_sign_in(&email, &from, None).await?.is_none() {
        let wait = "too many tries; wait 15 minutes and try again";
        return Err(Problem::new(StatusCode::TOO_MANY_REQUESTS, ProblemCode::TooManyTries, wait));
    }
    // Behind the answer, which takes as long when there is nobody with this address.
    tokio::spawn(async move {
        if let Err(problem) = send(&app, &email).await {
            tracing::error!(cause = problem.cause, "a link for a new password was not sent");
        }
    });
    Ok(StatusCode::NO_CONTENT)
}

async fn send(app: &App, email: &str) -> Result<(), Problem> {
    let Some(person) = app.store.person_by_email(email).await? else { return Ok(()) };
    let by = Actor::Called(person.email.clone());
    let link = app.link_for_password(by, person.id).await?;
    let text = format!(
        "Hello {},\n\nsomebody, most likely you, asked for a new password. Choose one here within an \
         hour:\n\n{link}\n\nIf it was not you, do nothing: your password stays as it is.\n",
        person.name
    );
    app.running.mail().send(&person.email, "A new password for Zero Fold", text).await
}
