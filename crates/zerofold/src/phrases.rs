//! `zerofold phrases`: what is said of plans and in reviews, to be read over.

use std::io::{self, Write};
use zf_phrases::examples::{of_evidence, of_items, of_remarks, of_rules, of_trail};

/// Writes each sentence with an example.
///
/// # Errors
/// When it cannot be written.
pub(crate) fn list(out: &mut impl Write) -> io::Result<()> {
    for (heading, examples) in [
        ("Stops and cautions", of_rules()),
        ("Remarks", of_remarks()),
        ("Rows of a trail", of_trail()),
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
    writeln!(out, "Evidence for look-alikes\n")?;
    of_evidence().iter().try_for_each(|said| writeln!(out, "    {said}"))?;
    writeln!(out, "\nChanges of statement items\n")?;
    of_items().iter().try_for_each(|said| writeln!(out, "    {said}"))
}
