//! A run that is killed at any moment leaves whole pages, and the next run makes the folder what it
//! would have been.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

use std::collections::{BTreeMap, BTreeSet};
use std::fs;
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

const KILLS: usize = 20;
/// How often a run that was through before it could be killed is started anew.
const ATTEMPTS: usize = 4;

fn start(folder: &Path, output: &str) -> Child {
    Command::new(env!("CARGO_BIN_EXE_obblet"))
        .current_dir(folder)
        .args(["publish", "texts", output])
        .stdout(Stdio::null())
        .stderr(Stdio::null())
        .spawn()
        .unwrap()
}

/// Every file of a folder with its content.
fn files(folder: &Path) -> BTreeMap<String, Vec<u8>> {
    let mut found = BTreeMap::new();
    let mut open = vec![folder.to_path_buf()];
    while let Some(inner) = open.pop() {
        for entry in fs::read_dir(&inner).into_iter().flatten().flatten() {
            let path = entry.path();
            if path.is_dir() {
                open.push(path);
            } else {
                let name = path.strip_prefix(folder).unwrap().display().to_string();
                found.insert(name, fs::read(&path).unwrap());
            }
        }
    }
    found
}

/// Documents of several formats, with links, pictures and topics.
fn write_texts(folder: &Path) {
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo");
    let handbook = fs::read(demo.join("volunteers/handbook.docx")).unwrap();
    for number in 0..120 {
        let inner = folder.join(format!("texts/{}", number % 7));
        fs::create_dir_all(&inner).unwrap();
        let text = "The tide turns the wheel. ".repeat(number % 40);
        let next = format!("../{}/p{}", (number + 1) % 7, number + 1);
        let (name, bytes) = match number % 4 {
            0 => ("docx", handbook.clone()),
            1 => (
                "org",
                format!("#+TITLE: P{number}\n* H\n[[file:{next}.md][on]]\n{text}\n").into_bytes(),
            ),
            2 => ("tex", format!("\\section{{P{number}}}\n{text} $x^2$\n").into_bytes()),
            _ => (
                "md",
                format!(
                    "---\nkeywords: [k{}]\n---\n# P{number}\n\n[on]({next}.docx)\n\n{text}\n",
                    number % 5
                )
                .into_bytes(),
            ),
        };
        fs::write(inner.join(format!("p{number}.{name}")), bytes).unwrap();
    }
}

#[test]
fn a_killed_run_leaves_whole_pages_and_the_next_one_completes_them() {
    let scratch = tempfile::tempdir().unwrap();
    let folder = scratch.path();
    write_texts(folder);
    assert_eq!(start(folder, "undisturbed").wait().unwrap().code(), Some(0));
    let expected = files(&folder.join("undisturbed"));
    assert!(expected.len() > 150, "{}", expected.len());

    let mut cut_short = 0;
    for kill in 0..KILLS {
        // Spread over the whole run by what is there, so that no clock decides.
        let share = expected.len() * kill / KILLS;
        let mut output = String::new();
        for attempt in 0..ATTEMPTS {
            output = format!("web{kill}-{attempt}");
            kill_when_there_are(share, folder, &output);
            let left = files(&folder.join(&output));
            for (name, bytes) in left.iter().filter(|(name, _)| !name.contains(".obblet-")) {
                assert!(expected.get(name) == Some(bytes), "kill {kill}: {name} is not whole");
            }
            if folder.join(&output).join(".obblet-journal").exists() {
                cut_short += 1;
                break;
            }
        }
        assert_eq!(start(folder, &output).wait().unwrap().code(), Some(0), "kill {kill}");
        let now = files(&folder.join(&output));
        let other: BTreeSet<&String> = now
            .keys()
            .chain(expected.keys())
            .filter(|name| expected.get(*name) != now.get(*name))
            .collect();
        assert!(now == expected, "kill {kill} of {output}: {other:?}");
    }
    assert!(cut_short >= KILLS / 2, "only {cut_short} runs were cut short");
}

/// Starts a run and kills it once it has a journal and so many files are in its folder, or when it
/// is through.
fn kill_when_there_are(files: usize, folder: &Path, output: &str) {
    let mut run = start(folder, output);
    let output = folder.join(output);
    while run.try_wait().unwrap().is_none() {
        if output.join(".obblet-journal").exists() && count(&output) >= files {
            break;
        }
        std::thread::sleep(Duration::from_micros(200));
    }
    run.kill().unwrap();
    run.wait().unwrap();
}

