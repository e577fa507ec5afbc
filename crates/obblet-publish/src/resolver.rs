//! Fetching what documents name, from the folder they stand in and from nowhere else.

use obblet::Resolver;
use std::path::{Path, PathBuf};

/// Fetches files of a folder. What lies outside it is not there, also behind a symbolic link.
#[derive(Debug, Clone)]
pub struct FolderResolver {
    /// With all links resolved; `None` when there is no such folder.
    root: Option<PathBuf>,
    /// Where the document stands.
    folder: PathBuf,
}

impl FolderResolver {
    /// For a document that stands in `folder`, which is `root` or lies inside it.
    #[must_use]
    pub fn new(root: &Path, folder: &Path) -> Self {
        Self { root: root.canonicalize().ok(), folder: folder.to_path_buf() }
    }
}

impl Resolver for FolderResolver {
    fn resolve(&self, address: &str) -> Option<Vec<u8>> {
        let path = self.folder.join(address).canonicalize().ok()?;
        let is_inside = self.root.as_ref().is_some_and(|root| path.starts_with(root));
        if is_inside { std::fs::read(path).ok() } else { None }
    }
}
