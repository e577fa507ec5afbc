//! The guide: every command that it shows is run, and prints what it shows; and Obblet publishes it.
//!
//! `OBBLET_WRITE_GUIDE=1` puts what the commands print now into the pages.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod demo_folder;

use demo_folder::{copy, copy_docs, root};
use std::fs;
use std::path::Path;
use std::process::Command;

/// What a command prints, on both streams, in the order in which a terminal shows it.
fn printed(folder: &Path, command: &str) -> String {
    let binary = Path::new(env!("CARGO_BIN_EXE_obblet")).parent().unwrap();
    let path = format!("{}:{}", binary.display(), std::env::var("PATH").unwrap());
    let output = Command::new("sh")
        .args(["-c", &format!("({command}) 2>&1")])
        .current_dir(folder)
        .env("PATH", path)
        .output()
        .unwrap();
    let mut text = String::from_utf8(output.stdout).unwrap();
    if !text.is_empty() && !text.ends_with('\n') {
        text.push('\n');
    }
    text
}

/// The page with what its commands print.
fn run_page(text: &str, folder: &Path) -> String {
    let mut done = String::new();
    let mut is_console = false;
    for line in text.lines() {
        match line {
            "```console" => is_console = true,
            "```" if is_console => is_console = false,
            _ => {}
        }
        let command = line.strip_prefix("$ ").filter(|_| is_console);
        if is_console && command.is_none() && line != "```console" {
            continue;
        }
        done.push_str(line);
        done.push('\n');
        if let Some(command) = command {
            done.push_str(&printed(folder, command));
        }
    }
    done
}

#[test]
fn every_command_prints_what_the_guide_shows() {
    let guide = root().join("docs/guide");
    let mut pages = 0;
    let mut wrong = Vec::new();
    for entry in fs::read_dir(&guide).unwrap() {
        let path = entry.unwrap().path();
        if path.extension().is_none_or(|ending| ending != "md") {
            continue;
        }
        pages += 1;
        let scratch = tempfile::tempdir().unwrap();
        let folder = scratch.path().join("texts");
        copy(&root().join("crates/obblet-cli/demo"), &folder);
        let text = fs::read_to_string(&path).unwrap();
        let now = run_page(&text, &folder);
        if now == text {
            continue;
        }
        if std::env::var_os("OBBLET_WRITE_GUIDE").is_some() {
            fs::write(&path, &now).unwrap();
            continue;
        }
        let pairs = text.lines().zip(now.lines());
        let first = pairs.into_iter().find(|(shown, printed)| shown != printed);
        wrong.push(format!("{}: {first:?}", path.display()));
    }
    assert!(pages >= 9, "{pages}");
    assert!(wrong.is_empty(), "the guide is not current:\n{}", wrong.join("\n"));
}

/// The documentation is a web folder without a fault.
#[test]
fn the_documentation_is_published_by_obblet_itself() {
    let scratch = tempfile::tempdir().unwrap();
    let docs = scratch.path().join("docs");
    copy_docs(&docs);
    let out =
        printed(scratch.path(), "obblet publish docs site && obblet check site --least warning");
    assert!(out.contains("site is ready"), "{out}");
    assert!(out.ends_with("nothing found\n"), "{out}");
    assert!(scratch.path().join("site/guide/checking.html").exists(), "{out}");
}
