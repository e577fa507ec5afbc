//! Reading below a folder and nowhere else: whatever links stand there, and whoever swaps them for others
//! while a run lasts.

use cap_std::ambient_authority;
use cap_std::fs::Dir;
use std::io::{Error, ErrorKind, Result};
use std::path::Path;

/// The bytes of a file by its path below a folder. Links may lead to other places in the folder.
///
/// # Errors
/// What the system says; that the path leads out of the folder; that there is no ordinary file.
pub(crate) fn read(root: &Path, path: &Path) -> Result<Vec<u8>> {
    let folder = Dir::open_ambient_dir(root, ambient_authority())?;
    match read_file(&folder, path) {
        Err(error) if error.kind() == ErrorKind::PermissionDenied && !path.is_absolute() => {
            // A link may spell a place in the folder from the root of the system.
            let leads_out = || Error::other("it leads out of the folder");
            let real = root.join(path).canonicalize()?;
            let inside = real.strip_prefix(root.canonicalize()?).map_err(|_| leads_out())?;
            read_file(&folder, inside)
        }
        result => result,
    }
}

/// The same, as text.
pub(crate) fn read_text(root: &Path, path: &Path) -> Result<String> {
    String::from_utf8(read(root, path)?)
        .map_err(|_| Error::new(ErrorKind::InvalidData, "it is no text in UTF-8"))
}

fn read_file(folder: &Dir, path: &Path) -> Result<Vec<u8>> {
    // Pipes and devices could keep whoever opens them waiting.
    if !folder.metadata(path)?.is_file() {
        return Err(Error::other("it is no ordinary file"));
    }
    folder.read(path)
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "a test fails by panicking")]
mod tests {
    use super::*;
    use std::fs;

    #[test]
    fn nothing_outside_is_read() {
        let outer = tempfile::tempdir().unwrap();
        let root = outer.path().join("site");
        fs::create_dir_all(root.join("pages")).unwrap();
        fs::write(outer.path().join("secret"), "secret").unwrap();
        fs::write(root.join("pages/a.md"), "inside").unwrap();
        #[cfg(unix)]
        {
            use std::os::unix::fs::symlink;
            symlink("../../secret", root.join("pages/out")).unwrap();
            symlink(outer.path(), root.join("up")).unwrap();
            symlink("a.md", root.join("pages/near")).unwrap();
            symlink(root.join("pages/a.md"), root.join("pages/far")).unwrap();
            for path in ["pages/out", "up/secret"] {
                assert!(read(&root, Path::new(path)).is_err(), "{path}");
            }
            for path in ["pages/near", "pages/far"] {
                assert_eq!(read(&root, Path::new(path)).unwrap(), b"inside", "{path}");
            }
        }
        for path in ["../secret", "pages/../../secret", "/etc/hostname", "pages", "none"] {
            assert!(read(&root, Path::new(path)).is_err(), "{path}");
        }
        assert_eq!(read(&root, Path::new("pages/../pages/a.md")).unwrap(), b"inside");
        let secret = outer.path().join("secret");
        assert!(read(&root, &secret).is_err(), "an absolute path");
    }

    /// A folder that is swapped for a link again and again shows what is inside, or nothing.
    #[cfg(unix)]
    #[test]
    fn swapping_a_folder_for_a_link_shows_nothing() {
        use std::os::unix::fs::symlink;
        use std::sync::atomic::{AtomicBool, Ordering};
        let outer = tempfile::tempdir().unwrap();
        let root = outer.path().join("site");
        for folder in [&root.join("pages"), &outer.path().join("elsewhere")] {
            fs::create_dir_all(folder).unwrap();
        }
        fs::write(root.join("pages/a.md"), "inside").unwrap();
        fs::write(outer.path().join("elsewhere/a.md"), "secret").unwrap();
        let is_done = AtomicBool::new(false);
        std::thread::scope(|scope| {
            scope.spawn(|| {
                while !is_done.load(Ordering::Relaxed) {
                    let _ = fs::rename(root.join("pages"), root.join("kept"));
                    let _ = symlink("../elsewhere", root.join("pages"));
                    let _ = fs::remove_file(root.join("pages"));
                    let _ = fs::rename(root.join("kept"), root.join("pages"));
                }
            });
            for _ in 0..2000 {
                let found = read(&root, Path::new("pages/a.md")).unwrap_or_default();
                assert_ne!(found, b"secret");
            }
            is_done.store(true, Ordering::Relaxed);
        });
    }
}
