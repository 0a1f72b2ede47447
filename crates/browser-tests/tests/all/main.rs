//! The interface as people use it, in headless Chromium.
//!
//! One program for all of them: linking is what a build of tests waits for.

#![allow(clippy::unwrap_used, clippy::panic, reason = "what cannot be built fails the test")]

mod bringing;
mod cleanup;
mod commands;
mod desk;
mod drilling;
mod importing;
mod journeys;
mod people;
mod reading;
mod restructuring;
mod review;
mod shapes;
mod sheet;
mod sheet_desk;
mod staging;
mod statement_items;
mod statements;
