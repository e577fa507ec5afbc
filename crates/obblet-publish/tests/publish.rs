//! Publishing real folders.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod scene;

use obblet_publish::{OutcomeKind, Plan, PlanError, PublishOptions, publish};
use scene::{Scene, codes, count, of_sources, outcome};
use std::fs;
use std::path::Path;

#[test]
fn drawings_are_copied_without_what_could_run() {
    let plain = "<svg xmlns=\"http://www.w3.org/2000/svg\"><path d=\"M0 0h9\" /></svg>\n";
    let scripted = plain.replace("<path", "<script>ebb()</script><path onclick=\"ebb()\"");
    let scene = Scene::new(&[
        ("plain.svg", plain),
        ("scripted.SVG", &scripted),
        ("broken.svg", "<svg xmlns='http://www.w3.org/2000/svg'><p>"),
        ("packed.svgz", "\u{1f}\u{8b}"),
    ]);
    let report = scene.publish(&PublishOptions::default());
    assert_eq!(scene.page("plain.svg"), plain, "as it is, byte for byte");
    assert!(!scene.page("scripted.SVG").contains("ebb"));
    assert_eq!(codes(outcome(&report, "scripted.SVG")), ["picture-cleaned"]);
    for refused in ["broken.svg", "packed.svgz"] {
        assert_eq!(codes(outcome(&report, refused)), ["picture-refused"]);
        assert_eq!(outcome(&report, refused).kind, OutcomeKind::Skipped);
        assert!(!scene.output().join(refused).exists());
    }
    // Whoever trusts the folder gets what stands there.
    let trusted = Scene::new(&[("scripted.svg", &scripted)]);
    let mut options = PublishOptions::default();
    options.house.safety.trust_sources = true;
    trusted.publish(&options);
    assert_eq!(trusted.page("scripted.svg"), scripted);
}

#[test]
fn links_lead_from_page_to_page_and_broken_ones_are_named() {
    let scene = Scene::new(&[
        (
            "guide.md",
            "# Guide\n\n[tides](tables/high%20water.md#june) [self](#guide) [gone](gone.md)\n\
             [place](tables/high%20water.md#july) [web](https://mill.example/a.md) [folder](tables)\n\
             ![](p/wheel.svg)\n\n<p><a href='tables/high water.md#june'>raw</a> <a href=gone.md>x</a></p>\n",
        ),
        ("tables/high water.md", "# June\n\n[back](../guide.md) [out](../../secret.md)\n"),
        ("p/wheel.svg", "<svg/>"),
    ]);
    let report = scene.publish(&PublishOptions::default());
    let guide = scene.page("guide.html");
    for expected in [
        "<a href=\"tables/high%20water.html#june\">",
        "<a href=\"#guide\">",
        "<a href=\"gone.md\">",
        "<a href=\"https://mill.example/a.md\">",
        "<img src=\"p/wheel.svg\"",
        "<a href=\"index.html\">Mill texts</a>",
        "<a href=\"tables/high%20water.html#june\">raw</a>",
    ] {
        assert!(guide.contains(expected), "{expected} is not in\n{guide}");
    }
    assert!(scene.page("tables/high water.html").contains("<a href=\"../guide.html\">"));
    assert_eq!(
        codes(outcome(&report, "guide.md")),
        ["link-broken", "alternative-missing", "anchor-broken", "link-broken"]
    );
    let broken = &outcome(&report, "guide.md").findings[0];
    assert_eq!(broken.position.map(|position| position.line), Some(3));
    assert_eq!(codes(outcome(&report, "tables/high water.md")), ["link-broken"]);
    assert!(scene.page("index.html").contains("<a href=\"tables/high%20water.html\">June</a>"));
}

