//! What a chart is read against.

use zf_core::chart::Chart;
use zf_core::policy::{Block, CodeFormat};

/// What a chart is read against.
pub struct ChartContext<'a> {
    /// The chart that is there already: its headings may stand above rows of the file.
    pub chart: &'a Chart,
    /// The form that codes must have.
    pub format: CodeFormat,
    /// The blocks of codes that classes have, where they were laid down.
    pub blocks: &'a [Block],
}
