//! Rows of a crosswalk that close a ring: each account takes the code that the next one gives up. Codes
//! alone do not tell whether accounts rotate or merge into each other; new names may.

use super::crossing::Crossing;
use crate::columns::reduce;
use crate::question::{About, Answer, Asks, Gives, Means, Question};
use crate::reading::Reading;
use std::collections::{BTreeMap, HashMap};
use zf_core::chart::Chart;
use zf_core::ids::AccountId;

/// What becomes of rings.
pub(super) struct Rings {
    /// Accounts in rings whose names say that all merge into each other.
    pub(super) merged: Vec<AccountId>,
    pub(super) question: Option<Question>,
}

/// Looks the rings of a crosswalk over.
pub(super) fn look_over(reading: &Reading, crossings: &[&Crossing], chart: &Chart) -> Rings {
    let answer = reading.answers.get(&About::Rings).map(String::as_str);
    let (mut merged, mut open) = (Vec::new(), Vec::new());
    for ring in rings(crossings, chart) {
        let name = |id: AccountId| chart.get(id).map_or_else(String::new, |a| reduce(&a.name));
        let named = |of: &dyn Fn(&Crossing) -> Option<AccountId>| {
            ring.iter().all(|crossing| {
                let new = crossing.new_name.as_deref().map(reduce);
                new.is_some() && new == of(crossing).map(name)
            })
        };
        let target = |c: &Crossing| chart.by_code(&c.new_code.key()).map(|account| account.id);
        if named(&|crossing| Some(crossing.account)) {
            continue;
        }
        if named(&target) || answer == Some("merges") {
            merged.extend(ring.iter().map(|crossing| crossing.account));
        } else if answer.is_none() {
            open.push(ring);
        }
    }
    let question = open.first().map(|first| {
        let codes = first.iter().map(|crossing| crossing.code.clone()).collect();
        let accounts: usize = open.iter().map(Vec::len).sum();
        Question {
            about: About::Rings,
            asks: Asks::Rings(codes),
            readings: vec![
                Answer::new("rotation", Means::Rotation, Gives::CodesOfOthers(accounts)),
                Answer::new("merges", Means::Merges, Gives::NoneLeft),
            ],
            default: Some("rotation".to_owned()),
        }
    });
    Rings { merged, question }
}

/// The rings, each from its lowest row.
fn rings<'a>(crossings: &[&'a Crossing], chart: &Chart) -> Vec<Vec<&'a Crossing>> {
    let next: HashMap<AccountId, AccountId> = crossings
        .iter()
        .filter(|crossing| crossing.into.is_none())
        .filter_map(|c| Some((c.account, chart.by_code(&c.new_code.key())?.id)))
        .filter(|(account, target)| account != target)
        .collect();
    let by_account: HashMap<AccountId, &Crossing> =
        crossings.iter().map(|crossing| (crossing.account, *crossing)).collect();
    let mut found: BTreeMap<u32, Vec<&Crossing>> = BTreeMap::new();
    for start in next.keys() {
        let way = std::iter::successors(next.get(start), |id| next.get(id));
        let mut ring = vec![*start];
        ring.extend(way.take(next.len()).take_while(|id| *id != start));
        let closes = ring.last().and_then(|last| next.get(last)) == Some(start);
        let rows: Option<Vec<&Crossing>> =
            ring.iter().map(|id| by_account.get(id).copied()).collect();
        let Some(mut rows) = rows.filter(|_| closes) else { continue };
        let first = rows.iter().enumerate().min_by_key(|(_, crossing)| crossing.row);
        let at = first.map_or(0, |(at, _)| at);
        rows.rotate_left(at);
        found.insert(rows[0].row, rows);
    }
    found.into_values().collect()
}
