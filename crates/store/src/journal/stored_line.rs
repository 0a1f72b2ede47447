//! A line as it lies in the database, as far as totals and digests are made of it, and parts of a
//! history ask about it.

use crate::StoreError;
use crate::books::Books;
use time::Date;
use zf_core::activity::{LineContent, Share, Slot};
use zf_core::money::Currency;

/// A line as stored, with whether it was cleared.
pub(crate) struct StoredLine {
    pub(crate) id: i64,
    pub(crate) entry_id: i64,
    pub(crate) date: Date,
    pub(crate) strand_id: i64,
    pub(crate) amount: i64,
    pub(crate) foreign_amount: Option<i64>,
    pub(crate) currency: Option<String>,
    pub(crate) payee: String,
    pub(crate) memo: String,
    pub(crate) reference: String,
    pub(crate) dimensions: String,
    pub(crate) cleared: bool,
}

impl StoredLine {
    /// What never changes of it.
    pub(crate) fn content(&self) -> Result<LineContent<'_>, StoreError> {
        let currency = self.currency.as_deref().map(Currency::parse).transpose();
        Ok(LineContent {
            id: self.id,
            entry: self.entry_id,
            date: self.date,
            amount: self.amount,
            foreign: self.foreign_amount.zip(currency.map_err(StoreError::damaged)?),
            payee: &self.payee,
            memo: &self.memo,
            reference: &self.reference,
            dimensions: &self.dimensions,
        })
    }

    /// Where its totals are kept, and what it adds to them.
    pub(crate) fn share(&self, books: &Books) -> Result<(Slot, Share), StoreError> {
        let content = self.content()?;
        let slot = Slot {
            period: books.calendar.period_of(self.date),
            currency: content.foreign.map_or(books.currency, |(_, currency)| currency),
        };
        Ok((slot, Share::of_line(&content, self.cleared)))
    }
}
