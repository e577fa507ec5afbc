//! Files that may not be read or written. The system's administrator may read everything, so for
//! that user these tests are counted as ignored.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

use assert_cmd::Command;
use libtest_mimic::{Arguments, Failed, Trial};
use std::fs;
use std::path::Path;

fn main() {
    let arguments = Arguments::from_args();
    let may_do_everything = !can_be_forbidden();
    if may_do_everything {
        eprintln!("this user may read every file: what may not be read cannot be tested");
    }
    let trials = vec![
        Trial::test("a_source_that_may_not_be_read_is_reported_and_the_rest_goes_on", unreadable)
            .with_ignored_flag(may_do_everything),
        Trial::test("an_output_that_may_not_be_written_is_a_clear_error", unwritable)
            .with_ignored_flag(may_do_everything),
    ];
    libtest_mimic::run(&arguments, trials).exit();
}

#[cfg(unix)]
fn forbid(path: &Path, mode: u32) {
    use std::os::unix::fs::PermissionsExt as _;
    fs::set_permissions(path, fs::Permissions::from_mode(mode)).unwrap();
}

#[cfg(not(unix))]
fn forbid(_path: &Path, _mode: u32) {}

fn can_be_forbidden() -> bool {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("x");
    fs::write(&file, "x").unwrap();
    forbid(&file, 0);
    fs::read(&file).is_err()
}

fn unreadable() -> Result<(), Failed> {
    let folder = tempfile::tempdir()?;
    fs::create_dir(folder.path().join("d"))?;
    fs::write(folder.path().join("d/a.md"), "# A\n")?;
    fs::write(folder.path().join("d/b.md"), "# B\n")?;
    forbid(&folder.path().join("d/b.md"), 0);
    fs::create_dir(folder.path().join("d/closed"))?;
    fs::write(folder.path().join("d/closed/obblet.toml"), "title = \"Closed\"\n")?;
    forbid(&folder.path().join("d/closed"), 0);
    let output = Command::cargo_bin("obblet")?
        .current_dir(folder.path())
        .args(["publish", "d", "web"])
        .output()?;
    let talk = String::from_utf8(output.stderr)?;
    assert!(talk.contains("b.md: failed: it cannot be read: Permission denied"), "{talk}");
    assert!(talk.contains("closed: failed: "), "{talk}");
    assert_eq!(output.status.code(), Some(3));
    assert!(folder.path().join("web/a.html").is_file());
    let checked =
        Command::cargo_bin("obblet")?.current_dir(folder.path()).args(["check", "d"]).output()?;
    let out = String::from_utf8(checked.stdout)?;
    assert!(out.contains("b.md: not checked: ") && out.contains("closed: not checked: "), "{out}");
    assert_eq!(checked.status.code(), Some(3));
    forbid(&folder.path().join("d/closed"), 0o755);
    Ok(())
}

fn unwritable() -> Result<(), Failed> {
    let folder = tempfile::tempdir()?;
    fs::create_dir(folder.path().join("locked"))?;
    fs::write(folder.path().join("a.md"), "# A\n")?;
    forbid(&folder.path().join("locked"), 0o555);
    let output = Command::cargo_bin("obblet")?
        .current_dir(folder.path())
        .args(["convert", "a.md", "locked/a.html"])
        .output()?;
    let talk = String::from_utf8(output.stderr)?;
    assert!(talk.contains("locked/a.html cannot be written: Permission denied"), "{talk}");
    assert_eq!(output.status.code(), Some(3));
    forbid(&folder.path().join("locked"), 0o755);
    Ok(())
}
