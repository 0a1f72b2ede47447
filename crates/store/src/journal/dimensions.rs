//! Sets of dimension values in the database.

use crate::StoreError;
use crate::writing::Writing;
use sqlx::PgConnection;
use std::collections::HashMap;
use zf_core::dimension;
use zf_core::ids::BooksId;

/// The sets that lines are posted with: those that are there, and those that come along.
#[derive(Debug)]
pub(crate) struct Sets {
    known: HashMap<String, i64>,
    fresh: Vec<(i64, String)>,
}

impl Sets {
    /// The sets of the books.
    pub(crate) async fn read(
        connection: &mut PgConnection,
        books: BooksId,
    ) -> Result<Self, StoreError> {
        let rows =
            sqlx::query!("SELECT id, posted FROM dimension_set WHERE books_id = $1", books.0)
                .fetch_all(connection)
                .await?;
        let known = rows.into_iter().map(|row| (row.posted, row.id)).collect();
        Ok(Self { known, fresh: Vec::new() })
    }

    /// The set of the values that a line is posted with; `None` when it has none.
    pub(crate) fn of(&mut self, posted: &str) -> Option<i64> {
        if posted.is_empty() {
            return None;
        }
        if let Some(known) = self.known.get(posted) {
            return Some(*known);
        }
        let id = dimension::set_id(posted);
        self.known.insert(posted.to_owned(), id);
        self.fresh.push((id, posted.to_owned()));
        Some(id)
    }

    /// Writes the sets that came along, with their values. What somebody else wrote meanwhile stays.
    pub(crate) async fn write(self, tx: &mut Writing, books: BooksId) -> Result<(), StoreError> {
        let (ids, posted): (Vec<i64>, Vec<String>) = self.fresh.into_iter().unzip();
        sqlx::query!(
            "INSERT INTO dimension_set (books_id, id, posted)
             SELECT $1, s.* FROM unnest($2::bigint[], $3::text[]) AS s ON CONFLICT (books_id, posted) DO NOTHING",
            books.0,
            &ids,
            &posted
        )
        .execute(&mut *tx)
        .await?;
        let (mut sets, mut names, mut values) = (Vec::new(), Vec::new(), Vec::new());
        for (id, text) in ids.iter().zip(&posted) {
            for said in dimension::values(text) {
                sets.push(*id);
                names.push(said.name);
                values.push(said.value);
            }
        }
        sqlx::query!(
            "INSERT INTO dimension (books_id, name) SELECT DISTINCT $1::bigint, n FROM unnest($2::text[]) AS n
             ON CONFLICT (books_id, name) DO NOTHING",
            books.0,
            &names
        )
        .execute(&mut *tx)
        .await?;
        sqlx::query!(
            "INSERT INTO dimension_value (books_id, dimension_id, value)
             SELECT DISTINCT $1::bigint, d.id, s.value FROM unnest($2::text[], $3::text[]) AS s (name, value)
             JOIN dimension d ON d.books_id = $1 AND d.name = s.name
             ON CONFLICT (books_id, dimension_id, value) DO NOTHING",
            books.0,
            &names,
            &values
        )
        .execute(&mut *tx)
        .await?;
        sqlx::query!(
            "INSERT INTO dimension_set_value (books_id, set_id, value_id)
             SELECT $1, s.id, v.id FROM unnest($2::bigint[], $3::text[], $4::text[]) AS s (id, name, value)
             JOIN dimension d ON d.books_id = $1 AND d.name = s.name
             JOIN dimension_value v ON v.books_id = $1 AND v.dimension_id = d.id AND v.value = s.value
             ON CONFLICT DO NOTHING",
            books.0,
            &sets,
            &names,
            &values
        )
        .execute(tx)
        .await?;
        Ok(())
    }
}
