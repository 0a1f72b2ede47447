//! Control roles, proposed by what accounts and their captions are called. Nothing gets one unless a person
//! says so, once for all of them.

use super::came_from::CameFrom;
use super::draft::Draft;
use crate::columns::{Column, reduce};
use crate::reading::Reading;
use crate::words;
use std::collections::{BTreeMap, HashSet};
use zf_core::chart::{Class, ControlRole, Kind};
use zf_core::ids::AccountId;

/// Proposes roles where the file has no column of them, and gives them if that is wished.
pub(super) fn propose(
    reading: &Reading,
    drafts: &mut [Draft<'_>],
) -> BTreeMap<AccountId, ControlRole> {
    if reading.layout.place(Column::Role).is_some() {
        return BTreeMap::new();
    }
    let mut taken: HashSet<ControlRole> = HashSet::new();
    let mut proposed = BTreeMap::new();
    for draft in drafts.iter_mut().filter(|draft| draft.account.kind == Kind::Account) {
        let by_column = [Column::Class, Column::Section]
            .into_iter()
            .find_map(|field| words::role(&reduce(reading.layout.cell(draft.row, field))));
        let found = words::role(&reduce(&draft.account.name)).or(by_column);
        let Some(role) = found.filter(|role| fits(*role, draft.account.class)) else { continue };
        if role.is_unique() && !taken.insert(role) {
            continue;
        }
        proposed.insert(draft.account.id, role);
        if reading.options.roles {
            draft.account.role = Some(role);
            draft.origins.role = Some(CameFrom::Wording);
        }
    }
    proposed
}

/// Whether an account of a class can do the job.
const fn fits(role: ControlRole, class: Class) -> bool {
    match role {
        ControlRole::Bank | ControlRole::Tax => matches!(class, Class::Asset | Class::Liability),
        ControlRole::Receivables | ControlRole::Inventory => matches!(class, Class::Asset),
        ControlRole::Payables => matches!(class, Class::Liability),
        ControlRole::RetainedEarnings | ControlRole::OpeningDifference => {
            matches!(class, Class::Equity)
        }
        ControlRole::Suspense => true,
    }
}
