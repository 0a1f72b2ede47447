//! Under which line of the statements each account stands. A wording that is none of the standard lines
//! becomes a line of the books' own, under its class, where the file has it.

use super::came_from::CameFrom;
use super::draft::{Draft, Line};
use crate::Warning;
use crate::cause::Cause;
use crate::columns::reduce;
use crate::wordings::Settled;
use crate::words;
use zf_core::chart::{Class, Section, Structure};
use zf_core::ids::ItemId;
use zf_core::statement::{ItemKind, StatementItem};

/// Puts accounts under lines, and answers all lines: those of the books with those that are added.
pub(super) fn put_under(
    drafts: &mut [Draft<'_>],
    structure: &Structure,
    settled: &Settled,
    warnings: &mut Vec<Warning>,
) -> Structure {
    let mut lines: Vec<StatementItem> = structure.items().cloned().collect();
    let mut next = structure.next_id().0;
    let mut given = Vec::with_capacity(drafts.len());
    for draft in drafts.iter() {
        let Some(line) = line_of(draft, settled) else {
            given.push(None);
            continue;
        };
        let class = draft.account.class;
        let at = known(&lines, class, &line).unwrap_or_else(|| {
            let name = line.wording.trim();
            let cause = Cause::CaptionOwn { name: name.to_owned(), class };
            warnings.push(Warning { row: draft.row.number, cause });
            let at = add(&mut lines, ItemId(next), class, name);
            next += 1;
            at
        });
        given.push(Some((lines[at].id, line.from)));
    }
    let structure = Structure::new(lines);
    for (draft, given) in drafts.iter_mut().zip(given) {
        let Some((id, from)) = given else { continue };
        draft.account.caption = structure.caption(id);
        draft.origins.caption = Some(from);
    }
    structure
}

/// The line that a row names itself, or that the captions above it are; a class is no line.
fn line_of(draft: &Draft<'_>, settled: &Settled) -> Option<Line> {
    if draft.line.is_some() {
        return draft.line.clone();
    }
    let above = draft.captions.iter().next_back()?;
    let wording = &above.wording;
    if words::class(wording).is_some() || words::statement(wording).is_some() {
        return None;
    }
    let own = settled.get(wording).and_then(|settled| settled.section);
    let standard = own.or_else(|| words::line(wording));
    Some(Line { wording: above.text.clone(), standard, from: CameFrom::Caption })
}

fn known(lines: &[StatementItem], class: Class, line: &Line) -> Option<usize> {
    let standard = |section: Section| section.classes().contains(&class).then_some(section);
    let (wanted, wording) = (line.standard.and_then(standard), reduce(&line.wording));
    let open =
        |own: &StatementItem| own.class == class && own.kind == ItemKind::Item && !own.retired;
    lines.iter().position(|own| {
        open(own) && (wanted.is_some() && own.standard == wanted || reduce(&own.name) == wording)
    })
}

/// Adds a line after those of its class.
fn add(lines: &mut Vec<StatementItem>, id: ItemId, class: Class, name: &str) -> usize {
    let last = lines.iter().rposition(|line| line.class == class);
    let heading = lines
        .iter()
        .find(|l| l.class == class && l.kind == ItemKind::Heading && l.parent.is_none());
    let line = StatementItem {
        id,
        parent: heading.map(|heading| heading.id),
        kind: ItemKind::Item,
        class,
        name: name.to_owned(),
        standard: None,
        retired: false,
        other_side: None,
        terms: Vec::new(),
    };
    let at = last.map_or(lines.len(), |last| last + 1);
    lines.insert(at, line);
    at
}
