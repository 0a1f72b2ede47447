//! Zero Fold over HTTP: sessions, one action a file, one table of errors, the OpenAPI document and
//! the built front end. No rule lives here: an action parses, allows, does and answers.

pub mod access;
pub mod actions;
mod answering;
mod assets;
mod catalogue;
pub mod costs;
mod door;
mod files;
mod headers;
pub mod intake;
pub mod jobs;
mod kept;
mod letters;
mod looked;
mod mail;
mod measured;
pub mod passwords;
mod people;
mod problem;
mod proved;
mod router;
mod running;
mod secrets;
mod serving;
mod session;
mod state;
mod tagged;
mod values;
mod watching;

pub use assets::is_place;
pub use catalogue::errors;
pub use mail::{CannotSend, Mail};
pub use problem::Problem;
pub use router::{openapi, serve};
pub use running::Running;
pub use state::App;
pub use watching::show_metrics;
