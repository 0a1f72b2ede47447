//! What is asked of the form of a file: what its columns hold, the order of its dates, and the mark of
//! its decimals.

use crate::Rejected;
use crate::columns::Column;
use crate::dates::DateOrder;
use crate::layout::Rival;
use crate::numbers::DecimalMark;
use crate::question::{About, Answer, Asks, Gives, Means, Question};
use crate::reading::Reading;
use crate::reason::Reason;
use crate::rows::Rows;
use std::collections::BTreeSet;

/// What rows were rejected for that an answer would settle, with an example of the file.
pub(super) fn questions(
    reading: &Reading,
    rows: &dyn Rows,
    rejected: &[Rejected],
) -> Vec<Question> {
    let for_want_of = |reason: Reason| {
        let mut all = rejected.iter().filter(move |r| r.cause.reason() == reason);
        all.next().map(|first| (first, all.count() + 1))
    };
    let text = |first: &Rejected, fallback: Column| {
        let field = first.field.unwrap_or(fallback);
        let row = rows.numbered(&BTreeSet::from([first.row])).remove(&first.row);
        row.map_or_else(String::new, |row| reading.layout.cell(&row, field).to_owned())
    };
    let dates = for_want_of(Reason::DateAmbiguous).map(|(first, count)| {
        let text = text(first, Column::Date);
        let answer = |order: &DateOrder| {
            let day = DateOrder::read(Some(*order), &text).ok()?;
            Some(Answer::new(order.key(), Means::Dates(*order), Gives::Day(day, None)))
        };
        let readings = DateOrder::ALL.iter().filter_map(answer).collect();
        Question { about: About::Dates, asks: Asks::Dates(text, count), readings, default: None }
    });
    let decimal = for_want_of(Reason::AmountAmbiguous).map(|(first, count)| {
        let text = text(first, Column::Amount);
        Question {
            about: About::Decimal,
            readings: DecimalMark::ALL
                .iter()
                .map(|mark| {
                    let gives = Gives::DecimalsAs(text.clone(), *mark);
                    Answer::new(mark.key(), Means::Decimal(*mark), gives)
                })
                .collect(),
            asks: Asks::Decimal(text, count),
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
        let gives = Gives::Sides { debits, credits, currency };
        Answer::new(&figures.key, Means::Figures(figures.called.clone()), gives)
    });
    Some(Question {
        about: About::Figures,
        asks: Asks::Figures,
        readings: readings.collect(),
        default: likely.map(|at| choices[at].key.clone()),
    })
}

/// How many cells of a column are shown as examples.
const EXAMPLES: usize = 3;

/// Asks what a column means that another could be in place of.
fn column(reading: &Reading, rows: &dyn Rows, rival: &Rival) -> Question {
    let layout = &reading.layout;
    let example = |at: usize| -> Vec<String> {
        let cells = layout.walk_body(rows).filter_map(move |row| {
            Some(row.cells.get(at)?.text.trim().to_owned()).filter(|text| !text.is_empty())
        });
        cells.take(EXAMPLES).collect()
    };
    let heading = layout.heading(rival.at);
    let other = rival.other.map(|at| (layout.heading(at).to_owned(), example(at)));
    let then = Gives::Instead(rival.field, other);
    let instead = rival.instead.map_or(Means::Unused, Means::Column);
    Question {
        about: About::Column(heading.to_owned()),
        asks: Asks::Column(heading.to_owned()),
        readings: vec![
            Answer::new(
                rival.field.key(),
                Means::Column(rival.field),
                Gives::Cells(example(rival.at)),
            ),
            Answer::new(rival.instead.map_or("", Column::key), instead, then),
        ],
        default: Some(rival.field.key().to_owned()),
    }
}
