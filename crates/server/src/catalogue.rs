//! Everything that can go wrong, in one place: the codes of problems, and the document that lists them
//! with the reasons of rejected rows.

use std::fmt::Write;
use zf_intake::reason::Reason;
use zf_phrases::intake::title;
use zf_wire::problem::ProblemCode;

/// The document of everything that can go wrong, as Markdown.
pub fn errors() -> String {
    let mut text = String::from(
        "# What can go wrong\n\n\
         Written by `zerofold errors`; a test holds it to the program.\n\n\
         ## Problems\n\n\
         Answers with an error hold problem details (RFC 9457) with one of these codes, a sentence for a\n\
         person, and what it is about.\n\n",
    );
    table(&mut text, ProblemCode::ALL.iter().map(|code| (code.key(), code.words())));
    text.push_str(
        "\n## Reasons of rows\n\n\
         Why a row of a file is left out, or what is worth knowing of it: on the page, in the list of\n\
         rejected rows, and in what `zerofold inspect --json` prints.\n\n",
    );
    table(&mut text, Reason::ALL.iter().map(|reason| (reason.key(), title(*reason))));
    text
}

fn table(text: &mut String, rows: impl Iterator<Item = (&'static str, &'static str)>) {
    text.push_str("| Code | Meaning |\n|---|---|\n");
    for (key, words) in rows {
        // Writing to a text cannot fail.
        let _ = writeln!(text, "| `{key}` | {words} |");
    }
}
