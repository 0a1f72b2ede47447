//! Each rule, by a plan that breaks it and nothing else.

use crate::books;
use crate::books::{plan, railway};
use time::macros::date;
use zf_core::chart::ControlRole;
use zf_core::code::{Code, Interval};
use zf_core::former::FormerCodes;
use zf_core::ids::AccountId;
use zf_core::plan::{Change, Fate, Field, Override};
use zf_core::policy::{Block, CodeFormat, Level, RelaxableRule};
use zf_core::rehearsal::cause::Cause;
use zf_core::rehearsal::finding::Remedy;
use zf_core::rehearsal::rehearse;
use zf_core::rehearsal::rule::Severity;
use zf_core::today::Today;

/// What a plan raises, as `rule` for a stop and `(rule)` for a caution.
fn raised(today: &Today, words: &str) -> Vec<String> {
    let rehearsal = rehearse(today, &plan(today, words));
    let word = |f: &zf_core::rehearsal::finding::Finding| match f.severity {
        Severity::Stop => f.rule().key().to_owned(),
        Severity::Caution => format!("({})", f.rule().key()),
    };
    rehearsal.findings.iter().map(word).collect()
}

macro_rules! rules {
    ($($name:ident: $plan:literal => [$($rule:literal),*];)+) => {$(
        #[test]
        fn $name() {
            assert_eq!(raised(&railway(), $plan), [$($rule),*] as [&str; 0 $(+ { let _ = $rule; 1 })*]);
        }
    )+};
}

