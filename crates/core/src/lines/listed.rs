//! A list of lines, as a file has it: what has to be done so that the books' own become as it says. What the
//! list does not name stays.

use super::{LineEdit, NotALine, standing};
use crate::chart::Chart;
use crate::ids::LineId;
use crate::statement::{Class, LineKind, Structure};

/// A row of a list.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Listed {
    /// The class.
    pub class: Class,
    /// What the line is called; one that is not there is added.
    pub name: String,
    /// What it is to be called. The name of another line merges it into that.
    pub new_name: Option<String>,
    /// Whether no account is to be put under it any more; as it is without a word.
    pub retired: Option<bool>,
}

/// What a list asks for.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Asked {
    /// What is done at once, in this order.
    pub edits: Vec<LineEdit>,
    /// Lines with those that they are merged into, which a plan stages.
    pub merges: Vec<(LineId, LineId)>,
    /// Rows that cannot be followed, by their place in the list, with the reason.
    pub refused: Vec<(usize, NotALine)>,
}

/// What a list asks for of the lines of a chart.
pub fn asked(list: &[Listed], chart: &Chart) -> Asked {
    let standing = standing(chart);
    let mut work = Work {
        lines: Structure::clone(chart.structure()),
        used: |line| standing.get(&line).copied().unwrap_or(0),
        asked: Asked::default(),
    };
    let mut order = Vec::new();
    for (row, listed) in list.iter().enumerate() {
        match work.follow(listed) {
            Ok(line) => order.extend(line.map(|line| (listed.class, line))),
            Err(why) => work.asked.refused.push((row, why)),
        }
    }
    for class in Class::ALL {
        let own = order.iter().filter(|(of, _)| of == class).map(|(_, line)| *line);
        work.put_in_order(*class, &own.collect::<Vec<_>>());
    }
    work.asked
}

/// The lines while a list is followed.
struct Work<U> {
    lines: Structure,
    used: U,
    asked: Asked,
}

impl<U: Fn(LineId) -> usize> Work<U> {
    fn find(&self, class: Class, name: &str) -> Option<LineId> {
        let name = name.to_lowercase();
        let own = self.lines.lines().filter(|line| {
            line.kind == LineKind::Line && line.class == class && line.name.to_lowercase() == name
        });
        own.min_by_key(|line| line.retired).map(|line| line.id)
    }

    fn carry_out(&mut self, edit: LineEdit) -> Result<(), NotALine> {
        self.lines = edit.carry_out(&self.lines, &self.used)?;
        self.asked.edits.push(edit);
        Ok(())
    }

    /// Follows a row, and answers the line that it leaves.
    fn follow(&mut self, listed: &Listed) -> Result<Option<LineId>, NotALine> {
        let Listed { class, name, new_name, retired } = listed;
        let new_name = new_name.as_ref().filter(|new| *new != name);
        let Some(line) = self.find(*class, name) else {
            let id = self.lines.next_id();
            let name = new_name.unwrap_or(name).clone();
            self.carry_out(LineEdit::Add { class: *class, name, before: None })?;
            return Ok(Some(id));
        };
        if let Some(new_name) = new_name {
            match self.find(*class, new_name).filter(|other| *other != line) {
                Some(into) => {
                    self.asked.merges.push((line, into));
                    return Ok(None);
                }
                None => self.carry_out(LineEdit::Rename { line, name: new_name.clone() })?,
            }
        }
        match (*retired, self.lines.offers(line)) {
            (Some(true), true) => self.carry_out(LineEdit::Retire { line })?,
            (Some(false), false) => self.carry_out(LineEdit::Restore { line })?,
            _ => {}
        }
        Ok(Some(line))
    }

    /// Puts the lines of a class in the order of the list, behind those that it does not name.
    fn put_in_order(&mut self, class: Class, order: &[LineId]) {
        let now: Vec<LineId> = self.lines.lines().map(|line| line.id).collect();
        let place = |line: &LineId| now.iter().position(|own| own == line);
        if order.is_sorted_by_key(place) {
            return;
        }
        for line in order {
            let own = self.lines.lines().filter(|own| own.class == class);
            let last = own.filter(|own| !own.kind.is_reckoned()).last();
            if last.is_some_and(|last| last.id == *line) {
                continue;
            }
            let edit = LineEdit::Move { line: *line, before: None };
            if let Err(why) = self.carry_out(edit) {
                debug_assert!(false, "a line of the list cannot be moved: {why}");
            }
        }
    }
}
