//! What the rows of a sheet are.

use zf_core::keyed;

keyed! {
    /// What a row of a chart is.
    RowKind {
        /// Above the headings, or once more at the top of a printed page.
        Title = "titles", "titles of the page";
        /// The headings.
        Heads = "heads", "headings of the columns";
        /// The headings once more.
        Repeated = "repeated_heads", "headings once more";
        /// Nothing stands in it.
        Blank = "blank", "blank rows";
        /// A caption over the rows below it.
        Caption = "captions", "captions";
        /// A total of what stands above it.
        Total = "totals", "totals";
        /// What an account stood at before its lines.
        Opening = "openings", "opening balances";
        /// A line of an entry that the journal has already.
        Known = "known", "lines that the journal has already";
        /// It asks for nothing.
        Idle = "idle", "rows that ask for nothing";
        /// A posting account.
        Account = "accounts", "accounts";
        /// A heading of the chart.
        Heading = "headings", "headings";
        /// A sum line of the chart.
        Sum = "sums", "sum lines";
    }
}

impl RowKind {
    /// What one such row is called.
    pub const fn singular(self) -> &'static str {
        match self {
            Self::Title => "title",
            Self::Heads | Self::Repeated => "headings again",
            Self::Blank => "blank",
            Self::Caption => "caption",
            Self::Total => "total",
            Self::Opening => "opening balance",
            Self::Known => "known",
            Self::Idle => "nothing",
            Self::Account => "account",
            Self::Heading => "heading",
            Self::Sum => "sum line",
        }
    }
}
