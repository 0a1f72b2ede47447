//! The statements that are drawn from the books: which months stand beside each other, under what a history is read,
//! which line of the structure each amount stands on, and that all of it ties to the trial balance.

pub mod columns;
pub mod moved;
pub mod pieces;
pub mod statement;
pub mod ties;
