//! What a plan says of every file, and what a second run does.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod scene;

use obblet::Format;
use obblet_publish::{
    IGNORE_FILE, JOURNAL_NAME, OutcomeKind, Plan, PublishError, PublishOptions, State, publish,
};
use scene::{Scene, count, outcome};
use std::fs;
use std::path::Path;

/// `source state: why`, a line each.
fn lines(plan: &Plan) -> Vec<String> {
    let line = |entry: &obblet_publish::Entry| {
        format!("{} {}: {}", entry.source, entry.state.word(), entry.why)
    };
    plan.entries().iter().map(line).collect()
}

fn states(plan: &Plan) -> Vec<(&str, State)> {
    plan.entries().iter().map(|entry| (entry.source.as_str(), entry.state)).collect()
}

#[test]
fn every_file_has_a_state_and_a_reason() {
    let scene = Scene::new(&[
        ("a.md", "# A\n"),
        ("b.md", "# B\n\n[a](a.md)\n"),
        ("c.tex", "\\input{part}"),
        ("part.tex", "Part."),
        ("d.md", "# D\n"),
        ("e.md", "# E\n"),
        ("f.md", "# F\n"),
        ("p.png", "png"),
        (".hidden.md", ""),
        ("drafts/x.md", ""),
    ]);
    let options = PublishOptions { skip: vec!["drafts".into()], ..PublishOptions::default() };
    let plan = scene.plan(&options);
    assert_eq!(plan.count(State::New), 8);
    assert_eq!(lines(&plan)[0], ".hidden.md excluded: it is hidden");
    assert_eq!(lines(&plan)[5], "drafts excluded: a pattern of “skip” names it");
    scene.publish(&options);

    // Touched is not changed.
    scene.put("a.md", b"# A\n");
    scene.put("part.tex", b"Other part.");
    fs::rename(scene.source().join("d.md"), scene.source().join("d2.md")).unwrap();
    fs::remove_file(scene.source().join("e.md")).unwrap();
    fs::write(scene.output().join("f.html"), "by hand").unwrap();
    scene.put("p.png", b"other");
    let plan = scene.plan(&options);
    assert_eq!(
        lines(&plan),
        [
            ".hidden.md excluded: it is hidden",
            "a.md unchanged: it is as it was",
            "b.md unchanged: it is as it was",
            "c.tex changed: part.tex, which it includes, has changed",
            "d.md removed: its source is gone",
            "d2.md new: it was d.md before",
            "drafts excluded: a pattern of “skip” names it",
            "e.md removed: its source is gone",
            "f.md in conflict: the file in the output folder was changed since the last run",
            "p.png changed: its content has changed",
            "part.tex changed: its content has changed",
        ]
    );
    assert!(
        scene.plan(&PublishOptions { rebuild: true, ..options.clone() }).count(State::Changed) > 4
    );

    // A page that is gone is made again; what a link leads to is at another place.
    scene.publish(&options);
    fs::remove_file(scene.output().join("b.html")).unwrap();
    assert_eq!(states(&scene.plan(&options))[2], ("b.md", State::Changed));
    scene.publish(&options);
    scene.put("a.markdown", b"# Also A\n");
    let why = "b.md changed: what it links to, a.md, is at another place";
    assert!(
        lines(&scene.plan(&options)).iter().any(|line| line == why),
        "{:?}",
        lines(&scene.plan(&options))
    );
}