#[test]
fn one_bad_file_never_stops_the_rest() {
    let scene = Scene::new(&[("good.md", "# Good\n"), ("empty.md", ""), ("bad.docx", "no ZIP")]);
    scene.put("cut.docx", b"PK\x03\x04cut");
    scene.put("empty.docx", b"");
    scene.put("latin.md", b"M\xFChle und Flut, gro\xDFe Tide");
    scene.put("log.org", b"* Log");
    let report = scene.publish(&PublishOptions::default());
    let kinds: Vec<(&str, OutcomeKind)> =
        of_sources(&report).map(|o| (o.source.as_str(), o.kind)).collect();
    use OutcomeKind::{Converted, Failed};
    let expected = [
        ("bad.docx", Failed),
        ("cut.docx", Failed),
        ("empty.docx", Failed),
        ("empty.md", Converted),
        ("good.md", Converted),
        ("latin.md", Converted),
        ("log.org", Converted),
    ];
    assert_eq!(kinds, expected);
    assert!(outcome(&report, "bad.docx").reason.as_deref().unwrap().contains("not a ZIP archive"));
    assert_eq!(codes(outcome(&report, "empty.md")), ["source-empty"]);
    assert!(codes(outcome(&report, "log.org")).is_empty());
    assert!(scene.page("latin.html").contains("Mühle und Flut, große Tide"));
}

/// A file of Org may say what its page is called; links follow.
#[test]
fn a_file_may_name_its_page() {
    let scene = Scene::new(&[
        ("a.md", "[log](work/log.org#here) [up](work/up.org)"),
        ("work/log.org", "#+export_file_name: diary.html\n* Here\n[[file:../a.md]]"),
        ("work/up.org", "#+EXPORT_FILE_NAME: ../../up\n* Up"),
        ("work/same.org", "#+EXPORT_FILE_NAME: diary\n* Same"),
    ]);
    scene.publish(&PublishOptions::default());
    let page = scene.page("a.html");
    assert!(page.contains("href=\"work/diary.html#here\""), "{page}");
    assert!(page.contains("href=\"work/up.html\""), "{page}");
    assert!(scene.page("work/diary.html").contains("href=\"../a.html\""));
    assert!(scene.page("work/same.org.html").contains("Same"));
}

