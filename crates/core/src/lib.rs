//! The rules and the computation of Zero Fold: what a chart of accounts is, what a plan would make
//! of it, what blocks that, and how to prove that no line was lost.
//!
//! This crate may not do I/O, ask the clock, or know of the database or the interface: everything
//! comes in as a value and leaves as one, so that each rule can be tested on its own.

#![warn(missing_docs)]

pub mod access;
pub mod activity;
pub mod calendar;
pub mod chart;
pub mod code;
pub mod dimension;
pub mod entry;
pub mod file_kind;
pub mod former;
pub mod free_codes;
pub mod history;
pub mod ids;
pub mod items;
pub mod keyed;
pub mod money;
pub mod names;
pub mod numbering;
pub mod overlap;
pub mod people;
pub mod plan;
pub mod policy;
pub mod rehearsal;
pub mod reports;
pub mod review;
pub mod rollback;
pub mod row_figures;
pub mod settings;
pub mod statement;
pub mod text;
pub mod today;
pub mod trail;
pub mod trial_balance;
pub mod usage;
