//! What is handed out: every form is explained, its examples are read as they stand, and each column is written.

#[path = "../../../core/tests/all/books/mod.rs"]
#[expect(dead_code, reason = "the books of the core's tests serve others as well")]
mod books;
mod forms;
mod writing;
