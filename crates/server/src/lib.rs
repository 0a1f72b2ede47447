//! Zero Fold over HTTP: sessions, one action a file, one table of errors, the OpenAPI document and
//! the built front end. No rule lives here: an action parses, allows, does and answers.

pub mod actions;
mod answering;
mod assets;
mod catalogue;
mod door;
mod files;
mod headers;
pub mod intake;
pub mod jobs;
mod kept;
mod looked;
mod problem;
mod router;
mod serving;
mod session;
mod state;
mod tagged;
mod values;

pub use catalogue::errors;
pub use problem::Problem;
pub use router::{openapi, serve};
pub use state::App;
