//! What people do to the statement items, and what a list of them asks for.

use crate::books::railway;
use proptest::prelude::*;
use std::collections::BTreeSet;
use zf_core::chart::{Chart, Class};
use zf_core::ids::ItemId;
use zf_core::items::listed::{ListRequest, Listed, asked};
use zf_core::items::{ItemEdit, NotAnItem, carry_out, merged, standing};
use zf_core::plan::Change;
use zf_core::statement::{ItemKind, Operand, StatementItem, Structure, Term};

/// The items of a chart that accounts can stand under or did, with class and name.
fn named(structure: &Structure) -> Vec<(Class, String)> {
    let own = structure.items().filter(|item| item.kind == ItemKind::Item);
    own.map(|item| (item.class, item.name.clone())).collect()
}

fn ids(structure: &Structure) -> BTreeSet<ItemId> {
    structure.items().map(|item| item.id).collect()
}

fn item(chart: &Chart, name: &str) -> ItemId {
    let found = chart.structure().items().find(|item| item.name == name);
    found.unwrap().id
}

/// Any edit of an item that is there, or of a new one.
fn edit(items: Vec<ItemId>) -> impl Strategy<Value = ItemEdit> {
    let item = prop::sample::select(items.clone());
    let before = prop::option::of(prop::sample::select(items.clone()));
    let name = "[A-Z][a-z]{2,8}";
    let class = prop::sample::select(Class::ALL.to_vec());
    let of = prop::sample::select(items);
    let term = (of, any::<bool>(), any::<bool>()).prop_map(|(item, taken_off, whole)| Term {
        of: if whole { Operand::Class(Class::Asset) } else { Operand::Item(item) },
        taken_off,
    });
    let terms = prop::collection::vec(term, 1..3);
    let any = (0..8, item, before, name, class, terms);
    any.prop_map(|(what, item, before, name, class, terms)| match what {
        0 => ItemEdit::Add { class, name, before },
        1 => ItemEdit::Rename { item, name },
        2 => ItemEdit::Move { item, before },
        3 => ItemEdit::Retire { item },
        4 => ItemEdit::AddCalculated { class, name, before, ratio: terms.len() == 2, terms },
        5 => ItemEdit::Calculate { item, terms },
        6 => ItemEdit::NameOtherSide { item, other: before },
        _ => ItemEdit::Restore { item },
    })
}

fn edits() -> impl Strategy<Value = Vec<ItemEdit>> {
    let chart = railway().chart;
    let mut items: Vec<_> = chart.structure().captions().map(|item| item.id).collect();
    // Some that are added before they are named.
    items.extend((0..3).map(|n| ItemId(chart.structure().next_id().0 + n)));
    prop::collection::vec(edit(items), 1..12)
}

/// Whether all that an item is calculated from ends with items and classes.
fn leads_to_items(structure: &Structure, item: &StatementItem) -> bool {
    let mut next: Vec<(&StatementItem, usize)> = vec![(item, 0)];
    while let Some((item, depth)) = next.pop() {
        for term in &item.terms {
            let Operand::Item(id) = term.of else { continue };
            let Some(of) = structure.items().find(|item| item.id == id) else { return false };
            if depth > structure.items().count() {
                return false;
            }
            next.push((of, depth + 1));
        }
    }
    true
}

