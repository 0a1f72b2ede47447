//! What stands in the way of taking a file back.

use crate::Style;
use zf_core::rollback::Blocker;

/// What stands in the way, in a sentence.
pub fn blocker(blocker: &Blocker, style: Style) -> String {
    match blocker {
        Blocker::Locked => "Some of its lines lie in a locked period.".to_owned(),
        Blocker::Applied { plan, account } => {
            format!("“{plan}” was applied since and changed {account}; undo it first.")
        }
        Blocker::OtherLines { account, lines } => {
            format!("{account} has {} of other files.", style.counted(lines, "line"))
        }
        Blocker::UsedElsewhere { account } => {
            format!("{account} is named in the where-used list of another file.")
        }
        Blocker::StandsUnder { account, heading } => format!("{account} stands under {heading}."),
    }
}