rules! {
    a_free_code_may_be_taken: "5030 code 5035" => [];
    two_codes_may_be_swapped: "5010 code 5030; 5030 code 5010" => [];
    three_codes_may_rotate: "5010 code 5020; 5020 code 5030; 5030 code 5010" => [];
    a_block_may_be_shifted_onto_itself: "5010 code 5020; 5020 code 5030; 5030 code 5040; 5040 code 5050" => [];
    a_code_given_up_by_a_merge_may_be_taken: "5020 fate merge 5010; 5030 code 5020" => [];
    a_taken_code_stops: "6010 code 5010" => ["code_taken"];
    a_code_differing_by_spaces_is_taken: "6010 code 50 10" => ["code_taken"];
    two_accounts_cannot_both_go_to_a_new_code: "5010 code 5555; 6010 code 5555" => ["code_taken"];

    a_code_unlike_all_others_is_a_caution: "6010 code 7#/?2.." => ["(code_unlike)"];
    codes_may_grow_longer: "6010 code 60100" => [];
    a_name_of_another_is_a_caution: "6010 name  coal" => ["(name_taken)"];
    a_new_account_of_the_name_of_another_is_a_caution:
        "777 fate add; 777 code 5045; 777 name Coal; 777 class expense" => ["(name_taken)"];
    names_may_be_swapped: "5010 name Diesel; 5030 name Coal" => [];
    a_heading_may_be_called_as_an_account_is: "6000 name Telephone" => [];
    what_goes_gives_up_its_name: "5020 fate merge 5010; 5020 name Diesel; 5030 name Coal and firewood" => [];
    like_merges_into_like: "5020 fate merge 5010" => [];
    a_merge_across_classes_stops: "1050 fate merge 2010" => ["merge_class"];
    a_merge_into_another_kind_stops: "5099 fate merge 5010" => ["merge_kind", "(merge_settings)"];
    a_merge_into_a_heading_stops: "5010 fate merge 6000" => ["merge_into_retired", "(sum_edge)"];
    a_merge_into_a_retired_account_stops: "6010 fate merge 6020" => ["merge_into_retired"];
    a_merge_into_a_deleted_account_stops: "5020 fate merge 5040; 5040 fate delete" => ["merge_into_retired"];
    a_merge_of_other_currencies_stops: "1030 fate merge 1010" => ["merge_currency"];
    a_role_must_not_be_lost: "1010 fate merge 1050" => ["merge_role", "(merge_settings)"];
    reconciled_banks_stop: "1020 fate merge 1010" => ["merge_bank_cleared"];
    a_merge_onwards_is_a_caution: "5020 fate merge 5010; 5010 fate merge 5030" => ["(merge_chain)"];
    merges_in_a_circle_stop: "5020 fate merge 5010; 5010 fate merge 5020" => ["merge_circle"];
    a_merge_into_an_account_that_the_plan_adds_inside_a_sum_changes_it_not:
        "4711 fate add; 4711 code 5015; 4711 name Fuel; 4711 class expense; 4711 caption cost_of_sales; 5010 fate merge 4711" => ["(merge_settings)"];
    a_merge_into_an_account_that_the_plan_adds_outside_of_a_sum_is_a_caution:
        "4711 fate add; 4711 code 6915; 4711 name Fuel; 4711 class expense; 4711 caption cost_of_sales; 5010 fate merge 4711" => ["(merge_settings)", "(sum_edge)"];
    a_merge_into_an_account_that_the_plan_adds_into_a_sum_is_a_caution:
        "4711 fate add; 4711 code 5015; 4711 name Fuel; 4711 class expense; 6010 fate merge 4711" => ["(merge_settings)", "(sum_edge)"];
    differing_settings_are_cautions: "6010 fate merge 5010" => ["(merge_settings)", "(sum_edge)"];

    history_may_move_whole: "5030 history to 5010" => [];
    history_may_move_in_part: "5010 history to 5030, until 2025-01-31 | to 5040, from 2026-01-01" => [];
    history_may_move_to_a_new_account: "777 fate add; 777 code 5045; 777 name Gas; 777 class expense; 777 caption cost_of_sales; 5030 history to 777" => [];
    history_may_move_where_another_account_merges: "5030 history to 5020; 5020 fate merge 5010" => [];
    what_moved_away_may_be_archived: "1050 history to 2010; 5020 history to 5010; 5020 fate archive" => ["(move_nothing)"];
    history_cannot_go_to_a_heading: "5030 history to 6000" => ["move_nowhere", "(sum_edge)"];
    history_cannot_go_to_a_retired_account: "5030 history to 6020" => ["move_nowhere", "(sum_edge)"];
    history_cannot_go_nowhere: "5030 history to 4711" => ["move_nowhere", "(sum_edge)"];
    history_cannot_stay: "5030 history to 5030" => ["move_nowhere"];
    history_cannot_go_where_its_account_is_merged_to: "5030 history to 5010; 5010 fate merge 5030" => ["move_nowhere"];
    parts_must_not_overlap: "5010 history to 5030, until 2025-01-31 | to 5040, entry 1" => ["move_overlap", "(move_nothing)"];
    ranked_parts_may_overlap: "5010 history ranked | to 5030, until 2025-01-31 | to 5040, entry 1" => ["(move_nothing)"];
    a_part_that_takes_nothing_is_a_caution: "5010 history to 5030, payee Nobody" => ["(move_nothing)"];
    reconciled_lines_stop: "1020 history to 1050" => ["move_bank_cleared", "(move_caption)", "(move_control)"];
    other_currencies_stop: "1050 history to 1030; 1010 history to 1030" => ["move_currency", "(move_nothing)"];
    another_section_is_a_caution: "5030 history to 6010" => ["(move_caption)", "(sum_edge)"];
    another_statement_in_closed_years_stops: "5020 history to 1050" => ["move_across", "(sum_edge)"];
    another_statement_this_year_is_a_caution: "5030 history to 1050" => ["(move_caption)", "(sum_edge)"];
    history_that_leaves_a_sum_line_is_a_caution: "5010 history to 6020, from 2026-01-01; 6020 fate restore; 6020 caption cost_of_sales" => ["(sum_edge)"];

    settings_may_change: "5040 description For the shed; 5040 tax T9; 1050 role inventory" => [];
    what_was_never_used_may_become_a_heading: "5040 kind heading" => [];
    an_account_with_lines_stays_one: "5030 kind heading" => ["kind_used"];
    a_sum_line_needs_codes: "5040 kind sum" => ["sum_empty"];
    a_sum_line_may_be_written_anew: "5099 intervals 5000 to 5030" => [];
    one_account_has_a_role_that_is_unique:
        "1050 role retained_earnings; 6010 role retained_earnings" => ["role_taken", "role_taken"];
    a_fixed_currency_belongs_to_money: "5040 currency EUR" => ["currency_not_allowed"];
    lines_in_another_currency_stop_a_fixed_one: "1010 currency EUR" => ["currency_mixed"];
    a_contra_mark_is_a_caution: "1050 contra yes" => ["(contra_changes)"];

    what_was_never_used_may_be_deleted: "5040 fate delete" => [];
    what_has_lines_is_not_deleted: "5030 fate delete" => ["delete_used"];
    what_has_a_role_is_not_deleted: "1030 fate delete" => ["delete_control"];
    a_heading_with_rows_is_not_deleted: "6000 fate delete" => ["children_left"];
    a_heading_goes_with_its_rows: "6000 fate delete; 6010 fate delete; 6020 fate delete" => [];
    long_unused_may_be_archived: "6010 fate archive" => [];
    a_balance_is_not_archived: "1050 fate archive; 1050 name Stocks" => [];
    recent_and_open_is_not_archived: "5030 fate archive" => ["archive_balance", "archive_recent"];
    a_control_account_is_not_archived: "1030 fate archive" => ["archive_control"];
    what_is_not_relied_on_is_deactivated: "6010 fate deactivate; 5020 fate deactivate" => [];
    what_was_posted_to_this_year_is_deactivated_with_a_caution: "5030 fate deactivate" => ["(deactivate_recent)"];
    a_bank_in_use_is_deactivated_with_cautions:
        "1010 fate deactivate" => ["(deactivate_balance)", "(deactivate_control)", "(deactivate_recent)"];
    a_balance_that_stands_is_no_matter_of_lines: "1020 fate deactivate" => ["(deactivate_balance)", "(deactivate_control)"];
    the_day_of_what_is_retired_may_change: "6020 fate deactivate 2025-01-31" => [];
    the_retired_are_restored: "6020 fate restore" => [];
    the_active_are_not_restored: "6010 fate restore" => ["restore_nothing"];

    a_row_may_stand_under_another_heading: "5030 parent 6000" => [];
    a_row_cannot_stand_under_an_account: "5030 parent 6010" => ["parent_unfit"];
    an_account_that_gets_another_name_carries_no_rows: "5030 parent 6010; 6010 name Spares" => ["parent_unfit"];
    a_row_cannot_be_put_under_a_heading_that_goes: "6000 fate delete; 6010 parent 5000; 6020 parent 5000; 5030 parent 6000" => ["parent_unfit"];
    headings_cannot_stand_in_a_circle: "5000 parent 6000; 6000 parent 5000" => ["parent_circle"];
    a_heading_of_another_class_is_a_caution: "5030 parent 1000" => ["(parent_class)"];

    a_class_may_change_within_the_balance_sheet: "1050 class equity; 1050 parent " => ["(class_within)"];
    a_class_change_of_closed_years_stops: "5010 class asset; 5010 caption ; 5010 parent 1000" => ["class_across", "(section_dropped)"];
    a_section_that_is_left_is_a_caution: "5030 caption " => ["(section_dropped)"];
    a_section_belongs_to_its_class: "5030 caption cash" => ["section_foreign"];

    a_sum_line_follows_a_renumbering: "5010 code 7010; 5020 code 7020; 5030 code 7030; 5040 code 7040" => [];
    a_sum_line_without_members_stops:
        "5010 fate merge 6010; 5020 fate merge 6010; 5030 fate merge 6010; 5040 fate delete; 6010 caption cost_of_sales; 6010 parent 5000"
        => ["sum_lost", "(sum_edge)"];
    a_new_account_needs_all_of_itself: "777 fate add; 777 code 7777" => ["added_incomplete"];
    a_new_account_is_judged_like_others: "777 fate add; 777 code 5010; 777 name X; 777 class expense" => ["code_taken"];
}

