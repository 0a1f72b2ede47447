//! What a person chose of how a waiting file is read, kept with the file, and what of it is
//! remembered for the next file of the same form.

use crate::chart::{retired, side_or_none};
use crate::chart_options::{ChartOptions, CodesBy, TotalsAs};
use crate::columns::{Column, reduce};
use crate::dates::DateOrder;
use crate::journal::huge;
use crate::journal::late::{LateMeans, Said};
use crate::layout::{Chosen as ChosenLayout, Meaning};
use crate::numbers::DecimalMark;
use crate::period_text::PeriodsAs;
use crate::question::{About, Answers};
use crate::reading::Chosen;
use crate::rows::{MAX_CELLS, MAX_ROWS};
use crate::several;
use crate::signs::Signs;
use crate::wordings::Caption;
use crate::words::{ActionWord, RowWord};
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, HashMap};
use std::fmt::Display;
use std::ops::RangeInclusive;
use zf_core::calendar::Period;
use zf_core::chart::{Account, Chart, Class, Section, Status};
use zf_core::code::{Code, CodeKey};
use zf_core::ids::AccountId;
use zf_core::plan::texts;
use zf_core::text;

/// What a person chose; what is missing is told from the file.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct Choices {
    /// The encoding of a text file, by its name.
    #[cfg_attr(feature = "schema", schema(required))]
    pub encoding: Option<String>,
    /// The delimiter of a text file.
    #[cfg_attr(feature = "schema", schema(required))]
    pub delimiter: Option<char>,
    /// The name of the sheet.
    #[cfg_attr(feature = "schema", schema(required))]
    pub sheet: Option<String>,
    /// That all sheets of one form are one table.
    #[cfg_attr(feature = "schema", schema(required))]
    pub all_sheets: bool,
    /// The number of the row of headings; 0 when there is none.
    #[cfg_attr(feature = "schema", schema(required))]
    pub header_row: Option<u32>,
    /// What columns mean, by heading: the key of a field, `dimension`, or empty for not used.
    #[cfg_attr(feature = "schema", schema(required))]
    pub columns: BTreeMap<String, String>,
    /// The order of dates.
    #[cfg_attr(feature = "schema", schema(required))]
    pub dates: Option<DateOrder>,
    /// The decimal mark.
    #[cfg_attr(feature = "schema", schema(required))]
    pub decimal: Option<DecimalMark>,
    /// What wordings of classes and sections stand for.
    #[cfg_attr(feature = "schema", schema(required))]
    pub settled: BTreeMap<String, SettledAs>,
    /// Cells that are read as something else than what stands in them.
    #[cfg_attr(feature = "schema", schema(required))]
    pub corrections: Vec<Correction>,
    /// The last period that balances are compared up to; the latest with lines when missing.
    #[cfg_attr(feature = "schema", schema(required))]
    pub as_of: Option<i32>,
    /// The application before which the codes of a journal were as the file has them; today's when
    /// missing.
    #[cfg_attr(feature = "schema", schema(required))]
    pub codes_before: Option<i64>,
    /// What codes of a journal stand for, by code.
    #[cfg_attr(feature = "schema", schema(required))]
    pub accounts: BTreeMap<String, CodeMeans>,
    /// What becomes of lines dated after the day of their account, by the number of that.
    #[cfg_attr(feature = "schema", schema(required))]
    pub late: BTreeMap<i64, LateMeans>,
    /// What was answered to questions: the key of a reading, by what it is about.
    #[cfg_attr(feature = "schema", schema(required))]
    #[cfg_attr(feature = "schema", schema(value_type = BTreeMap<String, String>))]
    pub answers: Answers,
    /// How a chart is taken. What was kept by earlier versions calls it wishes.
    #[cfg_attr(feature = "schema", schema(required))]
    #[serde(alias = "wishes")]
    pub options: ChartOptions,
}

/// What a code of a file stands for: an account of the books, or a new one.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum CodeMeans {
    /// This account.
    Account(i64),
    /// An account that is added with the journal.
    New {
        /// Its name.
        name: String,
        /// Its class.
        class: Class,
    },
}

/// What a wording stands for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SettledAs {
    /// A class.
    pub class: Class,
    /// A section of it.
    #[cfg_attr(feature = "schema", schema(required))]
    pub section: Option<Section>,
}

/// A cell that is read as something else than what stands in it.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Correction {
    /// The number of the row.
    pub row: u32,
    /// The place in the row, counted from 0.
    pub at: usize,
    /// The new text.
    pub text: String,
}

/// The most cells that can be corrected here; more is work for a spreadsheet.
const MAX_CORRECTIONS: usize = 2_000;

