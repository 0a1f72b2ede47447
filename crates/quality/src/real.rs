//! Real charts in a folder: whoever drew one up gave hardly an account twice, so that what is found of them is a false
//! alarm. The folder has a `key.json`, by chart and code what each row is, and files whose names begin with that of
//! their chart.

mod classes;
mod known;

use crate::lines::{Rhythm, Voice, Whereabouts, person};
use crate::measured::proposed;
use crate::posting::{Posted, Posting};
use classes::{ReadFile, Told};
use known::{Key, Known};
use rand::SeedableRng;
use rand_chacha::ChaCha8Rng;
use std::collections::{BTreeMap, BTreeSet};
use std::path::Path;
use zf_core::chart::{Account, Chart, Class, Kind};
use zf_core::ids::AccountId;
use zf_core::review::NotDuplicates;
use zf_core::review::look_alikes::{LookAlike, find};
use zf_core::review::remarks::{self, RemarkKind};
use zf_core::review::sketch::Sketches;
use zf_core::today::Today;

/// How much of a chart is posted to: one account of so many. Nothing is posted where there is no such number.
const POSTED: [(&str, Option<usize>); 3] =
    [("nothing posted", None), ("a third posted", Some(3)), ("all posted", Some(1))];

/// The seed of what is posted.
const SEED: u64 = 33;

/// Measures every chart of a folder, and prints it.
pub(crate) fn measure(folder: &Path) -> anyhow::Result<()> {
    let key = Key::read(folder)?;
    for (name, known) in &key.charts {
        for path in key.files(name)? {
            let file = path.file_name().unwrap_or_default().to_string_lossy();
            println!("{file}");
            let read = ReadFile::of(&path)?;
            println!("  classes: {}", Told::of(&read, known));
            let accounts = read.accounts().map(|account| right(account, known));
            let chart = Chart::new(accounts);
            for (how, every) in POSTED {
                let (today, sketches) = posted(&chart, every)?;
                println!("  {how}: {}", Alarms::of(&today, &sketches));
            }
        }
    }
    Ok(())
}

/// An account as somebody takes it in who answered every question rightly.
fn right(account: &Account, known: &BTreeMap<String, Known>) -> Account {
    let mut account = account.clone();
    if let Some(known) = known.get(account.code.as_str()) {
        account.class = known.class;
        account.contra = known.contra;
    }
    account
}

/// The books of a chart of which every so-manieth account is posted to.
fn posted(chart: &Chart, every: Option<usize>) -> anyhow::Result<(Today, Sketches)> {
    let (mut rng, mut whereabouts_rng) =
        (ChaCha8Rng::seed_from_u64(SEED), ChaCha8Rng::seed_from_u64(!SEED));
    let accounts = || chart.iter().filter(|account| account.kind == Kind::Account);
    let around: Vec<Vec<String>> = vec![(0..3).map(|_| person(&mut rng)).collect()];
    let posted: Vec<Posted> = every.map_or_else(Vec::new, |every| {
        let posted = accounts().step_by(every).map(|account| Posted {
            account: account.clone(),
            class: account.class,
            voice: Voice::new(&mut rng),
            rhythm: Rhythm::new(&mut rng),
            whereabouts: Whereabouts::new(&mut whereabouts_rng),
            heading: 0,
        });
        posted.collect()
    });
    let of_class = |class: Class| -> Vec<AccountId> {
        accounts().filter(|account| account.class == class).map(|a| a.id).take(3).collect()
    };
    let (owned, owed) = (of_class(Class::Asset), of_class(Class::Liability));
    let against = |class: Class| if class == Class::Expense { &owed[..] } else { &owned[..] };
    let posting = Posting { accounts: &posted, around: &around, against: &against };
    Ok(posting.post(&mut rng, &mut whereabouts_rng)?.books(chart.clone()))
}

/// False alarms, of so many accounts.
struct Alarms {
    accounts: usize,
    sure: usize,
    worth_a_look: usize,
    /// Pairs of either tier that have one name.
    namesakes: usize,
    /// The rows on which each kind of remark is.
    remarked: BTreeMap<RemarkKind, BTreeSet<AccountId>>,
}

