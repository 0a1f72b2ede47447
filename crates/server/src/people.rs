//! What the server does about people that takes more than a call of the store: passwords, codes, links.

use crate::boxed;
use crate::letters::News;
use crate::session::Client;
use crate::{App, Problem, passwords, secrets};
use axum::http::StatusCode;
use time::{Duration, OffsetDateTime};
use zf_core::ids::PersonId;
use zf_core::people::Purpose;
use zf_core::trail::FailedTry;
use zf_store::StoreError;
use zf_store::people::Person;
use zf_store::people::links::Invitation;
use zf_store::people::tries::Try;
use zf_store::trail::Actor;
use zf_wire::account::Credentials;
use zf_wire::problem::ProblemCode;

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
    /// others could take their place. Whoever guesses here is counted as one who guesses at the door.
    ///
    /// # Errors
    /// When the password is not theirs, or they have a second factor and the code is not of it; when
    /// there were too many tries.
    pub(crate) async fn must_know(
        &self,
        who: &Person,
        from: &Client,
        shown: Credentials,
    ) -> Result<(), Problem> {
        let tried = self.count_try(&who.email, from, None).await?;
        if !self.is_password(shown.password, Some(who.password_hash.clone())).await? {
            self.note_failure(&tried, &who.email, from, FailedTry::WrongPasswordForChange).await?;
            return Err(Problem::field("password", "this is not your password"));
        }
        if who.factor_since.is_some() {
            let code = shown.code.as_deref().map(str::trim).filter(|code| !code.is_empty());
            let Some(code) = code else {
                self.store.forget_try(tried).await?;
                let wanted = "type the code that your device shows, or one of your recovery codes";
                return Err(Problem::field("code", wanted));
            };
            if !self.is_code(who, code).await? {
                self.note_failure(&tried, &who.email, from, FailedTry::WrongCodeForChange).await?;
                return Err(Problem::field(
                    "code",
                    "this code is wrong, was used before, or is too old",
                ));
            }
        }
        Ok(self.store.forget_try(tried).await?)
    }

    /// Counts a try to be somebody, and lets it through unless there were too many.
    ///
    /// # Errors
    /// When there were too many.
    pub(crate) async fn count_try(
        &self,
        email: &str,
        from: &Client,
        device: Option<&[u8]>,
    ) -> Result<Try, Problem> {
        let tried = self.store.try_sign_in(email, &from.counted_as(), device).await?;
        if tried.within {
            return Ok(tried);
        }
        self.note_failure(&tried, email, from, FailedTry::TooMany).await?;
        let wait = "there were too many tries; wait 15 minutes and try again";
        Err(Problem::new(StatusCode::TOO_MANY_REQUESTS, ProblemCode::TooManyTries, wait))
    }

    /// Notes that a try failed, once within the time that tries count.
    ///
    /// # Errors
    /// When the store fails.
    pub(crate) async fn note_failure(
        &self,
        tried: &Try,
        email: &str,
        from: &Client,
        why: FailedTry,
    ) -> Result<(), Problem> {
        Ok(self.store.note_failed_try(tried, email, &from.counted_as(), why).await?)
    }

    /// The hash of a new password of somebody who is known by these words.
    ///
    /// # Errors
    /// When it is too easily guessed.
    pub(crate) async fn take_password(
        &self,
        field: &str,
        password: String,
        own: &[&str],
    ) -> Result<String, Problem> {
        passwords::look_at(&password, own).map_err(|why| Problem::field(field, why))?;
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
    #[boxed]
    pub async fn link_for_first(&self) -> Result<String, StoreError> {
        let shown = secrets::link();
        self.store.link_for_first(&shown.hash, expiry(Purpose::First)).await?;
        Ok(self.config.link(&shown.text))
    }

    /// Makes the link by which somebody chooses a new password who forgot theirs, and sends it to them.
    ///
    /// # Errors
    /// When the store fails, or the letter cannot be sent.
    pub(crate) async fn send_forgotten(&self, person: &Person) -> Result<(), Problem> {
        let shown = secrets::link();
        let until = expiry(Purpose::Password);
        let by = Actor::Called(person.email.clone());
        self.store.link_for_password(by, person.id, &shown.hash, until).await?;
        let text = format!(
            "Hello {},\n\nsomebody, most likely you, asked for a new password. Choose one here within an \
             hour:\n\n{}\n\nIf it was not you, do nothing: your password stays as it is.\n",
            person.name,
            self.config.link(&shown.text)
        );
        self.must_send(&person.email, "A new password for Zero Fold", text).await
    }

    /// Has the link by which somebody chooses a new password sent to them, and to nobody else; the owners of
    /// their books are told.
    ///
    /// # Errors
    /// When there is no such person, the store fails, or the letter cannot be sent.
    pub(crate) async fn send_password_link(
        &self,
        by: &Person,
        person: PersonId,
    ) -> Result<Person, Problem> {
        let person = self.store.person(person).await?.ok_or(StoreError::NotFound("person"))?;
        let shown = secrets::link();
        let until = expiry(Purpose::Password);
        self.store.link_for_password(Actor::Person(by.id), person.id, &shown.hash, until).await?;
        let text = format!(
            "Hello {},\n\n{} had this link sent to you. Choose a new password here within an hour:\n\n{}\n\nIf \
             you did not ask for it, do nothing: your password stays as it is.\n",
            person.name,
            by.name,
            self.config.link(&shown.text)
        );
        self.must_send(&person.email, "A new password for Zero Fold", text).await?;
        self.tell(&person, News::LinkSent { by: by.name.clone() }).await?;
        Ok(person)
    }

    /// Sends the link by which somebody confirms that a new address is theirs, and tells the one so far.
    ///
    /// # Errors
    /// When somebody else has the address, the store fails, or the letter cannot be sent.
    pub(crate) async fn send_address_link(
        &self,
        person: &Person,
        email: &str,
    ) -> Result<(), Problem> {
        let shown = secrets::link();
        let until = expiry(Purpose::Address);
        self.store.link_for_address(person.id, email, &shown.hash, until).await?;
        let text = format!(
            "Hello {},\n\nyou want to sign in as {email}. Confirm within a day that this letter came to \
             you:\n\n{}\n\nUntil then you sign in as {}.\n",
            person.name,
            self.config.link(&shown.text),
            person.email
        );
        self.must_send(email, "Confirm your address for Zero Fold", text).await?;
        let text = format!(
            "Hello {},\n\nsomebody who knows your password wants to sign in as {email} from now on, and no longer \
             as {}; a letter went there to confirm it. If it was not you, change your password at once.\n",
            person.name, person.email
        );
        self.post(&person.email, "Your address for Zero Fold is to be changed", text).await;
        Ok(())
    }

    /// Invites somebody: makes the link, and sends it to them and to nobody else.
    ///
    /// # Errors
    /// When the store fails, or the letter cannot be sent.
    pub(crate) async fn invite(
        &self,
        by: &Person,
        invitation: &Invitation,
        to: &str,
    ) -> Result<(), Problem> {
        let shown = secrets::link();
        self.store.invite(by.id, &shown.hash, invitation).await?;
        let text = format!(
            "Hello {},\n\n{} invites you to {to}. Follow this link within a week:\n\n{}\n",
            invitation.name,
            by.name,
            self.config.link(&shown.text)
        );
        self.must_send(&invitation.email, "An invitation to Zero Fold", text).await
    }

    /// Sends a letter that somebody waits for.
    ///
    /// # Errors
    /// When it cannot be sent, in words; why is logged.
    async fn must_send(&self, to: &str, subject: &str, text: String) -> Result<(), Problem> {
        self.config.mail().send(to, subject, text).await.map_err(|problem| {
            let said =
                format!("the letter to {to} could not be sent; try again when letters go out");
            let not_sent = Problem::new(StatusCode::BAD_GATEWAY, ProblemCode::LetterNotSent, said);
            Problem { cause: problem.cause, ..not_sent }
        })
    }
}
