//! What of a list is other than it was, for whoever has the list as it was.

use std::collections::{HashMap, HashSet};
use std::hash::Hash;

/// How to make one list of another: first what is removed is left out, then each item is placed,
/// in this order.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Changed<K, T> {
    /// The keys of what is removed or other than it was.
    pub removed: Vec<K>,
    /// What is new or other than it was, with its place in the list as it is now.
    pub placed: Vec<(usize, T)>,
}

impl<K: Eq + Hash + Clone, T: PartialEq + Clone> Changed<K, T> {
    /// What is other in `after` than in `before`; `key` tells items apart. Where it does not, or where
    /// those that stay stand in another order, all is placed anew.
    pub fn between(before: &[T], after: &[T], key: impl Fn(&T) -> K) -> Self {
        let were: HashMap<K, &T> = before.iter().map(|item| (key(item), item)).collect();
        let are: HashMap<K, &T> = after.iter().map(|item| (key(item), item)).collect();
        let stays = |item: &T| {
            let key = key(item);
            were.get(&key).zip(are.get(&key)).is_some_and(|(was, is)| was == is)
        };
        let staying =
            |list: &[T]| list.iter().filter(|item| stays(item)).map(&key).collect::<Vec<_>>();
        let told_apart = were.len() == before.len() && are.len() == after.len();
        if !told_apart || staying(before) != staying(after) {
            let removed: HashSet<K> = before.iter().map(&key).collect();
            let placed = after.iter().cloned().enumerate().collect();
            return Self { removed: removed.into_iter().collect(), placed };
        }
        let removed = before.iter().filter(|item| !stays(item)).map(&key).collect();
        let placed = after.iter().enumerate().filter(|(_, item)| !stays(item));
        Self { removed, placed: placed.map(|(at, item)| (at, item.clone())).collect() }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// As whoever has the list does it.
    fn made(before: &[(u8, u8)], changed: &Changed<u8, (u8, u8)>) -> Vec<(u8, u8)> {
        let mut list: Vec<_> =
            before.iter().filter(|item| !changed.removed.contains(&item.0)).copied().collect();
        changed.placed.iter().for_each(|(at, item)| list.insert(*at, *item));
        list
    }

    proptest! {
        #[test]
        fn one_list_is_made_of_the_other(
            before in prop::collection::vec((0u8..12, 0u8..2), 0..9),
            after in prop::collection::vec((0u8..12, 0u8..2), 0..9),
        ) {
            let changed = Changed::between(&before, &after, |item| item.0);
            prop_assert_eq!(made(&before, &changed), after);
        }

        #[test]
        fn what_stays_is_not_told(items in prop::collection::btree_set(0u8..200, 1..20), at in 0usize..20) {
            let before: Vec<(u8, u8)> = items.iter().map(|key| (*key, 0)).collect();
            let mut after = before.clone();
            let at = at % after.len();
            after[at].1 = 1;
            let changed = Changed::between(&before, &after, |item| item.0);
            prop_assert_eq!(changed, Changed { removed: vec![before[at].0], placed: vec![(at, after[at])] });
        }
    }
}
