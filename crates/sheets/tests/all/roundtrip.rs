//! Whatever is written reads back, and no input makes the reader panic.

use proptest::prelude::*;
use zf_sheets::{CannotRead, ColumnKind, Format, How, Opened, Table, Writer};

/// Texts that a person could type, some of them dangerous.
fn cell() -> impl Strategy<Value = String> {
    prop_oneof![
        "[ -~]{0,12}",
        "[a-zé£€\u{a0}ßø…“”]{1,8}",
        "0[0-9]{1,6}",
        "[=＝＋＠－][0-9+A-Z]{1,5}",
        Just("line one\nline two".to_owned()),
        Just("\"quoted\", and more".to_owned()),
        Just("1,234.50".to_owned()),
    ]
}

fn table() -> impl Strategy<Value = Table> {
    // The first column is never empty, so that no row is blank.
    prop::collection::vec(("[a-z]{1,6}", cell(), cell()), 1..12).prop_map(|rows| {
        let columns = ["One", "Two", "Three"].map(|t| (t.to_owned(), ColumnKind::Text)).to_vec();
        Table::new("Sheet", columns, rows.into_iter().map(|(a, b, c)| vec![a, b, c]).collect())
    })
}

fn read(name: &str, content: &[u8]) -> Result<Opened, CannotRead> {
    zf_sheets::read(name, content, &How::default())
}

/// What rows hold: what stands empty behind the last cell of one, or is empty as a whole, is not kept.
fn held(rows: impl IntoIterator<Item = Vec<String>>) -> Vec<Vec<String>> {
    let ended = rows.into_iter().map(|mut row| {
        row.truncate(row.iter().rposition(|cell| !cell.is_empty()).map_or(0, |last| last + 1));
        row
    });
    ended.filter(|row| !row.is_empty()).collect()
}

/// The cells of a file as any other program would read them.
fn csv_records(content: &[u8]) -> Vec<::csv::StringRecord> {
    ::csv::Reader::from_reader(content).records().map(Result::unwrap).collect()
}

fn cells(name: &str, content: &[u8]) -> Vec<Vec<String>> {
    let rows = read(name, content).unwrap().sheets.remove(0).rows.all().into_iter().skip(1);
    held(rows.map(|row| row.cells.into_iter().map(|cell| cell.text).collect()))
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn workbooks_read_back_to_the_letter(table in table()) {
        let rows = cells("a.xlsx", &table.write(Format::Xlsx).unwrap());
        prop_assert_eq!(rows, held(table.rows));
    }

    #[test]
    fn csv_reads_back_to_the_letter_and_never_arms_a_formula(table in table()) {
        let written = table.write(Format::Csv).unwrap();
        for record in csv_records(&written) {
            let armed = ['=', '+', '@', '-', '＝', '＋', '＠', '－'];
            prop_assert!(record.iter().all(|cell| !cell.starts_with(armed)));
        }
        prop_assert_eq!(cells("a.csv", &written), held(table.rows));
    }

    #[test]
    fn no_bytes_make_the_reader_panic(
        bytes in prop::collection::vec(any::<u8>(), 0..400),
        name in "[a-z]{1,4}\\.(csv|tsv|txt|xlsx|xls|ods|pdf)",
    ) {
        let _ = read(&name, &bytes);
    }

    #[test]
    fn no_damage_to_a_workbook_makes_the_reader_panic(
        table in table(),
        damage in prop::collection::vec((any::<prop::sample::Index>(), any::<u8>()), 1..12),
        kept in any::<prop::sample::Index>(),
    ) {
        let mut bytes = table.write(Format::Xlsx).unwrap();
        for (at, byte) in damage {
            let at = at.index(bytes.len());
            bytes[at] = byte;
        }
        let _ = read("a.xlsx", &bytes);
        bytes.truncate(kept.index(bytes.len()));
        let _ = read("a.xlsx", &bytes);
    }
}

#[test]
fn formats_are_known_by_their_endings() {
    for format in [Format::Csv, Format::Xlsx, Format::Ods] {
        assert_eq!(Format::from_ending(format.ending()), Some(format));
        assert!(format.media_type().contains('/'));
    }
    assert_eq!(Format::from_ending("pdf"), None);
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::default() })]

    /// Rows that are written one by one are those that are written at once, in every format.
    #[test]
    fn a_file_written_row_by_row_says_the_same(
        rows in prop::collection::vec((cell(), -99_999i64..99_999), 0..12),
    ) {
        let columns = vec![
            ("Text".to_owned(), ColumnKind::Text),
            ("Money".to_owned(), ColumnKind::Money),
            ("Count".to_owned(), ColumnKind::Count),
        ];
        let rows: Vec<Vec<String>> = rows
            .into_iter()
            .map(|(text, n)| vec![text, format!("{}.{:02}", n / 100, n.abs() % 100), n.to_string()])
            .collect();
        let table = Table::new("Sheet", columns.clone(), rows.clone());
        for format in [Format::Csv, Format::Xlsx, Format::Ods] {
            let mut writer = Writer::new(format, "Sheet", &columns).unwrap();
            rows.iter().for_each(|row| writer.row(row).unwrap());
            let name = format!("a.{}", format.ending());
            let one_by_one = cells(&name, &writer.finish().unwrap());
            prop_assert_eq!(&one_by_one, &cells(&name, &table.write(format).unwrap()));
            for (read, row) in one_by_one.iter().zip(&rows) {
                let said = |at: usize| read.get(at).map_or("", String::as_str);
                let money: f64 = said(1).parse().unwrap();
                prop_assert!((money - row[1].parse::<f64>().unwrap()).abs() < 0.001);
                prop_assert_eq!(said(2), row[2].as_str());
            }
        }
    }
}
