//! An Org file to an HTML body, against html5ever parsing that body.
//!
//! The result is checked before anything is timed.
//!
//! ```text
//! cargo bench -p obblet --bench org
//! ```

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a bench fails by panicking")]

mod ratio;

use html5ever::tendril::TendrilSink;
use html5ever::{ParseOpts, parse_document};
use markup5ever_rcdom::RcDom;
use obblet::{Format, WriteOptions, convert};

/// Bytes of the file.
const FILE: usize = 5 << 20;

/// One tree: a task with dates and properties, text with objects, lists, a table, code, notes.
const TREE: &str = r#"* TODO The wheel turns NUMBER                                    :wheel:oak:
SCHEDULED: <2026-12-01 Tue>
:PROPERTIES:
:CUSTOM_ID: wheel-NUMBER
:EFFORT:   2h
:END:
The miller of {{{mill}}} opened the /sluice/ at half past four, as every day since the year 1893, and
the water of the pond went *under the wheel* and out to sea --- as it ought to, he said. Of what the
wheel gave, the stones took the most; the rest went into the hoist and, some winters, the lamp.

When the moon was new the tide ran high, and the wheel turned for five hours and a quarter; when it
was at its half, the pond filled only to the third mark, and there was little to grind.[fn::The marks
are of oak, and older than the mill.] See [[#wheel-NUMBER][this one]], table [[tab-NUMBER]] or
https://mill.example/tides for the times, and =pond.py= for what \(P = \rho g Q H\) comes to.

** What it gives [1/2]
- [X] Oak for the floats, elm for the /race/, and iron where water and wood would not agree.
- [ ] A gate that a child can lift, because it once had to:
  1. the old one, of 1893
  2. the one from 1921
- Head :: what the water falls through

#+CAPTION: Heads of a week
#+NAME: tab-NUMBER
| Day       | Head | Hours |
|-----------+------+-------|
| Monday    |  3.2 |     5 |
| Tuesday   |  3.0 |     5 |
| Wednesday |  2.7 |     4 |

#+begin_src python :exports code
def power(head, flow):
    return 9.81 * head * flow
#+end_src

#+begin_quote
Iron rusts, oak learns.
#+end_quote

"#;

fn main() {
    let (size, rounds) = ratio::workload(FILE);
    let trees = size / TREE.len();
    let mut file = String::from("#+TITLE: The mill\n#+MACRO: mill the /Marrowby/ mill\n\n");
    for number in 0..trees {
        file.push_str(&TREE.replace("NUMBER", &number.to_string()));
    }
    let html = converted(&file);
    let count = |wanted: &str| html.matches(wanted).count();
    assert_eq!(
        (count("<h1"), count("<table"), count("<pre"), count("doc-noteref")),
        (trees, trees, trees, trees)
    );
    println!("file {} bytes, page {} bytes, {rounds} rounds", file.len(), html.len());
    let ours = || converted(&file).len();
    let reference = || parse_document(RcDom::default(), ParseOpts::default()).one(html.as_str());
    ratio::report("Org to HTML", "html5ever on that HTML", file.len(), rounds, ours, reference);
}

fn converted(file: &str) -> String {
    let options = WriteOptions::house("body").expect("a built-in house");
    let written = convert(file.as_bytes(), Format::Org, &options).expect("Org");
    String::from_utf8(written.bytes).expect("HTML is text")
}
