//! Anything as the settings of a folder, the record and the journal in its output folder, and two of its documents,
//! each behind a zero byte: no panic, no hang, nothing written outside, and nothing to do in a second run.

#![no_main]

use libfuzzer_sys::fuzz_target;
use obblet_publish::{JOURNAL_NAME, Plan, PublishOptions, RECORD_NAME, publish};
use std::fs;
use std::path::Path;

fuzz_target!(|bytes: &[u8]| {
    let Ok(scratch) = tempfile::tempdir() else { return };
    let (texts, web) = (scratch.path().join("texts"), scratch.path().join("web"));
    let mut parts = bytes.split(|byte| *byte == 0);
    let files = [
        texts.join("obblet.toml"),
        web.join(RECORD_NAME),
        web.join(JOURNAL_NAME),
        texts.join("a.md"),
        texts.join("tides/b.md"),
    ];
    for file in files {
        let part = parts.next().unwrap_or_default();
        if !part.is_empty() {
            fs::create_dir_all(file.parent().expect("a folder")).expect("a folder");
            fs::write(file, part).expect("a file");
        }
    }
    fs::write(scratch.path().join("beside"), "beside").expect("a file");
    if run(&texts, &web).is_none() {
        return;
    }
    let names = fs::read_dir(scratch.path()).expect("a folder").map(|entry| entry.expect("an entry").file_name());
    assert!(names.into_iter().all(|name| ["texts", "web", "beside"].contains(&&*name.to_string_lossy())));
    assert_eq!(fs::read(scratch.path().join("beside")).expect("it is there"), b"beside");
    assert!(run(&texts, &web).is_some(), "what was published can be published again");
});

fn run(texts: &Path, web: &Path) -> Option<()> {
    let options = PublishOptions::default();
    let plan = Plan::of(texts, web, &options).ok()?;
    publish(&plan, &options, &()).ok().map(|_| ())
}
