//! Names, addresses and passwords.

use proptest::prelude::*;
use zf_core::people::{SHORTEST, TooWeak, email, look_at_password, name};

proptest! {
    #[test]
    fn what_is_taken_for_an_address_is_found_again_by_itself(given in "\\PC{0,40}") {
        if let Ok(address) = email(&given) {
            prop_assert_eq!(email(&address), Ok(address.clone()));
            prop_assert!(address.matches('@').count() == 1 && !address.contains(char::is_whitespace));
            prop_assert_eq!(address.to_lowercase(), address);
        }
        if let Ok(taken) = name(&given) {
            prop_assert_eq!(name(&taken), Ok(taken.clone()));
            prop_assert!(!taken.is_empty() && taken.trim() == taken);
        }
    }

    #[test]
    fn a_short_password_is_refused_whatever_it_is_made_of(password in "\\PC{0,11}") {
        prop_assert_eq!(look_at_password(&password, &[]), Err(TooWeak::Short));
    }
}

#[test]
fn common_passwords_are_refused_and_unrelated_words_are_taken() {
    for common in [
        "password1234",
        "passwordpassword",
        "qwertyuiop123",
        "123456789012",
        "aaaaaaaaaaaa",
        "letmeinletmein",
        "iloveyou2026",
    ] {
        assert!(common.chars().count() >= SHORTEST, "{common}");
        assert_eq!(look_at_password(common, &[]), Err(TooWeak::Common), "{common}");
    }
    let own = look_at_password("hazelbrook1999", &["Hazel Brook", "hazel@larkfell.example"]);
    assert_eq!(own, Err(TooWeak::Common));
    for good in ["anvil toast meridian", "nine wet ledgers sing", "kV9#tq!mZ2pL"] {
        assert_eq!(look_at_password(good, &["Hazel Brook"]), Ok(()), "{good}");
    }
    assert_eq!(look_at_password(&"x y".repeat(50), &[]), Err(TooWeak::Long));
}
