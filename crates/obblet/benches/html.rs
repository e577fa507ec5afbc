//! Reading and cleaning a noisy page, against html5ever parsing that same page into `RcDom`.
//!
//! The workload: five megabytes of what programs save and paste, with ever other numbers in it. The
//! result is checked before anything is timed.
//!
//! ```text
//! cargo bench -p obblet --bench html
//! ```

#![allow(clippy::expect_used, reason = "a bench fails by panicking")]

mod ratio;

use html5ever::tendril::TendrilSink;
use html5ever::{ParseOpts, parse_document};
use markup5ever_rcdom::RcDom;
use obblet::{Format, House, WriteOptions, convert};

/// Bytes of HTML.
const PAGE: usize = 5 << 20;

fn main() {
    let (size, rounds) = ratio::workload(PAGE);
    let page = noisy_page(size);
    let clean = cleaned(&page);
    let items = |html: &str| html.matches("<li>").count();
    assert!(items(&clean) > page.len() / 1000, "{} items", items(&clean));
    assert!(!clean.contains("Mso") && clean.len() * 3 < page.len(), "{} bytes", clean.len());
    let ours = || cleaned(&page).len();
    let reference = || parsed(&page);
    println!("page {} bytes, clean {} bytes, {rounds} rounds", page.len(), clean.len());
    ratio::report(
        "reading and cleaning",
        "html5ever into RcDom",
        page.len(),
        rounds,
        ours,
        reference,
    );
}

fn cleaned(page: &str) -> String {
    let options = WriteOptions {
        house: House::for_cleaning(page.as_bytes()),
        ..WriteOptions::format(Format::Html)
    };
    let written = convert(page.as_bytes(), Format::Html, &options).expect("any text is HTML");
    String::from_utf8(written.bytes).expect("HTML is text")
}

fn parsed(page: &str) -> usize {
    let dom = parse_document(RcDom::default(), ParseOpts::default()).one(page);
    dom.document.children.borrow().len()
}

/// The style sheet of one saved page, and the bodies of several, over and over.
fn noisy_page(size: usize) -> String {
    let saved = [
        include_str!("../tests/fixtures/noise/01-saved-letter.html"),
        include_str!("../tests/fixtures/noise/02-saved-list.html"),
        include_str!("../tests/fixtures/noise/04-saved-table.html"),
    ];
    let pasted = [
        include_str!("../tests/fixtures/noise/05-office-paste.html"),
        include_str!("../tests/fixtures/noise/06-editor-divs.html"),
    ];
    let head = saved[1].split("<body").next().unwrap_or_default();
    let body = |page: &'static str| {
        let behind = page.split_once("<body").map_or(page, |(_, behind)| behind);
        let behind = behind.split_once('>').map_or(behind, |(_, behind)| behind);
        behind.split("</body>").next().unwrap_or_default()
    };
    let bodies: Vec<&str> = saved.into_iter().map(body).chain(pasted).collect();
    let mut page = format!("{head}<body lang=EN-GB>");
    let mut number = 0;
    while page.len() < size {
        let body = bodies[number % bodies.len()];
        number += 1;
        page.push_str(&body.replace("mill", &format!("mill {number}")));
    }
    page.push_str("</body></html>");
    page
}
