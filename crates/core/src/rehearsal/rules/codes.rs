//! Codes, judged on the After side: unique, of the right form, in their block, not reused unread.

use super::RuleContext;
use crate::chart::{Account, Chart};
use crate::code::{CodeKey, Interval};
use crate::free_codes::next_free;
use crate::ids::AccountId;
use crate::plan::{Change, Fate, Field};
use crate::rehearsal::finding::{Findings, Remedy, Rule};
use crate::text::counted;
use std::collections::HashSet;

pub(super) fn check(context: &RuleContext<'_>, found: &mut Findings<'_>) {
    check_unique(context.after, |id| context.touches(id), found);
    for account in context.after.live() {
        let before = context.today.chart.get(account.id);
        let same_code = before.is_some_and(|b| b.code == account.code);
        if !same_code {
            check_former(context, account, found);
        }
        if !same_code && let Some(objection) = context.today.policy.format.objection(&account.code)
        {
            let sentence = format!("{}, the code of {}, {objection}.", account.code, account.name);
            found.raise(Rule::CodeFormat, [account.id], sentence, ways_back(context, account));
        } else if !same_code || before.is_some_and(|b| b.place() != account.place()) {
            check_block(context, account, found);
        }
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
        let count = match clash.len() {
            2 => "two accounts".to_owned(),
            n => counted(n, "account"),
        };
        let sentence =
            format!("{} would belong to {count}: {} and {}.", gives.code, gives.name, keeps.name);
        let account = gives.id;
        let next = next_free(&gives.code, 1, &taken).map(|code| Remedy::Stage {
            label: format!("Use {code}"),
            account,
            change: Change::Code(code),
        });
        let merge = gives.is_posting().then(|| Remedy::Stage {
            label: format!("Merge into {}", keeps.label()),
            account,
            change: Change::Fate(Fate::MergeInto(keeps.id)),
        });
        let ids = clash.iter().map(|account| account.id);
        found.raise(Rule::CodeTaken, ids, sentence, next.into_iter().chain(merge));
    }
}

/// Takes back whatever was staged of what blocks go by.
fn ways_back(context: &RuleContext<'_>, account: &Account) -> Vec<Remedy> {
    let target = context.plan.targets.get(&account.id);
    let staged = |field: &Field| target.is_some_and(|target| target.contains_key(field));
    let back = |field: Field| Remedy::TakeBack {
        label: format!("Take the {} back", field.words()),
        account: account.id,
        field,
    };
    [Field::Code, Field::Class, Field::Caption].into_iter().filter(staged).map(back).collect()
}

fn check_block(context: &RuleContext<'_>, account: &Account, found: &mut Findings<'_>) {
    let policy = &context.today.policy;
    if let Some(blocks) = policy.missed_blocks(account) {
        let blocks = blocks.into_iter().cloned().collect::<Vec<_>>();
        let sentence = format!(
            "{} is outside its block: codes of {} lie in {}.",
            account.label(),
            account.own_standard().map_or(account.class.words(), |item| item.words()),
            Interval::format_list(&blocks),
        );
        found.raise(Rule::CodeOutsideBlock, [account.id], sentence, ways_back(context, account));
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
    let names = holders.iter().map(|holder| holder.label()).collect::<Vec<_>>().join(", ");
    let sentence = format!(
        "{} was formerly a code of {names}; a search for it will find {} first.",
        account.code, account.name
    );
    found.raise(Rule::CodeReused, [account.id], sentence, []);
}
