//! Renumbering: what rules propose, where single codes stand, and the map of the code line.

use crate::books;
use crate::books::{plan, railway};
use proptest::prelude::*;
use std::collections::{BTreeSet, HashSet};
use zf_core::chart::{Account, Chart, Class, Kind, Section};
use zf_core::code::{Code, Interval};
use zf_core::free_codes::{free_in_block, place, under_line, usual_tax};
use zf_core::ids::AccountId;
use zf_core::numbering::inferred_blocks::inferred_blocks;
use zf_core::numbering::map::map;
use zf_core::numbering::pieces::{CodeEdit, Piece, Side};
use zf_core::numbering::preview::{changes, preview};
use zf_core::numbering::rules::{Copying, Proposed, Rule, adding, copies, propose};
use zf_core::numbering::schemes;
use zf_core::numbering::scope::{Order, Scope};
use zf_core::plan::Plan;
use zf_core::policy::{Block, CodeFormat};
use zf_core::rehearsal::rehearse;
use zf_core::today::Today;

fn code(text: &str) -> Code {
    Code::parse(text).unwrap()
}

fn spread(start: &str, step: u64, gap: u64, order: Order) -> Rule {
    Rule::Spread { start: code(start), step, gap, order }
}

/// `old>new` of every proposal, and the accounts that get none.
fn codes_and_refused(today: &Today, scope: &Scope, rule: &Rule) -> (String, Vec<i64>) {
    let proposed = propose(today, &today.chart, scope, rule);
    let codes = proposed.codes.iter().map(|p| format!("{}>{}", p.from, p.to));
    let refused = proposed.refused.iter().map(|r| r.account.0).collect();
    (codes.collect::<Vec<_>>().join(" "), refused)
}

const COSTS: Scope = Scope::Under(AccountId(5000));

#[test]
fn accounts_are_numbered_evenly_with_room_below_each_heading() {
    let today = railway();
    let (codes, refused) = codes_and_refused(&today, &COSTS, &spread("7000", 10, 0, Order::Code));
    assert_eq!(codes, "5000>7000 5010>7010 5020>7020 5030>7030 5040>7040 5099>7050");
    assert_eq!(refused, [0; 0]);
    let costs = Scope::Class(Class::Expense);
    let (codes, _) = codes_and_refused(&today, &costs, &spread("7000", 5, 100, Order::Code));
    assert!(codes.ends_with("5099>7025 6000>7130 6010>7135 6020>7140"), "{codes}");
    let (codes, refused) = codes_and_refused(&today, &COSTS, &spread("97", 1, 0, Order::Code));
    assert_eq!((codes.as_str(), refused), ("5000>97 5010>98 5020>99", vec![5030, 5040, 5099]));
}

#[test]
fn rows_are_sorted_within_their_heading_and_sums_stay_last() {
    let today = railway();
    let (codes, _) = codes_and_refused(&today, &COSTS, &spread("7000", 1, 0, Order::Balance));
    assert_eq!(codes, "5000>7000 5010>7001 5030>7002 5020>7003 5040>7004 5099>7005");
    let names = Scope::Under(AccountId(1000));
    let (codes, _) = codes_and_refused(&today, &names, &spread("1", 1, 0, Order::Name));
    assert_eq!(codes, "1000>1 1010>2 2010>3 1030>4 1020>5 1050>6");
}

#[test]
fn scopes_hold_who_they_name() {
    let today = railway();
    let rows = |scope: Scope| -> Vec<i64> {
        scope.rows(&today.chart, Order::Code, |_| 0).iter().map(|row| row.id.0).collect()
    };
    assert_eq!(rows(Scope::Words("50 coal".to_owned())), [5010, 5020]);
    assert_eq!(
        rows(Scope::Codes(Interval::parse_list("5020 to 5040, 6010").unwrap())),
        [5020, 5030, 5040, 6010]
    );
    assert_eq!(rows(Scope::Accounts([AccountId(6010), AccountId(1010)].into())), [1010, 6010]);
    assert_eq!(rows(Scope::Under(AccountId(6000))), [6000, 6010, 6020]);
    assert_eq!(rows(Scope::All).len(), today.chart.live().count());
}

