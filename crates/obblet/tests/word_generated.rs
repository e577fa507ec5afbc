//! Word documents made at random: every visible word comes out, in order, and the counts of
//! headings, items, cells, links and notes are those that were put in.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod package;

use obblet::document::{BlockKind, Document, Inline, Node, Visit, plain_text, walk};
use obblet::{Format, ReadOptions, WriteOptions, read, write};
use package::{TRANSITIONAL, package, relationship, relationships};
use proptest::prelude::*;

/// One thing of a generated document.
#[derive(Debug, Clone)]
enum Part {
    Text(Vec<Run>),
    Heading(u8, Vec<Run>),
    /// Level and list.
    Item(u8, u8, Vec<Run>),
    /// Rows of cells of runs, all rows of one width.
    Table(Vec<Vec<Vec<Run>>>),
}

/// A run: a word, and what is special about it.
#[derive(Debug, Clone)]
struct Run {
    word: String,
    bold: bool,
    italic: bool,
    linked: bool,
    noted: bool,
}

fn run() -> impl Strategy<Value = Run> {
    let flags =
        (any::<bool>(), any::<bool>(), prop::bool::weighted(0.15), prop::bool::weighted(0.1));
    ("[a-zé&<]{1,6}", flags).prop_map(|(word, (bold, italic, linked, noted))| Run {
        word,
        bold,
        italic,
        linked,
        noted,
    })
}

fn runs() -> impl Strategy<Value = Vec<Run>> {
    prop::collection::vec(run(), 1..4)
}

fn part() -> impl Strategy<Value = Part> {
    prop_oneof![
        3 => runs().prop_map(Part::Text),
        1 => (1u8..=6, runs()).prop_map(|(level, runs)| Part::Heading(level, runs)),
        3 => (0u8..3, 1u8..=2, runs()).prop_map(|(level, list, runs)| Part::Item(level, list, runs)),
        1 => (1usize..4, prop::collection::vec(runs(), 1..9)).prop_map(|(width, cells)| {
            let whole = cells.len() / width * width;
            Part::Table(cells[..whole].chunks(width).map(<[_]>::to_vec).collect())
        }),
    ]
}

/// What was put in.
#[derive(Debug, Default, PartialEq, Eq)]
struct Counts {
    words: String,
    headings: usize,
    items: usize,
    cells: usize,
    links: usize,
    notes: usize,
}

#[derive(Default)]
struct Maker {
    counts: Counts,
    notes: Vec<String>,
}

impl Maker {
    fn runs(&mut self, runs: &[Run]) -> String {
        runs.iter().map(|run| self.run(run)).collect()
    }

    fn run(&mut self, run: &Run) -> String {
        self.counts.words.push_str(&run.word);
        let on = |name: &str, on: bool| if on { format!("<w:{name}/>") } else { String::new() };
        let properties = on("b", run.bold) + &on("i", run.italic);
        let word = run.word.replace('&', "&amp;").replace('<', "&lt;");
        let mut xml = format!(
            "<w:r><w:rPr>{properties}</w:rPr><w:t xml:space=\"preserve\">{word}</w:t></w:r>"
        );
        if run.linked {
            self.counts.links += 1;
            xml = format!("<w:hyperlink w:anchor=\"there\">{xml}</w:hyperlink>");
        }
        if run.noted {
            self.counts.notes += 1;
            self.notes.push(format!("note {}", self.counts.notes));
            xml.push_str(&format!(
                "<w:r><w:footnoteReference w:id=\"{}\"/></w:r>",
                self.counts.notes
            ));
        }
        xml
    }

    fn paragraph(&mut self, properties: &str, runs: &[Run]) -> String {
        format!("<w:p><w:pPr>{properties}</w:pPr>{}</w:p>", self.runs(runs))
    }

    fn part(&mut self, part: &Part) -> String {
        match part {
            Part::Text(runs) => self.paragraph("", runs),
            Part::Heading(level, runs) => {
                self.counts.headings += 1;
                self.paragraph(&format!("<w:outlineLvl w:val=\"{}\"/>", level - 1), runs)
            }
            Part::Item(level, list, runs) => {
                self.counts.items += 1;
                let number = format!(
                    "<w:numPr><w:ilvl w:val=\"{level}\"/><w:numId w:val=\"{list}\"/></w:numPr>"
                );
                self.paragraph(&number, runs)
            }
            Part::Table(rows) => {
                let mut xml = String::from("<w:tbl>");
                for row in rows {
                    xml.push_str("<w:tr>");
                    for cell in row {
                        self.counts.cells += 1;
                        xml.push_str(&format!("<w:tc>{}</w:tc>", self.paragraph("", cell)));
                    }
                    xml.push_str("</w:tr>");
                }
                xml + "</w:tbl>"
            }
        }
    }
}

