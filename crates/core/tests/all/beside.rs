//! Two readings row by row, and figures in thousands: nothing is lost between them, and what is left over is told.

use crate::books::railway;
use proptest::prelude::*;
use std::collections::BTreeSet;
use zf_core::chart::{Chart, Class};
use zf_core::ids::{AccountId, ItemId};
use zf_core::items::{ItemChange, ItemEdit, NamedOperand, NamedTerm, carry_out};
use zf_core::plan::Plan;
use zf_core::rehearsal::rehearse;
use zf_core::reports::beside::{Pair, accounts, rows};
use zf_core::reports::draw;
use zf_core::reports::reading::{Read, Reading};
use zf_core::reports::rounding::{left_over, rounded};
use zf_core::reports::statement::{Row, RowKind, RowName, Standing, Statement, StatementKind};
use zf_core::statement::{ItemKind, Operand, Structure, Term};
use zf_core::today::Today;
use zf_phrases::reports;

fn row(item: i64, amounts: Vec<i128>, standing: &BTreeSet<i64>) -> Row {
    let accounts = standing.iter().map(|id| Standing {
        account: AccountId(*id),
        code: format!("{}", 1000 + id),
        name: "Row".to_owned(),
        amounts: amounts.clone(),
    });
    Row {
        kind: RowKind::Item,
        level: 1,
        name: RowName::Own(format!("item {item}")),
        class: Some(Class::Expense),
        item: Some(ItemId(item)),
        shown_as: -1,
        ratios: Vec::new(),
        accounts: accounts.collect(),
        amounts,
    }
}

/// Some of a dozen items in their order, each with some accounts.
fn statement() -> impl Strategy<Value = Statement> {
    let standing = proptest::collection::btree_set(1..9i64, 0..5);
    let items = proptest::collection::btree_map(1..13i64, (-9_000..9_000i128, standing), 0..9);
    items.prop_map(|items| Statement {
        kind: StatementKind::IncomeStatement,
        rows: items.iter().map(|(item, (sum, of))| row(*item, vec![*sum], of)).collect(),
    })
}

proptest! {
    #[test]
    fn every_row_of_either_stands_once_and_in_its_order(one in statement(), other in statement()) {
        let pairs = rows(&one, &other);
        let of = |side: fn(&Pair<&Row>) -> Option<ItemId>| -> Vec<ItemId> {
            pairs.iter().filter_map(side).collect()
        };
        let items = |of: &Statement| -> Vec<ItemId> { of.rows.iter().filter_map(|r| r.item).collect() };
        prop_assert_eq!(of(|pair| pair.one?.item), items(&one));
        prop_assert_eq!(of(|pair| pair.other?.item), items(&other));
        for pair in &pairs {
            prop_assert!(pair.one.is_some() || pair.other.is_some());
            if let (Some(a), Some(b)) = (pair.one, pair.other) {
                prop_assert_eq!(a.item, b.item);
            }
            let joined = accounts(pair);
            let ids = |of: Option<&Row>| -> BTreeSet<AccountId> {
                of.into_iter().flat_map(|row| &row.accounts).map(|a| a.account).collect()
            };
            prop_assert_eq!(joined.len(), ids(pair.one).union(&ids(pair.other)).count());
        }
    }

    #[test]
    fn a_rounded_figure_is_off_by_half_a_unit_at_most(amount in -9_999_999..9_999_999i128, unit in 1..5_000i128) {
        let off = (rounded(amount, unit) * unit - amount).abs();
        prop_assert!(off * 2 <= unit);
        prop_assert_eq!(rounded(-amount, unit), -rounded(amount, unit));
    }

    /// What is told to be left over is exactly what rounded rows come to more than the rounded total.
    #[test]
    fn what_is_left_over_is_told(one in statement(), unit in 1..4_000i128) {
        let sum: i128 = one.rows.iter().map(|row| row.amounts[0]).sum();
        let total = Row { kind: RowKind::Total, item: None, ..row(0, vec![sum], &BTreeSet::new()) };
        let of_rows: i128 = one.rows.iter().map(|row| rounded(row.amounts[0], unit)).sum();
        let statement = Statement { rows: one.rows.into_iter().chain([total]).collect(), ..one };
        let told: i128 = left_over(&statement, unit).iter().map(|over| over.by).sum();
        prop_assert_eq!(told, -(of_rows - rounded(sum, unit)));
    }

    /// However the items of a class are added up and taken off again, what is left is the total of the class.
    #[test]
    fn a_subtotal_of_all_lines_is_the_total(extra in proptest::collection::vec(0..7usize, 0..6)) {
        let railway = railway();
        let of_class = |structure: &Structure| -> Vec<ItemId> {
            let items = structure.items().filter(|item| item.class == Class::Expense);
            items.filter(|item| item.kind == ItemKind::Item).map(|item| item.id).collect()
        };
        let items = of_class(railway.chart.structure());
        let term = |item: ItemId, taken_off| Term { of: Operand::Item(item), taken_off };
        let mut terms: Vec<Term> = items.iter().map(|item| term(*item, false)).collect();
        for n in extra {
            terms.extend([term(items[n], true), term(items[n], false)]);
        }
        let name = "All of it".to_owned();
        let add = ItemEdit::AddCalculated { class: Class::Expense, name, before: None, ratio: false, terms };
        let (structure, said) = carry_out(&[add], &railway.chart).unwrap();
        let named = NamedTerm { taken_off: false, of: NamedOperand::Item("cost of sales".to_owned()) };
        prop_assert!(
            matches!(&said[0], ItemChange::AddedCalculated { terms, .. } if terms.contains(&named)),
            "{said:?}"
        );
        let chart = Chart::under(structure, railway.chart.iter().cloned());
        let books = Today { chart, ..railway };
        let bare = rehearse(&books, &Plan::default());
        let columns = crate::statements::years(&books);
        let [_, income] = draw(&Read::new(&books, &bare, Reading::AsItIs, &columns));
        let of = |name: &str| income.rows.iter().find(|row| reports::row(&row.name) == name).unwrap();
        prop_assert_eq!(&of("All of it").amounts, &of("Total expenses").amounts);
        prop_assert_eq!(of("All of it").shown_as, of("Total expenses").shown_as);
    }
}
