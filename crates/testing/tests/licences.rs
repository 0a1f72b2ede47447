//! What the program is built of may be handed on with it: every crate and every package of the front end is under a
//! licence that was read and allowed here. Known vulnerabilities are not checked, since their list is on a network.

use serde_json::Value;
use std::path::Path;
use std::process::Command;

/// Licences that allow the program to be handed on under any terms, as SPDX names them.
const ALLOWED: [&str; 15] = [
    "0BSD",
    "Apache-2.0",
    "BlueOak-1.0.0",
    "BSD-2-Clause",
    "BSD-3-Clause",
    "BSL-1.0",
    "CC0-1.0",
    "CDLA-Permissive-2.0",
    "ISC",
    "MIT",
    "OFL-1.1",
    "Python-2.0",
    "Unicode-3.0",
    "Unlicense",
    "Zlib",
];

/// Licences of tools that only build the front end and are not in it.
const ALLOWED_OF_TOOLS: [&str; 1] = ["MPL-2.0"];

/// Packages that name no licence, with the one that was found in their files.
const READ_BY_HAND: [(&str, &str); 2] = [("color-rs2", "MIT"), ("svelte-toolbelt", "MIT")];

/// Whether an SPDX expression can be met by allowed licences alone; `/` is an older way to write `OR`.
fn is_allowed(expression: &str, allowed: &[&str]) -> bool {
    let plain = expression.replace(['(', ')'], " ").replace('/', " OR ");
    // Where some must be met together, all that are named are looked at.
    let together = plain.contains(" AND ");
    let mut names = plain.split([' ']).filter(|word| !["", "OR", "AND"].contains(word));
    let mut is_one = |name: &str| allowed.contains(&name);
    if together {
        names.all(is_one)
    } else {
        let alternatives = plain.split(" OR ").map(str::trim);
        // An exception only allows more.
        alternatives.filter_map(|one| one.split(" WITH ").next()).any(&mut is_one)
    }
}

fn refused<'a>(packages: impl Iterator<Item = (&'a str, Option<&'a str>, bool)>) -> Vec<String> {
    let by_hand = |name: &str| {
        READ_BY_HAND.iter().find(|(known, _)| *known == name).map(|(_, licence)| *licence)
    };
    packages
        .filter(|(name, licence, is_tool)| {
            let allowed: Vec<&str> = ALLOWED
                .iter()
                .chain(ALLOWED_OF_TOOLS.iter().filter(|_| *is_tool))
                .copied()
                .collect();
            let licence = licence.or_else(|| by_hand(name));
            !licence.is_some_and(|licence| is_allowed(licence, &allowed))
        })
        .map(|(name, licence, _)| format!("{name}: {}", licence.unwrap_or("no licence")))
        .collect()
}

#[test]
fn every_crate_is_under_a_licence_that_is_allowed() {
    // Of the platform that this was built for: crates of others need not have been fetched.
    let platform = format!("{}-unknown-linux-gnu", std::env::consts::ARCH);
    let metadata = ["metadata", "--format-version", "1", "--offline", "--locked"];
    let of_platform = ["--filter-platform", &platform];
    let output = Command::new(env!("CARGO")).args(metadata).args(of_platform).output().unwrap();
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    let metadata: Value = serde_json::from_slice(&output.stdout).unwrap();
    let packages = metadata["packages"].as_array().unwrap();
    let others = packages.iter().filter(|package| !package["source"].is_null());
    let others = others.map(|one| (one["name"].as_str().unwrap(), one["license"].as_str(), false));
    assert!(packages.len() > 300, "{} crates", packages.len());
    assert_eq!(refused(others), [""; 0]);
}

#[test]
fn every_package_of_the_front_end_is_under_a_licence_that_is_allowed() {
    let lock = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/package-lock.json");
    let lock: Value = serde_json::from_str(&std::fs::read_to_string(lock).unwrap()).unwrap();
    let packages = lock["packages"].as_object().unwrap();
    let others = packages.iter().filter(|(path, _)| !path.is_empty()).map(|(path, package)| {
        let name = path.rsplit("node_modules/").next().unwrap();
        let is_tool = package["dev"].as_bool().unwrap_or(false);
        (name, package["license"].as_str(), is_tool)
    });
    assert!(packages.len() > 100, "{} packages", packages.len());
    assert_eq!(refused(others), [""; 0]);
}

#[test]
fn an_expression_is_met_by_one_alternative_or_by_all_that_hold_together() {
    for (expression, allowed) in [
        ("MIT", true),
        ("MIT/Apache-2.0", true),
        ("GPL-3.0-only OR MIT", true),
        ("Apache-2.0 WITH LLVM-exception OR Apache-2.0", true),
        ("(MIT OR Apache-2.0) AND Unicode-3.0", true),
        ("MIT AND GPL-3.0-only", false),
        ("GPL-3.0-only", false),
        ("MITX", false),
    ] {
        assert_eq!(is_allowed(expression, &ALLOWED), allowed, "{expression}");
    }
}
