//! Script injection: whatever a source says, what goes out runs nothing.
//!
//! Each vector goes in as raw HTML in Markdown, as a link, and as a picture; the output is parsed
//! anew, by the same parser into another tree, and looked at element by element.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

use html5ever::tendril::TendrilSink;
use html5ever::{ParseOpts, parse_document};
use markup5ever_rcdom::{Handle, NodeData, RcDom};
use obblet::document::Document;
use obblet::document::build::heading;
use obblet::{ConvertError, Format, ReadError, WriteOptions, convert, write};

/// Markup that runs something in some browser, past or present, and addresses that do when they are
/// followed. `conformance/run` holds them against a browser too.
fn injections(kind: &str) -> Vec<String> {
    let all: serde_json::Value =
        serde_json::from_str(include_str!("fixtures/injections.json")).unwrap();
    let list = all[kind].as_array().unwrap();
    list.iter().map(|vector| vector.as_str().unwrap().to_string()).collect()
}

/// The elements that may stand in the output.
const HARMLESS: &[&str] = &[
    "html",
    "head",
    "body",
    "a",
    "abbr",
    "b",
    "blockquote",
    "br",
    "code",
    "details",
    "div",
    "em",
    "h1",
    "h2",
    "h3",
    "i",
    "img",
    "input",
    "li",
    "ol",
    "p",
    "pre",
    "span",
    "strong",
    "summary",
    "table",
    "tbody",
    "td",
    "time",
    "tr",
    "ul",
    "caption",
    "cite",
    "col",
    "colgroup",
    "dd",
    "del",
    "dl",
    "dt",
    "figcaption",
    "figure",
    "ins",
    "kbd",
    "mark",
    "picture",
    "q",
    "rp",
    "rt",
    "ruby",
    "s",
    "samp",
    "section",
    "small",
    "source",
    "sub",
    "sup",
    "tfoot",
    "th",
    "thead",
    "u",
    "var",
    // Formulas, as they are written from their trees.
    "math",
    "semantics",
    "annotation",
    "mfrac",
    "mi",
    "mmultiscripts",
    "mn",
    "mo",
    "mover",
    "mpadded",
    "mphantom",
    "mprescripts",
    "mroot",
    "mrow",
    "mspace",
    "msqrt",
    "mstyle",
    "msub",
    "msubsup",
    "msup",
    "mtable",
    "mtd",
    "mtext",
    "mtr",
    "munder",
    "munderover",
];

fn body(markdown: &str) -> String {
    written(markdown, Format::Markdown)
}

fn read_body(html: &str) -> String {
    written(html, Format::Html)
}

/// The body; empty for what is refused since its control characters make it no text.
fn written(source: &str, format: Format) -> String {
    match convert(source.as_bytes(), format, &WriteOptions::house("body").unwrap()) {
        Ok(written) => written.text().to_string(),
        Err(ConvertError::Read(ReadError::NoText { .. })) => String::new(),
        Err(other) => panic!("{source}: {other}"),
    }
}

/// Frames, strokes, colours and columns of formulas fetch nothing.
fn is_style_of_formula(element: &str, style: &str) -> bool {
    let known =
        ["border", "padding", "background: linear-gradient(", "color: ", "text-align", "font-"];
    let is_known = |declaration: &str| {
        known.iter().any(|known| declaration.trim().starts_with(known))
            && !declaration.contains("url")
    };
    element.starts_with('m') && style.split(';').all(is_known)
}

