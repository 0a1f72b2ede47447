//! Several sheets of one form, as one a month or one a class: which of them is meant is asked.

use crate::Sheet;
use crate::layout::headings;
use crate::question::{Answer, Question};
use crate::reading::{Chosen, Reading};
use zf_core::text::counted;

/// Asks which sheet is meant, where others have the same headings as the one that is read.
pub fn question(
    sheets: &[Sheet],
    at: usize,
    reading: &Reading,
    chosen: &Chosen,
) -> Option<Question> {
    let form = reading.layout.form();
    if sheets.len() < 2 || chosen.sheet.is_some() || form.is_empty() {
        return None;
    }
    let alike = |sheet: &&Sheet| {
        let start = sheet.rows.start(crate::layout::SHOWN);
        !sheet.hidden && start.iter().any(|row| headings(row) == form)
    };
    let alike: Vec<&Sheet> = sheets.iter().filter(alike).collect();
    if alike.len() < 2 {
        return None;
    }
    let names: Vec<_> = alike.iter().map(|sheet| format!("“{}”", sheet.name)).collect();
    Some(Question {
        about: "sheet".to_owned(),
        say: format!("The sheets {} have the same columns. Which one is it?", names.join(", ")),
        readings: alike
            .iter()
            .map(|sheet| Answer::new(&sheet.name, &sheet.name, counted(sheet.rows.count(), "row")))
            .collect(),
        default: Some(sheets[at].name.clone()),
    })
}
