//! What people do to the lines of the books' own statements: they add, rename, order, reckon and retire them.
//! Lines are merged by putting the accounts of one under the other, which a plan stages.

pub mod listed;

use crate::chart::Chart;
use crate::ids::{AccountId, LineId};
use crate::plan::{Change, texts};
use crate::statement::{Class, LineKind, Operand, StatementLine, Structure, Term};
use crate::text::counted;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;

/// One change of the lines of the statements.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "do", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum LineEdit {
    /// Adds a line to a class.
    Add {
        /// The class.
        class: Class,
        /// What it is called.
        name: String,
        /// The line that it stands before; the last of its class without one.
        before: Option<LineId>,
    },
    /// Gives a line another name. It stays the standard line item that it is.
    Rename {
        /// The line.
        line: LineId,
        /// What it is to be called.
        name: String,
    },
    /// Puts a line elsewhere among those of its class.
    Move {
        /// The line.
        line: LineId,
        /// The line that it stands before; the last of its class without one.
        before: Option<LineId>,
    },
    /// No account is put under it any more.
    Retire {
        /// The line.
        line: LineId,
    },
    /// Accounts are put under it again.
    Restore {
        /// The line.
        line: LineId,
    },
    /// Adds a subtotal or a ratio among the lines of a class.
    AddReckoned {
        /// The class among whose lines it stands.
        class: Class,
        /// What it is called.
        name: String,
        /// The line that it stands before; below the total of its class without one.
        before: Option<LineId>,
        /// Whether it is what one row is of another, not what rows add up to.
        ratio: bool,
        /// What a subtotal adds up; of a ratio, the part and the whole.
        terms: Vec<Term>,
    },
    /// Reckons a subtotal or a ratio from other rows.
    Reckon {
        /// The subtotal or ratio.
        line: LineId,
        /// What it adds up; of a ratio, the part and the whole.
        terms: Vec<Term>,
    },
    /// Names the line on which accounts under a line stand while their balance is on the other side.
    NameOtherSide {
        /// The line.
        line: LineId,
        /// The other; without one they stay.
        other: Option<LineId>,
    },
}

/// Why a line cannot become that.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum NotALine {
    /// There is none with this identity that accounts can stand under.
    #[error("the statements have no such line")]
    Unknown,
    /// The name is none.
    #[error(transparent)]
    Name(#[from] texts::NotAText),
    /// Another line of the class has the name.
    #[error("“{0}” is there already under {class}", class = .1.title())]
    Taken(String, Class),
    /// The lines are of different classes.
    #[error("“{0}” is of another class; a line stays among those of its class")]
    OtherClass(String),
    /// Accounts stand under it.
    #[error("{} under “{name}”; merge it into another line first", stand(*.accounts))]
    Used {
        /// What the line is called.
        name: String,
        /// How many accounts.
        accounts: usize,
    },
    /// It was to be reckoned from rows that are none, or from a ratio.
    #[error("“{0}” cannot be reckoned from that: name lines, classes or subtotals that are there")]
    NotReckoned(String),
    /// It was to be reckoned from itself.
    #[error("“{0}” would be reckoned from itself")]
    Circle(String),
    /// A ratio is of two rows, a subtotal of one at least and not too many.
    #[error("a ratio is of two rows, and a subtotal of 1 to {MOST_TERMS}")]
    Terms,
    /// Only balances have another side.
    #[error("“{0}” and the other line must stand on the balance sheet, and be two")]
    NoOtherSide(String),
    /// It was to be merged into itself.
    #[error("a line is not merged into itself")]
    Itself,
    /// Nothing stands under a line that was to be merged.
    #[error("no account stands under “{0}”, so there is nothing to merge; retire it")]
    Empty(String),
}

/// How many rows a subtotal adds up at most.
pub const MOST_TERMS: usize = 50;

fn stand(accounts: usize) -> String {
    let verb = if accounts == 1 { "stands" } else { "stand" };
    format!("{} {verb}", counted(accounts, "account"))
}

impl LineEdit {
    /// What was done, in words for the trail; `lines` are those before it.
    pub fn say(&self, lines: &Structure) -> Said {
        let name = |id: &LineId| {
            let line = lines.line(*id);
            line.map_or_else(String::new, |line| format!("{} ({})", line.name, line.class.title()))
        };
        match self {
            Self::Add { class, name, .. } => {
                ("added a line", format!("{name} ({})", class.title()))
            }
            Self::Rename { line, name: to } => {
                ("renamed a line", format!("{} to {to}", name(line)))
            }
            Self::Move { line, .. } => ("moved a line", name(line)),
            Self::Retire { line } => ("retired a line", name(line)),
            Self::Restore { line } => ("restored a line", name(line)),
            Self::AddReckoned { class, name, terms, .. } => {
                let from = from(terms, lines);
                ("added a reckoned line", format!("{name} ({}): {from}", class.title()))
            }
            Self::Reckon { line, terms } => {
                ("reckoned a line anew", format!("{}: {}", name(line), from(terms, lines)))
            }
            Self::NameOtherSide { line, other } => {
                let other = other.as_ref().map_or_else(|| "stay".to_owned(), name);
                ("named a line for the other side", format!("{}: {other}", name(line)))
            }
        }
    }

