//! Statement items, and what is asked to change them.

use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use zf_core::chart::Class;
use zf_core::ids::ItemId;
use zf_core::items::{ItemEdit, standing};
use zf_core::statement::{ItemKind, Section, StatementItem, Term};
use zf_core::today::Today;
use zf_core::trial_balance::balance;

/// The statement items of a set of books.
#[derive(Serialize, utoipa::ToSchema)]
pub struct StatementItemsView {
    pub classes: Vec<ItemsOfClassView>,
}

/// The items of a class, in their order.
#[derive(Serialize, utoipa::ToSchema)]
pub struct ItemsOfClassView {
    pub class: Class,
    /// What it is called over its items.
    pub title: &'static str,
    pub items: Vec<ItemView>,
}

/// An item that accounts stand under, or did, or that is calculated.
#[derive(Serialize, utoipa::ToSchema)]
pub struct ItemView {
    pub id: ItemId,
    pub kind: ItemKind,
    pub name: String,
    /// Which of the standard item items it is.
    pub standard: Option<Section>,
    pub retired: bool,
    /// How many accounts stand under it.
    pub accounts: usize,
    /// What they come to on the day of the books, income and expenses in its fiscal year; debits are positive.
    pub balance: String,
    /// The item on which accounts stand while their balance is on the other side.
    pub other_side: Option<ItemId>,
    /// Of a subtotal, what it adds up; of a ratio, the part and the whole.
    pub terms: Vec<Term>,
}

impl StatementItemsView {
    pub fn of(today: &Today) -> Self {
        let structure = today.chart.structure();
        let standing = standing(&today.chart);
        let mut balances: HashMap<ItemId, i128> = HashMap::new();
        for account in today.chart.live() {
            if let Some(item) = account.place().1 {
                *balances.entry(item).or_default() +=
                    balance(account, &today.figures_of(account.id));
            }
        }
        let item = |item: &StatementItem| ItemView {
            id: item.id,
            kind: item.kind,
            other_side: item.other_side,
            terms: item.terms.clone(),
            name: item.name.clone(),
            standard: item.standard,
            retired: item.retired,
            accounts: standing.get(&item.id).copied().unwrap_or(0),
            balance: today.currency.format(balances.get(&item.id).copied().unwrap_or(0)),
        };
        let of_class = |class: &Class| {
            let own =
                structure.items().filter(|l| l.class == *class && l.kind != ItemKind::Heading);
            ItemsOfClassView { class: *class, title: class.title(), items: own.map(item).collect() }
        };
        Self { classes: Class::ALL.iter().map(of_class).collect() }
    }
}

/// Changes of the items.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct ItemEditsForm {
    /// In the order in which they are done: all or none.
    pub edits: Vec<ItemEdit>,
}

/// A file with a list of items.
#[derive(utoipa::ToSchema)]
pub struct ItemListForm {
    #[schema(format = Binary)]
    pub file: String,
}

/// What a list of items asks for.
#[derive(Serialize, utoipa::ToSchema)]
pub struct ItemListView {
    /// What is done at once, in this order.
    pub edits: Vec<ItemEdit>,
    /// The same, in words.
    pub summary: Vec<String>,
    /// Items that are merged, which a plan stages.
    pub merges: Vec<ItemMerge>,
    /// Rows that cannot be followed.
    pub refused: Vec<RefusedRow>,
}

/// An item that is merged into another.
#[derive(Serialize, Deserialize, utoipa::ToSchema)]
pub struct ItemMerge {
    pub item: ItemId,
    pub into: ItemId,
}

/// A row of a list that cannot be followed.
#[derive(Serialize, utoipa::ToSchema)]
pub struct RefusedRow {
    pub row: u32,
    pub reason: String,
}

/// Items that are to be merged.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct ItemMerges {
    pub merges: Vec<ItemMerge>,
}
