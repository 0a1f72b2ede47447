//! People: what is taken for their names, addresses and passwords, and how they like figures written.

mod forms;
mod link;
mod names;
mod password;

pub use forms::{DateForm, NumberForm};
pub use link::Purpose;
pub use names::{NotAName, NotAnAddress, email, name};
pub use password::{SHORTEST, TooWeak, look_at as look_at_password};
