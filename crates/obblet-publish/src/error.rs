//! Why a folder could not be planned or published.

use crate::scope::ScopeError;
use crate::write::WriteFailure;
use std::io;
use std::path::PathBuf;
use thiserror::Error;

/// Why a folder cannot be planned at all.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum PlanError {
    /// The source folder is not there or cannot be listed.
    #[error("the folder {} cannot be read: {error}", folder.display())]
    Source {
        /// The folder.
        folder: PathBuf,
        /// What the system says.
        error: io::Error,
    },
    /// The source is a file.
    #[error("{} is no folder; to convert one document, use “obblet convert”", .0.display())]
    NoFolder(PathBuf),
    /// The output would be published again with the sources.
    #[error(
        "the output folder {} lies inside the source folder {}; choose a folder outside it",
        output.display(), source_folder.display()
    )]
    OutputInside {
        /// The output folder.
        output: PathBuf,
        /// The source folder.
        source_folder: PathBuf,
    },
    /// Pages would come among the sources.
    #[error(
        "the source folder {} lies inside the output folder {}; choose a folder of its own",
        source_folder.display(), output.display()
    )]
    SourceInside {
        /// The output folder.
        output: PathBuf,
        /// The source folder.
        source_folder: PathBuf,
    },
    /// The output is a file.
    #[error("the output {} is a file, not a folder", .0.display())]
    OutputIsFile(PathBuf),
    /// A folder's settings are wrong.
    #[error(transparent)]
    Settings(#[from] ScopeError),
}

/// Why a run could not be finished.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum PublishError {
    /// No workers could be started.
    #[error("no workers can be started: {0}")]
    Workers(io::Error),
    /// The output folder or the record in it cannot be written.
    #[error(transparent)]
    Write(#[from] WriteFailure),
    /// Another run is at work in the output folder.
    #[error("another run is at work in {}; wait for it to end", .0.display())]
    Busy(PathBuf),
    /// A page that no source becomes cannot be made.
    #[error("{page}: {error}")]
    Made {
        /// Its path below the output folder.
        page: String,
        /// Why not.
        error: obblet::WriteError,
    },
}
