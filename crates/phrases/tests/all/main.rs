//! Tests of what is said to people.

#![allow(clippy::unwrap_used, clippy::panic, reason = "what is not said fails the test")]
#![allow(dead_code, reason = "the small books are those of the core's tests")]

#[path = "../../../core/tests/all/books/mod.rs"]
mod books;
mod changes;
mod examples;
mod files;
mod findings;
mod intake;
mod refusals;
mod review;
mod statements;
mod trail;