impl Alarms {
    fn of(today: &Today, sketches: &Sketches) -> Self {
        let found = find(today, sketches, &NotDuplicates::default());
        let name = |id: AccountId| today.chart.get(id).map(|account| account.name.to_lowercase());
        let mut namesakes = 0;
        let mut count = |groups: &[LookAlike]| {
            let pairs = proposed(groups);
            let alike = pairs.iter().filter(|(a, b)| name(*a) == name(*b)).count();
            namesakes += alike;
            pairs.len() - alike
        };
        let (sure, worth_a_look) = (count(&found.sure), count(&found.worth_a_look));
        let mut remarked: BTreeMap<RemarkKind, BTreeSet<AccountId>> = BTreeMap::new();
        for remark in remarks::find(today) {
            remarked.entry(remark.kind).or_default().extend(remark.accounts);
        }
        let accounts = today.chart.live().filter(|account| account.kind == Kind::Account).count();
        Self { accounts, sure, worth_a_look, namesakes, remarked }
    }
}

impl std::fmt::Display for Alarms {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let of_100 = |count: usize| 100.0 * count as f64 / self.accounts.max(1) as f64;
        write!(
            f,
            "for every 100 of {} accounts {:.1} pairs sure, {:.1} worth a look, {:.1} namesakes",
            self.accounts,
            of_100(self.sure),
            of_100(self.worth_a_look),
            of_100(self.namesakes)
        )?;
        for (kind, rows) in &self.remarked {
            write!(f, "; {} {:.1}", kind.key(), of_100(rows.len()))?;
        }
        Ok(())
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "what cannot be made fails the test")]
mod tests {
    use super::*;

    /// A folder with one chart, `hut`, and a file of another.
    fn folder() -> tempfile::TempDir {
        let folder = tempfile::tempdir().unwrap();
        let row =
            |class: &str| format!(r#"{{"class": "{class}", "certain": true, "contra": false}}"#);
        let rows = [
            ("100", "asset"),
            ("110", "asset"),
            ("200", "liability"),
            ("300", "expense"),
            ("310", "expense"),
        ];
        let rows = rows.map(|(code, class)| format!(r#""{code}": {}"#, row(class))).join(", ");
        std::fs::write(folder.path().join("key.json"), format!(r#"{{"hut": {{{rows}}}}}"#))
            .unwrap();
        let file = |name: &str, text: &str| std::fs::write(folder.path().join(name), text).unwrap();
        file(
            "hut-1-classes.csv",
            "Code,Name,Class\n100,Hut,Asset\n110,Stove,Asset\n200,Loan of the club,Income\n\
             300,Firewood,Expense\n310,Firewood,Expense\n",
        );
        file(
            "hut-2-codes.csv",
            "Code,Name\n100,Hut\n110,Stove\n200,Loan of the club\n300,Firewood\n310,Firewood\n",
        );
        file("hutch-1.csv", "Code,Name\n1,Of another chart\n");
        folder
    }

    fn told(file: usize) -> Told {
        let folder = folder();
        let key = Key::read(folder.path()).unwrap();
        let path = &key.files("hut").unwrap()[file];
        Told::of(&ReadFile::of(path).unwrap(), &key.charts["hut"])
    }

    #[test]
    fn a_chart_has_the_files_that_begin_with_its_name() {
        let folder = folder();
        let files = Key::read(folder.path()).unwrap().files("hut").unwrap();
        let names: Vec<_> = files.iter().map(|path| path.file_name().unwrap()).collect();
        assert_eq!(names, ["hut-1-classes.csv", "hut-2-codes.csv"]);
    }

    #[test]
    fn a_class_that_the_file_says_wrongly_is_wrong_in_silence() {
        let told = told(0);
        assert_eq!((told.rows, told.wrong_in_silence, told.asked, told.missing), (5, 1, 0, 0));
    }

    #[test]
    fn what_is_asked_has_the_right_class_among_its_answers() {
        let told = told(1);
        assert_eq!((told.rows, told.wrong_in_silence, told.without_the_right_answer), (5, 0, 0));
        assert!(told.asked >= 4 && told.questions >= 2, "{told}");
    }

    #[test]
    fn two_of_one_name_are_namesakes_and_posting_is_of_every_so_manieth() {
        let folder = folder();
        let key = Key::read(folder.path()).unwrap();
        let read = ReadFile::of(&key.files("hut").unwrap()[0]).unwrap();
        let chart = Chart::new(read.accounts().map(|account| right(account, &key.charts["hut"])));
        for (every, used) in [(None, 0), (Some(3), 2), (Some(1), 5)] {
            let (today, sketches) = posted(&chart, every).unwrap();
            let with_a_voice = sketches.values().filter(|sketch| sketch.payees.iter().count() > 0);
            assert!(with_a_voice.count() >= used, "{every:?}");
            assert_eq!(today.figures().is_empty(), every.is_none());
            let alarms = Alarms::of(&today, &sketches);
            assert_eq!(alarms.accounts, 5, "{alarms}");
            assert!(every.is_some() || alarms.namesakes == 1, "{alarms}");
        }
    }
}
