//! What files are read as.
//!
//! One program for all of them: linking is what a build of tests waits for.

#![allow(clippy::unwrap_used, reason = "what cannot be built fails the test")]

mod asking;
mod balances;
#[path = "../../../core/tests/all/books/mod.rs"]
#[allow(dead_code, reason = "the core's own tests use the rest")]
mod books;
mod codes_of_files;
mod comparing;
mod figures;
mod intake;
mod journals;
mod layouts;
mod overlaps;
mod reading_files;
mod rows;
mod shapes;
mod signed;
