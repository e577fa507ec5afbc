//! Documents bound into one, and split into several. Cases are in `fixtures/assembly.txt`.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod fixture;

use fixture::Case;
use obblet::assembly::{BindOptions, Bound, Part, bind, split};
use obblet::document::{Document, SourceMap};
use obblet::{Format, ReadOptions, WriteOptions, read, write};
use std::collections::HashSet;

fn part(path: &str, text: &[u8], format: Format) -> Part {
    let reading = read(text, format, &ReadOptions::default()).unwrap();
    Part { path: path.into(), document: reading.document, map: reading.map }
}

fn html(document: &Document) -> String {
    let mut options = WriteOptions::house("body").unwrap();
    options.house.set("page.top_heading", "1").unwrap();
    write(document, &options).unwrap().text().to_string()
}

#[test]
fn cases_come_out_as_the_table_says() {
    fixture::check("assembly.txt", |case| match case.has("source") {
        true => split_case(case),
        false => bind_case(case),
    });
}

fn bind_case(case: &Case) -> Vec<(&'static str, String)> {
    let settings = case.part("settings");
    let options = BindOptions {
        target: "proofs/all.html".into(),
        cover: settings.contains("cover"),
        contents: if settings.contains("contents") { 2 } else { 0 },
        ..BindOptions::default()
    };
    let parts = case.parts_named("part");
    let parts = parts.map(|(path, text)| part(path, text.as_bytes(), Format::Markdown));
    let Bound { document, mut findings, map } = bind(parts.collect(), &options);
    findings.locate(&map);
    let lines: Vec<String> = findings.iter().map(|finding| finding.line("whole")).collect();
    vec![("html", html(&document)), ("findings", lines.join("\n"))]
}

fn split_case(case: &Case) -> Vec<(&'static str, String)> {
    let settings = case.part("settings");
    let level = settings.strip_prefix("level ").map_or(0, |level| level.parse().unwrap());
    let document = part("handbook.md", case.part("source").as_bytes(), Format::Markdown).document;
    let pages = split(document, level, settings == "breaks", &|name| match name {
        "" => "handbook.html".into(),
        name => format!("handbook--{name}.html"),
    });
    let shown =
        |page: &obblet::assembly::SplitPage| format!("[{}]\n{}", page.name, html(&page.document));
    vec![("pages", pages.iter().map(shown).collect()), ("findings", String::new())]
}

/// Every link to a place inside leads to one, and nothing that the documents say is missing.
#[test]
fn a_bound_demo_holds_together() {
    let demo = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../obblet-cli/demo");
    let files = [
        ("high-water.md", Format::Markdown),
        ("visitor-guide.md", Format::Markdown),
        ("volunteers/handbook.docx", Format::Word),
        ("research/tide-wheel.tex", Format::Latex),
        ("work/repairs.md", Format::Markdown),
        ("work/restoration-log.org", Format::Org),
    ];
    let parts = || {
        files
            .iter()
            .map(|(path, format)| part(path, &std::fs::read(demo.join(path)).unwrap(), *format))
    };
    let bound = bind(parts().collect(), &BindOptions::default());
    let whole = html(&bound.document);
    let ids: HashSet<&str> = values(&whole, " id=\"").collect();
    let mut links = 0;
    for address in values(&whole, "href=\"#") {
        assert!(ids.contains(address), "nothing is called {address}");
        links += 1;
    }
    assert!(links > 60, "{links}");
    assert_eq!(ids.len(), values(&whole, " id=\"").count(), "an id stands twice");
    for one in parts() {
        let words = |html: &str| -> Vec<String> {
            let text: String =
                html.split('<').map(|part| part.split_once('>').map_or(part, |p| p.1)).collect();
            text.split(|c: char| !c.is_alphabetic())
                .filter(|word| word.len() > 6)
                .map(Into::into)
                .collect()
        };
        let there: HashSet<String> = words(&whole).into_iter().collect();
        for word in words(&html(&one.document)) {
            assert!(there.contains(&word), "{}: {word} is missing", one.path);
        }
    }
    // One contents list, of the whole; that of the log is a part of it.
    assert_eq!(whole.matches("doc-toc").count(), 1);
    assert!(matches!(bound.map, SourceMap::Several(_)));
}

fn values<'h>(html: &'h str, before: &'h str) -> impl Iterator<Item = &'h str> {
    html.split(before).skip(1).filter_map(|rest| rest.split('"').next())
}

/// What was split comes together again: binding the pages gives all that the whole had.
#[test]
fn deep_and_long_documents_are_bound_and_split_in_linear_time() {
    let many: String =
        (0..20_000).map(|n| format!("# H{n}\n[x](#h{})[^{n}]\n\n[^{n}]: n\n\n", n + 1)).collect();
    let document = part("long.md", many.as_bytes(), Format::Markdown).document;
    let pages = split(document, 1, false, &|name| format!("{name}.html"));
    assert_eq!(pages.len(), 20_000);
    assert!(pages.iter().all(|page| page.document.notes.len() == 1));
    let parts = pages.into_iter().map(|page| Part {
        path: format!("{}.md", page.name),
        document: page.document,
        map: SourceMap::None,
    });
    let bound = bind(parts.collect(), &BindOptions::default());
    assert_eq!(bound.document.notes.len(), 20_000);
    let deep = "> ".repeat(90) + "# H\n";
    let document = part("deep.md", deep.as_bytes(), Format::Markdown).document;
    let bound = bind(
        vec![Part { path: "deep.md".into(), document, map: SourceMap::None }],
        &BindOptions::default(),
    );
    assert!(html(&bound.document).contains(">H</h"));
}