#[test]
fn locked_periods_keep_their_history_too() {
    let mut today = railway();
    today.locked = Some(books::period(date!(2025 - 12 - 31)));
    assert_eq!(
        raised(&today, "5010 history to 6010"),
        ["locked_total", "(move_caption)", "(sum_edge)"]
    );
    let later = raised(&today, "5010 history to 6010, from 2026-01-01");
    assert_eq!(later, ["(move_caption)", "(sum_edge)"]);
}

#[test]
fn the_policy_tightens_and_relaxes() {
    let mut today = railway();
    let archive = "5030 fate archive";
    today.policy.take(RelaxableRule::ArchiveWithBalance, Level::Caution);
    today.policy.take(RelaxableRule::ArchiveWhenRecent, Level::Off);
    assert_eq!(raised(&today, archive), ["(archive_balance)"]);
    today.policy.format = CodeFormat::digits(4, 4);
    assert_eq!(raised(&today, "6010 code 60-1"), ["code_format"]);
    let class = zf_core::chart::Class::Expense;
    let codes = Interval::parse_list("5000 to 6999").unwrap().remove(0);
    today.policy.blocks = vec![Block { class, section: None, codes }];
    assert_eq!(raised(&today, "6010 code 7010"), ["(code_outside_block)"]);
    today.policy.take(RelaxableRule::OutsideBlock, Level::Stop);
    assert_eq!(raised(&today, "6010 code 7010"), ["code_outside_block"]);
}

