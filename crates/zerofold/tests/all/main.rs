//! The program on its command line.
//!
//! One program for all of them: linking is what a build of tests waits for.

#![allow(clippy::unwrap_used, clippy::panic, reason = "what cannot be built fails the test")]

mod commands;
mod crash;
mod files;
mod inspect;
mod json_keys;
mod office;
mod rehearse;
mod review;
mod running;
mod statements;
