//! Folder settings, and what is made around the pages.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod scene;

use obblet_publish::{
    CatalogueForm, OutcomeKind, Plan, PublishOptions, Split, State, archive, catalogue,
};
use scene::{Scene, codes, count, outcome};
use std::fs;

fn contains(scene: &Scene, page: &str, expected: &[&str]) {
    let text = scene.page(page);
    let shown = text.split_once("</style>").map_or(text.as_str(), |(_, shown)| shown);
    for part in expected {
        assert!(text.contains(part), "{page}: {part} is not in\n{shown}");
    }
}

const MILL: [(&str, &str); 9] = [
    (
        "obblet.toml",
        "title = \"The mill\"\norder = [\"welcome.md\", \"news\"]\n[metadata]\nlanguage = \"en-GB\"\n\
         [web]\naddress = \"https://mill.example/site\"\n",
    ),
    ("welcome.md", "---\nkeywords: [Tides, Wheel]\ndescription: How to come.\n---\n# Welcome\n"),
    ("about.md", "---\nkeywords: [tides]\n---\n# About\n\n[n](news/)\n"),
    ("10 ebb.md", "# Ebb\n"),
    ("2 flood.md", "# Flood\n"),
    ("news/obblet.toml", "title = \"What is new\"\ndated = true\n"),
    ("news/a.md", "---\ndate: 2026-03-01\nauthor: Ada Quill\n---\n# Sluice mended\n"),
    ("news/b.md", "---\ndate: 2026-05-12T00:30:00+02:00\n---\n# Wheel turns\n"),
    ("hidden/x.md", "# X\n"),
];

#[test]
fn pages_know_their_neighbours() {
    let scene = Scene::new(&MILL);
    scene.put("hidden/obblet.toml", b"unlisted = true\n");
    let report = scene.publish(&PublishOptions::default());
    assert_eq!(report.count(OutcomeKind::Failed), 0);
    assert!(codes(outcome(&report, "about.md")).is_empty());
    // In the order that the settings say, then by name, numbers by value.
    contains(
        &scene,
        "2 flood.html",
        &[
            "<html lang=\"en-GB\">",
            "<a href=\"index.html\">The mill</a>",
            "<h2 id=\"pages\">The mill</h2>",
            "<li><a href=\"welcome.html\">Welcome</a></li>\n<li><a href=\"2%20flood.html\" aria-current=\"page\">\
         Flood</a></li>\n<li><a href=\"10%20ebb.html\">Ebb</a></li>\n<li><a href=\"about.html\">About</a></li>",
            "<a class=\"previous\" rel=\"prev\" href=\"welcome.html\"><small>Previous</small> Welcome</a>",
            "<a class=\"next\" rel=\"next\" href=\"10%20ebb.html\"><small>Next</small> Ebb</a>",
            "<link rel=\"canonical\" href=\"https://mill.example/site/2%20flood.html\">",
            "type=\"application/atom+xml\" title=\"The mill\" href=\"feed.xml\">",
            "<script src=\"search.js\" defer></script>",
        ],
    );
    contains(&scene, "about.html", &["<a href=\"news/index.html\">n</a>"]);
    contains(
        &scene,
        "welcome.html",
        &[
            "<a href=\"topics.html#topic-tides\" rel=\"tag\">Tides</a>, <a href=\"topics.html#topic-wheel\"",
        ],
    );
    // Newest first, with their dates.
    contains(
        &scene,
        "news/index.html",
        &[
            "<h1 id=\"what-is-new\">What is new</h1>",
            "<li>12 May 2026: <a href=\"b.html\">Wheel turns</a></li>\n<li>1 March 2026: <a href=\"a.html\">",
        ],
    );
    contains(&scene, "news/a.html", &["<a href=\"index.html\">What is new</a>"]);
    contains(
        &scene,
        "index.html",
        &[
            "<li><a href=\"welcome.html\">Welcome</a> – How to come.</li>",
            "<h2 id=\"what-is-new\"><a href=\"news/index.html\">What is new</a></h2>",
        ],
    );
    assert!(!scene.page("index.html").contains("hidden/"));
    contains(
        &scene,
        "topics.html",
        &["<h2 id=\"topic-tides\">tides</h2>\n<ul>\n<li><a href=\"about.html\">About</a></li>\n\
         <li><a href=\"welcome.html\">Welcome</a>"],
    );
    contains(&scene, "404.html", &["<base href=\"https://mill.example/site/\">"]);
    contains(
        &scene,
        "feed.xml",
        &[
            "<id>https://mill.example/site/</id>",
            "<updated>2026-05-11T22:30:00Z</updated>",
            "<name>Ada Quill</name>",
            "<link href=\"https://mill.example/site/news/b.html\"/>",
        ],
    );
    let map = scene.page("sitemap.xml");
    assert_eq!(map.matches("<loc>").count(), 8, "{map}");
    contains(&scene, "search/pages.js", &["[\"Wheel turns\",\"news/b.html\",\"\"]"]);
    contains(&scene, "search/w-m.js", &["obbletWords({\"mended\":\"5\"})"]);
}

