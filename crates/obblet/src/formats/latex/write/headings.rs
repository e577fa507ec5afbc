//! Headings, and the numbers that LaTeX will give them.

use super::Writer;
use crate::document::{Attributes, BlockKind, Document, Heading, Node, Visit, walk};
use crate::findings::Code;

/// What LaTeX counts.
#[derive(Debug, Default)]
pub(super) struct Headings {
    /// Whether any heading has a number: else none is counted.
    pub(super) has_numbers: bool,
    counts: Vec<u32>,
}

impl Headings {
    pub(super) fn of(document: &Document) -> Self {
        let mut has_numbers = false;
        for visit in walk(&document.blocks) {
            if let Visit::Enter(Node::Block(block)) = visit
                && let BlockKind::Heading(heading) = &block.kind
            {
                has_numbers |= heading.number.is_some();
            }
        }
        Self { has_numbers, counts: Vec::new() }
    }

    /// The number that comes next at a level.
    fn next(&mut self, level: u8) -> String {
        let depth = usize::from(level);
        self.counts.resize(depth, 0);
        if let Some(last) = self.counts.last_mut() {
            *last += 1;
        }
        let numbers: Vec<String> = self.counts.iter().map(ToString::to_string).collect();
        numbers.join(".")
    }
}

/// The sectioning commands of an article, and of a class with chapters.
const SECTIONS: [&str; 5] = ["section", "subsection", "subsubsection", "paragraph", "subparagraph"];
const CHAPTERS: [&str; 6] =
    ["chapter", "section", "subsection", "subsubsection", "paragraph", "subparagraph"];

impl Writer<'_> {
    pub(super) fn heading(&mut self, heading: &Heading, attributes: &Attributes) {
        let names: &[&str] = match self.options.has_chapters() {
            true => &CHAPTERS,
            false => &SECTIONS,
        };
        let at = usize::from(heading.level.max(1)) - 1;
        let name = names.get(at).copied().unwrap_or("subparagraph");
        if at >= names.len() {
            self.lost("a heading level below all that LaTeX has");
        }
        if self.is_argument || self.is_cell {
            self.lost("a heading inside of a note or table");
            let words = self.as_argument(|writer| writer.inlines(&heading.content));
            return self.out.push_str(&format!("\\textbf{{{words}}}\n"));
        }
        let (star, number) = self.heading_number(heading);
        self.paragraph_break();
        let words = self.as_argument(|writer| {
            if let Some(task) = &heading.task {
                writer.text(&task.keyword);
                writer.out.push(' ');
                writer.lost("the dates and the state of a task");
            }
            writer.out.push_str(&number);
            writer.inlines(&heading.content);
            for tag in &heading.tags {
                writer.text(&format!(" {tag}"));
            }
        });
        self.out.push_str(&format!("\\{name}{star}{{{words}}}"));
        let label = self.label(attributes);
        self.out.push_str(&label);
        self.out.push('\n');
    }

    /// A star, and a number that has to be written out because LaTeX would count another one.
    fn heading_number(&mut self, heading: &Heading) -> (&'static str, String) {
        let Some(number) = &heading.number else {
            let is_counted = self.headings.has_numbers && heading.level <= 3;
            return (if is_counted { "*" } else { "" }, String::new());
        };
        if heading.level <= 3 {
            let before = self.headings.counts.clone();
            if self.headings.next(heading.level) == number.as_str() {
                return ("", String::new());
            }
            self.headings.counts = before;
        }
        self.findings.count(Code::NumberAsText, number, Some(self.place));
        let number = format!("{number} ");
        ("*", self.as_argument(|writer| writer.text(&number)))
    }
}
