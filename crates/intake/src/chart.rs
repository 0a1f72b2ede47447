//! Intake of a chart of accounts.

use super::OutlineBy;
use super::columns::{Column, reduce};
use super::outline::{Node, told};
use super::reading::Reading;
use super::reason::Reason;
use super::wordings::{Caption, caption};
use super::{Intake, RawRow, Rejected, Warning};
use std::collections::{HashMap, HashSet};
use zf_core::chart::{Account, Chart, Class, ControlRole, Kind, Section, Status};
use zf_core::code::{Code, CodeKey, Interval};
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::plan::{Field, texts};
use zf_core::policy::CodeFormat;

/// What a chart is read against.
pub struct Books<'a> {
    /// The chart that is there already: its headings may stand above rows of the file.
    pub chart: &'a Chart,
    /// The form that codes must have.
    pub format: CodeFormat,
}

/// What a file of accounts holds.
#[derive(Clone, Debug)]
pub struct ChartIntake {
    /// The accounts, with the number of the row that each came from, and the rejected rows.
    pub intake: Intake<(u32, Account)>,
    /// How the outline was told.
    pub outline: OutlineBy,
    /// Wordings of classes and sections that nothing is known of, with how many rows have each.
    pub unsettled: Vec<(String, usize)>,
}

/// Reads the accounts of a file. Their identities count up from `first_id`; their parents are
/// accounts of the file or of the chart.
pub fn read(
    reading: &Reading,
    rows: &[RawRow],
    books: &Books<'_>,
    first_id: AccountId,
) -> ChartIntake {
    let mut warnings = Vec::new();
    let body = reading.layout.body(rows, &mut warnings);
    let mut reader = Reader::new(reading, books);
    for row in body {
        reader.take(row);
    }
    let (mut drafts, mut rejected, unsettled) = (reader.drafts, reader.rejected, reader.unsettled);
    for (draft, id) in drafts.iter_mut().zip(first_id.0..) {
        draft.account.id = AccountId(id);
    }
    let outline = stand_under(reading, &mut drafts, books.chart, &mut rejected);
    settle_classes(reading, &mut drafts, books.chart, &mut rejected);
    drop_orphans(reading, &mut drafts, books.chart, &mut rejected);
    warn_of_classes(&drafts, books.chart, &mut warnings);
    let ready: Vec<_> = drafts.into_iter().map(|d| (d.row.number, d.account)).collect();
    let mut unsettled: Vec<_> = unsettled.into_values().collect();
    unsettled.sort_by(|a, b| b.1.cmp(&a.1).then_with(|| a.0.cmp(&b.0)));
    let count = ready.len();
    let intake = Intake::of(ready, count, rejected, warnings);
    ChartIntake { intake, outline, unsettled }
}

/// An account as far as its own row tells it.
struct Draft<'a> {
    row: &'a RawRow,
    account: Account,
    /// Whether the file says that it is an account, a heading or a sum line.
    kind_given: bool,
    class: Option<Class>,
}

struct Reader<'a> {
    reading: &'a Reading,
    books: &'a Books<'a>,
    /// The row in which each code stands.
    taken: HashMap<CodeKey, u32>,
    roles: HashMap<ControlRole, String>,
    drafts: Vec<Draft<'a>>,
    rejected: Vec<Rejected>,
    unsettled: HashMap<String, (String, usize)>,
}

impl<'a> Reader<'a> {
    fn new(reading: &'a Reading, books: &'a Books<'a>) -> Self {
        Self {
            reading,
            books,
            taken: HashMap::new(),
            roles: HashMap::new(),
            drafts: Vec::new(),
            rejected: Vec::new(),
            unsettled: HashMap::new(),
        }
    }

    fn take(&mut self, row: &'a RawRow) {
        match self.read(row) {
            Ok(draft) => {
                let account = &draft.account;
                self.taken.insert(account.code.key(), row.number);
                self.roles.extend(account.role.map(|role| (role, account.label())));
                self.drafts.push(draft);
            }
            Err(why) => self.rejected.push(why),
        }
    }

