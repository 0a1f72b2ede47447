//! Answers with a tag of what they were made of. Who has one already asks with its tag, and is told that
//! nothing changed without its being written again. Tags name revisions; nothing is kept for them.

use crate::Problem;
use crate::state::off_thread;
use axum::Json;
use axum::extract::FromRequestParts;
use axum::http::request::Parts;
use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use serde::Serialize;
use std::convert::Infallible;
use std::hash::{Hash, Hasher};
use xxhash_rust::xxh3::Xxh3;

/// The tags of what whoever asks has already.
pub(crate) struct Known(Vec<String>);

impl<S: Send + Sync> FromRequestParts<S> for Known {
    type Rejection = Infallible;

    async fn from_request_parts(parts: &mut Parts, _: &S) -> Result<Self, Infallible> {
        let sent = parts.headers.get_all(header::IF_NONE_MATCH).iter();
        let tags = sent.filter_map(|tags| tags.to_str().ok()).flat_map(|tags| tags.split(','));
        Ok(Self(tags.map(|tag| tag.trim().to_owned()).collect()))
    }
}

/// The tag of an answer.
pub(crate) struct Tag(String);

impl Tag {
    /// The tag of what is made of `what`: it names all revisions that the answer depends on.
    pub(crate) fn of(what: impl Hash) -> Self {
        let mut hash = Xxh3::new();
        // Another version of the program may write the same otherwise.
        (env!("CARGO_PKG_VERSION"), what).hash(&mut hash);
        // It is a weak one, since answers are compressed on the way (RFC 9110, 8.8.1).
        Self(format!("W/\"{:016x}\"", hash.finish()))
    }

    /// Says that nothing changed, to whoever has what the tag is of.
    pub(crate) fn unchanged(&self, known: &Known) -> Option<Response> {
        let unchanged = || self.on(StatusCode::NOT_MODIFIED.into_response());
        known.0.contains(&self.0).then(unchanged)
    }

    /// Answers what is written, with the tag.
    ///
    /// # Errors
    /// When writing it panicked.
    pub(crate) async fn answer<T: Serialize + Send + 'static>(
        &self,
        write: impl FnOnce() -> T + Send + 'static,
    ) -> Result<Response, Problem> {
        Ok(self.on(Json(off_thread(write).await?).into_response()))
    }

    fn on(&self, mut answer: Response) -> Response {
        if let Ok(tag) = HeaderValue::from_str(&self.0) {
            answer.headers_mut().insert(header::ETAG, tag);
        }
        answer
    }
}
