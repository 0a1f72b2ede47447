//! The rules of the core, by properties before examples.
//!
//! One program for all of them: linking is what a build of tests waits for.

#![allow(clippy::unwrap_used, reason = "what cannot be built fails the test")]

mod access;
mod beside;
mod books;
mod editing;
mod figures;
mod finding;
mod fixes;
mod items;
mod keys;
mod linkage;
mod look_alikes;
mod numbering;
mod oddities;
mod outline;
mod overlap;
mod people;
mod properties;
mod remedies;
mod review;
mod rollback;
mod rules;
mod settings;
mod statements;
mod sums;
mod trails;
mod trials;
mod undoing;
