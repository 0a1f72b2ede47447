//! The texts that a person or a file gives an account.

use crate::code::is_invisible;

/// The longest account name that is accepted, in characters.
pub const MAX_NAME: usize = 200;

/// The longest description or tax code that is accepted, in characters.
pub const MAX_TEXT: usize = 2_000;

/// Why a text cannot stand in a field.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum NotAText {
    /// The name is empty.
    #[error("the name is empty")]
    EmptyName,
    /// Longer than [`MAX_NAME`].
    #[error("the name is longer than {MAX_NAME} characters")]
    LongName,
    /// Longer than [`MAX_TEXT`].
    #[error("the {0} is longer than {MAX_TEXT} characters")]
    LongText(&'static str),
}

/// A name, with one space for any white space, and without invisible characters that spreadsheets leave.
///
/// # Errors
/// When nothing is left, or it is too long.
pub fn name(text: &str) -> Result<String, NotAText> {
    let visible: String = text.chars().filter(|c| !is_invisible(*c)).collect();
    let name = visible.split_whitespace().collect::<Vec<_>>().join(" ");
    match name.chars().count() {
        0 => Err(NotAText::EmptyName),
        n if n > MAX_NAME => Err(NotAText::LongName),
        _ => Ok(name),
    }
}

/// A text of another field, called `field`, without white space at its ends; may be empty.
///
/// # Errors
/// When it is too long.
pub fn text(field: &'static str, text: &str) -> Result<String, NotAText> {
    let text = text.trim();
    if text.chars().count() > MAX_TEXT {
        return Err(NotAText::LongText(field));
    }
    Ok(text.to_owned())
}
