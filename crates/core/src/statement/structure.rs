//! The tree of items that the statements of a set of books have.

use super::{Class, Section};
use crate::ids::ItemId;
use crate::keyed::keyed;
use serde::{Deserialize, Serialize};
use std::collections::HashSet;
use std::ops::Deref;
use std::sync::Arc;

keyed! {
    /// What an item of a statement is.
    ItemKind {
        /// A title over items.
        Heading = "heading", "heading";
        /// An item that accounts stand under.
        Item = "item", "item";
        /// What rows that one chooses come to, added and taken off: gross profit, net assets.
        Subtotal = "subtotal", "subtotal";
        /// What one row is of another: a margin.
        Ratio = "ratio", "ratio";
    }
}

impl ItemKind {
    /// Whether it is calculated from other rows.
    pub const fn is_calculated(self) -> bool {
        matches!(self, Self::Subtotal | Self::Ratio)
    }
}

/// A row that others are calculated from.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Operand {
    /// What a class adds up to.
    Class(Class),
    /// An item, what stands under a heading, or a subtotal.
    Item(ItemId),
}

/// A row, as one that is calculated takes it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Term {
    /// The row.
    pub of: Operand,
    /// Whether what a person reads there is taken off, not added.
    pub taken_off: bool,
}

/// An item of the books' own statements.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct StatementItem {
    /// Its identity.
    pub id: ItemId,
    /// The heading that it stands under.
    pub parent: Option<ItemId>,
    /// What it is.
    pub kind: ItemKind,
    /// The class of the accounts under it.
    pub class: Class,
    /// What it is called.
    pub name: String,
    /// Which of the standard item items it is, if it is one; rules are silent about others.
    pub standard: Option<Section>,
    /// Whether no account is put under it any more, or it is not calculated any more. Plans and proofs may still name it.
    pub retired: bool,
    /// The item on which accounts under it stand while their balance is on the other side: an overdraft among debts.
    pub other_side: Option<ItemId>,
    /// Of a subtotal, what it adds up; of a ratio, the part and the whole.
    pub terms: Vec<Term>,
}

/// An item as the accounts under it know it: their caption.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct Caption(Arc<StatementItem>);

impl Caption {
    /// The same item under another identity.
    pub(crate) fn renamed(&self, id: ItemId) -> Self {
        Self(Arc::new(StatementItem { id, ..StatementItem::clone(self) }))
    }
}

impl Deref for Caption {
    type Target = StatementItem;

    fn deref(&self) -> &StatementItem {
        &self.0
    }
}

/// The tree of items that the statements of a set of books have.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Structure {
    /// In their order.
    items: Vec<Caption>,
}

impl Default for Structure {
    fn default() -> Self {
        Self::standard((1..).map(ItemId))
    }
}

impl Structure {
    /// A structure of these items, in their order.
    pub fn new(items: impl IntoIterator<Item = StatementItem>) -> Self {
        Self { items: items.into_iter().map(|item| Caption(Arc::new(item))).collect() }
    }

    /// How many items the standard structure has.
    pub fn standard_size() -> usize {
        Self::default().items.len()
    }

    /// The standard item items, under a heading for each class: what a set of books begins with. An
    /// item that stands in two classes is two items. It has as many items as there are identities.
    pub fn standard(ids: impl IntoIterator<Item = ItemId>) -> Self {
        let mut ids = ids.into_iter();
        let mut items = Vec::new();
        for class in Class::ALL {
            let Some(heading) = ids.next() else { break };
            let item = |id, parent, kind, name: &str, standard| StatementItem {
                id,
                parent,
                kind,
                class: *class,
                name: name.to_owned(),
                standard,
                retired: false,
                other_side: None,
                terms: Vec::new(),
            };
            items.push(item(heading, None, ItemKind::Heading, class.title(), None));
            let own = Section::ALL.iter().filter(|section| section.classes().contains(class));
            items.extend(own.zip(&mut ids).map(|(section, id)| {
                item(id, Some(heading), ItemKind::Item, section.words(), Some(*section))
            }));
        }
        Self::new(items)
    }

    /// All items, in their order; retired ones too.
    pub fn items(&self) -> impl Iterator<Item = &StatementItem> {
        self.items.iter().map(|item| &**item)
    }

    /// The item with this identity, whatever it is.
    pub fn item(&self, id: ItemId) -> Option<&StatementItem> {
        self.items().find(|item| item.id == id)
    }

    /// The items that accounts can be put under, in their order.
    pub fn captions(&self) -> impl Iterator<Item = &StatementItem> {
        self.items().filter(|item| item.kind == ItemKind::Item && !item.retired)
    }

    /// Whether any item names another for balances on the other side.
    pub fn names_other_sides(&self) -> bool {
        self.items().any(|item| item.other_side.is_some())
    }

    /// Whether what an item is calculated from leads back to it.
    pub(crate) fn is_circle(&self, id: ItemId) -> bool {
        let mut seen = HashSet::new();
        let mut next = vec![id];
        while let Some(at) = next.pop() {
            for term in self.item(at).into_iter().flat_map(|item| &item.terms) {
                match term.of {
                    Operand::Item(of) if of == id => return true,
                    Operand::Item(of) if seen.insert(of) => next.push(of),
                    _ => {}
                }
            }
        }
        false
    }

    /// An identity that none of the items has, to begin counting from.
    pub fn next_id(&self) -> ItemId {
        ItemId(self.items().map(|item| item.id.0).max().unwrap_or(0) + 1)
    }

    /// Whether accounts can be put under the item with this identity.
    pub fn offers(&self, id: ItemId) -> bool {
        self.captions().any(|item| item.id == id)
    }

    /// The item with this identity, as the caption of an account.
    pub fn caption(&self, id: ItemId) -> Option<Caption> {
        let item = self.items.iter().find(|item| item.id == id && item.kind == ItemKind::Item);
        item.cloned()
    }

    /// The item that a standard item is in a class.
    pub fn of_standard(&self, class: Class, standard: Section) -> Option<Caption> {
        let fits = |item: &&Caption| item.class == class && item.standard == Some(standard);
        let fitting = self.items.iter().filter(|item| item.kind == ItemKind::Item).filter(fits);
        fitting.min_by_key(|item| item.retired).cloned()
    }
}
