//! What ends a command early, and the exit codes.

use std::path::PathBuf;
use std::process::ExitCode;
use thiserror::Error;

/// The exit codes of the command, as its help states them.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Code {
    /// Done.
    Done = 0,
    /// Done, but something that was asked to hold does not.
    DoesNotHold = 1,
    /// Wrong usage.
    Usage = 2,
    /// A source could not be read or a target not written.
    Files = 3,
}

impl From<Code> for ExitCode {
    fn from(code: Code) -> Self {
        Self::from(code as u8)
    }
}

/// What ends a command early.
#[derive(Debug, Error)]
pub(crate) enum Failure {
    #[error("{0}")]
    Usage(String),
    #[error("{} cannot be read: {error}", path.display())]
    Read { path: PathBuf, error: std::io::Error },
    #[error("{file}: {error}")]
    Convert { file: String, error: obblet::ConvertError },
    #[error(transparent)]
    Write(#[from] obblet_publish::WriteFailure),
    #[error("standard input cannot be read: {0}")]
    Input(std::io::Error),
    #[error("standard output cannot be written: {0}")]
    Output(std::io::Error),
    #[error(transparent)]
    Plan(#[from] obblet_publish::PlanError),
    #[error(transparent)]
    Publish(#[from] obblet_publish::PublishError),
    #[error("{file}: {error}")]
    House { file: String, error: obblet::HouseError },
    #[error(transparent)]
    Check(#[from] obblet_publish::CheckError),
    #[error(transparent)]
    Preview(#[from] obblet_publish::PreviewError),
    #[error("the folder cannot be watched: {0}")]
    Watch(String),
    #[error(transparent)]
    HouseFile(#[from] obblet_publish::HouseFileError),
}

impl Failure {
    pub(crate) fn code(&self) -> Code {
        use obblet_publish::{CheckError, HouseFileError, PlanError, ScopeError};
        match self {
            Self::HouseFile(HouseFileError::House { .. }) => Code::Usage,
            Self::Plan(PlanError::Settings(
                ScopeError::Wrong { .. } | ScopeError::House { .. },
            )) => Code::Usage,
            Self::Check(CheckError::Folder(PlanError::NoFolder(_) | PlanError::Settings(_))) => {
                Code::Usage
            }
            Self::Usage(_) | Self::House { .. } => Code::Usage,
            Self::Plan(PlanError::OutputInside { .. } | PlanError::SourceInside { .. }) => {
                Code::Usage
            }
            Self::Plan(PlanError::NoFolder(_) | PlanError::OutputIsFile(_)) => Code::Usage,
            _ => Code::Files,
        }
    }
}
