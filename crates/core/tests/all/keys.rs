//! What identifies a stop: people's reasons for going on in spite of it are kept by this.

use time::macros::date;
use zf_core::chart::Class;
use zf_core::ids::{AccountId, ItemId};
use zf_core::rehearsal::cause::Cause;

fn across() -> [Cause; 3] {
    let (from, to) = (AccountId(7), AccountId(12));
    let places = ((Class::Asset, Some(ItemId(3))), (Class::Income, None));
    [
        Cause::ClassAcross { account: from, from: Class::Asset, to: Class::Expense, older: 3 },
        Cause::MoveAcross { from, to, lines: 5, classes: (Class::Liability, Class::Income) },
        Cause::LockedTotal { from, to, until: date!(2026 - 03 - 31), places },
    ]
}

#[test]
fn keys_stay_what_they_are() {
    let keys = across().map(|cause| cause.key());
    assert_eq!(
        keys,
        [
            "class_across:7:3a0d98b75ca3be16",
            "move_across:7-12:72ac16e0a6f880c1",
            "locked_total:7-12:412f51a6c01b2039"
        ],
        "drafts keep reasons by these: another form of them wants `earlier_key`"
    );
}

#[test]
fn keys_of_drafts_from_before_are_known() {
    let keys = across().map(|cause| cause.earlier_key().unwrap());
    assert_eq!(
        keys,
        [
            "class_across:7:e03a4c0e0e4b0ebe",
            "move_across:7-12:b696ca5d8a9ff52b",
            "locked_total:7-12:f98e82370e6ffda0"
        ]
    );
}