/// The word for a column of values of a dimension.
pub const DIMENSION: &str = "dimension";

/// A choice that cannot be followed.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("{field}: {reason}")]
pub struct NotKnown {
    /// The choice, by the name of its field.
    pub field: &'static str,
    /// Why not, in words.
    pub reason: String,
}

impl NotKnown {
    fn new(field: &'static str, reason: impl ToString) -> Self {
        Self { field, reason: reason.to_string() }
    }
}

fn within<T: PartialOrd + Display>(
    field: &'static str,
    number: T,
    range: RangeInclusive<T>,
) -> Result<T, NotKnown> {
    match text::outside(&number, &range) {
        None => Ok(number),
        Some(reason) => Err(NotKnown::new(field, reason)),
    }
}

fn known<T>(field: &'static str, key: &str, of: impl Fn(&str) -> Option<T>) -> Result<T, NotKnown> {
    of(key).ok_or_else(|| NotKnown::new(field, format!("“{key}” is not known here")))
}

/// Whether a question has such a reading; what is named freely, an account or a code, is looked at where it is used.
fn has_reading(about: &About, reading: &str) -> bool {
    match about {
        About::Signs => Signs::from_key(reading).is_some(),
        About::Periods => PeriodsAs::from_key(reading).is_some(),
        About::OwedAndOwn | About::Names | About::Codes(_) | About::NewClass(_) => {
            Class::from_key(reading).is_some()
        }
        About::Kind(_) => RowWord::from_key(reading).is_some(),
        About::Status(_) => Status::from_key(reading).is_some(),
        About::Normal(_) => side_or_none(reading).is_some(),
        About::Action(_) => ActionWord::from_key(reading).is_some(),
        About::Ranges => matches!(reading, "range" | "list"),
        About::Rings => matches!(reading, "rotation" | "merges"),
        About::Openings => matches!(reading, "aside" | "entry"),
        About::Difference => matches!(reading, "as_it_is" | "mend"),
        About::StatusFrom => [retired::UNKNOWN, retired::STORED].contains(&reading),
        _ => true,
    }
}

fn yes_or_no(key: &str) -> Option<bool> {
    match key {
        "yes" => Some(true),
        "no" => Some(false),
        _ => None,
    }
}

impl Choices {
    /// The choices as the core knows them.
    ///
    /// # Errors
    /// When one of them is not known.
    pub fn chosen(&self) -> Result<Chosen, NotKnown> {
        if self.corrections.len() > MAX_CORRECTIONS {
            let message = format!("more than {MAX_CORRECTIONS} cells; correct them in the file");
            return Err(NotKnown::new("corrections", message));
        }
        let row = |row: u32| within("row", i64::from(row), 0..=MAX_ROWS as i64);
        self.header_row.map(row).transpose()?;
        for correction in &self.corrections {
            row(correction.row)?;
            within("at", correction.at, 0..=MAX_CELLS)?;
        }
        self.options
            .code_digits
            .map(|n| within("code_digits", n, ChartOptions::DIGITS))
            .transpose()?;
        self.as_of.map(|period| within("as_of", period, Period::NUMBERS)).transpose()?;
        let meaning = |key: &String| match key.as_str() {
            "" => Ok(Meaning::Unused),
            DIMENSION => Ok(Meaning::Dimension),
            key => known("columns", key, Column::from_key).map(Meaning::Field),
        };
        let columns =
            self.columns.iter().map(|(heading, key)| Ok((heading.clone(), meaning(key)?)));
        let caption = |settled: &SettledAs| {
            let SettledAs { class, section } = *settled;
            if section.is_some_and(|section| !section.classes().contains(&class)) {
                return Err(NotKnown::new("settled", "the section is not one of the class"));
            }
            Ok(Caption { class, section })
        };
        let settled = self.settled.iter().map(|(wording, to)| Ok((reduce(wording), caption(to)?)));
        Ok(Chosen {
            sheet: self.sheet.clone(),
            all_sheets: self.all_sheets,
            layout: ChosenLayout {
                header_row: self.header_row,
                columns: columns.collect::<Result<_, NotKnown>>()?,
                figures: self.answers.get(&About::Figures).cloned(),
                base: None,
            },
            dates: self.dates,
            decimal: self.decimal,
            settled: settled.collect::<Result<_, NotKnown>>()?,
            corrections: self.corrections.iter().map(|c| ((c.row, c.at), c.text.clone())).collect(),
            answers: self.answers.clone(),
            options: self.options,
        })
    }

