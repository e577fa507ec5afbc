//! Broken HTML made at random: nothing of what readers see is lost on the way through the document,
//! and what comes out is settled.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod fragments;
mod generated;

use html5ever::tendril::TendrilSink;
use html5ever::{ParseOpts, parse_document};
use markup5ever_rcdom::{Handle, NodeData, RcDom};
use obblet::{Format, House, WriteOptions, convert};
use proptest::prelude::*;
use std::cell::Cell;

/// As many fragments as are held against the Nu checker.
const FRAGMENTS: u32 = 300;

fn options(house: &str, sources: &str) -> WriteOptions {
    let mut options = WriteOptions::house(house).unwrap();
    options.house.set("repairs.sources", sources).unwrap();
    options
}

fn html(source: &str, options: &WriteOptions) -> String {
    convert(source.as_bytes(), Format::Html, options).unwrap().text().to_string()
}

/// The words and link addresses that a browser would show.
fn seen(html: &str) -> (Vec<String>, Vec<String>) {
    const UNSEEN: &[&str] = &["head", "script", "style", "template", "title", "noscript"];
    let dom = parse_document(RcDom::default(), ParseOpts::default()).one(html);
    let (mut text, mut links) = (String::new(), Vec::new());
    let mut nodes: Vec<Handle> = vec![dom.document.clone()];
    while let Some(node) = nodes.pop() {
        match &node.data {
            NodeData::Text { contents } => text.push_str(&contents.borrow()),
            NodeData::Element { name, attrs, .. } => {
                let attrs = attrs.borrow();
                let value = |wanted: &str| attrs.iter().find(|a| &*a.name.local == wanted);
                if UNSEEN.contains(&&*name.local) || value("hidden").is_some() {
                    continue;
                }
                if let Some(address) = value("href").filter(|_| &*name.local == "a") {
                    links.push(address.value.replace(' ', "%20"));
                }
                text.push(' ');
            }
            _ => {}
        }
        nodes.extend(node.children.borrow().iter().rev().cloned());
    }
    let mut words: Vec<String> = text
        .split(|c: char| !c.is_alphanumeric())
        .filter(|w| !w.is_empty())
        .map(Into::into)
        .collect();
    words.sort();
    links.sort();
    (words, links)
}

#[test]
fn every_word_and_link_comes_through() {
    let body = options("body", "[]");
    let run = generated::runner(400).run(&fragments::fragment(), |source| {
        let (mut words, mut links) = seen(&source);
        let (mut found, mut found_links) = seen(&html(&source, &body));
        // The words of elements are parted, those of one word with a format inside are not.
        let letters = |words: &mut Vec<String>| {
            let mut letters: Vec<char> = words.concat().chars().collect();
            letters.sort_unstable();
            letters
        };
        prop_assert_eq!(letters(&mut words), letters(&mut found), "{}", source);
        // A link that shows nothing leads nowhere.
        links.dedup();
        found_links.dedup();
        for link in &found_links {
            prop_assert!(links.contains(link), "{} of {}", link, source);
        }
        Ok(())
    });
    run.unwrap();
}

/// Fragments that once came out otherwise the second time.
#[test]
fn known_fragments_stay_clean() {
    const FRAGMENTS: [&str; 16] = [
        "<dl><dt><pre>&amp;\nx",
        "<h1 id=x><br><br>&nbsp;",
        "• <img src=w.png><p id=x>• <img src=w.png><p id='y z'>",
        "<h1><img src=w.png><br>&nbsp;",
        "<b>1. &nbsp;</b>tide",
        "<b>1. <font dir=rtl>&nbsp;</b><font dir=rtl><img src=w.png>",
        "<p><b><sup lang=de>weir &nbsp;</sup></b><img src=w.png>",
        "<p><b>weir\n&nbsp;</b><img src=w.png>",
        "<dl><dt><img src=w.png><h1></h1><dd>x",
        "<ul style='font-weight:bold'>tide<div><!-- remark --><img src=w.png>",
        "<figure><p><center>tide",
        "<ul>tide<hr><center>weir",
        "<ul>tide<hr><center id=x>weir",
        "<ul><center>tide<dt id=x>",
        "<a href=a.html><u class=a>tide",
        "<ul><p lang=de>tide<span class=a><img src=w.png><br><br><img src=w.png>",
    ];
    let clean =
        WriteOptions { house: House::for_cleaning(b"<p>"), ..WriteOptions::format(Format::Html) };
    for fragment in FRAGMENTS {
        let once = html(fragment, &clean);
        assert_eq!(once, html(&once, &clean), "{fragment}");
    }
    // A group that is centred keeps its id where it has one.
    assert!(html("<ul><li>a<center id=x>b</center></ul>", &clean).contains("<div id=\"x\">"));
}

#[test]
fn what_comes_out_clean_stays_so() {
    let number = Cell::new(0);
    let pages = std::env::var_os("OBBLET_FRAGMENT_PAGES").map(std::path::PathBuf::from);
    let clean =
        WriteOptions { house: House::for_cleaning(b"<p>"), ..WriteOptions::format(Format::Html) };
    let page = WriteOptions::house("page").unwrap();
    let run = generated::runner(FRAGMENTS).run(&fragments::fragment(), |source| {
        let once = html(&source, &clean);
        let twice = html(&once, &clean);
        prop_assert_eq!(&once, &twice, "{}", source);
        // For the checker of conformance/run.
        if let Some(folder) = &pages {
            std::fs::create_dir_all(folder).unwrap();
            let name = format!("fragment-{:03}.html", number.replace(number.get() + 1));
            std::fs::write(folder.join(name), html(&source, &page)).unwrap();
        }
        Ok(())
    });
    run.unwrap();
}
