//! Links that are followed once: by the first person, by whoever is invited, by who forgot a password.

use super::sessions::{begin, leave};
use crate::extract::Form;
use crate::letters::News;
use crate::session::Client;
use crate::{App, Problem, secrets};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use tower_sessions::Session;
use zf_core::people::{self, Purpose};
use zf_store::people::links::Link;
use zf_wire::links::{FollowForm, ForgotForm, LinkForm, LinkView};
use zf_wire::values::instant;

fn link_view(link: Link) -> LinkView {
    LinkView {
        purpose: link.purpose,
        email: link.email,
        name: link.name,
        invited_by: link.made_by,
        expires_at: instant(link.expires_at),
    }
}

/// Says what a link is for.
#[utoipa::path(post, operation_id = "links_look", path = "/api/link", request_body = LinkForm,
    responses((status = 200, body = LinkView), (status = "4XX", body = Problem)))]
pub(crate) async fn look(
    State(app): State<App>,
    Form(form): Form<LinkForm>,
) -> Result<Json<LinkView>, Problem> {
    Ok(Json(link_view(app.store.link(&secrets::hash(&form.link)).await?)))
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
    let password = app.take_password("password", form.password, &[&name, &email]).await?;
    let followed = app.store.follow_link(&hash, &email, &name, &password).await?;
    let person = app.store.person(followed.person).await?;
    let person = person.ok_or_else(crate::session::signed_out)?;
    let by = followed.made_by.clone();
    if followed.purpose == Purpose::Password {
        app.tell(&person, News::PasswordChanged { by_link_of: by }).await?;
    } else {
        for books in followed.joined {
            let (books, roles) = app.store.standing_of(books, person.id).await?;
            let by = by.clone().unwrap_or_default();
            app.tell(&person, News::LetIn { books, roles: roles.words(), by }).await?;
        }
    }
    // Whoever was signed in here is not any more, whoever comes in.
    leave(&app, &session).await?;
    if person.factor_since.is_none() {
        begin(&app, &session, &client, &person).await?;
    }
    Ok(StatusCode::NO_CONTENT)
}

/// Confirms a new address of somebody, which they sign in with from now on. The one before is told.
#[utoipa::path(post, operation_id = "links_confirm", path = "/api/link/confirm", request_body = LinkForm,
    responses((status = 204), (status = "4XX", body = Problem)))]
pub(crate) async fn confirm(
    State(app): State<App>,
    Form(form): Form<LinkForm>,
) -> Result<StatusCode, Problem> {
    let (person, before) = app.store.confirm_address(&secrets::hash(&form.link)).await?;
    let person = app.store.person(person).await?;
    let person = person.ok_or_else(crate::session::signed_out)?;
    let text = format!(
        "Hello {},\n\nyou sign in as {} from now on, and no longer as {before}. If it was not you who changed this, \
         tell an administrator at once.\n",
        person.name, person.email
    );
    for to in [&before, &person.email] {
        app.post(to, "Your address for Zero Fold was changed", text.clone()).await;
    }
    Ok(StatusCode::NO_CONTENT)
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
    app.count_try(&email, &client, None).await?;
    // Behind the answer, which takes as long when there is nobody with this address.
    tokio::spawn(async move {
        if let Err(problem) = send(&app, &email).await {
            tracing::error!(cause = problem.cause, "a link for a new password was not sent");
        }
    });
    Ok(StatusCode::NO_CONTENT)
}

async fn send(app: &App, email: &str) -> Result<(), Problem> {
    match app.store.person_by_email(email).await? {
        Some(person) => app.send_forgotten(&person).await,
        None => Ok(()),
    }
}
