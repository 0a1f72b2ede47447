//! Files in. What a file is, is told by its content; what its name says must agree.

mod archive;
mod bounds;
mod hidden;
mod legacy;
mod opendocument;
mod saft;
mod text;
mod workbook;

use zf_intake::Sheet;
use zf_intake::rows::{MAX_CELLS, MAX_ROWS};

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
    /// It would expand beyond [`archive::MAX_EXPANDED`].
    #[error("the file expands to more than {} MB, which no chart or journal does", archive::MAX_EXPANDED >> 20)]
    TooLarge,
    /// More cells or more text than [`bounds::Bounds`] lets through.
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
    /// The encoding that was asked for is not known.
    #[error("no encoding is called “{0}”")]
    UnknownEncoding(String),
}

/// Whether a file with this name is a text file, whose rows are parsed as they come and not held.
pub fn is_read_as_it_comes(file_name: &str) -> bool {
    let ending = file_name.rsplit_once('.').map(|(_, e)| e.to_ascii_lowercase());
    TEXT_ENDINGS.iter().any(|text| ending.as_deref().is_none_or(|ending| ending == *text))
}

/// What the names of text files end with.
const TEXT_ENDINGS: [&str; 5] = ["csv", "tsv", "tab", "txt", "prn"];

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
}

/// Reads a file.
///
/// # Errors
/// When it is empty, of another kind than its name says, locked, damaged or too large.
pub fn read(file_name: &str, content: impl Into<Vec<u8>>, how: &How) -> Result<Opened, CannotRead> {
    let content = content.into();
    let ending = file_name.rsplit_once('.').map(|(_, e)| e.to_ascii_lowercase());
    let mislabelled = |is| CannotRead::Mislabelled { name: file_name.to_owned(), is };
    match (Content::of(&content)?, ending.as_deref()) {
        (Content::Text, _) if is_read_as_it_comes(file_name) => text::read(content, how),
        (Content::Workbook(kind), Some(ending)) if ending == kind => workbook::read(kind, &content),
        (Content::Xml, Some("xml") | None) => saft::read(&content),
        // A workbook with macros is a workbook; the macros are not read.
        (Content::Workbook("xlsx"), Some("xlsm")) => workbook::read("xlsx", &content),
        (Content::Encrypted, Some("xlsx" | "xlsm" | "xls" | "ods")) => Err(CannotRead::Encrypted),
        (Content::Markup, Some("xls" | "xlsx" | "csv" | "txt" | "xml")) => {
            Err(mislabelled("a web page"))
        }
        (Content::Xml, Some("xls" | "xlsx" | "ods" | "csv" | "txt")) => Err(mislabelled("XML")),
        (Content::Text, Some("xml")) => Err(mislabelled("plain text")),
        (Content::Text, Some("xls" | "xlsx" | "ods")) => Err(mislabelled("plain text")),
        (Content::Workbook(kind), Some("csv" | "tsv" | "txt" | "xls" | "xlsx" | "ods")) => {
            Err(mislabelled(match kind {
                "xlsx" => "an XLSX workbook",
                "xls" => "an XLS workbook",
                _ => "an ODS workbook",
            }))
        }
        (Content::Other, Some(kind @ ("xls" | "xlsx" | "ods"))) => Err(CannotRead::Damaged {
            kind: match kind {
                "xls" => "XLS",
                "xlsx" => "XLSX",
                _ => "ODS",
            },
            reason: "its beginning or its end is missing".to_owned(),
        }),
        (Content::Other, Some("csv" | "tsv" | "txt")) => {
            Err(CannotRead::Damaged { kind: "CSV", reason: "it holds binary data".to_owned() })
        }
        _ => Err(CannotRead::UnknownKind(file_name.to_owned())),
    }
}

/// What bytes are, whatever their name.
enum Content {
    Text,
    Markup,
    Xml,
    Workbook(&'static str),
    Encrypted,
    Other,
}

impl Content {
    fn of(content: &[u8]) -> Result<Self, CannotRead> {
        Ok(match content {
            [] => return Err(CannotRead::Empty),
            [b'P', b'K', ..] => archive::kind(content)?,
            [0xd0, 0xcf, 0x11, 0xe0, ..] => {
                // The names of streams lie in UTF-16 in the directory of the compound file.
                let named = |name: &str| {
                    let name: Vec<u8> = name.encode_utf16().flat_map(u16::to_le_bytes).collect();
                    content.windows(name.len()).any(|window| window == name)
                };
                match () {
                    () if named("EncryptedPackage") => Self::Encrypted,
                    () if named("Workbook") || named("Book") => Self::Workbook("xls"),
                    () => Self::Other,
                }
            }
            _ if text::is_text(content) => {
                let start = String::from_utf8_lossy(&content[..content.len().min(400)]);
                let start = start.trim_start_matches(['\u{feff}']).trim_start().to_lowercase();
                let page = start.starts_with("<!doctype html") || start.starts_with("<html");
                match () {
                    () if page => Self::Markup,
                    () if saft::is_xml(&start) => Self::Xml,
                    () => Self::Text,
                }
            }
            _ => Self::Other,
        })
    }
}
