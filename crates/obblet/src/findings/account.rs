//! How many words went through a conversion.

use serde::Serialize;

/// How many words went through a conversion. A word is a run of letters or digits.
///
/// ```
/// use obblet::{Format, WriteOptions, convert};
/// let options = WriteOptions::house("body")?;
/// let written = convert(b"High water at *noon*.\n", Format::Markdown, &options)?;
/// assert_eq!(written.account.source, 4);
/// assert_eq!(written.account.output, 4);
/// assert_eq!(written.account.unaccounted, 0);
/// # Ok::<(), obblet::ConvertError>(())
/// ```
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize)]
#[non_exhaustive]
pub struct Account {
    /// Words of the source that are text: in the document, or in nothing at all.
    pub source: u64,
    /// Words of the document.
    pub document: u64,
    /// Words of the document that are in the output.
    pub output: u64,
    /// Words that findings say were left out, by the reader or the writer.
    pub left_out: u64,
    /// Words that reached nothing, and no finding names them.
    pub unaccounted: u64,
    /// Words of the document that are not in the source: what a reader made, such as the words of a
    /// reference, or what it doubled.
    pub added: u64,
    /// Pieces of text that stand in another order in the document than in the source.
    pub moved: u64,
}

impl Account {
    /// Adds what one of several pages holds that a document became.
    pub fn add(&mut self, page: Self) {
        self.document += page.document;
        self.output += page.output;
        self.left_out += page.left_out;
        self.unaccounted += page.unaccounted;
    }

    /// The account of a conversion: that of its writer behind that of its reader.
    #[must_use]
    pub fn behind(self, reading: Self) -> Self {
        Self {
            source: reading.source,
            document: self.document,
            output: self.output,
            left_out: reading.left_out + self.left_out,
            unaccounted: reading.unaccounted + self.unaccounted,
            added: reading.added,
            moved: reading.moved,
        }
    }
}
