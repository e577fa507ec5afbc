//! Publishes a folder: says what is to be done and why, does it, and says what became of each file.
//!
//! ```text
//! cargo run -p obblet-publish --example publish_folder -- texts web
//! ```

use obblet_publish::{OutcomeKind, Plan, PublishOptions, Watcher, publish};
use std::error::Error;
use std::path::Path;

/// Counts the steps of a run aloud.
struct Counter;

impl Watcher for Counter {
    fn begins(&self, steps: usize) {
        println!("{steps} steps");
    }

    fn step(&self, file: &str) {
        println!("  {file}");
    }
}

fn main() -> Result<(), Box<dyn Error>> {
    let mut arguments = std::env::args().skip(1);
    let (Some(folder), Some(output)) = (arguments.next(), arguments.next()) else {
        return Err("usage: publish_folder FOLDER OUTPUT".into());
    };
    let options = PublishOptions { title: Some("All documents".into()), ..Default::default() };
    let plan = Plan::of(Path::new(&folder), Path::new(&output), &options)?;
    for entry in plan.entries() {
        println!("{}: {}, {}", entry.source, entry.state.word(), entry.why);
    }
    let report = publish(&plan, &options, &Counter)?;
    for outcome in &report.outcomes {
        println!("{}: {}", outcome.target, outcome.kind.word());
    }
    println!("{} pages", report.count(OutcomeKind::Converted));
    Ok(())
}
