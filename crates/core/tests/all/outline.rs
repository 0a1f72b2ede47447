//! The chart as a set of rows and as an outline, on random charts.

use crate::books;
use crate::books::account;
use proptest::prelude::*;
use std::collections::{BTreeMap, HashMap};
use zf_core::chart::{Account, Chart, Class, Kind, Section, Status};
use zf_core::code::Code;
use zf_core::ids::AccountId;
use zf_core::ids::ItemId;
use zf_core::plan::edit::{Edit, NotEdited, Wanted};
use zf_core::plan::{Change, Plan};
use zf_core::statement::{ItemKind, StatementItem, Structure};

/// Rows with random codes; each may stand under any row that came before it.
fn charts() -> impl Strategy<Value = Chart> {
    let row = ("[0-9]{1,5}", any::<prop::sample::Index>(), 0..10u8);
    prop::collection::vec(row, 1..40).prop_map(|rows| {
        let mut accounts: Vec<Account> = Vec::new();
        for (id, (code, parent, kind)) in (1..).zip(rows) {
            let mut row = account(id, &code, &format!("Row {id}"), Class::Expense);
            if kind < 4 {
                row.kind = Kind::Heading;
            }
            if kind == 9 {
                (row.status, row.merged_into) = (Status::Merged, Some(AccountId(1)));
            }
            let above: Vec<_> = accounts.iter().filter(|a| a.kind == Kind::Heading).collect();
            if !above.is_empty() {
                row.parent = Some(parent.get(&above).id);
            }
            accounts.push(row);
        }
        Chart::new(accounts)
    })
}

proptest! {
    #[test]
    fn an_outline_holds_every_live_row_once_below_its_heading(chart in charts()) {
        let outline = chart.outline();
        prop_assert_eq!(outline.len(), chart.live().count());
        let places: HashMap<AccountId, usize> =
            outline.iter().enumerate().map(|(at, (row, _))| (row.id, at)).collect();
        prop_assert_eq!(places.len(), outline.len());
        for (at, (row, depth)) in outline.iter().enumerate() {
            match row.parent.filter(|p| chart.get(*p).is_some_and(Account::is_live)) {
                None => prop_assert_eq!(*depth, 0),
                Some(parent) => {
                    let above = places[&parent];
                    prop_assert!(above < at);
                    prop_assert_eq!(outline[above].1 + 1, *depth);
                    // Whatever stands between a row and its heading stands under that heading too.
                    prop_assert!(outline[above + 1..=at].iter().all(|(_, d)| d > &outline[above].1));
                }
            }
        }
    }

    #[test]
    fn rows_under_one_heading_stand_by_code(chart in charts()) {
        let mut last: HashMap<Option<AccountId>, Code> = HashMap::new();
        for (row, depth) in chart.outline() {
            let under = if depth == 0 { None } else { row.parent };
            if let Some(before) = last.insert(under, row.code.clone()) {
                prop_assert!(before.key() <= row.code.key());
            }
        }
    }

    #[test]
    fn a_chart_is_a_map_by_identity(actions in prop::collection::vec((0..12i64, any::<bool>()), 0..60)) {
        let (mut chart, mut model) = (Chart::default(), BTreeMap::new());
        for (n, (id, puts)) in actions.into_iter().enumerate() {
            if puts {
                let row = account(id, &format!("{n}"), &format!("Row {n}"), Class::Asset);
                chart.put(row.clone());
                model.insert(AccountId(id), row);
            } else {
                chart.remove(AccountId(id));
                model.remove(&AccountId(id));
            }
            prop_assert_eq!(&books::by_id(&chart), &model);
            for id in (0..12).map(AccountId) {
                prop_assert_eq!(chart.get(id), model.get(&id));
            }
        }
    }

    #[test]
    fn whoever_holds_a_history_is_live_or_nobody(merges in prop::collection::vec(0..10i64, 10)) {
        let rows = (0..10).zip(&merges).map(|(id, into)| {
            let mut row = account(id, &format!("{id}"), "Row", Class::Asset);
            if id != *into {
                (row.status, row.merged_into) = (Status::Merged, Some(AccountId(*into)));
            }
            row
        });
        let chart = Chart::new(rows);
        for id in (0..10).map(AccountId) {
            // Circles cannot be made by a plan, but damaged data must not hang the program.
            if let Some(holder) = chart.holder(id) {
                prop_assert!(holder.is_live());
            }
        }
    }
}

