//! What is archived with an application: what it did, which undo needs, and the proof of it. Both are in forms
//! of their own, and what was archived in an earlier one is read for good.

pub mod earlier;
pub(super) mod effects;
pub mod proof;
