//! The contract and the boundaries: what is generated is not stale, and the core stays pure.

use serde_json::Value;
use std::collections::BTreeSet;
use std::process::Command;

#[test]
fn the_openapi_document_is_not_stale() {
    let kept = include_str!("../../../../web/openapi.json");
    let stale = "web/openapi.json is stale: run `zerofold openapi > web/openapi.json`, then `npm --prefix web run types`";
    assert!(kept == zf_server::openapi(), "{stale}");
}

#[test]
fn core_and_intake_depend_on_nothing_that_does_io() {
    for pure in ["zf-core", "zf-intake"] {
        let tree = Command::new(env!("CARGO"))
            .args(["tree", "--offline", "-p", pure, "-e", "normal"])
            .args(["--no-default-features", "--prefix", "none"])
            .output()
            .unwrap();
        let tree = String::from_utf8(tree.stdout).unwrap();
        assert!(tree.starts_with(pure), "{tree}");
        for barred in ["tokio", "sqlx", "axum", "serde_json"] {
            let came_in = tree.lines().any(|line| line.starts_with(&format!("{barred} ")));
            assert!(!came_in, "{barred} came in:\n{tree}");
        }
    }
}

/// What is called so is a text, an amount, a day or a mark that a person or a file gave, or a sentence.
const FREE: &str = "
    agent day ends locked begun_at client drawing expires_at head invited_by link made_at new_password plan plan_name recovery_codes seal seen_at sent_by
    secret subject used_at factor_since
    Code Currency about above merge_into account acknowledged against amount amounts applied_at as_of at balance books budgeted by caption cells
    code codes
    created_at credit credits currency date debit debits delimiter description detail difference digest
    dimensions does email encoding end entries entry evidence file file_name finding fingerprint first
    foreign format former former_names free from from_label gap gap_account heading holder blockers insert label last last_posted meaning
    memo message missing month name neighbours net net_change nets new_code new_name next note number old_code
    old_name outline overridden overridden_by password payee payees people person posted_code prefix read_as reads reason
    reasons recount_misses recounted_at reference removed request result role source sentence sheet sheets since start strip
    status_from suffix sum summary rolled_back_at taken tax text title to to_label together totals until uses
    what which with words year_end year_start
";

/// What travels as the stable text of one of several kinds of value: what is staged, and how a file is read.
const TEXTS_OF_VALUES: &str = "
    after answers class columns default field key kind mine new old
    theirs today value
";

/// The names of all properties of a schema that hold a text and are no enumeration.
fn texts(name: &str, schema: &Value, found: &mut BTreeSet<String>) {
    let is_string = schema["type"] == "string"
        || schema["type"].as_array().is_some_and(|types| types.iter().any(|t| t == "string"));
    if is_string && schema["enum"].is_null() {
        found.insert(name.to_owned());
    }
    for (name, inner) in schema["properties"].as_object().into_iter().flatten() {
        texts(name, inner, found);
    }
    let of_all = ["oneOf", "anyOf", "allOf"].iter().filter_map(|key| schema[key].as_array());
    let inner = [&schema["items"], &schema["additionalProperties"]];
    let inner = of_all.flatten().chain(inner.into_iter().filter(|inner| inner.is_object()));
    inner.for_each(|inner| texts(name, inner, found));
}

#[test]
fn every_text_of_the_document_is_meant_to_be_one() {
    let document: Value = serde_json::from_str(&zf_server::openapi()).unwrap();
    let mut found = BTreeSet::new();
    for (name, schema) in document["components"]["schemas"].as_object().unwrap() {
        texts(name, schema, &mut found);
    }
    let listed: BTreeSet<&str> =
        [FREE, TEXTS_OF_VALUES].iter().flat_map(|l| l.split_whitespace()).collect();
    let unlisted: Vec<_> = found.iter().filter(|name| !listed.contains(name.as_str())).collect();
    assert!(
        unlisted.is_empty(),
        "a key belongs into an enumeration, a text on the list: {unlisted:?}"
    );
    let gone: Vec<_> = listed.iter().filter(|name| !found.contains(**name)).collect();
    assert!(gone.is_empty(), "no text is called so: {gone:?}");
}

#[test]
fn every_operation_has_its_place_in_the_table_of_costs() {
    let document: Value = serde_json::from_str(&zf_server::openapi()).unwrap();
    let paths = document["paths"].as_object().unwrap().values();
    let operations: BTreeSet<&str> = paths
        .flat_map(|methods| methods.as_object().unwrap().values())
        .filter_map(|operation| operation["operationId"].as_str())
        .collect();
    let table: Vec<&str> =
        zf_server::costs::TABLE.iter().map(|(operation, _)| *operation).collect();
    assert!(table.is_sorted(), "the table is in order, each operation once");
    assert_eq!(table.into_iter().collect::<BTreeSet<_>>(), operations);
}

#[test]
fn the_document_of_errors_is_up_to_date() {
    let kept = include_str!("../../../../docs/errors.md");
    assert!(kept == zf_server::errors(), "write docs/errors.md anew with `zerofold errors`");
}
