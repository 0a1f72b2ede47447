//! Links that are followed once: for the first person, for whoever is invited, for who forgot a
//! password or has another address. Only the hash of what a link shows is kept. What whoever made a
//! link may do is looked at again when it is followed.

use super::account::take_address;
use super::sessions::end_all;
use super::{add, lock};
use crate::boxed;
use crate::member::{keys, roles};
use crate::trail::{Actor, ServerNote, note, note_around, note_for_server};
use crate::writing::Writing;
use crate::{Store, StoreError};
use time::OffsetDateTime;
use zf_core::access::{Capability, Roles};
use zf_core::ids::{BooksId, PersonId, PlanId};
use zf_core::people::Purpose;
use zf_core::trail::{Admitted, Event};

/// What somebody is let in to.
#[derive(Clone, Debug)]
pub struct Admission {
    /// The books.
    pub books: BooksId,
    /// As what.
    pub roles: Roles,
    /// The one plan of a guest.
    pub plan: Option<PlanId>,
    /// Until when.
    pub until: Option<OffsetDateTime>,
}

/// Somebody who is to be invited.
#[derive(Clone, Debug)]
pub struct Invitation {
    /// Their address, in small letters.
    pub email: String,
    /// Their name, which they can change.
    pub name: String,
    /// Whether they are to administer the server.
    pub administrator: bool,
    /// The books that they are let in to.
    pub admission: Option<Admission>,
    /// Until when they can follow the link.
    pub expires_at: OffsetDateTime,
}

/// A link that can be followed.
#[derive(Clone, Debug)]
pub struct Link {
    /// What for.
    pub purpose: Purpose,
    /// By whom, as far as that is known before.
    pub email: Option<String>,
    /// Their name, as far as that is known.
    pub name: Option<String>,
    /// Who made it.
    pub made_by: Option<String>,
    /// Until when.
    pub expires_at: OffsetDateTime,
    administrator: bool,
    person: Option<PersonId>,
    made_by_id: Option<PersonId>,
}

/// An invitation that nobody followed yet.
#[derive(Clone, Debug)]
pub struct Waiting {
    /// Their address.
    pub email: String,
    /// Their name.
    pub name: String,
    /// Who invited them.
    pub made_by: Option<String>,
    /// When.
    pub made_at: OffsetDateTime,
    /// Until when the link can be followed.
    pub expires_at: OffsetDateTime,
    /// Whether they are to administer the server.
    pub administrator: bool,
    /// What they are let in to as, when it is to books.
    pub roles: Option<Roles>,
    /// The name of the one plan of a guest.
    pub plan: Option<String>,
    /// Until when they are let in.
    pub until: Option<OffsetDateTime>,
}

/// What became of somebody who followed a link.
#[derive(Clone, Debug)]
pub struct FollowedLink {
    /// Who they are.
    pub person: PersonId,
    /// What the link was for.
    pub purpose: Purpose,
    /// Who made the link, if that was somebody else.
    pub made_by: Option<String>,
    /// The books that they were let in to.
    pub joined: Vec<BooksId>,
}

/// Somebody whose password was chosen by a link that somebody else had made.
#[derive(Clone, Debug)]
pub struct LinkUse {
    /// Whose password.
    pub name: String,
    /// Who had made the link.
    pub made_by: String,
    /// When it was followed.
    pub at: OffsetDateTime,
}

const NO_RIGHT: &str = "whoever made this link may not do so any more; ask for another";

const GONE: &str =
    "this link leads nowhere any more: it was followed, withdrawn, or is too old; ask for another";

impl Store {
    /// Makes the link by which the first person comes in. Those that were made before lead nowhere.
    ///
    /// # Errors
    /// When there are people already, or the database fails.
    #[boxed]
    pub async fn link_for_first(
        &self,
        hash: &[u8],
        expires_at: OffsetDateTime,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        sqlx::query!("DELETE FROM one_time_link WHERE purpose = 'first'").execute(&mut tx).await?;
        sqlx::query!(
            "INSERT INTO one_time_link (hash, purpose, administrator, expires_at) VALUES ($1, 'first', true, $2)",
            hash,
            expires_at
        )
        .execute(&mut tx)
        .await?;
        tx.commit().await
    }