#[test]
fn pieces_of_all_codes_are_rewritten_or_it_is_said_why_not() {
    let today = railway();
    let pad = CodeEdit::Pad { width: 6, side: Side::Back };
    let (codes, _) =
        codes_and_refused(&today, &COSTS, &Rule::Rewrite { piece: Piece::Whole, edit: pad });
    assert!(codes.starts_with("5000>500000 5010>501000"), "{codes}");
    let piece = Piece::Characters { from: 1, count: 2 };
    let edit = CodeEdit::Replace { reads: "50".to_owned(), with: "70".to_owned() };
    let (codes, _) =
        codes_and_refused(&today, &Scope::Class(Class::Expense), &Rule::Rewrite { piece, edit });
    assert!(codes.contains("5010>7010") && codes.contains("6010>6010"), "{codes}");
    let rule = Rule::Affix { prefix: "L-".to_owned(), suffix: String::new() };
    assert!(codes_and_refused(&today, &COSTS, &rule).0.starts_with("5000>L-5000"));
    let gone = Rule::Rewrite { piece: Piece::Segment(2), edit: CodeEdit::Remove };
    assert_eq!(codes_and_refused(&today, &COSTS, &gone).1.len(), 6);
}

/// The railway with a block for costs, and a section's own.
fn with_scheme() -> Today {
    let mut today = railway();
    let block = |section, codes| Block {
        class: Class::Expense,
        section,
        codes: Interval::parse_list(codes).unwrap().remove(0),
    };
    today.policy.format = CodeFormat::digits(4, 4);
    today.policy.blocks =
        vec![block(None, "6000 to 6999"), block(Some(Section::CostOfSales), "7000 to 7009")];
    today
}

#[test]
fn accounts_are_fitted_into_the_blocks_of_their_section_or_class() {
    let today = with_scheme();
    let fit = |step| Rule::Fit { step, order: Order::Code };
    // The heading and the sum line have no section, and go to the block of the class.
    let (codes, refused) = codes_and_refused(&today, &COSTS, &fit(None));
    assert_eq!(codes, "5000>6200 5010>7000 5020>7002 5030>7004 5040>7006 5099>6400");
    assert_eq!(refused, [0; 0]);
    let (_, refused) = codes_and_refused(&today, &COSTS, &fit(Some(5)));
    assert_eq!(refused, [5030, 5040], "7000 and 7005 are all there is");
    let (_, refused) = codes_and_refused(&today, &Scope::Class(Class::Asset), &fit(None));
    assert_eq!(refused.len(), 5, "assets have no block");
}

#[test]
fn codes_that_a_narrower_block_keeps_for_another_section_are_not_handed_out() {
    let mut today = railway();
    let block = |section, codes| Block {
        class: Class::Expense,
        section,
        codes: Interval::parse_list(codes).unwrap().remove(0),
    };
    today.policy.blocks =
        vec![block(None, "7000 to 7020"), block(Some(Section::Staff), "7000 to 7012")];
    let fit = Rule::Fit { step: Some(1), order: Order::Code };
    let (codes, refused) = codes_and_refused(
        &today,
        &Scope::Codes(Interval::parse_list("5010 to 5040").unwrap()),
        &fit,
    );
    assert_eq!(codes, "5010>7013 5020>7014 5030>7015 5040>7016");
    assert_eq!(refused, [0; 0]);
    let next = free_in_block(&today.chart, &today.policy, Class::Expense, None).unwrap();
    assert_ne!(next.as_str(), "7000", "it is kept for staff");
    let staff = free_in_block(&today.chart, &today.policy, Class::Expense, Some(Section::Staff));
    assert_eq!(staff.unwrap().as_str(), "7000");
}

#[test]
fn what_would_come_of_a_rule_is_said_before_it_is_staged() {
    let today = railway();
    let previewed = |scope: &Scope, rule: &Rule| {
        let proposed = propose(&today, &today.chart, scope, rule);
        preview(&today, &Plan::default(), changes(&proposed).collect::<Vec<_>>())
    };
    let shifted = previewed(&COSTS, &spread("5500", 10, 0, Order::Code));
    assert!(shifted.findings.is_empty(), "{:?}", shifted.findings);
    assert_eq!(shifted.out_of_order, []);
    let sum = shifted.rehearsal.after.get(AccountId(5099)).unwrap();
    assert_eq!(Interval::format_list(&sum.intervals), "5510 to 5540", "the same members");
    let clashing = previewed(&COSTS, &spread("5980", 10, 0, Order::Code));
    let rules: Vec<_> = clashing.findings.iter().map(|f| f.rule().key()).collect();
    assert_eq!(rules, ["code_taken"; 3], "6000, 6010 and 6020, with the next that is free");
    assert!(clashing.findings[0].remedies.len() > 1);
    let sorted = previewed(&COSTS, &spread("5000", 10, 0, Order::Balance));
    assert_eq!(sorted.out_of_order, [AccountId(5030)], "it stands before what it stood behind");
}

