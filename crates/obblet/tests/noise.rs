//! Pages as programs really save and paste them, and what is left of them: `NAME.html` in
//! `fixtures/noise` becomes `NAME.clean`, byte for byte.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

use obblet::{Format, House, WriteOptions, convert};
use std::fs;
use std::path::Path;

fn cleaned(source: &[u8]) -> String {
    let house = House::for_cleaning(source);
    let options = WriteOptions { house, ..WriteOptions::format(Format::Html) };
    convert(source, Format::Html, &options).unwrap().text().to_string()
}

#[test]
fn pages_come_out_clean_and_stay_so() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/fixtures/noise");
    let mut names: Vec<_> =
        fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()).collect();
    names.retain(|path| path.extension().is_some_and(|extension| extension == "html"));
    names.sort();
    assert!(names.len() >= 15, "{} pages", names.len());
    let mut faults = Vec::new();
    for path in names {
        let clean = cleaned(&fs::read(&path).unwrap());
        let wanted = fs::read_to_string(path.with_extension("clean")).unwrap_or_default();
        let name = path.file_stem().unwrap().to_string_lossy().into_owned();
        if clean != wanted {
            faults.push(format!("{name}\n--- wanted\n{wanted}--- found\n{clean}"));
        }
        let again = cleaned(clean.as_bytes());
        if again != clean {
            faults.push(format!("{name}, a second time\n--- once\n{clean}--- twice\n{again}"));
        }
    }
    assert!(faults.is_empty(), "{}", faults.join("\n"));
}
