//! Who is asking, and whether they may: every operation passes here, and none is carried out that the
//! table of rights does not let through.

use crate::access::{Operations, Wants};
use crate::middleware::Asker;
use crate::{App, Problem};
use axum::extract::{ConnectInfo, FromRequestParts, MatchedPath, RawPathParams, Request, State};
use axum::http::StatusCode;
use axum::http::request::Parts;
use axum::middleware::Next;
use axum::response::Response;
use std::net::{IpAddr, SocketAddr};
use std::sync::Arc;
use time::OffsetDateTime;
use tower_sessions::{Session, session, session_store};
use zf_core::access::Capability;
use zf_core::ids::{BooksId, PlanId, SessionId};
use zf_store::StoreError;
use zf_store::member::Member;
use zf_store::people::Person;
use zf_wire::problem::ProblemCode;

/// Which session of a person it is, in what the server keeps for a browser.
pub(crate) const SESSION: &str = "session";

/// When a session was last used, in seconds; written only now and then.
const USED: &str = "used";

/// After how long the use of a session is written down again.
const USED_AGAIN: i64 = 3_600;

/// Somebody who is signed in.
#[derive(Clone)]
pub(crate) struct SignedIn {
    pub(crate) person: Person,
    /// Which of their sessions this is.
    pub(crate) session: SessionId,
}

/// A member of the books that the path names, who may do what is asked for.
#[derive(Clone)]
pub(crate) struct In(pub(crate) Member);

pub(crate) fn signed_out() -> Problem {
    Problem::new(StatusCode::UNAUTHORIZED, ProblemCode::SignedOut, "sign in first")
}

/// A session that cannot be read is most often a database that is away.
pub(crate) fn unread(error: session::Error) -> Problem {
    match error {
        session::Error::Store(session_store::Error::Backend(why)) => {
            Problem { cause: Some(why), ..StoreError::Away.into() }
        }
        error => Problem::internal(&error),
    }
}

/// Lets through what the table of rights lets through.
///
/// # Errors
/// Why not: 401 for a stranger, 404 for books that one is no member of, 403 for a right that one lacks.
pub(crate) async fn allow(
    State((app, operations)): State<(App, Arc<Operations>)>,
    request: Request,
    next: Next,
) -> Result<Response, Problem> {
    let (mut parts, body) = request.into_parts();
    let wants = parts
        .extensions
        .get::<MatchedPath>()
        .and_then(|path| operations.at(&parts.method, path.as_str()));
    match wants {
        // The router refuses what there is not.
        None => {}
        Some(None) => {
            return Err(Problem::internal(&"an operation has no place in the table of rights"));
        }
        Some(Some(Wants::Nothing)) => {}
        Some(Some(Wants::SignedIn)) => {
            let signed_in = who_asks(&mut parts, &app).await?;
            parts.extensions.insert(signed_in);
        }
        Some(Some(Wants::Administrator)) => {
            let signed_in = who_asks(&mut parts, &app).await?;
            if !signed_in.person.administrator {
                return Err(not_allowed("only an administrator of this server can do that"));
            }
            parts.extensions.insert(signed_in);
        }
        Some(Some(Wants::Of(capability))) => {
            let signed_in = who_asks(&mut parts, &app).await?;
            let member = member(&mut parts, &app, &signed_in, capability).await?;
            parts.extensions.insert(signed_in);
            parts.extensions.insert(In(member));
        }
    }
    Ok(next.run(Request::from_parts(parts, body)).await)
}

/// Whom a session belongs to. A session that is used lasts on.
async fn who_asks(parts: &mut Parts, app: &App) -> Result<SignedIn, Problem> {
    let kept = Session::from_request_parts(parts, app)
        .await
        .map_err(|(_, why)| Problem::internal(&why))?;
    let session: Option<SessionId> = kept.get(SESSION).await.map_err(unread)?;
    let session = session.ok_or_else(signed_out)?;
    // One that was ended elsewhere, or whose person was removed, is worth nothing.
    let person = app.store.of_session(session).await?.ok_or_else(signed_out)?;
    if let Some(asker) = parts.extensions.get::<Asker>() {
        asker.is(person.id);
    }
    let now = OffsetDateTime::now_utc().unix_timestamp();
    let used: i64 = kept.get(USED).await.map_err(unread)?.unwrap_or_default();
    if now - used > USED_AGAIN {
        kept.insert(USED, now).await.map_err(unread)?;
        app.store.use_session(session).await?;
    }
    Ok(SignedIn { person, session })
}

async fn member(
    parts: &mut Parts,
    app: &App,
    who: &SignedIn,
    capability: Capability,
) -> Result<Member, Problem> {
    let params = RawPathParams::from_request_parts(parts, app).await.map_err(|_| {
        let detail = "the address holds what is no text (UTF-8)";
        Problem::new(StatusCode::BAD_REQUEST, ProblemCode::Malformed, detail)
    })?;
    let number = |wanted: &str| {
        let param = params.iter().find(|(name, _)| *name == wanted)?;
        param.1.parse::<i64>().ok()
    };
    let books = number("books").ok_or(StoreError::NotFound("set of books"))?;
    let member = app.store.member(who.person.id, BooksId(books)).await?;
    if !member.may(capability) {
        let why = if member.is_archived() {
            "these books are archived, so nothing is changed in them; an owner can restore them"
                .to_owned()
        } else {
            format!(
                "to {} is not among what your roles in these books allow",
                zf_phrases::terms::capability(capability)
            )
        };
        return Err(not_allowed(why));
    }
    // What a guest was not let in to is not there for them.
    if number("plan").is_some_and(|plan| !member.sees_plan(PlanId(plan))) {
        return Err(StoreError::NotFound("plan").into());
    }
    Ok(member)
}

fn not_allowed(why: impl ToString) -> Problem {
    Problem::new(StatusCode::FORBIDDEN, ProblemCode::NotYours, why)
}

impl FromRequestParts<App> for SignedIn {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, _: &App) -> Result<Self, Problem> {
        parts.extensions.get::<Self>().cloned().ok_or_else(signed_out)
    }
}

impl FromRequestParts<App> for In {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, _: &App) -> Result<Self, Problem> {
        parts.extensions.get::<Self>().cloned().ok_or_else(signed_out)
    }
}

/// Where a request comes from, and what the browser calls itself.
pub(crate) struct Client {
    pub(crate) address: IpAddr,
    pub(crate) agent: String,
}

/// The most characters that are kept of what a browser calls itself.
const LONGEST_AGENT: usize = 300;

impl Client {
    /// As whom their tries are counted: whoever has one address of IPv6 most often has a network of 2⁶⁴
    /// (RFC 6177), so that counts as one.
    pub(crate) fn counted_as(&self) -> String {
        crate::config::counted_as(self.address)
    }
}

impl FromRequestParts<App> for Client {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, app: &App) -> Result<Self, Problem> {
        let ConnectInfo(connected) = ConnectInfo::<SocketAddr>::from_request_parts(parts, app)
            .await
            .map_err(|error| Problem::internal(&error))?;
        let address = app.config.client(connected.ip(), &parts.headers);
        let header =
            |name| parts.headers.get_all(name).iter().filter_map(|value| value.to_str().ok());
        let agent: String = header("user-agent").take(1).flat_map(str::chars).collect();
        let seen = agent.chars().filter(|c| !c.is_control()).take(LONGEST_AGENT);
        Ok(Self { address, agent: seen.collect() })
    }
}
