//! Which heading each row stands under. A row whose heading cannot be taken is rejected too, and so on
//! down the outline.

use super::came_from::CameFrom;
use super::draft::Draft;
use super::outline::{Above, Node, OutlineBy, find_outline};
use crate::Rejected;
use crate::cause::Cause;
use crate::columns::{Column, reduce};
use crate::reading::Reading;
use crate::words::is_nothing;
use std::collections::{HashMap, HashSet};
use zf_core::chart::{Chart, Kind};
use zf_core::code::{Code, CodeKey};
use zf_core::ids::AccountId;

/// Puts rows under their headings. A heading that only paths name is added.
pub(super) fn stand_under<'a>(
    reading: &Reading,
    drafts: &mut Vec<Draft<'a>>,
    chart: &Chart,
    rejected: &mut Vec<Rejected>,
) -> OutlineBy {
    let nodes: Vec<Node<'_>> = drafts
        .iter()
        .map(|draft| Node {
            row: draft.row,
            key: draft.coded.then(|| draft.account.code.key()),
            name: draft.account.name.clone(),
        })
        .collect();
    let outline = find_outline(reading, &nodes);
    let mut named: HashMap<Vec<String>, usize> = HashMap::new();
    for (draft, name) in drafts.iter_mut().zip(outline.names) {
        draft.account.name = name;
    }
    for (at, above) in outline.parents.into_iter().enumerate() {
        let parent = match above {
            None => continue,
            Some(Above::Row(parent)) => parent,
            Some(Above::Named(path)) => add_path(drafts, at, &path, &mut named),
        };
        drafts[at].account.parent = Some(drafts[parent].account.id);
        drafts[at].origins.parent = Some(CameFrom::Column);
        let heading = &mut drafts[parent];
        if heading.word.is_none() {
            heading.account.kind = Kind::Heading;
            heading.origins.kind = Some(CameFrom::Parent);
        }
    }
    if outline.by == OutlineBy::Parent {
        by_column(reading, drafts, chart, rejected);
    }
    outline.by
}

/// Adds the headings of a path that have no row, and answers the place of the last of them.
fn add_path<'a>(
    drafts: &mut Vec<Draft<'a>>,
    below: usize,
    path: &[String],
    named: &mut HashMap<Vec<String>, usize>,
) -> usize {
    let mut parent = None;
    for depth in 1..=path.len() {
        let key: Vec<String> = path[..depth].iter().map(|name| reduce(name)).collect();
        let at = *named.entry(key).or_insert_with(|| {
            let next = drafts.iter().map(|d| d.account.id.0).max().unwrap_or(0) + 1;
            let above = parent.map(|at: usize| drafts[at].account.id);
            let heading = Draft::heading(AccountId(next), &path[depth - 1], above, &drafts[below]);
            drafts.push(heading);
            drafts.len() - 1
        });
        parent = Some(at);
    }
    parent.unwrap_or(below)
}

fn by_column(
    reading: &Reading,
    drafts: &mut Vec<Draft<'_>>,
    chart: &Chart,
    rejected: &mut Vec<Rejected>,
) {
    let keys = keys(reading, drafts, chart);
    // A row that others name as their heading is one, unless the file says otherwise.
    let known = Known::of(drafts, chart, keys);
    let named: HashSet<AccountId> = drafts
        .iter()
        .filter_map(|draft| known.find(reading.code(draft.row, Column::Parent)))
        .map(|(id, _)| id)
        .collect();
    for draft in drafts.iter_mut() {
        if draft.word.is_none() && named.contains(&draft.account.id) {
            draft.account.kind = Kind::Heading;
            draft.origins.kind = Some(CameFrom::Parent);
        }
    }
    loop {
        let known = Known::of(drafts, chart, keys);
        let before = drafts.len();
        drafts.retain_mut(|draft| {
            let text = reading.code(draft.row, Column::Parent);
            if is_nothing(text) {
                return true;
            }
            let cause = match known.find(text) {
                Some((id, Kind::Heading)) if id != draft.account.id => {
                    draft.account.parent = Some(id);
                    draft.origins.parent = Some(CameFrom::Column);
                    return true;
                }
                Some((id, _)) if id == draft.account.id => Cause::HeadingItself,
                Some(_) => Cause::HeadingUnfit,
                None => Cause::HeadingUnknown,
            };
            rejected.push(reading.layout.reject(draft.row, Column::Parent, cause));
            false
        });
        if drafts.len() == before {
            break;
        }
    }
    reject_circles(reading, drafts, rejected);
}