#[test]
fn new_accounts_are_made_after_existing_ones() {
    let mut today = railway();
    let mut coal = today.chart.get(AccountId(5010)).unwrap().clone();
    (coal.tax_code, coal.description) = (Some("T5".to_owned()), "For engines".to_owned());
    today.chart.put(coal);
    let proposed = propose(&today, &today.chart, &COSTS, &spread("7000", 10, 0, Order::Code));
    let copying = Copying { reads: "Coal".to_owned(), with: "Peat".to_owned() };
    let new = copies(&today.chart, &proposed, &copying, (9_000..).map(AccountId));
    let mut plan = Plan::default();
    adding(&new).for_each(|(id, change)| plan.stage(id, None, change));
    let rehearsal = rehearse(&today, &plan);
    assert_eq!(rehearsal.stops().count(), 0, "{:?}", rehearsal.findings);
    let peat = rehearsal.after.get(AccountId(9_001)).unwrap();
    assert_eq!((peat.label().as_str(), peat.parent), ("7010 Peat", Some(AccountId(9_000))));
    assert_eq!(
        (peat.tax_code.as_deref(), peat.standard()),
        (Some("T5"), Some(Section::CostOfSales))
    );
    assert_eq!(peat.description, "For engines");
    let sum = rehearsal.after.get(AccountId(9_005)).unwrap();
    assert_eq!(
        (sum.kind, Interval::format_list(&sum.intervals)),
        (Kind::Sum, "7000 to 7040".to_owned())
    );
}

#[test]
fn a_single_code_says_whether_it_is_free_and_where_it_would_stand() {
    let today = with_scheme();
    let says = |text: &str, class, section| {
        let caption = (class, section);
        let place = place(&code(text), &today.chart, &today.former, &today.policy, caption);
        zf_phrases::numbering::place(&place, false)
    };
    let cost = (Class::Expense, None);
    assert_eq!(says("6010", cost.0, cost.1), "belongs to Telephone");
    assert_eq!(says("6015", cost.0, cost.1), "free, between 6010 Telephone and 6020 Telegraph");
    assert_eq!(says("60150", cost.0, cost.1), "has 5 characters where these books use 4");
    let outside = says("5015", cost.0, Some(Section::CostOfSales));
    assert!(outside.ends_with("; outside its block, 7000 to 7009"), "{outside}");
    let free = |section| free_in_block(&today.chart, &today.policy, Class::Expense, section);
    assert_eq!(free(None), Some(code("6021")), "behind the last that is there");
    assert_eq!(free(Some(Section::CostOfSales)), Some(code("7000")), "none is there yet");
    assert_eq!(free_in_block(&today.chart, &today.policy, Class::Asset, None), Some(code("1051")));
    let costs = under_line(&today.chart, today.chart.get(AccountId(5010)).unwrap().place());
    assert_eq!((costs.len(), usual_tax(&costs)), (4, None));
}

#[test]
fn the_schemes_that_ship_leave_nobody_out() {
    for scheme in schemes::starting() {
        let mut today = railway();
        (today.policy.format, today.policy.blocks) = (scheme.format, scheme.blocks.clone());
        let fit = Rule::Fit { step: None, order: Order::Code };
        // Headings and sum lines have no section; where only sections have blocks, they share them.
        let proposed = propose(&today, &today.chart, &Scope::All, &fit);
        assert_eq!(proposed.refused, [], "{:?}", scheme.kind);
        let codes_and_refused =
            preview(&today, &Plan::default(), changes(&proposed).collect::<Vec<_>>());
        assert_eq!(codes_and_refused.findings, [], "{:?}", scheme.kind);
        assert_eq!(schemes::overlapping(&scheme.blocks), None, "{:?}", scheme.kind);
        for (a, block) in scheme.blocks.iter().enumerate() {
            let clashes = |other: &Block| {
                block.codes.contains(&other.codes.first().key()) && *other != *block
            };
            assert!(!scheme.blocks[a + 1..].iter().any(clashes), "{:?}", block.codes);
        }
    }
}

