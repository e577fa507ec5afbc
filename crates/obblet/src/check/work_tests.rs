//! What would take a careless checker forever takes work in proportion to its length.

use super::{CheckOptions, check};
use crate::format::Format;
use crate::work::assert_linear;

const PIECES: [(&str, &str, usize); 10] = [
    ("nested blocks", "<div>", 2000),
    ("links in links", "<a href=x>", 1000),
    ("ids", "<p id=a>", 2000),
    ("lonely ends", "</b>", 2000),
    ("nested tables", "<table>", 500),
    ("groups of terms", "<dl><div>", 500),
    ("comments", "<!--", 2000),
    ("broken links", "[a](#b) ", 1000),
    ("signs", "& < > \" '", 1000),
    ("less-than signs", "<", 4000),
];

#[test]
fn hostile_pages_take_work_in_proportion_to_their_length() {
    let options = CheckOptions::default();
    for (name, piece, size) in PIECES {
        for format in [Format::Html, Format::Markdown] {
            let work = |text: &str| assert!(check(text.as_bytes(), format, &options, &()).is_ok());
            assert_linear(name, size, |n| piece.repeat(n), work);
        }
    }
    let names = |n: usize| "<p aria-labelledby=\"".to_string() + &"a ".repeat(n) + "\">";
    let spans =
        |n: usize| "<table><tr>".to_string() + &"<td colspan=1000 rowspan=65534>x".repeat(n);
    let work = |text: &str| assert!(check(text.as_bytes(), Format::Html, &options, &()).is_ok());
    assert_linear("ids in one attribute", 2000, names, work);
    assert_linear("cells that reach far", 200, spans, work);
}
