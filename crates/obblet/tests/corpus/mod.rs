//! Long Markdown for what is measured: prose, lists, tables, code, links, raw HTML.

/// The demo's texts without their front matter, over and over with other numbers.
pub(crate) fn corpus(size: usize) -> String {
    let texts = [
        include_str!("../../../obblet-cli/demo/visitor-guide.md"),
        include_str!("../../../obblet-cli/demo/high-water.md"),
        include_str!("../../../obblet-cli/demo/work/repairs.md"),
    ];
    let bodies = texts.map(|text| text.splitn(3, "---\n").nth(2).unwrap_or_default());
    let mut corpus = String::with_capacity(size + (1 << 14));
    let mut number = 0;
    while corpus.len() < size {
        let body = bodies[number % bodies.len()];
        number += 1;
        corpus.push_str(&body.replace("20", &format!("{}", 20 + number % 70)));
        corpus.push_str("\n\n");
    }
    corpus
}
