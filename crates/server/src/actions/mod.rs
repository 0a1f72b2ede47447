//! One file for each thing that can be asked for: parse, allow, do, answer.

pub(crate) mod account;
pub(crate) mod applications;
pub(crate) mod books;
pub(crate) mod cards;
pub(crate) mod chart;
pub(crate) mod dismissed;
pub(crate) mod files;
pub(crate) mod history;
pub(crate) mod imports;
pub(crate) mod items;
pub(crate) mod journal;
pub(crate) mod links;
pub(crate) mod members;
pub(crate) mod merging;
pub(crate) mod numbering;
pub(crate) mod outbox;
pub(crate) mod people;
pub(crate) mod plans;
pub(crate) mod review;
pub(crate) mod sessions;
pub(crate) mod settings;
pub(crate) mod statements;
pub(crate) mod summary;
pub(crate) mod trail;