    /// Takes the answer to a question.
    ///
    /// # Errors
    /// When the reading is none that the question has.
    pub fn answer(&mut self, about: About, reading: &str) -> Result<(), NotKnown> {
        match about {
            About::Dates => self.dates = Some(known("dates", reading, DateOrder::from_key)?),
            About::Decimal => {
                self.decimal = Some(known("decimal", reading, DecimalMark::from_key)?)
            }
            About::Encoding => self.encoding = Some(reading.to_owned()),
            About::Sheet => {
                self.all_sheets = reading == several::ALL;
                self.sheet = Some(reading.to_owned()).filter(|_| !self.all_sheets);
            }
            About::Column(heading) => drop(self.columns.insert(heading, reading.to_owned())),
            About::Entries if reading != huge::DAY => {
                self.columns.insert(reading.to_owned(), Column::Entry.key().to_owned());
            }
            About::Totals => self.options.totals = known("totals", reading, TotalsAs::from_key)?,
            About::CodesBy => {
                self.options.codes_by = known("codes_by", reading, CodesBy::from_key)?
            }
            About::CodeDigits => {
                self.options.code_digits = Some(known("code_digits", reading, |n| n.parse().ok())?);
            }
            About::Roles => self.options.roles = known("roles", reading, yes_or_no)?,
            About::Class(wording) => {
                let class = known("class", reading, Class::from_key)?;
                self.settled.insert(wording, SettledAs { class, section: None });
            }
            about => {
                if !has_reading(&about, reading) {
                    let reason = format!("“{reading}” is no answer to {about}");
                    return Err(NotKnown::new("answers", reason));
                }
                self.answers.insert(about, reading.to_owned());
            }
        }
        Ok(())
    }

    /// The same with every answer where it belongs.
    ///
    /// # Errors
    /// When a reading is none that its question has.
    pub fn with_answers(mut self) -> Result<Self, NotKnown> {
        for (about, reading) in std::mem::take(&mut self.answers) {
            self.answer(about, &reading)?;
        }
        Ok(self)
    }

    /// What holds for the next file of the same form: not where its headings stand, nor what is in
    /// its cells.
    pub fn for_next_file(&self) -> Self {
        Self {
            encoding: None,
            delimiter: None,
            sheet: None,
            header_row: None,
            corrections: Vec::new(),
            // A code is of one row, and not of the form.
            answers: self.answers_of_form(),
            codes_before: None,
            as_of: None,
            // An account that was new is known to the next file.
            accounts: self.accounts_of_the_books(),
            ..self.clone()
        }
    }

    fn answers_of_form(&self) -> Answers {
        // What was said of figures and of single rows holds for them alone.
        let once = |about: &About| {
            let of_a_row = matches!(about, About::Code(_) | About::NewClass(_));
            of_a_row || matches!(about, About::Difference | About::Rings)
        };
        let form = self.answers.iter().filter(|(about, _)| !once(about));
        form.map(|(about, reading)| (about.clone(), reading.clone())).collect()
    }

    fn accounts_of_the_books(&self) -> BTreeMap<String, CodeMeans> {
        let known = self.accounts.iter().filter(|(_, to)| matches!(to, CodeMeans::Account(_)));
        known.map(|(code, to)| (code.clone(), to.clone())).collect()
    }

    /// What codes of a journal stand for: accounts of the books, and new ones, which are added to
    /// `chart`. What can no longer be posted to is left to be said anew.
    ///
    /// # Errors
    /// When a new account lacks a name or class.
    pub fn said(&self, chart: &mut Chart) -> Result<HashMap<CodeKey, AccountId>, NotKnown> {
        let mut said = HashMap::new();
        for (code, to) in &self.accounts {
            let code = Code::parse(code).map_err(|e| NotKnown::new("accounts", e))?;
            let id = match to {
                CodeMeans::Account(id) => AccountId(*id),
                // It was added since, by another file or by hand.
                CodeMeans::New { .. } if chart.by_code(&code.key()).is_some() => continue,
                CodeMeans::New { name, class } => {
                    let name = texts::name(name).map_err(|e| NotKnown::new("accounts", e))?;
                    let id = chart.next_id();
                    chart.put(Account::new(id, code.clone(), name, *class));
                    id
                }
            };
            said.insert(code.key(), id);
        }
        Ok(said)
    }

    /// What was said of late lines, by account.
    pub fn said_of_late(&self) -> Said {
        self.late.iter().map(|(account, means)| (AccountId(*account), *means)).collect()
    }

    /// These choices in place of `before`. Corrections stand in cells, and go with them.
    pub fn in_place_of(mut self, before: &Self) -> Self {
        let cells = |c: &Self| (c.encoding.clone(), c.delimiter, c.sheet.clone(), c.all_sheets);
        if cells(&self) != cells(before) {
            self.corrections.clear();
        }
        self
    }
}
