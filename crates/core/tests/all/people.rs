//! Names and addresses.

use proptest::prelude::*;
use zf_core::people::{email, name};

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
}
