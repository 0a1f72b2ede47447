//! What the review looks at beside the snapshot of the books.

use crate::people::Member;
use crate::{Store, StoreError};
use zf_core::ids::AccountId;
use zf_core::review::Sketches;

impl Store {
    /// With whom the lines of each account are.
    ///
    /// # Errors
    /// When the database fails.
    pub async fn sketches(&self, member: Member) -> Result<Sketches, StoreError> {
        let rows = sqlx::query!(
            r#"SELECT s.account_id, l.payee, count(*) AS "lines!"
               FROM line l JOIN strand s ON s.books_id = l.books_id AND s.id = l.strand_id
               WHERE l.books_id = $1 AND l.payee <> '' GROUP BY s.account_id, l.payee"#,
            member.books().0
        );
        let mut sketches = Sketches::default();
        for row in rows.fetch_all(&self.pool).await? {
            let lines = u32::try_from(row.lines).unwrap_or(u32::MAX);
            sketches.entry(AccountId(row.account_id)).or_default().see(&row.payee, lines);
        }
        Ok(sketches)
    }
}