#[test]
fn what_blocks_go_by_can_be_taken_back_where_it_was_staged() {
    let mut today = railway();
    let block = |class, section, codes: &str| {
        let codes = Interval::parse_list(codes).unwrap().remove(0);
        Block { class, section, codes }
    };
    use zf_core::chart::{Class, Section};
    today.policy.blocks = vec![
        block(Class::Expense, Some(Section::CostOfSales), "5000 to 5999"),
        block(Class::Income, None, "4000 to 4999"),
    ];
    let rehearsal = rehearse(&today, &plan(&today, "5040 class income"));
    let found = rehearsal.findings.iter().find(|f| f.rule().key() == "code_outside_block").unwrap();
    let undone = Remedy::Unstage { account: AccountId(5040), field: Field::Class };
    assert_eq!(found.remedies, [undone], "and not the code, which was not staged");
}

#[test]
fn a_former_code_is_free_only_to_its_own_history() {
    let mut today = railway();
    let key = Code::parse("5500").unwrap().key();
    today.former = FormerCodes::from_iter([(key, AccountId(5020))]);
    assert_eq!(raised(&today, "6010 code 5500"), ["(code_reused)"]);
    assert_eq!(raised(&today, "5020 code 5500"), [""; 0]);
    assert_eq!(raised(&today, "5010 code 5500; 5020 fate merge 5010"), [""; 0]);
}

#[test]
fn what_names_an_account_keeps_it() {
    let mut today = railway();
    today.usage.by_account.insert(AccountId(5040), vec!["bank rule “Coal”".to_owned()]);
    assert_eq!(raised(&today, "5040 fate delete"), ["delete_named"]);
    assert_eq!(raised(&today, "5040 fate archive"), ["archive_named"]);
    today.usage.by_account.clear();
    today.usage.given = false;
    assert_eq!(raised(&today, "5040 fate delete"), ["(delete_unproven)"]);
}

#[test]
fn a_locked_section_total_stops_and_can_be_overridden_with_a_reason() {
    let mut today = railway();
    today.locked = Some(books::period(date!(2024 - 12 - 31)));
    let words = "5010 caption administration";
    assert_eq!(raised(&today, words), ["locked_total"]);
    assert_eq!(raised(&today, "5030 caption administration"), [""; 0], "its lines are all later");
    let mut plan = plan(&today, words);
    let key = rehearse(&today, &plan).findings[0].key.clone();
    plan.overrides.insert(
        key,
        Override { reason: "agreed with the auditor".to_owned(), by: "Ann".to_owned() },
    );
    let rehearsal = rehearse(&today, &plan);
    assert_eq!((rehearsal.stops().count(), rehearsal.cautions().count()), (0, 1));
}

#[test]
fn added_rows_stand_in_the_order_of_the_chart() {
    let today = railway();
    let added = |id: i64, code: &str, more: &str| {
        format!("{id} fate add; {id} code {code}; {id} name New; {id} class expense; {more}")
    };
    let words = [
        added(778, "6105", "778 kind heading"),
        added(777, "50150", "777 parent 5000"),
        added(779, "1", "779 parent 778"),
    ];
    let rehearsal = rehearse(&today, &plan(&today, &words.join("; ")));
    let places = rehearsal.added_places(&today.chart);
    let places = places.iter().map(|p| (p.account.0, p.below.map(|id| id.0), p.depth));
    let last = today.chart.outline().last().map(|(row, _)| row.id.0);
    // 50150 is a larger number than 5099.
    assert_eq!(
        places.collect::<Vec<_>>(),
        [(777, Some(5099), 1), (778, last, 0), (779, Some(778), 1)]
    );
}

#[test]
fn only_some_stops_can_be_overridden() {
    let today = railway();
    let mut plan = plan(&today, "6010 code 5010");
    let key = rehearse(&today, &plan).findings[0].key.clone();
    plan.overrides.insert(key, Override { reason: "please".to_owned(), by: "Ann".to_owned() });
    assert_eq!(rehearse(&today, &plan).stops().count(), 1);
}

#[test]
fn a_base_that_changed_is_shown_with_both_values() {
    let today = railway();
    let mut plan = plan(&today, "5030 name Gas oil");
    let staged = plan.targets.get_mut(&AccountId(5030)).unwrap().values_mut().next().unwrap();
    let name = |name: &str| Change::Name(name.to_owned());
    staged.base = Some(name("Diesel fuel"));
    let (account, field) = (AccountId(5030), Field::Name);
    let (base, staged, now) = (name("Diesel fuel"), name("Gas oil"), name("Diesel"));
    let cause = Cause::BaseChanged { account, field, base, staged, now };
    assert_eq!(rehearse(&today, &plan).findings[0].cause, cause);
    let gone = books::plan(&today, "4711 name Nobody");
    assert_eq!(rehearse(&today, &gone).findings[0].rule().key(), "account_gone");
}

