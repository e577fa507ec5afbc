//! Ways out of a folder that somebody else has written (`escapes.txt`): no command shows what lies outside of it,
//! and none changes it.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]
#![cfg(unix)]

use assert_cmd::Command;
use std::collections::BTreeMap;
use std::fs;
use std::io::{Cursor, Read as _};
use std::os::unix::fs::symlink;
use std::path::{Path, PathBuf};

/// Stands in every file outside, and in nothing else.
const SECRET: &str = "MARROWBYSLUICE";

/// A picture of one pixel, behind which the secret stands.
const PICTURE: &[u8] = b"\x89PNG\r\n\x1a\n\0\0\0\rIHDR\0\0\0\x01\0\0\0\x01\x08\x06\0\0\0\x1f\x15\xc4\x89\0\0\0\rIDATx\x9c\
    c\xf8\xcf\xc0\xf0\x1f\0\x05\0\x01\xff\x89\x99=\x1d\0\0\0\0IEND\xaeB`\x82";

struct Way {
    name: &'static str,
    /// Files below `texts/`, with what stands in them.
    files: Vec<(&'static str, &'static str)>,
}

fn ways() -> Vec<Way> {
    let mut ways: Vec<Way> = Vec::new();
    for line in include_str!("escapes.txt").lines().filter(|l| !l.is_empty() && !l.starts_with('#'))
    {
        let mut parts = line.splitn(3, " | ");
        let (name, path, content) =
            (parts.next().unwrap(), parts.next().expect(line), parts.next().expect(line));
        match ways.last_mut().filter(|_| name == "and") {
            Some(way) => way.files.push((path, content)),
            None => ways.push(Way { name, files: vec![(path, content)] }),
        }
    }
    ways
}

fn outside(folder: &Path) {
    let html = format!("<p>{SECRET} {{{{ leaf.body }}}}");
    let works = format!("@book{{k, title = {{{SECRET}}}, author = {{Ada Quill}}}}");
    let (title, org, sheet) =
        (format!("# {SECRET}\n"), format!("* {SECRET}\n"), format!("p {{ content: '{SECRET}' }}"));
    let drawing = format!("<svg xmlns='http://www.w3.org/2000/svg'><text>{SECRET}</text></svg>");
    let texts = [
        ("secret.txt", SECRET),
        ("secret.tex", SECRET),
        ("secret.sty", SECRET),
        ("secret.org", &org),
        ("secret.md", &title),
        ("secret.html", &html),
        ("secret.css", &sheet),
        ("secret.bib", &works),
        ("secret.svg", &drawing),
        ("house.toml", "[page]\nheader = \"secret.txt\"\n"),
        ("keep.html", "keep"),
        ("d/secret.md", &title),
    ];
    fs::create_dir_all(folder.join("d")).unwrap();
    for (name, text) in texts {
        fs::write(folder.join(name), text).unwrap();
    }
    fs::write(folder.join("secret.png"), [PICTURE, SECRET.as_bytes()].concat()).unwrap();
}

/// Every file below a folder, links not followed.
fn files(folder: &Path) -> BTreeMap<PathBuf, Vec<u8>> {
    let mut found = BTreeMap::new();
    for entry in fs::read_dir(folder).unwrap().map(Result::unwrap) {
        let kind = entry.file_type().unwrap();
        if kind.is_dir() {
            found.append(&mut files(&entry.path()));
        } else if kind.is_file() {
            found.insert(entry.path(), fs::read(entry.path()).unwrap());
        }
    }
    found
}

/// Whether the secret stands in a file, packed or not.
fn shows(bytes: &[u8]) -> bool {
    let plain = |bytes: &[u8]| bytes.windows(SECRET.len()).any(|part| part == SECRET.as_bytes());
    let Ok(mut archive) = zip::ZipArchive::new(Cursor::new(bytes)) else { return plain(bytes) };
    (0..archive.len()).any(|number| {
        let mut unpacked = Vec::new();
        archive.by_index(number).unwrap().read_to_end(&mut unpacked).unwrap();
        plain(&unpacked)
    })
}

/// Where the secret is to be seen after every command that may have a use for these files.
fn leaks(way: &Way) -> Vec<String> {
    let scratch = tempfile::tempdir().unwrap();
    let beside = scratch.path().join("outside");
    outside(&beside);
    for (path, content) in &way.files {
        let place = scratch.path().join("texts").join(path);
        let content = content.replace("OUTSIDE", beside.to_str().unwrap());
        // A backslash before a backslash is one.
        let content = content.replace("\\\\", "\0").replace("\\n", "\n").replace('\0', "\\");
        fs::create_dir_all(scratch.path().join("texts")).unwrap();
        fs::create_dir_all(place.parent().unwrap()).unwrap();
        match content.strip_prefix("-> ") {
            Some(target) => symlink(target, place).unwrap(),
            None => fs::write(place, content + "\n").unwrap(),
        }
    }
    let before = files(&beside);
    let document = way.files.last().map(|(path, _)| format!("texts/{path}")).unwrap();
    let commands: [&[&str]; 9] = [
        &["publish", "texts", "web"],
        &["bind", "texts", "all.html"],
        &["bind", "texts", "all.docx"],
        &["bind", "texts", "all.epub"],
        &["bind", &document, "two.docx"],
        &["convert", &document, "one.html"],
        &["convert", &document, "one.docx"],
        &["convert", &document, "one.md"],
        &["check", "texts"],
    ];
    let mut leaks = Vec::new();
    for command in commands {
        let ran = Command::cargo_bin("obblet")
            .unwrap()
            .current_dir(scratch.path())
            .args(command)
            .output();
        let ran = ran.unwrap();
        let command = command.join(" ");
        if shows(&ran.stdout) || shows(&ran.stderr) {
            leaks.push(format!("{}: {command} says it", way.name));
        }
        assert!(
            ran.status.code().is_some_and(|code| code <= 3),
            "{}: {command}: {ran:?}",
            way.name
        );
        let shown = files(scratch.path());
        for (path, _) in
            shown.iter().filter(|(path, bytes)| !path.starts_with(&beside) && shows(bytes))
        {
            leaks.push(format!("{}: {command} writes it to {}", way.name, path.display()));
        }
        assert_eq!(before, files(&beside), "{}: {command} changes what lies outside", way.name);
    }
    leaks
}

#[test]
fn nothing_outside_of_a_folder_is_shown_or_changed() {
    let ways = ways();
    assert!(ways.len() > 40, "{} ways", ways.len());
    let leaks: Vec<String> = ways.iter().flat_map(leaks).collect();
    assert!(leaks.is_empty(), "{}", leaks.join("\n"));
}

/// The same files are read where they lie in the folder: the test would see a leak.
#[test]
fn what_lies_in_the_folder_is_shown() {
    let drawing = "<svg xmlns='http://www.w3.org/2000/svg'><text>MARROWBYSLUICE</text></svg>";
    let inside = [
        (("secret.svg", drawing), ("a.md", "![x](secret.svg)"), "web/secret.svg"),
        (("secret.svg", drawing), ("a.md", "![x](secret.svg)"), "all.epub"),
        (("secret.tex", SECRET), ("a.tex", "\\\\input{secret}"), "one.docx"),
        (("secret.org", "* MARROWBYSLUICE"), ("a.org", "#+INCLUDE: \"secret.org\""), "one.md"),
    ];
    for (secret, document, shown) in inside {
        let leaks = leaks(&Way { name: document.0, files: vec![secret, document] });
        assert!(leaks.iter().any(|leak| leak.ends_with(shown)), "{shown}: {leaks:?}");
    }
}