#[test]
fn a_change_rebuilds_what_shows_it_and_nothing_else() {
    let layout = "<!DOCTYPE html><html lang=\"en\"><title>{{ leaf.title }}</title>{% include \"top.html\" %}\
                  {{ leaf.opening }}{{ leaf.body }}";
    let scene = Scene::new(&[
        ("a.md", "# A\n"),
        ("b.md", "# B\n"),
        ("c.md", "# C\n"),
        ("own/obblet.toml", "layout = \"own.html\"\n[set]\npage.language = \"de\"\n"),
        ("own/own.html", layout),
        ("own/top.html", "<p>{{ shelf.home_title }}: {{ leaf.language }}</p>"),
        ("own/d.md", "# D\n"),
        ("own/e.md", "# E\n"),
    ]);
    let options = PublishOptions { skip: vec!["own/*.html".into()], ..PublishOptions::default() };
    scene.publish(&options);
    contains(&scene, "own/d.html", &["<p>Mill texts: de</p>", "<h1 id=\"d\">D</h1>"]);
    let converted = |options: &PublishOptions| -> Vec<String> {
        let kinds = scene.kinds(options).into_iter();
        kinds
            .filter(|(_, kind)| *kind == OutcomeKind::Converted)
            .map(|(source, _)| source)
            .collect()
    };
    // A changed piece of a layout: its pages.
    scene.put("own/top.html", b"<p>{{ leaf.language }} anew</p>");
    assert_eq!(converted(&options), ["own/d.md", "own/e.md"]);
    // A changed title: its page, and those that name it.
    scene.put("b.md", b"# Bee\n");
    assert_eq!(converted(&options), ["a.md", "b.md", "c.md"]);
    // A changed text: its page alone.
    scene.put("a.md", b"# A\n\nMore.\n");
    assert_eq!(converted(&options), ["a.md"]);
    // A setting of one folder.
    scene.put("own/obblet.toml", b"[metadata]\nkeywords = [\"x\"]\n");
    assert_eq!(converted(&options), ["own/d.md", "own/e.md"]);
    assert!(converted(&options).is_empty());
}

#[test]
fn wrong_settings_are_named_with_their_line_and_nothing_is_written() {
    let cases = [
        ("titel = \"x\"\n", ":1: unknown field `titel`, expected one of `title`"),
        ("title = \"x\"\norder = 1\n", ":2: invalid type"),
        ("[set]\npage.contens = 1\n", "did you mean page.contents?"),
        ("house = \"pgae\"\n", "did you mean page?"),
        ("split = 9\n", ":1: split takes a heading level from 1 to 6, 0, or \"page-breaks\""),
        ("layout = \"gone.html\"\n", "gone.html cannot be read"),
        ("= 1\n", ":1:"),
    ];
    for (settings, expected) in cases {
        let scene = Scene::new(&[("a.md", "# A\n"), ("x/obblet.toml", settings)]);
        let plan = Plan::of(&scene.source(), &scene.output(), &PublishOptions::default());
        let error = plan.unwrap_err().to_string();
        assert!(error.contains(expected) && error.contains("x/obblet.toml"), "{error}");
        assert!(!scene.output().exists());
    }
}

#[test]
fn folders_have_their_own_houses_unless_one_is_asked_for() {
    let scene = Scene::new(&[
        ("a.md", "# A\n"),
        ("b/obblet.toml", "house = \"own.toml\"\n"),
        ("b/own.toml", "like = \"body\"\n"),
        ("b/b.md", "# B\n\n[a](../a.md)\n"),
    ]);
    let mut options = PublishOptions::default();
    scene.publish(&options);
    assert_eq!(scene.page("b/b.html"), "<h1 id=\"b\">B</h1>\n<p><a href=\"../a.html\">a</a></p>\n");
    options.follow_folder_houses = false;
    scene.publish(&options);
    contains(&scene, "b/b.html", &["<!DOCTYPE html>"]);
    options.follow_folder_houses = true;
    options.settings = vec![("page.extent".into(), "page".into())];
    scene.publish(&options);
    contains(&scene, "b/b.html", &["<!DOCTYPE html>"]);
}

