//! Workbooks put together by hand, so that they can claim what no program would write.

use std::io::{Cursor, Write};
use zip::ZipWriter;
use zip::write::SimpleFileOptions;

fn archive(parts: &[(&str, &str)]) -> Vec<u8> {
    let mut archive = ZipWriter::new(Cursor::new(Vec::new()));
    for (name, text) in parts {
        archive.start_file(*name, SimpleFileOptions::default()).unwrap();
        archive.write_all(text.as_bytes()).unwrap();
    }
    archive.finish().unwrap().into_inner()
}

/// An XLSX workbook with these rows in its one sheet, as XML, and a text that cells share.
pub fn xlsx(rows: &str, shared: &str) -> Vec<u8> {
    let main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
    let relations = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
    let packages = "http://schemas.openxmlformats.org/package/2006";
    archive(&[
        ("[Content_Types].xml", &format!("<Types xmlns='{packages}/content-types'/>")),
        (
            "_rels/.rels",
            &format!(
                "<Relationships xmlns='{packages}/relationships'>\
                 <Relationship Id='r1' Type='{relations}/officeDocument' Target='xl/workbook.xml'/></Relationships>"
            ),
        ),
        (
            "xl/workbook.xml",
            &format!(
                "<workbook xmlns='{main}' xmlns:r='{relations}'><sheets><sheet name='A' sheetId='1' r:id='r1'/></sheets></workbook>"
            ),
        ),
        (
            "xl/_rels/workbook.xml.rels",
            &format!(
                "<Relationships xmlns='{packages}/relationships'>\
                 <Relationship Id='r1' Type='{relations}/worksheet' Target='worksheets/sheet1.xml'/>\
                 <Relationship Id='r2' Type='{relations}/sharedStrings' Target='sharedStrings.xml'/></Relationships>"
            ),
        ),
        ("xl/sharedStrings.xml", &format!("<sst xmlns='{main}'><si><t>{shared}</t></si></sst>")),
        (
            "xl/worksheets/sheet1.xml",
            &format!("<worksheet xmlns='{main}'><sheetData>{rows}</sheetData></worksheet>"),
        ),
    ])
}

/// An OpenDocument spreadsheet with these rows in its one table, as XML.
pub fn ods(rows: &str) -> Vec<u8> {
    let content = format!(
        "<office:document-content xmlns:office='urn:oasis:names:tc:opendocument:xmlns:office:1.0' \
         xmlns:table='urn:oasis:names:tc:opendocument:xmlns:table:1.0' \
         xmlns:text='urn:oasis:names:tc:opendocument:xmlns:text:1.0'><office:body><office:spreadsheet>\
         <table:table table:name='A'>{rows}</table:table></office:spreadsheet></office:body></office:document-content>"
    );
    let kind = "application/vnd.oasis.opendocument.spreadsheet";
    archive(&[
        ("mimetype", kind),
        (
            "META-INF/manifest.xml",
            "<manifest:manifest xmlns:manifest='urn:oasis:names:tc:opendocument:xmlns:manifest:1.0'/>",
        ),
        ("content.xml", &content),
    ])
}
