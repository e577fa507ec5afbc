#![allow(clippy::unwrap_used, missing_docs)]
mod tree;
use obblet::{Format, ReadOptions, WriteOptions, read, write};
#[test]
fn zz() {
    let s = std::fs::read("/tmp/z.org").unwrap();
    let mut o = ReadOptions::default();
    o.org.keeps_hidden = std::env::var("HID").is_ok();
    let d = read(&s, Format::Org, &o).unwrap().document;
    println!("TREE\n{}", tree::of(&d.blocks));
    let w = write(&d, &WriteOptions::format(Format::Org)).unwrap();
    println!("ORG\n{}", w.text());
    let e = read(&w.bytes, Format::Org, &o).unwrap().document;
    println!("TREE\n{}", tree::of(&e.blocks));
    println!("ORG\n{}", write(&e, &WriteOptions::format(Format::Org)).unwrap().text());
}
