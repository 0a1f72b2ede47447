//! Which rows and columns a workbook hides. They are read like any other, and named, so that nobody
//! brings in unseen what somebody had filtered away.

use super::archive::Archive;
use quick_xml::Reader;
use quick_xml::escape::unescape;
use quick_xml::events::{BytesStart, Event};
use std::borrow::Cow;
use std::collections::HashMap;
use std::io::{BufRead, BufReader, Cursor};
use zf_intake::Hidden;
use zip::ZipArchive;

/// What the sheets of an archive hide, by the name of the sheet. Whatever cannot be told is not: the
/// cells themselves are read by somebody who says so.
pub(super) fn of(kind: &str, content: &[u8]) -> HashMap<String, Hidden> {
    let Ok(mut archive) = ZipArchive::new(Cursor::new(content)) else { return HashMap::new() };
    match kind {
        "xlsx" => office_open(&mut archive),
        "ods" => open_document(&mut archive),
        _ => HashMap::new(),
    }
}

/// Office Open XML (ISO/IEC 29500-1): a part for each sheet, which the workbook names.
fn office_open(archive: &mut Archive<'_>) -> HashMap<String, Hidden> {
    let mut sheets: Vec<(String, String)> = Vec::new();
    tags(archive, "xl/workbook.xml", |tag| {
        if local(tag) == "sheet"
            && let (Some(name), Some(part)) = (value(tag, "name"), value(tag, "id"))
        {
            sheets.push((name, part));
        }
    });
    let mut parts: HashMap<String, String> = HashMap::new();
    tags(archive, "xl/_rels/workbook.xml.rels", |tag| {
        if let (Some(id), Some(target)) = (value(tag, "Id"), value(tag, "Target")) {
            let path = target.strip_prefix('/').map_or(format!("xl/{target}"), str::to_owned);
            parts.insert(id, path);
        }
    });
    let read = |(name, part): (String, String)| {
        let mut hidden = Hidden::default();
        tags(archive, parts.get(&part)?, |tag| {
            let number = |name| value(tag, name).and_then(|text| text.parse::<u32>().ok());
            let is_hidden = || matches!(value(tag, "hidden").as_deref(), Some("1" | "true"));
            match local(tag) {
                "row" if is_hidden() => hidden.rows.extend(number("r")),
                "col" if is_hidden() => {
                    let (first, last) = (number("min").unwrap_or(1), number("max").unwrap_or(1));
                    hidden.columns.push((first, last));
                }
                _ => {}
            }
        });
        Some((name, hidden))
    };
    sheets.into_iter().filter_map(read).collect()
}

/// OpenDocument (ISO/IEC 26300-1): one part, in which rows and columns that are alike stand once.
fn open_document(archive: &mut Archive<'_>) -> HashMap<String, Hidden> {
    let mut found: HashMap<String, Hidden> = HashMap::new();
    let (mut sheet, mut row, mut column) = (String::new(), 0, 0);
    tags(archive, "content.xml", |tag| {
        let is_hidden =
            || matches!(value(tag, "visibility").as_deref(), Some("collapse" | "filter"));
        let repeated = |name| value(tag, name).and_then(|text| text.parse::<u32>().ok());
        match local(tag) {
            "table" => {
                sheet = value(tag, "name").unwrap_or_default();
                (row, column) = (0, 0);
            }
            "table-row" => {
                let first = row + 1;
                row += repeated("number-rows-repeated").unwrap_or(1);
                if is_hidden() {
                    found.entry(sheet.clone()).or_default().rows.push(first);
                }
            }
            "table-column" => {
                let first = column + 1;
                column += repeated("number-columns-repeated").unwrap_or(1);
                if is_hidden() {
                    found.entry(sheet.clone()).or_default().columns.push((first, column));
                }
            }
            _ => {}
        }
    });
    found
}

/// Goes through the tags of a part that begin an element.
pub(super) fn tags(archive: &mut Archive<'_>, path: &str, mut each: impl FnMut(&BytesStart<'_>)) {
    let Ok(part) = archive.by_name(path) else { return };
    walk(Reader::from_reader(BufReader::new(part)), &mut each);
}

fn walk(mut reader: Reader<impl BufRead>, each: &mut impl FnMut(&BytesStart<'_>)) {
    let mut buffer = Vec::new();
    while let Ok(event) = reader.read_event_into(&mut buffer) {
        match event {
            Event::Start(tag) | Event::Empty(tag) => each(&tag),
            Event::Eof => return,
            _ => {}
        }
        buffer.clear();
    }
}

/// The name of an element without its prefix.
pub(super) fn local<'a>(tag: &'a BytesStart<'_>) -> &'a str {
    let name: &str = tag.name().into_inner();
    name.rsplit(':').next().unwrap_or(name)
}

/// What an attribute says, whatever its prefix.
pub(super) fn value(tag: &BytesStart<'_>, name: &str) -> Option<String> {
    let found = tag.attributes().flatten().find(|a| a.key.local_name().as_ref() == name)?;
    unescape(&found.value).ok().map(Cow::into_owned)
}
