//! What the interface, scripts and other programs are sent: data of the core, worded, in the forms of the API.

#![warn(missing_docs)]

pub mod rehearsal;
