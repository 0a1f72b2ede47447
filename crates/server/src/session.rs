//! Who is asking: sign-in, sign-out, and the extractors that actions take their rights from.

use crate::state::off_thread;
use crate::{App, Problem};
use axum::Json;
use axum::extract::{FromRequestParts, RawPathParams, State};
use axum::http::StatusCode;
use axum::http::request::Parts;
use serde::{Deserialize, Serialize};
use tower_sessions::Session;
use zf_core::ids::BooksId;
use zf_store::people::{Member, Person};

const PERSON: &str = "person";

/// So many failed sign-ins for one address within 15 minutes are let through.
const TRIES: i64 = 8;

/// Somebody who is signed in.
pub(crate) struct SignedIn {
    pub(crate) person: i64,
}

fn signed_out() -> Problem {
    Problem::new(StatusCode::UNAUTHORIZED, "signed_out", "sign in first")
}

impl FromRequestParts<App> for SignedIn {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, app: &App) -> Result<Self, Problem> {
        let session = Session::from_request_parts(parts, app)
            .await
            .map_err(|(_, why)| Problem::internal(&why))?;
        let person: Option<i64> = session.get(PERSON).await.map_err(|e| Problem::internal(&e))?;
        person.map(|person| Self { person }).ok_or_else(signed_out)
    }
}

/// A member of the books that the path names.
pub(crate) struct In(pub(crate) Member);

impl FromRequestParts<App> for In {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, app: &App) -> Result<Self, Problem> {
        let SignedIn { person } = SignedIn::from_request_parts(parts, app).await?;
        let params = RawPathParams::from_request_parts(parts, app)
            .await
            .map_err(|e| Problem::internal(&e))?;
        let books = params.iter().find(|(name, _)| *name == "books").map(|(_, value)| value);
        let books = books.and_then(|text| text.parse().ok()).ok_or_else(|| {
            Problem::new(StatusCode::NOT_FOUND, "not_found", "there is no such set of books")
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
    Json(given): Json<SignIn>,
) -> Result<Json<Me>, Problem> {
    if app.store.failed_sign_ins(&given.email).await? >= TRIES {
        let wait = "too many sign-ins failed for this address; wait 15 minutes and try again";
        return Err(Problem::new(StatusCode::TOO_MANY_REQUESTS, "too_many_tries", wait));
    }
    let person = app.store.person_by_email(&given.email).await?;
    let hash = person.as_ref().map(|p| p.password_hash.clone());
    let right = off_thread(move || match hash {
        Some(hash) => password_auth::verify_password(given.password, &hash).is_ok(),
        // As slow as a wrong password, so that nobody learns which addresses there are.
        None => {
            password_auth::generate_hash(given.password);
            false
        }
    })
    .await?;
    let Some(person) = person.filter(|_| right) else {
        app.store.note_failed_sign_in(&given.email).await?;
        let wrong = "the e-mail address or the password is wrong";
        return Err(Problem::new(StatusCode::UNAUTHORIZED, "wrong_sign_in", wrong));
    };
    // A session from before the sign-in may be known to somebody else.
    session.cycle_id().await.map_err(|e| Problem::internal(&e))?;
    session.insert(PERSON, person.id).await.map_err(|e| Problem::internal(&e))?;
    Ok(Json(person.into()))
}

/// Signs out.
#[utoipa::path(delete, operation_id = "session_sign_out", path = "/api/session", responses((status = 204)))]
pub(crate) async fn sign_out(session: Session) -> Result<StatusCode, Problem> {
    session.flush().await.map_err(|e| Problem::internal(&e))?;
    Ok(StatusCode::NO_CONTENT)
}

/// Says who is signed in.
#[utoipa::path(get, operation_id = "session_who", path = "/api/session",
    responses((status = 200, body = Me), (status = 401, body = Problem)))]
pub(crate) async fn who(State(app): State<App>, signed_in: SignedIn) -> Result<Json<Me>, Problem> {
    let person = app.store.person(signed_in.person).await?.ok_or_else(signed_out)?;
    Ok(Json(person.into()))
}
