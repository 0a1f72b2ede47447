//! Which class a file is read to give each account, and what of that is asked.

use super::known::Known;
use crate::posting::CURRENCY;
use std::collections::{BTreeMap, BTreeSet};
use std::fmt;
use std::path::Path;
use zf_core::calendar::FiscalCalendar;
use zf_core::chart::{Account, Chart, Class};
use zf_core::file_kind::FileKind;
use zf_core::money::Currency;
use zf_core::overlap::Overlap;
use zf_core::today::Today;
use zf_intake::analysis::choices::Choices;
use zf_intake::analysis::{Against, Analysis, Content};
use zf_intake::question::Question;
use zf_intake::table::Table;
use zf_sheets::How;

/// A file, as it is read with what is answered.
struct Reading {
    accounts: Vec<Account>,
    questions: Vec<Question>,
}

impl Reading {
    fn classes(&self) -> BTreeMap<&str, Class> {
        self.accounts.iter().map(|account| (account.code.as_str(), account.class)).collect()
    }
}

/// A file, as it is read before anything is answered, and with each answer to each question.
pub(super) struct ReadFile {
    unanswered: Reading,
    /// By question.
    answered: Vec<Vec<Reading>>,
}

impl ReadFile {
    pub(super) fn of(path: &Path) -> anyhow::Result<Self> {
        let content = std::fs::read(path)?;
        let name = path.file_name().unwrap_or_default().to_string_lossy().into_owned();
        let read = |choices: &Choices| read(&name, content.clone(), choices);
        let unanswered = read(&Choices::default())?;
        let answered = unanswered.questions.iter().map(|question| {
            let readings = question.readings.iter().map(|reading| {
                let mut choices = Choices::default();
                choices.answer(question.about.clone(), &reading.key)?;
                read(&choices)
            });
            readings.collect()
        });
        let answered = answered.collect::<anyhow::Result<_>>()?;
        Ok(Self { unanswered, answered })
    }

    /// The accounts before anything is answered.
    pub(super) fn accounts(&self) -> impl Iterator<Item = &Account> {
        self.unanswered.accounts.iter()
    }
}

fn read(name: &str, content: Vec<u8>, choices: &Choices) -> anyhow::Result<Reading> {
    let currency = Currency::parse(CURRENCY)?;
    let mut opened = zf_sheets::read(name, content, &How::default())?;
    let table = Table::find(FileKind::Chart, &mut opened.sheets, currency, &choices.chosen()?)?;
    let today = Today::unposted(Chart::default(), currency, FiscalCalendar::starting(1, 1)?);
    let against = Against { today: &today, overlap: Overlap::default(), then: None };
    let analysis = Analysis::of(FileKind::Chart, &table.reading, &*table.rows, choices, against)?;
    let accounts = match analysis.content {
        Content::Chart(read) => read.accounts.into_iter().map(|(_, account)| account).collect(),
        _ => Vec::new(),
    };
    Ok(Reading { accounts, questions: analysis.questions })
}

/// What a file tells of the classes of its rows.
pub(super) struct Told {
    pub(super) rows: usize,
    /// Rows of the key that the file has not, or that are left out until something is answered.
    pub(super) missing: usize,
    /// Rows that got another class, which no question is about.
    pub(super) wrong_in_silence: usize,
    /// Rows of which a question asks the class.
    pub(super) asked: usize,
    /// Those of them to which no answer gives the right class.
    pub(super) without_the_right_answer: usize,
    pub(super) questions: usize,
}

impl Told {
    /// Compares what is read with what is known beyond doubt.
    pub(super) fn of(read: &ReadFile, known: &BTreeMap<String, Known>) -> Self {
        let unanswered = read.unanswered.classes();
        let answers: Vec<_> = read.answered.iter().flatten().map(Reading::classes).collect();
        let certain = known.iter().filter(|(_, known)| known.certain);
        let mut told = Self {
            rows: 0,
            missing: 0,
            wrong_in_silence: 0,
            asked: 0,
            without_the_right_answer: 0,
            questions: read.answered.len(),
        };
        for (code, known) in certain {
            let now = unanswered.get(code.as_str()).copied();
            let given: BTreeSet<_> =
                answers.iter().map(|a| a.get(code.as_str()).copied()).collect();
            let is_asked = given.iter().any(|class| *class != now);
            told.rows += 1;
            told.missing += usize::from(now.is_none());
            told.asked += usize::from(is_asked);
            let is_right = |class: &Option<Class>| *class == Some(known.class);
            told.without_the_right_answer += usize::from(is_asked && !given.iter().any(is_right));
            told.wrong_in_silence +=
                usize::from(!is_asked && now.is_some_and(|class| class != known.class));
        }
        told
    }
}

impl fmt::Display for Told {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(
            f,
            "{} of {} wrong in silence, {} asked in {} questions, {} of them without the right answer, {} missing",
            self.wrong_in_silence,
            self.rows,
            self.asked,
            self.questions,
            self.without_the_right_answer,
            self.missing
        )
    }
}
