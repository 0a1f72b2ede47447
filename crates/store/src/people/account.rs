//! What people change of themselves.

use super::sessions::end_all;
use super::{Person, lock};
use crate::boxed;
use crate::trail::{Actor, ServerNote, note_for_server};
use crate::writing::Writing;
use crate::{Store, StoreError};
use zf_core::ids::{PersonId, SessionId};
use zf_core::people::Forms;
use zf_core::trail::Event;

impl Store {
    /// Gives somebody another name.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn rename_person(&self, id: PersonId, name: &str) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let before = lock(&mut tx, id).await?.name;
        // Noted under the name that they had.
        let event = Event::ChangedName { from: before, to: name.to_owned() };
        note_for_server(&mut tx, ServerNote { by: Actor::Person(id), event: &event }).await?;
        sqlx::query!("UPDATE person SET name = $2 WHERE id = $1", id.0, name)
            .execute(&mut tx)
            .await?;
        tx.commit().await
    }

    /// Lays down how somebody likes dates and numbers written.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn choose_forms(
        &self,
        id: PersonId,
        Forms { dates, numbers }: Forms,
    ) -> Result<(), StoreError> {
        sqlx::query!(
            "UPDATE person SET date_form = $2, number_form = $3 WHERE id = $1",
            id.0,
            dates.key(),
            numbers.key()
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// Gives somebody another password. Whoever was signed in as them, but for `but`, is no more, and
    /// links for a new password lead nowhere.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn change_password(
        &self,
        by: Actor,
        id: PersonId,
        hash: &str,
        but: Option<SessionId>,
    ) -> Result<Person, StoreError> {
        let mut tx = self.write().await?;
        let person = lock(&mut tx, id).await?;
        sqlx::query!("UPDATE person SET password_hash = $2 WHERE id = $1", id.0, hash)
            .execute(&mut tx)
            .await?;
        sqlx::query!("DELETE FROM one_time_link WHERE person_id = $1", id.0)
            .execute(&mut tx)
            .await?;
        let ended = end_all(&mut tx, id, but).await?;
        let event = Event::ChangedPassword {
            person: Some(person.name.clone()),
            link: false,
            link_by: None,
            sessions: Some(ended),
        };
        note_for_server(&mut tx, ServerNote { by, event: &event }).await?;
        tx.commit().await?;
        Ok(person)
    }
}

/// Gives somebody another address to sign in with, and answers the one before. Links that were sent to that
/// lead nowhere any more.
pub(super) async fn take_address(
    tx: &mut Writing,
    id: PersonId,
    email: &str,
) -> Result<String, StoreError> {
    let before = lock(tx, id).await?.email;
    sqlx::query!("UPDATE person SET email = lower($2) WHERE id = $1", id.0, email)
        .execute(&mut *tx)
        .await?;
    sqlx::query!("DELETE FROM one_time_link WHERE person_id = $1", id.0).execute(&mut *tx).await?;
    let event = Event::ChangedEmail { from: before.clone(), to: email.to_owned() };
    note_for_server(tx, ServerNote { by: Actor::Person(id), event: &event }).await?;
    Ok(before)
}
