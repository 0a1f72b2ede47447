//! What every request passes through, and every answer: who may ask from where, and problems made
//! whole, whoever raised them. What went wrong inside is logged here, with who asked for what.

use crate::{App, Problem};
use axum::body::{Body, to_bytes};
use axum::extract::{ConnectInfo, Request, State};
use axum::http::{HeaderName, HeaderValue, Method, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use std::net::SocketAddr;
use std::sync::{Arc, OnceLock};
use std::time::Instant;
use zf_core::ids::PersonId;
use zf_wire::problem::ProblemCode;

/// The longest sentence that is taken over from a refusal of the framework.
const LONGEST: usize = 1 << 12;

/// Who asks, once that is known: found out by whoever looks at the session.
#[derive(Clone, Debug, Default)]
pub(crate) struct Asker(Arc<OnceLock<i64>>);

impl Asker {
    /// Says who it is.
    pub(crate) fn is(&self, person: PersonId) {
        // It stays the first one: nobody changes within a request.
        let _ = self.0.set(person.0);
    }
}

/// The header that says by which number the log knows a request.
const REQUEST_ID: HeaderName = HeaderName::from_static("x-request-id");

/// The number by which the log knows a request.
#[derive(Clone, Debug)]
pub(crate) struct Numbered(String);

/// Writes each request of the API into the log with its number, which the answer says too.
pub(crate) async fn log(State(app): State<App>, mut request: Request, next: Next) -> Response {
    if !request.uri().path().starts_with("/api/") {
        return next.run(request).await;
    }
    let began = Instant::now();
    let id = uuid::Uuid::new_v4().simple().to_string();
    let (method, path) = (request.method().clone(), request.uri().path().to_owned());
    let client = client(&app, &request);
    let asker = Asker::default();
    request.extensions_mut().insert(asker.clone());
    request.extensions_mut().insert(Numbered(id.clone()));
    let mut response = next.run(request).await;
    let (person, status) = (asker.0.get(), response.status().as_u16());
    let ms = u64::try_from(began.elapsed().as_millis()).unwrap_or(u64::MAX);
    if response.status().is_server_error() {
        tracing::error!(request = id, %method, path, person, client, status, ms, "a request failed");
    } else {
        tracing::info!(request = id, %method, path, person, client, status, ms, "answered");
    }
    let headers = response.headers_mut();
    // Nothing of anybody's books is kept by a browser or a proxy.
    headers.insert(header::CACHE_CONTROL, HeaderValue::from_static("no-store"));
    headers.extend(HeaderValue::from_str(&id).ok().map(|id| (REQUEST_ID, id)));
    response
}

/// Makes every refusal whole, whoever raised it, before it is compressed; and refuses what a page of another
/// site has a browser ask for.
pub(crate) async fn refuse(request: Request, next: Next) -> Response {
    let Some(Numbered(id)) = request.extensions().get().cloned() else {
        return next.run(request).await;
    };
    let response = if comes_from_elsewhere(&request) {
        let detail = "this was asked for by another site; nothing was done";
        Problem::new(StatusCode::FORBIDDEN, ProblemCode::AnotherSite, detail).into_response()
    } else {
        next.run(request).await
    };
    if response.status().is_client_error() || response.status().is_server_error() {
        whole(response, &id).await
    } else {
        response
    }
}

/// For whom a request was made, as the log says it.
fn client(app: &App, request: &Request) -> Option<String> {
    let ConnectInfo(connected) = request.extensions().get::<ConnectInfo<SocketAddr>>()?;
    Some(app.config.client(connected.ip(), request.headers()).to_string())
}

/// Whether a page of another site has a browser ask for a change, with the cookie of whoever sits
/// before it. Programs that are no browser say nothing of where they come from.
fn comes_from_elsewhere(request: &Request) -> bool {
    if matches!(*request.method(), Method::GET | Method::HEAD | Method::OPTIONS) {
        return false;
    }
    let header = |name| request.headers().get(name).map(|value| value.to_str().unwrap_or_default());
    if let Some(site) = header("sec-fetch-site") {
        return !matches!(site, "same-origin" | "none");
    }
    let host = header(header::HOST.as_str());
    let own = |origin: &str| origin.split_once("://").map(|(_, host)| host) == host;
    header(header::ORIGIN.as_str()).is_some_and(|origin| !own(origin))
}

/// A refusal as problem details, with the number by which it is found in the log.
async fn whole(mut response: Response, id: &str) -> Response {
    let known = response.extensions_mut().remove::<Arc<Problem>>();
    let (mut parts, body) = response.into_parts();
    let problem = match known {
        Some(problem) => problem,
        None => {
            let body = to_bytes(body, LONGEST).await.unwrap_or_default();
            Arc::new(of_the_framework(parts.status, String::from_utf8_lossy(&body).trim()))
        }
    };
    if let Some(cause) = &problem.cause {
        tracing::error!(request = id, cause, "something went wrong inside");
    }
    let mut answer = serde_json::to_value(&*problem).unwrap_or_default();
    answer["request"] = id.into();
    let kind = HeaderValue::from_static("application/problem+json");
    parts.headers.insert(header::CONTENT_TYPE, kind);
    parts.headers.remove(header::CONTENT_LENGTH);
    Response::from_parts(parts, Body::from(answer.to_string()))
}

/// What a refusal of the framework means in plain words.
fn of_the_framework(status: StatusCode, said: &str) -> Problem {
    let (code, detail) = match status {
        StatusCode::NOT_FOUND => (ProblemCode::NotFound, "there is no such address"),
        StatusCode::METHOD_NOT_ALLOWED => {
            (ProblemCode::NotAllowed, "this address does not take that")
        }
        StatusCode::PAYLOAD_TOO_LARGE => {
            (ProblemCode::TooLarge, "more was sent than is taken here")
        }
        StatusCode::UNSUPPORTED_MEDIA_TYPE => {
            (ProblemCode::NotJson, "send JSON, and say that it is")
        }
        StatusCode::REQUEST_TIMEOUT => {
            (ProblemCode::TooSlow, "what was sent did not come in time; nothing was done with it")
        }
        StatusCode::GATEWAY_TIMEOUT => (
            ProblemCode::TookTooLong,
            "this took too long; look whether it was done before you do it again",
        ),
        status if status.is_client_error() => (ProblemCode::Malformed, said),
        _ => (ProblemCode::Internal, crate::problem::SORRY),
    };
    let cause = status.is_server_error().then(|| said.to_owned());
    Problem { cause, ..Problem::new(status, code, detail) }
}
