//! How commands that work on files answer: in words or as one JSON object, with an exit status.

use serde_json::{Value, json};
use std::fmt;
use std::io::Write;
use std::process::ExitCode;

/// What a command found, written out for a person.
pub(crate) trait Found: fmt::Display {
    /// For a script.
    fn json(&self) -> Value;

    /// Whether nothing is left to be settled.
    fn is_settled(&self) -> bool;
}

/// Says what was found. Exit status 0 when nothing is left to be settled, 1 when something is, 2 when a
/// file cannot be read.
pub(crate) fn say(found: anyhow::Result<impl Found>, as_json: bool) -> ExitCode {
    match found {
        Ok(found) => {
            write(&if as_json { format!("{:#}\n", found.json()) } else { found.to_string() });
            ExitCode::from(u8::from(!found.is_settled()))
        }
        Err(error) => {
            if as_json {
                write(&format!("{}\n", json!({ "error": format!("{error:#}") })));
            }
            eprintln!("{error:#}");
            ExitCode::from(2)
        }
    }
}

/// Writes to the standard output. Whoever closes it has read enough, as `head` does.
fn write(text: &str) {
    if let Err(error) = std::io::stdout().write_all(text.as_bytes())
        && error.kind() != std::io::ErrorKind::BrokenPipe
    {
        eprintln!("{error}");
    }
}
