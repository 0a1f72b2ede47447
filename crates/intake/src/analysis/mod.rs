//! What a file comes to: the rows of the sheet that is read, against books. One way for everybody who
//! looks at a file, whatever it holds.

pub mod choices;
mod content;
mod form;
mod journal;
mod kinds;

pub use content::{
    Against, Analysis, BalanceComparison, Content, ReadBalances, ReadChart, ReadCrosswalk,
};
pub use journal::{JournalSummary, ReadJournal};

use crate::reading::Reading;
use crate::rows::Rows;
use choices::{Choices, NotKnown};
use zf_core::file_kind::FileKind;

impl Analysis {
    /// Reads the rows of a sheet, as it was found out how, and as a person chose.
    ///
    /// # Errors
    /// When a choice cannot be followed.
    pub fn of(
        kind: FileKind,
        reading: &Reading,
        rows: &dyn Rows,
        choices: &Choices,
        against: Against<'_>,
    ) -> Result<Self, NotKnown> {
        if !reading.layout.lacking(kind).is_empty() {
            return Ok(Self::ready(0, Content::Nothing));
        }
        let read = kinds::Sheet { reading, rows, choices, against };
        let mut analysis = match kind {
            FileKind::Chart => read.chart(),
            FileKind::Journal => read.journal()?,
            FileKind::Balances => read.balances(),
            FileKind::Crosswalk => read.crosswalk(),
            FileKind::Usage => read.usage(),
        };
        let asked = form::questions(reading, rows, &analysis.rejected);
        analysis.questions.splice(..0, asked);
        Ok(analysis)
    }
}
