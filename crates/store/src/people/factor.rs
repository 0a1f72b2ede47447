//! A second factor: a secret that somebody's device shares (RFC 6238), and the codes that stand in for
//! it once each when the device is lost. What a code must be is computed by the server.

use super::lock;
use crate::boxed;
use crate::trail::{Actor, ServerNote, note_around, note_for_server};
use crate::{Store, StoreError};
use zf_core::ids::PersonId;
use zf_core::trail::Event;

/// The secret of a second factor.
#[derive(Clone, Debug)]
pub struct Factor {
    /// The bytes that both sides share.
    pub secret: Vec<u8>,
    /// Whether it is asked for by now, or was only proposed.
    pub confirmed: bool,
}

impl Store {
    /// Somebody's second factor, if they have or were proposed one.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn factor(&self, person: PersonId) -> Result<Option<Factor>, StoreError> {
        let row = sqlx::query!(
            r#"SELECT factor_secret AS "secret!", factor_since IS NOT NULL AS "confirmed!" FROM person
               WHERE id = $1 AND factor_secret IS NOT NULL"#,
            person.0
        );
        let row = row.fetch_optional(&self.pool).await?;
        Ok(row.map(|row| Factor { secret: row.secret, confirmed: row.confirmed }))
    }

    /// Keeps the secret of a factor that is not asked for yet.
    ///
    /// # Errors
    /// When one is asked for already, or the database fails.
    #[boxed]
    pub async fn propose_factor(&self, person: PersonId, secret: &[u8]) -> Result<(), StoreError> {
        let kept = sqlx::query!(
            "UPDATE person SET factor_secret = $2 WHERE id = $1 AND factor_since IS NULL",
            person.0,
            secret
        );
        if kept.execute(&self.pool).await?.rows_affected() == 0 {
            return Err(StoreError::refused("a second factor is there already; remove it first"));
        }
        Ok(())
    }

    /// Takes a step of the clock that a right code was of. No step is taken twice, nor one before one
    /// that was taken: whoever looked over a shoulder comes too late.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn take_step(&self, person: PersonId, step: i64) -> Result<bool, StoreError> {
        let taken = sqlx::query!(
            "UPDATE person SET factor_step = $2 WHERE id = $1 AND factor_step < $2",
            person.0,
            step
        );
        Ok(taken.execute(&self.pool).await?.rows_affected() == 1)
    }

    /// Asks for the proposed factor from now on, and keeps the hashes of the codes that stand in for it.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn confirm_factor(
        &self,
        person: PersonId,
        codes: &[Vec<u8>],
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        lock(&mut tx, person).await?;
        sqlx::query!("UPDATE person SET factor_since = now() WHERE id = $1", person.0)
            .execute(&mut tx)
            .await?;
        sqlx::query!("DELETE FROM recovery_code WHERE person_id = $1", person.0)
            .execute(&mut tx)
            .await?;
        sqlx::query!(
            "INSERT INTO recovery_code (person_id, hash) SELECT $1, h FROM unnest($2::bytea[]) AS h",
            person.0,
            codes
        )
        .execute(&mut tx)
        .await?;
        let note = ServerNote { by: Actor::Person(person), event: &Event::AddedFactor {} };
        note_for_server(&mut tx, note).await?;
        tx.commit().await
    }

    /// Uses up one of the codes that stand in for the factor.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn use_recovery_code(
        &self,
        person: PersonId,
        hash: &[u8],
    ) -> Result<bool, StoreError> {
        let mut tx = self.write().await?;
        let used = sqlx::query!(
            "DELETE FROM recovery_code WHERE person_id = $1 AND hash = $2",
            person.0,
            hash
        );
        if used.execute(&mut tx).await?.rows_affected() == 0 {
            return Ok(false);
        }
        let left = sqlx::query_scalar!(
            r#"SELECT count(*) AS "count!" FROM recovery_code WHERE person_id = $1"#,
            person.0
        )
        .fetch_one(&mut tx)
        .await?;
        let event = Event::UsedRecoveryCode { left };
        note_for_server(&mut tx, ServerNote { by: Actor::Person(person), event: &event }).await?;
        tx.commit().await?;
        Ok(true)
    }

    /// How many codes are left that stand in for the factor.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn recovery_codes_left(&self, person: PersonId) -> Result<i64, StoreError> {
        let left = sqlx::query_scalar!(
            r#"SELECT count(*) AS "count!" FROM recovery_code WHERE person_id = $1"#,
            person.0
        );
        Ok(left.fetch_one(&self.pool).await?)
    }

    /// Asks somebody for no second factor any more. When somebody else had it removed, that stands in the
    /// trails of all books that they are in.
    ///
    /// # Errors
    /// When there is no such person, they have no factor, or the database fails.
    #[boxed]
    pub async fn remove_factor(&self, by: Actor, person: PersonId) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let of = lock(&mut tx, person).await?;
        if of.factor_since.is_none() {
            return Err(StoreError::refused(format!("{} has no second factor", of.name)));
        }
        sqlx::query!(
            "UPDATE person SET factor_secret = NULL, factor_since = NULL WHERE id = $1",
            person.0
        )
        .execute(&mut tx)
        .await?;
        sqlx::query!("DELETE FROM recovery_code WHERE person_id = $1", person.0)
            .execute(&mut tx)
            .await?;
        let event = Event::RemovedFactor { person: of.name };
        if let Actor::Person(by) = by
            && by != person
        {
            note_around(&mut tx, person, by, &event).await?;
        }
        note_for_server(&mut tx, ServerNote { by, event: &event }).await?;
        tx.commit().await
    }
}
