//! CSV, in UTF-8 with a mark so that spreadsheet programs read it as such. A text that a spreadsheet
//! would take for a formula gets an apostrophe in front.

use super::sheet::{CannotWrite, ColumnKind, Columns};

#[derive(Debug)]
pub(super) struct File {
    writer: csv::Writer<Vec<u8>>,
    columns: Columns,
}

impl File {
    pub(super) fn new() -> Self {
        Self { writer: csv::Writer::from_writer(vec![0xef, 0xbb, 0xbf]), columns: Vec::new() }
    }

    pub(super) fn begin(&mut self, columns: &Columns) -> Result<(), CannotWrite> {
        self.writer.write_record(columns.iter().map(|(title, _)| title))?;
        self.columns.clone_from(columns);
        Ok(())
    }

    pub(super) fn row(&mut self, cells: &[String]) -> Result<(), CannotWrite> {
        for (text, (_, kind)) in cells.iter().zip(&self.columns) {
            match kind {
                ColumnKind::Text if is_armed(text) => {
                    self.writer.write_field(format!("'{text}"))?;
                }
                _ => self.writer.write_field(text)?,
            }
        }
        Ok(self.writer.write_record(None::<&[u8]>)?)
    }

    pub(super) fn finish(self) -> Result<Vec<u8>, CannotWrite> {
        self.writer.into_inner().map_err(|e| CannotWrite::Csv(e.into_error().into()))
    }
}

/// Whether a spreadsheet would take a text for a formula, or one that was disarmed already would
/// lose its apostrophe when it is read back.
pub(crate) fn is_armed(text: &str) -> bool {
    let signs =
        ['=', '+', '@', '-', '\t', '\r', '＝', '＋', '＠', '－', '﹦', '﹢', '﹫', '﹣', '−'];
    text.trim_start_matches('\'').starts_with(signs)
}
