//! `obblet check` on the faults that are planted in the demo's drafts, on files without any, and its
//! outputs.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod demo_folder;

use assert_cmd::Command;
use demo_folder::{copy, copy_docs, root};
use serde_json::Value;
use std::collections::BTreeSet;
use std::fs;
use std::path::Path;
use tempfile::TempDir;

fn run(folder: &Path, arguments: &[&str]) -> (i32, String, String) {
    let output =
        Command::cargo_bin("obblet").unwrap().current_dir(folder).args(arguments).output().unwrap();
    let text = |bytes: Vec<u8>| String::from_utf8(bytes).unwrap();
    (output.status.code().unwrap(), text(output.stdout), text(output.stderr))
}

fn demo() -> TempDir {
    let folder = tempfile::tempdir().unwrap();
    copy(&root().join("crates/obblet-cli/demo"), folder.path());
    folder
}

/// `file:line:column severity code` of each finding.
fn found(folder: &Path, arguments: &[&str]) -> Vec<String> {
    let arguments = [&["check"], arguments, &["--json"]].concat();
    let (_, out, talk) = run(folder, &arguments);
    let report: Value = serde_json::from_str(&out).unwrap_or_else(|_| panic!("{talk}"));
    let mut lines = Vec::new();
    for file in report["files"].as_array().unwrap() {
        assert_eq!(file.get("error"), None, "{file}");
        for finding in file["findings"].as_array().unwrap() {
            let place = match finding["line"].as_u64() {
                Some(line) => format!("{line}:{}", finding["column"]),
                None => "-".into(),
            };
            let text = |key: &str| finding[key].as_str().unwrap();
            lines.push(format!(
                "{}:{place} {} {}",
                file["file"].as_str().unwrap(),
                text("severity"),
                text("code")
            ));
        }
    }
    lines
}

/// What repair passes find: --fix leaves none of it.
const MENDABLE: [&str; 16] = [
    "address-tracked",
    "breaks-typed",
    "characters-invisible",
    "formatting-empty",
    "heading-level-jump",
    "heading-typed",
    "leaders-typed",
    "ligatures-typed",
    "list-typed",
    "paragraph-empty",
    "quotes-unlike",
    "scene-break-typed",
    "space-before-punctuation",
    "spaces-doubled",
    "table-for-layout",
    "table-typed",
];

#[test]
fn every_planted_fault_is_found_and_mended_where_a_pass_can() {
    let folder = demo();
    let list = fs::read_to_string(root().join("crates/obblet-cli/tests/faults.txt")).unwrap();
    let planted: Vec<String> = list
        .lines()
        .filter(|line| !line.starts_with('#'))
        .map(|line| format!("drafts/{line}"))
        .collect();
    let codes: BTreeSet<&str> = planted.iter().filter_map(|line| line.rsplit(' ').next()).collect();
    assert!(planted.len() >= 60 && codes.len() >= 50, "{} {}", planted.len(), codes.len());
    assert_eq!(found(folder.path(), &["drafts"]), planted);

    let (code, _, talk) = run(folder.path(), &["check", "drafts", "--fix"]);
    assert_eq!(code, 1);
    assert!(talk.contains("drafts/wheel.tex: not mended: LaTeX is mended by hand"), "{talk}");
    for name in ["old-page.html", "rota.org", "tide-walk.md"] {
        let backup = fs::read(folder.path().join(format!("drafts/{name}.bak"))).unwrap();
        assert!(
            backup == fs::read(root().join("crates/obblet-cli/demo/drafts").join(name)).unwrap(),
            "{name}"
        );
    }
    let left = found(folder.path(), &["drafts"]);
    let is_mendable = |line: &&String| {
        let code = line.rsplit(' ').next().unwrap_or_default();
        MENDABLE.contains(&code) && !line.contains(".tex:")
    };
    let mendable: Vec<&String> = left.iter().filter(is_mendable).collect();
    assert!(mendable.is_empty(), "{mendable:?}");
    // A page is written anew, and what its picture shows is still to be said.
    let is_undescribed =
        |line: &String| line.contains("old-page.html:") && line.ends_with("attribute-missing");
    assert!(left.iter().any(is_undescribed), "{left:?}");
    // Nothing that needs a person has gone from the texts.
    let of_persons = |lines: &[String]| -> Vec<String> {
        let of_texts = lines.iter().filter(|line| !line.contains(".html:"));
        let mut codes: Vec<String> = of_texts
            .filter(|line| !is_mendable(line))
            .map(|line| {
                let (place, rest) = line.split_once(' ').unwrap();
                format!("{} {rest}", place.split(':').next().unwrap())
            })
            .collect();
        codes.sort();
        codes
    };
    // An empty heading is an empty paragraph to the passes.
    let before: Vec<String> =
        of_persons(&planted).into_iter().filter(|line| !line.ends_with("heading-empty")).collect();
    assert_eq!(of_persons(&left), before);
}

#[test]
fn clean_files_give_no_alarm() {
    let folder = demo();
    copy_docs(&folder.path().join("docs"));
    fs::remove_dir_all(folder.path().join("docs/screenshots")).unwrap();
    let outer = tempfile::tempdir().unwrap();
    let source = folder.path().display().to_string();
    assert_eq!(run(outer.path(), &["publish", &source, "web", "--split", "2"]).0, 0);
    let mut checked = 0;
    for (output, format) in [("markdown", "markdown"), ("org", "org"), ("latex", "latex")] {
        let arguments = ["publish", "web", output, "--write-as", format, "--formats", "html"];
        assert_eq!(run(outer.path(), &arguments).0, 0, "{format}");
    }
    for output in ["web", "markdown", "org", "latex"] {
        let (code, out, _) = run(outer.path(), &["check", output, "--json"]);
        let report: Value = serde_json::from_str(&out).unwrap();
        checked += report["files"].as_array().unwrap().len();
        let lines = found(outer.path(), &[output]);
        let alarms: Vec<&String> =
            lines.iter().filter(|line| !line.contains(" advice ") && !is_true(line)).collect();
        assert!(alarms.is_empty(), "{alarms:#?}");
        assert!(code < 2, "{output}");
    }
    assert!(checked >= 200, "{checked}");
}

