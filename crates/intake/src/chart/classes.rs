//! The class of each account, from wherever the file tells it.

use super::against::ChartContext;
use super::came_from::CameFrom;
use super::draft::Draft;
use super::sums;
use crate::cause::Cause;
use crate::columns::{Column, reduce};
use crate::question::{About, Answer, Asks, Gives, Means, Question};
use crate::reading::Reading;
use crate::wordings::{caption, headed};
use crate::words::{self, Said, Statement};
use crate::{Rejected, Warning};
use std::collections::{BTreeMap, HashMap, HashSet};
use zf_core::chart::{Account, Chart, Class, Kind};
use zf_core::ids::AccountId;

/// Settles the class of each draft, rejects those that nothing tells, and answers what is asked.
pub(super) fn settle(
    reading: &Reading,
    drafts: &mut Vec<Draft<'_>>,
    books: &ChartContext<'_>,
    rejected: &mut Vec<Rejected>,
) -> Vec<Question> {
    let mut questions = Vec::new();
    ask_for_wordings(drafts, &mut questions);
    by_statement(drafts);
    by_captions(reading, drafts);
    from_above(reading, drafts);
    by_own_words(reading, drafts);
    by_parents(drafts, books.chart);
    by_scheme(drafts, books);
    by_parents(drafts, books.chart);
    by_credit_side(reading, drafts, &mut questions);
    ask_for_captions(drafts, &mut questions);
    by_first_digit(reading, drafts, &mut questions);
    by_parents(drafts, books.chart);
    by_rows_below(drafts);
    sums::classes(drafts);
    drafts.retain_mut(|draft| {
        let Some(class) = draft.class else {
            rejected.push(missing(reading, draft));
            return false;
        };
        draft.account.class = class;
        true
    });
    questions
}

fn missing(reading: &Reading, draft: &Draft<'_>) -> Rejected {
    let cause = match &draft.unsettled {
        Some(_) => Cause::ClassUnknown,
        None => Cause::ClassMissing,
    };
    reading.layout.reject(draft.row, Column::Class, cause)
}

/// Tells a class that is not known yet. A wording of which nothing is known is asked for instead.
fn tell(draft: &mut Draft<'_>, class: Class, from: CameFrom) {
    if draft.class.is_none() && draft.unsettled.is_none() {
        draft.class = Some(class);
        draft.origins.class = Some(from);
    }
}

/// The five classes to choose from.
fn classes(gives: impl Fn(Class) -> Gives) -> Vec<Answer> {
    Class::ALL.iter().map(|class| is_class(*class, gives(*class))).collect()
}

fn is_class(class: Class, gives: Gives) -> Answer {
    Answer::new(class.key(), Means::Class(class), gives)
}

