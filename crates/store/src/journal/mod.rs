//! The journal: entries, lines, the strands and totals that they add up to, and what is read of them.

mod copying;
pub(crate) mod dimensions;
pub mod entries;
pub(crate) mod ledger;
pub mod lines;
pub mod overlap;
pub(crate) mod posting;
pub mod recount;
pub(crate) mod sketches;
pub(crate) mod stored_line;
pub(crate) mod strands;
pub mod today;
pub(crate) mod totals;
mod trial;
