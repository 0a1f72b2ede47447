//! Texts that can be kept everywhere they may go: in the database, and in every file handed out.

use std::borrow::Cow;
use std::fmt;
use std::ops::RangeInclusive;

/// The most characters that a cell of a spreadsheet holds, and so the most that a text may have that
/// is to be handed out in one.
pub const LONGEST: usize = 32_767;

/// Gives a type that is written as a text the schema of one.
macro_rules! text_schema {
    ($name:ident) => {
        #[cfg(feature = "schema")]
        impl utoipa::ToSchema for $name {}

        #[cfg(feature = "schema")]
        impl utoipa::PartialSchema for $name {
            fn schema() -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
                utoipa::openapi::schema::ObjectBuilder::new()
                    .schema_type(utoipa::openapi::schema::Type::String)
                    .into()
            }
        }
    };
}
pub(crate) use text_schema;

/// Why a text cannot be kept.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum Unsound {
    /// A character that controls devices, or is none: neither PostgreSQL nor XML has a place for it.
    #[error("the text holds a character that cannot be kept (U+{0:04X}); type it anew")]
    Control(u32),
    /// More than [`LONGEST`] characters.
    #[error("the text has more than {LONGEST} characters, which no cell of a spreadsheet holds")]
    TooLong,
}

fn is_unsound(c: char) -> bool {
    (c.is_control() && !matches!(c, '\t' | '\n' | '\r' | '\u{85}'))
        || matches!(c, '\u{FFFE}' | '\u{FFFF}')
}

/// Looks at a text that somebody sent.
///
/// # Errors
/// When it cannot be kept.
pub fn look_at(text: &str) -> Result<(), Unsound> {
    // Most texts are short and plain.
    if text.len() <= LONGEST && text.bytes().all(|b| (b' '..0x7F).contains(&b)) {
        return Ok(());
    }
    if let Some(control) = text.chars().find(|c| is_unsound(*c)) {
        return Err(Unsound::Control(u32::from(control)));
    }
    if text.chars().nth(LONGEST).is_some() { Err(Unsound::TooLong) } else { Ok(()) }
}

/// The most characters of the name of a file.
const LONGEST_FILE_NAME: usize = 255;

/// Why a name of a file is not kept.
#[derive(Clone, Copy, Debug, PartialEq, Eq, thiserror::Error)]
#[error("the name of the file has more than {LONGEST_FILE_NAME} characters; give it a shorter one")]
pub struct FileNameTooLong;

/// The name of a file as it is kept: without characters that control, or that turn what stands beside them
/// around (UAX #9), so that it reads as it is. One without a name is called “file”.
///
/// # Errors
/// When it is longer than file systems take.
pub fn file_name(given: &str) -> Result<String, FileNameTooLong> {
    let turns = |c: char| matches!(c, '\u{061C}' | '\u{200E}' | '\u{200F}' | '\u{202A}'..='\u{202E}' | '\u{2066}'..='\u{2069}');
    let kept: String =
        given.chars().filter(|c| !c.is_control() && !is_unsound(*c) && !turns(*c)).collect();
    let name = kept.trim();
    match name.chars().count() {
        0 => Ok("file".to_owned()),
        1..=LONGEST_FILE_NAME => Ok(name.to_owned()),
        _ => Err(FileNameTooLong),
    }
}

/// Says of a number that it does not lie in a range, if it does not.
pub fn outside<T: PartialOrd + fmt::Display>(
    number: &T,
    range: &RangeInclusive<T>,
) -> Option<String> {
    let says =
        || format!("{number} cannot be taken; from {} to {} it can", range.start(), range.end());
    (!range.contains(number)).then(says)
}

/// A text as a cell of a workbook, or an element of an XML file, can hold it: with marks in the place of
/// what XML has no place for, and of one that is too long its beginning, with how much more there is.
pub fn for_cell(text: &str) -> Cow<'_, str> {
    if look_at(text).is_ok() {
        return Cow::Borrowed(text);
    }
    let marked: String = text.chars().map(|c| if is_unsound(c) { '\u{FFFD}' } else { c }).collect();
    // Room for the words about the rest, too.
    let (at, rest) = (LONGEST - 80, marked.chars().count().saturating_sub(LONGEST - 80));
    match marked.char_indices().nth(at) {
        Some((end, _)) if rest > 80 => {
            Cow::Owned(format!("{} … and {rest} more characters, left out here", &marked[..end]))
        }
        _ => Cow::Owned(marked),
    }
}

/// A text as it can be shown when it cannot be kept: marks in the place of what cannot, and cut.
pub fn shown(text: &str) -> String {
    if look_at(text).is_ok() {
        return text.to_owned();
    }
    let mark = |c: char| if is_unsound(c) { '\u{FFFD}' } else { c };
    let mut shown: String = text.chars().map(mark).take(200).collect();
    if text.chars().nth(200).is_some() {
        shown.push('…');
    }
    shown
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn texts_of_any_script_and_over_several_lines_are_kept() {
        for text in ["", "Kohle & Öl", "two\nlines\tand a tab\r\n", "石炭", "\u{85}", "🚂"] {
            assert_eq!(look_at(text), Ok(()), "{text:?}");
        }
        assert_eq!(look_at(&"x".repeat(LONGEST)), Ok(()));
        assert_eq!(look_at(&"ö".repeat(LONGEST)), Ok(()));
    }

    #[test]
    fn what_is_too_long_for_a_cell_says_how_much_more_there_is() {
        assert_eq!(for_cell("a\u{1}\u{FFFF}b\n"), "a\u{FFFD}\u{FFFD}b\n");
        let long = "ö".repeat(LONGEST + 1);
        let cell = for_cell(&long);
        assert!(
            cell.ends_with(" … and 81 more characters, left out here"),
            "{}",
            &cell[cell.len() - 60..]
        );
        assert_eq!(look_at(&cell), Ok(()));
        let whole = "ö".repeat(LONGEST);
        assert!(matches!(for_cell(&whole), Cow::Borrowed(text) if text == whole));
    }

    #[test]
    fn what_cannot_be_kept_is_shown_with_marks_and_cut() {
        assert_eq!(shown("a\0b"), "a\u{FFFD}b");
        assert_eq!(shown(&"x".repeat(LONGEST + 1)).chars().count(), 201);
        assert_eq!(shown("two\nlines"), "two\nlines");
    }

    #[test]
    fn what_no_database_and_no_file_has_a_place_for_is_refused() {
        for text in ["a\0b", "\u{1b}[31m", "\u{7f}", "\u{9b}", "\u{fffe}"] {
            assert!(matches!(look_at(text), Err(Unsound::Control(_))), "{text:?}");
        }
        assert_eq!(look_at(&"ö".repeat(LONGEST + 1)), Err(Unsound::TooLong));
    }
}
