//! Pictures and other files that documents carry inside themselves: each content is written once,
//! however many documents carry it.
//!
//! Where a picture goes is known when all documents are read. Until then its bytes stand aside under
//! their fingerprint.

use crate::fingerprint::Fingerprint;
use crate::record::SourceRecord;
use obblet::document::Media;
use std::collections::{BTreeMap, HashMap, HashSet};
use std::io;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// The folder in the output folder where pictures stand aside during a run.
pub(crate) const ASIDE: &str = ".obblet-aside";

/// Where pictures stand aside.
#[derive(Debug)]
pub(crate) struct Pictures {
    folder: PathBuf,
}

impl Pictures {
    /// For a run; what a run that was killed has left aside goes.
    pub(crate) fn begin(output: &Path) -> Self {
        let folder = output.join(ASIDE);
        let _ = std::fs::remove_dir_all(&folder);
        Self { folder }
    }

    /// Puts a picture aside.
    pub(crate) fn put(&self, picture: &Media, hash: Fingerprint) -> io::Result<()> {
        let path = self.path(hash);
        if path.exists() {
            return Ok(());
        }
        std::fs::create_dir_all(&self.folder)?;
        // Two workers may put the same picture aside at once: each writes its own file.
        let part = tempfile::NamedTempFile::new_in(&self.folder)?;
        std::fs::write(part.path(), &picture.bytes)?;
        part.persist(&path).map(|_| ()).map_err(|error| error.error)
    }

    /// The bytes of a picture that was put aside.
    pub(crate) fn get(&self, hash: Fingerprint) -> io::Result<Vec<u8>> {
        std::fs::read(self.path(hash))
    }

    /// Whether a picture was put aside.
    pub(crate) fn has(&self, hash: Fingerprint) -> bool {
        self.path(hash).exists()
    }

    fn path(&self, hash: Fingerprint) -> PathBuf {
        self.folder.join(hash.to_string())
    }
}

impl Drop for Pictures {
    fn drop(&mut self) {
        let _ = std::fs::remove_dir_all(&self.folder);
    }
}

/// Gives every picture its place: beside the first document that carries it, or where a file of the
/// folder holds the same.
pub(crate) fn place(
    copies: &HashMap<Fingerprint, String>,
    taken: impl IntoIterator<Item = String>,
    facts: &mut BTreeMap<String, Arc<SourceRecord>>,
) {
    let mut places: HashMap<Fingerprint, String> = copies.clone();
    let mut taken: HashSet<String> = taken.into_iter().map(|name| name.to_lowercase()).collect();
    for facts in facts.values_mut().filter(|facts| !facts.pictures.is_empty()) {
        let facts = Arc::make_mut(facts);
        let Some(folder) =
            facts.pages.first().map(|page| crate::convert::picture_folder(&page.target))
        else {
            continue;
        };
        for picture in &mut facts.pictures {
            let name = picture.target.rsplit('/').next().unwrap_or_default();
            let wanted = format!("{folder}/{name}");
            let place =
                places.entry(picture.hash).or_insert_with(|| free_name(&wanted, &mut taken));
            picture.target.clone_from(place);
        }
    }
}

fn free_name(wanted: &str, taken: &mut HashSet<String>) -> String {
    let ending =
        wanted.rsplit('/').next().and_then(|name| name.rfind('.').map(|at| name.len() - at));
    let (stem, ending) = wanted.split_at(wanted.len() - ending.unwrap_or(0));
    let mut name = wanted.to_string();
    let mut number = 2;
    while !taken.insert(name.to_lowercase()) {
        name = format!("{stem}-{number}{ending}");
        number += 1;
    }
    name
}
