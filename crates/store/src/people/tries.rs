//! Tries to sign in: how many there were, by account, by client and by known device.

use crate::boxed;
use crate::trail::{Actor, ServerNote, note_for_server};
use crate::{Store, StoreError};
use zf_core::ids::PersonId;
use zf_core::trail::{Event, FailedTry};

/// So many tries for one account, from devices that are not known, count within [`WINDOW`].
pub const BY_ACCOUNT: i64 = 8;

/// So many tries of one client, for whatever accounts.
pub const BY_CLIENT: i64 = 24;

/// So many tries from a known device.
pub const BY_DEVICE: i64 = 8;

/// How long a try counts, in minutes.
pub const WINDOW: i32 = 15;

/// A try to sign in, or to guess at what only one person knows.
#[derive(Debug)]
pub struct Try {
    id: i64,
    /// Whether it is let through.
    pub within: bool,
}

impl Store {
    /// Counts a try to sign in, before the password is looked at, and lets it through unless there
    /// were too many: of this device, if the person signed in from it before, else of this client or
    /// for this account. `device` is the hash of what the device shows.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn try_sign_in(
        &self,
        email: &str,
        client: &str,
        device: Option<&[u8]>,
    ) -> Result<Try, StoreError> {
        sqlx::query!(
            "DELETE FROM sign_in_try WHERE at < now() - make_interval(mins => $1)",
            WINDOW
        )
        .execute(&self.pool)
        .await?;
        // Each try is there for all others to see before any is counted: of many at once no more than
        // the limit find themselves within it.
        let own = sqlx::query!(
            r#"INSERT INTO sign_in_try (email, client, device)
               VALUES (lower($1), $2, (SELECT d.hash FROM known_device d JOIN person p ON p.id = d.person_id
                                       WHERE d.hash = $3 AND p.email = lower($1)))
               RETURNING id, device"#,
            email,
            client,
            device
        )
        .fetch_one(&self.pool)
        .await?;
        let tries = sqlx::query!(
            r#"SELECT count(*) FILTER (WHERE device = $3) AS "of_device!",
                      count(*) FILTER (WHERE device IS NULL AND email = lower($1)) AS "for_account!",
                      count(*) FILTER (WHERE device IS NULL AND client = $2) AS "of_client!"
               FROM sign_in_try WHERE email = lower($1) OR client = $2"#,
            email,
            client,
            own.device.as_deref()
        )
        .fetch_one(&self.pool)
        .await?;
        let within = match own.device {
            Some(_) => tries.of_device <= BY_DEVICE,
            None => tries.for_account <= BY_ACCOUNT && tries.of_client <= BY_CLIENT,
        };
        Ok(Try { id: own.id, within })
    }

    /// Notes in the trail of the server that a try failed, and why: once of an address and a client for each
    /// reason within [`WINDOW`], and of tries beyond the limit once of a client, however many there are.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn note_failed_try(
        &self,
        tried: &Try,
        email: &str,
        client: &str,
        why: FailedTry,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        // Of many at once only one finds that nothing was noted.
        sqlx::query!("SELECT pg_advisory_xact_lock(hashtextextended($1, 0))", client)
            .execute(&mut tx)
            .await?;
        let first = sqlx::query!(
            "UPDATE sign_in_try SET noted = $4 WHERE id = $1 AND NOT EXISTS (
                 SELECT FROM sign_in_try WHERE client = $3 AND noted = $4 AND (email = lower($2) OR NOT $5))",
            tried.id,
            email,
            client,
            why.key(),
            tried.within
        );
        if first.execute(&mut tx).await?.rows_affected() == 0 {
            return Ok(());
        }
        let event = Event::FailedSignIn { client: client.to_owned(), why };
        let by = Actor::Called(email.to_lowercase());
        note_for_server(&mut tx, ServerNote { by, event: &event }).await?;
        tx.commit().await
    }

    /// Takes a try out of the count that guessed at nothing.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn forget_try(&self, tried: Try) -> Result<(), StoreError> {
        sqlx::query!("DELETE FROM sign_in_try WHERE id = $1", tried.id).execute(&self.pool).await?;
        Ok(())
    }

    /// Takes a try that succeeded out of the count, and knows the device from now on.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn signed_in(
        &self,
        tried: Try,
        person: PersonId,
        device: &[u8],
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        sqlx::query!("DELETE FROM sign_in_try WHERE id = $1", tried.id).execute(&mut tx).await?;
        sqlx::query!(
            "INSERT INTO known_device (hash, person_id) VALUES ($1, $2)
             ON CONFLICT (hash) DO UPDATE SET person_id = EXCLUDED.person_id, seen_at = now()",
            device,
            person.0
        )
        .execute(&mut tx)
        .await?;
        // Devices that nobody signed in from for a year are strangers again.
        sqlx::query!("DELETE FROM known_device WHERE seen_at < now() - interval '1 year'")
            .execute(&mut tx)
            .await?;
        tx.commit().await
    }
}
