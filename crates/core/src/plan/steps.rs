//! The steps in which somebody edited a plan: which of them undo takes back next, and which redo brings again.

/// A revision of a plan that somebody made by edits.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Step {
    /// The revision that it made.
    pub revision: i64,
    /// The revision whose edits it reversed, if it was an undo or a redo.
    pub reverses: Option<i64>,
}

/// Where to go from the steps that somebody made: back, or forward again.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Way {
    /// Undo.
    Back,
    /// Redo of what was undone last.
    Again,
}

/// What somebody can undo and redo in a plan, the latest last. Each is the revision to be reversed. An edit
/// that is none of these ways forgets what could be redone.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Steps {
    back: Vec<i64>,
    again: Vec<i64>,
}

impl FromIterator<Step> for Steps {
    /// Collects the steps of one person, in the order of their revisions.
    fn from_iter<T: IntoIterator<Item = Step>>(steps: T) -> Self {
        let mut all = Self::default();
        for Step { revision, reverses } in steps {
            if reverses.is_some() && all.back.last() == reverses.as_ref() {
                all.back.pop();
                all.again.push(revision);
            } else if reverses.is_some() && all.again.last() == reverses.as_ref() {
                all.again.pop();
                all.back.push(revision);
            } else {
                all.back.push(revision);
                all.again.clear();
            }
        }
        all
    }
}

impl Steps {
    /// The revision that is reversed next, if there is one.
    pub fn next(&self, way: Way) -> Option<i64> {
        let steps = match way {
            Way::Back => &self.back,
            Way::Again => &self.again,
        };
        steps.last().copied()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// What is on the paper when each edit writes its own revision at the end, undo rubs out the last, and redo
    /// writes again what was rubbed out.
    fn paper(done: &[Option<Way>]) -> (Vec<usize>, Vec<usize>) {
        let (mut written, mut rubbed_out) = (Vec::new(), Vec::new());
        for (n, way) in done.iter().enumerate() {
            match way {
                None => (written.push(n), rubbed_out.clear()).0,
                Some(Way::Back) => rubbed_out.extend(written.pop()),
                Some(Way::Again) => written.extend(rubbed_out.pop()),
            }
        }
        (written, rubbed_out)
    }

    proptest! {
        #[test]
        fn undo_and_redo_go_along_what_one_did(
            done in prop::collection::vec(
                prop::option::of(prop_oneof![Just(Way::Back), Just(Way::Again)]), 0..24),
        ) {
            let mut steps: Vec<Step> = Vec::new();
            // What each revision stands for: the edit that it made, or undid, or made again.
            let mut means = std::collections::BTreeMap::new();
            for (n, way) in done.iter().enumerate() {
                let revision = steps.len() as i64 + 1;
                let so_far: Steps = steps.iter().copied().collect();
                let reverses = match way {
                    None => None,
                    Some(way) => match so_far.next(*way) {
                        None => continue,
                        some => some,
                    },
                };
                let edit = reverses.and_then(|was| means.get(&was).copied()).unwrap_or(n);
                means.insert(revision, edit);
                steps.push(Step { revision, reverses });
            }
            let steps: Steps = steps.into_iter().collect();
            let (written, rubbed_out) = paper(&done);
            let edit = |revision: Option<i64>| revision.and_then(|r| means.get(&r).copied());
            prop_assert_eq!(edit(steps.next(Way::Back)), written.last().copied());
            prop_assert_eq!(edit(steps.next(Way::Again)), rubbed_out.last().copied());
            prop_assert_eq!((steps.back.len(), steps.again.len()), (written.len(), rubbed_out.len()));
        }
    }
}
