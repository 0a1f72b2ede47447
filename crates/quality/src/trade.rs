//! A trade: a chart by hand, with what is planted in it. `= code name | class` is a heading, `code name | marks ~code`
//! an account, where the code behind the tilde is of one that it is easily mistaken for; below an account stand,
//! further in, other names for it, each behind the kind of difference. Below `= Misfits` stands what is wrong of
//! single accounts.

use anyhow::{Context, bail};
use std::fmt;
use zf_core::chart::{Class, ControlRole};

/// In what two names of the same thing differ.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Kind {
    Abbreviation,
    And,
    Code,
    Join,
    Lines,
    Name,
    Order,
    Plural,
    Slip,
    Suffix,
    Synonym,
}

const KINDS: [(&str, Kind); 11] = [
    ("abbrev", Kind::Abbreviation),
    ("and", Kind::And),
    ("code", Kind::Code),
    ("join", Kind::Join),
    ("lines", Kind::Lines),
    ("name", Kind::Name),
    ("order", Kind::Order),
    ("plural", Kind::Plural),
    ("slip", Kind::Slip),
    ("suffix", Kind::Suffix),
    ("synonym", Kind::Synonym),
];

impl fmt::Display for Kind {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(match self {
            Self::Abbreviation => "abbreviations",
            Self::And => "signs for “and”",
            Self::Code => "code variants",
            Self::Join => "splits and joins",
            Self::Lines => "told by lines alone",
            Self::Name => "under another name",
            Self::Order => "word order",
            Self::Plural => "plurals",
            Self::Slip => "slips",
            Self::Suffix => "suffixes",
            Self::Synonym => "synonyms of the trade",
        })
    }
}

/// An account of the chart, with the other names that are planted for it.
pub(crate) struct Planned {
    pub(crate) code: String,
    pub(crate) name: String,
    /// The place of its heading among those of the trade.
    pub(crate) heading: usize,
    pub(crate) role: Option<ControlRole>,
    pub(crate) contra: bool,
    pub(crate) tempting: Option<String>,
    pub(crate) twins: Vec<(Kind, String)>,
}

pub(crate) struct Heading {
    pub(crate) code: String,
    pub(crate) name: String,
    pub(crate) class: Class,
}

/// What is wrong of an account, by its right code.
pub(crate) enum Misfit {
    Class(String, Class),
    Block(String, String),
    Name(String, String),
    /// It is what its name says, and no role says so.
    Control(String),
}

pub(crate) struct Trade {
    pub(crate) headings: Vec<Heading>,
    pub(crate) accounts: Vec<Planned>,
    pub(crate) misfits: Vec<Misfit>,
}

impl Trade {
    pub(crate) fn read(name: &str, text: &str) -> anyhow::Result<Self> {
        let mut trade = Self { headings: Vec::new(), accounts: Vec::new(), misfits: Vec::new() };
        let mut below = false;
        for line in text.lines().filter(|line| !line.starts_with('#') && !line.is_empty()) {
            let taken = trade.take(line, &mut below);
            taken.with_context(|| format!("{name}: “{line}” is not understood"))?;
        }
        Ok(trade)
    }

    fn take(&mut self, line: &str, below: &mut bool) -> anyhow::Result<()> {
        if line == "= Misfits" {
            *below = true;
        } else if *below {
            self.misfits.push(misfit(line)?);
        } else if let Some(heading) = line.strip_prefix("= ") {
            let (said, class) = heading.split_once(" | ").context("no class")?;
            let (code, name) = said.split_once(' ').context("no name")?;
            let class = Class::from_key(class).context("no such class")?;
            self.headings.push(Heading { code: code.to_owned(), name: name.to_owned(), class });
        } else if let Some(twin) = line.strip_prefix("    ") {
            let (kind, name) = twin.split_once(' ').context("no name")?;
            let kind = KINDS.iter().find(|(key, _)| *key == kind).context("no such kind")?.1;
            let account = self.accounts.last_mut().context("no account above")?;
            account.twins.push((kind, name.to_owned()));
        } else {
            let (said, marks) = line.split_once(" | ").unwrap_or((line, ""));
            let (code, name) = said.split_once(' ').context("no name")?;
            let mut account = Planned {
                code: code.to_owned(),
                name: name.to_owned(),
                heading: self.headings.len().checked_sub(1).context("no heading above")?,
                role: None,
                contra: false,
                tempting: None,
                twins: Vec::new(),
            };
            for mark in marks.split_whitespace() {
                match (mark.strip_prefix("role="), mark.strip_prefix('~')) {
                    (Some(role), _) => account.role = ControlRole::from_key(role),
                    (_, Some(code)) => account.tempting = Some(code.to_owned()),
                    _ if mark == "contra" => account.contra = true,
                    _ => bail!("no such mark"),
                }
            }
            self.accounts.push(account);
        }
        Ok(())
    }
}

fn misfit(line: &str) -> anyhow::Result<Misfit> {
    let mut words = line.splitn(3, ' ').map(str::to_owned);
    let (what, code) = (words.next().context("nothing")?, words.next().context("no code")?);
    let rest = words.next().unwrap_or_default();
    Ok(match what.as_str() {
        "class" => Misfit::Class(code, Class::from_key(&rest).context("no such class")?),
        "block" => Misfit::Block(code, rest),
        "name" => Misfit::Name(code, rest),
        "control" => Misfit::Control(code),
        _ => bail!("no such misfit"),
    })
}