#[test]
fn one_worker_and_many_write_the_same_bytes() {
    let text = |n: usize| {
        format!("# Page {n}\n\n[next](p{}.md#page-{})\n\n| a | b |\n|---|---|\n", n + 1, n + 1)
    };
    let files: Vec<(String, String)> = (0..40).map(|n| (format!("p{n}.md"), text(n))).collect();
    let files: Vec<(&str, &str)> = files.iter().map(|(p, t)| (p.as_str(), t.as_str())).collect();
    let written = [1, 4].map(|jobs| {
        let scene = Scene::new(&files);
        let options = PublishOptions { jobs: std::num::NonZero::new(jobs), ..Default::default() };
        let report = scene.publish(&options);
        let lines: Vec<(String, Vec<&'static str>)> =
            report.outcomes.iter().map(|o| (o.source.clone(), codes(o))).collect();
        (lines, scene.written())
    });
    // Not by the operator for equality, which would print all bytes.
    assert!(written[0] == written[1], "one worker and four write different things");
}

#[test]
fn a_second_run_changes_nothing_and_hands_off_what_was_changed_by_hand() {
    let scene = Scene::new(&[("a.md", "# A\n"), ("b.md", "# B\n")]);
    let options = PublishOptions::default();
    scene.publish(&options);
    let before = scene.written();
    assert_eq!(count(&scene.publish(&options), OutcomeKind::Unchanged), 2);
    assert!(scene.written() == before, "the second run has written something");

    // Ours and changed in the source: written anew. Changed by hand: left alone.
    scene.put("a.md", b"# A again\n");
    scene.put("b.md", b"# B again\n");
    fs::write(scene.output().join("b.html"), "by hand").unwrap();
    let report = scene.publish(&options);
    assert_eq!(outcome(&report, "a.md").kind, OutcomeKind::Converted);
    assert_eq!(outcome(&report, "b.md").kind, OutcomeKind::InConflict);
    assert_eq!(scene.page("b.html"), "by hand");

    // Asked to, it is replaced, and what was there is kept beside it.
    let overwrite = PublishOptions { overwrite: true, ..Default::default() };
    assert_eq!(outcome(&scene.publish(&overwrite), "b.md").kind, OutcomeKind::Converted);
    assert!(scene.page("b.html").contains("B again"));
    assert_eq!(scene.page("b.html.bak"), "by hand");
}

#[test]
fn files_that_come_from_elsewhere_are_left_alone() {
    let scene = Scene::new(&[("a.md", "# A\n")]);
    fs::create_dir(scene.output()).unwrap();
    fs::write(scene.output().join("index.html"), "the old site").unwrap();
    let report = scene.publish(&PublishOptions::default());
    assert_eq!(report.count(OutcomeKind::InConflict), 1);
    assert_eq!(scene.page("index.html"), "the old site");
}

#[test]
fn two_sources_of_one_name_get_two_pages_with_links_to_each() {
    let scene = Scene::new(&[
        ("a.md", "# One\n\n[two](a.markdown) [three](A.mkd)\n"),
        ("a.markdown", "# Two\n"),
        ("A.mkd", "# Three\n"),
        ("index.md", "# My own index\n"),
    ]);
    scene.publish(&PublishOptions::default());
    let all = scene.written();
    let pages: Vec<&str> =
        all.keys().map(String::as_str).filter(|name| name.ends_with(".html")).collect();
    assert_eq!(pages, ["404.html", "A.html", "a.markdown.html", "a.md.html", "index.html"]);
    let one = scene.page("a.md.html");
    assert!(one.contains("href=\"a.markdown.html\"") && one.contains("href=\"A.html\""), "{one}");
    assert!(scene.page("index.html").contains("My own index"));
}

#[test]
fn hidden_files_stay_out_and_links_are_not_followed() {
    let scene =
        Scene::new(&[("a.md", "[s](s.md)\n"), (".git/x.md", "# x\n"), (".draft.md", "# y\n")]);
    let secret = scene.scratch.path().join("secret.md");
    fs::write(&secret, "# Secret\n").unwrap();
    #[cfg(unix)]
    std::os::unix::fs::symlink(&secret, scene.source().join("s.md")).unwrap();
    let report = scene.publish(&PublishOptions::default());
    if cfg!(unix) {
        assert_eq!(outcome(&report, "s.md").kind, OutcomeKind::Skipped);
    }
    assert!(
        !scene.written().values().any(|bytes| String::from_utf8_lossy(bytes).contains("Secret"))
    );
    for hidden in [".git", ".draft.md"] {
        assert_eq!(outcome(&report, hidden).reason.as_deref(), Some("it is hidden"));
    }
}

#[test]
fn folders_that_cannot_be_are_named_before_anything_is_written() {
    let scene = Scene::new(&[("a.md", "# A\n")]);
    let options = PublishOptions::default();
    let source = scene.source();
    let file = source.join("a.md");
    let inside = source.join("x/../web");
    let cases: [(&Path, &Path, &str); 5] = [
        (&source, &inside, "lies inside the source folder"),
        (&source, &source, "lies inside the source folder"),
        (&file, &scene.output(), "is no folder"),
        (&scene.output(), &scene.output(), "cannot be read"),
        (&source, Path::new(env!("CARGO_MANIFEST_PATH")), "is a file"),
    ];
    for (from, to, expected) in cases {
        let error: PlanError = Plan::of(from, to, &options).unwrap_err();
        assert!(error.to_string().contains(expected), "{error}");
    }
    assert!(!scene.output().exists() && fs::read_dir(&source).unwrap().count() == 1);
}

/// The demo: everything converts, and every page says its own title.
#[test]
fn the_demo_publishes_without_a_broken_link() {
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../obblet-cli/demo");
    let output = tempfile::tempdir().unwrap();
    let options = PublishOptions::default();
    let plan = Plan::of(&demo, &output.path().join("web"), &options).unwrap();
    let report = publish(&plan, &options, &()).unwrap();
    assert_eq!(report.count(OutcomeKind::Failed), 0);
    assert_eq!(report.count(OutcomeKind::Converted), 8);
    for outcome in &report.outcomes {
        assert!(
            !codes(outcome)
                .iter()
                .any(|code| code.ends_with("broken") || code.ends_with("missing")),
            "{}: {:?}",
            outcome.source,
            codes(outcome)
        );
    }
    let handbook = fs::read_to_string(output.path().join("web/volunteers/handbook.html")).unwrap();
    for expected in [
        "<ol start=\"4\">\n<li>Open the shutters",
        "<td rowspan=\"2\">Ada Weir</td>",
        "<td colspan=\"3\"",
        "<li id=\"note-2\">The rail is on the left",
        "<img src=\"handbook-pictures/drawing-of-the-stair-nine-steps-a-rail.png\" alt=\"Drawing of the stair",
        "<a href=\"../high-water.html\">",
    ] {
        assert!(handbook.contains(expected), "{expected}");
    }
}

/// Every link that a page gets leads, from where the page is, to a file that is there.
#[test]
fn links_resolve_from_every_folder_to_every_other() {
    let folders = ["", "a/", "a/b/", "a/b c/", "d/"];
    let names: Vec<String> = folders.iter().map(|folder| format!("{folder}page.md")).collect();
    let depth = |name: &str| name.matches('/').count();
    let text = |from: &str| -> String {
        let up = "../".repeat(depth(from));
        names.iter().map(|to| format!("[x](<{up}{to}#page>)\n")).collect()
    };
    let files: Vec<(String, String)> =
        names.iter().map(|name| (name.clone(), format!("# Page\n\n{}", text(name)))).collect();
    let files: Vec<(&str, &str)> = files.iter().map(|(n, t)| (n.as_str(), t.as_str())).collect();
    let scene = Scene::new(&files);
    let report = scene.publish(&PublishOptions::default());
    let mut links = 0;
    for outcome in &report.outcomes {
        assert!(codes(outcome).is_empty(), "{}: {:?}", outcome.source, codes(outcome));
        let page = scene.page(&outcome.target);
        let folder = scene.output().join(&outcome.target);
        for address in page.split("href=\"").skip(1).filter_map(|rest| rest.split('"').next()) {
            let Some(path) = address.split('#').next().filter(|path| !path.is_empty()) else {
                continue;
            };
            let file = folder.parent().unwrap().join(path.replace("%20", " "));
            assert!(file.is_file(), "{}: {address}", outcome.target);
            links += 1;
        }
    }
    // From each page to each page, and more from and to indexes and neighbours.
    assert!(links > 5 * 5 + 5 + 5, "{links}");
}

/// A picture that several documents carry is written once, beside the first of them.
#[test]
fn pictures_of_word_files_go_beside_their_pages_once() {
    let scene = Scene::new(&[("a.md", "# A\n")]);
    let demo =
        Path::new(env!("CARGO_MANIFEST_DIR")).join("../obblet-cli/demo/volunteers/handbook.docx");
    let handbook = fs::read(demo).unwrap();
    scene.put("one/handbook.docx", &handbook);
    scene.put("two/handbook.docx", &handbook);
    let report = scene.publish(&PublishOptions::default());
    assert_eq!(report.count(OutcomeKind::Failed), 0);
    assert!(
        scene
            .written()
            .contains_key("one/handbook-pictures/drawing-of-the-stair-nine-steps-a-rail.png")
    );
    assert!(
        !scene
            .written()
            .contains_key("two/handbook-pictures/drawing-of-the-stair-nine-steps-a-rail.png")
    );
    let page = scene.page("one/handbook.html");
    assert!(page.contains("src=\"handbook-pictures/drawing-of-the-stair-nine-steps-a-rail.png\""));
    let page = scene.page("two/handbook.html");
    assert!(
        page.contains(
            "src=\"../one/handbook-pictures/drawing-of-the-stair-nine-steps-a-rail.png\""
        )
    );

    // A picture that somebody put there is theirs; both pages say so.
    let picture =
        scene.output().join("one/handbook-pictures/drawing-of-the-stair-nine-steps-a-rail.png");
    fs::write(&picture, "by hand").unwrap();
    let report = scene.publish(&PublishOptions::default());
    for source in ["one/handbook.docx", "two/handbook.docx"] {
        let handbook = outcome(&report, source);
        assert_eq!(handbook.kind, OutcomeKind::InConflict);
        let reason = handbook.reason.as_deref().unwrap();
        assert!(
            reason
                .starts_with("one/handbook-pictures/drawing-of-the-stair-nine-steps-a-rail.png: "),
            "{reason}"
        );
    }
    assert_eq!(fs::read_to_string(&picture).unwrap(), "by hand");
    fs::remove_file(&picture).unwrap();

    // When the first is gone, the picture moves to the next, and its page follows.
    fs::remove_dir_all(scene.source().join("one")).unwrap();
    let options = PublishOptions { prune: true, ..PublishOptions::default() };
    assert_eq!(scene.publish(&options).count(OutcomeKind::Removed), 1);
    assert!(
        scene
            .page("two/handbook.html")
            .contains("src=\"handbook-pictures/drawing-of-the-stair-nine-steps-a-rail.png\"")
    );
    assert!(
        scene
            .written()
            .contains_key("two/handbook-pictures/drawing-of-the-stair-nine-steps-a-rail.png")
    );
    assert!(!scene.output().join("one").exists());

    // One that lies in the folder itself is used from there.
    let bytes =
        scene.written()["two/handbook-pictures/drawing-of-the-stair-nine-steps-a-rail.png"].clone();
    scene.put("pictures/stair.png", &bytes);
    scene.publish(&options);
    assert!(scene.page("two/handbook.html").contains("src=\"../pictures/stair.png\""));
    assert!(
        !scene
            .written()
            .contains_key("two/handbook-pictures/drawing-of-the-stair-nine-steps-a-rail.png")
    );
}

#[test]
fn a_broken_record_makes_every_file_somebody_elses() {
    let scene = Scene::new(&[("a.md", "# A\n")]);
    let options = PublishOptions::default();
    scene.publish(&options);
    fs::write(scene.output().join(obblet_publish::RECORD_NAME), "{").unwrap();
    // What is there is exactly what would be written: nothing is in conflict.
    assert_eq!(count(&scene.publish(&options), OutcomeKind::Unchanged), 1);
    fs::write(scene.output().join(obblet_publish::RECORD_NAME), "{").unwrap();
    scene.put("a.md", b"# B\n");
    assert_eq!(outcome(&scene.publish(&options), "a.md").kind, OutcomeKind::InConflict);
}

#[test]
fn houses_and_titles_reach_every_page() {
    let scene = Scene::new(&[("a.md", "# A\n\n[x]{audience=print}y\n")]);
    let mut options =
        PublishOptions { title: Some("The mill & its tides".into()), ..PublishOptions::default() };
    options.house.set("page.theme", "none").unwrap();
    options.house.set("page.audiences", "[\"print\"]").unwrap();
    scene.publish(&options);
    let page = scene.page("a.html");
    assert!(
        page.contains("<p><span data-audience=\"print\">x</span>y</p>")
            && !page.contains("<style>"),
        "{page}"
    );
    assert!(page.contains("<a href=\"index.html\">The mill &amp; its tides</a>"), "{page}");
    assert!(scene.page("index.html").contains("<h1 id=\"the-mill-its-tides\">"));
}

#[test]
fn pages_share_a_linked_style_sheet_and_have_the_ending_of_their_syntax() {
    let scene = Scene::new(&[
        ("a.md", "# A\n\nSee [b](one/b.md#x).\n"),
        ("one/b.md", "# B\n\n## X\n"),
        ("style.css", "p {}\n"),
    ]);
    let mut options = PublishOptions::default();
    options.house.set("page.style_placement", "linked").unwrap();
    options.house.set("page.syntax", "xhtml").unwrap();
    let report = scene.publish(&options);
    assert_eq!(report.count(OutcomeKind::Failed), 0);
    let page = scene.page("one/b.xhtml");
    assert!(page.starts_with("<?xml") && page.contains("href=\"../style-2.css\"/>"), "{page}");
    assert!(!page.contains("<style>"), "{page}");
    assert!(scene.page("a.xhtml").contains("<a href=\"one/b.xhtml#x\">"));
    assert!(scene.page("index.xhtml").contains("href=\"style-2.css\"/>"));
    assert!(scene.page("style-2.css").contains(":root"));
    assert_eq!(scene.page("style.css"), "p {}\n");
    // A second run has nothing to do.
    let again = scene.publish(&options);
    assert_eq!(again.count(OutcomeKind::Unchanged), again.outcomes.len(), "{:?}", again.outcomes);
}

/// Sources are repaired as the house says, whatever way they are published.
#[test]
fn publishing_repairs_as_the_house_says() {
    let scene = Scene::new(&[("a.md", "# A\n\n\"High  water\"\n")]);
    let mut options = PublishOptions::default();
    options.house.set("characters.punctuation", "typographic").unwrap();
    options.house.set("repairs.sources", "[\"markdown\"]").unwrap();
    scene.publish(&options);
    let page = scene.page("a.html");
    assert!(page.contains("<p>“High water”</p>"), "{page}");
}

/// Rules change documents, not the list of them.
#[test]
fn rules_and_limits_leave_the_index_alone() {
    let scene = Scene::new(&[("a.md", "# A\n\n- x\n")]);
    let house = obblet::House::built_in("listing").unwrap();
    let options = PublishOptions { house, ..PublishOptions::default() };
    scene.publish(&options);
    assert_eq!(scene.page("a.html"), "<p>A</p>\n<p>- x</p>\n");
    assert!(scene.page("index.html").contains("<li><a href=\"a.html\">"));
}

/// Whoever can write to the folder says what pages look like, and nothing else.
#[test]
fn settings_of_a_folder_read_nothing_outside_and_give_no_trust() {
    let outside = tempfile::tempdir().unwrap();
    let secret = outside.path().join("secret.html");
    fs::write(&secret, "SECRET {{ leaf.body }}").unwrap();
    let shown = secret.display();
    let cases = [
        (format!("layout = \"{shown}\"\n"), "secret.html cannot be read"),
        ("layout = \"../secret.html\"\n".into(), "secret.html cannot be read"),
        ("layout = \"linked.html\"\n".into(), "linked.html cannot be read"),
        ("[set]\npage.header = \"../secret.html\"\n".into(), "secret.html cannot be read"),
        ("[set]\npage.style_sheets = [\"../secret.html\"]\n".into(), "secret.html cannot be read"),
        ("house = \"../secret.toml\"\n".into(), "secret.toml cannot be read"),
        ("[set]\nsafety.trust_sources = true\n".into(), "for the command line alone"),
        ("house = \"trusting.toml\"\n".into(), "for the command line alone"),
    ];
    for (settings, expected) in cases {
        let scene = Scene::new(&[
            ("in/a.md", "# A\n\n<script>x()</script>\n"),
            ("in/obblet.toml", &settings),
            ("in/trusting.toml", "[safety]\ntrust_sources = true\n"),
        ]);
        fs::copy(&secret, scene.scratch.path().join("secret.html")).unwrap();
        fs::write(scene.scratch.path().join("secret.toml"), "like = \"page\"\n").unwrap();
        #[cfg(unix)]
        std::os::unix::fs::symlink(&secret, scene.source().join("in/linked.html")).unwrap();
        let planned = Plan::of(&scene.source(), &scene.output(), &PublishOptions::default());
        let why = planned.unwrap_err().to_string();
        assert!(why.contains(expected), "{settings}: {why}");
    }
    // What the folder holds may be named from below.
    let scene = Scene::new(&[
        ("in/a.md", "# A\n"),
        ("in/obblet.toml", "layout = \"../own.html\"\n"),
        ("own.html", "<!DOCTYPE html><title>x</title><body>OWN {{ leaf.body }}"),
    ]);
    scene.publish(&PublishOptions::default());
    assert!(scene.page("in/a.html").contains("OWN"));
}

/// An old address that is no old address of this folder, or that something else has, leads nowhere.
#[test]
fn old_addresses_take_nothing_away() {
    let scene = Scene::new(&[
        (
            "a.md",
            "---\nformerly: [index.html, old.html, https://elsewhere.example/x.html]\n---\n# A\n",
        ),
        ("b.md", "---\nformerly: [https://mill.example/was.html]\n---\n# B\n"),
        ("obblet.toml", "[web]\naddress = \"https://mill.example/\"\n"),
    ]);
    scene.publish(&PublishOptions::default());
    assert!(scene.page("old.html").contains("a.html"));
    assert!(scene.page("was.html").contains("b.html"));
    let index = scene.page("index.html");
    assert!(index.contains("b.html") && !index.contains("http-equiv=\"refresh\""), "{index}");
    assert!(!scene.written().keys().any(|path| path.contains("elsewhere")));
}

/// A journal that leads elsewhere would be written to.
#[cfg(unix)]
#[test]
fn a_journal_that_is_a_link_is_not_followed() {
    let scene = Scene::new(&[("a.md", "# A\n")]);
    let victim = scene.scratch.path().join("victim");
    fs::write(&victim, "kept\n").unwrap();
    fs::create_dir(scene.output()).unwrap();
    std::os::unix::fs::symlink("../victim", scene.output().join(".obblet-journal")).unwrap();
    let options = PublishOptions::default();
    let plan = Plan::of(&scene.source(), &scene.output(), &options).unwrap();
    assert!(publish(&plan, &options, &()).is_err());
    assert_eq!(fs::read_to_string(&victim).unwrap(), "kept\n");
}
