//! Statements in thousands: every figure rounded from the exact one, and where the rounded figures no longer add up.

use super::statement::{Row, RowKind, RowName, Statement};

/// Where the rounded figures of the rows that a total adds up come to more or less than the rounded total.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct LeftOver {
    /// What the total is called.
    pub name: RowName,
    /// In which column.
    pub column: usize,
    /// By how many units of the rounding the rows above it come to more.
    pub by: i128,
}

/// An amount in whole multiples of a unit, rounded half away from zero.
pub fn rounded(amount: i128, unit: i128) -> i128 {
    (amount.abs() + unit / 2) / unit * amount.signum()
}

/// Where rounding to a unit leaves something over in a statement: in the total of a class, or in that of the whole.
pub fn left_over(statement: &Statement, unit: i128) -> Vec<LeftOver> {
    let mut found = Vec::new();
    for total in statement.rows.iter().filter(|row| row.kind == RowKind::Total) {
        let adds = |row: &&Row| match total.class {
            Some(_) => {
                row.class == total.class && matches!(row.kind, RowKind::Item | RowKind::Result)
            }
            None => row.class.is_some() && row.kind == RowKind::Total,
        };
        for (column, sum) in total.amounts.iter().enumerate() {
            let rows = statement.rows.iter().filter(adds);
            let of_rows: i128 = rows.map(|row| rounded(row.amounts[column], unit)).sum();
            let by = (of_rows - rounded(*sum, unit)) * i128::from(total.shown_as);
            if by != 0 {
                found.push(LeftOver { name: total.name.clone(), column, by });
            }
        }
    }
    found
}
