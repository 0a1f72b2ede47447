//! The statements that are drawn from the books: which months stand beside each other, under what a history is read,
//! which line of the structure each amount stands on, and that all of it ties to the trial balance.

pub mod beside;
mod calculation;
pub mod columns;
mod drawing;
pub mod months;
pub mod moved;
mod pieces;
pub mod reading;
pub mod rounding;
pub mod statement;
pub mod ties;
pub mod trial;

pub use drawing::draw;
