//! Which months stand in the columns of a statement.

use crate::calendar::Period;
use crate::keyed::keyed;

keyed! {
    /// How much time a column holds, up to its last day.
    Span {
        /// The fiscal year.
        Year = "year", "fiscal year";
        /// The quarter of the fiscal year.
        Quarter = "quarter", "quarter";
        /// The month.
        Month = "month", "month";
        /// Twelve months.
        TwelveMonths = "twelve_months", "12 months";
    }
}

keyed! {
    /// Which times stand beside the latest.
    Beside {
        /// Those before it, one behind the other; of the fiscal year, whole ones.
        Before = "before", "those before";
        /// The same months of earlier years.
        EarlierYears = "earlier_years", "the same months of earlier years";
    }
}

/// How many columns a statement has at most.
pub const MOST: usize = 8;

/// The columns of a statement.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct Columns {
    /// The last month of the latest.
    pub last: Period,
    /// How much time each holds.
    pub span: Span,
    /// What stands beside the latest.
    pub beside: Beside,
    /// How many there are, up to [`MOST`]; fewer when nothing was posted so early.
    pub count: usize,
}

/// Months that follow each other.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct Months {
    /// The first.
    pub first: Period,
    /// The last.
    pub last: Period,
}

impl Months {
    /// Whether a month is one of them.
    pub fn contains(&self, period: Period) -> bool {
        self.first <= period && period <= self.last
    }

    /// How many they are.
    pub fn count(&self) -> i32 {
        self.last.0 - self.first.0 + 1
    }

    /// Whether they begin with a fiscal year and end within it, so that what was earned and spent in them is what the
    /// trial balance of their last day has.
    pub fn is_year_to_date(&self) -> bool {
        self.first == self.last.year_start()
    }
}

impl Columns {
    /// The months of each, the latest first. `first` is the first month in which anything was posted: none ends
    /// before it.
    pub fn months(&self, first: Option<Period>) -> Vec<Months> {
        let months = (0..).map(|n| self.column(n)).take(self.count.min(MOST));
        let mut months: Vec<Months> = months.collect();
        let with_lines = |months: &Months| first.is_some_and(|first| months.last >= first);
        // The latest is there even if nothing was ever posted.
        let kept = months.iter().skip(1).take_while(|months| with_lines(months)).count();
        months.truncate(1 + kept);
        months
    }

    fn column(&self, n: i32) -> Months {
        let last = self.last;
        // Each begins as many months after the one before it, and lasts as long when it is whole.
        let (first, months) = match self.span {
            Span::Year => (last.year_start(), 12),
            Span::Quarter => (quarter_start(last), 3),
            Span::Month => (last, 1),
            Span::TwelveMonths => (Period(last.0 - 11), 12),
        };
        let (whole, back) = match self.beside {
            Beside::EarlierYears => (last, 12 * n),
            Beside::Before if n == 0 => (last, 0),
            Beside::Before => (Period(first.0 + months - 1), months * n),
        };
        Months { first: Period(first.0 - back), last: Period(whole.0 - back) }
    }
}

/// The first month of the quarter of the fiscal year that a month belongs to.
fn quarter_start(period: Period) -> Period {
    let year = period.year_start();
    Period(year.0 + (period.0 - year.0) / 3 * 3)
}