#[test]
fn removed_sources_keep_their_pages_until_one_asks_and_renamed_ones_lead_on() {
    let scene = Scene::new(&[
        ("a.md", "---\nformerly: [very/old.html, 'x.html']\n---\n# A\n"),
        ("gone.md", "# Gone\n"),
        ("old name.md", "# Renamed\n"),
    ]);
    let options = PublishOptions::default();
    scene.publish(&options);
    assert!(scene.page("very/old.html").contains("<a href=\"../a.html\">"));
    assert!(scene.page("x.html").contains("content=\"0; url=a.html\""));
    fs::remove_file(scene.source().join("gone.md")).unwrap();
    fs::create_dir(scene.source().join("in")).unwrap();
    fs::rename(scene.source().join("old name.md"), scene.source().join("in/new.md")).unwrap();
    let report = scene.publish(&options);
    assert_eq!(outcome(&report, "gone.md").kind, OutcomeKind::LeftBehind);
    assert!(scene.page("gone.html").contains("Gone"));
    assert!(scene.page("old name.html").contains("<a href=\"in/new.html\">in/new.html</a>"));
    assert!(!scene.page("index.html").contains("gone.html"));

    // Once more it is still known, and a page that moves on is followed.
    fs::rename(scene.source().join("in/new.md"), scene.source().join("third.md")).unwrap();
    let report = scene.publish(&PublishOptions { prune: true, ..options.clone() });
    assert_eq!(outcome(&report, "gone.md").kind, OutcomeKind::Removed);
    assert!(!scene.output().join("gone.html").exists());
    for old in ["old name.html", "in/new.html"] {
        assert!(scene.page(old).contains("third.html"), "{old}");
    }
    assert_eq!(scene.plan(&options).count(State::Removed), 0);
    // A source that takes an old place has it.
    scene.put("x.md", b"# X\n");
    scene.publish(&options);
    assert!(scene.page("x.html").contains("<h1 id=\"x\">"));
}

#[test]
fn a_run_with_nothing_to_do_writes_nothing_at_all() {
    let scene =
        Scene::new(&[("a.md", "# A\n\n![](w.svg)\n"), ("in/b.org", "* B\n"), ("w.svg", "<svg/>")]);
    let options = PublishOptions::default();
    scene.publish(&options);
    let times = || -> Vec<(String, std::time::SystemTime)> {
        let path = |name: &String| scene.output().join(name);
        let time =
            |name: String| (name.clone(), fs::metadata(path(&name)).unwrap().modified().unwrap());
        scene.written().into_keys().map(time).collect()
    };
    let before = times();
    let folder = fs::metadata(scene.output()).unwrap().modified().unwrap();
    let report = scene.publish(&options);
    assert_eq!(report.count(OutcomeKind::Unchanged), report.outcomes.len());
    assert_eq!(report.earlier_findings, [0, 0, 0, 1]);
    assert!(times() == before, "something was written");
    assert_eq!(fs::metadata(scene.output()).unwrap().modified().unwrap(), folder);
    // What a run makes of the others is looked after too.
    fs::remove_file(scene.output().join("in/index.html")).unwrap();
    assert_eq!(scene.publish(&options).count(OutcomeKind::Made), 1);
}

#[test]
fn two_runs_in_one_folder_do_not_meet() {
    let scene = Scene::new(&[("a.md", "# A\n")]);
    let options = PublishOptions::default();
    fs::create_dir(scene.output()).unwrap();
    let other = fs::File::create(scene.output().join(JOURNAL_NAME)).unwrap();
    other.lock().unwrap();
    let error = publish(&scene.plan(&options), &options, &()).unwrap_err();
    assert!(matches!(error, PublishError::Busy(_)), "{error}");
    drop(other);
    assert_eq!(scene.publish(&options).count(OutcomeKind::Converted), 1);
    assert!(!scene.output().join(JOURNAL_NAME).exists());
}

