//! The proof of an application as it is archived: figures and facts, with the names of that day, worded when they
//! are read. Each form has a version, and what was archived in an earlier one is read for good.

use super::earlier::EarlierProof;
use serde::de::Error;
use serde::{Deserialize, Deserializer, Serialize};
use serde_json::value::RawValue;
use zf_core::names::ArchivedNames;
use zf_core::plan::Override;
use zf_core::rehearsal::cause::Cause;
use zf_core::rehearsal::finding::Finding;
use zf_core::rehearsal::report::{Report, TrialBalances};
use zf_core::rehearsal::rule::Severity;

/// The version that is written: the first that has facts in place of texts.
const VERSION: u8 = 4;

/// What was proved when a plan was applied.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Proof {
    /// As facts.
    Archived(Box<ProofFacts>),
    /// As it was said then.
    Earlier(Box<EarlierProof>),
}

/// A proof as facts.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ProofFacts {
    /// What the plan did.
    pub report: Report,
    /// What stood against it and was read or overridden, without the ways out: they are of then.
    pub findings: Vec<Finding>,
    /// The trial balance on both sides.
    pub trials: TrialBalances,
    /// What accounts and statement items were called.
    pub names: ArchivedNames,
}

/// A finding as archived.
#[derive(Debug, Serialize, Deserialize)]
struct ArchivedFinding {
    key: String,
    severity: Severity,
    cause: Cause,
    overridden: Option<Override>,
}

/// A proof as archived.
#[derive(Debug, Serialize, Deserialize)]
pub(in crate::plans) struct ArchivedProof {
    version: u8,
    report: Report,
    findings: Vec<ArchivedFinding>,
    trials: TrialBalances,
    names: ArchivedNames,
}

impl ArchivedProof {
    /// What is archived of what was proved.
    pub(in crate::plans) fn of(proof: ProofFacts) -> Self {
        let ProofFacts { report, findings, trials, names } = proof;
        let finding = |Finding { key, severity, cause, overridden, .. }| ArchivedFinding {
            key,
            severity,
            cause,
            overridden,
        };
        let findings = findings.into_iter().map(finding).collect();
        Self { version: VERSION, report, findings, trials, names }
    }
}

impl From<ArchivedProof> for ProofFacts {
    fn from(archived: ArchivedProof) -> Self {
        let ArchivedProof { report, findings, trials, names, .. } = archived;
        let finding = |ArchivedFinding { key, severity, cause, overridden }| Finding {
            accounts: cause.accounts(),
            remedies: Vec::new(),
            key,
            severity,
            cause,
            overridden,
        };
        Self { report, findings: findings.into_iter().map(finding).collect(), trials, names }
    }
}

impl<'de> Deserialize<'de> for Proof {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<Self, D::Error> {
        #[derive(Deserialize)]
        struct Version {
            #[serde(default)]
            version: Option<u8>,
        }

        // Amounts have more digits than a value that is read without its type would keep.
        let text = Box::<RawValue>::deserialize(from)?;
        let read = serde_json::from_str(text.get()).map_err(Error::custom)?;
        match read {
            Version { version: Some(VERSION) } => {
                let archived: ArchivedProof =
                    serde_json::from_str(text.get()).map_err(Error::custom)?;
                Ok(Self::Archived(Box::new(archived.into())))
            }
            Version { version: None | Some(..VERSION) } => {
                serde_json::from_str(text.get()).map(Self::Earlier).map_err(Error::custom)
            }
            Version { version: Some(later) } => {
                Err(Error::custom(format!("the form of the proof, {later}, is of a later version")))
            }
        }
    }
}

#[cfg(test)]
mod tests {
    #![allow(clippy::unwrap_used, clippy::panic, reason = "what cannot be read fails the test")]

    use super::*;
    use serde_json::{Value, from_str, from_value, to_value};

    const FIRST: &str = include_str!("../../../tests/all/fixtures/proof_1.json");
    const SECOND: &str = include_str!("../../../tests/all/fixtures/proof_2.json");
    const THIRD: &str = include_str!("../../../tests/all/fixtures/proof_3.json");
    const FOURTH: &str = include_str!("../../../tests/all/fixtures/proof_4.json");

    fn earlier(text: &str) -> EarlierProof {
        match from_str(text).unwrap() {
            Proof::Earlier(proof) => *proof,
            Proof::Archived(_) => panic!("read as a later version"),
        }
    }

    #[test]
    fn what_is_written_now_is_what_the_fourth_version_is() {
        let Proof::Archived(proof) = from_str(FOURTH).unwrap() else {
            panic!("read as an earlier one")
        };
        assert!(!proof.findings.is_empty() && !proof.report.moved.is_empty());
        let again = to_value(ArchivedProof::of(*proof)).unwrap();
        assert_eq!(again, from_str::<Value>(FOURTH).unwrap());
    }

    #[test]
    fn all_earlier_versions_of_one_proof_say_what_they_know_of_it() {
        let (first, second, third) = (earlier(FIRST), earlier(SECOND), earlier(THIRD));
        assert_eq!(second.all(), third.all());
        let all = |proof: EarlierProof| EarlierProof { all: None, ..proof };
        assert_eq!(
            all(second),
            all(third.clone()),
            "nothing that is shown was left out of the third"
        );
        let mut known = third;
        assert!(!known.moved.is_empty() && !known.report_lines.is_empty());
        assert!(known.findings.iter().any(|found| found.overridden_by.is_some()));
        (known.moved, known.report_lines) = (Vec::new(), Vec::new());
        known.findings.iter_mut().for_each(|found| found.overridden_by = None);
        assert_eq!(all(first), all(known));
    }

    #[test]
    fn what_is_no_proof_is_not_taken_for_one() {
        for (text, gone) in [(THIRD, "trial_after"), (FOURTH, "trials")] {
            let mut proof: Value = from_str(text).unwrap();
            proof.as_object_mut().unwrap().remove(gone);
            assert!(from_value::<Proof>(proof).is_err(), "{gone}");
        }
        let later = FOURTH.replace("\"version\": 4", "\"version\": 5");
        assert!(from_str::<Proof>(&later).unwrap_err().to_string().contains("later version"));
    }
}
