//! Folders of the project, copied to where a test may change them.

use std::fs;
use std::path::{Path, PathBuf};

/// The folder of the whole project.
pub(crate) fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").canonicalize().unwrap()
}

/// Copies a folder with all that is in it.
pub(crate) fn copy(from: &Path, to: &Path) {
    fs::create_dir_all(to).unwrap();
    for entry in fs::read_dir(from).unwrap() {
        let entry = entry.unwrap();
        let target = to.join(entry.file_name());
        if entry.file_type().unwrap().is_dir() {
            copy(&entry.path(), &target);
        } else {
            fs::copy(entry.path(), target).unwrap();
        }
    }
}

/// Copies the documentation, in which links to the source tree lead to the web.
pub(crate) fn copy_docs(to: &Path) {
    copy(&root().join("docs"), to);
    let page = to.join("cleaning.md");
    let text = fs::read_to_string(&page).unwrap();
    fs::write(&page, text.replace("](../crates/", "](https://marrowby.example/")).unwrap();
}
