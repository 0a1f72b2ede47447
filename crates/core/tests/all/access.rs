//! Roles and what they allow.

use proptest::prelude::*;
use zf_core::access::{Capabilities, Capability as C, NoSuchRoles, Role, Roles};

fn roles() -> impl Strategy<Value = Vec<Role>> {
    prop::collection::vec(prop::sample::select(Role::ALL.to_vec()), 0..5)
}

proptest! {
    #[test]
    fn roles_together_allow_what_each_of_them_allows(roles in roles()) {
        let each: Vec<C> = roles.iter().flat_map(|role| role.bundle().iter().copied()).collect();
        match Roles::of(roles.clone()) {
            Ok(held) => {
                for capability in C::ALL {
                    prop_assert_eq!(held.capabilities().hold(*capability), each.contains(capability));
                }
                let left: Vec<C> = held.capabilities().when_archived().iter().collect();
                prop_assert!(left.iter().all(|c| held.capabilities().hold(*c)));
                prop_assert!(!left.iter().any(|c| matches!(c, C::Stage | C::Apply | C::Import | C::Configure)));
            }
            Err(NoSuchRoles::None) => prop_assert!(roles.is_empty()),
            Err(NoSuchRoles::GuestAndMore) => prop_assert!(roles.contains(&Role::Guest) && each.len() > 1),
        }
    }
}

#[test]
fn who_prepares_does_not_apply_and_who_applies_does_not_lay_down() {
    let of = |role: Role| Capabilities::of(role.bundle().iter().copied());
    assert!(of(Role::Preparer).hold(C::Stage) && !of(Role::Preparer).hold(C::Apply));
    assert!(of(Role::Reviewer).hold(C::Apply) && !of(Role::Reviewer).hold(C::Stage));
    assert!(!of(Role::Owner).hold(C::Stage) && !of(Role::Owner).hold(C::Override));
    assert_eq!(of(Role::Guest).iter().collect::<Vec<_>>(), [C::SeePlan]);
    let alone = Roles::alone().capabilities();
    assert!(C::ALL.iter().all(|capability| alone.hold(*capability)), "alone one can do all");
}