#[test]
fn layouts_and_themes_of_ones_own() {
    let scene = Scene::new(&[
        (
            "obblet.toml",
            "layout = \"parts/l.html\"\nskip = [\"parts\"]\n[web]\ntheme = \"look\"\nsearch = false\n",
        ),
        (
            "parts/l.html",
            "<!DOCTYPE html><html lang=\"en\">{% include \"obblet/head\" %}<body>\
             {% for node in shelf.tree %}<a href=\"{{ shelf.up }}{{ node.address }}\">{{ node.title }}</a>\
             {% for page in node.pages %}[{{ page.title }}]{% endfor %}{% endfor %}\
             {{ leaf.fields.mood }}{% include \"obblet/text\" %}",
        ),
        ("look/a.css", "p { color: teal }"),
        ("look/b.css", "p { margin: 0 }"),
        ("look/font.woff2", "font"),
        ("a.md", "---\nmood: calm\n---\n# A\n"),
        ("x/b.md", "# B\n"),
    ]);
    scene.publish(&PublishOptions::default());
    contains(
        &scene,
        "x/b.html",
        &[
            "<link rel=\"stylesheet\" href=\"../look/a.css\">\n<link rel=\"stylesheet\" href=\"../look/b.css\">",
            "<a href=\"../a.html\">A</a>",
            "<a href=\"../x/index.html\">X</a>[B]",
        ],
    );
    contains(&scene, "a.html", &["calm<main id=\"text\">"]);
    assert!(scene.output().join("look/font.woff2").exists());
    assert!(!scene.output().join("search.js").exists());
    // The menu of the other layout is made of headings.
    let menu = Scene::new(&[
        ("a.md", "# A\n\n## One\n\n## Two\n"),
        ("obblet.toml", "layout = \"menu\"\n"),
    ]);
    menu.publish(&PublishOptions::default());
    contains(&menu, "a.html", &["<nav class=\"menu\"", "<a href=\"#two\">Two</a>"]);
}

#[test]
fn an_index_that_somebody_took_away_is_made_as_at_first() {
    let scene = Scene::new(&[
        ("a.md", "---\nkeywords: [weir]\n---\n# Ebb\n\nHigh water.\n"),
        ("b.md", "# Flood\n\nLow water.\n"),
    ]);
    let options = PublishOptions::default();
    scene.publish(&options);
    let first = scene.written();
    let words = scene.output().join("search/w-h.js");
    assert!(words.exists());
    // As long as it is there, what has not changed is not read for it.
    scene.put("b.md", b"# Flood\n\nNo water.\n");
    let report = scene.publish(&options);
    assert!(outcome(&report, "b.md").account.is_some());
    assert!(outcome(&report, "a.md").account.is_none());
    scene.put("b.md", b"# Flood\n\nLow water.\n");
    scene.publish(&options);
    assert!(scene.written() == first);
    for take_away in ["one file", "a changed file", "all files"] {
        match take_away {
            "one file" => fs::remove_file(&words).unwrap(),
            "a changed file" => fs::write(&words, "obbletWords({})").unwrap(),
            _ => fs::remove_dir_all(scene.output().join("search")).unwrap(),
        }
        let overwrite = PublishOptions { overwrite: true, ..PublishOptions::default() };
        scene.publish(&overwrite);
        let mut again = scene.written();
        again.retain(|path, _| first.contains_key(path));
        assert!(again == first, "{take_away}");
    }
}

#[test]
fn pages_have_a_security_policy_where_that_is_wanted() {
    let policy = "<meta http-equiv=\"Content-Security-Policy\" content=\"default-src 'none'; script-src 'self'; ";
    let (settings, pages) =
        ("[web]\nsecurity_policy = true\n", ["a.html", "index.html", "x/index.html", "404.html"]);
    let scene = Scene::new(&[("a.md", "# A\n"), ("x/b.md", "# B\n")]);
    let options = PublishOptions::default();
    scene.publish(&options);
    for page in pages {
        assert!(!scene.page(page).contains("Content-Security-Policy"), "{page}");
    }
    // Every page is made anew when the setting changes.
    scene.put("obblet.toml", settings.as_bytes());
    scene.publish(&options);
    pages.iter().for_each(|page| contains(&scene, page, &[policy]));
}

