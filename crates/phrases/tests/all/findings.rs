//! Stops and cautions in words.

use crate::books::{self, plan, railway};
use std::collections::BTreeSet;
use time::macros::date;
use zf_core::ids::AccountId;
use zf_core::names::{ArchivedNames, Charts, Names};
use zf_core::people::{DateForm, Forms, NumberForm};
use zf_core::plan::Change;
use zf_core::rehearsal::finding::{Finding, Remedy};
use zf_core::rehearsal::rule::Rule;
use zf_core::rehearsal::{Rehearsal, rehearse};
use zf_core::today::Today;
use zf_phrases::{Say, Style, findings};

/// Plans that each raise something; together, nearly everything that can be raised.
const PLANS: &[&str] = &[
    "6010 code 5010",
    "5010 code 5555; 6010 code 5555",
    "6010 code 60\u{2013}10; 5040 code 60-10",
    "1050 fate merge 2010",
    "5099 fate merge 5010",
    "5010 fate merge 6000",
    "6010 fate merge 6020",
    "1030 fate merge 1010",
    "1010 fate merge 1050",
    "1020 fate merge 1010",
    "5020 fate merge 5010; 5010 fate merge 5020",
    "5020 fate merge 5010; 5010 fate merge 5030",
    "6010 fate merge 5010",
    "5020 fate merge 5010; 5010 tax T1",
    "5030 fate delete",
    "1030 fate delete",
    "5040 fate delete",
    "5030 fate archive",
    "1030 fate archive",
    "1010 fate deactivate",
    "6010 fate restore",
    "5000 fate delete",
    "5030 parent 6010",
    "5000 parent 6000; 6000 parent 5000",
    "5030 parent 1000",
    "5010 class asset; 5010 caption ; 5010 parent 1000",
    "5030 caption cash",
    "5010 caption administration",
    "5010 caption ",
    "5030 contra yes",
    "5030 kind heading",
    "5030 currency EUR",
    "1020 currency USD",
    "4711 name Nobody",
    "777 fate add; 777 name Coal",
    "777 fate add; 777 code 5045; 777 name coal; 777 class expense",
    "5030 name Coal",
    "6010 code 5500",
    "6010 code C-5",
];

fn strict() -> Today {
    let mut today = railway();
    today.locked = Some(books::period(date!(2024 - 12 - 31)));
    today.usage.by_account.insert(AccountId(5040), vec!["bank rule “Coal”".to_owned()]);
    let key = zf_core::code::Code::parse("5500").unwrap().key();
    today.former = zf_core::former::FormerCodes::from_iter([(key, AccountId(5020))]);
    today
}

fn say_all(today: &Today, rehearsal: &Rehearsal, style: Style) -> Vec<String> {
    let names = Charts { today: &today.chart, after: &rehearsal.after };
    said(&rehearsal.findings, &Say { style, ..Say::plain(&names, today.currency) })
}

fn said(found: &[Finding], say: &Say<'_>) -> Vec<String> {
    found.iter().map(|f| findings::sentence(&f.cause, f.severity, say)).collect()
}

/// The sentences of what a plan raises, each with what its buttons and advice say.
fn raised(today: &Today, words: &str) -> Vec<(String, Vec<String>)> {
    let rehearsal = rehearse(today, &plan(today, words));
    let names = Charts { today: &today.chart, after: &rehearsal.after };
    let say = Say::plain(&names, today.currency);
    let ways = |found: &Finding| {
        let ways = found.remedies.iter();
        ways.map(|way| findings::remedy(way, &found.cause, &say)).collect()
    };
    let found = rehearsal.findings.iter();
    found.map(|f| (findings::sentence(&f.cause, f.severity, &say), ways(f))).collect()
}