    fn read(&mut self, row: &'a RawRow) -> Result<Draft<'a>, Rejected> {
        self.reading.layout.check_texts(row)?;
        let reading = self.reading;
        let cell = |field| reading.layout.cell(row, field);
        let reject =
            |field, reason, message: String| reading.layout.reject(row, field, reason, message);
        let code = self.code(row)?;
        let name = texts::name(reading.name(row))
            .map_err(|e| reject(Column::Name, Reason::from(&e), e.to_string()))?;
        let kind = kind_of(cell(Column::Kind)).ok_or_else(|| {
            let message = "it is not account, heading or sum line".to_owned();
            reject(Column::Kind, Reason::KindUnknown, message)
        })?;
        let (class, section) = self.captions(row)?;
        let lines = self.books.chart.structure();
        let caption = class.zip(section).and_then(|(class, item)| lines.of_standard(class, item));
        let intervals = Interval::parse_list(cell(Column::Intervals))
            .map_err(|e| reject(Column::Intervals, Reason::IntervalsMalformed, e.to_string()))?;
        if kind == Some(Kind::Sum) && intervals.is_empty() {
            let message = "a sum line needs the codes it adds up".to_owned();
            return Err(reject(Column::Intervals, Reason::IntervalsMissing, message));
        }
        let role = self.role(row)?;
        let currency =
            match cell(Column::Currency) {
                "" => None,
                text => Some(Currency::parse(text).map_err(|e| {
                    reject(Column::Currency, Reason::CurrencyUnknown, e.to_string())
                })?),
            };
        let contra = is_yes(cell(Column::Contra));
        if let (Some(class), Some(debit)) = (class, self.normal(row)?)
            && debit != (is_debit(class) != contra)
        {
            let side = if debit { "debit" } else { "credit" };
            let what = if contra { "contra " } else { "" };
            let message = format!(
                "its normal balance is {side}, but a {what}{} has the other",
                class.words()
            );
            return Err(reject(Column::Normal, Reason::ContraContradicts, message));
        }
        let text = |field, column| {
            texts::text(field, cell(column))
                .map_err(|e| reject(column, Reason::from(&e), e.to_string()))
        };
        let tax_code = text(Field::Tax, Column::Tax)?;
        // The class is settled once the headings are known, which may tell it.
        let placeholder = class.unwrap_or(Class::Asset);
        let account = Account {
            kind: kind.unwrap_or(Kind::Account),
            caption,
            status: self.status(row)?,
            contra,
            role,
            currency,
            description: text(Field::Description, Column::Description)?,
            tax_code: Some(tax_code).filter(|code| !code.is_empty()),
            intervals,
            ..Account::new(AccountId(0), code, name, placeholder)
        };
        if account.currency.is_some() && !account.may_fix_currency() {
            let message = "a fixed currency belongs to cash, receivables, payables or borrowings";
            return Err(reject(Column::Currency, Reason::CurrencyNotAllowed, message.to_owned()));
        }
        Ok(Draft { row, account, kind_given: kind.is_some(), class })
    }

    fn status(&self, row: &RawRow) -> Result<Status, Rejected> {
        match reduce(self.reading.layout.cell(row, Column::Status)).as_str() {
            "" | "active" | "yes" | "open" => Ok(Status::Active),
            "deactivated" | "inactive" | "no" => Ok(Status::Deactivated),
            "archived" | "closed" => Ok(Status::Archived),
            _ => {
                let message = "it is not active, deactivated or archived";
                let layout = &self.reading.layout;
                Err(layout.reject(row, Column::Status, Reason::StatusUnknown, message))
            }
        }
    }

    fn code(&self, row: &RawRow) -> Result<Code, Rejected> {
        let reject =
            |reason, message| self.reading.layout.reject(row, Column::Code, reason, message);
        let code = Code::parse(self.reading.code(row, Column::Code))
            .map_err(|e| reject(Reason::from(&e), e.to_string()))?;
        if let Some(objection) = self.books.format.objection(&code) {
            return Err(reject(Reason::CodeFormat, format!("{code} {objection}")));
        }
        match self.taken.get(&code.key()) {
            Some(first) => {
                let message = format!("code {code} is already in row {first}");
                Err(reject(Reason::CodeTwice, message))
            }
            None => Ok(code),
        }
    }

    /// Class and section, each as far as the file tells it; either column may hold either.
    fn captions(&mut self, row: &RawRow) -> Result<(Option<Class>, Option<Section>), Rejected> {
        let (of_class, of_section) =
            (self.caption(row, Column::Class)?, self.caption(row, Column::Section)?);
        let section = of_section.and_then(|c| c.section).or(of_class.and_then(|c| c.section));
        // A section may stand in two classes; the column of classes then says in which.
        let class = match (of_class, of_section) {
            (Some(c), _) if c.section.is_none() => Some(c.class),
            (Some(c), _) | (None, Some(c)) => Some(c.class),
            (None, None) => None,
        };
        if let (Some(class), Some(section)) = (class, section)
            && !section.classes().contains(&class)
        {
            let message =
                format!("{} is not a section of the class {}", section.words(), class.words());
            let reason = Reason::SectionForeign;
            return Err(self.reading.layout.reject(row, Column::Section, reason, message));
        }
        Ok((class, section))
    }

    fn caption(&mut self, row: &RawRow, field: Column) -> Result<Option<Caption>, Rejected> {
        let text = self.reading.layout.cell(row, field);
        if text.is_empty() {
            return Ok(None);
        }
        if let Some(caption) = caption(text, &self.reading.settled) {
            return Ok(Some(caption));
        }
        let counted = self.unsettled.entry(reduce(text)).or_insert((text.to_owned(), 0));
        counted.1 += 1;
        let (reason, message) = match field {
            Column::Section => {
                (Reason::SectionUnknown, "no such section is known; leave it empty if in doubt")
            }
            _ => (
                Reason::ClassUnknown,
                "it is not one of the classes asset, liability, equity, income or expense",
            ),
        };
        Err(self.reading.layout.reject(row, field, reason, message))
    }

    fn role(&self, row: &RawRow) -> Result<Option<ControlRole>, Rejected> {
        let reject =
            |reason, message| Err(self.reading.layout.reject(row, Column::Role, reason, message));
        let wording = reduce(self.reading.layout.cell(row, Column::Role));
        if wording.is_empty() {
            return Ok(None);
        }
        let known = |role: &&ControlRole| role.words() == wording || reduce(role.key()) == wording;
        let Some(role) = ControlRole::ALL.iter().copied().find(|role| known(&role)) else {
            return reject(Reason::RoleUnknown, "no such control role is known".to_owned());
        };
        match self.roles.get(&role).filter(|_| role.is_unique()) {
            Some(other) => reject(
                Reason::RoleTaken,
                format!("{other} is already the {} account", role.words()),
            ),
            None => Ok(Some(role)),
        }
    }

    /// Whether the balance usually stands on the debit side, if the file says so.
    fn normal(&self, row: &RawRow) -> Result<Option<bool>, Rejected> {
        match reduce(self.reading.layout.cell(row, Column::Normal)).as_str() {
            "" => Ok(None),
            "debit" | "dr" | "d" => Ok(Some(true)),
            "credit" | "cr" | "c" => Ok(Some(false)),
            _ => {
                let message = "it is neither debit nor credit";
                let layout = &self.reading.layout;
                Err(layout.reject(row, Column::Normal, Reason::SideUnknown, message))
            }
        }
    }
}

/// The kind that a wording means: `Some(None)` when nothing is said.
fn kind_of(text: &str) -> Option<Option<Kind>> {
    Some(match reduce(text).as_str() {
        "" => None,
        "account" | "posting" | "posting account" | "detail" | "ledger" => Some(Kind::Account),
        "heading" | "header" | "group" | "title" => Some(Kind::Heading),
        "sum" | "sum line" | "total" => Some(Kind::Sum),
        _ => return None,
    })
}

fn is_yes(text: &str) -> bool {
    matches!(reduce(text).as_str(), "yes" | "true" | "1" | "contra" | "x" | "y")
}

fn is_debit(class: Class) -> bool {
    matches!(class, Class::Asset | Class::Expense)
}

/// Finds the heading of each row. A row whose heading cannot be taken is rejected too, and so on
/// down the outline.
fn stand_under(
    reading: &Reading,
    drafts: &mut Vec<Draft<'_>>,
    chart: &Chart,
    rejected: &mut Vec<Rejected>,
) -> OutlineBy {
    let nodes: Vec<Node<'_>> = drafts
        .iter()
        .map(|draft| Node {
            row: draft.row,
            key: draft.account.code.key(),
            name: draft.account.name.clone(),
        })
        .collect();
    let outline = told(reading, &nodes);
    let ids: Vec<AccountId> = drafts.iter().map(|draft| draft.account.id).collect();
    for (at, (parent, name)) in outline.parents.iter().zip(outline.names).enumerate() {
        drafts[at].account.parent = parent.map(|parent| ids[parent]);
        drafts[at].account.name = name;
        if let Some(parent) = parent.map(|parent| &mut drafts[parent])
            && !parent.kind_given
        {
            parent.account.kind = Kind::Heading;
        }
    }
    if outline.by == OutlineBy::Parent {
        by_column(reading, drafts, chart, rejected);
    }
    outline.by
}

fn by_column(
    reading: &Reading,
    drafts: &mut Vec<Draft<'_>>,
    chart: &Chart,
    rejected: &mut Vec<Rejected>,
) {
    // A row that others name as their heading is one, unless the file says otherwise.
    let named: HashSet<CodeKey> = drafts
        .iter()
        .filter_map(|d| Code::parse(reading.code(d.row, Column::Parent)).ok())
        .map(|code| code.key())
        .collect();
    for draft in drafts.iter_mut() {
        if !draft.kind_given && named.contains(&draft.account.code.key()) {
            draft.account.kind = Kind::Heading;
        }
    }
    loop {
        let rows = || chart.live().chain(drafts.iter().map(|d| &d.account));
        let codes: HashMap<CodeKey, (AccountId, Kind)> =
            rows().map(|a| (a.code.key(), (a.id, a.kind))).collect();
        let before = drafts.len();
        drafts.retain_mut(|draft| {
            let text = reading.code(draft.row, Column::Parent);
            if text.is_empty() {
                return true;
            }
            let heading = Code::parse(text).ok().and_then(|code| codes.get(&code.key()));
            let (reason, message) = match heading {
                Some((id, Kind::Heading)) if *id != draft.account.id => {
                    draft.account.parent = Some(*id);
                    return true;
                }
                Some((id, _)) if *id == draft.account.id => {
                    (Reason::HeadingItself, "a row cannot stand under itself")
                }
                Some(_) => (Reason::HeadingUnfit, "the row it should stand under is not a heading"),
                None => (
                    Reason::HeadingUnknown,
                    "no heading with this code is in the file or the chart",
                ),
            };
            rejected.push(reading.layout.reject(draft.row, Column::Parent, reason, message));
            false
        });
        if drafts.len() == before {
            break;
        }
    }
    reject_circles(reading, drafts, rejected);
}

fn reject_circles(reading: &Reading, drafts: &mut Vec<Draft<'_>>, rejected: &mut Vec<Rejected>) {
    let parents: HashMap<AccountId, Option<AccountId>> =
        drafts.iter().map(|d| (d.account.id, d.account.parent)).collect();
    let in_circle = |start: AccountId| {
        let mut seen = HashSet::new();
        let mut at = Some(start);
        while let Some(id) = at {
            if !seen.insert(id) {
                return true;
            }
            at = parents.get(&id).copied().flatten();
        }
        false
    };
    drafts.retain(|draft| {
        let circle = in_circle(draft.account.id);
        if circle {
            let message = "the headings above this row stand under each other in a circle";
            let reason = Reason::HeadingCircle;
            rejected.push(reading.layout.reject(draft.row, Column::Parent, reason, message));
        }
        !circle
    });
}

/// A row without a class takes that of its heading; a heading at the top that of its own name.
fn settle_classes(
    reading: &Reading,
    drafts: &mut Vec<Draft<'_>>,
    chart: &Chart,
    rejected: &mut Vec<Rejected>,
) {
    let told: HashMap<AccountId, (Option<AccountId>, Option<Class>)> = drafts
        .iter()
        .map(|draft| {
            let by_name = || {
                let heading = draft.account.kind == Kind::Heading;
                caption(&draft.account.name, &reading.settled).filter(|_| heading).map(|c| c.class)
            };
            (draft.account.id, (draft.account.parent, draft.class.or_else(by_name)))
        })
        .collect();
    let class_of = |start: AccountId| {
        let mut at = Some(start);
        while let Some(id) = at {
            match told.get(&id) {
                Some((_, Some(class))) => return Some(*class),
                Some((parent, None)) => at = *parent,
                None => return chart.get(id).map(|account| account.class),
            }
        }
        None
    };
    drafts.retain_mut(|draft| match class_of(draft.account.id) {
        Some(class) => {
            draft.account.class = class;
            true
        }
        None => {
            let message = "the class is missing, and neither section nor heading tells it";
            let reason = Reason::ClassMissing;
            rejected.push(reading.layout.reject(draft.row, Column::Class, reason, message));
            false
        }
    });
}

/// Rows whose heading was rejected after they were put under it.
fn drop_orphans(
    reading: &Reading,
    drafts: &mut Vec<Draft<'_>>,
    chart: &Chart,
    rejected: &mut Vec<Rejected>,
) {
    loop {
        let ids: HashSet<AccountId> = drafts.iter().map(|d| d.account.id).collect();
        let before = drafts.len();
        drafts.retain(|draft| {
            let fits = draft
                .account
                .parent
                .is_none_or(|parent| ids.contains(&parent) || chart.get(parent).is_some());
            if !fits {
                let message = "the heading above this row cannot be taken";
                let reason = Reason::HeadingUnknown;
                rejected.push(reading.layout.reject(draft.row, Column::Parent, reason, message));
            }
            fits
        });
        if drafts.len() == before {
            return;
        }
    }
}

fn warn_of_classes(drafts: &[Draft<'_>], chart: &Chart, warnings: &mut Vec<Warning>) {
    let own: HashMap<AccountId, &Account> =
        drafts.iter().map(|d| (d.account.id, &d.account)).collect();
    for draft in drafts {
        let account = &draft.account;
        let parent = account.parent.and_then(|id| own.get(&id).copied().or_else(|| chart.get(id)));
        if let Some(parent) = parent.filter(|parent| parent.class != account.class) {
            let message = format!(
                "{} is {}, but its heading {} is {}",
                account.label(),
                account.class.words(),
                parent.label(),
                parent.class.words()
            );
            let reason = Reason::ClassOfHeading;
            warnings.push(Warning { row: draft.row.number, reason, message });
        }
    }
}

/// The columns of a chart, in the order in which they are written out.
pub const COLUMNS: &[Column] = &[
    Column::Code,
    Column::Name,
    Column::Kind,
    Column::Class,
    Column::Section,
    Column::Parent,
    Column::Role,
    Column::Contra,
    Column::Currency,
    Column::Description,
    Column::Tax,
    Column::Intervals,
    Column::Status,
];

/// The row that describes an account in a file, so that [`read`] reads the same account back.
pub fn write_row(account: &Account, parent_code: &str) -> Vec<String> {
    let text = |t: &str| t.to_owned();
    vec![
        account.code.to_string(),
        account.name.clone(),
        text(account.kind.words()),
        text(account.class.words()),
        account.caption.as_ref().map_or(String::new(), |caption| caption.name.clone()),
        text(parent_code),
        account.role.map_or(String::new(), |r| text(r.words())),
        text(if account.contra { "yes" } else { "" }),
        account.currency.map_or(String::new(), |c| c.to_string()),
        account.description.clone(),
        account.tax_code.clone().unwrap_or_default(),
        Interval::format_list(&account.intervals),
        text(account.status.words()),
    ]
}