#[test]
fn blocks_are_inferred_from_the_codes_of_a_chart_and_can_be_set() {
    let rows = |codes: &[(&str, Class)]| {
        let row = |(n, (code, class)): (usize, &(&str, Class))| {
            books::account(1 + n as i64, code, &format!("Row {n}"), *class)
        };
        Chart::new(codes.iter().enumerate().map(row))
    };
    let (asset, income, expense) = (Class::Asset, Class::Income, Class::Expense);
    let shown = |chart: &Chart| -> Vec<(Class, String)> {
        inferred_blocks(chart)
            .into_iter()
            .map(|block| (block.class, block.codes.to_string()))
            .collect()
    };
    // One beginning holds two classes that part at the second character.
    let mut codes = vec![
        ("1010", asset),
        ("1020", asset),
        ("1530", asset),
        ("4110", income),
        ("4120", income),
        ("4130", income),
        ("4510", expense),
        ("4520", expense),
        ("4530", expense),
        ("5010", expense),
        ("5020", expense),
        ("6030", expense),
        ("6040", expense),
        ("6050", expense),
        ("5060", expense),
    ];
    let chart = rows(&codes);
    let said = [(asset, "1000 to 1999"), (income, "4100 to 4199"), (expense, "4500 to 6999")];
    assert_eq!(shown(&chart), said.map(|(class, codes)| (class, codes.to_owned())));
    let drawn = map(&chart, &chart, &railway().policy);
    assert_eq!((drawn.inferred, drawn.bands.len()), (railway().policy.blocks.is_empty(), 3));
    let scheme = schemes::inferred(&chart, railway().policy.format).unwrap();
    assert_eq!(schemes::overlapping(&scheme.blocks), None);

    // A stray among its block is one; a chart without blocks has none.
    codes.push(("5070", asset));
    assert_eq!(shown(&rows(&codes)).len(), 3);
    let mixed: Vec<String> = (1000..1040).map(|n| n.to_string()).collect();
    let classes = [asset, income, expense];
    let mixed: Vec<_> =
        mixed.iter().zip(classes.iter().cycle()).map(|(c, k)| (c.as_str(), *k)).collect();
    assert_eq!(shown(&rows(&mixed)), []);
}

fn random_chart(codes: BTreeSet<u32>) -> Chart {
    Chart::new(codes.into_iter().map(|n| {
        let class = if n % 3 == 0 { Class::Income } else { Class::Expense };
        books::account(n.into(), &format!("{n:04}"), &format!("Account {}", n % 17), class)
    }))
}

fn codes_of(proposed: &Proposed) -> Vec<&Code> {
    proposed.codes.iter().map(|proposal| &proposal.to).collect()
}