/// How many files are in a folder that is being written.
fn count(folder: &Path) -> usize {
    let entries = fs::read_dir(folder).into_iter().flatten().flatten();
    entries
        .map(|entry| match entry.file_type() {
            Ok(kind) if kind.is_dir() => count(&entry.path()),
            _ => 1,
        })
        .sum()
}

/// Somebody who presses Ctrl-C is told what that means, and finds whole pages.
#[test]
#[cfg(unix)]
fn a_stopped_run_says_so() {
    let scratch = tempfile::tempdir().unwrap();
    let folder = scratch.path();
    write_texts(folder);
    let mut run = Command::new(env!("CARGO_BIN_EXE_obblet"))
        .current_dir(folder)
        .args(["publish", "texts", "web", "--jobs", "1"])
        .stdout(Stdio::piped())
        .stderr(Stdio::null())
        .spawn()
        .unwrap();
    // As soon as it is at work.
    let end = Instant::now() + Duration::from_secs(30);
    while !folder.join("web/.obblet-journal").exists() && Instant::now() < end {
        std::thread::sleep(Duration::from_millis(2));
    }
    let told = Command::new("kill").args(["-INT", &run.id().to_string()]).status().unwrap();
    assert!(told.success());
    let code = run.wait().unwrap().code();
    let mut said = String::new();
    std::io::Read::read_to_string(&mut run.stdout.take().unwrap(), &mut said).unwrap();
    assert_eq!(code, Some(3), "{said}");
    assert!(said.contains("Stopped after") && said.contains("Run it again to go on"), "{said}");
    assert_eq!(start(folder, "web").wait().unwrap().code(), Some(0));
    assert_eq!(start(folder, "fresh").wait().unwrap().code(), Some(0));
    assert!(files(&folder.join("web")) == files(&folder.join("fresh")));
}

/// A folder that is watched is published again when something changes.
#[test]
fn a_watched_folder_is_published_again() {
    let scratch = tempfile::tempdir().unwrap();
    let folder = scratch.path();
    fs::create_dir(folder.join("texts")).unwrap();
    fs::write(folder.join("texts/a.md"), "# Before\n").unwrap();
    let mut run = Command::new(env!("CARGO_BIN_EXE_obblet"))
        .current_dir(folder)
        .args(["publish", "texts", "web", "--watch"])
        .stdout(Stdio::null())
        .stderr(Stdio::null())
        .spawn()
        .unwrap();
    let shows = |words: &str| {
        let end = Instant::now() + Duration::from_secs(30);
        while Instant::now() < end {
            let page = fs::read_to_string(folder.join("web/a.html")).unwrap_or_default();
            if page.contains(words) && !folder.join("web/.obblet-journal").exists() {
                return true;
            }
            std::thread::sleep(Duration::from_millis(50));
        }
        false
    };
    let before = shows("Before");
    // The folder is watched from behind the first run on.
    std::thread::sleep(Duration::from_millis(500));
    fs::write(folder.join("texts/a.md"), "# Behind\n").unwrap();
    let behind = shows("Behind");
    run.kill().unwrap();
    run.wait().unwrap();
    assert!(before && behind, "{before} {behind}");
}

/// Killed while it makes changes: what the killed run wrote is no conflict for the next.
#[test]
fn a_run_that_was_killed_over_changes_is_completed_too() {
    let scratch = tempfile::tempdir().unwrap();
    let folder = scratch.path();
    write_texts(folder);
    assert_eq!(start(folder, "web").wait().unwrap().code(), Some(0));
    for round in 0..6_u32 {
        for number in (3..120).step_by(4) {
            let text = format!("# P{number} in round {round}\n");
            fs::write(folder.join(format!("texts/{}/p{number}.md", number % 7)), text).unwrap();
        }
        let mut run = start(folder, "web");
        std::thread::sleep(Duration::from_millis(u64::from(20 + 35 * round)));
        run.kill().unwrap();
        run.wait().unwrap();
    }
    assert_eq!(start(folder, "web").wait().unwrap().code(), Some(0), "something is in conflict");
    assert_eq!(start(folder, "fresh").wait().unwrap().code(), Some(0));
    assert!(
        files(&folder.join("web")) == files(&folder.join("fresh")),
        "it is not what a fresh run makes"
    );
}
