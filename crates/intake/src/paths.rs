//! Names of headings joined from the outermost, as `Costs : Running : Coal`.

use crate::columns::reduce;
use std::collections::{HashMap, HashSet};

/// The marks that part the names of a path; those with spaces first, since a name may hold the mark itself.
pub(crate) const MARKS: [&str; 9] = [" : ", ":", " > ", ">", " / ", "\\", " | ", " » ", " → "];

/// The names of a path.
pub(crate) fn parts(text: &str, mark: &str) -> Vec<String> {
    let names = text.split(mark).map(|name| name.trim().to_owned());
    names.filter(|name| !name.is_empty()).collect()
}

/// The mark by which the texts of a column are paths: at least half of those that differ have it, between
/// words, and several lead on from one name.
pub(crate) fn mark_of<'a>(texts: impl Iterator<Item = &'a str>) -> Option<&'static str> {
    let texts: HashSet<&str> = texts.collect();
    let worded = |name: &String| name.chars().filter(|c| c.is_alphabetic()).count() > 1;
    MARKS.into_iter().find(|mark| {
        let paths: Vec<_> = texts.iter().map(|text| parts(text, mark)).collect();
        let long = paths.iter().filter(|path| path.len() > 1 && path.iter().all(worded));
        let mut onward: HashMap<String, usize> = HashMap::new();
        for path in long.clone() {
            *onward.entry(reduce(&path[0])).or_default() += 1;
        }
        long.count() * 2 >= texts.len() && onward.values().any(|count| *count > 1)
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_column_of_paths_is_told_from_names_that_hold_a_mark() {
        let mark = |texts: &[&str]| mark_of(texts.iter().copied());
        assert_eq!(mark(&["Assets > Bank", "Assets > Vans", "Income"]), Some(" > "));
        assert_eq!(mark(&["Assets:Bank", "Assets:Vans", "Income:Fares"]), Some(":"));
        assert_eq!(mark(&["Assets : Bank", "Assets : Vans"]), Some(" : "));
        for none in [
            &["Plant / machinery", "Rent / rates", "Trade"][..],
            &["Assets", "Income", "Costs"],
            &["9:30", "9:45"],
            &[],
        ] {
            assert_eq!(mark(none), None, "{none:?}");
        }
        assert_eq!(parts("Costs : : Coal", ":"), ["Costs", "Coal"]);
    }
}