fn numbering() -> String {
    let level = |at: u8, format: &str| {
        format!(
            "<w:lvl w:ilvl=\"{at}\"><w:numFmt w:val=\"{format}\"/><w:lvlText w:val=\"%{}.\"/></w:lvl>",
            at + 1
        )
    };
    let list = |id: u8, format: &str| {
        let levels: String = (0..3).map(|at| level(at, format)).collect();
        format!("<w:abstractNum w:abstractNumId=\"{id}\">{levels}</w:abstractNum>")
    };
    let number =
        |id: u8| format!("<w:num w:numId=\"{id}\"><w:abstractNumId w:val=\"{id}\"/></w:num>");
    list(1, "decimal") + &list(2, "bullet") + &number(1) + &number(2)
}

/// The package, and what was put into it.
fn made(parts: &[Part]) -> (Vec<u8>, Counts) {
    let mut maker = Maker::default();
    let body: String = parts.iter().map(|part| maker.part(part)).collect();
    let notes: String = maker
        .notes
        .iter()
        .enumerate()
        .map(|(index, text)| {
            format!(
                "<w:footnote w:id=\"{}\"><w:p><w:r><w:t>{text}</w:t></w:r></w:p></w:footnote>",
                index + 1
            )
        })
        .collect();
    let root = |name: &str, inner: &str| {
        format!("<w:{name} xmlns:w=\"{TRANSITIONAL}\">{inner}</w:{name}>").into_bytes()
    };
    let own = relationship("n", "numbering", "n.xml") + &relationship("f", "footnotes", "f.xml");
    let bytes = package(&[
        ("_rels/.rels", relationships(&relationship("m", "officeDocument", "d.xml"))),
        ("_rels/d.xml.rels", relationships(&own)),
        ("d.xml", root("document", &format!("<w:body>{body}</w:body>"))),
        ("n.xml", root("numbering", &numbering())),
        ("f.xml", root("footnotes", &notes)),
    ]);
    (bytes, maker.counts)
}

/// What came out.
fn counted(document: &Document) -> Counts {
    let mut counts = Counts { notes: document.notes.len(), ..Counts::default() };
    for visit in walk(&document.blocks) {
        let Visit::Enter(node) = visit else { continue };
        match node {
            Node::Block(block) => match &block.kind {
                BlockKind::Heading(_) => counts.headings += 1,
                BlockKind::Paragraph(_) | BlockKind::List(_) | BlockKind::Table(_) => {}
                other => panic!("nobody put in {other:?}"),
            },
            Node::Item(_) => counts.items += 1,
            Node::Cell(_) => counts.cells += 1,
            Node::Inline(Inline::Link(_)) => counts.links += 1,
            Node::Inline(text @ Inline::Text(_)) => {
                counts.words.push_str(&plain_text(std::slice::from_ref(text)));
            }
            _ => {}
        }
    }
    counts
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    #[test]
    fn what_goes_in_comes_out(parts in prop::collection::vec(part(), 1..12)) {
        let (bytes, put_in) = made(&parts);
        let reading = read(&bytes, Format::Word, &ReadOptions::default()).unwrap();
        prop_assert_eq!(counted(&reading.document), put_in);
        prop_assert_eq!(reading.findings.iter().count(), 0);

        // The page shows the same words, and a way back from every note.
        let written = write(&reading.document, &WriteOptions::house("body").unwrap()).unwrap();
        let backs = written.text().matches("role=\"doc-backlink\"").count();
        prop_assert_eq!(backs, reading.document.notes.len());
        for note in &reading.document.notes {
            let BlockKind::Paragraph(content) = &note.content[0].kind else { panic!() };
            prop_assert!(written.text().contains(&plain_text(content)));
        }
    }

    /// The same bytes give the same document and the same page.
    #[test]
    fn reading_and_writing_are_the_same_every_time(parts in prop::collection::vec(part(), 1..6)) {
        let (bytes, _) = made(&parts);
        let once = || {
            let reading = read(&bytes, Format::Word, &ReadOptions::default()).unwrap();
            let written = write(&reading.document, &WriteOptions::house("page").unwrap()).unwrap();
            (reading.document, written.bytes)
        };
        prop_assert_eq!(once(), once());
    }
}
