//! Workbooks are archives: what kind one is, and how large it would become.

use super::opened::{CannotRead, Content, MAX_EXPANDED};
use std::io::{Cursor, Read};
use zip::ZipArchive;

/// An archive in memory.
pub(super) type Archive<'a> = ZipArchive<Cursor<&'a [u8]>>;

/// The most bytes that all else of a workbook may expand to, such as the texts that its cells share:
/// they are held in memory as a whole.
const MAX_HELD: u64 = 128 << 20;

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
        let damaged = |e: std::io::Error| CannotRead::Damaged {
            kind: "workbook",
            reason: format!("{name}: {e}"),
        };
        if name == "mimetype" || name == "META-INF/manifest.xml" {
            counted.by_ref().take(1 << 20).read_to_end(&mut start).map_err(damaged)?;
        }
        let rest = std::io::copy(&mut counted, &mut std::io::sink()).map_err(damaged)?;
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
