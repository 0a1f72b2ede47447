//! Dimensions of lines: by which department, site or project an amount is told apart.
//!
//! A line keeps its values in one text, as it was posted with: `department=Shed; site=Larkfell`. What
//! sets them apart is marked with a backslash where it stands within a name or a value.

use serde::{Deserialize, Serialize};
use xxhash_rust::xxh3::xxh3_64;

/// A value of a dimension: of `site`, `Larkfell`.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DimensionValue {
    /// The dimension.
    pub name: String,
    /// The value of it.
    pub value: String,
}

impl DimensionValue {
    /// A value of a dimension.
    pub fn new(name: &str, value: &str) -> Self {
        Self { name: name.to_owned(), value: value.to_owned() }
    }
}

const MARK: char = '\\';

fn is_special(c: char) -> bool {
    matches!(c, MARK | ';' | '=')
}

/// The text in which a line keeps its values.
pub fn written(values: impl IntoIterator<Item = DimensionValue>) -> String {
    let mut text = String::new();
    let push = |text: &mut String, part: &str| {
        for c in part.chars() {
            if is_special(c) {
                text.push(MARK);
            }
            text.push(c);
        }
    };
    for DimensionValue { name, value } in values {
        if !text.is_empty() {
            text.push_str("; ");
        }
        push(&mut text, &name);
        text.push('=');
        push(&mut text, &value);
    }
    text
}

/// The values that are kept in a text. A part that names no dimension is passed over.
pub fn values(text: &str) -> Vec<DimensionValue> {
    let mut found = Vec::new();
    let (mut name, mut part) = (None, String::new());
    let mut rest = text.chars().peekable();
    loop {
        match rest.next() {
            Some(MARK) => part.push(rest.next_if(|c| is_special(*c)).unwrap_or(MARK)),
            Some('=') if name.is_none() => name = Some(std::mem::take(&mut part)),
            // Before values could hold a semicolon only one with a space behind it set them apart.
            Some(';') if rest.peek() == Some(&' ') => {
                rest.next();
                let value = std::mem::take(&mut part);
                found.extend(name.take().map(|name| DimensionValue { name, value }));
            }
            Some(c) => part.push(c),
            None => {
                found.extend(name.map(|name| DimensionValue { name, value: part }));
                return found;
            }
        }
    }
}

/// The identity of the set of values that a text holds, told from the text alone: whoever posts the
/// same values comes to the same.
pub fn set_id(text: &str) -> i64 {
    (xxh3_64(text.as_bytes()) >> 1).cast_signed()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn texts_of_before_are_read_as_they_were() {
        let site = DimensionValue::new("site", "Larkfell; west");
        assert_eq!(written([site.clone()]), r"site=Larkfell\; west");
        assert_eq!(values(r"site=Larkfell\; west"), [site]);
        let old = [DimensionValue::new("disc", r"C:\ops"), DimensionValue::new("a", "b=c;d")];
        assert_eq!(values(r"disc=C:\ops; a=b=c;d"), old);
        assert_eq!(values("no dimension; "), []);
    }

    proptest! {
        #[test]
        fn values_stay_whole(said in prop::collection::vec(("[a-z=;\\\\ ]{1,6}", "[a-z=;\\\\ ]{0,9}"), 0..4)) {
            let said: Vec<_> = said.iter().map(|(name, value)| DimensionValue::new(name, value)).collect();
            let text = written(said.clone());
            prop_assert_eq!(values(&text), said);
            prop_assert!(set_id(&text) >= 0);
        }
    }
}
