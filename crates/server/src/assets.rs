//! The built front end, embedded in the binary.

use axum::http::{HeaderMap, StatusCode, Uri, header};
use axum::response::{IntoResponse, Response};
use rust_embed::{EmbeddedFile, RustEmbed};
use zf_wire::problem::ProblemCode;

#[derive(RustEmbed)]
#[folder = "../../web/build"]
struct Built;

/// The page that starts the front end.
pub(crate) fn page() -> String {
    let page = Built::get("index.html").map(|file| file.data.into_owned()).unwrap_or_default();
    String::from_utf8(page).unwrap_or_default()
}

/// Where the addresses of the front end begin. All others are none.
const PLACES: &[&str] = &[
    "",
    "account",
    "books",
    "forgotten",
    "link",
    "outbox",
    "people",
    "server-trail",
    "shared",
    "sign-in",
];

/// Whether addresses of the front end begin with this.
pub fn is_place(name: &str) -> bool {
    PLACES.contains(&name)
}

/// A built file, or the page that starts the front end, which knows the addresses of its places. At one
/// that is none a browser is shown that page as well, which says so, and a program nothing.
pub(crate) async fn serve(uri: Uri, headers: HeaderMap) -> Response {
    let path = uri.path().trim_start_matches('/');
    if path.starts_with("api/") {
        return crate::Problem::new(
            StatusCode::NOT_FOUND,
            ProblemCode::NotFound,
            "there is no such address",
        )
        .into_response();
    }
    if let Some(file) = Built::get(path) {
        // Built files other than the page carry a digest of their content in their name.
        let lasting = path.starts_with("_app/immutable/");
        return sent(StatusCode::OK, file, lasting);
    }
    let place = path.split('/').next().unwrap_or_default();
    let accepts = headers.get(header::ACCEPT).and_then(|accepts| accepts.to_str().ok());
    let browsed = accepts.is_some_and(|accepts| accepts.contains("text/html"));
    let status = match (is_place(place), browsed && !place.starts_with('_')) {
        (true, _) => StatusCode::OK,
        (false, true) => StatusCode::NOT_FOUND,
        (false, false) => {
            return (StatusCode::NOT_FOUND, "there is no such address\n").into_response();
        }
    };
    match Built::get("index.html") {
        Some(page) => sent(status, page, false),
        None => StatusCode::NOT_FOUND.into_response(),
    }
}

fn sent(status: StatusCode, file: EmbeddedFile, lasting: bool) -> Response {
    let cache = if lasting { "public, max-age=31536000, immutable" } else { "no-cache" };
    let kind = file.metadata.mimetype().to_owned();
    (status, [(header::CONTENT_TYPE, kind), (header::CACHE_CONTROL, cache.to_owned())], file.data)
        .into_response()
}