    /// Makes the link by which somebody chooses a new password.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn link_for_password(
        &self,
        by: Actor,
        person: PersonId,
        hash: &[u8],
        expires_at: OffsetDateTime,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let of = lock(&mut tx, person).await?;
        sqlx::query!(
            "DELETE FROM one_time_link WHERE person_id = $1 AND purpose = 'password'",
            person.0
        )
        .execute(&mut tx)
        .await?;
        let (person_name, email) = (of.name.clone(), of.email.clone());
        let (made_by, event) = match by {
            Actor::Person(id) => (Some(id), Event::MadePasswordLink { person: person_name, email }),
            Actor::Called(_) => (None, Event::AskedForPassword { person: person_name, email }),
        };
        sqlx::query!(
            "INSERT INTO one_time_link (hash, purpose, email, name, person_id, made_by, expires_at)
             VALUES ($1, 'password', $2, $3, $4, $5, $6)",
            hash,
            of.email,
            of.name,
            person.0,
            made_by.map(|id| id.0),
            expires_at
        )
        .execute(&mut tx)
        .await?;
        note_for_server(&mut tx, ServerNote { by, event: &event }).await?;
        tx.commit().await
    }

    /// Makes the link by which somebody confirms that letters to a new address of theirs arrive. The one
    /// before leads nowhere.
    ///
    /// # Errors
    /// When somebody else has the address, or the database fails.
    #[boxed]
    pub async fn link_for_address(
        &self,
        person: PersonId,
        email: &str,
        hash: &[u8],
        expires_at: OffsetDateTime,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let of = lock(&mut tx, person).await?;
        free_address(&mut tx, person, email).await?;
        sqlx::query!(
            "DELETE FROM one_time_link WHERE person_id = $1 AND purpose = 'address'",
            person.0
        )
        .execute(&mut tx)
        .await?;
        sqlx::query!(
            "INSERT INTO one_time_link (hash, purpose, email, name, person_id, expires_at)
             VALUES ($1, 'address', lower($2), $3, $4, $5)",
            hash,
            email,
            of.name,
            person.0,
            expires_at
        )
        .execute(&mut tx)
        .await?;
        let event = Event::AskedForEmail { from: of.email, to: email.to_owned() };
        note_for_server(&mut tx, ServerNote { by: Actor::Person(person), event: &event }).await?;
        tx.commit().await
    }

    /// Whose password, of those who are in books that somebody owns, was chosen since an instant by a link
    /// that another had made; the latest first. The owner is among them.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn links_used_around(
        &self,
        owner: PersonId,
        since: OffsetDateTime,
    ) -> Result<Vec<LinkUse>, StoreError> {
        let uses = sqlx::query_as!(
            LinkUse,
            r#"SELECT p.name, b.name AS made_by, p.linked_at AS "at!"
               FROM person p JOIN person b ON b.id = p.linked_by
               WHERE p.linked_at >= $2 AND p.removed_at IS NULL AND (p.id = $1 OR EXISTS (
                   SELECT FROM membership m JOIN membership o ON o.books_id = m.books_id
                   WHERE m.person_id = p.id AND o.person_id = $1 AND 'owner' = ANY (o.roles)
                     AND (o.until IS NULL OR o.until > now())))
               ORDER BY p.linked_at DESC"#,
            owner.0,
            since
        );
        Ok(uses.fetch_all(&self.pool).await?)
    }

    /// Invites somebody by a link; one who was invited to the same before is invited anew.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn invite(
        &self,
        by: PersonId,
        hash: &[u8],
        invitation: &Invitation,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let books = invitation.admission.as_ref().map(|admission| admission.books.0);
        sqlx::query!(
            "DELETE FROM one_time_link l WHERE purpose = 'invitation' AND email = $1
             AND (SELECT max(books_id) FROM invited i WHERE i.link_hash = l.hash) IS NOT DISTINCT FROM $2",
            invitation.email,
            books
        )
        .execute(&mut tx)
        .await?;
        sqlx::query!(
            "INSERT INTO one_time_link (hash, purpose, email, name, administrator, made_by, expires_at)
             VALUES ($1, 'invitation', $2, $3, $4, $5, $6)",
            hash,
            invitation.email,
            invitation.name,
            invitation.administrator,
            by.0,
            invitation.expires_at
        )
        .execute(&mut tx)
        .await?;
        let invited = |roles: Option<&Roles>| Event::Invited {
            person: invitation.name.clone(),
            email: invitation.email.clone(),
            roles: roles.cloned(),
        };
        if let Some(admission) = &invitation.admission {
            sqlx::query!(
                "INSERT INTO invited (books_id, link_hash, roles, plan_id, until) VALUES ($1, $2, $3, $4, $5)",
                admission.books.0,
                hash,
                &keys(&admission.roles),
                admission.plan.map(|id| id.0),
                admission.until
            )
            .execute(&mut tx)
            .await?;
            note(&mut tx, admission.books, by, &invited(Some(&admission.roles)), None).await?;
        }
        let note = ServerNote { by: Actor::Person(by), event: &invited(None) };
        note_for_server(&mut tx, note).await?;
        tx.commit().await
    }

    /// The invitations that nobody followed yet: to books, or to the server alone.
    ///
    /// # Errors
    /// When the database fails.
    #[boxed]
    pub async fn waiting(&self, books: Option<BooksId>) -> Result<Vec<Waiting>, StoreError> {
        let rows = sqlx::query!(
            r#"SELECT l.email AS "email!", l.name AS "name!", p.name AS "made_by?", l.made_at, l.expires_at,
                      l.administrator, i.roles AS "roles?", i.until, n.name AS "plan?"
               FROM one_time_link l LEFT JOIN invited i ON i.link_hash = l.hash LEFT JOIN person p ON p.id = l.made_by
               LEFT JOIN plan n ON n.books_id = i.books_id AND n.id = i.plan_id
               WHERE l.purpose = 'invitation' AND l.expires_at > now() AND i.books_id IS NOT DISTINCT FROM $1
               ORDER BY l.email"#,
            books.map(|books| books.0)
        )
        .fetch_all(&self.pool)
        .await?;
        let waiting = rows.into_iter().map(|row| {
            Ok(Waiting {
                email: row.email,
                name: row.name,
                made_by: row.made_by,
                made_at: row.made_at,
                expires_at: row.expires_at,
                administrator: row.administrator,
                roles: row.roles.map(|keys| roles(&keys)).transpose()?,
                plan: row.plan,
                until: row.until,
            })
        });
        waiting.collect()
    }

    /// Withdraws the invitation of an address: to books, or to the server alone.
    ///
    /// # Errors
    /// When there is none, or the database fails.
    #[boxed]
    pub async fn withdraw(
        &self,
        by: PersonId,
        email: &str,
        books: Option<BooksId>,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let gone = sqlx::query!(
            "DELETE FROM one_time_link l WHERE purpose = 'invitation' AND email = $1
             AND (SELECT max(books_id) FROM invited i WHERE i.link_hash = l.hash) IS NOT DISTINCT FROM $2",
            email,
            books.map(|books| books.0)
        );
        if gone.execute(&mut tx).await?.rows_affected() == 0 {
            return Err(StoreError::NotFound("invitation"));
        }
        let event = Event::WithdrewInvitation { email: email.to_owned() };
        if let Some(books) = books {
            note(&mut tx, books, by, &event, None).await?;
        }
        note_for_server(&mut tx, ServerNote { by: Actor::Person(by), event: &event }).await?;
        tx.commit().await
    }

    /// What a link is for, as long as it can be followed.
    ///
    /// # Errors
    /// [`StoreError::Refused`] when it leads nowhere; when the database fails.
    #[boxed]
    pub async fn link(&self, hash: &[u8]) -> Result<Link, StoreError> {
        let mut tx = self.write().await?;
        find(&mut tx, hash).await
    }

    /// Follows a link by which somebody comes in or chooses a password: they have this name, address and
    /// password from now on.
    ///
    /// # Errors
    /// [`StoreError::Refused`] when it leads nowhere, or whoever made it may not do so any more; when the
    /// database fails.
    #[boxed]
    pub async fn follow_link(
        &self,
        hash: &[u8],
        email: &str,
        name: &str,
        password_hash: &str,
    ) -> Result<FollowedLink, StoreError> {
        let mut tx = self.write().await?;
        let link = find(&mut tx, hash).await?;
        let (purpose, made_by) = (link.purpose, link.made_by.clone());
        let (person, joined) = match purpose {
            Purpose::First | Purpose::Invitation => {
                join(&mut tx, &link, hash, email, name, password_hash).await?
            }
            Purpose::Password => (choose(&mut tx, &link, password_hash).await?, Vec::new()),
            Purpose::Address => return Err(StoreError::refused(GONE)),
        };
        sqlx::query!("DELETE FROM one_time_link WHERE hash = $1", hash).execute(&mut tx).await?;
        tx.commit().await?;
        Ok(FollowedLink { person, purpose, made_by, joined })
    }

    /// Follows a link by which a new address is confirmed. Answers whose it is, and the address before.
    ///
    /// # Errors
    /// [`StoreError::Refused`] when it leads nowhere, or the address became somebody else's; when the
    /// database fails.
    #[boxed]
    pub async fn confirm_address(&self, hash: &[u8]) -> Result<(PersonId, String), StoreError> {
        let mut tx = self.write().await?;
        let link = find(&mut tx, hash).await?;
        let (Purpose::Address, Some(person), Some(email)) = (link.purpose, link.person, link.email)
        else {
            return Err(StoreError::refused(GONE));
        };
        free_address(&mut tx, person, &email).await?;
        let before = take_address(&mut tx, person, &email).await?;
        tx.commit().await?;
        Ok((person, before))
    }
}

