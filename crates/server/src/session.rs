//! Who is asking: sign-in, sign-out, and the extractors that actions take their rights from.

use crate::answering::Asker;
use crate::catalogue::ProblemCode;
use crate::door::Form;
use crate::{App, Problem};
use axum::Json;
use axum::extract::{ConnectInfo, FromRequestParts, RawPathParams, State};
use axum::http::StatusCode;
use axum::http::request::Parts;
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use std::net::SocketAddr;
use time::OffsetDateTime;
use tower_cookies::cookie::SameSite;
use tower_cookies::{Cookie, Cookies};
use tower_sessions::{Session, session, session_store};
use uuid::Uuid;
use zf_core::ids::BooksId;
use zf_store::StoreError;
use zf_store::books::people::Person;
use zf_store::member::Member;

const PERSON: &str = "person";

/// When a session was last used, in seconds; written only now and then.
const USED: &str = "used";

/// After how long the use of a session is written down again.
const USED_AGAIN: i64 = 3_600;

/// What a device shows of itself, so that its person is let in whoever guesses at their password.
const DEVICE: &str = "zerofold_device";

/// Somebody who is signed in.
pub(crate) struct SignedIn {
    pub(crate) person: i64,
}

fn signed_out() -> Problem {
    Problem::new(StatusCode::UNAUTHORIZED, ProblemCode::SignedOut, "sign in first")
}

/// A session that cannot be read is most often a database that is away.
fn unread(error: session::Error) -> Problem {
    match error {
        session::Error::Store(session_store::Error::Backend(why)) => {
            Problem { cause: Some(why), ..StoreError::Away.into() }
        }
        error => Problem::internal(&error),
    }
}

/// Whom a session belongs to. A session that is used lasts on.
async fn person_of(parts: &mut Parts, app: &App) -> Result<i64, Problem> {
    let session = Session::from_request_parts(parts, app)
        .await
        .map_err(|(_, why)| Problem::internal(&why))?;
    let person: Option<i64> = session.get(PERSON).await.map_err(unread)?;
    let person = person.ok_or_else(signed_out)?;
    if let Some(asker) = parts.extensions.get::<Asker>() {
        asker.is(person);
    }
    let now = OffsetDateTime::now_utc().unix_timestamp();
    let used: i64 = session.get(USED).await.map_err(unread)?.unwrap_or_default();
    if now - used > USED_AGAIN {
        session.insert(USED, now).await.map_err(unread)?;
    }
    Ok(person)
}

impl FromRequestParts<App> for SignedIn {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, app: &App) -> Result<Self, Problem> {
        let person = person_of(parts, app).await?;
        // Somebody who was removed may still have a session.
        app.store.person(person).await?.ok_or_else(signed_out)?;
        Ok(Self { person })
    }
}

/// A member of the books that the path names.
pub(crate) struct In(pub(crate) Member);

impl FromRequestParts<App> for In {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, app: &App) -> Result<Self, Problem> {
        let person = person_of(parts, app).await?;
        let params = RawPathParams::from_request_parts(parts, app)
            .await
            .map_err(|e| Problem::internal(&e))?;
        let books = params.iter().find(|(name, _)| *name == "books").map(|(_, value)| value);
        let books = books.and_then(|text| text.parse().ok()).ok_or_else(|| {
            Problem::new(
                StatusCode::NOT_FOUND,
                ProblemCode::NotFound,
                "there is no such set of books",
            )
        })?;
        Ok(Self(app.store.member(person, BooksId(books)).await?))
    }
}

/// What one signs in with.
#[derive(Deserialize, utoipa::ToSchema)]
pub(crate) struct SignIn {
    email: String,
    password: String,
}

/// Who is signed in.
#[derive(Serialize, utoipa::ToSchema)]
pub(crate) struct Me {
    name: String,
    email: String,
}

impl From<Person> for Me {
    fn from(person: Person) -> Self {
        Self { name: person.name, email: person.email }
    }
}

/// Signs in.
#[utoipa::path(post, operation_id = "session_sign_in", path = "/api/session", request_body = SignIn,
    responses((status = 200, body = Me), (status = "4XX", body = Problem)))]
pub(crate) async fn sign_in(
    State(app): State<App>,
    session: Session,
    ConnectInfo(client): ConnectInfo<SocketAddr>,
    cookies: Cookies,
    Form(given): Form<SignIn>,
) -> Result<Json<Me>, Problem> {
    let device = cookies.get(DEVICE).map(|cookie| cookie.value().to_owned());
    let shown = device.as_deref().map(|shown| Sha256::digest(shown).to_vec());
    let client = client.ip().to_string();
    let tried = app.store.try_sign_in(&given.email, &client, shown.as_deref()).await?;
    let Some(tried) = tried else {
        let wait = "too many sign-ins failed; wait 15 minutes and try again";
        return Err(Problem::new(StatusCode::TOO_MANY_REQUESTS, ProblemCode::TooManyTries, wait));
    };
    let person = app.store.person_by_email(&given.email).await?;
    let hash = person.as_ref().map(|p| p.password_hash.clone());
    let right = app
        .hashing(move || match hash {
            Some(hash) => password_auth::verify_password(given.password, &hash).is_ok(),
            // As slow as a wrong password, so that nobody learns which addresses there are.
            None => {
                password_auth::generate_hash(given.password);
                false
            }
        })
        .await?;
    let Some(person) = person.filter(|_| right) else {
        let wrong = "the e-mail address or the password is wrong";
        return Err(Problem::new(StatusCode::UNAUTHORIZED, ProblemCode::WrongSignIn, wrong));
    };
    let device = device.unwrap_or_else(|| Uuid::new_v4().simple().to_string());
    app.store.signed_in(tried, person.id, &Sha256::digest(&device)).await?;
    cookies.add(known(device));
    // A session from before the sign-in may be known to somebody else.
    session.cycle_id().await.map_err(unread)?;
    session.insert(PERSON, person.id).await.map_err(unread)?;
    Ok(Json(person.into()))
}

/// The cookie by which a device is known for a year.
fn known(device: String) -> Cookie<'static> {
    Cookie::build((DEVICE, device))
        .path("/api/session")
        .http_only(true)
        .same_site(SameSite::Strict)
        .max_age(time::Duration::days(365))
        .build()
}

/// Signs out.
#[utoipa::path(delete, operation_id = "session_sign_out", path = "/api/session", responses((status = 204)))]
pub(crate) async fn sign_out(session: Session) -> Result<StatusCode, Problem> {
    session.flush().await.map_err(unread)?;
    Ok(StatusCode::NO_CONTENT)
}

/// Says who is signed in.
#[utoipa::path(get, operation_id = "session_who", path = "/api/session",
    responses((status = 200, body = Me), (status = 401, body = Problem)))]
pub(crate) async fn who(State(app): State<App>, signed_in: SignedIn) -> Result<Json<Me>, Problem> {
    let person = app.store.person(signed_in.person).await?.ok_or_else(signed_out)?;
    Ok(Json(person.into()))
}
