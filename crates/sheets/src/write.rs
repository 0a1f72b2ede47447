//! Files out. Text is always written as text: a cell that looks like a formula never becomes one.

mod csv;
mod ods;
mod saft;
mod sheet;
mod xlsx;

pub(crate) use csv::is_armed;
pub use saft::{AuditAccount, AuditEntry, AuditHeader, AuditLine, AuditWriter};
pub use sheet::{CannotWrite, ColumnKind, Columns, Term};

use std::collections::BTreeMap;

/// A table to write: a sheet of a workbook, or a CSV file.
#[derive(Clone, Debug, Default)]
pub struct Table {
    /// The name of the sheet.
    pub name: String,
    /// Headings with what stands under them.
    pub columns: Columns,
    /// Rows as long as the headings.
    pub rows: Vec<Vec<String>>,
    /// The rows whose amounts add up those of others. In a workbook they do so by formulas.
    pub sums: BTreeMap<usize, Vec<Term>>,
}

impl Table {
    /// A table of which every row stands for itself.
    pub fn new(name: &str, columns: Columns, rows: Vec<Vec<String>>) -> Self {
        Self { name: name.to_owned(), columns, rows, sums: BTreeMap::new() }
    }

    /// Writes a file of this table alone.
    ///
    /// # Errors
    /// When it is larger than a sheet can be.
    pub fn write(&self, format: Format) -> Result<Vec<u8>, CannotWrite> {
        write(format, std::slice::from_ref(self))
    }
}

/// The kinds of file that are written.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Format {
    /// Text, with commas, in UTF-8. It holds one table.
    Csv,
    /// An Office Open XML workbook (ISO/IEC 29500).
    Xlsx,
    /// An OpenDocument spreadsheet (ISO/IEC 26300).
    Ods,
}

impl Format {
    /// The format that a file name's ending names.
    pub fn from_ending(ending: &str) -> Option<Self> {
        [Self::Csv, Self::Xlsx, Self::Ods].into_iter().find(|format| format.ending() == ending)
    }

    /// The ending of its file names.
    pub const fn ending(self) -> &'static str {
        match self {
            Self::Csv => "csv",
            Self::Xlsx => "xlsx",
            Self::Ods => "ods",
        }
    }

    /// Its media type.
    pub const fn media_type(self) -> &'static str {
        match self {
            Self::Csv => "text/csv; charset=utf-8",
            Self::Xlsx => "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
            Self::Ods => "application/vnd.oasis.opendocument.spreadsheet",
        }
    }
}

/// A file that is written row by row, so that what is written need not all be there at once.
pub struct Writer {
    file: File,
}

enum File {
    Csv(Box<csv::File>),
    Xlsx(Box<xlsx::File>),
    Ods(Box<ods::File>),
}

impl File {
    fn begin(&mut self, name: &str, columns: &Columns) -> Result<(), CannotWrite> {
        match self {
            Self::Csv(file) => file.begin(columns),
            Self::Xlsx(file) => file.begin(name, columns),
            Self::Ods(file) => {
                file.begin(name, columns);
                Ok(())
            }
        }
    }
}

impl File {
    fn row(&mut self, cells: &[String], sums: &[Term]) -> Result<(), CannotWrite> {
        match self {
            Self::Csv(file) => file.row(cells),
            Self::Xlsx(file) => file.row(cells, sums),
            Self::Ods(file) => file.row(cells, sums),
        }
    }

    fn table(&mut self, table: &Table) -> Result<(), CannotWrite> {
        let mut rows = table.rows.iter().enumerate();
        rows.try_for_each(|(at, row)| {
            self.row(row, table.sums.get(&at).map(Vec::as_slice).unwrap_or_default())
        })
    }
}

impl Writer {
    /// Begins a file with its first table.
    ///
    /// # Errors
    /// When the library refuses.
    pub fn new(format: Format, name: &str, columns: &Columns) -> Result<Self, CannotWrite> {
        let mut file = match format {
            Format::Csv => File::Csv(Box::new(csv::File::new())),
            Format::Xlsx => File::Xlsx(Box::new(xlsx::File::new())),
            Format::Ods => File::Ods(Box::new(ods::File::new())),
        };
        file.begin(name, columns)?;
        Ok(Self { file })
    }

    /// Writes a row under those before.
    ///
    /// # Errors
    /// When the sheet is full or the library refuses.
    pub fn row(&mut self, cells: &[String]) -> Result<(), CannotWrite> {
        self.file.row(cells, &[])
    }

    /// The whole file.
    ///
    /// # Errors
    /// When the library refuses.
    pub fn finish(self) -> Result<Vec<u8>, CannotWrite> {
        match self.file {
            File::Csv(file) => file.finish(),
            File::Xlsx(file) => file.finish(),
            File::Ods(file) => file.finish(),
        }
    }
}

