//! Files read and written.
//!
//! One program for all of them: linking is what a build of tests waits for.

#![allow(clippy::unwrap_used, clippy::panic, reason = "what cannot be built fails the test")]

mod audit;
mod corpus;
mod files;
mod hostile;
mod roundtrip;
