//! What people do to the items of the books' own statements: they add, rename, order, calculate and retire them.
//! Items are merged by putting the accounts of one under the other, which a plan stages.

mod change;
pub mod listed;

use crate::chart::Chart;
use crate::ids::{AccountId, ItemId};
use crate::plan::{Change, texts};
use crate::statement::{Class, ItemKind, Operand, StatementItem, Structure, Term};
use serde::{Deserialize, Serialize};
use std::collections::HashMap;

pub use change::{ItemChange, ItemName, NamedOperand, NamedTerm};

/// One change of the statement items.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "do", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum ItemEdit {
    /// Adds an item to a class.
    Add {
        /// The class.
        class: Class,
        /// What it is called.
        name: String,
        /// The item that it stands before; the last of its class without one.
        before: Option<ItemId>,
    },
    /// Gives an item another name. It stays the standard item item that it is.
    Rename {
        /// The item.
        item: ItemId,
        /// What it is to be called.
        name: String,
    },
    /// Puts an item elsewhere among those of its class.
    Move {
        /// The item.
        item: ItemId,
        /// The item that it stands before; the last of its class without one.
        before: Option<ItemId>,
    },
    /// No account is put under it any more.
    Retire {
        /// The item.
        item: ItemId,
    },
    /// Accounts are put under it again.
    Restore {
        /// The item.
        item: ItemId,
    },
    /// Adds a subtotal or a ratio among the items of a class.
    AddCalculated {
        /// The class among whose items it stands.
        class: Class,
        /// What it is called.
        name: String,
        /// The item that it stands before; below the total of its class without one.
        before: Option<ItemId>,
        /// Whether it is what one row is of another, not what rows add up to.
        ratio: bool,
        /// What a subtotal adds up; of a ratio, the part and the whole.
        terms: Vec<Term>,
    },
    /// Calculates a subtotal or a ratio from other rows.
    Calculate {
        /// The subtotal or ratio.
        item: ItemId,
        /// What it adds up; of a ratio, the part and the whole.
        terms: Vec<Term>,
    },
    /// Names the item on which accounts under an item stand while their balance is on the other side.
    NameOtherSide {
        /// The item.
        item: ItemId,
        /// The other; without one they stay.
        other: Option<ItemId>,
    },
}

/// Why an item cannot become that.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum NotAnItem {
    /// There is none with this identity that accounts can stand under.
    #[error("the statements have no such item")]
    Unknown,
    /// The name is none.
    #[error(transparent)]
    Name(#[from] texts::NotAText),
    /// Another item of the class has the name.
    #[error("“{0}” is there already under {class}", class = .1.title())]
    Taken(String, Class),
    /// The items are of different classes.
    #[error("“{0}” is of another class; an item stays among those of its class")]
    OtherClass(String),
    /// Accounts stand under it.
    #[error("“{name}” has accounts ({accounts}); merge it into another item first")]
    Used {
        /// What the item is called.
        name: String,
        /// How many accounts.
        accounts: usize,
    },
    /// It was to be calculated from rows that are none, or from a ratio.
    #[error(
        "“{0}” cannot be calculated from that: name items, classes or subtotals that are there"
    )]
    NotCalculated(String),
    /// It was to be calculated from itself.
    #[error("“{0}” would be calculated from itself")]
    Circle(String),
    /// A ratio is of two rows, a subtotal of one at least and not too many.
    #[error("a ratio is of two rows, and a subtotal of 1 to {MOST_TERMS}")]
    Terms,
    /// Only balances have another side.
    #[error("“{0}” and the other item must stand on the balance sheet, and be two")]
    NoOtherSide(String),
    /// It was to be merged into itself.
    #[error("an item is not merged into itself")]
    Itself,
    /// Nothing stands under an item that was to be merged.
    #[error("“{0}” has no accounts, so there is nothing to merge; retire it")]
    Empty(String),
}

/// How many rows a subtotal adds up at most.
pub const MOST_TERMS: usize = 50;

