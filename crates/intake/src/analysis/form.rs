//! What is asked of the form of a file: what its columns hold, the order of its dates, and the mark of
//! its decimals.

use crate::Rejected;
use crate::columns::Column;
use crate::dates::DateOrder;
use crate::layout::Rival;
use crate::question::{About, Answer, Question};
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
            about: About::Dates,
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
            about: About::Decimal,
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
    let columns = reading.layout.rivals().iter().map(|rival| column(reading, rows, rival));
    let figures = figures(reading, rows);
    columns.chain(figures).chain(dates).chain(decimal).collect()
}

/// Asks which figures a trial balance is read from, with what each comes to.
fn figures(reading: &Reading, rows: &dyn Rows) -> Option<Question> {
    let (choices, likely) = reading.layout.choices();
    if choices.is_empty() {
        return None;
    }
    let currency = reading.currency;
    let mut sums = vec![(0_i128, 0_i128); choices.len()];
    for row in reading.layout.walk_body(rows) {
        for (figures, (debits, credits)) in choices.iter().zip(&mut sums) {
            match figures.amount(&row, |at| reading.figure(&row, at)).unwrap_or(0) {
                amount @ 1.. => *debits += amount,
                amount => *credits -= amount,
            }
        }
    }
    let readings = choices.iter().zip(sums).map(|(figures, (debits, credits))| {
        let gives = format!("debits {}, credits {}", currency.say(debits), currency.say(credits));
        Answer::new(&figures.key, &figures.called, gives)
    });
    Some(Question {
        about: About::Figures,
        say: "Which figures say what the accounts stand at?".to_owned(),
        readings: readings.collect(),
        default: likely.map(|at| choices[at].key.clone()),
    })
}

/// How many cells of a column are shown as examples.
const EXAMPLES: usize = 3;

/// Asks what a column means that another could be in place of.
fn column(reading: &Reading, rows: &dyn Rows, rival: &Rival) -> Question {
    let layout = &reading.layout;
    let example = |at: usize| {
        let cells = layout.walk_body(rows).filter_map(move |row| {
            Some(row.cells.get(at)?.text.trim().to_owned()).filter(|text| !text.is_empty())
        });
        let texts: Vec<String> = cells.take(EXAMPLES).map(|text| format!("“{text}”")).collect();
        texts.join(", ")
    };
    let heading = layout.heading(rival.at);
    let words = rival.field.words();
    let instead = rival.instead.map_or("not used".to_owned(), |field| field.words().to_owned());
    let then = match rival.other {
        Some(at) => format!("{words} is “{}”: {}", layout.heading(at), example(at)),
        None => format!("no column is {words}"),
    };
    Question {
        about: About::Column(heading.to_owned()),
        say: format!("What does the column “{heading}” hold?"),
        readings: vec![
            Answer::new(rival.field.key(), words, example(rival.at)),
            Answer::new(rival.instead.map_or("", Column::key), instead, then),
        ],
        default: Some(rival.field.key().to_owned()),
    }
}
