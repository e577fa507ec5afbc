//! Runs every example of the CommonMark and GFM specifications through reader and writer, and
//! compares with the specification's HTML as parsed trees.
//!
//! The example files are no part of the project. They are looked for in the folder that
//! `OBBLET_CONFORMANCE` names, in `../shared/conformance` beside the workspace, and in
//! `target/conformance`, where `scripts/fetch-specs` puts them. Without them these tests are
//! counted as ignored.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod examples;
mod parsed;

use libtest_mimic::{Arguments, Failed, Trial};
use obblet::formats::html::{HtmlWriteOptions, RawHtml, write_body};
use obblet::formats::markdown::{Dialect, MarkdownReadOptions, Switches, read};
use parsed::canonical;
use serde_json::Value;
use std::path::Path;

/// One example file: its name, the dialect it is about, and how many examples it has.
struct Suite {
    file: &'static str,
    switches: Switches,
    examples: usize,
}

const SUITES: [Suite; 2] = [
    Suite { file: "commonmark-0.31.2.json", switches: Dialect::Standard.switches(), examples: 652 },
    Suite { file: "gfm-0.29-extensions.json", switches: Dialect::Forge.switches(), examples: 28 },
];

fn main() {
    let arguments = Arguments::from_args();
    let trials = SUITES.iter().map(|suite| {
        let path = examples::example_file(suite.file);
        let missing = path.is_none();
        if missing {
            eprintln!("{}: not found; run scripts/fetch-specs to test against it", suite.file);
        }
        Trial::test(suite.file, move || run(suite, path.as_deref())).with_ignored_flag(missing)
    });
    libtest_mimic::run(&arguments, trials.collect()).exit();
}

fn run(suite: &Suite, path: Option<&Path>) -> Result<(), Failed> {
    let path = path.ok_or("the example file is missing")?;
    let examples: Vec<Value> = serde_json::from_slice(&std::fs::read(path)?)?;
    assert_eq!(examples.len(), suite.examples, "examples in {}", suite.file);
    let mut passed = 0;
    for example in &examples {
        let text = |key: &str| example[key].as_str().unwrap_or_default();
        let written = html_of(text("markdown"), suite.switches);
        if canonical(&written) == canonical(text("html")) {
            passed += 1;
        } else {
            println!("{} {} ({})", suite.file, example["number"], text("section"));
            if std::env::var_os("OBBLET_SHOW").is_some() {
                println!(
                    "--- source\n{}--- wanted\n{}--- got\n{written}",
                    text("markdown"),
                    text("html")
                );
            }
        }
    }
    println!("{}: {passed} of {} examples pass", suite.file, examples.len());
    if passed < examples.len() {
        return Err(format!("{passed} of {} examples pass", examples.len()).into());
    }
    Ok(())
}

fn html_of(markdown: &str, switches: Switches) -> String {
    let (document, _) = read(markdown, &MarkdownReadOptions { switches });
    let options = HtmlWriteOptions {
        heading_ids: false,
        header_scopes: false,
        raw_html: RawHtml::Trusted,
        ..HtmlWriteOptions::default()
    };
    write_body(&document, &options).map(|(body, _)| body.html).unwrap_or_default()
}
