//! What the interface, scripts and other programs send and are sent: data of the core, worded, in the forms of the
//! API. A field without a comment is told by its name.

pub mod account;
pub mod applications;
pub mod books;
pub mod cards;
pub mod chart;
pub mod exports;
pub mod health;
pub mod history;
pub mod imports;
pub mod items;
pub mod journal;
pub mod letters;
pub mod links;
pub mod members;
pub mod merging;
pub mod numbering;
pub mod output;
pub mod people;
pub mod plans;
pub mod problem;
pub mod rehearsal;
pub mod review;
pub mod sessions;
pub mod settings;
pub mod statements;
pub mod summary;
pub mod trail;
pub mod values;