/// That nobody else signs in with an address.
async fn free_address(tx: &mut Writing, person: PersonId, email: &str) -> Result<(), StoreError> {
    let taken =
        sqlx::query!("SELECT id FROM person WHERE email = lower($1) AND id <> $2", email, person.0);
    match taken.fetch_optional(tx).await? {
        Some(_) => Err(StoreError::refused("this address cannot be taken; it is somebody else's")),
        None => Ok(()),
    }
}

/// Gives whoever follows a link for a new password that password. When somebody else had made the link, that
/// stands in the trails of all books that they are in.
async fn choose(
    tx: &mut Writing,
    link: &Link,
    password_hash: &str,
) -> Result<PersonId, StoreError> {
    let person = link.person.ok_or(StoreError::refused(GONE))?;
    sqlx::query!(
        "UPDATE person SET password_hash = $2, linked_at = CASE WHEN $3::bigint IS NOT NULL THEN now() ELSE linked_at END,
             linked_by = COALESCE($3, linked_by) WHERE id = $1",
        person.0,
        password_hash,
        link.made_by_id.map(|id| id.0)
    )
    .execute(&mut *tx)
    .await?;
    let ended = end_all(tx, person, None).await?;
    let changed = |sessions| Event::ChangedPassword {
        person: link.name.clone(),
        link: true,
        link_by: link.made_by.clone(),
        sessions,
    };
    if link.made_by.is_some() {
        note_around(tx, person, person, &changed(None)).await?;
    }
    let note = ServerNote { by: Actor::Person(person), event: &changed(Some(ended)) };
    note_for_server(tx, note).await?;
    Ok(person)
}