impl ItemEdit {
    /// What it does, named by the items before it.
    fn change(&self, items: &Structure) -> Option<ItemChange> {
        let named = |id: ItemId| change::name(items, id);
        Some(match self {
            Self::Add { class, name, .. } => {
                ItemChange::Added { item: ItemName { name: name.clone(), class: *class } }
            }
            Self::Rename { item, name } => {
                ItemChange::Renamed { item: named(*item)?, to: name.clone() }
            }
            Self::Move { item, .. } => ItemChange::Moved { item: named(*item)? },
            Self::Retire { item } => ItemChange::Retired { item: named(*item)? },
            Self::Restore { item } => ItemChange::Restored { item: named(*item)? },
            Self::AddCalculated { class, name, terms, .. } => ItemChange::AddedCalculated {
                item: ItemName { name: name.clone(), class: *class },
                terms: change::names(items, terms)?,
            },
            Self::Calculate { item, terms } => {
                ItemChange::Calculated { item: named(*item)?, terms: change::names(items, terms)? }
            }
            Self::NameOtherSide { item, other } => ItemChange::OtherSide {
                item: named(*item)?,
                other: match other {
                    Some(other) => Some(named(*other)?),
                    None => None,
                },
            },
        })
    }

    /// The items as it leaves them; an added one has the identity [`Structure::next_id`]. `used` says how
    /// many accounts stand under an item.
    ///
    /// # Errors
    /// When there is no such item, the name is none or taken, or accounts stand under an item that is to be
    /// retired.
    pub fn carry_out(
        &self,
        structure: &Structure,
        used: impl Fn(ItemId) -> usize,
    ) -> Result<Structure, NotAnItem> {
        let mut items: Vec<StatementItem> = structure.items().cloned().collect();
        match self {
            Self::Add { class, name, before } => {
                let name = free_name(structure, *class, name, None)?;
                let heading = |item: &&StatementItem| {
                    item.class == *class && item.kind == ItemKind::Heading && item.parent.is_none()
                };
                let parent = structure.items().find(heading).map(|heading| heading.id);
                let item = StatementItem {
                    id: structure.next_id(),
                    parent,
                    kind: ItemKind::Item,
                    class: *class,
                    name,
                    standard: None,
                    retired: false,
                    other_side: None,
                    terms: Vec::new(),
                };
                put(&mut items, item, *before)?;
            }
            Self::AddCalculated { class, name, before, ratio, terms } => {
                let item = StatementItem {
                    id: structure.next_id(),
                    parent: None,
                    kind: if *ratio { ItemKind::Ratio } else { ItemKind::Subtotal },
                    class: *class,
                    name: free_name(structure, *class, name, None)?,
                    standard: None,
                    retired: false,
                    other_side: None,
                    terms: terms.clone(),
                };
                put(&mut items, item, *before)?;
                return calculated(items, structure.next_id());
            }
            Self::Calculate { item, terms } => {
                let at = at(&items, *item)?;
                if !items[at].kind.is_calculated() {
                    return Err(NotAnItem::Unknown);
                }
                items[at].terms.clone_from(terms);
                return calculated(items, *item);
            }
            Self::NameOtherSide { item, other } => {
                let at = at(&items, *item)?;
                let own = &items[at];
                let is_balance = |item: &StatementItem| item.class.on_balance_sheet();
                let fits = |other: &StatementItem| other.id != own.id && is_balance(other);
                let other = match other {
                    Some(id) => Some(structure.caption(*id).ok_or(NotAnItem::Unknown)?),
                    None => None,
                };
                let is_item = own.kind == ItemKind::Item && is_balance(own);
                if !is_item || !other.as_ref().is_none_or(|other| fits(other)) {
                    return Err(NotAnItem::NoOtherSide(own.name.clone()));
                }
                items[at].other_side = other.map(|other| other.id);
            }
            Self::Rename { item, name } => {
                let at = at(&items, *item)?;
                items[at].name = free_name(structure, items[at].class, name, Some(*item))?;
            }
            Self::Move { item, before } => {
                let at = at(&items, *item)?;
                if *before != Some(*item) {
                    let item = items.remove(at);
                    put(&mut items, item, *before)?;
                }
            }
            Self::Retire { item } => {
                let at = at(&items, *item)?;
                let accounts = used(*item);
                if accounts > 0 {
                    return Err(NotAnItem::Used { name: items[at].name.clone(), accounts });
                }
                items[at].retired = true;
            }
            Self::Restore { item } => {
                let at = at(&items, *item)?;
                free_name(structure, items[at].class, &items[at].name, Some(*item))?;
                items[at].retired = false;
            }
        }
        Ok(Structure::new(items))
    }
}

