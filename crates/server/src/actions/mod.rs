//! One file for each thing that can be asked for: parse, allow, do, answer.

pub(crate) mod applications;
pub(crate) mod books;
pub(crate) mod cards;
pub(crate) mod chart;
pub(crate) mod files;
pub(crate) mod imports;
pub(crate) mod plans;
pub(crate) mod trail;

/// How instants are written in answers.
pub(crate) fn instant(at: time::OffsetDateTime) -> String {
    at.format(&time::format_description::well_known::Rfc3339).unwrap_or_default()
}
