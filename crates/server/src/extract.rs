//! What comes in at the door: every text, number and list of a request is looked at in one place
//! before anything else is done with it. What a thing means is parsed behind the door.

use crate::Problem;
use axum::body::Bytes;
use axum::extract::{FromRequest, FromRequestParts, Request};
use axum::http::StatusCode;
use axum::http::request::Parts;
use axum::response::{IntoResponse, Response};
use serde::de::DeserializeOwned;
use serde_json::Value;
use zf_core::text;
use zf_wire::problem::ProblemCode;
use zf_wire::problem::RefusedField;

/// The most things in one list: twice the accounts of the largest chart.
pub(crate) const MOST: usize = 20_000;

/// The largest whole number that a browser tells apart from its neighbours.
const LARGEST: i64 = (1 << 53) - 1;

/// The JSON of a request, looked at.
pub(crate) struct Form<T>(pub(crate) T);

impl<T: DeserializeOwned, S: Send + Sync> FromRequest<S> for Form<T> {
    type Rejection = Response;

    async fn from_request(request: Request, state: &S) -> Result<Self, Response> {
        let kind = request.headers().get("content-type").and_then(|kind| kind.to_str().ok());
        if !kind.is_some_and(|kind| kind.starts_with("application/json")) {
            return Err(StatusCode::UNSUPPORTED_MEDIA_TYPE.into_response());
        }
        let bytes =
            Bytes::from_request(request, state).await.map_err(IntoResponse::into_response)?;
        read(&bytes).map(Self).map_err(IntoResponse::into_response)
    }
}

fn read<T: DeserializeOwned>(bytes: &[u8]) -> Result<T, Problem> {
    let value: Value = serde_json::from_slice(bytes).map_err(|error| {
        Problem::new(
            StatusCode::BAD_REQUEST,
            ProblemCode::Malformed,
            format!("this is no JSON: {error}"),
        )
    })?;
    look_at(&value, &mut String::new())?;
    serde_path_to_error::deserialize(value)
        .map_err(|error| Problem::field(&error.path().to_string(), error.inner()))
}

/// The query of a request, looked at.
pub(crate) struct Query<T>(pub(crate) T);

impl<T: DeserializeOwned, S: Send + Sync> FromRequestParts<S> for Query<T> {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, _: &S) -> Result<Self, Problem> {
        let pairs: Vec<(String, String)> =
            serde_urlencoded::from_str(parts.uri.query().unwrap_or_default())
                .map_err(|error| Problem::field("query", error))?;
        for (name, text) in &pairs {
            text::look_at(text).map_err(|why| Problem::field(name, why))?;
        }
        let query = axum::extract::Query::<T>::try_from_uri(&parts.uri);
        query.map(|query| Self(query.0)).map_err(|error| Problem::field("query", error.body_text()))
    }
}

/// Looks at everything in a form; `path` says where one is.
fn look_at(value: &Value, path: &mut String) -> Result<(), Problem> {
    let refuse = |path: &str, why: String| {
        let field = path.trim_start_matches('.').to_owned();
        Err(Problem::refused(vec![RefusedField { account: None, field, reason: why }]))
    };
    match value {
        Value::Null | Value::Bool(_) => Ok(()),
        Value::Number(number)
            if number.as_i64().is_some_and(|n| (-LARGEST..=LARGEST).contains(&n)) =>
        {
            Ok(())
        }
        Value::Number(_) => refuse(path, "this is no whole number that can be taken".to_owned()),
        Value::String(text) => text::look_at(text).or_else(|why| refuse(path, why.to_string())),
        Value::Array(list) if list.len() > MOST => {
            refuse(path, format!("these are more than {MOST} at once"))
        }
        Value::Array(list) => list.iter().enumerate().try_for_each(|(at, value)| {
            within(path, &format!("[{at}]"), |path| look_at(value, path))
        }),
        Value::Object(fields) => fields.iter().try_for_each(|(name, value)| {
            text::look_at(name).or_else(|why| refuse(path, why.to_string()))?;
            within(path, &format!(".{name}"), |path| look_at(value, path))
        }),
    }
}

fn within<T>(path: &mut String, step: &str, look: impl FnOnce(&mut String) -> T) -> T {
    let before = path.len();
    path.push_str(step);
    let done = look(path);
    path.truncate(before);
    done
}
