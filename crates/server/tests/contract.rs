//! The contract and the boundaries: what is generated is not stale, and the core stays pure.

#![allow(clippy::unwrap_used, reason = "what cannot be read fails the test")]

use std::process::Command;

#[test]
fn the_openapi_document_is_not_stale() {
    let kept = include_str!("../../../web/openapi.json");
    let stale = "web/openapi.json is stale: run `zerofold openapi > web/openapi.json`, then `npm --prefix web run types`";
    assert!(kept == zf_server::openapi(), "{stale}");
}

#[test]
fn the_core_depends_on_nothing_that_does_io() {
    let tree = Command::new(env!("CARGO"))
        .args([
            "tree",
            "--offline",
            "-p",
            "zf-core",
            "-e",
            "normal",
            "--no-default-features",
            "--prefix",
            "none",
        ])
        .output()
        .unwrap();
    let tree = String::from_utf8(tree.stdout).unwrap();
    assert!(tree.starts_with("zf-core"), "{tree}");
    for barred in ["tokio", "sqlx", "axum", "serde_json"] {
        assert!(
            !tree.lines().any(|line| line.starts_with(&format!("{barred} "))),
            "{barred} came in:\n{tree}"
        );
    }
}