/// What a run that was killed wrote is known by its journal, though the record does not say so.
#[test]
fn what_a_killed_run_has_written_is_ours() {
    let scene = Scene::new(&[("a.md", "# One\n"), ("b.md", "# B\n")]);
    let options = PublishOptions::default();
    scene.publish(&options);
    let record = scene.written()[obblet_publish::RECORD_NAME].clone();
    scene.put("a.md", b"# Two\n");
    scene.publish(&options);
    // As if that run had been killed before its record was written.
    let hash = blake3_of(&scene.written()["a.html"]);
    fs::write(scene.output().join(obblet_publish::RECORD_NAME), record).unwrap();
    let journal = format!("{hash} a.html\n{hash} ../../etc/passwd\n{hash} c.html\n0123 cut off");
    fs::write(scene.output().join(JOURNAL_NAME), journal).unwrap();
    fs::write(scene.output().join(".obblet-part-c.html"), "half").unwrap();
    scene.put("a.md", b"# Three\n");
    assert_eq!(scene.plan(&options).count(State::InConflict), 0);
    let report = scene.publish(&options);
    assert_eq!(outcome(&report, "a.md").kind, OutcomeKind::Converted);
    assert!(scene.page("a.html").contains("Three"));
    assert!(!scene.output().join(".obblet-part-c.html").exists());
}

/// A run that was killed at its very end, over its record, leaves nothing that stays.
#[test]
fn a_run_that_was_killed_over_its_record_is_tidied_up() {
    let scene = Scene::new(&[("a.md", "# One\n")]);
    let options = PublishOptions::default();
    scene.publish(&options);
    let whole = scene.written();
    let half = format!(".obblet-part-{}", obblet_publish::RECORD_NAME);
    fs::write(scene.output().join(half), "half").unwrap();
    fs::write(scene.output().join(JOURNAL_NAME), "").unwrap();
    scene.publish(&options);
    assert!(scene.written() == whole, "{:?}", scene.written().keys());
}

fn blake3_of(bytes: &[u8]) -> String {
    blake3::hash(bytes).to_hex()[..32].to_string()
}

