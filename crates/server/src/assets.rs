//! The built front end, embedded in the binary.

use crate::catalogue::ProblemCode;
use axum::http::{StatusCode, Uri, header};
use axum::response::{IntoResponse, Response};
use rust_embed::RustEmbed;

#[derive(RustEmbed)]
#[folder = "../../web/build"]
struct Built;

/// The page that starts the front end.
pub(crate) fn page() -> String {
    let page = Built::get("index.html").map(|file| file.data.into_owned()).unwrap_or_default();
    String::from_utf8(page).unwrap_or_default()
}

/// A built file, or the page that starts the front end, which knows all other addresses.
pub(crate) async fn serve(uri: Uri) -> Response {
    let path = uri.path().trim_start_matches('/');
    if path.starts_with("api/") {
        return crate::Problem::new(
            StatusCode::NOT_FOUND,
            ProblemCode::NotFound,
            "there is no such address",
        )
        .into_response();
    }
    let (name, file) = match Built::get(path) {
        Some(file) => (path, Some(file)),
        None => ("index.html", Built::get("index.html")),
    };
    let Some(file) = file else { return StatusCode::NOT_FOUND.into_response() };
    // Built files other than the page carry a digest of their content in their name.
    let lasting = name.starts_with("_app/immutable/");
    let cache = if lasting { "public, max-age=31536000, immutable" } else { "no-cache" };
    let kind = file.metadata.mimetype().to_owned();
    ([(header::CONTENT_TYPE, kind), (header::CACHE_CONTROL, cache.to_owned())], file.data)
        .into_response()
}