/// A link that can be followed, which nobody else follows meanwhile.
async fn find(tx: &mut Writing, hash: &[u8]) -> Result<Link, StoreError> {
    let row = sqlx::query!(
        r#"SELECT l.purpose, l.email, l.name, l.administrator, l.person_id, l.made_by AS made_by_id, l.expires_at,
                  (SELECT p.name FROM person p WHERE p.id = l.made_by) AS made_by
           FROM one_time_link l WHERE l.hash = $1 AND l.expires_at > now() FOR UPDATE"#,
        hash
    )
    .fetch_optional(&mut *tx)
    .await?
    .ok_or(StoreError::refused(GONE))?;
    let purpose = StoreError::known(Purpose::from_key(&row.purpose), &row.purpose)?;
    if purpose == Purpose::First {
        let any = sqlx::query_scalar!(
            r#"SELECT EXISTS (SELECT FROM person WHERE removed_at IS NULL) AS "any!""#
        );
        if any.fetch_one(&mut *tx).await? {
            return Err(StoreError::refused(GONE));
        }
    }
    if purpose != Purpose::First
        && let Some(maker) = row.made_by_id
    {
        may_still(tx, maker, hash, purpose, row.administrator).await?;
    }
    Ok(Link {
        purpose,
        email: row.email,
        name: row.name,
        made_by: row.made_by,
        expires_at: row.expires_at,
        administrator: row.administrator,
        person: row.person_id.map(PersonId),
        made_by_id: row.made_by_id.map(PersonId),
    })
}

