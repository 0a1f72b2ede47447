//! What a crosswalk is read against, and the form that its new codes must have.

use crate::cause::Cause;
use zf_core::chart::Chart;
use zf_core::code::Code;
use zf_core::former::FormerCodes;
use zf_core::policy::CodeFormat;

/// What a crosswalk is read against.
pub struct CrosswalkContext<'a> {
    /// The chart.
    pub chart: &'a Chart,
    /// Former codes.
    pub former: &'a FormerCodes,
    /// The form that new codes must have.
    pub format: CodeFormat,
}

/// A new code, in the form that the books lay down.
pub(super) fn code_of(text: &str, format: CodeFormat) -> Result<Code, Cause> {
    let code = Code::parse(text)?;
    match format.objection(&code) {
        Some(objection) => Err(Cause::CodeFormat { code, objection }),
        None => Ok(code),
    }
}
