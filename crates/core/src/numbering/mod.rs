//! Renumbering: the numbering schemes a chart can start from, rules that propose a code for every
//! account of a scope, where a single code would stand, and the map of the code line.
//!
//! A rule only proposes. What it proposes is staged as a change of code like any other, and judged by
//! the rehearsal.

pub mod inferred_blocks;
pub mod map;
pub mod pieces;
pub mod preview;
pub mod rules;
pub mod schemes;
pub mod scope;
