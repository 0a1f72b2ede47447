//! From which day accounts are deactivated or archived of which a file gives the status alone: that is asked.

use crate::question::{About, Answer, Asks, Gives, Means, Question};
use crate::reading::Reading;
use zf_core::chart::Account;

/// That they are so from the day on which the file is stored.
pub const STORED: &str = "stored";

/// That the day is not known, so that lines of any day come in.
pub(crate) const UNKNOWN: &str = "unknown";

/// Asks from which day they are deactivated or archived, where the file does not say.
pub(super) fn question<'a>(
    reading: &Reading,
    accounts: impl Iterator<Item = &'a Account>,
) -> Option<Question> {
    let retired = accounts.filter(|account| is_without_day(account)).count();
    let asked = retired > 0 && !reading.answers.contains_key(&About::StatusFrom);
    asked.then(|| Question {
        about: About::StatusFrom,
        asks: Asks::StatusFrom(retired),
        readings: vec![
            Answer::new(UNKNOWN, Means::DayUnknown, Gives::AnyDay),
            Answer::new(STORED, Means::DayStored, Gives::LaterAsked),
        ],
        default: Some(UNKNOWN.to_owned()),
    })
}

/// Whether an account takes no new lines and it is not known from when.
pub fn is_without_day(account: &Account) -> bool {
    use zf_core::chart::Status::{Archived, Deactivated};
    matches!(account.status, Deactivated | Archived) && account.status_from.is_none()
}