/// The column by whose keys rows name their headings, where that is neither code nor name: programs number
/// accounts by themselves as well.
fn keys(reading: &Reading, drafts: &[Draft<'_>], chart: &Chart) -> Option<usize> {
    let known = Known::of(drafts, chart, None);
    let named = drafts.iter().map(|draft| reading.code(draft.row, Column::Parent));
    let lost: HashSet<&str> =
        named.filter(|text| !is_nothing(text) && known.find(text).is_none()).collect();
    if lost.is_empty() {
        return None;
    }
    let open = reading.layout.columns.iter().filter(|column| column.field.is_none());
    open.map(|column| column.at).find(|at| {
        let keys: HashSet<&str> = drafts.iter().map(|draft| key(draft, *at)).collect();
        keys.len() == drafts.len() && lost.iter().all(|text| keys.contains(text))
    })
}

fn key<'a>(draft: &Draft<'a>, at: usize) -> &'a str {
    draft.row.cells.get(at).map_or("", |cell| cell.text.trim())
}

/// The rows of the chart and the file, by code, and by a name that only one of them has.
struct Known {
    keys: HashMap<String, (AccountId, Kind)>,
    codes: HashMap<CodeKey, (AccountId, Kind)>,
    names: HashMap<String, Option<(AccountId, Kind)>>,
}

impl Known {
    fn of(drafts: &[Draft<'_>], chart: &Chart, keys: Option<usize>) -> Self {
        let coded = drafts.iter().filter(|draft| draft.coded).map(|draft| &draft.account);
        let rows = chart.live().chain(drafts.iter().map(|draft| &draft.account));
        let mut names = HashMap::new();
        for account in rows {
            let known = Some((account.id, account.kind));
            names.entry(reduce(&account.name)).and_modify(|one| *one = None).or_insert(known);
        }
        let codes = chart.live().chain(coded).map(|a| (a.code.key(), (a.id, a.kind))).collect();
        let keyed = |at: usize| {
            let kind = |draft: &Draft<'_>| (draft.account.id, draft.account.kind);
            drafts.iter().map(move |draft| (key(draft, at).to_owned(), kind(draft)))
        };
        Self { keys: keys.into_iter().flat_map(keyed).collect(), codes, names }
    }

    fn find(&self, text: &str) -> Option<(AccountId, Kind)> {
        if let Some(found) = self.keys.get(text.trim()) {
            return Some(*found);
        }
        let by_code = Code::parse(text).ok().and_then(|code| self.codes.get(&code.key()).copied());
        by_code.or_else(|| self.names.get(&reduce(text)).copied().flatten())
    }
}

fn reject_circles(reading: &Reading, drafts: &mut Vec<Draft<'_>>, rejected: &mut Vec<Rejected>) {
    let parents: HashMap<AccountId, Option<AccountId>> =
        drafts.iter().map(|d| (d.account.id, d.account.parent)).collect();
    let in_circle = |start: AccountId| {
        let mut seen = HashSet::new();
        let mut at = Some(start);
        while let Some(id) = at {
            if !seen.insert(id) {
                return true;
            }
            at = parents.get(&id).copied().flatten();
        }
        false
    };
    drafts.retain(|draft| {
        let circle = in_circle(draft.account.id);
        if circle {
            let cause = Cause::HeadingCircle;
            rejected.push(reading.layout.reject(draft.row, Column::Parent, cause));
        }
        !circle
    });
}

/// Rows whose heading was rejected after they were put under it.
pub(super) fn drop_orphans(
    reading: &Reading,
    drafts: &mut Vec<Draft<'_>>,
    chart: &Chart,
    rejected: &mut Vec<Rejected>,
) {
    loop {
        let ids: HashSet<AccountId> = drafts.iter().map(|d| d.account.id).collect();
        let before = drafts.len();
        drafts.retain(|draft| {
            let fits = draft
                .account
                .parent
                .is_none_or(|parent| ids.contains(&parent) || chart.get(parent).is_some());
            if !fits {
                let cause = Cause::HeadingRejected;
                rejected.push(reading.layout.reject(draft.row, Column::Parent, cause));
            }
            fits
        });
        if drafts.len() == before {
            return;
        }
    }
}
