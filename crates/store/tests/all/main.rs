//! The store on a real PostgreSQL.
//!
//! One program for all of them: linking is what a build of tests waits for.

#![allow(clippy::unwrap_used, clippy::panic, reason = "what cannot be built fails the test")]

mod conservation;
mod deleting;
mod entries;
mod faults;
mod history;
mod imports;
mod items;
mod jobs;
mod migrating;
mod migrations;
mod overlap;
mod plans;
mod posting;
mod races;
mod report_lines;
mod reviewing;
mod rollback;
mod schema;
mod sketches;
