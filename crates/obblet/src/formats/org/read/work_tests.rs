//! Texts of any kind take work in proportion to their length.

use super::read;
use crate::formats::org::OrgReadOptions;
use crate::work::assert_linear;

/// Pieces that are repeated, with how often.
const PIECES: [(&str, &str, usize); 24] = [
    (
        "a page",
        "* A\n:PROPERTIES:\n:K: v\n:END:\nText /of/ *all* [[x][y]] ~c~.\n- a\n- b\n\n|a|b|\n|--|\n|1|2|\n#+begin_src sh\nx\n#+end_src\n",
        30,
    ),
    ("items in one line", "- ", 1000),
    ("open blocks", "#+begin_quote\n", 500),
    ("wrong ends", "#+begin_a\n#+end_b\n", 500),
    ("lonely ends", "#+end_quote\n", 500),
    ("drawers", ":A:\n", 500),
    ("dynamic blocks", "#+begin: x\n", 500),
    ("environments", "\\begin{equation}\n", 500),
    ("open notes", "[fn::", 500),
    ("open links", "[[", 500),
    ("half links", "[[a][", 500),
    ("open emphasis", "*a ", 500),
    ("emphasis of all kinds", "*/_+", 500),
    ("subscripts", "a_{", 500),
    ("macros", "{{{a(", 500),
    ("inline code", "src_a[", 500),
    ("targets", "<<", 500),
    ("radio targets", "<<<a", 500),
    ("dollars", "$a", 500),
    ("formulas", "\\(", 500),
    ("snippets", "@@html:", 500),
    ("citations", "[cite:@a;", 500),
    ("dates", "<2026-12-01 ", 500),
    ("captions", "#+CAPTION: a\n", 500),
];

#[test]
fn hostile_texts_take_work_in_proportion_to_their_length() {
    let options = OrgReadOptions::default();
    for (name, piece, size) in PIECES {
        assert_linear(
            name,
            size,
            |n| piece.repeat(n),
            |text| drop(read(&text.into(), &options, &())),
        );
    }
}
