//! How commands that work on files answer: in words or as one JSON object, with an exit status.

use serde::Serialize;
use std::fmt;
use std::io::Write;
use std::process::ExitCode;
use zf_core::people::Forms;
use zf_phrases::Style;
use zf_wire::output::Failed;

/// Commands write in the usual forms.
pub(crate) const STYLE: Style = Style(Forms::USUAL);

/// What a command found, written out for a person.
pub(crate) trait Found: fmt::Display {
    /// The form of it for a script.
    type Output: Serialize;

    /// For a script.
    fn output(&self) -> Self::Output;

    /// Whether nothing is left to be settled.
    fn is_settled(&self) -> bool;
}

/// Says what was found. Exit status 0 when nothing is left to be settled, 1 when something is, 2 when a
/// file cannot be read.
pub(crate) fn say(found: anyhow::Result<impl Found>, as_json: bool) -> ExitCode {
    match found {
        Ok(found) => {
            if as_json {
                write_json(&found.output());
            } else {
                write(&found.to_string());
            }
            ExitCode::from(u8::from(!found.is_settled()))
        }
        Err(error) => {
            if as_json {
                write_json(&Failed { error: format!("{error:#}") });
            }
            eprintln!("{error:#}");
            ExitCode::from(2)
        }
    }
}

fn write_json(output: &impl Serialize) {
    match serde_json::to_string_pretty(output) {
        Ok(json) => write(&format!("{json}\n")),
        Err(error) => eprintln!("{error}"),
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