#[test]
fn a_taken_code_offers_the_next_free_one_and_the_merge() {
    let today = railway();
    let found = rehearse(&today, &plan(&today, "6010 code 5010")).findings.remove(0);
    let account = AccountId(6010);
    assert_eq!(found.accounts[0], account, "the one that can give way comes first");
    let changes = [
        Change::Code(Code::parse("5011").unwrap()),
        Change::Fate(Fate::MergeInto { into: AccountId(5010) }),
    ];
    assert_eq!(found.remedies, changes.map(|change| Remedy::Stage { account, change }));
}

#[test]
fn all_that_would_bear_a_code_are_named() {
    let today = railway();
    let found =
        rehearse(&today, &plan(&today, "6010 code 5010; 5030 code 5010")).findings.remove(0);
    assert_eq!(found.accounts, [5_030, 6_010, 5_010].map(AccountId));
}

#[test]
fn a_name_of_another_offers_the_merge() {
    let today = railway();
    let found = |words| {
        let plan = plan(&today, words);
        let mut findings = rehearse(&today, &plan).findings;
        findings.retain(|f| f.rule().key() == "name_taken");
        findings.remove(0).remedies
    };
    let merge = |from: i64, into: i64| Remedy::Stage {
        account: AccountId(from),
        change: Change::Fate(Fate::MergeInto { into: AccountId(into) }),
    };
    let undo = |account: i64, field| Remedy::Unstage { account: AccountId(account), field };
    assert_eq!(found("5030 name Coal"), [merge(5030, 5010), undo(5030, Field::Name)]);
    let ways = found("777 fate add; 777 code 5045; 777 name coal; 777 class expense");
    assert_eq!(ways, [merge(5010, 777), undo(777, Field::Fate)]);
    let ways = found("5030 name Telegraph");
    assert_eq!(ways, [undo(5030, Field::Name)], "the other takes no history");
}

#[test]
fn codes_of_one_form_are_one_caution_and_none_where_a_form_is_laid_down() {
    let mut today = railway();
    let words =
        "5010 code C-1; 5020 code C-2; 5030 code C-3; 5040 code C-4; 6010 code C-5; 6020 code C-6";
    let found = rehearse(&today, &plan(&today, words)).findings.remove(0);
    let accounts = [5010, 5020, 5030, 5040, 6010, 6020].map(AccountId).to_vec();
    assert_eq!(found.cause, Cause::CodeUnlike { form: "A-9".to_owned(), accounts });
    today.policy.format = CodeFormat::any(1, 12);
    assert_eq!(raised(&today, words), [""; 0]);
}

#[test]
fn what_is_still_in_use_says_by_what_before_it_is_deactivated() {
    let today = railway();
    let found = rehearse(&today, &plan(&today, "1010 fate deactivate")).findings;
    let causes: Vec<_> = found.into_iter().map(|f| f.cause).collect();
    let account = AccountId(1010);
    assert_eq!(
        causes,
        [
            Cause::DeactivateBalance { account, balance: -5_700 },
            Cause::DeactivateControl { account, role: ControlRole::Bank },
            Cause::DeactivateRecent {
                account,
                this_year: 1,
                last_year: 0,
                last: date!(2026 - 10 - 01)
            },
        ]
    );
}

#[test]
fn sum_lines_keep_their_members() {
    let today = railway();
    let rehearsal = rehearse(&today, &plan(&today, "5010 code 7010; 6010 code 5015"));
    let sum = rehearsal.after.get(AccountId(5099)).unwrap();
    assert_eq!(Interval::format_list(&sum.intervals), "5020 to 5040, 7010");
    let moved = rehearse(&today, &plan(&today, "5010 code 7010; 6010 code 5025"));
    let sum = moved.after.get(AccountId(5099)).unwrap();
    assert_eq!(Interval::format_list(&sum.intervals), "5020, 5030 to 5040, 7010");
}

#[test]
fn a_deleted_history_shows_in_the_difference() {
    let today = railway();
    let rehearsal = rehearse(&today, &plan(&today, "5030 fate delete"));
    let proof = &rehearsal.proof;
    assert_eq!((proof.accounted, proof.lines.lines, proof.difference), (6, 7, 1_000));
    let mut roles = today.clone();
    let mut bank = roles.chart.get(AccountId(1020)).unwrap().clone();
    bank.role = Some(ControlRole::Suspense);
    roles.chart.put(bank);
    assert!(raised(&roles, "1020 fate merge 1010").contains(&"merge_role".to_owned()));
}
