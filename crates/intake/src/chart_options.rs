//! How a chart that is imported is taken, where a file can be taken in more than one way and neither
//! is wrong.

use serde::{Deserialize, Serialize};
use zf_core::keyed;

keyed! {
    /// What becomes of rows of totals that have no code.
    TotalsAs {
        /// They are left out, compared with what they add up.
        LeftOut = "left_out", "left out";
        /// Sum lines with a proposed code.
        SumLines = "sum_lines", "sum lines";
    }
}

keyed! {
    /// How codes are proposed for accounts that have none.
    CodesBy {
        /// In the block of their class, in the order of the file.
        Class = "class", "a block a class";
        /// The same, and what stands under a heading begins with a round number.
        Heading = "heading", "a round number a heading";
        /// One after the other, whatever they are.
        Order = "order", "one after the other";
    }
}

// The fields stand in the order of the alphabet, so that what is written of them is the same however maps
// are kept in order.
/// How a chart is taken.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct ChartOptions {
    /// How many digits proposed codes have; as few as have room when missing.
    #[cfg_attr(feature = "schema", schema(required))]
    pub code_digits: Option<u8>,
    /// How codes are proposed.
    #[cfg_attr(feature = "schema", schema(required))]
    pub codes_by: CodesBy,
    /// That accounts take the control roles that their names tell.
    #[cfg_attr(feature = "schema", schema(required))]
    pub roles: bool,
    /// What becomes of totals.
    #[cfg_attr(feature = "schema", schema(required))]
    pub totals: TotalsAs,
}

impl ChartOptions {
    /// How many digits can be wished.
    pub const DIGITS: std::ops::RangeInclusive<u8> = 3..=12;
}

impl Default for ChartOptions {
    fn default() -> Self {
        Self {
            code_digits: None,
            codes_by: CodesBy::Class,
            roles: false,
            totals: TotalsAs::LeftOut,
        }
    }
}
