//! Everything that is said, read over: each rule has its example, and no sentence is written in a dialect.

use zf_core::rehearsal::rule::Rule;
use zf_core::review::remarks::RemarkKind;
use zf_core::trail::TrailAction;
use zf_intake::reason::Reason;
use zf_phrases::examples::{
    events, of_evidence, of_items, of_questions, of_refusals, of_remarks, of_rows, of_rules,
    of_statements, of_terms, of_trail,
};
use zf_phrases::trail::listed;

/// Words and turns that an accountant would not use.
const QUAINT: [&str; 34] = [
    "reckon",
    "would bear",
    "bears",
    "borne",
    "laid down",
    "lays down",
    "stands against",
    "deal out",
    "deals out",
    "dealt",
    "brought in",
    "bring in",
    "brings in",
    "take it away",
    "taken away",
    "takes away",
    "put away",
    "on no line",
    "take it back",
    "takes back",
    "take back",
    "taken back",
    "goes across",
    "given up to",
    "of old",
    "hem",
    "deed",
    "door",
    "stranger",
    "told apart",
    "thereby",
    "whatsoever",
    "whoever",
    "naught",
];

fn all() -> Vec<String> {
    let mut all = of_evidence();
    all.extend(of_items());
    all.extend(of_questions());
    all.extend(of_refusals());
    all.extend(of_statements());
    all.extend(of_terms());
    all.extend(TrailAction::ALL.iter().map(|action| listed(*action).to_owned()));
    for example in of_rules().into_iter().chain(of_remarks()).chain(of_trail()).chain(of_rows()) {
        all.push(example.title.to_owned());
        all.push(example.sentence);
        all.extend(example.advice);
    }
    all
}

#[test]
fn every_rule_and_every_remark_has_an_example() {
    let keys: Vec<_> = of_rules().iter().map(|example| example.key).collect();
    assert!(Rule::ALL.iter().map(|rule| rule.key()).eq(keys), "each once, in their order");
    assert_eq!(of_remarks().len(), RemarkKind::ALL.len());
}

#[test]
fn each_action_has_an_example_and_is_one_of_the_books_or_of_the_server() {
    let actions: Vec<_> = events().iter().map(|event| event.action()).collect();
    assert_eq!(actions, TrailAction::ALL);
    for action in TrailAction::ALL {
        let lists = [TrailAction::OF_BOOKS, TrailAction::OF_SERVER];
        assert!(lists.iter().any(|list| list.contains(action)), "{action:?} cannot be looked for");
    }
    for example in of_trail() {
        let sound = !example.title.is_empty() && !example.sentence.contains("  ");
        assert!(sound, "{}: {}", example.key, example.sentence);
    }
}

#[test]
fn sentences_are_whole_and_name_what_they_are_about() {
    let rules = of_rules();
    for example in rules.iter().chain(&of_remarks()) {
        let said = &example.sentence;
        let sound = said.ends_with('.') && !said.contains("  ") && !said.contains("gone");
        assert!(sound && said.starts_with(|c: char| !c.is_lowercase()), "{}: {said}", example.key);
        let advice = example.advice.as_deref().unwrap_or("None.");
        assert!(advice.ends_with('.'), "{}: {advice}", example.key);
    }
    for said in of_evidence() {
        assert!(said.ends_with('.') && !said.contains("  "), "{said}");
    }
}

#[test]
fn nothing_is_said_in_a_dialect() {
    for said in all() {
        let lower = said.to_lowercase();
        let parted = |c: char| !c.is_alphanumeric();
        for quaint in QUAINT {
            let mut found = lower.match_indices(quaint);
            let is_word = |at: usize| {
                lower[..at].chars().next_back().is_none_or(parted)
                    && lower[at + quaint.len()..].chars().next().is_none_or(parted)
            };
            assert!(!found.any(|(at, _)| is_word(at)), "“{quaint}” stands in: {said}");
        }
    }
}

#[test]
fn every_reason_of_a_row_has_an_example() {
    let keys: Vec<&str> = of_rows().into_iter().map(|example| example.key).collect();
    for reason in Reason::ALL {
        assert!(keys.contains(&reason.key()), "{}", reason.key());
    }
}