/// What is truly so: on its way to Org a line of a formula has lost the label that a link names.
fn is_true(line: &str) -> bool {
    line.starts_with("org/research/") && line.ends_with("error reference-missing")
}

#[test]
fn findings_go_to_json_and_sarif_and_are_explained() {
    let folder = tempfile::tempdir().unwrap();
    fs::write(folder.path().join("a b#1.md"), "# A\n\n[here](b.md)\n").unwrap();
    let (code, out, _) = run(folder.path(), &["check", "a b#1.md", "--sarif", "a.sarif"]);
    assert_eq!(code, 1);
    assert!(out.contains("a b#1.md:3:8: error: the link or picture leads to no file"), "{out}");
    assert!(out.ends_with("1 file: 1 error, 1 warning\n"), "{out}");
    let sarif: Value =
        serde_json::from_slice(&fs::read(folder.path().join("a.sarif")).unwrap()).unwrap();
    let result = &sarif["runs"][0]["results"][1];
    let place = &result["locations"][0]["physicalLocation"];
    assert_eq!(sarif["version"], "2.1.0");
    assert_eq!((&result["ruleId"], &result["level"]), (&"link-broken".into(), &"error".into()));
    assert_eq!(place["artifactLocation"]["uri"], "a%20b%231.md");
    assert_eq!(
        (&place["region"]["startLine"], &place["region"]["startColumn"]),
        (&3.into(), &8.into())
    );
    let rules = sarif["runs"][0]["tool"]["driver"]["rules"].as_array().unwrap();
    assert_eq!(rules.len(), 2);

    let cases: [(&[&str], i32, &str); 8] = [
        (&["check", "a b#1.md", "--only", "access"], 0, "1 file: nothing found"),
        (&["check", "a b#1.md", "--least", "error"], 1, "1 file: 1 error\n"),
        (&["check", "a b#1.md", "--ignore", "link-broken"], 0, "1 file: 1 warning\n"),
        (&["check", "--explain", "link-text-vague"], 0, "What to do: Make the words"),
        (&["check", "--explain", "link-vague"], 2, ""),
        (&["check", "none.md"], 3, ""),
        (&["check"], 2, ""),
        (&["check", ".", "--only", "tides"], 2, ""),
    ];
    for (arguments, code, words) in cases {
        let (found, out, talk) = run(folder.path(), arguments);
        assert_eq!(found, code, "{arguments:?} {talk}");
        assert!(out.contains(words), "{arguments:?} {out}");
    }
    let (_, _, talk) = run(folder.path(), &["check", "--explain", "link-vague"]);
    assert!(talk.contains("did you mean link-text-vague?"), "{talk}");
}

/// Straight quotation marks are a fault where a folder's house wants others, and mended there alone.
#[test]
fn what_is_mended_in_a_folder_is_by_its_own_house() {
    let folder = tempfile::tempdir().unwrap();
    let text = "# A\n\nShe said \"gates\".\n";
    for name in ["plain", "curly"] {
        fs::create_dir(folder.path().join(name)).unwrap();
        fs::write(folder.path().join(name).join("a.md"), text).unwrap();
    }
    let house = "like = \"page\"\n[characters]\npunctuation = \"typographic\"\n";
    fs::write(folder.path().join("curly/own.toml"), house).unwrap();
    fs::write(folder.path().join("curly/obblet.toml"), "house = \"own.toml\"\n").unwrap();
    let (_, _, talk) = run(folder.path(), &["check", ".", "--fix"]);
    let read = |name: &str| fs::read_to_string(folder.path().join(name)).unwrap();
    assert_eq!(read("curly/a.md"), "# A\n\nShe said “gates”.\n", "{talk}");
    assert_eq!(read("plain/a.md"), text, "{talk}");
}

/// The page of all codes is what the command prints.
#[test]
fn the_page_of_findings_is_current() {
    let (_, out, _) = run(&root(), &["check", "--explain", "all"]);
    let page = fs::read_to_string(root().join("docs/findings.md")).unwrap_or_default();
    assert!(page == out, "run: obblet check --explain all > docs/findings.md");
}

/// A file that cannot be read or is not what it seems does not keep the others from being checked.
#[test]
fn one_bad_file_never_stops_the_rest() {
    let folder = tempfile::tempdir().unwrap();
    fs::write(folder.path().join("a.docx"), "no such thing").unwrap();
    fs::write(folder.path().join("b.md"), "# B\n").unwrap();
    let (code, out, _) = run(folder.path(), &["check", "."]);
    assert_eq!(code, 3, "{out}");
    assert!(out.contains("a.docx: not checked: "), "{out}");
    assert!(out.contains("1 file checked, 1 not: nothing found"), "{out}");
    // Nor does one that is named and not there; links of one address each have their own place.
    fs::write(folder.path().join("b.md"), "# B\n\n[one](x.md) and [two](x.md)\n").unwrap();
    let (code, out, _) = run(folder.path(), &["check", "none.md", "b.md"]);
    assert_eq!(code, 3, "{out}");
    assert!(out.contains("none.md: not checked: "), "{out}");
    assert!(out.contains("b.md:3:7: error") && out.contains("b.md:3:23: error"), "{out}");
}
