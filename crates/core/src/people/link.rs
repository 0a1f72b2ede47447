//! Links that are followed once.

use crate::keyed::keyed;

keyed! {
    /// What a link is for.
    Purpose {
        /// To be the first person of a server, and its administrator.
        First = "first", "to be the first person here";
        /// To join.
        Invitation = "invitation", "to join";
        /// To choose a new password.
        Password = "password", "to choose a new password";
        /// To confirm that letters to a new address arrive.
        Address = "address", "to confirm a new address";
    }
}

impl Purpose {
    /// For how many hours such a link can be followed. OWASP ASVS 2.5 wants recovery to be short.
    pub const fn hours(self) -> i64 {
        match self {
            Self::First => 24,
            Self::Invitation => 7 * 24,
            Self::Address => 24,
            Self::Password => 1,
        }
    }
}
