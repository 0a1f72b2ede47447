//! What the rows of a sheet are.

use zf_core::keyed;

keyed! {
    /// What a row of a file is.
    RowKind {
        /// Above the headings, or once more at the top of a printed page.
        Title = "titles";
        /// The headings.
        Heads = "heads";
        /// The headings once more.
        Repeated = "repeated_heads";
        /// Nothing stands in it.
        Blank = "blank";
        /// A caption over the rows below it.
        Caption = "captions";
        /// A total of what stands above it.
        Total = "totals";
        /// What an account stood at before its lines.
        Opening = "openings";
        /// A line of an entry that the journal has already.
        Known = "known";
        /// It asks for nothing.
        Idle = "idle";
        /// A posting account.
        Account = "accounts";
        /// A heading of the chart.
        Heading = "headings";
        /// A sum line of the chart.
        Sum = "sums";
        /// A line of the journal.
        Line = "lines";
        /// A balance of an account.
        Balance = "balances";
        /// An old code with a new one.
        Pair = "pairs";
        /// Something that names an account.
        Use = "uses";
        /// Any row of a sheet that is not read.
        NotRead = "not_read";
    }
}
