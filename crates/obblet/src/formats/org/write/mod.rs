//! Writing Org.

use super::OrgWriteOptions;
use crate::document::Document;
use crate::findings::Findings;
use crate::formats::WriteError;
use crate::formats::depth::refuse_too_deep;

/// Writes a document.
pub(crate) fn write(
    document: &Document,
    _options: &OrgWriteOptions,
) -> Result<(String, Findings), WriteError> {
    refuse_too_deep(document)?;
    Ok((String::new(), Findings::new()))
}
