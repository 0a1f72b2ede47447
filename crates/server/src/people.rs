//! What the server does about people that takes more than a call of the store: passwords, codes, links.

use crate::{App, Problem, secrets};
use time::{Duration, OffsetDateTime};
use zf_core::people::{Purpose, look_at_password};
use zf_store::StoreError;
use zf_store::people::Person;
use zf_store::people::links::Invitation;
use zf_store::trail::Actor;

/// Until when a link made now can be followed.
pub(crate) fn expiry(purpose: Purpose) -> OffsetDateTime {
    OffsetDateTime::now_utc() + Duration::hours(purpose.hours())
}

impl App {
    /// Whether a password is that of a hash; as slow when there is none, so that nobody learns which
    /// addresses there are.
    pub(crate) async fn is_password(
        &self,
        password: String,
        hash: Option<String>,
    ) -> Result<bool, Problem> {
        self.hashing(move || match hash {
            Some(hash) => password_auth::verify_password(password, &hash).is_ok(),
            None => {
                password_auth::generate_hash(password);
                false
            }
        })
        .await
    }

    /// That somebody who is signed in sits there themselves, before something is changed by which
    /// others could take their place.
    ///
    /// # Errors
    /// When the password is not theirs.
    pub(crate) async fn must_know(&self, who: &Person, password: String) -> Result<(), Problem> {
        if self.is_password(password, Some(who.password_hash.clone())).await? {
            return Ok(());
        }
        Err(Problem::field("password", "this is not your password"))
    }

    /// The hash of a new password of somebody who is known by these words.
    ///
    /// # Errors
    /// When it is too easily guessed.
    pub(crate) async fn take_password(
        &self,
        password: String,
        own: &[&str],
    ) -> Result<String, Problem> {
        look_at_password(&password, own).map_err(|why| Problem::field("password", why))?;
        self.hashing(move || password_auth::generate_hash(password)).await
    }

    /// Whether a code is that of somebody's second factor, or stands in for it. It is used up.
    pub(crate) async fn is_code(&self, person: &Person, code: &str) -> Result<bool, Problem> {
        let Some(factor) = self.store.factor(person.id).await? else { return Ok(false) };
        if let Some(step) = secrets::step_of(&factor.secret, &person.email, code)? {
            return Ok(self.store.take_step(person.id, step).await?);
        }
        let hash = secrets::hash(&secrets::as_drawn(code));
        Ok(self.store.use_recovery_code(person.id, &hash).await?)
    }

    /// Makes the link by which the first person comes in, and answers its address.
    ///
    /// # Errors
    /// When the store fails.
    pub async fn link_for_first(&self) -> Result<String, StoreError> {
        let shown = secrets::link();
        self.store.link_for_first(&shown.hash, expiry(Purpose::First)).await?;
        Ok(self.running.link(&shown.text))
    }

    /// Makes the link by which somebody chooses a new password, and answers its address.
    pub(crate) async fn link_for_password(
        &self,
        by: Actor,
        person: i64,
    ) -> Result<String, StoreError> {
        let shown = secrets::link();
        let until = expiry(Purpose::Password);
        self.store.link_for_password(by, person, &shown.hash, until).await?;
        Ok(self.running.link(&shown.text))
    }

    /// Invites somebody: makes the link, sends it, and answers it to be handed over as well.
    ///
    /// # Errors
    /// When the store fails. A letter that cannot be sent is logged, since the link is there.
    pub(crate) async fn invite(
        &self,
        by: &Person,
        invitation: &Invitation,
        to: &str,
    ) -> Result<String, Problem> {
        let shown = secrets::link();
        self.store.invite(by.id, &shown.hash, invitation).await?;
        let link = self.running.link(&shown.text);
        let text = format!(
            "Hello {},\n\n{} invites you to {to}. Follow this link within a week:\n\n{link}\n",
            invitation.name, by.name
        );
        let sent = self.running.mail().send(&invitation.email, "An invitation to Zero Fold", text);
        if let Err(problem) = sent.await {
            tracing::error!(cause = problem.cause, "an invitation was not sent");
        }
        Ok(link)
    }
}
