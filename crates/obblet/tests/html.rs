//! HTML to HTML on the cases in `fixtures/html.txt`: what a page means, without what a program added.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod fixture;

use obblet::{Format, WriteOptions, convert};

#[test]
fn cases_read_as_they_say() {
    fixture::check("html.txt", |case| {
        let mut options = WriteOptions::house("body").unwrap();
        for setting in case.part("set").lines() {
            let (key, value) = setting.split_once('=').unwrap();
            options.house.set(key, value).unwrap();
        }
        let written = convert(case.part("source").as_bytes(), Format::Html, &options).unwrap();
        let again = convert(&written.bytes, Format::Html, &options).unwrap();
        assert_eq!(again.text(), written.text(), "{}: a second time", case.name);
        let lines: Vec<String> = written.findings.iter().map(|f| f.line("p.html")).collect();
        vec![("html", written.text().to_string()), ("findings", lines.join("\n"))]
    });
}

/// The theme of a page says nothing of its document: title, by-line, alignment and classes are as the
/// document has them.
#[test]
fn a_page_of_ours_is_its_document() {
    let source = "---\ntitle: Tides\nauthor: Ada\n---\n\n| a | b |\n|---|--:|\n| 1 | 2 |\n\n::: byline\ntext\n:::\n";
    let page = WriteOptions::house("page").unwrap();
    let body = WriteOptions::house("body").unwrap();
    let written = convert(source.as_bytes(), Format::Markdown, &page).unwrap();
    let from_page = convert(&written.bytes, Format::Html, &body).unwrap();
    let from_source = convert(source.as_bytes(), Format::Markdown, &body).unwrap();
    assert_eq!(from_page.text(), from_source.text());
    assert!(from_page.findings.is_empty(), "{:?}", from_page.findings);
}

/// Dates that are understood are for machines, too; what is no day stays text.
#[test]
fn dates_of_pages_are_moments_where_they_are_understood() {
    let cases = [
        ("2026-05-12", "en", "<time>2026-05-12</time>"),
        ("2026-05-12T00:30:00+02:00", "en", "<time>2026-05-12T00:30:00+02:00</time>"),
        ("May 3, 2026", "en", "<time datetime=\"2026-05-03\">May 3, 2026</time>"),
        ("15.04.2026", "de", "<time datetime=\"2026-04-15\">15.04.2026</time>"),
        ("spring 1784", "en", "spring 1784"),
        ("2026-02-31", "en", "2026-02-31"),
    ];
    for (date, language, shown) in cases {
        let source =
            format!("---\ntitle: Tides\ndate: {date}\nlang: {language}\n---\n\nHigh water\n");
        let options = WriteOptions::format(Format::Html);
        let page = convert(source.as_bytes(), Format::Markdown, &options).unwrap();
        let byline = format!("<p class=\"byline\">{shown}</p>");
        assert!(page.text().contains(&byline), "{date}: {}", page.text());
        let told = page.findings.iter().any(|finding| finding.code.name() == "date-impossible");
        assert_eq!(told, date == "2026-02-31", "{date}");
        let back = convert(&page.bytes, Format::Html, &WriteOptions::format(Format::Markdown));
        assert!(back.unwrap().text().contains(date), "{date}");
    }
}

/// A change has a moment that Word takes, with seconds.
#[test]
fn moments_of_changes_go_to_word_and_back() {
    let page =
        b"<p>The <ins datetime='2026-05-12T14:30+02:00' title='Ada Quill'>new</ins> weir</p>";
    let word = convert(page, Format::Html, &WriteOptions::format(Format::Word)).unwrap();
    let back = convert(&word.bytes, Format::Word, &WriteOptions::format(Format::Html)).unwrap();
    let change = "<ins datetime=\"2026-05-12T14:30:00+02:00\" title=\"Ada Quill\">new</ins>";
    assert!(back.text().contains(change), "{}", back.text());
}

/// Cleaning adds nothing that a page did not show, and takes nothing from a page of ours.
#[test]
fn cleaning_shows_what_the_page_showed() {
    let clean = |source: &[u8]| {
        let house = obblet::House::for_cleaning(source);
        let options = WriteOptions { house, ..WriteOptions::format(Format::Html) };
        convert(source, Format::Html, &options).unwrap().text().to_string()
    };
    let foreign = b"<title>Tides</title><meta name=author content=Ada><body><p>High water</p>";
    let body = "<body>\n<main id=\"text\">\n<p>High water</p>\n</main>\n</body>\n</html>\n";
    assert!(clean(foreign).ends_with(body), "{}", clean(foreign));
    let mut options = WriteOptions::format(Format::Html);
    options.house.set("page.theme", "none").unwrap();
    options.house.set("page.contents", "0").unwrap();
    let source = b"---\ntitle: Tides\nauthor: Ada\ndate: spring 1784\n---\n\nHigh water\n";
    let page = convert(source, Format::Markdown, &options).unwrap();
    assert!(page.text().contains("<h1>Tides</h1>\n<p class=\"byline\">Ada \u{b7} spring 1784</p>"));
    assert_eq!(clean(&page.bytes), page.text());
}
