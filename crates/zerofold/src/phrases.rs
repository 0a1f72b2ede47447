//! `zerofold phrases`: what is said of plans and in reviews, to be read over.

use std::io::{self, Write};
use zf_phrases::examples::{
    of_evidence, of_items, of_questions, of_refusals, of_remarks, of_rows, of_rules, of_statements,
    of_terms, of_trail,
};

/// Writes each sentence with an example.
///
/// # Errors
/// When it cannot be written.
pub(crate) fn list(out: &mut impl Write) -> io::Result<()> {
    for (heading, examples) in [
        ("Stops and cautions", of_rules()),
        ("Remarks", of_remarks()),
        ("Rows of a trail", of_trail()),
        ("Rows of a file", of_rows()),
    ] {
        writeln!(out, "{heading}\n")?;
        for example in examples {
            writeln!(out, "  {} ({})\n    {}", example.title, example.key, example.sentence)?;
            if let Some(advice) = example.advice {
                writeln!(out, "    {advice}")?;
            }
        }
        writeln!(out)?;
    }
    for (heading, sentences) in [
        ("Evidence for look-alikes", of_evidence()),
        ("Changes of statement items", of_items()),
        ("Questions of a file, and what answers mean and give", of_questions()),
        ("What cannot be done", of_refusals()),
        ("Rows and columns of statements", of_statements()),
        ("Rights, rules, classes, sections and numbering schemes", of_terms()),
    ] {
        writeln!(out, "{heading}\n")?;
        sentences.iter().try_for_each(|sentence| writeln!(out, "    {sentence}"))?;
        writeln!(out)?;
    }
    Ok(())
}
