//! Workbooks are archives: what kind one is, and how large it would become.

use super::opened::{CannotRead, Content, MAX_EXPANDED};
use std::io::{self, Cursor, Read, Write};
use zip::ZipArchive;

/// An archive in memory.
pub(super) type Archive<'a> = ZipArchive<Cursor<&'a [u8]>>;

/// The most bytes that all else of a workbook may expand to, such as the texts that its cells share:
/// they are held in memory as a whole.
const MAX_HELD: u64 = 128 << 20;

/// The most bytes between two tags: as many as the longest cell takes when each character of it is written
/// as a reference (`&#x10FFFF;`). What is longer is refused before a reader holds it.
const LONGEST_RUN: usize = 10 * zf_core::text::LONGEST;

/// Takes bytes of XML in and lets them go, until there is a text that no cell holds.
#[derive(Default)]
struct Runs {
    run: usize,
    too_long: bool,
}

impl Write for Runs {
    fn write(&mut self, bytes: &[u8]) -> io::Result<usize> {
        let mut pieces = bytes.split(|byte| *byte == b'<');
        // What stands before the first tag belongs to the text that was begun.
        self.run += pieces.next().map_or(0, <[u8]>::len);
        self.too_long |= self.run > LONGEST_RUN;
        for piece in pieces {
            self.run = piece.len();
            self.too_long |= self.run > LONGEST_RUN;
        }
        if self.too_long { Err(io::ErrorKind::InvalidData.into()) } else { Ok(bytes.len()) }
    }

    fn flush(&mut self) -> io::Result<()> {
        Ok(())
    }
}

/// Tells what an archive is, after measuring what it expands to: what it says of that itself is
/// not believed.
pub(super) fn kind(content: &[u8]) -> Result<Content, CannotRead> {
    let Ok(mut archive) = ZipArchive::new(Cursor::new(content)) else {
        return Ok(Content::Other);
    };
    let (mut left, mut held) = (MAX_EXPANDED, MAX_HELD);
    let (mut kind, mut encrypted) = (Content::Other, false);
    for at in 0..archive.len() {
        let Ok(file) = archive.by_index(at) else {
            encrypted = true;
            continue;
        };
        let name = file.name().map(|name| name.into_owned()).unwrap_or_default();
        if name == "xl/workbook.xml" {
            kind = Content::Workbook("xlsx");
        }
        let mut counted = file.take(left + 1);
        let mut start = Vec::new();
        let damaged =
            |e: io::Error| CannotRead::Damaged { kind: "workbook", reason: format!("{name}: {e}") };
        if name == "mimetype" || name == "META-INF/manifest.xml" {
            counted.by_ref().take(1 << 20).read_to_end(&mut start).map_err(damaged)?;
        }
        let rest = if name.ends_with(".xml") {
            let mut runs = Runs::default();
            let copied = io::copy(&mut counted, &mut runs);
            if runs.too_long {
                return Err(CannotRead::LongText);
            }
            copied
        } else {
            io::copy(&mut counted, &mut io::sink())
        };
        let rest = rest.map_err(damaged)?;
        let read = rest + start.len() as u64;
        left = left.checked_sub(read).ok_or(CannotRead::TooLarge)?;
        if !name.starts_with("xl/worksheets/") && name != "content.xml" {
            held = held.checked_sub(read).ok_or(CannotRead::TooMany)?;
        }
        let start = String::from_utf8_lossy(&start);
        if name == "mimetype" && start.contains("opendocument.spreadsheet") {
            kind = Content::Workbook("ods");
        }
        encrypted |= name == "META-INF/manifest.xml" && start.contains("encryption-data");
    }
    Ok(if encrypted { Content::Encrypted } else { kind })
}
