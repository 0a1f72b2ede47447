//! What is said of a file that somebody imports: why a row cannot be taken, what is asked, what became of its rows.

mod causes;
mod questions;
mod rows;

pub use causes::{sentence, title};
pub use questions::{gives, means, question};
pub use rows::{crossing, kind, left_out, not_listed, read_as};

use crate::Style;
use zf_core::money::Currency;
use zf_intake::balances::CannotOpen;
use zf_intake::rows::Place;

/// Where a row stands.
pub fn place(place: &Place) -> String {
    match &place.sheet {
        None => format!("row {}", place.row),
        Some(sheet) => format!("row {} of “{sheet}”", place.row),
    }
}

/// Why balances cannot open the books.
pub fn cannot_open(why: &CannotOpen, currency: Currency, style: Style) -> String {
    match why {
        CannotOpen::Gap(gap) => format!(
            "debits and credits differ by {}; say that the opening difference account takes it, or complete the balances",
            style.money(currency, *gap)
        ),
        CannotOpen::NoDifferenceAccount => {
            "no active account has the control role opening difference; give one the role first"
                .to_owned()
        }
        CannotOpen::Locked => "the day lies in a locked period".to_owned(),
        CannotOpen::Opened(day) => {
            format!("the books were opened as of {} before", style.day(*day))
        }
        CannotOpen::NotPosting(account) => causes::not_posting(account),
        CannotOpen::Nothing => "all balances are zero".to_owned(),
        CannotOpen::TooLarge => "the difference is too large".to_owned(),
    }
}
