//! Entries that only their day tells: where a column of numbers is not understood, all lines of a day melt
//! together though every total is right. That is asked.

use crate::columns::Column;
use crate::question::{About, Answer, Asks, Gives, Means, Question};
use crate::reading::Reading;

/// The reading by which all lines of a day are one entry.
pub(crate) const DAY: &str = "day";

/// From how many lines on an entry is huge, of those that only the day tells.
const HUGE: usize = 8;

/// Asks what numbers the entries where only their day does and they have many lines.
pub(crate) fn question(reading: &Reading, entries: usize, lines: usize) -> Option<Question> {
    let layout = &reading.layout;
    let has_number =
        layout.place(Column::Entry).is_some() || layout.place(Column::Reference).is_some();
    if has_number
        || entries == 0
        || lines < HUGE * entries
        || reading.answers.contains_key(&About::Entries)
    {
        return None;
    }
    let day = Answer::new(DAY, Means::DayIsEntry, Gives::Entries(entries));
    let columns = layout.unused().map(|heading| {
        Answer::new(heading, Means::NumberedBy(heading.to_owned()), Gives::EntriesByValue)
    });
    Some(Question {
        about: About::Entries,
        asks: Asks::Entries { lines, entries },
        readings: std::iter::once(day).chain(columns).collect(),
        default: Some(DAY.to_owned()),
    })
}