/// Writes tables as the sheets of a file; CSV has room for the first only.
///
/// # Errors
/// When a table is larger than a sheet can be.
pub fn write(format: Format, tables: &[Table]) -> Result<Vec<u8>, CannotWrite> {
    let none = Table::default();
    let (first, others) = tables.split_first().unwrap_or((&none, &[]));
    let mut writer = Writer::new(format, &first.name, &first.columns)?;
    writer.file.table(first)?;
    for table in others {
        if format == Format::Csv {
            break;
        }
        writer.file.begin(&table.name, &table.columns)?;
        writer.file.table(table)?;
    }
    writer.finish()
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::io::Read;

    fn table() -> Table {
        let columns = [("Code", ColumnKind::Text), ("Balance", ColumnKind::Money)];
        let rows = [["0100", "-12.50"], ["=1+1", ""]];
        Table::new(
            "Chart [of] accounts/2026 which is a long name",
            columns.map(|(name, kind)| (name.to_owned(), kind)).to_vec(),
            rows.map(|row| row.map(str::to_owned).to_vec()).to_vec(),
        )
    }

    fn cells(name: &str, content: &[u8]) -> Vec<Vec<String>> {
        let opened = crate::read(name, content, &crate::How::default()).unwrap();
        let rows = opened.sheets.iter().flat_map(|sheet| sheet.rows.all());
        rows.map(|row| row.cells.into_iter().map(|cell| cell.text).collect()).collect()
    }

    #[test]
    fn workbooks_keep_leading_zeros_and_never_run_formulas() {
        for format in [Format::Xlsx, Format::Ods] {
            let written = write(format, &[table()]).unwrap();
            let read = cells(&format!("a.{}", format.ending()), &written);
            let read: Vec<Vec<&str>> = read
                .iter()
                .map(|row| row.iter().map(String::as_str).filter(|c| !c.is_empty()).collect())
                .collect();
            assert_eq!(read, [vec!["Code", "Balance"], vec!["0100", "-12.5"], vec!["=1+1"]]);
        }
    }

    #[test]
    fn totals_of_workbooks_are_formulas_with_their_results() {
        let row = |name: &str, amount: &str| vec![name.to_owned(), amount.to_owned()];
        let terms = [(0..=1, false), (2..=2, true)];
        let terms = terms.map(|(rows, taken_off)| Term { rows, taken_off });
        let totals = Table {
            rows: vec![row("a", "10.00"), row("b", "2.50"), row("c", "4.00"), row("sum", "8.50")],
            sums: BTreeMap::from([(3, terms.to_vec())]),
            ..table()
        };
        for (format, formula) in [
            (Format::Xlsx, "SUM(B2:B3)-SUM(B4:B4)"),
            (Format::Ods, "of:=SUM([.B2:.B3])-SUM([.B4:.B4])"),
        ] {
            let written = write(format, std::slice::from_ref(&totals)).unwrap();
            let read = cells(&format!("a.{}", format.ending()), &written);
            assert_eq!(read[4], ["sum", "8.5"], "who computes nothing reads the result");
            let mut parts = zip::ZipArchive::new(std::io::Cursor::new(written)).unwrap();
            let mut xml = String::new();
            for at in 0..parts.len() {
                let _ = parts.by_index(at).unwrap().read_to_string(&mut xml);
            }
            assert!(xml.contains(formula), "{format:?}");
        }
        let text = String::from_utf8(totals.write(Format::Csv).unwrap()).unwrap();
        assert!(text.contains("sum,8.50"), "{text}");
    }

    #[test]
    fn a_workbook_has_a_sheet_for_each_table() {
        for format in [Format::Xlsx, Format::Ods] {
            let second = Table { name: "Second".to_owned(), ..table() };
            let written = write(format, &[table(), second]).unwrap();
            let name = format!("a.{}", format.ending());
            let opened = crate::read(&name, written, &crate::How::default()).unwrap();
            let names: Vec<_> = opened.sheets.iter().map(|sheet| sheet.name.as_str()).collect();
            assert_eq!(
                names,
                ["Chart of accounts2026 which is a", "Second"].map(|n| &n[..n.len().min(31)])
            );
            assert_eq!(opened.sheets[0].rows.all(), opened.sheets[1].rows.all());
        }
    }

    #[test]
    fn what_a_cell_has_no_place_for_is_marked_and_the_workbook_is_sound() {
        let mut strange = table();
        strange.rows = vec![vec!["a\u{1}b\u{FFFF}\u{9B}".to_owned(), String::new()]];
        strange.rows.push(vec!["ö".repeat(40_000), String::new()]);
        for format in [Format::Xlsx, Format::Ods] {
            let name = format!("a.{}", format.ending());
            let read = cells(&name, &write(format, &[strange.clone()]).unwrap());
            assert_eq!(read[1][0], "a\u{FFFD}b\u{FFFD}\u{FFFD}");
            let (text, said) = read[2][0].split_once(" … and ").unwrap();
            let left = said.strip_suffix(" more characters, left out here").unwrap();
            let left: usize = left.replace(',', "").parse().unwrap();
            assert_eq!(text.chars().count() + left, 40_000, "what is left out is counted");
        }
        let whole = String::from_utf8(write(Format::Csv, &[strange]).unwrap()).unwrap();
        assert!(whole.contains(&"ö".repeat(40_000)), "a text file has a place for all of it");
    }

    #[test]
    fn csv_disarms_what_looks_like_a_formula() {
        let written = write(Format::Csv, &[table()]).unwrap();
        assert!(String::from_utf8_lossy(&written).contains("'=1+1"));
        assert_eq!(
            cells("a.csv", &written),
            [["Code", "Balance"], ["0100", "-12.50"], ["=1+1", ""]]
        );
    }
}
