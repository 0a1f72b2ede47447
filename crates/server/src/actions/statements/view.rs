//! The statements as they are shown.

use super::asking::Shown;
use std::collections::{BTreeMap, BTreeSet};
use zf_core::chart::{Account, Class, Kind, Status};
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::reports::beside::{self, Pair};
use zf_core::reports::draw;
use zf_core::reports::moved::{Moved, earlier_changes, moved};
use zf_core::reports::reading::{Read, Reading, place_of};
use zf_core::reports::rounding::{left_over, rounded};
use zf_core::reports::statement::{Length, Row, RowKind, Standing, Statement};
use zf_core::reports::ties::ties;
use zf_core::today::Today;
use zf_phrases::{Style, reports};
use zf_wire::statements::view::{
    HeadingView, LeftOverView, LengthView, MovedAccount, MovedAmount, StandingView,
    StatementColumn, StatementRow, StatementView, StatementsView, TieView,
};

pub(super) fn statements_view(read: &Read<'_>, shown: &Shown, style: Style) -> StatementsView {
    let today = read.today();
    let statements = draw(read);
    // What is told to move: between what stands side by side, or else by the plan, or else since it was posted.
    let (from, to) = match (shown.against, shown.is_planned) {
        (Some(against), _) => (against, read.reading()),
        (None, true) => (Reading::AsItIs, Reading::AsPlanned),
        (None, false) => (Reading::AsPosted, Reading::AsItIs),
    };
    let others = BTreeSet::from([from, to, Reading::AsItIs, Reading::AsPlanned]);
    let others = others.into_iter().filter(|reading| *reading != read.reading());
    let others: BTreeMap<Reading, (Read<'_>, [Statement; 2])> = others
        .map(|reading| {
            let again = read.again(reading);
            let statements = draw(&again);
            (reading, (again, statements))
        })
        .collect();
    // Each reading is drawn once, whatever it is asked for.
    let drawn = |reading: Reading| match others.get(&reading) {
        Some((again, statements)) => (again, statements),
        None => (read, &statements),
    };
    let ((one, before), (other, after)) = (drawn(from), drawn(to));
    let moved = moved(one, other);
    let moves: BTreeSet<_> = moved
        .iter()
        .flat_map(|moved| [moved.from, moved.to])
        .map(|place| (place.class, place.item))
        .collect();
    let unit = i128::pow(10, today.currency.exponent()) * 1000;
    let renderer = Renderer {
        read,
        moves,
        taken: taken(read),
        unit: shown.in_thousands.then_some(unit),
        currency: today.currency,
    };
    let chart = read.chart();
    let accounts: Vec<&Account> =
        chart.live().filter(|account| account.kind == Kind::Account).collect();
    let against = shown.against.map(|against| drawn(against).1);
    let lengths = [Reading::AsItIs, Reading::AsPlanned]
        .map(|reading| drawn(reading).1.each_ref().map(Statement::length));
    let of = |(at, statement): (usize, &Statement)| {
        let against = against.map(|against| &against[at]);
        renderer.statement(statement, against, lengths.each_ref().map(|of| of[at]))
    };
    let tie = |tie: zf_core::reports::ties::Tie| TieView {
        name: reports::tie(&tie.name, tie.day, style),
        difference: today.currency.format(tie.difference),
    };
    let columns = read.columns().iter();
    StatementsView {
        reading: read.reading(),
        against: shown.against,
        span: shown.span,
        beside: shown.beside,
        columns: columns.map(|months| StatementColumn::of(today, months)).collect(),
        ties: ties(read, &statements).into_iter().map(tie).collect(),
        without_item: accounts.iter().filter(|a| place_of(a).item.is_none()).count(),
        accounts: accounts.len(),
        moved_from: from,
        moved_to: to,
        earlier_changed: earlier_changes(before, after),
        moved: renderer.moved(&moved, one, other),
        former: former(today),
        statements: statements.iter().enumerate().map(of).collect(),
    }
}

/// How many accounts present lines that were posted under another code.
fn former(today: &Today) -> usize {
    let accounts: BTreeSet<AccountId> = today
        .activity
        .strands()
        .filter(|(strand, ..)| {
            let account = today.chart.get(strand.account);
            account.is_some_and(|account| account.code.as_str() != strand.posted.code)
        })
        .map(|(strand, ..)| strand.account)
        .collect();
    accounts.len()
}

/// Whom the plan puts into each account, where the history is read as it would leave it.
fn taken(read: &Read<'_>) -> BTreeMap<AccountId, Vec<String>> {
    let mut taken: BTreeMap<AccountId, Vec<String>> = BTreeMap::new();
    let rehearsal = read.rehearsal();
    let rows = rehearsal.effects.rows.iter().filter(|_| read.reading() == Reading::AsPlanned);
    for row in rows.filter_map(|row| row.before.as_ref()).filter(|row| row.is_live()) {
        let holder = rehearsal.after.holder(row.id).filter(|holder| holder.id != row.id);
        if let Some(holder) = holder {
            taken.entry(holder.id).or_default().push(row.label());
        }
    }
    taken
}

/// What is needed to say rows.
struct Renderer<'a> {
    read: &'a Read<'a>,
    /// From and to where something moves.
    moves: BTreeSet<(Class, Option<zf_core::ids::ItemId>)>,
    /// Whom the plan puts into each account.
    taken: BTreeMap<AccountId, Vec<String>>,
    /// In how many minor units figures are, when not exact.
    unit: Option<i128>,
    currency: Currency,
}

