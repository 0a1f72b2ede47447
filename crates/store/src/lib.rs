//! The books in PostgreSQL. All SQL lives here and no rule does: the store reads what the core
//! looks at, writes what the core computed, reads it back, and rolls back when it is not the same.
//!
//! Every function on a set of books takes a [`member::Member`], which only the membership table
//! can make.

pub mod books;
mod chart;
mod database;
mod error;
mod ids;
pub mod imports;
mod items;
pub mod jobs;
pub mod journal;
pub mod member;
pub mod people;
pub mod plans;
pub mod review;
pub mod trail;
mod write_queue;
mod writing;

/// For what other crates await: a boxed future is compiled here, once; the body of a plain `async fn` would
/// be compiled anew by every crate that awaits it.
use async_recursion::async_recursion as boxed;

pub use database::{BrowserSessions, Store};
pub use error::StoreError;
pub use sqlx::PgPool;
