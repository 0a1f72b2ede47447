//! The books as a Standard Audit File.

use super::{download, unwritten};
use crate::state::off_thread;
use crate::{App, Problem};
use axum::response::Response;
use std::sync::Arc;
use zf_core::chart::{Account, Chart};
use zf_core::dimension;
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_sheets::{AuditAccount, AuditEntry, AuditHeader, AuditLine, AuditWriter};
use zf_store::journal::lines::{JournalFilter, LineRow};
use zf_store::member::Member;

/// How many lines are read and written at a time.
const PAGE: i64 = 20_000;

/// Writes the accounts of the books with all entries.
pub(crate) async fn file(app: &App, member: Member) -> Result<Response, Problem> {
    let _place = app.write_large().await?;
    // Accounts, sums and all pages are of one instant, or the file would not agree with itself.
    let mut journal = app.store.read_journal(member).await?;
    let snapshot = Arc::new(journal.snapshot().await?);
    let (summary, payees) = (journal.summary().await?, journal.payees().await?);
    let today = &snapshot.today;
    let currency = today.currency;
    let header = AuditHeader {
        company: snapshot.books.name.clone(),
        currency: currency.to_string(),
        created: summary.now.to_string(),
        days: summary.days.map(|(first, last)| (first.to_string(), last.to_string())),
        entries: summary.entries,
        debits: currency.format(today.figures().values().map(|f| f.all.debit).sum()),
        credits: currency.format(today.figures().values().map(|f| f.all.credit).sum()),
    };
    let rows = today.chart.outline().into_iter().map(|(account, _)| account);
    // A heading that was posted to is an account as well.
    let holds = |a: &&Account| a.is_posting() || today.figures_of(a.id).all.lines > 0;
    let accounts: Vec<AuditAccount> = rows.filter(holds).map(account_of).collect();
    let mut writer = AuditWriter::new(&header, &accounts, &payees).map_err(|e| unwritten(&e))?;
    let mut open: Option<AuditEntry> = None;
    let mut after = (0, 0);
    loop {
        let filter = JournalFilter::default();
        let lines = journal.lines(&filter, after, PAGE).await?;
        let Some(last) = lines.last() else { break };
        after = (last.entry_id, last.id);
        let snapshot = snapshot.clone();
        let written = off_thread(move || {
            for line in lines {
                if let Some(done) = open.take_if(|entry| entry.number != line.entry) {
                    writer.entry(&done)?;
                }
                let entry = open.get_or_insert_with(|| AuditEntry {
                    number: line.entry.clone(),
                    date: line.date.to_string(),
                    kind: line.entry_kind.clone(),
                    lines: Vec::new(),
                });
                entry.lines.push(line_of(line, &snapshot.today.chart, currency));
            }
            Ok((writer, open))
        });
        (writer, open) = written.await?.map_err(|e| unwritten(&e))?;
    }
    if let Some(last) = open {
        writer.entry(&last).map_err(|e| unwritten(&e))?;
    }
    let content = writer.finish().map_err(|e| unwritten(&e))?;
    download("books.xml", "application/xml", content).await
}

fn account_of(account: &Account) -> AuditAccount {
    AuditAccount {
        code: account.code.to_string(),
        name: account.name.clone(),
        class: account.class.words().to_owned(),
        section: account.caption.as_ref().map_or_else(String::new, |line| line.name.clone()),
    }
}

fn line_of(line: LineRow, chart: &Chart, base: Currency) -> AuditLine {
    let account = chart.get(AccountId(line.account));
    let foreign = line.foreign();
    let values = dimension::values(&line.dimensions).into_iter();
    AuditLine {
        id: line.id.to_string(),
        account: account.map_or(line.posted_code, |a| a.code.to_string()),
        amount: base.format(i128::from(line.amount).abs()),
        credit: line.amount < 0,
        foreign: foreign.map(|(c, amount)| (c.to_string(), c.format(i128::from(amount).abs()))),
        dimensions: values.map(|v| (v.name, v.value)).collect(),
        payee: line.payee,
        memo: line.memo,
        reference: line.reference,
    }
}
