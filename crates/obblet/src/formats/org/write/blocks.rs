//! Blocks.

use super::Writer;
use super::attributes::of_picture;
use super::escape::Surroundings;
use crate::document::{
    Attributes, Block, BlockKind, BreakKind, ContentsKind, ContentsList, Figure, Foreign,
    Formatted, Formatting, Heading, Inline,
};
use crate::findings::Code;
use crate::formats::org::ORG;
use crate::work;

/// The name of the file that the works of a document are to be in.
pub(super) const WORKS: &str = "works.bib";

impl Writer<'_> {
    pub(super) fn blocks(&mut self, blocks: &[Block]) {
        for block in blocks {
            work::count_output(self.out.len());
            if work::is_over() {
                return;
            }
            self.place = block.place;
            self.block(block);
        }
    }

    /// A blank line, unless nothing stands before it.
    pub(super) fn blank_line(&mut self) {
        if !self.is_start
            && !self.is_behind_heading
            && !self.out.is_empty()
            && !self.out.ends_with("\n\n")
        {
            self.out.push('\n');
        }
        self.is_behind_heading = false;
    }

    pub(super) fn block(&mut self, block: &Block) {
        let attributes = &block.attributes;
        if let BlockKind::Heading(heading) = &block.kind
            && self.is_inside()
        {
            // A heading would end all that it stands in.
            self.changed("a heading inside of something else, as bold text,");
            return self.block(&Block { attributes: attributes.clone(), ..bold(heading) });
        }
        if let BlockKind::Heading(heading) = &block.kind {
            if Self::is_notes_heading(heading) && !self.survey.marked.is_empty() {
                self.changed("a heading “Footnotes”");
            }
            return self.heading(heading, attributes);
        }
        let is_list = matches!(block.kind, BlockKind::List(_) | BlockKind::DescriptionList(_));
        if self.is_silent(block) {
            return;
        }
        self.blank_line();
        if is_list && self.has_list_before {
            self.part_lists();
        }
        let before = self.out.len();
        self.block_kind(block, attributes);
        if self.out.len() > before {
            self.is_start = false;
            self.has_list_before = is_list;
        }
    }

    /// Two blank lines end a list; inside another one they would end that too.
    fn part_lists(&mut self) {
        match self.indentation {
            0 => self.out.push('\n'),
            _ => self.findings.count(Code::ListsJoined, "nested", Some(self.place)),
        }
    }

    /// What is written elsewhere, or says nothing.
    fn is_silent(&mut self, block: &Block) -> bool {
        match &block.kind {
            BlockKind::Paragraph(content) => content.is_empty() && block.attributes.is_empty(),
            BlockKind::Foreign(foreign) => {
                foreign.format == ORG
                    && super::front::is_properties(&foreign.markup)
                    && self.is_start
            }
            BlockKind::Break(BreakKind::Section) => {
                self.lost("a section break");
                true
            }
            _ => false,
        }
    }

    fn block_kind(&mut self, block: &Block, attributes: &Attributes) {
        match &block.kind {
            BlockKind::Paragraph(content) => self.paragraph(content, attributes),
            BlockKind::Heading(heading) => self.heading(heading, attributes),
            BlockKind::List(list) => self.list(list, attributes),
            BlockKind::DescriptionList(items) => self.descriptions(items, attributes),
            BlockKind::Quotation(content) => {
                self.attribute_lines(attributes, &[]);
                self.holding("quote", "", content);
            }
            BlockKind::Code(code) => self.code_block(code, attributes),
            BlockKind::Verse(lines) => self.verse(lines, attributes),
            BlockKind::Table(table) => self.table(table, attributes),
            BlockKind::Figure(figure) => self.figure(figure, attributes),
            BlockKind::Formula(formula) => self.formula(formula, attributes),
            BlockKind::Admonition(admonition) => self.admonition(admonition, attributes),
            BlockKind::Group(group) => self.group(group, attributes),
            BlockKind::ThematicBreak => {
                self.attribute_lines(attributes, &[]);
                self.lines("-----");
            }
            BlockKind::Break(BreakKind::Page) => self.lines("\\newpage"),
            BlockKind::Break(_) => self.lines("\\columnbreak"),
            BlockKind::Contents(contents) => self.contents(contents),
            BlockKind::Bibliography => self.bibliography(),
            BlockKind::Foreign(foreign) => self.foreign(foreign),
            BlockKind::SourceRemark(text) => {
                let remark: Vec<String> =
                    text.split('\n').map(|line| format!("# {line}")).collect();
                let remark: Vec<&str> = remark.iter().map(|line| line.trim_end()).collect();
                self.lines(&remark.join("\n"));
            }
        }
    }

    fn paragraph(&mut self, content: &[Inline], attributes: &Attributes) {
        let alone = alone(content);
        let more = alone.map(of_picture).unwrap_or_default();
        self.is_picture_alone = alone.is_some();
        self.attribute_lines(attributes, &more);
        let is_item = std::mem::take(&mut self.is_item_start);
        let text = self.paragraph_text(content, is_item);
        self.is_picture_alone = false;
        self.lines(&text);
    }

    /// Lines of verse; white space that is seen is white space again.
    fn verse(&mut self, lines: &[Vec<Inline>], attributes: &Attributes) {
        self.attribute_lines(attributes, &[]);
        self.lines("#+begin_verse");
        let around = Surroundings { is_last: true, ..Surroundings::default() };
        for line in lines {
            let outer = std::mem::replace(&mut self.is_line, true);
            let text = self.apart(|writer| writer.inlines(line, around));
            self.is_line = outer;
            self.needs_apart = false;
            let words = text.trim_start_matches('\u{a0}');
            let space = text.chars().count() - words.chars().count();
            let mark = if super::super::read::needs_comma(words) { "," } else { "" };
            self.lines(&format!("{}{mark}{words}\n", " ".repeat(space)));
        }
        self.lines("#+end_verse");
    }

    /// A figure of one picture is that picture with a caption.
    fn figure(&mut self, figure: &Figure, attributes: &Attributes) {
        let label = figure.caption.as_ref().and_then(|caption| caption.label.as_ref());
        let mut more: Vec<(&str, String)> =
            label.map(|label| ("data-label", label.to_string())).into_iter().collect();
        match figure.content.as_slice() {
            [Block { kind: BlockKind::Paragraph(content), attributes: inner, .. }]
                if figure.caption.is_some() && inner.is_empty() && alone(content).is_some() =>
            {
                more.extend(alone(content).map(of_picture).unwrap_or_default());
                self.caption_line(figure.caption.as_ref());
                self.attribute_lines(attributes, &more);
                self.is_picture_alone = true;
                let text = self.paragraph_text(content, false);
                self.is_picture_alone = false;
                self.lines(&text);
            }
            [Block { kind: BlockKind::Code(code), attributes: inner, .. }]
                if figure.caption.is_some() && attributes.is_empty() =>
            {
                self.caption_line(figure.caption.as_ref());
                if !more.is_empty() {
                    self.attribute_lines(attributes, &more);
                }
                self.code_block(code, inner);
            }
            content => {
                self.caption_line(figure.caption.as_ref());
                self.attribute_lines(attributes, &more);
                self.holding("figure", "", content);
            }
        }
    }

    fn contents(&mut self, contents: &ContentsList) {
        let kind = match contents.kind {
            ContentsKind::Headings => "headlines",
            ContentsKind::Figures => "figures",
            ContentsKind::Tables => "tables",
        };
        match contents.depth {
            0 => self.lines(&format!("#+toc: {kind}")),
            depth => self.lines(&format!("#+toc: {kind} {depth}")),
        }
    }

    fn bibliography(&mut self) {
        self.lines("#+print_bibliography:");
    }

    /// The works that are cited, for a program to make a file of them that Org reads.
    pub(super) fn works(&mut self) {
        if self.document.bibliography.is_empty() || self.names_works() {
            return;
        }
        self.blank_line();
        self.lines(&format!("#+begin_src bibtex :tangle {WORKS} :exports none"));
        for work in &self.document.bibliography {
            if !work.content.is_empty() {
                self.lost("a link or a format in the text of a work");
            }
            self.out.push_str(&format!("@{}{{{},\n", work.kind, work.key));
            for (name, value) in &work.fields {
                let value = value.split_whitespace().collect::<Vec<_>>().join(" ");
                self.out.push_str(&format!("  {name} = {{{value}}},\n"));
            }
            self.out.push_str("}\n");
        }
        self.lines("#+end_src");
        self.is_start = false;
    }

    /// Whether the document names a file of works, as it was read.
    pub(super) fn names_works(&self) -> bool {
        self.document.metadata.extra.iter().any(|(key, _)| key == "bibliography")
    }

    fn foreign(&mut self, foreign: &Foreign) {
        match foreign.format.as_str() {
            ORG => self.lines(&foreign.markup),
            "latex" if is_environment(&foreign.markup) => self.lines(&foreign.markup),
            format if !foreign.markup.trim_end().contains('\n') && is_keyword(format) => {
                self.lines(format!("#+{format}: {}", foreign.markup.trim()).trim_end());
            }
            format => self.literal_block("export", format, &foreign.markup),
        }
    }
}

/// The words of a heading as a paragraph.
fn bold(heading: &Heading) -> Block {
    let content = heading.content.clone();
    let format = Formatting::Strong;
    let formatted = Formatted { format, attributes: Attributes::NONE, content };
    Block::new(BlockKind::Paragraph(vec![Inline::Formatted(Box::new(formatted))]))
}

/// A picture, or a link around one, that stands alone.
fn alone(content: &[Inline]) -> Option<&Inline> {
    match content {
        [only @ Inline::Picture(_)] => Some(only),
        [only @ Inline::Link(link)] => {
            matches!(link.content.as_slice(), [Inline::Picture(_)]).then_some(only)
        }
        _ => None,
    }
}

fn is_keyword(format: &str) -> bool {
    matches!(format, "html" | "latex" | "ascii" | "odt" | "md" | "texinfo" | "beamer" | "man")
}

fn is_environment(markup: &str) -> bool {
    let Some(rest) = markup.trim().strip_prefix("\\begin{") else { return false };
    let Some((name, _)) = rest.split_once('}') else { return false };
    let end = format!("\\end{{{name}}}");
    let blank = markup.lines().any(|line| line.trim().is_empty());
    markup.trim().ends_with(&end) && markup.matches(&end).count() == 1 && !blank
}
