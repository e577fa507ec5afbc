//! Converts one document to a whole HTML page, and says what it could not carry.
//!
//! ```text
//! cargo run -p obblet --example convert_one -- handbook.docx handbook.html
//! ```

use obblet::{Format, WriteOptions, convert};
use std::error::Error;
use std::fs;

fn main() -> Result<(), Box<dyn Error>> {
    let mut arguments = std::env::args().skip(1);
    let (Some(source), Some(target)) = (arguments.next(), arguments.next()) else {
        return Err("usage: convert_one SOURCE TARGET".into());
    };
    let bytes = fs::read(&source)?;
    let format = Format::of_file_name(&source).unwrap_or_else(|| Format::detect(&bytes));

    // The library writes no files: without a folder for pictures, they are embedded in the page.
    let mut options = WriteOptions::house("page")?;
    options.house.set("page.contents", "2")?;
    let written = convert(&bytes, format, &options)?;

    fs::write(&target, &written.bytes)?;
    println!("{target}: {}", written.title.as_deref().unwrap_or("no title"));
    for finding in &written.findings {
        println!("{}", finding.line(&source));
    }
    Ok(())
}