#[test]
fn patterns_formats_and_ignore_files_choose() {
    let files = [
        ("a.md", "# A\n"),
        ("b.org", "* B\n"),
        ("c.html", "<p>C"),
        ("x/d.md", "# D\n"),
        ("x/keep/e.md", "# E\n"),
        ("x/f.png", "png"),
    ];
    let published = |change: &dyn Fn(&Scene, &mut PublishOptions)| -> Vec<String> {
        let scene = Scene::new(&files);
        let mut options = PublishOptions::default();
        change(&scene, &mut options);
        let plan = scene.plan(&options);
        let open = plan.entries().iter().filter(|entry| entry.state == State::New);
        open.map(|entry| entry.target.clone()).collect()
    };
    type Change<'c> = &'c dyn Fn(&Scene, &mut PublishOptions);
    let cases: [(Change<'_>, &[&str]); 8] = [
        (&|_, _| {}, &["a.html", "b.html", "c.html", "x/d.html", "x/f.png", "x/keep/e.html"]),
        (&|_, o| o.only = vec!["*.md".into()], &["a.html", "x/d.html", "x/keep/e.html"]),
        (&|_, o| o.only = vec!["/x/**".into()], &["x/d.html", "x/f.png", "x/keep/e.html"]),
        (&|_, o| o.skip = vec!["x".into(), "*.html".into()], &["a.html", "b.html"]),
        (
            &|scene, _| scene.put(&format!("x/{IGNORE_FILE}"), b"# none of these\n*.md\n!e.md\n"),
            &["a.html", "b.html", "c.html", "x/f.png", "x/keep/e.html"],
        ),
        (
            &|scene, _| scene.put("x/obblet.toml", b"only = [\"*.png\"]\n"),
            &["a.html", "b.html", "c.html", "x/f.png"],
        ),
        (&|_, o| o.formats = Some(vec![Format::Org]), &["b.html", "c.html", "x/f.png"]),
        (
            &|_, o| {
                o.formats = Some(vec![Format::Html, Format::Markdown]);
                o.house.page.format = Format::Markdown;
            },
            &["a.md", "c.md", "x/d.md", "x/f.png", "x/keep/e.md"],
        ),
    ];
    for (number, (change, expected)) in cases.iter().enumerate() {
        assert_eq!(published(change), *expected, "case {number}");
    }
}

/// Any direction: pages to Markdown, everything to Word, with links between the files.
#[test]
fn folders_become_other_formats() {
    let scene = Scene::new(&[
        ("a.html", "<title>A</title><h1>A</h1><p>See <a href=\"in/b.org#x\">b</a>."),
        ("in/b.org", "* X\nSee [[file:../a.html][a]].\n"),
        ("c.md", "# C\n\n[a](a.html)\n"),
    ]);
    for (format, ending, link) in [
        (Format::Markdown, "md", "in/b.md#x"),
        (Format::Org, "org", "in/b.org"),
        (Format::Latex, "tex", "in/b.tex"),
    ] {
        let mut options = PublishOptions { overwrite: true, ..PublishOptions::default() };
        options.house.page.format = format;
        options.formats = Some(vec![Format::Html, Format::Org, Format::Markdown]);
        let report = scene.publish(&options);
        assert_eq!(report.count(OutcomeKind::Failed), 0, "{:?}", report.outcomes);
        let text = scene.page(&format!("a.{ending}"));
        assert!(text.contains(link), "{link} is not in\n{text}");
        assert!(scene.page(&format!("in/b.{ending}")).contains(&format!("../a.{ending}")));
        assert!(!scene.output().join("index.html").exists());
        assert_eq!(count(&scene.publish(&options), OutcomeKind::Unchanged), 3);
        fs::remove_dir_all(scene.output()).unwrap();
    }
    let mut options = PublishOptions::default();
    options.house.page.format = Format::Word;
    assert_eq!(scene.publish(&options).count(OutcomeKind::Failed), 0);
    assert!(scene.written()["c.docx"].starts_with(b"PK"));
}

/// Nothing outside the two folders is read or written, whatever names say.
#[test]
#[cfg(unix)]
fn nothing_escapes() {
    use std::os::unix::fs::symlink;
    let scene = Scene::new(&[
        ("a.md", "# A\n\n![s](../secret.png) [s](../secret.md) ![t](out/secret.png)\n"),
        ("b.org", "#+INCLUDE: \"../secret.md\"\n* B\n#+INCLUDE: \"out/secret.md\"\n"),
        ("c.tex", "\\input{../secret} \\input{out/secret}"),
        ("con.md", "# Device\n"),
        ("Aux.txt", "device"),
        ("x/a:b.md", "# Colon\n"),
        ("twin.md", "# Twin\n"),
        ("TWIN.md", "# Twin\n"),
        ("pic.PNG", "1"),
        ("pic.png", "2"),
        ("inside/e.md", "# E\n"),
    ]);
    let outside = scene.scratch.path();
    for name in ["secret.md", "secret.tex", "secret.png"] {
        fs::write(outside.join(name), "SECRET").unwrap();
    }
    symlink(outside, scene.source().join("out")).unwrap();
    symlink(outside.join("secret.md"), scene.source().join("s.md")).unwrap();
    symlink(outside.join("nowhere"), scene.source().join("n.md")).unwrap();
    symlink(scene.source(), scene.source().join("inside/round")).unwrap();
    symlink(scene.source().join("inside/e.md"), scene.source().join("e2.md")).unwrap();
    // The output folder has a link that leads out too.
    fs::create_dir(scene.output()).unwrap();
    fs::create_dir(outside.join("elsewhere")).unwrap();
    symlink(outside.join("elsewhere"), scene.output().join("x")).unwrap();

    let mut options = PublishOptions::default();
    options.house.set("pictures.placement", "embedded").unwrap();
    let report = scene.publish(&options);
    for (path, bytes) in scene.written() {
        assert!(!String::from_utf8_lossy(&bytes).contains("SECRET"), "{path}");
    }
    assert_eq!(fs::read_dir(outside.join("elsewhere")).unwrap().count(), 0);
    let reason = |source: &str| outcome(&report, source).reason.clone().unwrap_or_default();
    assert_eq!(reason("out"), "it is a symbolic link that leads out of the folder");
    assert_eq!(reason("s.md"), "it is a symbolic link that leads out of the folder");
    assert_eq!(reason("n.md"), "it is a symbolic link that leads nowhere");
    assert_eq!(reason("inside/round"), "it is a symbolic link to a folder that holds it");
    assert!(reason("x/a:b.md").contains("out of the output folder"), "{}", reason("x/a:b.md"));
    assert_eq!(outcome(&report, "e2.md").kind, OutcomeKind::Converted);
    let targets: Vec<(&str, &str)> = report
        .outcomes
        .iter()
        .filter(|outcome| !outcome.notes.is_empty())
        .map(|outcome| (outcome.source.as_str(), outcome.target.as_str()))
        .collect();
    let expected = [
        ("Aux.txt", "Aux_.html"),
        ("con.md", "con_.html"),
        ("pic.png", "pic_.png"),
        ("twin.md", "twin.md.html"),
        ("x/a:b.md", "x/a_b.html"),
    ];
    assert_eq!(targets, expected);
}

/// A source that goes away or changes after the plan was made.
#[test]
fn sources_may_go_and_change_meanwhile() {
    let scene = Scene::new(&[("a.md", "# A\n"), ("b.md", "# B\n"), ("c.png", "c")]);
    let options = PublishOptions::default();
    let plan = scene.plan(&options);
    fs::remove_file(scene.source().join("a.md")).unwrap();
    fs::remove_file(scene.source().join("c.png")).unwrap();
    scene.put("b.md", b"# B anew\n");
    let report = publish(&plan, &options, &()).unwrap();
    for source in ["a.md", "c.png"] {
        let outcome = outcome(&report, source);
        assert_eq!(outcome.kind, OutcomeKind::Failed);
        assert!(outcome.reason.as_deref().unwrap().starts_with("it cannot be read"));
    }
    assert!(scene.page("b.html").contains("B anew"));
    // The record knows what was really read.
    assert_eq!(states(&scene.plan(&options)), [("b.md", State::Unchanged)]);
}

/// Somebody who stops a run finds whole pages and goes on later.
#[test]
fn a_stopped_run_leaves_a_whole_state() {
    struct Stopper(std::sync::atomic::AtomicUsize);
    impl obblet_publish::Watcher for Stopper {
        fn begins(&self, _: usize) {}
        fn step(&self, _: &str) {
            self.0.fetch_add(1, std::sync::atomic::Ordering::SeqCst);
        }
        fn is_stopped(&self) -> bool {
            self.0.load(std::sync::atomic::Ordering::SeqCst) > 30
        }
    }
    let text = "Tides turn wheels. ".repeat(3000);
    let files: Vec<(String, String)> =
        (0..60).map(|n| (format!("p{n:02}.md"), format!("# P{n}\n\n{text}"))).collect();
    let files: Vec<(&str, &str)> = files.iter().map(|(n, t)| (n.as_str(), t.as_str())).collect();
    let scene = Scene::new(&files);
    let options = PublishOptions { jobs: std::num::NonZero::new(1), ..PublishOptions::default() };
    let report = publish(&scene.plan(&options), &options, &Stopper(Default::default())).unwrap();
    assert!(report.stopped);
    for (path, bytes) in scene.written().iter().filter(|(path, _)| path.ends_with(".html")) {
        assert!(bytes.ends_with(b"</html>\n"), "{path} is half a page");
    }
    let report = scene.publish(&options);
    assert!(!report.stopped && report.count(OutcomeKind::Failed) == 0);
    let whole = Scene::new(&files);
    whole.publish(&options);
    assert!(whole.written() == scene.written(), "a run that was stopped and gone on is another");
    assert!(Path::new(&scene.output()).join("p59.html").exists());
}
