//! Every sentence that a person reads of what the core and the intake found out, in plain English. They answer with data:
//! here alone it becomes words, in the forms of dates and numbers of whoever asked.

#![warn(missing_docs)]

pub mod changes;
pub mod examples;
pub mod findings;
pub mod intake;
pub mod numbering;
pub mod policy;
pub mod reports;
pub mod review;
pub mod rollback;
mod say;
pub mod style;
pub mod terms;
pub mod trail;

pub use say::Say;
pub use style::Style;
