//! What is said of codes: whether one is free, why a rule finds none, and which numbering schemes there are.

use zf_core::code::Interval;
use zf_core::free_codes::Place;
use zf_core::numbering::rules::NoNewCode;
use zf_core::numbering::schemes::SchemeKind;

/// What is to be said of a code; `own` when its bearer is who asks.
pub fn place(place: &Place<'_>, own: bool) -> String {
    if let Some(objection) = &place.objection {
        return objection.to_string();
    }
    if let Some(bearer) = place.bearer.filter(|_| !own) {
        return format!("belongs to {}", bearer.name);
    }
    let between = match (place.before, place.after) {
        (Some(before), Some(after)) => {
            format!(", between {} and {}", before.label(), after.label())
        }
        (Some(before), None) => format!(", behind {}", before.label()),
        (None, Some(after)) => format!(", in front of {}", after.label()),
        (None, None) => String::new(),
    };
    let free = if own { "its own" } else { "free" };
    let outside = match place.outside.as_slice() {
        [] => String::new(),
        blocks => format!("; outside its block, {}", Interval::format_list(blocks)),
    };
    let former = place.former.first().map(|holder| format!("; formerly of {}", holder.label()));
    format!("{free}{between}{outside}{}", former.unwrap_or_default())
}

/// Why a rule finds no code for an account, as a sentence goes on after its name.
pub fn no_new_code(why: &NoNewCode) -> String {
    match why {
        NoNewCode::NotCounted(start) => {
            format!("{start} does not end in a number that could be counted up")
        }
        NoNewCode::RunsOut(start) => format!("the codes from {start} on run out before it"),
        NoNewCode::NoBlock(class) => {
            format!("the numbering scheme has no block for {}", class.words())
        }
        NoNewCode::NoRoom(blocks) => {
            format!("there is no room left for it in {}", Interval::format_list(blocks))
        }
        NoNewCode::NoPiece(error) => error.to_string(),
    }
}

/// What a numbering scheme is called, and whom it suits.
pub const fn scheme(kind: SchemeKind) -> (&'static str, &'static str) {
    match kind {
        SchemeKind::AsKept => (
            "As the chart keeps it",
            "The blocks of the classes in which nearly all codes lie already.",
        ),
        SchemeKind::FourDigits => (
            "Four digits, a block for each class",
            "For a chart that fits on two pages: the first digit says the class.",
        ),
        SchemeKind::SixDigits => (
            "Six digits, a block for each section",
            "For a chart that grows: every caption of the statements has room of its own.",
        ),
    }
}