proptest! {
    #[test]
    fn codes_are_dealt_out_once_in_order_and_where_they_belong(
        codes in proptest::collection::btree_set(0..9_999u32, 1..80),
        step in 1..20u64,
    ) {
        let chart = random_chart(codes);
        let mut today = railway();
        today.policy.blocks = vec![Block {
            class: Class::Expense,
            section: None,
            codes: Interval::parse_list("5000 to 5999").unwrap().remove(0),
        }];
        today.chart = chart;
        let expenses = Scope::Class(Class::Expense);
        for rule in [spread("2000", step, 0, Order::Code), Rule::Fit { step: None, order: Order::Code }] {
            let proposed = propose(&today, &today.chart, &expenses, &rule);
            let codes = codes_of(&proposed);
            prop_assert!(codes.windows(2).all(|pair| pair[0].key() < pair[1].key()));
            let rows = today.chart.live().filter(|a| a.class == Class::Expense).count();
            prop_assert_eq!(codes.len() + proposed.refused.len(), rows);
            let codes_and_refused = preview(&today, &Plan::default(), changes(&proposed).collect::<Vec<_>>());
            prop_assert_eq!(codes_and_refused.out_of_order, vec![]);
            if matches!(rule, Rule::Fit { .. }) {
                prop_assert!(proposed.refused.is_empty());
                let block = &today.policy.blocks[0].codes;
                prop_assert!(codes.iter().all(|code| block.contains(&code.key())));
                prop_assert_eq!(codes_and_refused.findings, vec![], "nobody else's code is taken");
            }
        }
        let next = free_in_block(&today.chart, &today.policy, Class::Expense, None).unwrap();
        prop_assert!(today.chart.by_code(&next.key()).is_none());
    }

    #[test]
    fn blocks_that_are_kept_are_found_whole_whatever_strays(
        rows in proptest::collection::vec((0..5usize, 0..1_000u32), 60..150),
        strays in proptest::collection::btree_set(0..60usize, 0..3),
    ) {
        let class = |place: usize| Class::ALL[place % 5];
        let mut taken = BTreeSet::new();
        let rows = rows.into_iter().filter(|row| taken.insert(*row)).enumerate();
        let chart = Chart::new(rows.map(|(n, (place, number))| {
            let code = format!("{}{number:03}", place + 1);
            let class = class(if strays.contains(&n) { place + 1 } else { place });
            books::account(1 + n as i64, &code, &format!("Row {n}"), class)
        }));
        let blocks = inferred_blocks(&chart);
        prop_assert_eq!(schemes::overlapping(&blocks), None);
        for (n, block) in blocks.iter().enumerate() {
            // Neighbours of one class are one block.
            prop_assert!(n == 0 || blocks[n - 1].class != block.class || !strays.is_empty());
        }
        let inside = chart.live().filter(|row| blocks.iter().any(|b| b.codes.contains(&row.code.key())));
        let inside = inside.count();
        prop_assert!(blocks.is_empty() || inside * 10 >= chart.live().count() * 9);
        if strays.is_empty() && blocks.len() == 5 {
            let own = |row: &Account| blocks.iter().find(|b| b.codes.contains(&row.code.key()));
            prop_assert!(chart.live().all(|row| own(row).is_none_or(|block| block.class == row.class)));
        }
    }

    #[test]
    fn the_map_keeps_the_order_of_codes(codes in proptest::collection::btree_set(0..9_999u32, 1..80)) {
        let mut today = railway();
        today.chart = random_chart(codes);
        let drawn = map(&today.chart, &today.chart, &today.policy);
        let mut rows: Vec<&Account> = today.chart.live().collect();
        rows.sort_by_key(|row| row.code.key());
        let at = |row: &Account| drawn.ticks.iter().find(|tick| tick.account == row.id).unwrap().today.unwrap();
        prop_assert!(rows.windows(2).all(|pair| at(pair[0]) <= at(pair[1])));
        prop_assert!(rows.iter().all(|row| (0.0..=1.0).contains(&at(row))));
        let inside = |row: &&&Account| drawn.bands.iter().any(|b| b.codes.contains(&row.code.key()));
        let sum = drawn.bands.iter().map(|band| band.today).sum::<usize>();
        prop_assert_eq!(sum, rows.iter().filter(inside).count());
        prop_assert!(drawn.inferred || sum == rows.len());
        for band in drawn.bands {
            let taken: HashSet<_> = rows.iter().map(|row| row.code.key()).collect();
            if let Some(free) = band.free {
                prop_assert!(!taken.iter().any(|key| free.contains(key)));
            }
        }
    }

    #[test]
    fn renumbering_a_heading_leaves_every_sum_its_members(start in 1_000..9_000u32, step in 1..30u64) {
        let today = railway();
        let proposed = propose(&today, &today.chart, &COSTS, &spread(&start.to_string(), step, 0, Order::Name));
        let codes_and_refused = preview(&today, &Plan::default(), changes(&proposed).collect::<Vec<_>>());
        let members = |chart: &Chart| -> BTreeSet<AccountId> {
            let sum = chart.get(AccountId(5099)).unwrap();
            let inside = |a: &&Account| {
                a.is_posting() && sum.intervals.iter().any(|i| i.contains(&a.code.key()))
            };
            chart.live().filter(inside).map(|a| a.id).collect()
        };
        if !codes_and_refused.findings.iter().any(|f| f.rule().key() == "code_taken") {
            prop_assert_eq!(members(&codes_and_refused.rehearsal.after), members(&today.chart));
        }
        prop_assert_eq!(plan(&today, "").targets.len(), 0);
    }
}

#[test]
fn blocks_of_a_scheme_do_not_claim_the_same_codes() {
    let block = |class, section, codes| Block {
        class,
        section,
        codes: Interval::parse_list(codes).unwrap().remove(0),
    };
    let overlap = |blocks: &[Block]| {
        schemes::overlapping(blocks).map(|(a, b)| (a.codes.to_string(), b.codes.to_string()))
    };
    let expense = block(Class::Expense, None, "5000 to 6999");
    let costs = block(Class::Expense, Some(Section::CostOfSales), "5000 to 5499");
    let staff = block(Class::Expense, Some(Section::Staff), "5499 to 5999");
    let income = block(Class::Income, None, "4000 to 5000");
    assert_eq!(overlap(&[expense.clone(), costs.clone()]), None, "a section within its class");
    let edge = Some(("5000 to 5499".to_owned(), "5499 to 5999".to_owned()));
    assert_eq!(overlap(&[expense.clone(), costs, staff]), edge, "5499 would belong to both");
    let classes = Some(("5000 to 6999".to_owned(), "4000 to 5000".to_owned()));
    assert_eq!(overlap(&[expense, income]), classes);
}
