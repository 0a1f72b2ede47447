//! Intake of a list of the statement items. It has the columns of the list that is handed out, in any
//! order: class, item, new name, retired. Lists of earlier versions call the item a line.

use crate::columns::reduce;
use crate::words::{self, Said};
use crate::{Cell, RawRow};
use zf_core::items::listed::Listed;
use zf_core::plan::texts::{self, NotAText};

/// The headings of the list, in their order.
pub const HEADINGS: [&str; 4] = ["Class", "Item", "New name", "Retired"];

/// What was read of a list.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct ReadItems {
    /// Rows by their number.
    pub rows: Vec<(u32, Listed)>,
    /// Rows that cannot be read, with the reason.
    pub rejected: Vec<(u32, NotListed)>,
}

/// Why a row of a list cannot be read.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum NotListed {
    /// No class.
    ClassMissing,
    /// Something that is no class.
    ClassUnknown(String),
    /// Not a name.
    Name(NotAText),
    /// Something that says neither that the item is retired nor that it is not.
    NeitherYesNorNo(String),
}

/// Reads a list; nothing when no row has headings for class and item.
pub fn read(rows: &[RawRow]) -> Option<ReadItems> {
    let wanted = HEADINGS.map(reduce);
    let is = |cell: &str, wanted: &str| cell == wanted || (wanted == "item" && cell == "line");
    let places = |row: &RawRow| {
        let cells: Vec<String> = row.cells.iter().map(|cell| reduce(&cell.text)).collect();
        wanted.each_ref().map(|wanted| cells.iter().position(|cell| is(cell, wanted)))
    };
    let (head, places) = rows.iter().enumerate().find_map(|(at, row)| match places(row) {
        [Some(class), Some(item), new_name, retired] => {
            Some((at, (class, item, new_name, retired)))
        }
        _ => None,
    })?;
    let mut read = ReadItems::default();
    for row in rows[head + 1..].iter().filter(|row| !row.is_blank()) {
        match listed(row, places) {
            Ok(listed) => read.rows.push((row.number, listed)),
            Err(why) => read.rejected.push((row.number, why)),
        }
    }
    Some(read)
}

type Places = (usize, usize, Option<usize>, Option<usize>);

fn listed(row: &RawRow, (class, item, new_name, retired): Places) -> Result<Listed, NotListed> {
    let cell = |at: usize| row.cells.get(at).map_or("", |cell: &Cell| cell.text.trim());
    let wording = cell(class);
    let class = words::class(&reduce(wording));
    let class = class.ok_or_else(|| match wording {
        "" => NotListed::ClassMissing,
        _ => NotListed::ClassUnknown(wording.to_owned()),
    })?;
    let name = texts::name(cell(item)).map_err(NotListed::Name)?;
    let new_name = new_name.map(cell).filter(|name| !name.is_empty()).map(texts::name);
    let new_name = new_name.transpose().map_err(NotListed::Name)?;
    let retired = match retired.map(cell).filter(|word| !word.is_empty()) {
        None => None,
        Some(word) if words::says(Said::Yes, &reduce(word)) => Some(true),
        Some(word) if words::says(Said::No, &reduce(word)) => Some(false),
        Some(word) => return Err(NotListed::NeitherYesNorNo(word.to_owned())),
    };
    Ok(Listed { class, name, new_name, retired })
}