/// The items with one that is calculated, when it can be.
fn calculated(items: Vec<StatementItem>, id: ItemId) -> Result<Structure, NotAnItem> {
    let structure = Structure::new(items);
    let item = structure.item(id).ok_or(NotAnItem::Unknown)?;
    let can_be = |of: Operand| match of {
        Operand::Class(_) => true,
        Operand::Item(id) => {
            structure.item(id).is_some_and(|item| item.kind != ItemKind::Ratio && !item.retired)
        }
    };
    let fits = match item.kind {
        ItemKind::Ratio => item.terms.len() == 2,
        _ => (1..=MOST_TERMS).contains(&item.terms.len()),
    };
    if !fits {
        return Err(NotAnItem::Terms);
    }
    if structure.is_circle(id) {
        return Err(NotAnItem::Circle(item.name.clone()));
    }
    if !item.terms.iter().all(|term| can_be(term.of)) {
        return Err(NotAnItem::NotCalculated(item.name.clone()));
    }
    Ok(structure)
}

/// How many accounts stand under each item.
pub fn standing(chart: &Chart) -> HashMap<ItemId, usize> {
    let mut standing = HashMap::new();
    for item in chart.live().filter_map(|account| account.place().1) {
        *standing.entry(item).or_default() += 1;
    }
    standing
}

/// The items of a chart as changes leave them, one after another, with what each did. An added item has
/// the identity [`Structure::next_id`] of the items before it.
///
/// # Errors
/// When one of them cannot be carried out.
pub fn carry_out(
    edits: &[ItemEdit],
    chart: &Chart,
) -> Result<(Structure, Vec<ItemChange>), NotAnItem> {
    let standing = standing(chart);
    let used = |item| standing.get(&item).copied().unwrap_or(0);
    let begin = (Structure::clone(chart.structure()), Vec::new());
    edits.iter().try_fold(begin, |(items, mut done), edit| {
        let after = edit.carry_out(&items, used)?;
        done.push(edit.change(&items).ok_or(NotAnItem::Unknown)?);
        Ok((after, done))
    })
}

/// A name that no other item of the class has that accounts can be put under.
fn free_name(
    structure: &Structure,
    class: Class,
    name: &str,
    but: Option<ItemId>,
) -> Result<String, NotAnItem> {
    let name = texts::name(name)?;
    let same = |item: &StatementItem| {
        item.class == class
            && item.kind != ItemKind::Heading
            && Some(item.id) != but
            && item.name.to_lowercase() == name.to_lowercase()
    };
    match structure.items().filter(|item| !item.retired).find(|item| same(item)) {
        Some(item) => Err(NotAnItem::Taken(item.name.clone(), class)),
        None => Ok(name),
    }
}

fn at(items: &[StatementItem], item: ItemId) -> Result<usize, NotAnItem> {
    let found = items.iter().position(|own| own.id == item && own.kind != ItemKind::Heading);
    found.ok_or(NotAnItem::Unknown)
}

/// Puts an item before another of its class, or behind the last of it: what is calculated at its end stays there.
fn put(
    items: &mut Vec<StatementItem>,
    item: StatementItem,
    before: Option<ItemId>,
) -> Result<(), NotAnItem> {
    let place = match before {
        Some(before) => {
            let place = at(items, before)?;
            if items[place].class != item.class {
                return Err(NotAnItem::OtherClass(items[place].name.clone()));
            }
            place
        }
        None => {
            let goes_before = |own: &StatementItem| {
                own.class == item.class && (item.kind.is_calculated() || !own.kind.is_calculated())
            };
            let last = items.iter().rposition(goes_before);
            last.map_or(items.len(), |last| last + 1)
        }
    };
    items.insert(place, item);
    Ok(())
}

/// What a plan stages to merge an item into another of its class: each account of `chart` under the one
/// comes to stand under the other. The empty item is retired when the plan was applied.
///
/// # Errors
/// When there is no such item, the classes differ, or no account stands under the item.
pub fn merged(
    chart: &Chart,
    from: ItemId,
    into: ItemId,
) -> Result<Vec<(AccountId, Change)>, NotAnItem> {
    let items = chart.structure();
    let item = items.caption(from).ok_or(NotAnItem::Unknown)?;
    let survivor = items.captions().find(|item| item.id == into).ok_or(NotAnItem::Unknown)?;
    if from == into {
        return Err(NotAnItem::Itself);
    }
    if item.class != survivor.class {
        return Err(NotAnItem::OtherClass(survivor.name.clone()));
    }
    let under = chart.live().filter(|account| account.place().1 == Some(from));
    let changes: Vec<_> = under.map(|account| (account.id, Change::Caption(Some(into)))).collect();
    if changes.is_empty() { Err(NotAnItem::Empty(item.name.clone())) } else { Ok(changes) }
}