/// What in the parsed output could run something.
fn dangers(html: &str) -> Vec<String> {
    let dom = parse_document(RcDom::default(), ParseOpts::default()).one(html);
    let mut found = Vec::new();
    let mut nodes: Vec<Handle> = vec![dom.document.clone()];
    while let Some(node) = nodes.pop() {
        if let NodeData::Element { name, attrs, .. } = &node.data {
            if !HARMLESS.contains(&&*name.local) {
                found.push(format!("<{}>", name.local));
            }
            for attribute in attrs.borrow().iter() {
                let (key, value) = (&*attribute.name.local, attribute.value.to_string());
                let scheme: String =
                    value.chars().filter(|c| *c > ' ').collect::<String>().to_ascii_lowercase();
                let runs = ["javascript:", "vbscript:", "livescript:", "data:"];
                if key.starts_with("on")
                    // Other annotations hold elements that run.
                    || key == "encoding" && value != "application/x-tex"
                    || key == "style" && !is_style_of_formula(&name.local, &value)
                    || matches!(key, "srcdoc" | "formaction" | "action" | "background")
                    || matches!(key, "href" | "src") && runs.iter().any(|s| scheme.starts_with(s))
                {
                    found.push(format!("{key}={value}"));
                }
            }
        }
        nodes.extend(node.children.borrow().iter().cloned());
    }
    found
}

#[test]
fn markup_runs_nothing() {
    let markup = injections("markup");
    assert!(markup.len() >= 300, "{} vectors", markup.len());
    for vector in markup {
        for markdown in [
            format!("{vector}\n"),
            format!("Text {vector} more.\n"),
            format!("- {vector}\n  | a |\n"),
        ] {
            let html = body(&markdown);
            assert_eq!(dangers(&html), [""; 0], "{markdown}\n{html}");
            // The same through the document's own tree.
            let read = read_body(&markdown);
            assert_eq!(dangers(&read), [""; 0], "{markdown}\n{read}");
            // And again, for a browser that parses what another one has written.
            let again = body(&html);
            assert_eq!(dangers(&again), [""; 0], "{markdown}\n{again}");
        }
    }
}

#[test]
fn addresses_run_nothing() {
    for address in injections("addresses") {
        for markdown in [
            format!("[x](<{address}>)\n"),
            format!("![x](<{address}>)\n"),
            format!("[x]\n\n[x]: <{address}>\n"),
            format!("<{address}>\n"),
        ] {
            let html = body(&markdown);
            assert_eq!(dangers(&html), [""; 0], "{markdown}\n{html}");
        }
    }
}

/// Values that the page around the body shows: titles, ids, languages, descriptions.
#[test]
fn pages_run_nothing_either() {
    let attack = "a\"onmouseover=alert(1)//<script>alert(1)</script>'";
    let markdown = format!(
        "---\ntitle: >-\n  {attack}\nlang: >-\n  {attack}\ndescription: >-\n  {attack}\nauthor: >-\n  \
         {attack}\ndate: >-\n  {attack}\n---\n# x\n\n## {attack}\n"
    );
    let mut options = WriteOptions::house("page").unwrap();
    options.house.set("page.theme", "none").unwrap();
    options.surroundings.home = Some("../x\"onclick=alert(1)".into());
    options.surroundings.home_title = attack.into();
    let written = convert(markdown.as_bytes(), Format::Markdown, &options).unwrap();
    let frame = ["<title>", "<meta>", "<header>", "<nav>", "<main>"];
    let found = dangers(written.text());
    let found: Vec<&String> = found.iter().filter(|f| !frame.contains(&f.as_str())).collect();
    assert_eq!(found, [""; 0], "{}", written.text());

    // An id as a bookmark of a Word file may have it.
    let headings = ["a", "b"].map(|text| heading(2, text).with_id(format!("{text}\"{attack}")));
    let page = write(&Document::of(headings.to_vec()), &options).unwrap();
    let found = dangers(page.text());
    let found: Vec<&String> = found.iter().filter(|f| !frame.contains(&f.as_str())).collect();
    assert_eq!(found, [""; 0], "{}", page.text());
    assert!(page.text().contains("href=\"#a%22a%22onmouseover=alert(1)//"), "{}", page.text());
}

/// The check itself sees danger where there is some.
#[test]
fn the_check_is_not_blind() {
    for danger in ["<script>x</script>", "<p onclick=x>", "<a href=' javascript:x'>y</a>"] {
        assert_ne!(dangers(danger), [""; 0], "{danger}");
    }
}
