//! Files in. What a file is, is told by its content; what its name says must agree.

mod archive;
mod bounds;
mod encoding;
mod hidden;
mod indents;
mod legacy;
mod opendocument;
mod opened;
mod saft;
mod text;
mod workbook;

use opened::Content;

pub use opened::{CannotRead, How, Opened};

/// Whether a file with this name is a text file, whose rows are parsed as they come and not held.
pub fn is_read_as_it_comes(file_name: &str) -> bool {
    let ending = file_name.rsplit_once('.').map(|(_, e)| e.to_ascii_lowercase());
    TEXT_ENDINGS.iter().any(|text| ending.as_deref().is_none_or(|ending| ending == *text))
}

/// What the names of text files end with.
const TEXT_ENDINGS: [&str; 5] = ["csv", "tsv", "tab", "txt", "prn"];

/// Reads a file.
///
/// # Errors
/// When it is empty, of another kind than its name says, locked, damaged or too large.
pub fn read(file_name: &str, content: impl Into<Vec<u8>>, how: &How) -> Result<Opened, CannotRead> {
    let content = content.into();
    let ending = file_name.rsplit_once('.').map(|(_, e)| e.to_ascii_lowercase());
    let mislabelled = |is| CannotRead::Mislabelled { name: file_name.to_owned(), is };
    match (recognise(&content)?, ending.as_deref()) {
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

/// Tells what bytes are.
fn recognise(content: &[u8]) -> Result<Content, CannotRead> {
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
                () if named("EncryptedPackage") => Content::Encrypted,
                () if named("Workbook") || named("Book") => Content::Workbook("xls"),
                () => Content::Other,
            }
        }
        _ if text::is_text(content) => {
            let start = String::from_utf8_lossy(&content[..content.len().min(400)]);
            let start = start.trim_start_matches(['\u{feff}']).trim_start().to_lowercase();
            let page = start.starts_with("<!doctype html") || start.starts_with("<html");
            match () {
                () if page => Content::Markup,
                () if saft::is_xml(&start) => Content::Xml,
                () => Content::Text,
            }
        }
        _ => Content::Other,
    })
}
