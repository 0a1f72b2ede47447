//! What people and files change of the items of the books' own statements.

use crate::books::{raise_revision, revision};
use crate::boxed;
use crate::chart::structure;
use crate::journal::today::Snapshot;
use crate::member::Member;
use crate::{Store, StoreError, trail};
use std::collections::HashMap;
use zf_core::ids::ItemId;
use zf_core::items::ItemChange;
use zf_core::statement::Structure;
use zf_core::trail::Event;

impl Store {
    /// Keeps the items of the books' own structure as they are wanted, and answers the identities that
    /// new ones have for good, by those that they were wanted with. `done` says it for the trail. No
    /// account is put under another item by this.
    ///
    /// # Errors
    /// [`StoreError::Taken`] when the books changed since they were seen, [`StoreError::Busy`] when somebody
    /// else holds them for too long, and a refusal when a draft would put accounts under an item that is to
    /// be retired.
    #[boxed]
    pub async fn keep_items(
        &self,
        member: Member,
        seen: &Snapshot,
        wanted: &Structure,
        done: &[ItemChange],
    ) -> Result<HashMap<ItemId, ItemId>, StoreError> {
        let mut tx = self.write_alone(member).await?;
        if seen.books.revision != revision(&mut tx, member.books()).await? {
            return Err(StoreError::Taken("the books changed meanwhile; look once more"));
        }
        let known = seen.today.chart.structure();
        let going = wanted.items().filter(|item| item.retired && known.offers(item.id));
        let going: Vec<i64> = going.map(|item| item.id.0).collect();
        let draft = sqlx::query_scalar!(
            "SELECT p.name FROM plan_change c JOIN plan p ON p.books_id = c.books_id AND p.id = c.plan_id
             WHERE c.books_id = $1 AND p.status = 'draft' AND c.field = 'caption'
               AND (c.change->>'value')::bigint = ANY($2) LIMIT 1",
            member.books().0,
            &going
        );
        if let Some(draft) = draft.fetch_optional(&mut tx).await? {
            return Err(StoreError::refused(format!(
                "the plan “{draft}” puts accounts under an item that was to be retired"
            )));
        }
        let ids = structure::keep(&mut tx, member.books(), known, wanted).await?;
        raise_revision(&mut tx, member.books()).await?;
        for change in done {
            let event = Event::ChangedItems { change: change.clone() };
            trail::note(&mut tx, member.books(), member.person(), &event, None).await?;
        }
        tx.commit().await?;
        Ok(ids)
    }
}
