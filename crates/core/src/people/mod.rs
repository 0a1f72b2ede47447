//! People: what is taken for their names and addresses, and how they like figures written.

mod forms;
mod link;
mod names;

pub use forms::{DateForm, Forms, NumberForm};
pub use link::Purpose;
pub use names::{NotAName, NotAnAddress, email, name};
