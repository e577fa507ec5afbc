//! Repair passes on the cases in `fixtures/repair.txt`, and each of them twice on generated documents.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod fixture;
mod generated;

use obblet::document::Document;
use obblet::findings::Findings;
use obblet::house::SETTINGS;
use obblet::repair::Repair;
use obblet::{Format, House, WriteOptions, convert};
use proptest::prelude::*;

/// The house `body` with every pass off but those a case names.
fn options(passes: &str) -> WriteOptions {
    let mut options = WriteOptions::house("body").unwrap();
    let switches = SETTINGS.iter().filter(|setting| setting.takes() == "true or false");
    for setting in switches.filter(|setting| setting.key.starts_with("repairs.")) {
        options.house.set(setting.key, "false").unwrap();
    }
    options.house.set("repairs.sources", "[\"html\", \"markdown\"]").unwrap();
    for pass in passes.lines() {
        let (key, value) = pass.split_once('=').unwrap_or((pass, "true"));
        let group = if key == "punctuation" { "characters" } else { "repairs" };
        options.house.set(&format!("{group}.{key}"), value).unwrap();
    }
    options
}

#[test]
fn cases_are_repaired_as_they_say() {
    fixture::check("repair.txt", |case| {
        let options = options(case.part("passes"));
        let written = convert(case.part("source").as_bytes(), Format::Html, &options).unwrap();
        // A body says no language; the page around it does.
        let page = case.part("source").split_inclusive('>').next().unwrap();
        let page = if page.starts_with("<html") { page } else { "" };
        let again = format!("{page}{}", written.text());
        let again = convert(again.as_bytes(), Format::Html, &options).unwrap();
        let stable = if again.text() == written.text() { "" } else { again.text() };
        let lines: Vec<String> = written.findings.iter().map(|f| f.line("p")).collect();
        vec![
            ("html", written.text().to_string()),
            ("findings", lines.join("\n")),
            ("again", stable.to_string()),
        ]
    });
}

/// A pass that has run finds nothing more to do, whatever the document.
#[test]
fn every_pass_is_done_after_one_run() {
    // The generator's nested strategies need more room than a test thread has.
    let thread = std::thread::Builder::new().stack_size(256 << 20).spawn(generated_documents);
    thread.unwrap().join().unwrap();
}

fn generated_documents() {
    let mut house = House::default();
    house.repairs.manual_breaks = true;
    house.repairs.bold_headings = true;
    house.repairs.heading_levels = true;
    house.repairs.one_top_heading = true;
    house.characters.punctuation = obblet::repair::PunctuationForm::Typographic;
    let passes = house.repairs_for(Format::Html);
    let run = generated::runner(60).run(&generated::document(), |document| {
        for pass in passes.iter() {
            let once = repaired(&document, pass).0;
            let (twice, findings) = repaired(&once, pass);
            prop_assert_eq!(&once, &twice, "{:?}", pass);
            prop_assert!(findings.is_empty(), "{:?}: {:?}", pass, findings);
        }
        Ok(())
    });
    run.unwrap();
}

fn repaired(document: &Document, pass: &dyn Repair) -> (Document, Findings) {
    let mut document = document.clone();
    let mut findings = Findings::new();
    pass.repair(&mut document, &mut findings);
    (document, findings)
}
