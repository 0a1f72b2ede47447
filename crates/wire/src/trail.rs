//! Rows of a trail.

use serde::{Deserialize, Serialize};
use zf_core::trail::TrailAction;

/// What of a trail is asked for.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct TrailQuery {
    /// Counted from 0.
    pub page: Option<u32>,
    /// Done by somebody with this in their name.
    pub by: Option<String>,
    /// Of this kind.
    #[param(inline)]
    pub action: Option<TrailAction>,
    /// From this day on.
    pub from: Option<String>,
    /// Up to this day.
    pub until: Option<String>,
    /// With this in what is told of it.
    pub text: Option<String>,
}

/// One thing that was done.
#[derive(Serialize, utoipa::ToSchema)]
pub struct TrailView {
    pub number: i64,
    pub at: String,
    pub person: String,
    /// The kind of what was done; none when a later program wrote it.
    pub action: Option<TrailAction>,
    pub what: String,
    pub detail: String,
    pub application: Option<i64>,
    /// The seal of the row, 64 hexadecimal digits.
    pub seal: String,
}

/// A page of a trail, and where its chain ends.
#[derive(Serialize, utoipa::ToSchema)]
pub struct TrailOf {
    pub rows: Vec<TrailView>,
    /// How many rows there are of what was asked for.
    pub matching: i64,
    /// How many rows the whole trail has.
    pub all: i64,
    /// The seal of its last row.
    pub head: String,
    /// What can have been done, in the order in which one looks for it.
    pub actions: Vec<ActionView>,
}

/// Something that can have been done.
#[derive(Serialize, utoipa::ToSchema)]
pub struct ActionView {
    pub action: TrailAction,
    pub words: &'static str,
}
