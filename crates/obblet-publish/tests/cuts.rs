//! Power cuts: a run that ended in the middle, with files that reached the disk in part or not at all. The
//! next run makes the folder what an undisturbed one would have made.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod scene;

use obblet_publish::PublishOptions;
use scene::Scene;
use std::collections::{BTreeMap, BTreeSet};
use std::fs;

const CUTS: usize = 50;
const RECORD: &str = ".obblet-record.json";
const JOURNAL: &str = ".obblet-journal";

fn write_texts(scene: &Scene, edition: &str) {
    for number in 0..24 {
        let text = format!(
            "---\nkeywords: [k{}]\n---\n# P{number}\n\n[on](p{}.md) {}\n",
            number % 3,
            (number + 1) % 24,
            format!("The tide of {edition} turns the wheel. ").repeat(number * 30)
        );
        scene.put(&format!("p{number}.md"), text.as_bytes());
    }
    scene.put("w.svg", format!("<svg><text>{edition}</text></svg>").as_bytes());
}

/// What an undisturbed run makes, but for its journal and record.
fn undisturbed(editions: &[&str]) -> (BTreeMap<String, Vec<u8>>, BTreeMap<String, Vec<u8>>) {
    let scene = Scene::new(&[]);
    let mut before = BTreeMap::new();
    fs::create_dir_all(scene.output()).unwrap();
    for edition in editions {
        before = scene.written();
        write_texts(&scene, edition);
        scene.publish(&PublishOptions::default());
    }
    (before, scene.written())
}

/// What may be on the disk of a file that was written just before the cut.
fn damaged(bytes: &[u8], way: usize) -> Vec<u8> {
    let half = bytes.len() / 2;
    match way % 5 {
        0 => Vec::new(),
        1 => bytes[..half].to_vec(),
        2 => [&bytes[..half], &vec![0; bytes.len() - half]].concat(),
        3 => vec![0; bytes.len()],
        _ => bytes.to_vec(),
    }
}

/// The journal of such a run: whole, cut off in a line, without its last lines, or empty.
fn journal(lines: &[String], way: usize) -> String {
    let whole = lines.concat();
    match way % 4 {
        0 => whole,
        1 => whole[..whole.len().saturating_sub(20)].to_string(),
        2 => lines[..lines.len() / 2].concat(),
        _ => String::new(),
    }
}

/// The names of files that are not the same in two folders.
fn differing<'f>(
    one: &'f BTreeMap<String, Vec<u8>>,
    other: &'f BTreeMap<String, Vec<u8>>,
) -> BTreeSet<&'f String> {
    let names = one.keys().chain(other.keys());
    names.filter(|name| one.get(*name) != other.get(*name)).collect()
}

/// What a folder becomes from one edition to the next is what it becomes at once.
#[test]
fn step_by_step_is_the_same_as_at_once() {
    let by_steps = undisturbed(&["the spring", "the neap"]).1;
    let at_once = undisturbed(&["the neap"]).1;
    let other = differing(&by_steps, &at_once);
    assert!(other.is_empty(), "{other:?}");
}

#[test]
fn fifty_cuts_leave_nothing_behind() {
    for (editions, cuts) in [(&["the spring"][..], 10), (&["the spring", "the neap"], CUTS)] {
        let (before, expected) = undisturbed(editions);
        let names: Vec<&String> = expected.keys().filter(|name| *name != RECORD).collect();
        assert!(names.len() > 25, "{names:?}");
        for cut in 0..cuts {
            let scene = Scene::new(&[]);
            write_texts(&scene, editions[editions.len() - 1]);
            fs::create_dir_all(scene.output()).unwrap();
            let put = |name: &str, bytes: &[u8]| {
                let path = scene.output().join(name);
                fs::create_dir_all(path.parent().unwrap()).unwrap();
                fs::write(path, bytes).unwrap();
            };
            before.iter().for_each(|(name, bytes)| put(name, bytes));
            // So many files were written; the last ones are on the disk in part.
            let written = 1 + (names.len() - 1) * cut / cuts;
            let mut lines = Vec::new();
            for (at, name) in names.iter().take(written).enumerate() {
                let bytes = &expected[*name];
                let is_synced = at + 6 < written;
                put(name, &damaged(bytes, if is_synced { 4 } else { cut + at }));
                lines.push(format!("{} {name}\n", blake3::hash(bytes).to_hex()));
            }
            put(JOURNAL, journal(&lines, cut).as_bytes());
            if cut % 3 == 0 {
                put(&format!(".obblet-part-{RECORD}"), b"{\"version\":");
                let (folder, name) =
                    names[written - 1].rsplit_once('/').unwrap_or(("", names[written - 1]));
                put(format!("{folder}/.obblet-part-{name}").trim_start_matches('/'), b"<!DOC");
            }
            let report = scene.publish(&PublishOptions::default());
            let now = scene.written();
            let other = differing(&now, &expected);
            assert!(other.is_empty(), "cut {cut} of {editions:?}: {other:?} {report:?}");
        }
    }
}

/// What somebody else has written is not taken for what a cut left.
#[test]
fn a_cut_is_no_reason_to_write_over_other_files() {
    let scene = Scene::new(&[("a.md", "# A\n"), ("b.md", "# B\n")]);
    fs::create_dir_all(scene.output()).unwrap();
    fs::write(scene.output().join(JOURNAL), "").unwrap();
    fs::write(scene.output().join("a.html"), "<p>Mine.</p>\n").unwrap();
    scene.publish(&PublishOptions::default());
    assert_eq!(scene.page("a.html"), "<p>Mine.</p>\n");
    assert!(scene.page("b.html").contains("<h1 id=\"b\">B</h1>"));
}
