//! Pages and instants as they are written in requests and answers.

use serde::de::DeserializeOwned;
use serde::{Deserialize, Deserializer};
use serde_json::Value;

/// Which page of a long list.
#[derive(Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct PageOf {
    /// Counted from 0.
    pub page: Option<u32>,
}

/// A page of a long list, and how many there are.
pub fn page_of<T: Clone>(list: &[T], page: usize, size: usize) -> (Vec<T>, usize) {
    let shown = list.chunks(size).nth(page).unwrap_or_default().to_vec();
    (shown, list.len().div_ceil(size))
}

/// How instants are written in answers.
pub fn instant(at: time::OffsetDateTime) -> String {
    at.format(&time::format_description::well_known::Rfc3339).unwrap_or_default()
}

/// A part of a form that is read by itself, so that all that is wrong with a form is told at once.
#[derive(Debug)]
pub struct Checked<T> {
    /// What was sent.
    pub sent: Value,
    /// What it means, or why it means nothing.
    pub read: Result<T, String>,
}

impl<'de, T: DeserializeOwned> Deserialize<'de> for Checked<T> {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<Self, D::Error> {
        let sent = Value::deserialize(from)?;
        let read = T::deserialize(&sent).map_err(|why| why.to_string());
        Ok(Self { sent, read })
    }
}
