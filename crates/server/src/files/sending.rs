//! Files on their way to whoever asked. What is large lies in a file without a name until it was taken, since
//! whoever takes it may be slow, and many may ask at once.

use crate::Problem;
use crate::state::off_thread;
use axum::body::{Body, Bytes};
use futures_util::stream::try_unfold;
use std::fs::File;
use std::io::{self, Read, Seek, Write};

/// The most bytes that wait in memory.
const HELD: usize = 4 << 20;

/// How many bytes are read at a time.
const PIECE: usize = 1 << 18;

/// The body of an answer with this content.
///
/// # Errors
/// When there is no room for it.
pub(super) async fn body(content: Vec<u8>) -> Result<Body, Problem> {
    if content.len() <= HELD {
        return Ok(Body::from(content));
    }
    let file = off_thread(move || put_down(&content)).await?;
    let file = file.map_err(|error| Problem::internal(&error))?;
    Ok(Body::from_stream(try_unfold(file, |file| async move {
        let read = off_thread(move || piece(file)).await;
        read.unwrap_or_else(|problem| Err(io::Error::other(problem.detail)))
    })))
}

/// Puts bytes into a file that is gone when it is closed.
fn put_down(content: &[u8]) -> io::Result<File> {
    let mut file = tempfile::tempfile()?;
    file.write_all(content)?;
    file.rewind()?;
    Ok(file)
}

/// The next bytes of a file, and the file to go on with; `None` at its end.
fn piece(mut file: File) -> io::Result<Option<(Bytes, File)>> {
    let mut bytes = vec![0; PIECE];
    let read = file.read(&mut bytes)?;
    bytes.truncate(read);
    Ok((read > 0).then(|| (bytes.into(), file)))
}
