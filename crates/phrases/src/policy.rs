//! The rules that books can tighten or relax: what holds by each, and why there is such a rule.

use zf_core::policy::RelaxableRule;

/// What holds by a rule.
pub const fn holds(rule: RelaxableRule) -> &'static str {
    match rule {
        RelaxableRule::OutsideBlock => "A code lies in a block of its class",
        RelaxableRule::ReusedCode => {
            "A code that another account used to bear is not given out again"
        }
        RelaxableRule::ArchiveWithBalance => "What is archived has no balance",
        RelaxableRule::ArchiveWhenRecent => {
            "What is archived has no line since the start of the prior fiscal year"
        }
    }
}

/// Why there is such a rule.
pub const fn reason(rule: RelaxableRule) -> &'static str {
    match rule {
        RelaxableRule::OutsideBlock => {
            "A code is read at a glance: its first digits say what kind of account it is."
        }
        RelaxableRule::ReusedCode => {
            "Old statements, exports and habits still mean the account that bore it before."
        }
        RelaxableRule::ArchiveWithBalance => {
            "What is out of sight and has a balance is missed when the books are closed."
        }
        RelaxableRule::ArchiveWhenRecent => {
            "This year's comparison and the return for last year still show it."
        }
    }
}
