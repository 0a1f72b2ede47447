//! How large the sheets of an OpenDocument file are (ISO/IEC 26300-1), counted before they are laid
//! out: rows and cells that are alike stand in it once, with how often they are repeated.

use super::archive::Archive;
use super::bounds::Bounds;
use super::hidden::{local, value};
use super::opened::CannotRead;
use quick_xml::Reader;
use quick_xml::events::Event;
use std::io::BufReader;

/// What was counted of the sheet, the row and the cell that are open.
#[derive(Default)]
struct Counted {
    /// Rows up to the last one that holds something.
    rows: u64,
    /// Rows in all so far.
    at: u64,
    /// The widest row that holds something.
    columns: u64,
    row: Row,
    cell: Cell,
}

#[derive(Default)]
struct Row {
    repeated: u64,
    /// Cells in all so far.
    at: u64,
    /// Cells up to the last one that holds something.
    columns: u64,
    text: u64,
}

#[derive(Default)]
struct Cell {
    repeated: u64,
    holds: bool,
    text: u64,
}

/// Counts what the sheets would take.
///
/// # Errors
/// When that is too much.
pub(super) fn measure(archive: &mut Archive<'_>, bounds: &mut Bounds) -> Result<(), CannotRead> {
    let Ok(part) = archive.by_name("content.xml") else { return Ok(()) };
    let mut reader = Reader::from_reader(BufReader::new(part));
    let (mut buffer, mut counted) = (Vec::new(), Counted::default());
    loop {
        // What is not sound is said by whoever reads the cells.
        let Ok(event) = reader.read_event_into(&mut buffer) else { return Ok(()) };
        match &event {
            Event::Start(tag) | Event::Empty(tag) => {
                let repeated = |name| value(tag, name).and_then(|n| n.parse().ok()).unwrap_or(1);
                match local(tag) {
                    "table" => counted = Counted::default(),
                    "table-row" => {
                        let repeated = repeated("number-rows-repeated");
                        counted.row = Row { repeated, ..Row::default() };
                    }
                    "table-cell" | "covered-table-cell" => {
                        let holds =
                            value(tag, "value-type").is_some() || value(tag, "formula").is_some();
                        let text = value(tag, "string-value").map_or(0, |text| text.len() as u64);
                        let repeated = repeated("number-columns-repeated");
                        counted.cell = Cell { repeated, holds, text };
                    }
                    "p" => counted.cell.holds = true,
                    _ => {}
                }
                if matches!(event, Event::Empty(_)) {
                    counted.close(local(tag), bounds)?;
                }
            }
            Event::Text(text) => counted.cell.text += text.len() as u64,
            Event::End(tag) => counted.close(local_end(tag), bounds)?,
            Event::Eof => return Ok(()),
            _ => {}
        }
        buffer.clear();
    }
}

fn local_end<'a>(tag: &'a quick_xml::events::BytesEnd<'_>) -> &'a str {
    let name: &str = tag.name().into_inner();
    name.rsplit(':').next().unwrap_or(name)
}

impl Counted {
    fn close(&mut self, element: &str, bounds: &mut Bounds) -> Result<(), CannotRead> {
        match element {
            "table-cell" | "covered-table-cell" => {
                let Cell { repeated, holds, text } = std::mem::take(&mut self.cell);
                self.row.at = self.row.at.saturating_add(repeated);
                if holds {
                    self.row.columns = self.row.at;
                    self.row.text = self.row.text.saturating_add(text.saturating_mul(repeated));
                }
            }
            "table-row" => {
                let Row { repeated, columns, text, .. } = std::mem::take(&mut self.row);
                self.at = self.at.saturating_add(repeated);
                if columns > 0 {
                    self.rows = self.at;
                    self.columns = self.columns.max(columns);
                    bounds.text(text.saturating_mul(repeated))?;
                }
            }
            "table" => bounds.sheet(self.rows, self.columns)?,
            _ => {}
        }
        Ok(())
    }
}
