//! What is asked of a password, after NIST SP 800-63B, section 5.1.1.2: a length, and that it is not
//! among those that are guessed first. Nothing is said of which characters it is made of.

/// The fewest characters of a password.
pub const SHORTEST: usize = 12;

/// The most characters: a sentence, and no load for who hashes it.
const LONGEST: usize = 128;

/// How many characters there must be beside one's own name and address.
const BESIDE_OWN: usize = 8;

/// From how many characters on a word is somebody's own.
const TELLING: usize = 3;

/// Why a password is not taken.
#[derive(Clone, Copy, Debug, PartialEq, Eq, thiserror::Error)]
pub enum TooWeak {
    /// It is short.
    #[error(
        "a password has at least {SHORTEST} characters; a few words that do not belong together are easily kept in mind"
    )]
    Short,
    /// It is long.
    #[error("a password has at most {LONGEST} characters")]
    Long,
    /// It is one of those that are guessed first.
    #[error(
        "this is among the first passwords that are guessed: a common one, a pattern of the keyboard, or one's own name; take words that do not belong together"
    )]
    Common,
}

/// Whether a password can be taken by a person who is known by these words: their name, their address.
/// It is held against lists of common passwords, names and words that ship with the library that
/// estimates how soon it is guessed.
///
/// # Errors
/// Why it cannot.
pub fn look_at(password: &str, own: &[&str]) -> Result<(), TooWeak> {
    let length = password.chars().count();
    if length < SHORTEST {
        return Err(TooWeak::Short);
    }
    if length > LONGEST {
        return Err(TooWeak::Long);
    }
    let own: Vec<&str> =
        own.iter().flat_map(|words| words.split(|c: char| !c.is_alphanumeric())).collect();
    let mut rest = password.to_lowercase();
    for word in own.iter().filter(|word| word.chars().count() >= TELLING) {
        rest = rest.replace(&word.to_lowercase(), "");
    }
    if rest.chars().count() < BESIDE_OWN {
        return Err(TooWeak::Common);
    }
    let score = zxcvbn::zxcvbn(password, &own).score();
    if score < zxcvbn::Score::Three { Err(TooWeak::Common) } else { Ok(()) }
}