/// Asks what wordings of classes stand for that nothing is known of.
fn ask_for_wordings(drafts: &[Draft<'_>], questions: &mut Vec<Question>) {
    let mut counts: BTreeMap<String, (String, usize)> = BTreeMap::new();
    for draft in drafts.iter().filter(|draft| draft.class.is_none()) {
        let Some(text) = draft.unsettled.clone() else { continue };
        counts.entry(reduce(&text)).or_insert((text, 0)).1 += 1;
    }
    let mut wordings: Vec<_> = counts.into_values().collect();
    wordings.sort_by(|a, b| b.1.cmp(&a.1).then_with(|| a.0.cmp(&b.0)));
    questions.extend(wordings.iter().map(|(text, rows)| Question {
        about: About::Class(text.clone()),
        asks: Asks::Class(text.clone()),
        readings: classes(|_| Gives::Rows(*rows)),
        default: None,
    }));
}

/// Where what is owed and what is the owners' own stand together, names tell them apart as far as they do.
/// That all others are owed is asked.
fn by_credit_side(reading: &Reading, drafts: &mut [Draft<'_>], questions: &mut Vec<Question>) {
    let above = |draft: &Draft<'_>| {
        draft.captions.iter().any(|above| words::says(Said::OwedAndOwn, &above.wording))
    };
    // What stands under one caption with assets takes from them.
    let wording = |draft: &Draft<'_>| draft.line.as_ref().map(|line| reduce(&line.wording));
    let assets: HashSet<String> =
        drafts.iter().filter(|d| d.class == Some(Class::Asset)).filter_map(wording).collect();
    let mut open = Vec::new();
    for draft in drafts.iter_mut().filter(|d| d.class.is_none() && d.unsettled.is_none()) {
        let side = draft.statement == Some(Statement::BalanceSheet) && draft.debit == Some(false);
        if !side && !draft.credit_side && !above(draft) {
            continue;
        }
        let of = |text: &str| caption(text, &reading.settled).map(|found| found.class);
        let name = &draft.account.name;
        let named = of(name).or_else(|| headed(name)).or_else(|| of(name.split(' ').next()?));
        match named.filter(|class| matches!(class, Class::Liability | Class::Equity)) {
            Some(class) => tell(draft, class, CameFrom::Wording),
            None if wording(draft).is_some_and(|line| assets.contains(&line)) => {
                tell(draft, Class::Asset, CameFrom::Wording);
            }
            None if is_own(name) || wording(draft).is_some_and(|line| is_own(&line)) => {
                tell(draft, Class::Equity, CameFrom::Wording);
            }
            None if is_asked(draft) => open.push(draft),
            None => {}
        }
    }
    let Some(example) = open.first().map(|draft| draft.account.name.clone()) else { return };
    let answer = reading.answers.get(&About::OwedAndOwn).and_then(|key| Class::from_key(key));
    if answer.is_none() {
        let both = [Class::Liability, Class::Equity];
        let readings = both.map(|class| is_class(class, Gives::Rows(open.len())));
        questions.push(Question {
            about: About::OwedAndOwn,
            asks: Asks::OwedAndOwn(example),
            readings: readings.into(),
            default: Some(Class::Liability.key().to_owned()),
        });
    }
    for draft in open {
        tell(draft, answer.unwrap_or(Class::Liability), CameFrom::Wording);
    }
}

/// Whether a name has a word of what is the owners' own, or ends with one.
fn is_own(name: &str) -> bool {
    reduce(name).split(' ').any(|word| {
        let ends = (0..word.len()).filter(|at| word.is_char_boundary(*at));
        ends.filter(|at| *at == 0 || word.len() - at > 6)
            .any(|at| words::says(Said::OwnFunds, &word[at..]))
    })
}

/// Asks which class stands under captions that tell none, where nothing else does.
fn ask_for_captions(drafts: &mut [Draft<'_>], questions: &mut Vec<Question>) {
    let mut counts: BTreeMap<String, (String, usize)> = BTreeMap::new();
    for draft in drafts.iter_mut().filter(|d| d.class.is_none() && d.unsettled.is_none()) {
        let above = draft.captions.last();
        let Some(above) = above.filter(|above| words::statement(&above.wording).is_none()) else {
            continue;
        };
        counts.entry(above.wording.clone()).or_insert_with(|| (above.text.clone(), 0)).1 += 1;
        draft.unsettled = Some(above.text.clone());
    }
    questions.extend(counts.into_values().map(|(text, rows)| Question {
        about: About::Class(text.clone()),
        asks: Asks::ClassUnder(text),
        readings: classes(|_| Gives::Rows(rows)),
        default: None,
    }));
}

/// A statement and a side together tell a class; what is owed and what is owned by the owners stand on
/// one side, and so tell none.
fn by_statement(drafts: &mut [Draft<'_>]) {
    for draft in drafts {
        let class = match (draft.statement, draft.debit) {
            (Some(Statement::BalanceSheet), Some(true)) => Class::Asset,
            (Some(Statement::IncomeStatement), Some(true)) => Class::Expense,
            (Some(Statement::IncomeStatement), Some(false)) => Class::Income,
            _ => continue,
        };
        tell(draft, class, CameFrom::Column);
    }
}

/// The nearest caption above that is a class, or a line of one.
fn by_captions(reading: &Reading, drafts: &mut [Draft<'_>]) {
    for draft in drafts {
        let class = |text: &str| {
            caption(text, &reading.settled).map(|found| found.class).or_else(|| headed(text))
        };
        if let Some(class) = draft.captions.iter().rev().find_map(|above| class(&above.text)) {
            tell(draft, class, CameFrom::Caption);
        }
    }
}

/// Cells that are merged downwards stand in the first row only. They are taken so where each class
/// stands once.
fn from_above(reading: &Reading, drafts: &mut [Draft<'_>]) {
    let given: Vec<Class> = drafts.iter().filter(|d| d.own_row).filter_map(|d| d.class).collect();
    let mut runs = given.clone();
    runs.dedup();
    // A cell that says something, though no class, is not merged with that above it.
    let silent = |draft: &Draft<'_>| reading.layout.cell(draft.row, Column::Class).is_empty();
    if drafts.iter().any(|draft| draft.class.is_none() && draft.own_row && !silent(draft)) {
        return;
    }
    let once = runs.len() == given.len() && given.len() > 1 && given.len() * 2 <= drafts.len();
    let flat = drafts.iter().all(|draft| draft.account.parent.is_none());
    if !once || !flat || drafts.first().is_none_or(|draft| draft.class.is_none()) {
        return;
    }
    let mut last = None;
    for draft in drafts {
        match (draft.class, last) {
            (Some(class), _) => last = Some(class),
            (None, Some(class)) => tell(draft, class, CameFrom::Column),
            (None, None) => {}
        }
    }
}

/// A heading may be called as a class, or as a line of one.
fn by_own_words(reading: &Reading, drafts: &mut [Draft<'_>]) {
    for draft in drafts.iter_mut().filter(|draft| draft.account.kind == Kind::Heading) {
        if let Some(found) = caption(&draft.account.name, &reading.settled) {
            tell(draft, found.class, CameFrom::Wording);
        }
    }
}

/// A row takes the class of the row it stands under.
fn by_parents(drafts: &mut [Draft<'_>], chart: &Chart) {
    let by_row: HashMap<AccountId, (Option<AccountId>, Option<Class>)> =
        drafts.iter().map(|d| (d.account.id, (d.account.parent, d.class))).collect();
    let above = |start: Option<AccountId>| {
        let mut at = start;
        while let Some(id) = at {
            match by_row.get(&id) {
                Some((_, Some(class))) => return Some(*class),
                Some((parent, None)) => at = *parent,
                None => return chart.get(id).map(|account| account.class),
            }
        }
        None
    };
    for draft in drafts.iter_mut().filter(|draft| draft.class.is_none()) {
        if let Some(class) = above(draft.account.parent) {
            tell(draft, class, CameFrom::Parent);
        }
    }
}

/// A heading of which nothing else tells the class takes that of all that stand under it. It does not
/// pass it on: what stands under it and is told nowhere is asked.
fn by_rows_below(drafts: &mut [Draft<'_>]) {
    loop {
        let mut below: HashMap<AccountId, Option<Class>> = HashMap::new();
        for (parent, class) in drafts.iter().filter_map(|d| Some((d.account.parent?, d.class?))) {
            let same = below.entry(parent).or_insert(Some(class));
            *same = same.filter(|same| *same == class);
        }
        let before = drafts.iter().filter(|draft| draft.class.is_none()).count();
        for draft in drafts.iter_mut().filter(|draft| draft.class.is_none()) {
            if let Some(class) = below.get(&draft.account.id).copied().flatten() {
                tell(draft, class, CameFrom::Parent);
            }
        }
        if drafts.iter().filter(|draft| draft.class.is_none()).count() == before {
            break;
        }
    }
    // Rows of several classes under one heading: it takes that of the first, and the others are said to
    // differ from it.
    let first: HashMap<AccountId, Class> =
        drafts.iter().rev().filter_map(|d| Some((d.account.parent?, d.class?))).collect();
    for draft in drafts.iter_mut() {
        if let Some(class) = first.get(&draft.account.id) {
            tell(draft, *class, CameFrom::Parent);
        }
    }
}

/// The blocks of the books say which class a code belongs to.
fn by_scheme(drafts: &mut [Draft<'_>], books: &ChartContext<'_>) {
    for draft in drafts.iter_mut().filter(|draft| draft.coded) {
        let block =
            books.blocks.iter().find(|block| block.codes.contains(&draft.account.code.key()));
        if let Some(block) = block {
            tell(draft, block.class, CameFrom::Scheme);
        }
    }
}

/// Where nothing tells a class, the names may: those that are called as a class or a line of one. Of the
/// others, codes with one beginning are asked together, and names without codes; what is known of the same
/// beginning makes one reading more likely.
fn by_first_digit(reading: &Reading, drafts: &mut [Draft<'_>], questions: &mut Vec<Question>) {
    let group = |draft: &Draft<'_>| {
        let digit = draft.account.code.as_str().chars().next().filter(|_| draft.coded);
        digit.map_or(About::Names, About::Codes)
    };
    let mut groups: BTreeMap<About, (usize, BTreeMap<Class, usize>)> = BTreeMap::new();
    for draft in drafts.iter_mut().filter(|d| d.unsettled.is_none() && is_asked(d)) {
        let named = caption(&draft.account.name, &reading.settled).map(|found| found.class);
        if let Some(class) = named {
            tell(draft, class, CameFrom::Wording);
        }
        let (rows, votes) = groups.entry(group(draft)).or_default();
        match draft.class {
            Some(class) => *votes.entry(class).or_default() += 1,
            None => *rows += 1,
        }
    }
    let mut chosen: HashMap<About, Class> = HashMap::new();
    for (about, (rows, votes)) in groups.into_iter().filter(|(_, (rows, _))| *rows > 0) {
        let answer = reading.answers.get(&about).and_then(|key| Class::from_key(key));
        let all: usize = votes.values().sum();
        let most = votes.iter().max_by_key(|(_, count)| **count);
        let most = most.filter(|(_, count)| **count * 2 > all).map(|(class, _)| *class);
        // Names without codes have nothing in common.
        let most = most.filter(|_| about != About::Names);
        chosen.extend(answer.or(most).map(|class| (about.clone(), class)));
        if answer.is_none() {
            let asks = match &about {
                About::Codes(first) => Asks::ClassOfCodes(*first),
                _ => Asks::ClassOfOthers,
            };
            let named = |class| votes.get(&class).copied().unwrap_or(0);
            let readings = classes(|class| Gives::RowsAndNamed(rows, named(class)));
            let default = most.map(|class| class.key().to_owned());
            questions.push(Question { about, asks, readings, default });
        }
    }
    for draft in drafts.iter_mut().filter(|d| d.class.is_none() && is_asked(d)) {
        if let Some(class) = chosen.get(&group(draft)) {
            tell(draft, *class, CameFrom::Range);
        }
    }
}

/// Headings and totals take the class of what stands below or above them.
fn is_asked(draft: &Draft<'_>) -> bool {
    draft.account.kind != Kind::Heading && !draft.total
}

/// Says where two sources disagree: the class of a heading, the statement, the caption above.
pub(super) fn warn(drafts: &[Draft<'_>], chart: &Chart, warnings: &mut Vec<Warning>) {
    let own: HashMap<AccountId, &Account> =
        drafts.iter().map(|d| (d.account.id, &d.account)).collect();
    for draft in drafts {
        let account = &draft.account;
        let named = || (account.label(), account.class);
        let mut warn = |cause| warnings.push(Warning { row: draft.row.number, cause });
        let parent = account.parent.and_then(|id| own.get(&id).copied().or_else(|| chart.get(id)));
        if let Some(parent) = parent.filter(|parent| parent.class != account.class) {
            let ((account, class), heading, other) = (named(), parent.label(), parent.class);
            warn(Cause::ClassOfHeading { account, class, heading, other });
        }
        let expected = if account.class.on_balance_sheet() {
            Statement::BalanceSheet
        } else {
            Statement::IncomeStatement
        };
        if let Some(statement) = draft.statement.filter(|said| *said != expected) {
            let (account, class) = named();
            warn(Cause::ClassOfStatement { account, class, statement });
        }
        let mut captions = draft.captions.iter().rev();
        let above =
            captions.find_map(|caption| Some((words::class(&caption.wording)?, &caption.text)));
        if let Some((other, text)) = above.filter(|(class, _)| *class != account.class) {
            let ((account, class), caption) = (named(), text.clone());
            warn(Cause::ClassOfCaption { account, class, caption, other });
        }
    }
}
