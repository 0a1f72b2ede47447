//! Lines of the statements that a compared chart brings to the books' own.

use crate::books::{raise_revision, revision};
use crate::chart::structure;
use crate::journal::today::Snapshot;
use crate::member::Member;
use crate::{Store, StoreError, trail};
use std::collections::HashMap;
use zf_core::ids::LineId;
use zf_core::statement::Structure;

impl Store {
    /// Adds lines to the books' own structure, each at its place, and answers the identities that they
    /// have for good, by those that they were wanted with. No account is put under them by this.
    ///
    /// # Errors
    /// [`StoreError::Taken`] when the books changed since they were seen, [`StoreError::Busy`] when somebody
    /// else holds them for too long.
    pub async fn add_lines(
        &self,
        member: Member,
        seen: &Snapshot,
        wanted: &Structure,
    ) -> Result<HashMap<LineId, LineId>, StoreError> {
        let mut tx = self.write_alone(member).await?;
        if seen.books.revision != revision(&mut tx, member.books()).await? {
            return Err(StoreError::Taken("the books changed meanwhile; look at the file again"));
        }
        let known = seen.today.chart.structure();
        let ids = structure::extend(&mut tx, member.books(), known, wanted).await?;
        raise_revision(&mut tx, member.books()).await?;
        let names: Vec<&str> = wanted
            .lines()
            .filter(|line| ids.contains_key(&line.id))
            .map(|line| line.name.as_str())
            .collect();
        let detail = names.join(", ");
        trail::note(&mut tx, member.books(), member.person(), "added lines", &detail, None).await?;
        tx.commit().await?;
        Ok(ids)
    }
}
