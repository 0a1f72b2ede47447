//! Pieces of a code: a segment, or some of its characters, and what can be done with one.

use crate::code::{Code, MAX_CODE};
use crate::keyed::keyed;
use std::ops::Range;

/// A piece of a code. Counted from one, as people count.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Piece {
    /// All of it.
    Whole,
    /// What stands between two separators.
    Segment(usize),
    /// So many characters from one on.
    Characters {
        /// The first.
        from: usize,
        /// How many.
        count: usize,
    },
}

keyed! {
    /// Where zeros are added.
    Side {
        /// In front.
        Front = "front", "in front";
        /// At the end.
        Back = "back", "at the end";
    }
}

/// What is done with a piece.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum CodeEdit {
    /// Another text stands in its place.
    Replace {
        /// What it has to read; codes in which it reads otherwise stay. Empty for anything.
        reads: String,
        /// What stands there instead.
        with: String,
    },
    /// A text stands before it; before a segment as a segment of its own.
    Insert(String),
    /// It is gone; a segment with what separated it.
    Remove,
    /// Zeros are added until it has so many characters.
    Pad {
        /// How many.
        width: usize,
        /// Where.
        side: Side,
    },
}

/// Why a code cannot be rewritten.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum NoSuchPiece {
    /// It has fewer segments.
    #[error("it has no segment {0}")]
    Segment(usize),
    /// It has fewer characters.
    #[error("it has no {1} characters from the {0}. on")]
    Characters(usize, usize),
    /// What comes of it is not a code.
    #[error("{0}")]
    NotACode(#[from] crate::code::NotACode),
}

fn separates(c: char) -> bool {
    !c.is_alphanumeric() && !c.is_whitespace()
}

/// The segments of a code, by the bytes at which they stand.
fn segments(text: &str) -> Vec<Range<usize>> {
    let mut ranges = Vec::new();
    let mut start = 0;
    for (at, c) in text.char_indices().filter(|(_, c)| separates(*c)) {
        ranges.push(start..at);
        start = at + c.len_utf8();
    }
    ranges.push(start..text.len());
    ranges
}

fn range(text: &str, piece: Piece) -> Result<Range<usize>, NoSuchPiece> {
    match piece {
        Piece::Whole => Ok(0..text.len()),
        Piece::Segment(n) => {
            let nth = n.checked_sub(1).and_then(|at| segments(text).get(at).cloned());
            nth.ok_or(NoSuchPiece::Segment(n))
        }
        Piece::Characters { from, count } => {
            let starts: Vec<usize> =
                text.char_indices().map(|(at, _)| at).chain([text.len()]).collect();
            let first = from.checked_sub(1).and_then(|at| starts.get(at));
            let end = from.checked_sub(1).and_then(|at| starts.get(at.checked_add(count)?));
            match (first, end) {
                (Some(first), Some(end)) => Ok(*first..*end),
                _ => Err(NoSuchPiece::Characters(from, count)),
            }
        }
    }
}

/// The code with something done to a piece of it; `separator` stands beside a new segment where the
/// code has none of its own.
///
/// # Errors
/// When it has no such piece, or nothing that is a code comes of it.
pub fn rewrite(
    code: &Code,
    piece: Piece,
    edit: &CodeEdit,
    separator: char,
) -> Result<Code, NoSuchPiece> {
    let text = code.as_str();
    let own = text.chars().find(|c| separates(*c)).unwrap_or(separator);
    if let (Piece::Segment(n), CodeEdit::Insert(new)) = (piece, edit)
        && n == segments(text).len() + 1
    {
        return Ok(Code::parse(&format!("{text}{own}{new}"))?);
    }
    let Range { start, end } = range(text, piece)?;
    let (before, reads, after) = (&text[..start], &text[start..end], &text[end..]);
    let rewritten = match edit {
        CodeEdit::Replace { reads: wanted, .. } if !wanted.is_empty() && wanted != reads => {
            return Ok(code.clone());
        }
        CodeEdit::Replace { with, .. } => format!("{before}{with}{after}"),
        CodeEdit::Insert(new) => match piece {
            Piece::Segment(_) => format!("{before}{new}{own}{reads}{after}"),
            _ => format!("{before}{new}{reads}{after}"),
        },
        CodeEdit::Remove => match piece {
            // One of its two separators goes with it.
            Piece::Segment(_) if !after.is_empty() => {
                format!("{before}{}", after.trim_start_matches(own))
            }
            Piece::Segment(_) => before.trim_end_matches(own).to_owned(),
            _ => format!("{before}{after}"),
        },
        CodeEdit::Pad { width, side } => {
            // One more than a code may have is enough to be refused as too long.
            let width = (*width).min(MAX_CODE + 1);
            let zeros = "0".repeat(width.saturating_sub(reads.chars().count()));
            match side {
                Side::Front => format!("{before}{zeros}{reads}{after}"),
                Side::Back => format!("{before}{reads}{zeros}{after}"),
            }
        }
    };
    Ok(Code::parse(&rewritten)?)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn after_edit(code: &str, piece: Piece, edit: &CodeEdit) -> String {
        let code = Code::parse(code).unwrap();
        rewrite(&code, piece, edit, '-').map_or_else(|why| why.to_string(), |code| code.to_string())
    }

    #[test]
    fn pieces_are_replaced_inserted_removed_and_padded() {
        use Piece::{Characters, Segment, Whole};
        let replace = |reads: &str, with: &str| CodeEdit::Replace {
            reads: reads.to_owned(),
            with: with.to_owned(),
        };
        let insert = |text: &str| CodeEdit::Insert(text.to_owned());
        let pad = |width, side| CodeEdit::Pad { width, side };
        for (code, piece, edit, becomes) in [
            ("40-5010", Segment(1), replace("40", "12"), "12-5010"),
            ("41-5010", Segment(1), replace("40", "12"), "41-5010"),
            ("41-5010", Segment(1), replace("", "12"), "12-5010"),
            ("5010", Segment(2), replace("", "12"), "it has no segment 2"),
            ("5010", Segment(2), insert("40"), "5010-40"),
            ("5010", Segment(1), insert("40"), "40-5010"),
            ("40.5010", Segment(2), insert("1"), "40.1.5010"),
            ("40.5010", Segment(3), insert("1"), "40.5010.1"),
            ("40-5010-1", Segment(2), CodeEdit::Remove, "40-1"),
            ("40-5010", Segment(2), CodeEdit::Remove, "40"),
            ("40-5010", Segment(1), CodeEdit::Remove, "5010"),
            ("5010", Segment(1), CodeEdit::Remove, "the code is empty"),
            ("5010", Whole, pad(6, Side::Back), "501000"),
            ("5010", Whole, pad(6, Side::Front), "005010"),
            ("501000", Whole, pad(6, Side::Back), "501000"),
            ("40-10", Segment(2), pad(4, Side::Front), "40-0010"),
            ("405010", Characters { from: 1, count: 2 }, replace("40", "12"), "125010"),
            ("405010", Characters { from: 3, count: 0 }, insert("9"), "4095010"),
            ("501000", Characters { from: 5, count: 2 }, CodeEdit::Remove, "5010"),
            (
                "5010",
                Characters { from: 4, count: 2 },
                CodeEdit::Remove,
                "it has no 2 characters from the 4. on",
            ),
            ("5010", Whole, insert("X"), "X5010"),
        ] {
            assert_eq!(after_edit(code, piece, &edit), becomes, "{code} {piece:?} {edit:?}");
        }
    }
}
