//! An account as far as its own row tells it.

use super::against::ChartContext;
use super::came_from::{CameFrom, Origins};
use super::row_words::RowWords;
use super::sorting::{Captions, Sorted};
use crate::cause::Cause;
use crate::columns::{Column, reduce};
use crate::question::About;
use crate::ranges::{self, AddsUp};
use crate::reading::Reading;
use crate::wordings::{caption, headed};
use crate::words::{self, RowWord, Said, Statement, is_nothing};
use crate::{RawRow, Rejected, Warning};
use std::collections::HashMap;
use std::rc::Rc;
use zf_core::chart::{Account, Class, ControlRole, Kind, Section, Status};
use zf_core::code::{Code, CodeKey};
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::plan::{Field, texts};

/// An account as far as it is told by now.
pub(super) struct Draft<'a> {
    pub(super) row: &'a RawRow,
    /// Whether it is the account of its row, and not a heading that only paths name.
    pub(super) own_row: bool,
    pub(super) account: Account,
    /// Whether it is a total that becomes a sum line.
    pub(super) total: bool,
    /// Two codes that it adds up, as a range or by themselves.
    pub(super) two: Option<(Code, Code)>,
    /// Whether the file gives it a code.
    pub(super) coded: bool,
    /// What the file says that the row is.
    pub(super) word: Option<RowWord>,
    pub(super) class: Option<Class>,
    /// A wording of its class that nothing is known of.
    pub(super) unsettled: Option<String>,
    /// The line of the statements: a standard one, or one in words of the file.
    pub(super) line: Option<Line>,
    pub(super) statement: Option<Statement>,
    /// Whether its balance usually stands on the debit side.
    pub(super) debit: Option<bool>,
    /// Whether it stands where what is owed and what is the owners' own stand together.
    pub(super) credit_side: bool,
    /// Whether the file says itself that it is a contra account, or none.
    pub(super) contra_said: Option<bool>,
    /// The captions above it, from the outermost.
    pub(super) captions: Captions,
    pub(super) origins: Origins,
}

/// A line of the statements as a file has it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(super) struct Line {
    pub(super) wording: String,
    pub(super) standard: Option<Section>,
    pub(super) from: CameFrom,
}

impl<'a> Draft<'a> {
    /// What no row gives a code, with nothing known but its kind and name.
    fn uncoded(row: &'a RawRow, id: AccountId, kind: Kind, name: &str, from: CameFrom) -> Self {
        let mut account = Account::new(id, no_code(), name.to_owned(), Class::Asset);
        (account.kind, account.code_proposed) = (kind, true);
        Self {
            row,
            own_row: true,
            account,
            total: false,
            two: None,
            coded: false,
            word: None,
            class: None,
            unsettled: None,
            line: None,
            statement: None,
            debit: None,
            credit_side: false,
            contra_said: None,
            captions: Captions::default(),
            origins: Origins { kind: Some(from), ..Origins::default() },
        }
    }

    /// A heading that only paths name.
    pub(super) fn heading(
        id: AccountId,
        name: &str,
        parent: Option<AccountId>,
        below: &Self,
    ) -> Self {
        let mut heading = Self::uncoded(below.row, id, Kind::Heading, name, CameFrom::Parent);
        heading.account.parent = parent;
        heading.origins.parent = parent.map(|_| CameFrom::Parent);
        let captions = Rc::clone(&below.captions);
        Self { own_row: false, class: below.class, captions, ..heading }
    }

    /// A total that becomes a sum line.
    pub(super) fn total(sorted: &Sorted<'a>, id: AccountId, name: &str) -> Self {
        let sum = Self::uncoded(sorted.row, id, Kind::Sum, name, CameFrom::Wording);
        let captions = Rc::clone(&sorted.captions);
        Self { total: true, word: Some(RowWord::Sum), captions, ..sum }
    }
}

/// What stands for a code until one is proposed.
fn no_code() -> Code {
    Code::from_number(0)
}

/// Takes row after row.
pub(super) struct Reader<'a> {
    reading: &'a Reading,
    books: &'a ChartContext<'a>,
    /// The row in which each code stands.
    taken: HashMap<CodeKey, u32>,
    roles: HashMap<ControlRole, String>,
    pub(super) words: RowWords<'a>,
    pub(super) drafts: Vec<Draft<'a>>,
    pub(super) rejected: Vec<Rejected>,
    pub(super) warnings: Vec<Warning>,
}

