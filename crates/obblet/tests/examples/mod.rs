//! Texts to try things on: the specifications' examples, where they are to be found, and the demo.

#![allow(dead_code, reason = "each test uses what it needs")]

use serde_json::Value;
use std::path::{Path, PathBuf};

/// Every example of the specifications, by name; none when the files are not there.
pub(crate) fn of_specifications() -> Vec<(String, String)> {
    let mut examples = Vec::new();
    for file in ["commonmark-0.31.2.json", "gfm-0.29-extensions.json"] {
        let Some(path) = example_file(file) else { continue };
        let list: Vec<Value> = serde_json::from_slice(&std::fs::read(path).unwrap()).unwrap();
        for example in list {
            let number = example["number"].as_u64().or(example["example"].as_u64()).unwrap();
            let text = example["markdown"].as_str().unwrap().to_string();
            examples.push((format!("{file} {number}"), text));
        }
    }
    examples
}

/// The Markdown files of the demo.
pub(crate) fn of_demo() -> Vec<(String, String)> {
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../obblet-cli/demo");
    let files = ["visitor-guide.md", "high-water.md", "work/repairs.md"];
    files.map(|file| (file.to_string(), std::fs::read_to_string(demo.join(file)).unwrap())).to_vec()
}

/// Where an example file is; see the conformance test.
pub(crate) fn example_file(name: &str) -> Option<PathBuf> {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let named = std::env::var_os("OBBLET_CONFORMANCE").map(PathBuf::from);
    let folders =
        [named, Some(root.join("../shared/conformance")), Some(root.join("target/conformance"))];
    folders.into_iter().flatten().map(|folder| folder.join(name)).find(|path| path.is_file())
}
