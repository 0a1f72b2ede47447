//! Every sentence that a person reads of what the core found out, in plain English. The core answers with data:
//! here alone it becomes words, in the forms of dates and numbers of whoever asked.

#![warn(missing_docs)]

pub mod changes;
pub mod examples;
pub mod findings;
pub mod review;
mod say;
pub mod style;
pub mod trail;

pub use say::Say;
pub use style::Style;
