//! What an application did, as undo needs it.

use crate::StoreError;
use crate::chart::rows::AccountRow;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use std::sync::Arc;
use zf_core::activity::Shares;
use zf_core::chart::Account;
use zf_core::code::Interval;
use zf_core::ids::{AccountId, ReportLineId, StrandId};
use zf_core::rehearsal::effects::{Carve, Carving, Effects, Rewriting, RowChange, StrandMove};
use zf_core::statement::Structure;

/// What an application did, as archived.
#[derive(Debug, Serialize, Deserialize)]
pub(in crate::plans) struct ArchivedEffects {
    rows: Vec<(Option<AccountRow>, Option<AccountRow>)>,
    moves: Vec<(i64, i64, i64)>,
    /// Missing from applications that were kept before strands were carved.
    #[serde(default)]
    carves: Vec<ArchivedCarve>,
    /// Missing from applications that were kept before lines of reports followed.
    #[serde(default)]
    rewritings: Vec<ArchivedRewriting>,
}

/// A line of a report with what it added up and adds up since.
#[derive(Debug, Serialize, Deserialize)]
struct ArchivedRewriting {
    line: i64,
    name: String,
    from: Vec<Interval>,
    to: Vec<Interval>,
}

/// A carved part, as far as undo needs it.
#[derive(Debug, Serialize, Deserialize)]
struct ArchivedCarve {
    strand: i64,
    from: i64,
    to: i64,
    part: usize,
    carved: Option<i64>,
}

impl From<&Effects> for ArchivedEffects {
    fn from(effects: &Effects) -> Self {
        let row = |account: &Option<Arc<Account>>| account.as_deref().map(AccountRow::from);
        let carves = effects.carvings.iter().flat_map(|(strand, carving)| {
            carving.parts.iter().map(|part| ArchivedCarve {
                strand: strand.0,
                from: part.from.0,
                to: part.to.0,
                part: part.part,
                carved: part.carved.map(|strand| strand.0),
            })
        });
        let rewritings = effects.rewritings.iter().map(|rewriting| ArchivedRewriting {
            line: rewriting.line.0,
            name: rewriting.name.clone(),
            from: rewriting.from.clone(),
            to: rewriting.to.clone(),
        });
        Self {
            rows: effects.rows.iter().map(|r| (row(&r.before), row(&r.after))).collect(),
            moves: effects.moves.values().map(|m| (m.strand.0, m.from.0, m.to.0)).collect(),
            carves: carves.collect(),
            rewritings: rewritings.collect(),
        }
    }
}

impl ArchivedEffects {
    /// The effects, in books whose statements have these lines.
    pub(in crate::plans) fn effects(self, lines: &Structure) -> Result<Effects, StoreError> {
        let stored = self;
        let account =
            |row: Option<AccountRow>| row.map(|row| row.account(lines).map(Arc::new)).transpose();
        let rows = stored.rows.into_iter().map(|(before, after)| {
            Ok(RowChange { before: account(before)?, after: account(after)? })
        });
        let moves = stored.moves.into_iter().map(|(strand, from, to)| {
            let strand = StrandId(strand);
            (strand, StrandMove { strand, from: AccountId(from), to: AccountId(to) })
        });
        let mut carvings: BTreeMap<StrandId, Carving> = BTreeMap::new();
        for ArchivedCarve { strand, from, to, part, carved } in stored.carves {
            // What the lines add up to was proved then, and is not asked again.
            carvings.entry(StrandId(strand)).or_default().parts.push(Carve {
                from: AccountId(from),
                to: AccountId(to),
                part,
                shares: Shares::new(),
                carved: carved.map(StrandId),
            });
        }
        let rewritings =
            stored.rewritings.into_iter().map(|ArchivedRewriting { line, name, from, to }| {
                Rewriting { line: ReportLineId(line), name, from, to }
            });
        let rewritings = rewritings.collect();
        let rows = rows.collect::<Result<_, StoreError>>()?;
        Ok(Effects { rows, moves: moves.collect(), carvings, rewritings })
    }
}
