//! What was changed of the statement items, with the names of then: for the trail, and before it is done.

use crate::ids::ItemId;
use crate::statement::{Class, Operand, Structure, Term};
use serde::{Deserialize, Serialize};

/// A change of a statement item.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[expect(missing_docs, reason = "a field is told by its name and type")]
pub enum ItemChange {
    /// It was added.
    Added { item: ItemName },
    /// It has another name.
    Renamed { item: ItemName, to: String },
    /// It stands elsewhere among those of its class.
    Moved { item: ItemName },
    /// It is offered no more.
    Retired { item: ItemName },
    /// It is offered again.
    Restored { item: ItemName },
    /// One that is calculated was added.
    AddedCalculated { item: ItemName, terms: Vec<NamedTerm> },
    /// It is calculated from other rows.
    Calculated { item: ItemName, terms: Vec<NamedTerm> },
    /// An account of it stands under another while its balance is of the other side; none when it stays.
    OtherSide { item: ItemName, other: Option<ItemName> },
}

/// A statement item by name.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct ItemName {
    /// What it is called.
    pub name: String,
    /// The class it is of.
    pub class: Class,
}

/// A row that is added up or taken off, by name.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct NamedTerm {
    /// Whether it is taken off.
    pub taken_off: bool,
    /// Which row.
    pub of: NamedOperand,
}

/// A row that others are calculated from, by name.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum NamedOperand {
    /// The total of a class.
    Class(Class),
    /// An item.
    Item(String),
}

/// The name of an item, if there is one.
pub(super) fn name(items: &Structure, id: ItemId) -> Option<ItemName> {
    let item = items.item(id)?;
    Some(ItemName { name: item.name.clone(), class: item.class })
}

/// The names of the rows that a row is calculated from, if there are all of them.
pub(super) fn names(items: &Structure, terms: &[Term]) -> Option<Vec<NamedTerm>> {
    let named = |term: &Term| {
        let of = match term.of {
            Operand::Class(class) => NamedOperand::Class(class),
            Operand::Item(id) => NamedOperand::Item(name(items, id)?.name),
        };
        Some(NamedTerm { taken_off: term.taken_off, of })
    };
    terms.iter().map(named).collect()
}
