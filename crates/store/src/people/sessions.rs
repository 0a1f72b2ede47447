//! Where people are signed in. What a browser shows is kept by the server's sessions and names one of
//! these, so that one that is ended here ends there.

use super::{Person, PersonRow, lock};
use crate::boxed;
use crate::trail::{Actor, ServerNote, note_for_server};
use crate::writing::Writing;
use crate::{Store, StoreError};
use time::OffsetDateTime;
use zf_core::ids::{PersonId, SessionId};
use zf_core::trail::Event;

/// Somebody's session.
#[derive(Clone, Debug)]
pub struct PersonSession {
    /// Identity.
    pub id: SessionId,
    /// When they signed in.
    pub begun_at: OffsetDateTime,
    /// When it was used, to the hour.
    pub used_at: OffsetDateTime,
    /// The address that they came from.
    pub client: String,
    /// What their browser calls itself.
    pub agent: String,
}

impl Store {
    /// Begins a session and notes the sign-in.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn begin_session(
        &self,
        person: PersonId,
        client: &str,
        agent: &str,
    ) -> Result<SessionId, StoreError> {
        let mut tx = self.write().await?;
        let id = sqlx::query_scalar!(
            "INSERT INTO person_session (person_id, client, agent) VALUES ($1, $2, $3) RETURNING id",
            person.0,
            client,
            agent
        )
        .fetch_one(&mut tx)
        .await?;
        // A session that nobody used for longer than a browser is known for is over.
        sqlx::query!("DELETE FROM person_session WHERE used_at < now() - interval '8 days'")
            .execute(&mut tx)
            .await?;
        let event = Event::SignedIn { client: client.to_owned() };
        note_for_server(&mut tx, ServerNote { by: Actor::Person(person), event: &event }).await?;
        tx.commit().await?;
        Ok(SessionId(id))
    }

    /// Whose session it is, as long as neither was ended.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn of_session(&self, id: SessionId) -> Result<Option<Person>, StoreError> {
        let person = sqlx::query_as!(
            PersonRow,
            "SELECT p.id, email, name, password_hash, administrator, date_form, number_form, factor_since
             FROM person_session s JOIN person p ON p.id = s.person_id
             WHERE s.id = $1 AND removed_at IS NULL",
            id.0
        );
        person.fetch_optional(&self.pool).await?.map(Person::try_from).transpose()
    }

    /// Writes down that a session is in use.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn use_session(&self, id: SessionId) -> Result<(), StoreError> {
        sqlx::query!("UPDATE person_session SET used_at = now() WHERE id = $1", id.0)
            .execute(&self.pool)
            .await?;
        Ok(())
    }

    /// Somebody's sessions, the last used first.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn sessions_of(&self, person: PersonId) -> Result<Vec<PersonSession>, StoreError> {
        let sessions = sqlx::query_as!(
            PersonSession,
            "SELECT id, begun_at, used_at, client, agent FROM person_session
             WHERE person_id = $1 ORDER BY used_at DESC, id DESC",
            person.0
        );
        Ok(sessions.fetch_all(&self.pool).await?)
    }

    /// Signs out of a session.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn sign_out(&self, person: PersonId, id: SessionId) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        sqlx::query!("DELETE FROM person_session WHERE id = $1 AND person_id = $2", id.0, person.0)
            .execute(&mut tx)
            .await?;
        let note = ServerNote { by: Actor::Person(person), event: &Event::SignedOut {} };
        note_for_server(&mut tx, note).await?;
        tx.commit().await
    }

    /// Ends one of somebody's own sessions.
    ///
    /// # Errors
    /// When they have no such session, or the database fails.
    #[boxed]
    pub async fn end_session(&self, person: PersonId, id: SessionId) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let ended = sqlx::query_scalar!(
            "DELETE FROM person_session WHERE id = $1 AND person_id = $2 RETURNING client",
            id.0,
            person.0
        )
        .fetch_optional(&mut tx)
        .await?
        .ok_or(StoreError::NotFound("session"))?;
        let event = Event::EndedSessions { client: Some(ended), others: 0 };
        note_for_server(&mut tx, ServerNote { by: Actor::Person(person), event: &event }).await?;
        tx.commit().await
    }

    /// Ends all of somebody's own sessions but one.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn end_other_sessions(
        &self,
        person: PersonId,
        but: SessionId,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        lock(&mut tx, person).await?;
        let ended = end_all(&mut tx, person, Some(but)).await?;
        let event = Event::EndedSessions { client: None, others: ended };
        note_for_server(&mut tx, ServerNote { by: Actor::Person(person), event: &event }).await?;
        tx.commit().await
    }
}

/// Ends all sessions of somebody, but one when that is given.
pub(crate) async fn end_all(
    tx: &mut Writing,
    person: PersonId,
    but: Option<SessionId>,
) -> Result<u64, StoreError> {
    let ended = sqlx::query!(
        "DELETE FROM person_session WHERE person_id = $1 AND id IS DISTINCT FROM $2",
        person.0,
        but.map(|id| id.0)
    );
    Ok(ended.execute(tx).await?.rows_affected())
}
