//! Codes, judged on the After side: unique, of the right form, in their block, not reused unread.

use super::context::RuleContext;
use crate::chart::{Account, Chart};
use crate::code::CodeKey;
use crate::free_codes::next_free;
use crate::ids::AccountId;
use crate::plan::{Change, Fate, Field};
use crate::policy::Policy;
use crate::rehearsal::cause::Cause;
use crate::rehearsal::finding::{Findings, Remedy};
use std::collections::{BTreeMap, HashSet};

pub(super) fn check(context: &RuleContext<'_>, found: &mut Findings<'_>) {
    check_forms(context, found);
    check_unique(context.after, |id| context.touches(id), found);
    for account in context.after.live() {
        let before = context.today.chart.get(account.id);
        let same_code = before.is_some_and(|b| b.code == account.code);
        if !same_code {
            check_former(context, account, found);
        }
        if !same_code && let Some(objection) = context.today.policy.format.objection(&account.code)
        {
            let code = account.code.clone();
            let cause = Cause::CodeFormat { account: account.id, code, objection };
            found.raise(cause, ways_back(context, account, &PLACED_BY));
        } else if !same_code || before.is_some_and(|b| b.place() != account.place()) {
            check_block(context, account, found);
        }
    }
}

/// Raises codes of a form that no code of the books has, where none is laid down: a slip of the hand shows by
/// it. How long codes are is no part of it, since charts grow.
fn check_forms(context: &RuleContext<'_>, found: &mut Findings<'_>) {
    if context.today.policy.format != Policy::default().format {
        return;
    }
    let has_today = |account: &Account| {
        context.today.chart.get(account.id).is_some_and(|before| before.code == account.code)
    };
    let mut forms: BTreeMap<String, Vec<AccountId>> = BTreeMap::new();
    for account in context.after.live().filter(|account| !has_today(account)) {
        forms.entry(account.code.form()).or_default().push(account.id);
    }
    let mut known = context.today.chart.live().peekable();
    if known.peek().is_none() {
        return;
    }
    for account in known {
        if forms.is_empty() {
            return;
        }
        forms.remove(&account.code.form());
    }
    for (form, mut accounts) in forms {
        accounts.sort_unstable();
        let back = accounts.iter().filter_map(|id| context.after.get(*id));
        let back: Vec<_> = match accounts.len() {
            1 => back.flat_map(|account| ways_back(context, account, &[Field::Code])).collect(),
            _ => Vec::new(),
        };
        found.raise(Cause::CodeUnlike { form, accounts }, back);
    }
}

/// Raises every code that two live accounts bear. The finding names first an account the plan
/// touches, since that is the one that can give way.
pub(in crate::rehearsal) fn check_unique(
    after: &Chart,
    touched: impl Fn(AccountId) -> bool,
    found: &mut Findings<'_>,
) {
    let mut rows: Vec<&Account> = after.live().collect();
    rows.sort_by(|a, b| a.code.chart_order(&b.code));
    let same = |a: &&Account, b: &&Account| a.code.chart_order(&b.code).is_eq();
    let clashes: Vec<_> = rows.chunk_by(same).filter(|clash| clash.len() > 1).collect();
    if clashes.is_empty() {
        return;
    }
    let taken: HashSet<CodeKey> = after.live().map(|account| account.code.key()).collect();
    for clash in clashes {
        let mut clash = clash.to_vec();
        clash.sort_by_key(|account| (!touched(account.id), account.id));
        let [gives, keeps, ..] = clash.as_slice() else {
            continue;
        };
        let account = gives.id;
        let next = next_free(&gives.code, 1, &taken)
            .map(|code| Remedy::Stage { account, change: Change::Code(code) });
        let merge = gives.is_posting().then_some(Remedy::Stage {
            account,
            change: Change::Fate(Fate::MergeInto { into: keeps.id }),
        });
        let accounts = clash.iter().map(|account| account.id).collect();
        let cause = Cause::CodeTaken { code: gives.code.clone(), accounts };
        found.raise(cause, next.into_iter().chain(merge));
    }
}

/// What blocks go by.
const PLACED_BY: [Field; 3] = [Field::Code, Field::Class, Field::Caption];

/// Undoes whatever of some fields is staged of an account that is in the chart today.
fn ways_back(context: &RuleContext<'_>, account: &Account, fields: &[Field]) -> Vec<Remedy> {
    let target = context.plan.targets.get(&account.id);
    let is_there = context.today.chart.get(account.id).is_some();
    let staged =
        |field: &Field| is_there && target.is_some_and(|target| target.contains_key(field));
    let back = |field: Field| Remedy::Unstage { account: account.id, field };
    fields.iter().copied().filter(staged).map(back).collect()
}

fn check_block(context: &RuleContext<'_>, account: &Account, found: &mut Findings<'_>) {
    let policy = &context.today.policy;
    if let Some(blocks) = policy.missed_blocks(account) {
        let cause = Cause::CodeOutsideBlock {
            account: account.id,
            class: account.class,
            standard: account.own_standard(),
            blocks: blocks.into_iter().cloned().collect(),
        };
        found.raise(cause, ways_back(context, account, &PLACED_BY));
    }
}

/// A former code may be taken without a word by the account that bore it, or took it over.
fn check_former(context: &RuleContext<'_>, account: &Account, found: &mut Findings<'_>) {
    let key = account.code.key();
    let holders = context.today.former.holders(&key, &context.today.chart);
    let own = |id: AccountId| id == account.id || context.merges.get(&id) == Some(&account.id);
    if holders.is_empty() || holders.iter().any(|holder| own(holder.id)) {
        return;
    }
    let former = holders.iter().map(|holder| holder.id).collect();
    let cause = Cause::CodeReused { account: account.id, code: account.code.clone(), former };
    found.raise(cause, []);
}