impl Renderer<'_> {
    fn amount(&self, amount: i128) -> String {
        match self.unit {
            Some(unit) => rounded(amount, unit).to_string(),
            None => self.currency.format(amount),
        }
    }

    /// Amounts as a person reads them.
    fn amounts(&self, amounts: &[i128], shown_as: i8) -> Vec<String> {
        amounts.iter().map(|amount| self.amount(i128::from(shown_as) * amount)).collect()
    }

    fn statement(
        &self,
        statement: &Statement,
        against: Option<&Statement>,
        [today, after]: [Length; 2],
    ) -> StatementView {
        let rows: Vec<Pair<&Row>> = match against {
            Some(against) => beside::rows(statement, against),
            None => statement.rows.iter().map(|row| Pair { one: Some(row), other: None }).collect(),
        };
        let left_over = self.unit.map(|unit| left_over(statement, unit)).unwrap_or_default();
        StatementView {
            kind: statement.kind,
            name: statement.kind.words(),
            rows: rows.iter().filter_map(|pair| self.row(pair, statement)).collect(),
            today: LengthView::of(today),
            after: LengthView::of(after),
            left_over: left_over
                .into_iter()
                .map(|over| LeftOverView {
                    label: reports::row(&over.name),
                    column: over.column,
                    by: over.by.to_string(),
                })
                .collect(),
        }
    }

    fn row(&self, pair: &Pair<&Row>, statement: &Statement) -> Option<StatementRow> {
        let row = pair.one.or(pair.other)?;
        let shown = |row: Option<&Row>| match row {
            Some(row) if row.kind != RowKind::Ratio => self.amounts(&row.amounts, row.shown_as),
            _ => Vec::new(),
        };
        let standing = |pair: &Pair<&Standing>| {
            let known = pair.one.or(pair.other)?;
            let shown = |standing: Option<&Standing>| match standing {
                Some(standing) => self.amounts(&standing.amounts, row.shown_as),
                None => Vec::new(),
            };
            Some(StandingView {
                account: known.account.0,
                code: known.code.clone(),
                name: known.name.clone(),
                heading: self.heading(known).map(|heading| heading.0),
                amounts: shown(pair.one),
                against: shown(pair.other),
                note: self.beside(known),
                takes_others: self.taken.contains_key(&known.account),
            })
        };
        let difference = pair.one.and_then(|row| statement.difference(row, self.read.columns()));
        let place = row.class.map(|class| (class, row.item));
        let accounts = beside::accounts(pair);
        Some(StatementRow {
            difference: difference
                .map(|difference| self.amount(i128::from(row.shown_as) * difference.amount)),
            change: difference.and_then(|difference| difference.tenths),
            amounts: shown(pair.one),
            against: shown(pair.other),
            ratios: pair.one.map(|row| row.ratios.clone()).unwrap_or_default(),
            ratios_against: pair.other.map(|row| row.ratios.clone()).unwrap_or_default(),
            moves: row.kind == RowKind::Item && place.is_some_and(|at| self.moves.contains(&at)),
            headings: self.headings(&accounts, row.shown_as),
            accounts: accounts.iter().filter_map(standing).collect(),
            kind: row.kind,
            level: row.level,
            label: reports::row(&row.name),
            class: row.class,
            item: row.item.map(|item| item.0),
        })
    }

    /// The heading of the chart that an account stands under.
    fn heading(&self, standing: &Standing) -> Option<AccountId> {
        self.read.chart().get(standing.account)?.parent
    }

    /// What the accounts of a line come to by heading, in the order in which they are listed; nothing when it is one.
    fn headings(&self, accounts: &[Pair<&Standing>], shown_as: i8) -> Vec<HeadingView> {
        type Sums = (Vec<i128>, Vec<i128>);
        let columns = self.read.columns().len();
        let mut sums: Vec<(Option<AccountId>, Sums)> = Vec::new();
        for pair in accounts {
            let heading = pair.one.or(pair.other).and_then(|known| self.heading(known));
            let at = sums.iter().position(|(known, _)| *known == heading).unwrap_or_else(|| {
                sums.push((heading, (vec![0; columns], vec![0; columns])));
                sums.len() - 1
            });
            let (one, other) = &mut sums[at].1;
            for (sum, of) in [(one, pair.one), (other, pair.other)] {
                let amounts = of.into_iter().flat_map(|standing| &standing.amounts);
                sum.iter_mut().zip(amounts).for_each(|(sum, amount)| *sum += amount);
            }
        }
        if sums.len() < 2 {
            return Vec::new();
        }
        let label = |id: &AccountId| self.read.chart().get(*id).map(Account::label);
        let view = |(heading, (one, other)): &(Option<AccountId>, Sums)| HeadingView {
            heading: heading.map(|heading| heading.0),
            label: heading
                .as_ref()
                .and_then(label)
                .unwrap_or_else(|| "under no heading".to_owned()),
            amounts: self.amounts(one, shown_as),
            against: self.amounts(other, shown_as),
        };
        sums.iter().map(view).collect()
    }

    /// What moves, by the lines that it leaves and comes to.
    fn moved(&self, moved: &[Moved], one: &Read<'_>, other: &Read<'_>) -> Vec<MovedAmount> {
        let ways = moved.chunk_by(|a, b| (a.from, a.to) == (b.from, b.to));
        let account = |moved: &Moved| {
            let account = one.chart().get(moved.from_account);
            let (code, name) =
                account.map_or_else(Default::default, |a| (a.code.to_string(), a.name.clone()));
            let amounts = self.amounts(&moved.leaves, moved.from.class.shown_as());
            MovedAccount { account: moved.from_account.0, code, name, amounts }
        };
        let of = |way: &[Moved]| {
            let first = way.first()?;
            let sum = |at| way.iter().map(|moved| moved.leaves[at]).sum();
            let sums: Vec<i128> = (0..first.leaves.len()).map(sum).collect();
            Some(MovedAmount {
                from: first.from.words(one.chart()),
                to: first.to.words(other.chart()),
                amounts: self.amounts(&sums, first.from.class.shown_as()),
                lines: way.iter().map(|moved| moved.lines).sum(),
                accounts: way.iter().map(account).collect(),
            })
        };
        ways.filter_map(of).collect()
    }

    /// What is said beside an account.
    fn beside(&self, standing: &Standing) -> String {
        let id = standing.account;
        if let Some(taken) = self.taken.get(&id) {
            return format!("takes {}", taken.join(", "));
        }
        let was = self.read.today().chart.get(id);
        match self.read.chart().get(id) {
            Some(_) if was.is_none() => "new".to_owned(),
            Some(account) if account.status == Status::Deactivated => "deactivated".to_owned(),
            Some(account) if account.status == Status::Archived => "archived".to_owned(),
            Some(account)
                if self.read.reading() == Reading::AsPosted
                    && account.code.as_str() != standing.code =>
            {
                format!("now {}", account.label())
            }
            _ => String::new(),
        }
    }
}
