//! The server, asked over HTTP.
//!
//! One program for all of them: linking is what a build of tests waits for.

#![allow(clippy::unwrap_used, clippy::panic, reason = "what cannot be built fails the test")]

mod answers;
mod behind;
mod contract;
mod desk;
mod edits;
mod exchange;
mod hostile;
mod http;
mod items;
mod jobs;
mod limits;
mod passwords;
mod people;
mod restructure;
mod roles;
mod settings;
mod several;
mod site;
mod statements;
mod views;
mod walls;
