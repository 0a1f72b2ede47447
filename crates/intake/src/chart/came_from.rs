//! Where each part of an account was found.

use zf_core::keyed;

keyed! {
    /// What told a part of an account.
    CameFrom {
        /// A cell of its own row, as it stands.
        Column = "column", "its column";
        /// The caption above it.
        Caption = "caption", "the caption above it";
        /// The row it stands under, or that stand under it.
        Parent = "parent", "the row it stands under";
        /// The codes around it.
        Range = "range", "the codes around it";
        /// Words that mean it.
        Wording = "wording", "its wording";
        /// The numbering scheme.
        Scheme = "scheme", "the numbering scheme";
    }
}

/// What told the parts of an account; none where nothing did.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Origins {
    /// The code.
    pub code: Option<CameFrom>,
    /// The class.
    pub class: Option<CameFrom>,
    /// Account, heading or sum line.
    pub kind: Option<CameFrom>,
    /// The heading it stands under.
    pub parent: Option<CameFrom>,
    /// That it is a contra account.
    pub contra: Option<CameFrom>,
    /// The line of the statements.
    pub caption: Option<CameFrom>,
    /// The control role.
    pub role: Option<CameFrom>,
}