    /// The lines as it leaves them; an added one has the identity [`Structure::next_id`]. `used` says how
    /// many accounts stand under a line.
    ///
    /// # Errors
    /// When there is no such line, the name is none or taken, or accounts stand under a line that is to be
    /// retired.
    pub fn carry_out(
        &self,
        structure: &Structure,
        used: impl Fn(LineId) -> usize,
    ) -> Result<Structure, NotALine> {
        let mut lines: Vec<StatementLine> = structure.lines().cloned().collect();
        match self {
            Self::Add { class, name, before } => {
                let name = free_name(structure, *class, name, None)?;
                let heading = |line: &&StatementLine| {
                    line.class == *class && line.kind == LineKind::Heading && line.parent.is_none()
                };
                let parent = structure.lines().find(heading).map(|heading| heading.id);
                let line = StatementLine {
                    id: structure.next_id(),
                    parent,
                    kind: LineKind::Line,
                    class: *class,
                    name,
                    standard: None,
                    retired: false,
                    other_side: None,
                    terms: Vec::new(),
                };
                put(&mut lines, line, *before)?;
            }
            Self::AddReckoned { class, name, before, ratio, terms } => {
                let line = StatementLine {
                    id: structure.next_id(),
                    parent: None,
                    kind: if *ratio { LineKind::Ratio } else { LineKind::Subtotal },
                    class: *class,
                    name: free_name(structure, *class, name, None)?,
                    standard: None,
                    retired: false,
                    other_side: None,
                    terms: terms.clone(),
                };
                put(&mut lines, line, *before)?;
                return reckoned(lines, structure.next_id());
            }
            Self::Reckon { line, terms } => {
                let at = at(&lines, *line)?;
                if !lines[at].kind.is_reckoned() {
                    return Err(NotALine::Unknown);
                }
                lines[at].terms.clone_from(terms);
                return reckoned(lines, *line);
            }
            Self::NameOtherSide { line, other } => {
                let at = at(&lines, *line)?;
                let own = &lines[at];
                let is_balance = |line: &StatementLine| line.class.on_balance_sheet();
                let fits = |other: &StatementLine| other.id != own.id && is_balance(other);
                let other = match other {
                    Some(id) => Some(structure.caption(*id).ok_or(NotALine::Unknown)?),
                    None => None,
                };
                let is_line = own.kind == LineKind::Line && is_balance(own);
                if !is_line || !other.as_ref().is_none_or(|other| fits(other)) {
                    return Err(NotALine::NoOtherSide(own.name.clone()));
                }
                lines[at].other_side = other.map(|other| other.id);
            }
            Self::Rename { line, name } => {
                let at = at(&lines, *line)?;
                lines[at].name = free_name(structure, lines[at].class, name, Some(*line))?;
            }
            Self::Move { line, before } => {
                let at = at(&lines, *line)?;
                if *before != Some(*line) {
                    let line = lines.remove(at);
                    put(&mut lines, line, *before)?;
                }
            }
            Self::Retire { line } => {
                let at = at(&lines, *line)?;
                let accounts = used(*line);
                if accounts > 0 {
                    return Err(NotALine::Used { name: lines[at].name.clone(), accounts });
                }
                lines[at].retired = true;
            }
            Self::Restore { line } => {
                let at = at(&lines, *line)?;
                free_name(structure, lines[at].class, &lines[at].name, Some(*line))?;
                lines[at].retired = false;
            }
        }
        Ok(Structure::new(lines))
    }
}

/// What a row is reckoned from, in words.
fn from(terms: &[Term], lines: &Structure) -> String {
    let name = |of: Operand| match of {
        Operand::Class(class) => class.title().to_owned(),
        Operand::Line(id) => lines.line(id).map_or_else(String::new, |line| line.name.clone()),
    };
    let said = terms
        .iter()
        .map(|term| format!("{} {}", if term.taken_off { "less" } else { "and" }, name(term.of)));
    said.collect::<Vec<_>>().join(", ")
}

