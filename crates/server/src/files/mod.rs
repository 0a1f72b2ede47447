//! Files to hand over: tables as files of a format, and those that are written while they are read.

pub(crate) mod audit;
pub(crate) mod journal;
mod sending;

use crate::Problem;
use crate::state::off_thread;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use percent_encoding::{NON_ALPHANUMERIC, utf8_percent_encode};
use zf_core::trail::Seal;
use zf_sheets::{CannotWrite, Format, Table};
use zf_store::trail::Kept;
use zf_wire::problem::ProblemCode;

/// An answer that a browser saves as a file of these tables.
pub(crate) async fn saved(
    stem: &str,
    format: Format,
    tables: Vec<Table>,
) -> Result<Response, Problem> {
    let content = off_thread(move || zf_sheets::write(format, &tables)).await?;
    saved_as(stem, format, content.map_err(|e| unwritten(&e))?).await
}

async fn saved_as(stem: &str, format: Format, content: Vec<u8>) -> Result<Response, Problem> {
    download(&format!("{stem}.{}", format.ending()), format.media_type(), content).await
}

async fn download(
    name: &str,
    media_type: &'static str,
    content: Vec<u8>,
) -> Result<Response, Problem> {
    // Names in other letters need the form of RFC 8187.
    let name = utf8_percent_encode(name, NON_ALPHANUMERIC);
    let disposition = format!("attachment; filename*=UTF-8''{name}");
    let headers = [
        (header::CONTENT_TYPE, media_type.to_owned()),
        (header::CONTENT_DISPOSITION, disposition),
        (header::CONTENT_LENGTH, content.len().to_string()),
    ];
    Ok((headers, sending::body(content).await?).into_response())
}

/// A whole trail as JSON Lines, each row with its seal and that of the row before it.
///
/// # Errors
/// When writing it panicked.
pub(crate) async fn trail_file(name: &str, rows: Vec<Kept>) -> Result<Response, Problem> {
    let lines = off_thread(move || -> String {
        let before = std::iter::once(Seal::FIRST).chain(rows.iter().map(|row| row.seal));
        rows.iter().zip(before).map(|(row, b)| row.record.line(b, row.seal)).collect()
    });
    download(name, "application/jsonl", lines.await?.into_bytes()).await
}

fn unwritten(error: &CannotWrite) -> Problem {
    match error {
        CannotWrite::TooLong => Problem::unreadable(ProblemCode::TooLong, error),
        other => Problem::internal(other),
    }
}

/// The name of a file that is asked for, and its format.
///
/// # Errors
/// When no such format is written.
pub(crate) fn asked(file: &str) -> Result<(&str, Format), Problem> {
    let parts = file.rsplit_once('.');
    parts
        .and_then(|(name, ending)| Some((name, Format::from_ending(ending)?)))
        .ok_or_else(|| Problem::field("file", "it can be had as csv, xlsx or ods"))
}
