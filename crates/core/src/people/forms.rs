//! How a person likes dates and numbers written on the screen. Files keep forms of their own.

use crate::keyed::keyed;

keyed! {
    /// How dates are written.
    DateForm {
        /// Day, name of the month, year.
        DayMonth = "day_month", "31 January 2026";
        /// Month before day.
        MonthDay = "month_day", "January 31, 2026";
        /// Numbers with points.
        Points = "points", "31.01.2026";
        /// ISO 8601.
        Iso = "iso", "2026-01-31";
    }
}

keyed! {
    /// How numbers are written.
    NumberForm {
        /// Commas between thousands, a point before decimals.
        CommaPoint = "comma_point", "1,234.56";
        /// The other way round.
        PointComma = "point_comma", "1.234,56";
        /// A narrow space between thousands (ISO 80000-1), a comma before decimals.
        SpaceComma = "space_comma", "1 234,56";
        /// An apostrophe between thousands.
        ApostrophePoint = "apostrophe_point", "1’234.56";
    }
}

/// The forms that a person has chosen.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct Forms {
    /// How dates are written.
    pub dates: DateForm,
    /// How numbers are written.
    pub numbers: NumberForm,
}

impl Forms {
    /// What is usual where nobody has chosen.
    pub const USUAL: Self = Self { dates: DateForm::DayMonth, numbers: NumberForm::CommaPoint };
}

impl Default for Forms {
    fn default() -> Self {
        Self::USUAL
    }
}
