//! Signing in and out.

use crate::extract::Form;
use crate::session::{Client, SESSION, SignedIn, unread};
use crate::{App, Problem, secrets};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use time::{Duration, OffsetDateTime};
use tower_cookies::cookie::SameSite;
use tower_cookies::{Cookie, Cookies};
use tower_sessions::Session;
use zf_core::people::{self};
use zf_core::trail::FailedTry;
use zf_store::people::Person;
use zf_store::people::links::LinkUse;
use zf_wire::problem::ProblemCode;
use zf_wire::sessions::{LinkUseView, Me, SignIn};
use zf_wire::values::instant;

/// What a device shows of itself, so that its person is let in whoever guesses at their password.
const DEVICE: &str = "zerofold_device";

fn link_use_view(used: LinkUse) -> LinkUseView {
    LinkUseView { name: used.name, sent_by: used.made_by, at: instant(used.at) }
}

async fn me(app: &App, person: Person) -> Result<Me, Problem> {
    let since = OffsetDateTime::now_utc() - Duration::DAY;
    let used = app.store.links_used_around(person.id, since).await?;
    Ok(Me {
        links_used: used.into_iter().map(link_use_view).collect(),
        id: person.id.0,
        name: person.name,
        email: person.email,
        administrator: person.administrator,
        dates: person.forms.dates,
        numbers: person.forms.numbers,
        outbox: person.administrator && app.config.shows_letters(),
    })
}

/// Signs in.
#[utoipa::path(post, operation_id = "session_sign_in", path = "/api/session", request_body = SignIn,
    responses((status = 200, body = Me), (status = "4XX", body = Problem)))]
pub(crate) async fn sign_in(
    State(app): State<App>,
    session: Session,
    client: Client,
    cookies: Cookies,
    Form(given): Form<SignIn>,
) -> Result<Json<Me>, Problem> {
    let device = cookies.get(DEVICE).map(|cookie| cookie.value().to_owned());
    let shown = device.as_deref().map(secrets::hash);
    let email = people::email(&given.email).map_err(|e| Problem::field("email", e))?;
    let tried = app.count_try(&email, &client, shown.as_deref()).await?;
    let person = app.store.person_by_email(&email).await?;
    let hash = person.as_ref().map(|p| p.password_hash.clone());
    let right = app.is_password(given.password, hash).await?;
    let Some(person) = person.filter(|_| right) else {
        app.note_failure(&tried, &email, &client, FailedTry::WrongPassword).await?;
        let wrong = "the e-mail address or the password is wrong";
        return Err(Problem::new(StatusCode::UNAUTHORIZED, ProblemCode::WrongSignIn, wrong));
    };
    if person.factor_since.is_some() {
        let Some(code) = given.code.filter(|code| !code.trim().is_empty()) else {
            // Only the password was tried, and it was right.
            app.store.forget_try(tried).await?;
            let code = "type the code that your device shows, or one of your recovery codes";
            return Err(Problem::new(StatusCode::UNAUTHORIZED, ProblemCode::CodeWanted, code));
        };
        if !app.is_code(&person, &code).await? {
            app.note_failure(&tried, &email, &client, FailedTry::WrongCode).await?;
            let wrong = "this code is wrong, was used before, or is too old";
            return Err(Problem::new(StatusCode::UNAUTHORIZED, ProblemCode::WrongCode, wrong));
        }
    }
    let device = device.unwrap_or_else(|| secrets::link().text);
    app.store.signed_in(tried, person.id, &secrets::hash(&device)).await?;
    cookies.add(known(&app, device));
    // Another person's session in this browser ends with it: nobody is signed in behind somebody's back.
    leave(&app, &session).await?;
    begin(&app, &session, &client, &person).await?;
    Ok(Json(me(&app, person).await?))
}

/// Begins a session of somebody who has shown who they are.
pub(super) async fn begin(
    app: &App,
    session: &Session,
    client: &Client,
    person: &Person,
) -> Result<(), Problem> {
    let from = client.address.to_string();
    let begun = app.store.begin_session(person.id, &from, &client.agent).await?;
    // A session from before the sign-in may be known to somebody else.
    session.cycle_id().await.map_err(unread)?;
    session.insert(SESSION, begun).await.map_err(unread)
}

/// Signs out whoever was signed in with this browser, if somebody was.
pub(super) async fn leave(app: &App, session: &Session) -> Result<(), Problem> {
    if let Some(id) = session.get(SESSION).await.map_err(unread)?
        && let Some(person) = app.store.of_session(id).await?
    {
        app.store.sign_out(person.id, id).await?;
    }
    session.flush().await.map_err(unread)
}

/// The cookie by which a device is known for a year.
fn known(app: &App, device: String) -> Cookie<'static> {
    Cookie::build((DEVICE, device))
        .path("/api/session")
        .http_only(true)
        .secure(app.config.is_secure())
        .same_site(SameSite::Strict)
        .max_age(time::Duration::days(365))
        .build()
}

/// Signs out.
#[utoipa::path(delete, operation_id = "session_sign_out", path = "/api/session", responses((status = 204)))]
pub(crate) async fn sign_out(
    State(app): State<App>,
    session: Session,
) -> Result<StatusCode, Problem> {
    leave(&app, &session).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Says who is signed in.
#[utoipa::path(get, operation_id = "session_who", path = "/api/session",
    responses((status = 200, body = Me), (status = 401, body = Problem)))]
pub(crate) async fn who(State(app): State<App>, signed_in: SignedIn) -> Result<Json<Me>, Problem> {
    Ok(Json(me(&app, signed_in.person).await?))
}
