//! Files as people really have them: every encoding, delimiter and kind, and those that are not what
//! their name says.

use rust_xlsxwriter::{ExcelDateTime, Format, Workbook};
use std::io::{Cursor, Write};
use zf_sheets::{CannotRead, How, Opened};
use zip::ZipWriter;
use zip::write::SimpleFileOptions;

fn read(name: &str, content: &[u8]) -> Result<Opened, CannotRead> {
    zf_sheets::read(name, content, &How::default())
}

/// The cells of the first sheet by row, joined by `|`, with the number of each row.
fn rows(opened: &Opened) -> Vec<(u32, String)> {
    let cells = |row: &zf_intake::RawRow| {
        row.cells.iter().map(|c| c.text.as_str()).collect::<Vec<_>>().join("|")
    };
    opened.sheets[0].rows.walk().map(|row| (row.number, cells(&row))).collect()
}

const TEXT: &str = "Code;Name\r\n1000;Café, £ till\r\n";

#[test]
fn how_far_a_format_moves_a_name_is_read_from_every_workbook() {
    // Each was written by another library; in the second, the first sheet is not the chart.
    let files: [(&str, &[u8]); 3] = [
        ("chart.xlsx", include_bytes!("../indented/chart.xlsx")),
        ("chart.xls", include_bytes!("../indented/chart.xls")),
        ("chart.ods", include_bytes!("../indented/chart.ods")),
    ];
    for (name, content) in files {
        let sheets = read(name, content).unwrap().sheets;
        let rows = sheets.last().unwrap().rows.all();
        let steps: Vec<u8> = rows.iter().map(|row| row.cells[0].indent).collect();
        assert_eq!(steps, [0, 0, 1, 2, 2, 1, 2, 0, 1, 0, 1, 0, 1], "{name}");
        assert!(rows.iter().all(|row| row.cells[1].indent == 0), "{name}");
    }
}

fn utf16(text: &str, bytes: fn(u16) -> [u8; 2]) -> Vec<u8> {
    text.encode_utf16().flat_map(bytes).collect()
}

macro_rules! encodings {
    ($($name:ident: $content:expr => $encoding:literal;)+) => {$(
        #[test]
        fn $name() {
            let content = $content;
            let opened = read("chart.csv", content.as_ref()).unwrap();
            assert_eq!(opened.encoding, Some($encoding));
            assert_eq!(opened.delimiter, Some(';'));
            assert_eq!(rows(&opened), [(1, "Code|Name".to_owned()), (2, "1000|Café, £ till".to_owned())]);
        }
    )+};
}

encodings! {
    utf_8_is_read: TEXT.as_bytes() => "UTF-8";
    utf_8_with_a_mark_is_read: [b"\xef\xbb\xbf", TEXT.as_bytes()].concat() => "UTF-8";
    utf_16_with_a_mark_is_read: utf16(&format!("\u{feff}{TEXT}"), u16::to_le_bytes) => "UTF-16LE";
    utf_16_the_other_way_round_is_read: utf16(&format!("\u{feff}{TEXT}"), u16::to_be_bytes) => "UTF-16BE";
    utf_16_without_a_mark_is_read: utf16(TEXT, u16::to_le_bytes) => "UTF-16LE";
    windows_1252_is_read: b"Code;Name\r\n1000;Caf\xe9, \xa3 till\r\n" => "windows-1252";
}

#[test]
fn the_delimiter_is_the_one_that_parts_most_rows_alike() {
    for (text, delimiter) in [
        ("Code,Name\n1,a;b\n2,c\n", ','),
        ("Code;Name;Amount\n1;a, b, c;1,50\n2;d;2,50\n", ';'),
        ("Code\tName\n1\ta,b\n", '\t'),
        ("Code|Name\n1|a\n", '|'),
        ("A title, with commas, in it\n\nCode;Name;x\n1;a;y\n2;b;z\n", ';'),
    ] {
        assert_eq!(read("a.txt", text.as_bytes()).unwrap().delimiter, Some(delimiter), "{text}");
    }
    let how = How { delimiter: Some('~'), encoding: Some("windows-1251".to_owned()) };
    let opened = zf_sheets::read("a.csv", b"1~\xca\n", &how).unwrap();
    assert_eq!(rows(&opened), [(1, "1|К".to_owned())]);
    let how = How { encoding: Some("klingon".to_owned()), ..How::default() };
    let says = zf_sheets::read("a.csv", b"1", &how).unwrap_err().to_string();
    assert_eq!(says, "no encoding is called “klingon”");
}

