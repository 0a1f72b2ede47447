//! Merges: only like with like, into an account that stays, without spoiling a reconciliation.

use super::RuleContext;
use crate::chart::{Account, ControlRole, Status};
use crate::ids::AccountId;
use crate::plan::{Change, Fate, Field};
use crate::rehearsal::finding::{Findings, Remedy, Rule};
use crate::text::a;

pub(super) fn check(context: &RuleContext<'_>, found: &mut Findings<'_>) {
    for (&id, &end) in context.merges {
        let Some(merged) = context.today.chart.get(id) else {
            continue;
        };
        match context.after.get(end) {
            Some(survivor) if survivor.status == Status::Active && survivor.is_posting() => {
                check_pair(context, merged, survivor, found);
            }
            survivor => {
                let why = match survivor {
                    None => "it would be gone".to_owned(),
                    Some(s) if !s.is_posting() => format!("it is {}", a(s.kind.words())),
                    Some(s) => format!("it is {}", s.status.words()),
                };
                let sentence =
                    format!("{} can’t go into {}: {why}.", merged.label(), context.label(end));
                found.raise(Rule::MergeIntoRetired, [id, end], sentence, [take_back(id)]);
            }
        }
    }
}

fn take_back(account: AccountId) -> Remedy {
    Remedy::TakeBack { label: "Take the merge back".to_owned(), account, field: Field::Fate }
}

fn check_pair(
    context: &RuleContext<'_>,
    merged: &Account,
    survivor: &Account,
    found: &mut Findings<'_>,
) {
    let pair = [merged.id, survivor.id];
    let refused =
        |why: String| format!("{} can’t go into {} yet: {why}.", merged.label(), survivor.label());
    if merged.kind != survivor.kind {
        let why =
            format!("one is {}, the other {}", a(merged.kind.words()), a(survivor.kind.words()));
        found.raise(Rule::MergeKind, pair, refused(why), [take_back(merged.id)]);
    }
    if merged.class != survivor.class {
        let why = format!("one is {}, the other {}", merged.class.words(), survivor.class.words());
        found.raise(Rule::MergeClass, pair, refused(why), [take_back(merged.id)]);
    }
    if merged.currency != survivor.currency {
        let name = |a: &Account| a.currency.map_or("any currency".to_owned(), |c| c.to_string());
        let why = format!("one holds {}, the other {}", name(merged), name(survivor));
        found.raise(Rule::MergeCurrency, pair, refused(why), [take_back(merged.id)]);
    }
    check_roles(merged, survivor, refused, found);
    check_settings(context, merged, survivor, found);
    let cleared = context.figures(merged.id).cleared + context.figures(survivor.id).cleared;
    let bank = [merged, survivor].iter().any(|a| a.role == Some(ControlRole::Bank));
    if bank && cleared > 0 {
        let why = format!(
            "{cleared} of their lines are cleared in bank reconciliations, which a merge would mix"
        );
        let deactivate = || Remedy::Stage {
            label: format!("Deactivate {}", merged.code),
            account: merged.id,
            change: Change::Fate(Fate::Deactivate),
        };
        // What is no bank account does not stop being needed because it cannot go into one.
        let is_bank = merged.role == Some(ControlRole::Bank);
        let first = if is_bank { deactivate() } else { take_back(merged.id) };
        let instead = if is_bank { "Deactivate the old bank account" } else { "Leave it as it is" };
        let advice = format!("{instead} instead, or have a reviewer go on with a typed reason.");
        let ways = [first, Remedy::Advice(advice)];
        found.raise(Rule::MergeBankCleared, pair, refused(why), ways);
    }
}

fn check_roles(
    merged: &Account,
    survivor: &Account,
    refused: impl Fn(String) -> String,
    found: &mut Findings<'_>,
) {
    let Some(role) = merged.role.filter(|role| survivor.role != Some(*role)) else {
        return;
    };
    let mut ways = vec![take_back(merged.id)];
    let why = match survivor.role {
        None => {
            ways.push(Remedy::Advice(format!("Merge {} into it instead.", survivor.label())));
            format!("it is the books’ {} account, the other is not", role.words())
        }
        Some(other) => {
            format!("one is for {}, the other for {}", role.words(), other.words())
        }
    };
    found.raise(Rule::MergeRole, [merged.id, survivor.id], refused(why), ways);
}

/// Settings that need not agree, but that a person should have seen.
fn check_settings(
    context: &RuleContext<'_>,
    merged: &Account,
    survivor: &Account,
    found: &mut Findings<'_>,
) {
    let mut differences = Vec::new();
    let mut note = |what: &str, of_merged: String, of_survivor: String| {
        if of_merged != of_survivor {
            differences.push(format!("{what} {of_merged} becomes {of_survivor}"));
        }
    };
    let section =
        |a: &Account| a.caption.as_ref().map_or("none".to_owned(), |line| line.name.clone());
    note("section", section(merged), section(survivor));
    let parent = |a: &Account| a.parent.map_or("none".to_owned(), |p| context.label(p));
    note("heading", parent(merged), parent(survivor));
    let tax = |a: &Account| a.tax_code.clone().unwrap_or_else(|| "none".to_owned());
    note("tax code", tax(merged), tax(survivor));
    let contra = |a: &Account| if a.contra { "contra" } else { "not contra" }.to_owned();
    note("presentation", contra(merged), contra(survivor));
    if differences.is_empty() {
        return;
    }
    let sentence = format!(
        "For the history of {} that goes into {}: {}.",
        merged.label(),
        survivor.label(),
        differences.join("; "),
    );
    found.raise(Rule::MergeSettings, [merged.id, survivor.id], sentence, [take_back(merged.id)]);
}
