//! Changes in a few words, as tests write them: of a fate `merge 5030` or `archive 2026-10-31`, of a history `to 5040, until
//! 2026-03-31 | to 5030, entry J7`.

use serde_json::{Value, from_value, json};
use std::collections::BTreeMap;
use zf_core::code::Interval;
use zf_core::ids::AccountId;
use zf_core::plan::{Change, Field};
use zf_core::statement::{Section, Structure};

/// The change of a field that is said; `lines` are those of the books' statements, and `account` knows
/// accounts by how the words name them.
///
/// # Panics
/// When the words say nothing.
pub(crate) fn change(
    field: Field,
    words: &str,
    lines: &Structure,
    account: impl Fn(&str) -> AccountId,
) -> Change {
    let value = match field {
        Field::Parent | Field::Role | Field::Caption | Field::Currency | Field::Tax
            if words.is_empty() =>
        {
            Value::Null
        }
        Field::Parent => json!(account(words)),
        Field::Caption => {
            let standard = Section::from_key(words);
            json!(lines.captions().find(|line| line.standard == standard).map(|line| line.id))
        }
        Field::Contra => json!(words == "yes"),
        Field::Intervals => {
            json!(Interval::parse_list(words).expect("stretches of codes"))
        }
        Field::History => {
            let ranked = words.strip_prefix("ranked | ");
            let parts = ranked.unwrap_or(words).split(" | ").filter(|part| !part.is_empty());
            let parts: Vec<Value> = parts.map(|words| part(words, &account)).collect();
            json!({ "ranked": ranked.is_some(), "parts": parts })
        }
        Field::Fate => match words.split_once(' ') {
            Some(("merge", into)) => json!({ "fate": "merge_into", "into": account(into) }),
            Some((fate, day)) => json!({ "fate": fate, "from": day }),
            None => json!({ "fate": words }),
        },
        _ => json!(words),
    };
    from_value(json!({ "field": field, "value": value })).expect("a change")
}

fn part(words: &str, account: &impl Fn(&str) -> AccountId) -> Value {
    let said: Vec<_> = words.split(", ").filter_map(|field| field.split_once(' ')).collect();
    let entries: Vec<_> = said.iter().filter(|(word, _)| *word == "entry").map(|s| s.1).collect();
    let said: BTreeMap<_, _> = said.iter().copied().collect();
    let text = |word| said.get(word).copied().unwrap_or_default();
    let dimension = said.get("dimension").and_then(|pair| pair.split_once('='));
    let dimension = dimension.map(|(name, value)| json!({ "name": name, "value": value }));
    let which = json!({
        "from": said.get("from"), "until": said.get("until"), "payee": text("payee"),
        "memo": text("memo"), "dimension": dimension, "entries": entries,
    });
    json!({ "to": account(text("to")), "which": which })
}