proptest! {
    #[test]
    fn no_line_is_ever_lost_and_none_with_accounts_is_retired(edits in edits()) {
        let chart = railway().chart;
        let standing = standing(&chart);
        let mut items = Structure::clone(chart.structure());
        for edit in &edits {
            let used = |item| standing.get(&item).copied().unwrap_or(0);
            let Ok(after) = edit.carry_out(&items, used) else { continue };
            prop_assert!(ids(&items).is_subset(&ids(&after)));
            let more = usize::from(matches!(edit, ItemEdit::Add { .. } | ItemEdit::AddCalculated { .. }));
            prop_assert_eq!(ids(&after).len(), ids(&items).len() + more);
            // Items of a class stay together, in the order of the classes.
            let classes: Vec<Class> = after.items().map(|item| item.class).collect();
            prop_assert!(classes.is_sorted());
            // Of the items of a class that accounts can be put under no two are called the same.
            let open: Vec<_> = after.captions().map(|l| (l.class, l.name.to_lowercase())).collect();
            prop_assert_eq!(open.iter().collect::<BTreeSet<_>>().len(), open.len());
            // What is calculated leads to items that are there, and never back to itself.
            prop_assert!(after.items().all(|item| leads_to_items(&after, item)));
            let gone = |item: &StatementItem| item.retired && standing.contains_key(&item.id);
            prop_assert!(!after.items().any(gone));
            items = after;
        }
    }

    #[test]
    fn a_list_in_any_order_is_what_the_items_become(seed in any::<u64>(), new in "[A-Z][a-z]{9}") {
        let chart = railway().chart;
        let mut list = named(chart.structure());
        list.push((Class::Expense, new));
        // A shuffle that a seed tells.
        list.sort_by_key(|(class, name)| {
            name.bytes().fold(seed ^ (*class as u64), |hash, b| hash.wrapping_mul(31) ^ u64::from(b))
        });
        let rows: Vec<Listed> = list
            .iter()
            .map(|(class, name)| Listed {
                class: *class, name: name.clone(), new_name: None, retired: None,
            })
            .collect();
        let ListRequest { edits, merges, refused } = asked(&rows, &chart);
        prop_assert!(merges.is_empty() && refused.is_empty());
        let (after, said) = carry_out(&edits, &chart).unwrap();
        prop_assert_eq!(said.len(), edits.len());
        list.sort_by_key(|(class, _)| *class);
        prop_assert_eq!(named(&after), list);
        // What is that way already asks for nothing.
        let same = Chart::under(after, chart.iter().cloned());
        prop_assert!(asked(&rows, &same).edits.is_empty());
    }
}

#[test]
fn a_list_renames_merges_and_retires() {
    let chart = railway().chart;
    let row = |name: &str, new_name: Option<&str>, retired| Listed {
        class: Class::Asset,
        name: name.to_owned(),
        new_name: new_name.map(str::to_owned),
        retired,
    };
    let list = [
        row("cash and cash equivalents", None, Some(true)),
        row("cash and cash equivalents", Some("Cash"), None),
        row("inventories", Some("prepayments"), None),
        row("intangible assets", None, Some(true)),
    ];
    let asked = asked(&list, &chart);
    let item = |name| item(&chart, name);
    assert_eq!(
        asked.edits,
        [
            ItemEdit::Rename { item: item("cash and cash equivalents"), name: "Cash".to_owned() },
            ItemEdit::Retire { item: item("intangible assets") },
        ]
    );
    assert_eq!(asked.merges, [(item("inventories"), item("prepayments"))]);
    let name = "cash and cash equivalents".to_owned();
    let accounts = standing(&chart)[&item(&name)];
    assert_eq!(asked.refused, [(0, NotAnItem::Used { name, accounts })]);
}

#[test]
fn a_merge_puts_each_account_under_the_other_item() {
    let chart = railway().chart;
    let (from, into) = (item(&chart, "cash and cash equivalents"), item(&chart, "inventories"));
    let changes = merged(&chart, from, into).unwrap();
    assert_eq!(changes.len(), standing(&chart)[&from]);
    for (account, change) in changes {
        assert_eq!(chart.get(account).unwrap().place().1, Some(from));
        assert_eq!(change, Change::Caption(Some(into)));
    }
    assert_eq!(merged(&chart, from, from), Err(NotAnItem::Itself));
    let foreign = item(&chart, "revenue");
    assert!(matches!(merged(&chart, from, foreign), Err(NotAnItem::OtherClass(_))));
    let empty = item(&chart, "intangible assets");
    assert!(matches!(merged(&chart, empty, into), Err(NotAnItem::Empty(_))));
    assert_eq!(merged(&chart, ItemId(-1), into), Err(NotAnItem::Unknown));
}
