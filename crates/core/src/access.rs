//! Who may do what in a set of books: capabilities, which actions want, and roles, which bundle them.
//!
//! The bundles keep apart who prepares a change, who lets it through and who lays down the rules that it
//! is judged by: the segregation of duties of COSO's Internal Control - Integrated Framework, principle 10.
//! Whoever works alone holds several roles at once.

use crate::keyed::keyed;
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;

keyed! {
    /// What an action on books wants.
    Capability {
        /// To see a plan with what it would do.
        SeePlan = "see_plan";
        /// To see everything of the books.
        See = "see";
        /// To export files.
        Export = "export";
        /// To say of something that was found why it stays as it is.
        Comment = "comment";
        /// To change plans.
        Stage = "stage";
        /// To import files and undo imports.
        Import = "import";
        /// To apply plans and undo them.
        Apply = "apply";
        /// To go on in spite of a stop.
        Override = "override";
        /// To lock periods.
        Lock = "lock";
        /// To open locked periods again.
        Unlock = "unlock";
        /// To change what the books lay down for themselves.
        Configure = "configure";
        /// To say who is a member.
        ManageMembers = "manage_members";
        /// To archive books, or delete them.
        Dispose = "dispose";
    }
}

keyed! {
    /// A bundle of capabilities that a member holds.
    Role {
        /// Answers for the books.
        Owner = "owner", "owner";
        /// Lets changes through.
        Reviewer = "reviewer", "reviewer";
        /// Prepares changes.
        Preparer = "preparer", "preparer";
        /// Looks only.
        Reader = "reader", "reader";
        /// Sees one plan, for a time.
        Guest = "guest", "guest";
    }
}

impl Role {
    /// What the role lets its holder do.
    pub const fn bundle(self) -> &'static [Capability] {
        use Capability as C;
        match self {
            Self::Owner => &[
                C::SeePlan,
                C::See,
                C::Export,
                C::Comment,
                C::Lock,
                C::Unlock,
                C::Configure,
                C::ManageMembers,
                C::Dispose,
            ],
            Self::Reviewer => {
                &[C::SeePlan, C::See, C::Export, C::Comment, C::Apply, C::Override, C::Lock]
            }
            Self::Preparer => &[C::SeePlan, C::See, C::Export, C::Comment, C::Stage, C::Import],
            Self::Reader => &[C::SeePlan, C::See, C::Export],
            Self::Guest => &[C::SeePlan],
        }
    }
}

/// The roles of one member.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(try_from = "BTreeSet<Role>")]
pub struct Roles(BTreeSet<Role>);

impl TryFrom<BTreeSet<Role>> for Roles {
    type Error = NoSuchRoles;

    fn try_from(roles: BTreeSet<Role>) -> Result<Self, NoSuchRoles> {
        Self::of(roles)
    }
}

/// Why roles cannot be held.
#[derive(Clone, Copy, Debug, PartialEq, Eq, thiserror::Error)]
pub enum NoSuchRoles {
    /// There is none.
    #[error("say at least one role")]
    None,
    /// A guest is nothing else.
    #[error("a guest, who sees one plan only, holds no other role")]
    GuestAndMore,
}

impl Roles {
    /// The roles of somebody who works alone: all that the work takes.
    pub fn alone() -> Self {
        Self([Role::Owner, Role::Reviewer, Role::Preparer].into())
    }

    /// Roles that one member holds together.
    ///
    /// # Errors
    /// When there are none, or a guest's stands beside others.
    pub fn of(roles: impl IntoIterator<Item = Role>) -> Result<Self, NoSuchRoles> {
        let roles: BTreeSet<Role> = roles.into_iter().collect();
        match roles.len() {
            0 => Err(NoSuchRoles::None),
            1 => Ok(Self(roles)),
            _ if roles.contains(&Role::Guest) => Err(NoSuchRoles::GuestAndMore),
            _ => Ok(Self(roles)),
        }
    }

    /// Which they are.
    pub fn iter(&self) -> impl Iterator<Item = Role> + '_ {
        self.0.iter().copied()
    }

    /// Whether one of them is this one.
    pub fn hold(&self, role: Role) -> bool {
        self.0.contains(&role)
    }

    /// All that they let their holder do.
    pub fn capabilities(&self) -> Capabilities {
        Capabilities::of(self.iter().flat_map(|role| role.bundle().iter().copied()))
    }

    /// Their names, as a person reads them.
    pub fn words(&self) -> String {
        let words: Vec<_> = self.iter().map(Role::words).collect();
        words.join(", ")
    }
}

/// A set of capabilities.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Default)]
pub struct Capabilities(u32);

impl Capabilities {
    /// None but these.
    pub fn of(all: impl IntoIterator<Item = Capability>) -> Self {
        Self(all.into_iter().fold(0, |bits, capability| bits | 1 << capability as u32))
    }

    /// What is left of them in books that were put away: to look, and to say who may and for how long.
    pub fn when_archived(self) -> Self {
        use Capability as C;
        let left = Self::of([C::SeePlan, C::See, C::Export, C::ManageMembers, C::Dispose]);
        Self(self.0 & left.0)
    }

    /// Whether it is among them.
    pub const fn hold(self, capability: Capability) -> bool {
        self.0 & (1 << capability as u32) != 0
    }

    /// Which they are.
    pub fn iter(self) -> impl Iterator<Item = Capability> {
        Capability::ALL.iter().copied().filter(move |capability| self.hold(*capability))
    }
}
