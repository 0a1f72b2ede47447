//! The facts of a row in the one form that is sealed: JSON after RFC 8785, keys in order and no white space.

use serde_json::{Map, Value};
use std::collections::BTreeMap;
use zf_core::trail::Event;

/// The fields of an event, as they are sealed.
pub(super) fn sealed(event: &Event) -> serde_json::Result<String> {
    let Value::Object(event) = serde_json::to_value(event)? else { return Ok("{}".to_owned()) };
    let fields = event.into_iter().next().map_or(Value::Null, |(_, fields)| fields);
    serde_json::to_string(&in_order(fields))
}

/// The event that these are the fields of; none when a later program wrote them.
pub(super) fn read(action: &str, facts: &str) -> Option<Event> {
    let fields: Value = serde_json::from_str(facts).ok()?;
    serde_json::from_value(Value::Object(Map::from_iter([(action.to_owned(), fields)]))).ok()
}

fn in_order(value: Value) -> Value {
    match value {
        Value::Object(fields) => {
            let fields: BTreeMap<String, Value> =
                fields.into_iter().map(|(key, value)| (key, in_order(value))).collect();
            Value::Object(fields.into_iter().collect())
        }
        Value::Array(values) => Value::Array(values.into_iter().map(in_order).collect()),
        other => other,
    }
}

#[cfg(test)]
mod tests {
    #![allow(clippy::unwrap_used, reason = "what cannot be sealed fails the test")]

    use super::*;
    use zf_phrases::examples::events;

    #[test]
    fn what_is_sealed_is_read_as_it_was_and_its_keys_are_in_order() {
        for event in events() {
            let (action, facts) = (event.action().key(), sealed(&event).unwrap());
            assert_eq!(read(action, &facts), Some(event), "{facts}");
            let sorted: BTreeMap<String, Value> = serde_json::from_str(&facts).unwrap();
            assert_eq!(serde_json::to_string(&sorted).unwrap(), facts);
        }
    }

    #[test]
    fn the_form_that_was_sealed_first_is_read_for_good() {
        let facts = r#"{"from":{"blocks":0,"format":{"digits_only":true,"max":8,"min":3,"segments":null}},"to":{"blocks":7,"format":{"digits_only":true,"max":8,"min":3,"segments":null}}}"#;
        assert!(matches!(read("laid_down_scheme", facts), Some(Event::SetScheme { .. })));
        let facts = r#"{"person":"Ann","roles":["owner","reviewer"],"until":"2026-05-31","way":"by_member"}"#;
        assert!(matches!(read("let_in", facts), Some(Event::AddedMember { .. })));
        assert_eq!(read("let_in", r#"{"person":"Ann","roles":["guest","owner"]}"#), None);
        assert_eq!(read("a_later_action", "{}"), None);
    }
}
