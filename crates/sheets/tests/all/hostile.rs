//! Files that claim to be larger than they are: none is laid out in memory as it claims.

use std::io::{Cursor, Write};
use zf_intake::rows::MAX_ROWS;
use zf_sheets::{CannotRead, How, read};
use zf_testing::workbooks::{ods, xlsx};

/// An XLS workbook with as many sheets, each with a number in its first and its last cell.
fn xls(sheets: usize) -> Vec<u8> {
    let mut stream = Vec::new();
    let mut record = |kind: u16, body: &[u8]| {
        stream.extend(kind.to_le_bytes());
        stream.extend(u16::try_from(body.len()).unwrap().to_le_bytes());
        stream.extend(body);
    };
    for _ in 0..=sheets {
        record(0x0809, &[0; 16]);
        for (row, column) in [(0u16, 0u16), (u16::MAX, 255)] {
            let place = [row.to_le_bytes(), column.to_le_bytes(), [0, 0]].concat();
            record(0x0203, &[&place[..], &1f64.to_le_bytes()].concat());
        }
        record(0x000A, &[]);
    }
    let mut file = cfb::CompoundFile::create(Cursor::new(Vec::new())).unwrap();
    file.create_stream("Workbook").unwrap().write_all(&stream).unwrap();
    file.into_inner().into_inner()
}

fn rows_of(name: &str, content: Vec<u8>) -> Result<usize, CannotRead> {
    let opened = read(name, content, &How::default())?;
    Ok(opened.sheets[0].rows.count())
}

const FIRST: &str = "<row r='1'><c r='A1'><v>1</v></c></row>";

#[test]
fn cells_in_the_first_and_the_last_corner_take_the_room_of_two_cells() {
    let last =
        |cell| xlsx(&format!("{FIRST}<row r='1048576'><c r='{cell}'><v>1</v></c></row>"), "");
    assert_eq!(rows_of("a.xlsx", last("A1048576")).unwrap(), 2);
    assert!(
        matches!(rows_of("a.xlsx", last("XFD1048576")), Err(CannotRead::TooWide(n)) if n as usize == MAX_ROWS)
    );
}

#[test]
fn many_wide_rows_are_too_many_cells() {
    let row = |n: usize| format!("<row r='{n}'><c r='AMJ{n}'><v>1</v></c></row>");
    let rows: String = (1..=7_000).map(row).collect();
    assert!(matches!(rows_of("a.xlsx", xlsx(&rows, "")), Err(CannotRead::TooMany)));
}

#[test]
fn a_text_that_many_cells_share_counts_for_each() {
    let row = |n: usize| format!("<row r='{n}'><c r='A{n}' t='s'><v>0</v></c></row>");
    let rows: String = (1..=5_000).map(row).collect();
    let shared = xlsx(&rows, &"x".repeat(32_000));
    assert!(matches!(rows_of("a.xlsx", shared), Err(CannotRead::TooMany)));
}

#[test]
fn what_is_said_once_and_repeated_counts_as_often() {
    let cell = "<table:table-cell office:value-type='string'><text:p>x</text:p></table:table-cell>";
    let wide = "<table:table-cell office:value-type='string' table:number-columns-repeated='1000'><text:p>x</text:p></table:table-cell>";
    let row = |repeated: u64, cells: &str| {
        format!(
            "<table:table-row table:number-rows-repeated='{repeated}'>{cells}</table:table-row>"
        )
    };
    assert!(matches!(rows_of("a.ods", ods(&row(1_000_000, wide))), Err(CannotRead::TooMany)));
    assert!(matches!(rows_of("a.ods", ods(&row(u64::MAX, cell))), Err(CannotRead::TooMany)));
    // As spreadsheet programs end their sheets: nothing, repeated to the last row and column.
    let empty = "<table:table-cell table:number-columns-repeated='16383'/>";
    let usual = [row(3, &format!("{cell}{empty}")), row(1_048_573, empty)].concat();
    assert_eq!(rows_of("a.ods", ods(&usual)).unwrap(), 3);
}

#[test]
fn sheets_of_the_old_format_are_measured_before_they_are_laid_out() {
    assert!(matches!(rows_of("a.xls", xls(10)), Err(CannotRead::TooMany | CannotRead::TooLong)));
}

#[test]
fn a_quotation_mark_that_is_left_open_is_refused_with_its_line_and_not_held() {
    let rows = "1010,Bank,Asset\n".repeat(200_000);
    let csv = format!("Code,Name,Class\n5010,Coal,Expense\n5020,\"Wood,Expense\n{rows}");
    let refused = read("a.csv", csv.clone(), &How::default()).unwrap_err();
    assert!(matches!(refused, CannotRead::LongCell(3)), "{refused}");
    assert!(refused.to_string().contains("quotation mark left open"), "{refused}");
    let tab = How { delimiter: Some('\t'), ..How::default() };
    assert_eq!(read("a.csv", csv, &tab).unwrap().sheets[0].rows.count(), 200_003);
    // The longest cell there can be, in letters of three bytes.
    let longest = format!("Code,Name\n1,\"{}\"\n", "€".repeat(32_767));
    assert_eq!(rows_of("a.csv", longest.into_bytes()).unwrap(), 2);
    let longer = format!("Code,Name\n1,{}\n", "€".repeat(32_768));
    assert!(matches!(rows_of("a.csv", longer.into_bytes()), Err(CannotRead::LongCell(2))));
}

#[test]
fn a_text_of_a_workbook_that_no_cell_holds_is_refused_before_it_is_read() {
    let cell =
        |text: &str| format!("<row r='1'><c r='A1' t='inlineStr'><is><t>{text}</t></is></c></row>");
    let long = xlsx(&cell(&"x".repeat(3 << 20)), "");
    assert!(matches!(rows_of("a.xlsx", long), Err(CannotRead::LongText)));
    assert!(matches!(
        rows_of("a.xlsx", xlsx(FIRST, &"x".repeat(3 << 20))),
        Err(CannotRead::LongText)
    ));
    // Each character of the longest may be written as a reference.
    let longest = xlsx(&cell(&"&#x20AC;".repeat(32_767)), "");
    assert_eq!(rows_of("a.xlsx", longest).unwrap(), 1);
}