#[test]
fn what_is_raised_is_said_with_its_ways_out() {
    let today = strict();
    for (words, sentence, ways) in [
        (
            "5040 fate delete",
            "5040 Never used can’t be deleted: bank rule “Coal” still names it.",
            &["Deactivate 5040 instead", "Or merge it into the account that takes its place."][..],
        ),
        (
            "6010 code 5010; 5030 code 5010",
            "5010 would belong to 3 accounts: Diesel, Telephone and Coal.",
            &["Use 5011", "Merge into 5010 Telephone"],
        ),
        (
            "5030 name Coal",
            "5030 Coal and 5010 Coal would be called the same.",
            &["Merge 5030 into 5010 Coal", "Leave the name as it was"],
        ),
        (
            "777 fate add; 777 code 5045; 777 name coal; 777 class expense",
            "5045 coal and 5010 Coal would be called the same.",
            &["Merge 5010 into 5045 coal", "Undo the new account"],
        ),
        (
            "5020 fate merge 5010; 5010 fate merge 5020",
            "5010 Coal, 5020 Coal and firewood are merged in a circle, so none of them would be left.",
            &["Undo one merge"],
        ),
        (
            "5010 code C-1; 5020 code C-2; 5030 code C-3; 5040 code C-4; 6010 code C-5; 6020 code C-6",
            "C-1 Coal, C-2 Coal and firewood, C-3 Diesel, C-4 Never used, C-5 Telephone and 1 more: \
             no code of these books has the form A-9.",
            &[],
        ),
    ] {
        let found = raised(&today, words);
        let ways: Vec<String> = ways.iter().map(|&way| way.to_owned()).collect();
        assert!(found.contains(&(sentence.to_owned(), ways)), "{words}: {found:#?}");
    }
    let mut plan = plan(&today, "5030 name Gas oil");
    let staged = plan.targets.get_mut(&AccountId(5030)).unwrap().values_mut().next().unwrap();
    staged.base = Some(Change::Name("Diesel fuel".to_owned()));
    assert_eq!(
        say_all(&today, &rehearse(&today, &plan), Style::default()),
        [
            "5030 Diesel: the name was “Diesel fuel” when the change to “Gas oil” was staged; today it is “Diesel”."
        ]
    );
}

#[test]
fn dates_and_amounts_are_in_the_forms_of_whoever_reads() {
    let today = railway();
    let rehearsal = rehearse(&today, &plan(&today, "1010 fate deactivate"));
    let last = |style| say_all(&today, &rehearsal, style);
    assert_eq!(
        last(Style::default()),
        [
            "1010 Bank would be deactivated with a balance of 57.00 in credit.",
            "1010 Bank would be deactivated, and is the books’ bank account.",
            "1010 Bank would be deactivated, and has 1 line this year and 0 in the year before, the latest of 1 Oct 2026.",
        ]
    );
    let other = last(Style(Forms { dates: DateForm::Points, numbers: NumberForm::PointComma }));
    assert!(other[0].contains("57,00") && other[2].ends_with("01.10.2026."), "{other:?}");
}

#[test]
fn every_finding_is_a_sentence_and_every_way_out_has_a_label() {
    let today = strict();
    let mut rules = BTreeSet::new();
    for words in PLANS {
        let rehearsal = rehearse(&today, &plan(&today, words));
        rules.extend(rehearsal.findings.iter().map(Finding::rule));
        let found = raised(&today, words);
        assert!(!found.is_empty(), "{words} raises nothing");
        for (sentence, ways) in found {
            let sound = sentence.ends_with('.') && !sentence.contains("  ");
            assert!(sound && !sentence.contains("gone."), "{words}: {sentence}");
            assert!(ways.iter().all(|way| !way.is_empty()), "{words}: {sentence} {ways:?}");
        }
    }
    assert!(rules.len() > 35, "{} of {} rules", rules.len(), Rule::ALL.len());
}

#[test]
fn an_advice_stands_where_one_is_offered_and_nowhere_else() {
    let today = strict();
    for words in PLANS {
        let rehearsal = rehearse(&today, &plan(&today, words));
        let names = Charts { today: &today.chart, after: &rehearsal.after };
        let say = Say::plain(&names, today.currency);
        for found in &rehearsal.findings {
            let advice = findings::remedy(&Remedy::Advice, &found.cause, &say);
            let offered = found.remedies.contains(&Remedy::Advice);
            // Two accounts with control roles that differ are kept apart, without an advice.
            let offers = offered || found.rule() == Rule::MergeRole;
            assert!(offers || advice.is_empty(), "{words}: {:?} says {advice}", found.cause);
            assert!(!offered || !advice.is_empty(), "{words}: {:?} has no advice", found.cause);
        }
    }
}

#[test]
fn what_is_kept_of_names_says_the_same_as_the_charts() {
    let today = strict();
    for words in PLANS {
        let rehearsal = rehearse(&today, &plan(&today, words));
        let charts = Charts { today: &today.chart, after: &rehearsal.after };
        let kept = ArchivedNames::of(charts);
        let text = serde_json::to_string(&kept).unwrap();
        let read: ArchivedNames = serde_json::from_str(&text).unwrap();
        let say = |names: &dyn Names| said(&rehearsal.findings, &Say::plain(names, today.currency));
        assert_eq!(say(&read), say(&charts), "{words}");
    }
}