/// The lines with one that is reckoned, when it can be.
fn reckoned(lines: Vec<StatementLine>, id: LineId) -> Result<Structure, NotALine> {
    let structure = Structure::new(lines);
    let line = structure.line(id).ok_or(NotALine::Unknown)?;
    let can_be = |of: Operand| match of {
        Operand::Class(_) => true,
        Operand::Line(id) => {
            structure.line(id).is_some_and(|line| line.kind != LineKind::Ratio && !line.retired)
        }
    };
    let fits = match line.kind {
        LineKind::Ratio => line.terms.len() == 2,
        _ => (1..=MOST_TERMS).contains(&line.terms.len()),
    };
    if !fits {
        return Err(NotALine::Terms);
    }
    if structure.is_circle(id) {
        return Err(NotALine::Circle(line.name.clone()));
    }
    if !line.terms.iter().all(|term| can_be(term.of)) {
        return Err(NotALine::NotReckoned(line.name.clone()));
    }
    Ok(structure)
}

/// How many accounts stand under each line.
pub fn standing(chart: &Chart) -> HashMap<LineId, usize> {
    let mut standing = HashMap::new();
    for line in chart.live().filter_map(|account| account.place().1) {
        *standing.entry(line).or_default() += 1;
    }
    standing
}

/// What was done, and to which line, in words.
pub type Said = (&'static str, String);

/// The lines of a chart as changes leave them, one after another, with what each did. An added line has
/// the identity [`Structure::next_id`] of the lines before it.
///
/// # Errors
/// When one of them cannot be carried out.
pub fn carry_out(edits: &[LineEdit], chart: &Chart) -> Result<(Structure, Vec<Said>), NotALine> {
    let standing = standing(chart);
    let used = |line| standing.get(&line).copied().unwrap_or(0);
    let begin = (Structure::clone(chart.structure()), Vec::new());
    edits.iter().try_fold(begin, |(lines, mut said), edit| {
        said.push(edit.say(&lines));
        Ok((edit.carry_out(&lines, used)?, said))
    })
}

/// A name that no other line of the class has that accounts can be put under.
fn free_name(
    structure: &Structure,
    class: Class,
    name: &str,
    but: Option<LineId>,
) -> Result<String, NotALine> {
    let name = texts::name(name)?;
    let same = |line: &StatementLine| {
        line.class == class
            && line.kind != LineKind::Heading
            && Some(line.id) != but
            && line.name.to_lowercase() == name.to_lowercase()
    };
    match structure.lines().filter(|line| !line.retired).find(|line| same(line)) {
        Some(line) => Err(NotALine::Taken(line.name.clone(), class)),
        None => Ok(name),
    }
}

fn at(lines: &[StatementLine], line: LineId) -> Result<usize, NotALine> {
    let found = lines.iter().position(|own| own.id == line && own.kind != LineKind::Heading);
    found.ok_or(NotALine::Unknown)
}

/// Puts a line before another of its class, or behind the last of it: what is reckoned at its end stays there.
fn put(
    lines: &mut Vec<StatementLine>,
    line: StatementLine,
    before: Option<LineId>,
) -> Result<(), NotALine> {
    let place = match before {
        Some(before) => {
            let place = at(lines, before)?;
            if lines[place].class != line.class {
                return Err(NotALine::OtherClass(lines[place].name.clone()));
            }
            place
        }
        None => {
            let goes_before = |own: &StatementLine| {
                own.class == line.class && (line.kind.is_reckoned() || !own.kind.is_reckoned())
            };
            let last = lines.iter().rposition(goes_before);
            last.map_or(lines.len(), |last| last + 1)
        }
    };
    lines.insert(place, line);
    Ok(())
}

/// What a plan stages to merge a line into another of its class: each account of `chart` under the one
/// comes to stand under the other. The empty line is retired when the plan was applied.
///
/// # Errors
/// When there is no such line, the classes differ, or no account stands under the line.
pub fn merged(
    chart: &Chart,
    from: LineId,
    into: LineId,
) -> Result<Vec<(AccountId, Change)>, NotALine> {
    let lines = chart.structure();
    let line = lines.caption(from).ok_or(NotALine::Unknown)?;
    let survivor = lines.captions().find(|line| line.id == into).ok_or(NotALine::Unknown)?;
    if from == into {
        return Err(NotALine::Itself);
    }
    if line.class != survivor.class {
        return Err(NotALine::OtherClass(survivor.name.clone()));
    }
    let under = chart.live().filter(|account| account.place().1 == Some(from));
    let changes: Vec<_> = under.map(|account| (account.id, Change::Caption(Some(into)))).collect();
    if changes.is_empty() { Err(NotALine::Empty(line.name.clone())) } else { Ok(changes) }
}