#[test]
fn every_section_belongs_to_a_class_and_has_words_of_its_own() {
    let mut words = std::collections::HashSet::new();
    for section in Section::ALL {
        assert!(!section.classes().is_empty());
        assert!(words.insert(section.words()), "{} twice", section.words());
        assert_eq!(Section::from_key(section.key()), Some(*section));
    }
    assert_eq!(Section::from_key("nothing"), None);
}

#[test]
fn every_standard_item_is_a_line_in_each_of_its_classes() {
    let lines = Structure::default();
    for section in Section::ALL {
        for class in Class::ALL {
            let line = lines.of_standard(*class, *section);
            assert_eq!(line.is_some(), section.classes().contains(class), "{section:?} {class:?}");
            let Some(line) = line else { continue };
            let heading = lines.items().find(|other| Some(other.id) == line.parent).unwrap();
            assert_eq!((heading.kind, heading.class), (ItemKind::Heading, *class));
            assert_eq!(lines.caption(line.id).as_ref(), Some(&line));
            assert!(lines.caption(heading.id).is_none(), "no account stands under a heading");
        }
    }
}

#[test]
fn a_retired_line_is_still_known_but_nothing_is_put_under_it() {
    let mut lines: Vec<StatementItem> = Structure::default().items().cloned().collect();
    let at = lines.iter().position(|line| line.standard == Some(Section::Staff)).unwrap();
    lines[at].retired = true;
    let own = StatementItem {
        id: ItemId(99),
        name: "Crews".to_owned(),
        standard: None,
        ..lines[at].clone()
    };
    let own = StatementItem { retired: false, ..own };
    let lines = Structure::new(lines.into_iter().chain([own]));
    let staff = lines.of_standard(Class::Expense, Section::Staff).unwrap();
    assert!(lines.caption(staff.id).is_some());
    assert!(lines.captions().all(|line| line.id != staff.id));
    // Rules are silent about a line that is none of the standard ones.
    let crews = lines.caption(ItemId(99));
    let code = Code::parse("5600").unwrap();
    let account = Account {
        caption: crews,
        ..Account::new(AccountId(1), code, "Drivers".to_owned(), Class::Expense)
    };
    assert_eq!((account.standard(), account.caption_words()), (None, "Crews"));
    let chart = Chart::under(lines, [account]);
    let put = |line| Edit {
        account: AccountId(1),
        seen: None,
        wanted: Wanted::Stage(Change::Caption(Some(line))),
    };
    let mut plan = Plan::default();
    let day = time::macros::date!(2026 - 11 - 30);
    let refused = Err(NotEdited::NoSuchLine(AccountId(1)));
    assert_eq!(plan.edit(&chart, &[put(staff.id)], day), refused);
    assert_eq!(plan.edit(&chart, &[put(ItemId(12_345))], day), refused);
    assert!(plan.edit(&chart, &[put(ItemId(2))], day).is_ok());
}

#[test]
fn only_live_accounts_bear_a_code() {
    let mut old = account(2, "10 10", "Old", Class::Asset);
    (old.status, old.merged_into) = (Status::Merged, Some(AccountId(1)));
    let chart = Chart::new([account(1, "1010", "Bank", Class::Asset), old]);
    let bearer = chart.by_code(&Code::parse("1010").unwrap().key()).unwrap();
    assert_eq!(bearer.label(), "1010 Bank");
    assert_eq!(chart.holder(AccountId(2)).unwrap().id, AccountId(1));
    assert!(chart.holder(AccountId(3)).is_none());
}