#[test]
fn row_numbers_are_those_of_a_spreadsheet() {
    let text = b"Code,Name\n\n1000,\"Bank,\nnotice\"\n1010,Till\n\n\n1020,Safe";
    let numbers: Vec<_> = rows(&read("a.csv", text).unwrap()).into_iter().map(|r| r.0).collect();
    assert_eq!(numbers, [1, 3, 4, 7]);
}

fn workbook() -> Vec<u8> {
    let mut book = Workbook::new();
    let notes = book.add_worksheet();
    notes.set_name("Notes").unwrap().set_hidden(true).set_active(false);
    notes.write_string(0, 0, "do not read").unwrap();
    let sheet = book.add_worksheet();
    sheet.set_name("Accounts").unwrap().set_active(true);
    sheet.write_string(1, 1, "Code").unwrap();
    sheet.write_string(1, 2, "Opened").unwrap();
    sheet.write_number(2, 1, 1000.0).unwrap();
    let date = Format::new().set_num_format("dd/mm/yyyy");
    let day = ExcelDateTime::from_ymd(2026, 9, 4).unwrap();
    sheet.write_datetime_with_format(2, 2, &day, &date).unwrap();
    sheet.write_string(3, 1, "0990").unwrap();
    sheet
        .write_formula(
            3,
            2,
            rust_xlsxwriter::Formula::new("=0.1+0.2").set_result("0.30000000000000004"),
        )
        .unwrap();
    book.save_to_buffer().unwrap()
}

#[test]
fn workbooks_keep_their_places_and_tell_numbers_from_texts() {
    let opened = read("chart.XLSX", &workbook()).unwrap();
    let sheets: Vec<_> = opened.sheets.iter().map(|s| (s.name.as_str(), s.hidden)).collect();
    assert_eq!(sheets, [("Notes", true), ("Accounts", false)]);
    let accounts = opened.sheets[1].rows.all();
    let native = |row: usize, at: usize| {
        let cell = &accounts[row].cells[at];
        (accounts[row].number, cell.text.as_str(), cell.native)
    };
    assert_eq!(native(0, 1), (2, "Code", false));
    assert_eq!(native(1, 1), (3, "1000", true));
    assert_eq!(native(1, 2), (3, "2026-09-04", true));
    assert_eq!(native(2, 1), (4, "0990", false));
    assert_eq!(native(2, 2), (4, "0.3", true), "the cached value, as a spreadsheet shows it");
}

#[test]
fn what_a_workbook_hides_is_named() {
    let mut book = rust_xlsxwriter::Workbook::new();
    book.add_worksheet().set_name("Plain").unwrap().write_string(0, 0, "x").unwrap();
    let sheet = book.add_worksheet();
    sheet.set_name("Fees & rates").unwrap();
    for row in 0..6 {
        sheet.write_string(row, 0, "1000").unwrap();
        sheet.write_string(row, 3, "Bank").unwrap();
    }
    for row in [2, 4] {
        sheet.set_row_hidden(row).unwrap();
    }
    sheet.set_column_hidden(3).unwrap();
    let opened = read("a.xlsx", &book.save_to_buffer().unwrap()).unwrap();
    let hides: Vec<_> =
        opened.sheets.iter().map(|s| (s.hides.rows.clone(), s.hides.columns.clone())).collect();
    assert_eq!(hides, [(vec![], vec![]), (vec![3, 5], vec![(4, 4)])]);

    let opened = read("a.ods", &ods(MANIFEST)).unwrap();
    assert_eq!(
        (&*opened.sheets[0].hides.rows, &*opened.sheets[0].hides.columns),
        (&[2][..], &[(1, 2)][..])
    );
}

