//! Names and e-mail addresses.

use crate::text;

/// The most characters of a name.
const LONGEST_NAME: usize = 120;

/// The most characters of an address: RFC 5321, section 4.5.3.1.3, without its brackets.
const LONGEST_ADDRESS: usize = 254;

/// Why a text is no name.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("give a name of 1 to {LONGEST_NAME} characters, on one line")]
pub struct NotAName;

/// Why a text is no address.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum NotAnAddress {
    /// It is none.
    #[error("“{0}” is no e-mail address")]
    None(String),
    /// It is longer than letters can be sent to.
    #[error("an e-mail address has at most {LONGEST_ADDRESS} characters")]
    Long,
}

/// The name of a person or a company, as it is kept: without white space around it.
///
/// # Errors
/// When it is empty, too long or holds what is not to be seen.
pub fn name(given: &str) -> Result<String, NotAName> {
    let name = given.trim();
    let fits = (1..=LONGEST_NAME).contains(&name.chars().count());
    let sound = text::look_at(name).is_ok() && !name.chars().any(char::is_control);
    (fits && sound).then(|| name.to_owned()).ok_or(NotAName)
}

/// An e-mail address, in small letters: people are found by it whatever letters they type. Whether
/// somebody reads what is sent there only a letter can tell.
///
/// # Errors
/// When there is no `@` between two parts, or white space in it; when it is too long.
pub fn email(given: &str) -> Result<String, NotAnAddress> {
    let address = given.trim().to_lowercase();
    let parts = address.rsplit_once('@');
    let sound = parts.is_some_and(|(local, domain)| {
        let within =
            |c: char| !c.is_whitespace() && !c.is_control() && !"<>,;:\"()[]\\".contains(c);
        !local.is_empty()
            && !domain.is_empty()
            && !domain.contains('@')
            && !local.contains('@')
            && address.chars().all(within)
    });
    if address.chars().count() > LONGEST_ADDRESS {
        return Err(NotAnAddress::Long);
    }
    if sound { Ok(address) } else { Err(NotAnAddress::None(given.trim().to_owned())) }
}
