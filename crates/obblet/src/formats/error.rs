//! Why a source could not be read, or a document not be written.

use crate::format::Format;
use thiserror::Error;

/// The most bytes a part may unpack to.
pub(crate) const PART_LIMIT: u64 = 256 << 20;

/// How many times its bytes a large part may unpack to.
pub(crate) const DENSEST: u64 = 200;

/// Why no document could be made of a source.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum ReadError {
    /// Places count bytes in 32 bits.
    #[error("the source is larger than 4 GiB")]
    TooLarge,
    /// The source is not a ZIP archive, as all Word files are.
    #[error("this is no Word file: {0}")]
    NotWord(PackageError),
    /// The source is no text, and no format that is read.
    #[error("this is {is}; {advice}")]
    NoText {
        /// What the file is.
        is: &'static str,
        /// What to do.
        advice: &'static str,
    },
    /// Nobody brought a reader for this format.
    #[error("there is no reader for {0}")]
    NoReader(Format),
    /// What a reader of somebody else's says.
    #[error("{0}")]
    Other(Box<dyn std::error::Error + Send + Sync>),
}

/// Why a document could not be written.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum WriteError {
    /// The document nests deeper than any reader makes it.
    #[error("the document nests deeper than {limit} levels")]
    TooDeep {
        /// The deepest level that is written, list items and cells counted too.
        limit: usize,
    },
    /// The house's pattern for Word files cannot be one.
    #[error("the pattern for Word files cannot be used: {0}")]
    Pattern(#[from] PatternError),
    /// The parts could not be put into one package.
    #[error("the parts of the file cannot be packed: {0}")]
    Package(String),
    /// A page could not be laid out.
    #[error("the page cannot be laid out: {0}")]
    Layout(String),
    /// Nobody brought a writer for this format.
    #[error("there is no writer for {0}")]
    NoWriter(Format),
    /// What a writer of somebody else's says.
    #[error("{0}")]
    Other(Box<dyn std::error::Error + Send + Sync>),
    /// The house names a file that is not among its files.
    #[error("the house names the file {0}, which was not given")]
    FileMissing(String),
}

/// Why a file is no Word package.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum PackageError {
    /// There are no bytes.
    #[error("the file is empty")]
    Empty,
    /// An OLE file of the format before 2007.
    #[error("it is a binary file of the format from before 2007; save it as .docx")]
    Binary,
    /// A package locked with a password, inside an OLE file.
    #[error("it is locked with a password; save it without one")]
    Locked,
    /// Any other OLE file.
    #[error("it is a binary file of another program, not a Word document")]
    OtherBinary,
    /// Rich Text Format under another name.
    #[error("it is Rich Text Format; save it as .docx")]
    RichText,
    /// Not a ZIP archive at all.
    #[error("it is not a ZIP archive, as every .docx file is")]
    NotZip,
    /// A ZIP archive that is broken.
    #[error("its ZIP archive is broken or cut off ({0})")]
    BrokenZip(String),
    /// A ZIP archive of something else.
    #[error("its ZIP archive holds no Word document{}", holds(.0))]
    OtherPackage(&'static str),
    /// The main part is missing or cannot be unpacked.
    #[error("its main document part {0} cannot be read: {1}")]
    NoMainPart(String, PartError),
}

fn holds(what: &str) -> String {
    if what.is_empty() { String::new() } else { format!(", but {what}") }
}

/// Why a part cannot be read.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum PartError {
    /// The package has no such part.
    #[error("there is no such part")]
    Missing,
    /// It would unpack to too much.
    #[error("it unpacks to more than {} MiB", PART_LIMIT >> 20)]
    TooLarge,
    /// It unpacks to so many times its size that it can only be made to do harm.
    #[error("it unpacks to more than {DENSEST} times its size")]
    TooDense,
    /// All parts together would unpack to too much.
    #[error("the package unpacks to more than {0} bytes")]
    PackageTooLarge(u64),
    /// Its bytes are damaged.
    #[error("it is damaged ({0})")]
    Damaged(String),
}

/// Why a file cannot be a pattern.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum PatternError {
    /// It is no Word file.
    #[error(transparent)]
    NotWord(#[from] PackageError),
    /// One of its parts cannot be taken over.
    #[error("its part {0} cannot be taken over: {1}")]
    Part(String, String),
}
