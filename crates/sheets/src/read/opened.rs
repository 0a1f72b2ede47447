//! A file that was read, or why it cannot be.

use zf_intake::Sheet;
use zf_intake::question::Question;
use zf_intake::rows::{MAX_CELLS, MAX_ROWS};

/// The most bytes that a workbook may expand to: its sheets are read as they come.
pub(super) const MAX_EXPANDED: u64 = 1 << 30;

/// Why a file cannot be read. Nothing of it is used then.
#[derive(Debug, thiserror::Error)]
pub enum CannotRead {
    /// Nothing is in it.
    #[error("the file is empty")]
    Empty,
    /// Neither text nor a spreadsheet.
    #[error(
        "“{0}” is neither a text file (CSV), nor a spreadsheet (XLSX, XLS or ODS), nor an audit file"
    )]
    UnknownKind(String),
    /// Its content is not what its name says.
    #[error("“{name}” is not what its name says: it holds {is}; rename it or save it anew")]
    Mislabelled {
        /// The name of the file.
        name: String,
        /// What is in it.
        is: &'static str,
    },
    /// It is locked with a password.
    #[error("the file is locked with a password; save it without one first")]
    Encrypted,
    /// It breaks off, or its parts do not fit together.
    #[error("the file is not a sound {kind} file: {reason}")]
    Damaged {
        /// What it should have been.
        kind: &'static str,
        /// What the reader said.
        reason: String,
    },
    /// It would expand beyond [`MAX_EXPANDED`].
    #[error("the file expands to more than {} MB, which no chart or journal does", MAX_EXPANDED >> 20)]
    TooLarge,
    /// More cells or more text than are taken from a workbook.
    #[error(
        "the file holds more cells, or more text, than are taken from a workbook; save the sheet as CSV, \
         which may be larger"
    )]
    TooMany,
    /// More than [`MAX_ROWS`].
    #[error("the file has more than {MAX_ROWS} rows; split it")]
    TooLong,
    /// More than [`MAX_CELLS`].
    #[error("row {0} has more than {MAX_CELLS} cells; is the delimiter right?")]
    TooWide(u32),
    /// A cell of a text file with more than [`LONGEST`](zf_core::text::LONGEST) characters.
    #[error(
        "the cell that begins on line {0} has more than {most} characters, which no spreadsheet holds; is a quotation \
         mark left open there?",
        most = zf_core::text::LONGEST
    )]
    LongCell(u64),
    /// The same of a workbook.
    #[error(
        "a cell has more than {most} characters, which no spreadsheet holds",
        most = zf_core::text::LONGEST
    )]
    LongText,
    /// The encoding that was asked for is not known.
    #[error("no encoding is called “{0}”")]
    UnknownEncoding(String),
}

/// How a person wants a text file to be read; what is `None` is told from the file.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct How {
    /// The name of an encoding.
    pub encoding: Option<String>,
    /// The delimiter.
    pub delimiter: Option<char>,
}

/// A file that was read.
#[derive(Debug)]
pub struct Opened {
    /// What it is: `CSV`, `XLSX`, `XLS`, `ODS`, or one of the audit files `SAF-T` and `FEC`.
    pub kind: &'static str,
    /// The encoding of a text file.
    pub encoding: Option<&'static str>,
    /// The delimiter of a text file.
    pub delimiter: Option<char>,
    /// Its sheets; a text file has one.
    pub sheets: Vec<Sheet>,
    /// Which encoding it is, where that is not certain.
    pub question: Option<Question>,
}

/// What bytes are, whatever their name.
pub(super) enum Content {
    Text,
    Markup,
    Xml,
    Workbook(&'static str),
    Encrypted,
    Other,
}
