//! What one document may take, set by a program that converts documents of strangers.

use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use thiserror::Error;

/// What a piece of work may take: one conversion, comparison or check, or several that share it.
///
/// The first three and `cancel` end the work with [`Exceeded`]; work that is not in [`run`](Self::run) has
/// none of them. The others only stop what would grow: a finding names it, and the document goes on without.
///
/// Time is counted in steps, not in seconds: the same work takes the same steps on every machine. A step
/// is about a line, a token, an element or a node. Plain prose takes about one step for 20 bytes and each
/// pass over it, markup some ten times as many.
///
/// ```
/// use obblet::{Exceeded, Format, Limits, WriteOptions, convert};
/// let limits = Limits { steps: 100_000, ..Limits::default() };
/// let options = WriteOptions::format(Format::Html);
/// let written = limits.run(|| convert(b"High water at *noon*.\n", Format::Markdown, &options));
/// assert!(written.is_ok());
/// let long = "High water at *noon*. ".repeat(10_000);
/// let written = limits.run(|| convert(long.as_bytes(), Format::Markdown, &options));
/// assert_eq!(written.unwrap_err(), Exceeded::Steps(100_000));
/// ```
#[derive(Debug, Clone)]
pub struct Limits {
    /// Steps of work. Default: no limit.
    pub steps: u64,
    /// Blocks and inlines of the documents that are read. Default: 50 million.
    pub nodes: usize,
    /// Bytes of one output, pictures in it included. Default: 4 GiB.
    pub output_bytes: usize,
    /// Macros of LaTeX that a document expands. Default: 500,000.
    pub expansions: usize,
    /// Files that a document includes, each as often as it is included. Default: 10,000.
    pub included_files: usize,
    /// Bytes of the files that a document includes, and of what its own macros make in Org. Default:
    /// 64 MiB.
    pub included_bytes: usize,
    /// Cells that are added so that every row of a table has all columns. Default: 5,000.
    pub empty_cells: usize,
    /// Bytes that the rules of a house, or a layout around a page, may make of a document, and four to 64
    /// times the document. Default: 32 MiB.
    pub made_bytes: usize,
    /// Bytes of a package, as a Word file, when it is unpacked. Default: 512 MiB.
    pub unpacked_bytes: u64,
    /// Ends the work from another thread.
    pub cancel: Cancel,
}

impl Default for Limits {
    fn default() -> Self {
        Self {
            steps: u64::MAX,
            nodes: 50_000_000,
            output_bytes: usize::try_from(4_u64 << 30).unwrap_or(usize::MAX),
            expansions: 500_000,
            included_files: 10_000,
            included_bytes: 64 << 20,
            empty_cells: 5_000,
            made_bytes: 32 << 20,
            unpacked_bytes: 512 << 20,
            cancel: Cancel::default(),
        }
    }
}

/// Ends work from outside: clones of one are the same.
///
/// ```
/// use obblet::{Cancel, Exceeded, Format, Limits, ReadOptions, read};
/// let cancel = Cancel::default();
/// let limits = Limits { cancel: cancel.clone(), ..Limits::default() };
/// cancel.cancel();
/// let long = "High water at *noon*.\n\n".repeat(1_000);
/// let reading = limits.run(|| read(long.as_bytes(), Format::Markdown, &ReadOptions::default()));
/// assert_eq!(reading.unwrap_err(), Exceeded::Cancelled);
/// ```
#[derive(Debug, Clone, Default)]
pub struct Cancel(Arc<AtomicBool>);

impl Cancel {
    /// Ends all work under limits that hold this, within some thousand steps.
    pub fn cancel(&self) {
        self.0.store(true, Ordering::Relaxed);
    }

    /// Whether somebody cancelled.
    #[must_use]
    pub fn is_cancelled(&self) -> bool {
        self.0.load(Ordering::Relaxed)
    }
}

/// The limit that ended some work.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
#[non_exhaustive]
pub enum Exceeded {
    /// [`Limits::steps`].
    #[error("the document takes more than {0} steps of work")]
    Steps(u64),
    /// [`Limits::nodes`].
    #[error("the document has more than {0} blocks and inlines")]
    Nodes(usize),
    /// [`Limits::output_bytes`].
    #[error("the output has more than {0} bytes")]
    OutputBytes(usize),
    /// [`Limits::cancel`].
    #[error("the work was cancelled")]
    Cancelled,
}
