//! Publishes a folder, with a line for every file as it is done.
//!
//! ```text
//! cargo run -p obblet-publish --example publish_folder -- texts web
//! ```

use obblet_publish::{Outcome, OutcomeKind, Plan, PublishOptions, Watcher, publish};
use std::error::Error;
use std::path::Path;

/// Prints each file once it is done; called from all workers.
struct Printer;

impl Watcher for Printer {
    fn begins(&self, files: usize) {
        println!("{files} files");
    }

    fn done(&self, outcome: &Outcome) {
        println!("{}: {}", outcome.source, outcome.kind.word());
    }
}

fn main() -> Result<(), Box<dyn Error>> {
    let mut arguments = std::env::args().skip(1);
    let (Some(folder), Some(output)) = (arguments.next(), arguments.next()) else {
        return Err("usage: publish_folder FOLDER OUTPUT".into());
    };
    let options = PublishOptions { title: Some("All documents".into()), ..Default::default() };
    let plan = Plan::of(Path::new(&folder), Path::new(&output), &options)?;
    let report = publish(&plan, &options, &Printer)?;
    println!("{} pages", report.count(OutcomeKind::Converted));
    Ok(())
}
