//! A preview of documents in a browser: converted when they are asked for, shown anew when something
//! has changed. The server answers on the loopback address alone, and its pages ask nobody else.

mod answer;
mod desk;
mod server;

use crate::error::PlanError;
use crate::watch::Changes;
use crate::{HouseFileError, PublishOptions};
use desk::Desk;
use server::Server;
use std::io;
use std::net::{Ipv4Addr, SocketAddr};
use std::path::{Path, PathBuf};
use std::sync::Arc;
use thiserror::Error;

/// Why there is no preview.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum PreviewError {
    /// The folder cannot be read, or its settings are wrong.
    #[error(transparent)]
    Plan(#[from] PlanError),
    /// The document is not there.
    #[error("{} cannot be read: {error}", path.display())]
    Source {
        /// The document.
        path: PathBuf,
        /// What the system says.
        error: std::io::Error,
    },
    /// No server can be started.
    #[error("the preview cannot listen on port {port}: {why}")]
    Listen {
        /// The port.
        port: u16,
        /// What the system says.
        why: String,
    },
    /// The folder cannot be watched.
    #[error("the folder cannot be watched: {0}")]
    Watch(#[from] notify::Error),
    /// The house cannot be read any more.
    #[error(transparent)]
    House(#[from] HouseFileError),
}

/// A preview that listens.
///
/// ```no_run
/// use obblet_publish::{Preview, PublishOptions};
/// use std::path::Path;
/// # fn main() -> Result<(), obblet_publish::PreviewError> {
/// let preview = Preview::open(Path::new("texts"), &PublishOptions::default(), 0)?;
/// println!("open {}", preview.address());
/// preview.serve()?;
/// # Ok(())
/// # }
/// ```
pub struct Preview {
    server: Server,
    desk: Arc<Desk>,
    address: SocketAddr,
}

impl Preview {
    /// Opens a folder, or one document with the folder it stands in. Port 0 is any free one.
    ///
    /// # Errors
    /// [`PreviewError`] when there is no such folder or document, or the port is taken.
    pub fn open(path: &Path, options: &PublishOptions, port: u16) -> Result<Self, PreviewError> {
        let whole = path
            .canonicalize()
            .map_err(|error| PreviewError::Source { path: path.to_path_buf(), error })?;
        let (root, only) = match whole.is_dir() {
            true => (whole, None),
            false => {
                let name = whole.file_name().map(|name| name.to_string_lossy().into_owned());
                let folder = whole.parent().unwrap_or(Path::new("/")).to_path_buf();
                (folder, name)
            }
        };
        let changes = Changes::watch(&[&root])?;
        let desk = Desk::of(root, only, options.clone(), changes)?;
        let wanted = SocketAddr::from((Ipv4Addr::LOCALHOST, port));
        let failed = |error: io::Error| PreviewError::Listen { port, why: error.to_string() };
        let server = Server::listen(wanted).map_err(failed)?;
        let address = server.address().map_err(failed)?;
        Ok(Self { server, desk: Arc::new(desk), address })
    }

    /// Where a browser finds it.
    #[must_use]
    pub fn address(&self) -> String {
        format!("http://{}/", self.address)
    }

    /// What ends [`serve`](Self::serve) when it is called from elsewhere.
    pub fn stopper(&self) -> impl Fn() + Send + Sync + 'static + use<> {
        self.server.stopper()
    }

    /// Answers until it is stopped.
    ///
    /// # Errors
    /// [`PreviewError::Listen`] when nobody can be listened to any more.
    pub fn serve(&self) -> Result<(), PreviewError> {
        let port = self.address.port();
        let served = self.server.serve(&self.desk, port);
        served.map_err(|error| PreviewError::Listen { port, why: error.to_string() })
    }
}
