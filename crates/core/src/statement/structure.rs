//! The tree of lines that the statements of a set of books have.

use super::{Class, Section};
use crate::ids::LineId;
use crate::keyed::keyed;
use serde::{Deserialize, Serialize};
use std::collections::HashSet;
use std::ops::Deref;
use std::sync::Arc;

keyed! {
    /// What a line of a statement is.
    LineKind {
        /// A title over lines.
        Heading = "heading", "heading";
        /// A line that accounts stand under.
        Line = "line", "line";
        /// What rows that one chooses come to, added and taken off: gross profit, net assets.
        Subtotal = "subtotal", "subtotal";
        /// What one row is of another: a margin.
        Ratio = "ratio", "ratio";
    }
}

impl LineKind {
    /// Whether it is reckoned from other rows.
    pub const fn is_reckoned(self) -> bool {
        matches!(self, Self::Subtotal | Self::Ratio)
    }
}

/// A row that others are reckoned from.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Operand {
    /// What a class adds up to.
    Class(Class),
    /// A line, what stands under a heading, or a subtotal.
    Line(LineId),
}

/// A row, as one that is reckoned takes it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Term {
    /// The row.
    pub of: Operand,
    /// Whether what a person reads there is taken off, not added.
    pub taken_off: bool,
}

/// A line of the books' own statements.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct StatementLine {
    /// Its identity.
    pub id: LineId,
    /// The heading that it stands under.
    pub parent: Option<LineId>,
    /// What it is.
    pub kind: LineKind,
    /// The class of the accounts under it.
    pub class: Class,
    /// What it is called.
    pub name: String,
    /// Which of the standard line items it is, if it is one; rules are silent about others.
    pub standard: Option<Section>,
    /// Whether no account is put under it any more, or it is not reckoned any more. Plans and proofs may still name it.
    pub retired: bool,
    /// The line on which accounts under it stand while their balance is on the other side: an overdraft among debts.
    pub other_side: Option<LineId>,
    /// Of a subtotal, what it adds up; of a ratio, the part and the whole.
    pub terms: Vec<Term>,
}

/// A line as the accounts under it know it: their caption.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct Caption(Arc<StatementLine>);

impl Caption {
    /// The same line under another identity.
    pub(crate) fn renamed(&self, id: LineId) -> Self {
        Self(Arc::new(StatementLine { id, ..StatementLine::clone(self) }))
    }
}

impl Deref for Caption {
    type Target = StatementLine;

    fn deref(&self) -> &StatementLine {
        &self.0
    }
}

/// The tree of lines that the statements of a set of books have.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Structure {
    /// In their order.
    lines: Vec<Caption>,
}

impl Default for Structure {
    fn default() -> Self {
        Self::standard((1..).map(LineId))
    }
}

impl Structure {
    /// A structure of these lines, in their order.
    pub fn new(lines: impl IntoIterator<Item = StatementLine>) -> Self {
        Self { lines: lines.into_iter().map(|line| Caption(Arc::new(line))).collect() }
    }

    /// How many lines the standard structure has.
    pub fn standard_size() -> usize {
        Self::default().lines.len()
    }

    /// The standard line items, under a heading for each class: what a set of books begins with. An
    /// item that stands in two classes is two lines. It has as many lines as there are identities.
    pub fn standard(ids: impl IntoIterator<Item = LineId>) -> Self {
        let mut ids = ids.into_iter();
        let mut lines = Vec::new();
        for class in Class::ALL {
            let Some(heading) = ids.next() else { break };
            let line = |id, parent, kind, name: &str, standard| StatementLine {
                id,
                parent,
                kind,
                class: *class,
                name: name.to_owned(),
                standard,
                retired: false,
                other_side: None,
                terms: Vec::new(),
            };
            lines.push(line(heading, None, LineKind::Heading, class.title(), None));
            let own = Section::ALL.iter().filter(|section| section.classes().contains(class));
            lines.extend(own.zip(&mut ids).map(|(section, id)| {
                line(id, Some(heading), LineKind::Line, section.words(), Some(*section))
            }));
        }
        Self::new(lines)
    }

    /// All lines, in their order; retired ones too.
    pub fn lines(&self) -> impl Iterator<Item = &StatementLine> {
        self.lines.iter().map(|line| &**line)
    }

    /// The line with this identity, whatever it is.
    pub fn line(&self, id: LineId) -> Option<&StatementLine> {
        self.lines().find(|line| line.id == id)
    }

    /// The lines that accounts can be put under, in their order.
    pub fn captions(&self) -> impl Iterator<Item = &StatementLine> {
        self.lines().filter(|line| line.kind == LineKind::Line && !line.retired)
    }

    /// Whether any line names another for balances on the other side.
    pub fn names_other_sides(&self) -> bool {
        self.lines().any(|line| line.other_side.is_some())
    }

    /// Whether what a line is reckoned from leads back to it.
    pub(crate) fn is_circle(&self, id: LineId) -> bool {
        let mut seen = HashSet::new();
        let mut next = vec![id];
        while let Some(at) = next.pop() {
            for term in self.line(at).into_iter().flat_map(|line| &line.terms) {
                match term.of {
                    Operand::Line(of) if of == id => return true,
                    Operand::Line(of) if seen.insert(of) => next.push(of),
                    _ => {}
                }
            }
        }
        false
    }

    /// An identity that none of the lines has, to begin counting from.
    pub fn next_id(&self) -> LineId {
        LineId(self.lines().map(|line| line.id.0).max().unwrap_or(0) + 1)
    }

    /// Whether accounts can be put under the line with this identity.
    pub fn offers(&self, id: LineId) -> bool {
        self.captions().any(|line| line.id == id)
    }

    /// The line with this identity, as the caption of an account.
    pub fn caption(&self, id: LineId) -> Option<Caption> {
        let line = self.lines.iter().find(|line| line.id == id && line.kind == LineKind::Line);
        line.cloned()
    }

    /// The line that a standard item is in a class.
    pub fn of_standard(&self, class: Class, standard: Section) -> Option<Caption> {
        let fits = |line: &&Caption| line.class == class && line.standard == Some(standard);
        let fitting = self.lines.iter().filter(|line| line.kind == LineKind::Line).filter(fits);
        fitting.min_by_key(|line| line.retired).cloned()
    }
}
