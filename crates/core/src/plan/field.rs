//! What a plan can change of an account.

use crate::keyed::keyed;

keyed! {
    /// What a plan can change of an account.
    Field {
        /// Its code.
        Code = "code", "code";
        /// Its name.
        Name = "name", "name";
        /// Account, heading or sum line.
        Kind = "kind", "kind";
        /// Its class.
        Class = "class", "class";
        /// The line of the statements that it stands under.
        Caption = "caption", "statement item";
        /// The heading it stands under.
        Parent = "parent", "heading";
        /// Whether it is presented as a deduction from another account.
        Contra = "contra", "contra mark";
        /// The job the books rely on it for.
        Role = "role", "control role";
        /// The one currency it may hold.
        Currency = "currency", "fixed currency";
        /// What it is for.
        Description = "description", "description";
        /// The tax code that new lines start with.
        Tax = "tax", "tax code";
        /// What a sum line adds up.
        Intervals = "intervals", "codes added up";
        /// Which of its lines are to stand under other accounts.
        History = "history", "history";
        /// The file it came with; only of an account the plan adds.
        Origin = "origin", "origin";
        /// What becomes of it.
        Fate = "fate", "fate";
    }
}
