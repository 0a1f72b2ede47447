//! A list of items, as a file has it: what has to be done so that the books' own become as it says. What the
//! list does not name stays.

use super::{ItemEdit, NotAnItem, standing};
use crate::chart::Chart;
use crate::ids::ItemId;
use crate::statement::{Class, ItemKind, Structure};

/// A row of a list.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Listed {
    /// The class.
    pub class: Class,
    /// What the item is called; one that is not there is added.
    pub name: String,
    /// What it is to be called. The name of another item merges it into that.
    pub new_name: Option<String>,
    /// Whether no account is to be put under it any more; as it is without a word.
    pub retired: Option<bool>,
}

/// What a list asks for.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct ListRequest {
    /// What is done at once, in this order.
    pub edits: Vec<ItemEdit>,
    /// Items with those that they are merged into, which a plan stages.
    pub merges: Vec<(ItemId, ItemId)>,
    /// Rows that cannot be followed, by their place in the list, with the reason.
    pub refused: Vec<(usize, NotAnItem)>,
}

/// What a list asks for of the items of a chart.
pub fn asked(list: &[Listed], chart: &Chart) -> ListRequest {
    let standing = standing(chart);
    let mut work = Work {
        items: Structure::clone(chart.structure()),
        used: |item| standing.get(&item).copied().unwrap_or(0),
        asked: ListRequest::default(),
    };
    let mut order = Vec::new();
    for (row, listed) in list.iter().enumerate() {
        match work.follow(listed) {
            Ok(item) => order.extend(item.map(|item| (listed.class, item))),
            Err(why) => work.asked.refused.push((row, why)),
        }
    }
    for class in Class::ALL {
        let own = order.iter().filter(|(of, _)| of == class).map(|(_, item)| *item);
        work.put_in_order(*class, &own.collect::<Vec<_>>());
    }
    work.asked
}

/// The items while a list is followed.
struct Work<U> {
    items: Structure,
    used: U,
    asked: ListRequest,
}

impl<U: Fn(ItemId) -> usize> Work<U> {
    fn find(&self, class: Class, name: &str) -> Option<ItemId> {
        let name = name.to_lowercase();
        let own = self.items.items().filter(|item| {
            item.kind == ItemKind::Item && item.class == class && item.name.to_lowercase() == name
        });
        own.min_by_key(|item| item.retired).map(|item| item.id)
    }

    fn carry_out(&mut self, edit: ItemEdit) -> Result<(), NotAnItem> {
        self.items = edit.carry_out(&self.items, &self.used)?;
        self.asked.edits.push(edit);
        Ok(())
    }

    /// Follows a row, and answers the item that it leaves.
    fn follow(&mut self, listed: &Listed) -> Result<Option<ItemId>, NotAnItem> {
        let Listed { class, name, new_name, retired } = listed;
        let new_name = new_name.as_ref().filter(|new| *new != name);
        let Some(item) = self.find(*class, name) else {
            let id = self.items.next_id();
            let name = new_name.unwrap_or(name).clone();
            self.carry_out(ItemEdit::Add { class: *class, name, before: None })?;
            return Ok(Some(id));
        };
        if let Some(new_name) = new_name {
            match self.find(*class, new_name).filter(|other| *other != item) {
                Some(into) => {
                    self.asked.merges.push((item, into));
                    return Ok(None);
                }
                None => self.carry_out(ItemEdit::Rename { item, name: new_name.clone() })?,
            }
        }
        match (*retired, self.items.offers(item)) {
            (Some(true), true) => self.carry_out(ItemEdit::Retire { item })?,
            (Some(false), false) => self.carry_out(ItemEdit::Restore { item })?,
            _ => {}
        }
        Ok(Some(item))
    }

    /// Puts the items of a class in the order of the list, behind those that it does not name.
    fn put_in_order(&mut self, class: Class, order: &[ItemId]) {
        let now: Vec<ItemId> = self.items.items().map(|item| item.id).collect();
        let place = |item: &ItemId| now.iter().position(|own| own == item);
        if order.is_sorted_by_key(place) {
            return;
        }
        for item in order {
            let own = self.items.items().filter(|own| own.class == class);
            let last = own.filter(|own| !own.kind.is_calculated()).last();
            if last.is_some_and(|last| last.id == *item) {
                continue;
            }
            let edit = ItemEdit::Move { item: *item, before: None };
            if let Err(why) = self.carry_out(edit) {
                debug_assert!(false, "an item of the list cannot be moved: {why}");
            }
        }
    }
}
