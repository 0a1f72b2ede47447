//! Files that have months or periods in place of days. What day one stands for is asked.

use crate::cause::Cause;
use crate::columns::Column;
use crate::layout::Layout;
use crate::period_text::{PeriodsAs, When, said, taken_apart};
use crate::question::{About, Answer, Asks, Gives, Means, Question};
use crate::reading::Reading;
use crate::rows::Rows;
use crate::{RawRow, Rejected};
use time::Date;
use zf_core::calendar::FiscalCalendar;

/// Whether a file has periods where others have days.
pub(crate) fn stand_for_days(layout: &Layout) -> bool {
    let has = |column| layout.place(column).is_some();
    has(Column::Period) && !has(Column::Date)
}

/// When a row was, as far as it says so.
pub(crate) fn when(reading: &Reading, row: &RawRow) -> Option<When> {
    if !stand_for_days(&reading.layout) {
        return reading.date(row).ok().map(When::Day);
    }
    let cell = |field| reading.layout.cell(row, field);
    said(cell(Column::Period), cell(Column::Year))
}

/// The day that a row stands for.
///
/// # Errors
/// When its period is none, or has no year.
pub(crate) fn day(
    reading: &Reading,
    row: &RawRow,
    calendar: FiscalCalendar,
) -> Result<Date, Rejected> {
    let cell = |field| reading.layout.cell(row, field);
    let text = cell(Column::Period);
    let said = said(text, cell(Column::Year)).ok_or_else(|| {
        let own = text.to_owned();
        let cause = match (text, taken_apart(text)) {
            ("", _) => Cause::PeriodMissing,
            (_, (_, numbers)) if numbers.len() == 1 && cell(Column::Year).is_empty() => {
                Cause::PeriodWithoutYear { text: own }
            }
            _ => Cause::PeriodUnreadable { text: own },
        };
        reading.layout.reject(row, Column::Period, cause)
    })?;
    Ok(said.day(read_as(reading, calendar, said), calendar))
}

/// How a period is read: as somebody said, or as is more likely.
fn read_as(reading: &Reading, calendar: FiscalCalendar, said: When) -> PeriodsAs {
    let likely = || match said {
        When::Number { fiscal: true, .. } if calendar.month() != 1 => PeriodsAs::YearEnding,
        _ => PeriodsAs::MonthEnd,
    };
    reading
        .answers
        .get(&About::Periods)
        .and_then(|key| PeriodsAs::from_key(key))
        .unwrap_or_else(likely)
}

/// Asks which days periods stand for, unless somebody has said so.
pub(crate) fn question(
    reading: &Reading,
    rows: &dyn Rows,
    calendar: FiscalCalendar,
) -> Option<Question> {
    if !stand_for_days(&reading.layout) || reading.answers.contains_key(&About::Periods) {
        return None;
    }
    let cell = |row: &RawRow, field| reading.layout.cell(row, field).to_owned();
    let periods = reading.layout.walk_body(rows).filter_map(|row| {
        let text = cell(&row, Column::Period);
        let said = said(&text, &cell(&row, Column::Year))?;
        (!matches!(said, When::Day(_))).then_some((text, said))
    });
    let mut periods = periods.peekable();
    let (text, first) = periods.peek().cloned()?;
    let gives = |how: PeriodsAs| Gives::Day(first.day(how, calendar), Some(text.clone()));
    // The name of a month tells which one, and where years begin with January either is the same.
    let fiscal = matches!(first, When::Number { .. }) && calendar.month() != 1;
    let of_year = |how: &PeriodsAs| matches!(how, PeriodsAs::YearEnding | PeriodsAs::YearStarting);
    let readings = PeriodsAs::ALL.iter().filter(|how| fiscal || !of_year(how));
    Some(Question {
        about: About::Periods,
        asks: Asks::Periods(periods.count()),
        readings: readings
            .map(|how| Answer::new(how.key(), Means::Periods(*how), gives(*how)))
            .collect(),
        default: Some(read_as(reading, calendar, first).key().to_owned()),
    })
}
