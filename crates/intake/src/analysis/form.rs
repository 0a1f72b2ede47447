//! What is asked of the form of a file: the order of its dates, and the mark of its decimals.

use crate::Rejected;
use crate::columns::Column;
use crate::dates::DateOrder;
use crate::question::{Answer, Question};
use crate::reading::Reading;
use crate::reason::Reason;
use crate::rows::Rows;
use std::collections::BTreeSet;
use zf_core::text::counted;

/// What rows were rejected for that an answer would settle, with an example of the file.
pub(super) fn questions(
    reading: &Reading,
    rows: &dyn Rows,
    rejected: &[Rejected],
) -> Vec<Question> {
    let for_want_of = |reason: Reason| {
        let mut all = rejected.iter().filter(move |r| r.reason == reason);
        all.next().map(|first| (first, all.count() + 1))
    };
    let text = |first: &Rejected, fallback: Column| {
        let field = first.field.unwrap_or(fallback);
        let row = rows.numbered(&BTreeSet::from([first.row])).remove(&first.row);
        row.map_or_else(String::new, |row| reading.layout.cell(&row, field).to_owned())
    };
    let dates = for_want_of(Reason::DateAmbiguous).map(|(first, count)| {
        let text = text(first, Column::Date);
        let gives = |order: DateOrder| match DateOrder::read(Some(order), &text) {
            Ok(date) => format!("{} {} {}", date.day(), date.month(), date.year()),
            Err(_) => "no date".to_owned(),
        };
        Question {
            about: "dates".to_owned(),
            say: format!(
                "Which comes first in a date such as {text}? {} wait for it.",
                counted(count, "row")
            ),
            readings: DateOrder::ALL
                .iter()
                .filter(|order| DateOrder::read(Some(**order), &text).is_ok())
                .map(|order| Answer::new(order.key(), order.words(), gives(*order)))
                .collect(),
            default: None,
        }
    });
    let decimal = for_want_of(Reason::AmountAmbiguous).map(|(first, count)| {
        let text = text(first, Column::Amount);
        Question {
            about: "decimal".to_owned(),
            say: format!(
                "Which mark parts the decimals of {text}? {} wait for it.",
                counted(count, "row")
            ),
            readings: vec![
                Answer::new("point", "the point", format!("{text} as in 1,250.00")),
                Answer::new("comma", "the comma", format!("{text} as in 1.250,00")),
            ],
            default: None,
        }
    });
    dates.into_iter().chain(decimal).collect()
}