#[test]
fn documents_are_split_and_links_from_others_find_the_page() {
    let scene = Scene::new(&[
        (
            "guide.md",
            "# Guide\n\n[f](book.md#floats) [h](book.md#hub) [b](book.md) [no](book.md#no)\n",
        ),
        ("book.md", "# Book\n\nSee [hub](#hub).\n\n## Floats\nOf oak.\n\n## Hub\nOf iron.\n"),
        ("obblet.toml", "split = 2\n"),
    ]);
    let report = scene.publish(&PublishOptions::default());
    contains(
        &scene,
        "guide.html",
        &[
            "<a href=\"book--floats.html#floats\">f</a>",
            "<a href=\"book--hub.html#hub\">h</a>",
            "<a href=\"book.html\">b</a>",
        ],
    );
    assert_eq!(codes(outcome(&report, "guide.md")), ["anchor-broken"]);
    contains(
        &scene,
        "book.html",
        &["<a href=\"book--hub.html#hub\">hub</a>", "<li><a href=\"book--floats.html\">"],
    );
    contains(&scene, "book--hub.html", &["<h1 id=\"hub\">Hub</h1>"]);
    assert_eq!(count(&scene.publish(&PublishOptions::default()), OutcomeKind::Unchanged), 2);
    // A place that moves to another page takes the links with it.
    scene.put("book.md", b"# Book\n\n## Hub\nOf iron.\n\n### Floats\nOf oak.\n");
    scene.publish(&PublishOptions::default());
    contains(&scene, "guide.html", &["<a href=\"book.html#floats\">f</a>"]);
    // A page that is no more goes with the rest.
    let report = scene.publish(&PublishOptions { prune: true, ..PublishOptions::default() });
    assert_eq!(report.count(OutcomeKind::Failed), 0);
    assert!(!scene.output().join("book--floats.html").exists());
    let breaks = Scene::new(&[("a.tex", "One\n\\newpage\nTwo")]);
    let options = PublishOptions { split: Split::AtPageBreaks, ..PublishOptions::default() };
    breaks.publish(&options);
    contains(&breaks, "a--2.html", &["Two"]);
}

#[test]
fn an_archive_and_a_catalogue_hold_what_was_published() {
    let scene = Scene::new(&[
        ("a.md", "---\ntitle: A, \"quoted\"\ndescription: Of tides.\n---\nText.\n"),
        ("x/b.md", "# B\n\n[a](../a.md)\n"),
    ]);
    let options = PublishOptions::default();
    let report = scene.publish(&options);
    fs::write(scene.output().join("foreign.html"), "not ours").unwrap();
    let plan = scene.plan(&options);
    assert_eq!(plan.count(State::Unchanged), 2);
    let file = scene.scratch.path().join("out/web.zip");
    let files = archive(&plan, &file).unwrap();
    assert_eq!(files, report.outcomes.len());
    let bytes = fs::read(&file).unwrap();
    archive(&plan, &file).unwrap();
    assert!(fs::read(&file).unwrap() == bytes, "a second archive of the same differs");
    let names: Vec<String> = zip::ZipArchive::new(std::io::Cursor::new(bytes))
        .unwrap()
        .file_names()
        .map(|name| name.unwrap().into())
        .collect();
    assert!(
        names.contains(&"x/b.html".into()) && !names.contains(&"foreign.html".into()),
        "{names:?}"
    );

    let list = scene.scratch.path().join("out/pages.csv");
    assert_eq!(catalogue(&plan, &options, CatalogueForm::Csv, &list).unwrap(), 2);
    let text = fs::read_to_string(&list).unwrap();
    let first =
        "title,description,path,body\n\"A, \"\"quoted\"\"\",Of tides.,a.html,\"<p>Text.</p>\n\"\n";
    assert!(text.starts_with(first), "{text}");
    let list = scene.scratch.path().join("out/pages.json");
    catalogue(&plan, &options, CatalogueForm::Json, &list).unwrap();
    let pages: serde_json::Value = serde_json::from_slice(&fs::read(&list).unwrap()).unwrap();
    assert_eq!(pages[1]["path"], "x/b.html");
    assert_eq!(pages[1]["body"], "<h1 id=\"b\">B</h1>\n<p><a href=\"../a.html\">a</a></p>\n");
}

/// Large folders have indexes of a bearable size.
#[test]
fn a_large_folder_is_listed_by_its_folders() {
    let files: Vec<(String, String)> =
        (0..200).map(|n| (format!("{}/{n}.md", n % 4), format!("# Page {n}\n"))).collect();
    let files: Vec<(&str, &str)> = files.iter().map(|(n, t)| (n.as_str(), t.as_str())).collect();
    let scene = Scene::new(&files);
    scene.publish(&PublishOptions::default());
    contains(&scene, "index.html", &["<li><a href=\"3/index.html\">3</a> (50)</li>"]);
    let beside = scene.page("0/100.html");
    // Forty beside it, and those of the way up.
    assert_eq!(beside.matches("<li><a href").count(), 40 + 2);
    contains(&scene, "0/100.html", &["aria-current=\"page\">Page 100<", ">Page 24<", ">Page 176<"]);
}
