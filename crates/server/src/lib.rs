//! Zero Fold over HTTP: sessions, one action a file, one table of errors, the OpenAPI document and
//! the built front end. No rule lives here: an action parses, allows, does and answers.

pub mod access;
pub mod actions;
mod assets;
mod cache;
mod catalogue;
mod config;
mod connections;
pub mod costs;
mod etag;
mod extract;
mod files;
mod headers;
mod health;
pub mod intake;
pub mod jobs;
mod letters;
mod mail;
mod metrics;
mod middleware;
pub mod passwords;
mod people;
mod problem;
mod proofs;
mod router;
mod secrets;
mod session;
mod state;
mod values;
mod waiting_file;

/// For what other crates await: a boxed future is compiled here, once; the body of a plain `async fn` would
/// be compiled anew by every crate that awaits it.
use async_recursion::async_recursion as boxed;

pub use assets::is_place;
pub use catalogue::errors;
pub use config::Config;
pub use health::show_metrics;
pub use mail::{CannotSend, Mail};
pub use problem::Problem;
pub use router::{openapi, serve};
pub use state::App;