/// That whoever made a link could make it now as well: who lets in to books manages their members, and who
/// lets in to the server, or has a password chosen, administers it.
async fn may_still(
    tx: &mut Writing,
    maker: i64,
    hash: &[u8],
    purpose: Purpose,
    administrator: bool,
) -> Result<(), StoreError> {
    let of = sqlx::query!(
        "SELECT administrator FROM person WHERE id = $1 AND removed_at IS NULL FOR SHARE",
        maker
    );
    let administers = of.fetch_optional(&mut *tx).await?.is_some_and(|of| of.administrator);
    let books = sqlx::query!(
        r#"SELECT m.roles AS "roles?" FROM invited i LEFT JOIN membership m ON m.books_id = i.books_id
               AND m.person_id = $2 AND (m.until IS NULL OR m.until > now())
           WHERE i.link_hash = $1"#,
        hash,
        maker
    )
    .fetch_all(&mut *tx)
    .await?;
    let mut may =
        administers || (purpose == Purpose::Invitation && !books.is_empty() && !administrator);
    for row in books {
        let held = row.roles.map(|keys| roles(&keys)).transpose()?;
        may &= held.is_some_and(|held| held.capabilities().hold(Capability::ManageMembers));
    }
    if may { Ok(()) } else { Err(StoreError::refused(NO_RIGHT)) }
}

async fn join(
    tx: &mut Writing,
    link: &Link,
    hash: &[u8],
    email: &str,
    name: &str,
    password_hash: &str,
) -> Result<(PersonId, Vec<BooksId>), StoreError> {
    let there =
        sqlx::query!("SELECT id FROM person WHERE email = lower($1) AND removed_at IS NULL", email);
    if there.fetch_optional(&mut *tx).await?.is_some() {
        return Err(StoreError::refused("somebody signs in with this address already; sign in"));
    }
    let person = add(tx, email, name, password_hash, link.administrator).await?;
    let admitted = sqlx::query!(
        "INSERT INTO membership (books_id, person_id, roles, plan_id, until)
         SELECT books_id, $2, roles, plan_id, until FROM invited WHERE link_hash = $1
         RETURNING books_id, roles, until",
        hash,
        person.0
    )
    .fetch_all(&mut *tx)
    .await?;
    for row in &admitted {
        let event = Event::AddedMember {
            person: name.to_owned(),
            roles: roles(&row.roles)?,
            until: row.until.map(|until| until.date()),
            way: Admitted::ByInvitation,
        };
        let by = link.made_by_id.unwrap_or(person);
        note(tx, BooksId(row.books_id), by, &event, None).await?;
    }
    let event = Event::Joined {
        email: email.to_owned(),
        invited_by: link.made_by.clone(),
        first: link.purpose == Purpose::First,
    };
    note_for_server(tx, ServerNote { by: Actor::Person(person), event: &event }).await?;
    Ok((person, admitted.into_iter().map(|row| BooksId(row.books_id)).collect()))
}
