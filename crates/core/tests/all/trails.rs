//! The chain of a trail: whatever is changed, taken out, put in or written anew is found.

use proptest::prelude::*;
use time::OffsetDateTime;
use zf_core::ids::{ApplicationId, BooksId, PersonId};
use zf_core::trail::{Broken, Detail, Following, Head, Record, Seal, moment};

fn record() -> impl Strategy<Value = Record> {
    let at = (0_i64..4_000_000_000, 0_i64..1_000_000).prop_map(|(second, micro)| {
        OffsetDateTime::from_unix_timestamp(second).unwrap() + time::Duration::microseconds(micro)
    });
    let texts = (any::<String>(), any::<String>(), "[a-z_]{1,12}", any::<bool>());
    (any::<Option<i64>>(), at, any::<Option<i64>>(), texts, any::<Option<i64>>()).prop_map(
        |(books, at, person, (by, detail, what, facts), application)| Record {
            books: books.map(BooksId),
            number: 0,
            at,
            person: person.map(PersonId),
            by,
            what,
            detail: if facts {
                Detail::Facts(serde_json::json!({ "about": detail }).to_string())
            } else {
                Detail::Sentence(detail)
            },
            application: application.map(ApplicationId),
        },
    )
}

/// Rows with their seals, numbered from one.
fn chain() -> impl Strategy<Value = Vec<(Record, Seal)>> {
    prop::collection::vec(record(), 1..12).prop_map(|rows| {
        let mut before = Seal::FIRST;
        let sealed = rows.into_iter().zip(1..).map(|(row, number)| {
            let row = Record { number, ..row };
            before = row.seal(before);
            (row, before)
        });
        sealed.collect()
    })
}

fn follow(rows: &[(Record, Seal)]) -> Result<Head, Broken> {
    let mut following = Following::default();
    rows.iter().try_for_each(|(row, seal)| following.take(row, *seal))?;
    Ok(following.head())
}

proptest! {
    #[test]
    fn a_chain_is_followed_to_its_head(rows in chain()) {
        let head = follow(&rows).unwrap();
        prop_assert_eq!(head.rows, rows.len() as i64);
        prop_assert_eq!(Some(head.seal), rows.last().map(|(_, seal)| *seal));
        prop_assert_eq!(Seal::parse(&head.seal.to_string()), Some(head.seal));
    }

    #[test]
    fn whatever_is_done_to_a_row_is_found(rows in chain(), at in any::<prop::sample::Index>(), field in 0..7) {
        let head = follow(&rows).unwrap();
        let at = at.index(rows.len());
        let mut touched = rows.clone();
        let row = &mut touched[at].0;
        match field {
            0 => match &mut row.detail {
                Detail::Sentence(told) | Detail::Facts(told) => told.push('x'),
            },
            1 => row.by.push('x'),
            2 => row.what.push('x'),
            3 => row.at += time::Duration::microseconds(1),
            4 => row.person = Some(row.person.map_or(PersonId(1), |id| PersonId(id.0.wrapping_add(1)))),
            5 => row.application = Some(row.application.map_or(ApplicationId(1), |id| ApplicationId(id.0.wrapping_add(1)))),
            _ => row.books = Some(row.books.map_or(BooksId(1), |id| BooksId(id.0.wrapping_add(1)))),
        }
        prop_assert_eq!(follow(&touched), Err(Broken::Changed(at as i64 + 1)));
        // Sealed anew, the row after it, or the head, tells.
        let before = at.checked_sub(1).map_or(Seal::FIRST, |before| rows[before].1);
        touched[at].1 = touched[at].0.seal(before);
        match follow(&touched) {
            Err(broken) => prop_assert_eq!(broken, Broken::Changed(at as i64 + 2)),
            Ok(other) => {
                prop_assert_eq!(at, rows.len() - 1);
                prop_assert!(other.seal != head.seal);
            }
        }
        // Taken out, the number of the next one tells, or the head.
        let mut fewer = rows.clone();
        fewer.remove(at);
        let mut following = Following::default();
        let taken = fewer.iter().try_for_each(|(row, seal)| following.take(row, *seal));
        prop_assert!(taken.and_then(|()| following.ends_at(head)).is_err());
    }

    #[test]
    fn the_canonical_form_is_that_of_any_json_library(row in record(), number in 1_i64..9) {
        let row = Record { number, ..row };
        let canonical = row.canonical(Seal::FIRST);
        let parsed: serde_json::Value = serde_json::from_str(&canonical).unwrap();
        // Written anew with its keys in order, it is the same to the byte.
        prop_assert_eq!(&serde_json::to_string(&parsed).unwrap(), &canonical);
        match &row.detail {
            Detail::Sentence(told) => prop_assert_eq!(parsed["detail"].as_str(), Some(told.as_str())),
            Detail::Facts(facts) => prop_assert_eq!(&parsed["detail"].to_string(), facts),
        }
        prop_assert_eq!(&parsed["at"], &serde_json::json!(moment(row.at)));
        let line = row.line(Seal::FIRST, row.seal(Seal::FIRST));
        let line: serde_json::Value = serde_json::from_str(&line).unwrap();
        prop_assert_eq!(&line["seal"], &serde_json::json!(row.seal(Seal::FIRST).to_string()));
    }
}