impl<'a> Reader<'a> {
    pub(super) fn new(reading: &'a Reading, books: &'a ChartContext<'a>) -> Self {
        Self {
            reading,
            books,
            taken: HashMap::new(),
            roles: HashMap::new(),
            words: RowWords::of(reading),
            drafts: Vec::new(),
            rejected: Vec::new(),
            warnings: Vec::new(),
        }
    }

    pub(super) fn take(&mut self, sorted: &Sorted<'a>) {
        match self.read(sorted) {
            Ok(draft) => {
                let account = &draft.account;
                if draft.coded {
                    self.taken.insert(account.code.key(), sorted.row.number);
                }
                self.roles.extend(account.role.map(|role| (role, account.label())));
                self.drafts.push(draft);
            }
            Err(why) => self.rejected.push(why),
        }
    }

    fn read(&self, sorted: &Sorted<'a>) -> Result<Draft<'a>, Rejected> {
        let row = sorted.row;
        self.reading.layout.check_texts(row)?;
        let reading = self.reading;
        let cell = |field| reading.layout.cell(row, field);
        let reject = |field, cause: Cause| reading.layout.reject(row, field, cause);
        let code = self.code(row)?;
        let name =
            texts::name(reading.name(row)).map_err(|why| reject(Column::Name, why.into()))?;
        let word = self.words.kind(row);
        let role = self.role(row)?;
        let currency = match cell(Column::Currency) {
            "" => None,
            text => {
                Some(Currency::parse(text).map_err(|why| reject(Column::Currency, why.into()))?)
            }
        };
        let (intervals, two) = match ranges::read(cell(Column::Intervals)) {
            Ok(AddsUp::These(intervals)) => (intervals, None),
            Ok(AddsUp::Two(first, last)) => (Vec::new(), Some((first, last))),
            Err(why) => return Err(reject(Column::Intervals, why.into())),
        };
        let text = |field: Field, column| {
            texts::text(field.words(), cell(column)).map_err(|why| reject(column, why.into()))
        };
        let tax_code = text(Field::Tax, Column::Tax)?;
        let status = self.words.status(row);
        let has_day = status != Status::Active && !cell(Column::StatusFrom).is_empty();
        let status_from =
            if has_day { Some(self.reading.date_in(row, Column::StatusFrom)?) } else { None };
        let contra_said = match reduce(cell(Column::Contra)) {
            wording if words::says(Said::Yes, &wording) => Some(true),
            wording if wording.is_empty() => None,
            _ => Some(false),
        };
        let coded = code.is_some();
        let account = Account {
            kind: match word {
                Some(RowWord::Heading | RowWord::Opens) => Kind::Heading,
                Some(RowWord::Sum | RowWord::Closes) => Kind::Sum,
                _ => Kind::Account,
            },
            status,
            status_from,
            contra: contra_said == Some(true),
            role,
            currency,
            description: text(Field::Description, Column::Description)?,
            tax_code: Some(tax_code).filter(|code| !code.is_empty()),
            intervals,
            code_proposed: !coded,
            // The class is settled once the headings are known, which may tell it.
            ..Account::new(AccountId(0), code.unwrap_or_else(no_code), name, Class::Asset)
        };
        let column = Some(CameFrom::Column);
        let mut draft = Draft {
            row,
            own_row: true,
            total: false,
            two,
            coded,
            word,
            class: None,
            unsettled: None,
            line: None,
            statement: words::statement(&reduce(cell(Column::Statement))),
            debit: self.words.debit(row),
            credit_side: false,
            contra_said,
            captions: Rc::clone(&sorted.captions),
            origins: Origins {
                code: column.filter(|_| coded),
                kind: column.filter(|_| word.is_some()),
                contra: column.filter(|_| account.contra),
                role: column.filter(|_| role.is_some()),
                ..Origins::default()
            },
            account,
        };
        self.captions(&mut draft);
        Ok(draft)
    }

    /// Class and line as the columns tell them; either column may hold either.
    fn captions(&self, draft: &mut Draft<'_>) {
        let layout = &self.reading.layout;
        let of = |field| Some(layout.cell(draft.row, field)).filter(|text| !is_nothing(text));
        let known = |text: &str| caption(text, &self.reading.settled);
        let (class, line) = (of(Column::Class), of(Column::Section));
        for text in [class, line].into_iter().flatten() {
            let Some(found) = known(text) else { continue };
            if draft.class.is_none() {
                draft.class = Some(found.class);
                let exact = reduce(text) == reduce(found.class.words());
                let from = if exact { CameFrom::Column } else { CameFrom::Wording };
                draft.origins.class = Some(from);
            }
            if let Some(standard) = found.section {
                let standard = Some(standard);
                draft.line =
                    Some(Line { wording: text.to_owned(), standard, from: CameFrom::Column });
            }
        }
        if let Some(text) = line.filter(|text| known(text).is_none()) {
            draft.line =
                Some(Line { wording: text.to_owned(), standard: None, from: CameFrom::Column });
        }
        // A column of classes may say only which statement it is, or which side of it.
        let both = class.is_some_and(|text| words::says(Said::OwedAndOwn, &reduce(text)));
        let statement = class.and_then(|text| words::statement(&reduce(text)));
        let statement = statement.or(both.then_some(Statement::BalanceSheet));
        draft.statement = draft.statement.or(statement);
        draft.credit_side = both;
        let headed = || [class, line].into_iter().flatten().find_map(headed);
        if let (None, Some(class)) = (draft.class, headed()) {
            (draft.class, draft.origins.class) = (Some(class), Some(CameFrom::Wording));
        }
        let unsettled = class.filter(|text| known(text).is_none() && statement.is_none());
        draft.unsettled = unsettled.filter(|_| draft.class.is_none()).map(str::to_owned);
    }

    fn code(&self, row: &RawRow) -> Result<Option<Code>, Rejected> {
        let reject = |cause: Cause| self.reading.layout.reject(row, Column::Code, cause);
        // A person may have given a code in place of a proposed one.
        let given = self.reading.answers.get(&About::Code(row.number));
        let text = given.map_or_else(|| self.reading.code(row, Column::Code), String::as_str);
        if is_nothing(text) {
            return Ok(None);
        }
        let code = Code::parse(text).map_err(|why| reject(why.into()))?;
        if let Some(objection) = self.books.format.objection(&code) {
            return Err(reject(Cause::CodeFormat { code, objection }));
        }
        match self.taken.get(&code.key()) {
            Some(first) => {
                let first = self.reading.place(*first);
                Err(reject(Cause::CodeTwice { code, first }))
            }
            None => Ok(Some(code)),
        }
    }

    fn role(&self, row: &RawRow) -> Result<Option<ControlRole>, Rejected> {
        let reject = |cause: Cause| Err(self.reading.layout.reject(row, Column::Role, cause));
        let wording = reduce(self.reading.layout.cell(row, Column::Role));
        if wording.is_empty() {
            return Ok(None);
        }
        let known = |role: &&ControlRole| role.words() == wording || reduce(role.key()) == wording;
        let Some(role) = ControlRole::ALL.iter().copied().find(|role| known(&role)) else {
            return reject(Cause::RoleUnknown);
        };
        match self.roles.get(&role).filter(|_| role.is_unique()) {
            Some(other) => reject(Cause::RoleTaken { role, account: other.to_string() }),
            None => Ok(Some(role)),
        }
    }
}

/// What only holds of some classes and captions: contra, the fixed currency.
pub(super) fn settle_settings(
    reading: &Reading,
    drafts: &mut Vec<Draft<'_>>,
    rejected: &mut Vec<Rejected>,
    warnings: &mut Vec<Warning>,
) {
    for draft in drafts.iter_mut() {
        let usual = draft.account.class.is_usually_debit();
        let Some(debit) = draft.debit.filter(|_| draft.account.kind == Kind::Account) else {
            continue;
        };
        match draft.contra_said {
            // A balance on the other side than that of its class is how charts say contra.
            None if debit != usual => {
                draft.account.contra = true;
                draft.origins.contra = Some(CameFrom::Column);
            }
            Some(contra) if debit != (usual != contra) => {
                let class = draft.account.class;
                let cause = Cause::ContraContradicts { debit, contra, class };
                warnings.push(Warning { row: draft.row.number, cause });
            }
            _ => {}
        }
    }
    drafts.retain(|draft| {
        let fits = draft.account.currency.is_none() || draft.account.may_fix_currency();
        if !fits {
            let cause = Cause::CurrencyNotAllowed;
            rejected.push(reading.layout.reject(draft.row, Column::Currency, cause));
        }
        fits
    });
}
