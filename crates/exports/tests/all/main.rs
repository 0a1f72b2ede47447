//! What is handed out: every form is explained, its examples are read as they stand, and each column is written.

#![allow(clippy::unwrap_used, clippy::panic, reason = "what cannot be built fails the test")]

#[path = "../../../core/tests/all/books/mod.rs"]
#[expect(dead_code, reason = "the books of the core's tests serve others as well")]
mod books;
mod forms;
mod writing;
