//! The right of a person to a set of books: the only key to them.

use crate::boxed;
use crate::{Store, StoreError};
use zf_core::access::{Capabilities, Capability, Role, Roles};
use zf_core::ids::{BooksId, PersonId, PlanId};
use zf_core::people::{DateForm, Forms, NumberForm};

/// Somebody's right to a set of books. Only [`Store::member`] makes one.
#[derive(Clone, Copy, Debug)]
pub struct Member {
    person: PersonId,
    books: BooksId,
    may: Capabilities,
    /// The only plan that they see, if there is one.
    plan: Option<PlanId>,
    archived: bool,
    forms: Forms,
}

impl Member {
    /// The person.
    pub fn person(self) -> PersonId {
        self.person
    }

    /// The books.
    pub fn books(self) -> BooksId {
        self.books
    }

    /// What the person may do.
    pub fn capabilities(self) -> Capabilities {
        self.may
    }

    /// Whether the person may do something.
    pub fn may(self, capability: Capability) -> bool {
        self.may.hold(capability)
    }

    /// Whether the person may see a plan.
    pub fn sees_plan(self, plan: PlanId) -> bool {
        self.may(Capability::SeePlan) && self.plan.is_none_or(|only| only == plan)
    }

    /// Whether the books were put away, so that nothing is changed in them.
    pub fn is_archived(self) -> bool {
        self.archived
    }

    /// How the person likes dates and numbers written.
    pub fn forms(self) -> Forms {
        self.forms
    }

    /// The one plan of a guest.
    pub fn only_plan(self) -> Option<PlanId> {
        self.plan
    }
}

impl Store {
    /// Somebody's right to a set of books.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when the person is not a member, or not any more, as if there were no
    /// such books.
    #[boxed]
    pub async fn member(&self, person: PersonId, books: BooksId) -> Result<Member, StoreError> {
        let row = sqlx::query!(
            r#"SELECT roles, plan_id, archived_at IS NOT NULL AS "archived!", date_form, number_form
               FROM membership m JOIN books b ON b.id = m.books_id JOIN person p ON p.id = m.person_id
               WHERE books_id = $1 AND person_id = $2 AND (until IS NULL OR until > now())"#,
            books.0,
            person.0
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound("set of books"))?;
        let may = roles(&row.roles)?.capabilities();
        let may = if row.archived { may.when_archived() } else { may };
        let forms = forms(&row.date_form, &row.number_form)?;
        Ok(Member {
            person,
            books,
            may,
            plan: row.plan_id.map(PlanId),
            archived: row.archived,
            forms,
        })
    }
}

/// Forms of dates and numbers as they are stored.
pub(crate) fn forms(dates: &str, numbers: &str) -> Result<Forms, StoreError> {
    Ok(Forms {
        dates: StoreError::known(DateForm::from_key(dates), dates)?,
        numbers: StoreError::known(NumberForm::from_key(numbers), numbers)?,
    })
}

/// Roles as they are stored.
pub(crate) fn roles(keys: &[String]) -> Result<Roles, StoreError> {
    let each: Result<Vec<Role>, _> =
        keys.iter().map(|key| StoreError::known(Role::from_key(key), key)).collect();
    Roles::of(each?).map_err(StoreError::damaged)
}

/// Roles as they are stored.
pub(crate) fn keys(roles: &Roles) -> Vec<String> {
    roles.iter().map(|role| role.key().to_owned()).collect()
}
