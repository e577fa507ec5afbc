//! Fetching what documents name, from the folder they stand in and from nowhere else.

use obblet::Resolver;
use std::path::{Path, PathBuf};

/// Fetches files of a folder. What lies outside it is not there, also behind a symbolic link.
#[derive(Debug, Clone)]
pub struct FolderResolver {
    root: PathBuf,
    /// Where the document stands.
    folder: PathBuf,
}

impl FolderResolver {
    /// For a document that stands in `folder`, which is `root` or lies inside it.
    #[must_use]
    pub fn new(root: &Path, folder: &Path) -> Self {
        Self { root: root.to_path_buf(), folder: folder.to_path_buf() }
    }
}

impl Resolver for FolderResolver {
    fn resolve(&self, address: &str) -> Option<Vec<u8>> {
        let path = self.folder.join(address).canonicalize().ok()?;
        let is_inside = path.starts_with(self.root.canonicalize().ok()?);
        if is_inside { std::fs::read(path).ok() } else { None }
    }
}
