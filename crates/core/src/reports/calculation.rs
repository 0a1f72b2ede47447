//! Subtotals and ratios that the books chose: what the rows that they name come to.

use super::reading::add_to;
use super::statement::{Row, RowKind, Statement, tenths};
use crate::statement::{Operand, StatementItem, Structure};
use std::collections::HashMap;

/// Fills in the subtotals and ratios of the statements. Rows are taken as a person reads them: costs on the income
/// statement are less than nothing there, debts on the balance sheet are not.
pub(super) fn calculate(statements: &mut [Statement; 2], structure: &Structure, columns: usize) {
    let mut figures = Figures { shown: HashMap::new(), structure, columns };
    for row in statements.iter().flat_map(|statement| &statement.rows) {
        let of = match (row.kind, row.class, row.item) {
            (RowKind::Total, Some(class), _) => Operand::Class(class),
            (RowKind::Item | RowKind::Heading, _, Some(item)) => Operand::Item(item),
            _ => continue,
        };
        let sign = i128::from(row.shown_as);
        figures.shown.insert(of, row.amounts.iter().map(|amount| amount * sign).collect());
    }
    for statement in statements {
        let sign = statement.kind.shown_as();
        for row in &mut statement.rows {
            figures.fill(row, sign);
        }
    }
}

/// What rows come to in each column, as a person reads them.
struct Figures<'a> {
    shown: HashMap<Operand, Vec<i128>>,
    structure: &'a Structure,
    columns: usize,
}

impl Figures<'_> {
    fn fill(&self, row: &mut Row, sign: i8) {
        let Some(item) = row.item.and_then(|item| self.structure.item(item)) else { return };
        match row.kind {
            RowKind::Subtotal => {
                let sums = self.subtotal(item);
                row.amounts = sums.into_iter().map(|sum| sum * i128::from(sign)).collect();
                row.shown_as = sign;
            }
            RowKind::Ratio => {
                if let [part, whole] = &*item.terms {
                    let (part, whole) = (self.of(part.of), self.of(whole.of));
                    row.ratios = part.iter().zip(whole).map(|(a, b)| tenths(*a, b)).collect();
                }
            }
            _ => {}
        }
    }

    fn subtotal(&self, item: &StatementItem) -> Vec<i128> {
        let mut sums = vec![0; self.columns];
        for term in &item.terms {
            let sign = if term.taken_off { -1 } else { 1 };
            let amounts: Vec<i128> = self.of(term.of).into_iter().map(|sum| sum * sign).collect();
            add_to(&mut sums, &amounts);
        }
        sums
    }

    /// What a row comes to. Nothing is added up of itself, which the structure does not allow.
    fn of(&self, operand: Operand) -> Vec<i128> {
        if let Some(shown) = self.shown.get(&operand) {
            return shown.clone();
        }
        let Operand::Item(id) = operand else { return vec![0; self.columns] };
        let item = self.structure.item(id);
        item.map_or_else(|| vec![0; self.columns], |item| self.subtotal(item))
    }
}