fn archive(files: &[(&str, &str)]) -> Vec<u8> {
    let mut archive = ZipWriter::new(Cursor::new(Vec::new()));
    for (name, content) in files {
        archive.start_file(*name, SimpleFileOptions::default()).unwrap();
        archive.write_all(content.as_bytes()).unwrap();
    }
    archive.finish().unwrap().into_inner()
}

const ODS: &str = "application/vnd.oasis.opendocument.spreadsheet";

fn ods(manifest: &str) -> Vec<u8> {
    let text = |text: &str| {
        format!(
            r#"<table:table-cell office:value-type="string"><text:p>{text}</text:p></table:table-cell>"#
        )
    };
    let number = r#"<table:table-cell office:value-type="float" office:value="1000"><text:p>1000</text:p></table:table-cell>"#;
    let row = |cells: [&str; 2]| format!("<table:table-row>{}</table:table-row>", cells.concat());
    let columns =
        r#"<table:table-column table:visibility="collapse" table:number-columns-repeated="2"/>"#;
    let filtered = row([number, &text("Bank")])
        .replace("<table:table-row>", r#"<table:table-row table:visibility="filter">"#);
    let rows = columns.to_owned() + &row([&text("Code"), &text("Name")]) + &filtered;
    let content = format!(
        r#"<office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"><office:body><office:spreadsheet><table:table table:name="Chart">{rows}</table:table></office:spreadsheet></office:body></office:document-content>"#
    );
    archive(&[("mimetype", ODS), ("content.xml", &content), ("META-INF/manifest.xml", manifest)])
}

const MANIFEST: &str =
    r#"<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0"/>"#;

#[test]
fn open_document_sheets_are_read() {
    let opened = read("chart.ods", &ods(MANIFEST)).unwrap();
    assert_eq!((opened.kind, opened.sheets[0].name.as_str()), ("ODS", "Chart"));
    assert_eq!(rows(&opened), [(1, "Code|Name".to_owned()), (2, "1000|Bank".to_owned())]);
}

#[test]
fn what_is_not_what_its_name_says_is_refused_with_a_plain_sentence() {
    let compound = |stream: &str| {
        let mut bytes = vec![0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1];
        bytes.extend(stream.encode_utf16().flat_map(u16::to_le_bytes));
        bytes
    };
    let whole = workbook();
    let locked = ods("<manifest:encryption-data/>");
    for (name, content, says) in [
        ("a.csv", Vec::new(), "the file is empty"),
        ("a.csv", b"a\0b\0\0c".to_vec(), "binary data"),
        ("a.pdf", b"%PDF-1.4".to_vec(), "neither a text file (CSV), nor a spreadsheet"),
        ("a.xlsx", b"Code,Name\n".to_vec(), "it holds plain text"),
        ("a.xls", b"<html><table></table></html>".to_vec(), "it holds a web page"),
        ("a.csv", whole.clone(), "it holds an XLSX workbook"),
        ("a.ods", whole.clone(), "it holds an XLSX workbook"),
        ("a.xlsx", whole[..whole.len() / 2].to_vec(), "not a sound XLSX file"),
        ("a.xlsx", archive(&[("other.txt", "x")]), "not a sound XLSX file"),
        ("a.xlsx", compound("EncryptedPackage"), "locked with a password"),
        ("a.ods", locked, "locked with a password"),
        ("a.xls", compound("Workbook"), "not a sound XLS file"),
        ("a.csv", ",".repeat(2_000).into_bytes(), "row 1 has more than 1024 cells"),
    ] {
        let error = read(name, &content).unwrap_err().to_string();
        assert!(error.contains(says), "{name}: {error}");
    }
}

#[test]
fn a_file_that_expands_beyond_all_measure_is_refused() {
    let mut bomb = ZipWriter::new(Cursor::new(Vec::new()));
    bomb.start_file("xl/workbook.xml", SimpleFileOptions::default()).unwrap();
    let block = b"<a/>".repeat(1 << 20);
    for _ in 0..260 {
        bomb.write_all(&block).unwrap();
    }
    let bytes = bomb.finish().unwrap().into_inner();
    assert!(bytes.len() < 8 << 20, "{} bytes hold more than a gigabyte", bytes.len());
    let error = read("a.xlsx", &bytes).unwrap_err().to_string();
    assert!(error.contains("expands to more than 1024 MB"), "{error}");
}
