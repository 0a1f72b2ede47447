//! What is asked of a password.

use zf_server::passwords::{SHORTEST, TooWeak, look_at};

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
        assert_eq!(look_at(common, &[]), Err(TooWeak::Common), "{common}");
    }
    let own = look_at("hazelbrook1999", &["Hazel Brook", "hazel@larkfell.example"]);
    assert_eq!(own, Err(TooWeak::Common));
    for good in ["anvil toast meridian", "nine wet ledgers sing", "kV9#tq!mZ2pL"] {
        assert_eq!(look_at(good, &["Hazel Brook"]), Ok(()), "{good}");
    }
    assert_eq!(look_at(&"x y".repeat(50), &[]), Err(TooWeak::Long));
    assert_eq!(look_at("kV9#tq!mZ2p", &[]), Err(TooWeak::Short), "whatever it is made of");
}
