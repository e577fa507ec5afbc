//! Headings, and the numbers that LaTeX will give them.

use super::Writer;
use crate::document::{
    Attributes, Block, BlockKind, CompactString, Document, Heading, Node, NumeralStyle, Visit, walk,
};
use crate::findings::Code;
use std::collections::HashSet;

/// What LaTeX counts.
#[derive(Debug, Default)]
pub(super) struct Headings {
    /// Whether the highest headings are parts: their numbers are Roman, and the sections below are
    /// counted on.
    has_parts: bool,
    /// Whether what follows is counted by letters.
    is_appendix: bool,
    /// Whether any heading has a number: else none is counted.
    pub(super) has_numbers: bool,
    counts: Vec<u32>,
    /// The ids of headings that LaTeX counts no number for.
    numberless: HashSet<CompactString>,
}

/// How a heading comes by its number.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum HeadingNumber {
    /// It has none; where others have, a star says so.
    None { is_starred: bool },
    /// LaTeX counts it, as the source does.
    Counted { begins_appendix: bool },
    /// LaTeX would count another one: it is a part of the words.
    AsText,
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
        let numbers: Vec<&str> = top_numbers(document);
        let is_part = |(at, number): (usize, &&str)| {
            let count = i32::try_from(at + 1).unwrap_or(i32::MAX);
            **number == NumeralStyle::UpperRoman.spell(count)
        };
        let has_parts = !numbers.is_empty() && numbers.iter().enumerate().all(is_part);
        let mut headings = Self { has_numbers, has_parts, ..Self::default() };
        headings.numberless = headings.without_numbers(document);
        headings
    }

    fn without_numbers(&self, document: &Document) -> HashSet<CompactString> {
        let mut counter =
            Self { has_numbers: self.has_numbers, has_parts: self.has_parts, ..Self::default() };
        let mut numberless = HashSet::new();
        for visit in walk(&document.blocks) {
            let Visit::Enter(Node::Block(block)) = visit else { continue };
            let BlockKind::Heading(heading) = &block.kind else { continue };
            if !matches!(counter.number(heading), HeadingNumber::Counted { .. }) {
                numberless.extend(block.attributes.id().map(CompactString::from));
            }
        }
        numberless
    }

    /// Whether nothing counts the heading that a reference names, so that it has no number to show.
    pub(super) fn lacks_number(&self, target: &str) -> bool {
        self.numberless.contains(target)
    }

    /// How the next heading comes by its number; counts it.
    fn number(&mut self, heading: &Heading) -> HeadingNumber {
        let Some(number) = &heading.number else {
            let deepest = 3 + u8::from(self.has_parts);
            let is_starred = self.has_numbers && heading.level <= deepest;
            return HeadingNumber::None { is_starred };
        };
        let level = heading.level.saturating_sub(u8::from(self.has_parts));
        if level == 0 {
            return HeadingNumber::Counted { begins_appendix: false };
        }
        let begins_appendix = level == 1 && number.as_str() == "A" && !self.is_appendix;
        if begins_appendix {
            self.is_appendix = true;
            self.counts.clear();
        }
        if level > 3 {
            return HeadingNumber::AsText;
        }
        let before = self.counts.clone();
        if self.next(level) == number.as_str() {
            return HeadingNumber::Counted { begins_appendix };
        }
        self.counts = before;
        HeadingNumber::AsText
    }

    /// The number that comes next at a level of sections.
    fn next(&mut self, level: u8) -> String {
        let depth = usize::from(level);
        self.counts.resize(depth, 0);
        if let Some(last) = self.counts.last_mut() {
            *last += 1;
        }
        let spelled = |(at, count): (usize, &u32)| match at {
            0 if self.is_appendix => {
                NumeralStyle::UpperLetter.spell(i32::try_from(*count).unwrap_or(i32::MAX))
            }
            _ => count.to_string(),
        };
        self.counts.iter().enumerate().map(spelled).collect::<Vec<_>>().join(".")
    }
}

impl Headings {
    /// The number of the section that is being written.
    pub(super) fn section(&self) -> String {
        let count = self.counts.first().copied().unwrap_or(0);
        match self.is_appendix {
            true => NumeralStyle::UpperLetter.spell(i32::try_from(count).unwrap_or(i32::MAX)),
            false => count.to_string(),
        }
    }
}

/// The numbers of the highest headings.
fn top_numbers(document: &Document) -> Vec<&str> {
    let of_block = |block: &'_ Block| match &block.kind {
        BlockKind::Heading(heading) if heading.level == 1 => heading.number.is_some(),
        _ => false,
    };
    let numbers = document.blocks.iter().filter(|block| of_block(block));
    numbers
        .filter_map(|block| match &block.kind {
            BlockKind::Heading(heading) => heading.number.as_deref(),
            _ => None,
        })
        .collect()
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
        let name = match (self.headings.has_parts, at) {
            (true, 0) => "part",
            (true, at) => names.get(at - 1).copied().unwrap_or("subparagraph"),
            (false, at) => names.get(at).copied().unwrap_or("subparagraph"),
        };
        if at >= names.len() + usize::from(self.headings.has_parts) {
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
        match self.headings.number(heading) {
            HeadingNumber::None { is_starred } => {
                (if is_starred { "*" } else { "" }, String::new())
            }
            HeadingNumber::Counted { begins_appendix } => {
                if begins_appendix {
                    self.paragraph_break();
                    self.out.push_str("\\appendix\n");
                }
                if heading.level == 1 + u8::from(self.headings.has_parts) {
                    self.numbers.begin_section();
                }
                ("", String::new())
            }
            HeadingNumber::AsText => {
                let number = heading.number.as_deref().unwrap_or_default();
                self.findings.count(Code::NumberAsText, number, Some(self.place));
                ("*", self.as_argument(|writer| writer.text(&format!("{number} "))))
            }
        }
    }
}
