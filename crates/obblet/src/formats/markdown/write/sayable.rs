//! The document as the dialect can say it. What the dialect has no words for becomes HTML, where
//! that is allowed, or else the nearest form with a finding. The result is exactly what the reader
//! makes of the written text.

use super::MarkdownWriteOptions;
use super::abbreviations::abbreviations;
use super::attributes::fits_braces;
use super::blocks::has_break;
use super::sayable_inlines::{Flow, html};
use crate::document::{
    Admonition, AdmonitionKind, Anchor, Attributes, Block, BlockKind, Caption, CodeBlock,
    CompactString, ContentsList, Document, Figure, Foreign, Formatted, Formatting, Group,
    GroupRole, Heading, Inline, LineBreak, Note, Place,
};
use crate::embedded;
use crate::findings::{Code, Findings};
use crate::formats::code_content;
use crate::formats::markdown::Switch;
use crate::locale::Words;
use std::collections::HashSet;

/// The state of making a document sayable.
pub(super) struct Sayable<'d> {
    pub(super) document: &'d Document,
    pub(super) options: &'d MarkdownWriteOptions,
    pub(super) findings: Findings,
    /// The place of the block at hand, for findings about what is in it.
    pub(super) place: Place,
    pub(super) flow: Flow,
    pub(super) in_link: bool,
    /// Abbreviations that stand for the same wherever their letters stand.
    pub(super) abbreviations: HashSet<String>,
    /// Inside items, notes and descriptions, where lines of nothing but spaces lose them.
    pub(super) indented: usize,
    words: &'static Words,
}

/// The document as this dialect can say it, and the abbreviations that it defines.
pub(super) fn sayable(
    document: &Document,
    options: &MarkdownWriteOptions,
) -> (Document, Vec<(String, String)>, Findings) {
    let definitions = abbreviations(document, options);
    let mut maker = Sayable::new(document, options);
    maker.abbreviations = definitions.iter().map(|(short, _)| short.clone()).collect();
    let mut blocks = maker.blocks(&document.blocks);
    maker.indented += 1;
    let notes: Vec<Note> = maker.notes(&mut blocks);
    if !document.comments.is_empty() {
        maker.not_carried("the text of review comments");
    }
    let said = Document {
        metadata: document.metadata.clone(),
        blocks,
        notes,
        bibliography: Vec::new(),
        ..Document::default()
    };
    (said, definitions, maker.findings)
}

/// One leaf, as the dialect can say it.
pub(super) fn sayable_leaf(
    document: &Document,
    options: &MarkdownWriteOptions,
    inlines: &[Inline],
    flow: Flow,
) -> Vec<Inline> {
    Sayable::new(document, options).leaf(inlines, flow)
}

impl<'d> Sayable<'d> {
    fn new(document: &'d Document, options: &'d MarkdownWriteOptions) -> Self {
        Self {
            document,
            options,
            findings: Findings::new(),
            place: Place::default(),
            flow: Flow::Lines,
            in_link: false,
            abbreviations: HashSet::new(),
            indented: 0,
            words: Words::of_language(document.metadata.language.as_deref()),
        }
    }
}

impl Sayable<'_> {
    pub(super) fn has(&self, switch: Switch) -> bool {
        self.options.switches.has(switch)
    }

    /// Whether attributes can stand in braces.
    pub(super) fn fits_braces(&self, attributes: &Attributes) -> bool {
        self.has(Switch::Attributes) && fits_braces(attributes)
    }

    pub(super) fn not_carried(&mut self, subject: &str) {
        self.findings.count(Code::NodeNotCarried, subject, Some(self.place));
    }

    /// Says which attributes no tag carries.
    pub(super) fn report_lost_attributes(&mut self, attributes: &Attributes) {
        let Some(set) = attributes.get() else { return };
        for (name, _) in set.pairs.iter().filter(|(name, _)| name != "title") {
            self.findings.count(Code::AttributeDropped, name, Some(self.place));
        }
        if !set.audiences.is_empty() {
            self.findings.count(Code::AttributeDropped, "audience", Some(self.place));
        }
    }

    /// Says which attributes are lost where there is no tag either; the id is left out.
    pub(super) fn report_lost_tag(&mut self, attributes: &Attributes) {
        self.report_lost_attributes(attributes);
        let Some(set) = attributes.get() else { return };
        let lost = [
            ("class", !set.classes.is_empty()),
            ("lang", set.language.is_some()),
            ("dir", set.direction.is_some()),
            ("title", attributes.pair("title").is_some()),
        ];
        for (name, _) in lost.iter().filter(|(_, lost)| *lost) {
            self.findings.count(Code::AttributeDropped, name, Some(self.place));
        }
    }

    pub(super) fn blocks(&mut self, blocks: &[Block]) -> Vec<Block> {
        let mut out = Vec::with_capacity(blocks.len());
        for block in blocks {
            self.place = block.place;
            self.push_block(block, &mut out);
        }
        self.part_lists(&mut out);
        out
    }

    fn push_block(&mut self, block: &Block, out: &mut Vec<Block>) {
        if block.attributes.revision().is_some() {
            self.not_carried("a tracked change of a whole block");
        }
        let attributes = without_unsayable(&block.attributes);
        match &block.kind {
            BlockKind::Paragraph(content) => {
                let content = self.leaf(content, Flow::Lines);
                if content.is_empty() {
                    return self.push_empty_paragraph(&attributes, block, out);
                }
                // A tag alone in the first line begins an HTML block, not a paragraph.
                if let [Inline::Foreign(foreign)] = content.as_slice()
                    && foreign.format == "html"
                {
                    return self.push_foreign_block(foreign, block, out);
                }
                self.push_carried(BlockKind::of_line(content), attributes, block, out);
            }
            BlockKind::Heading(heading) => self.push_heading(heading, attributes, block, out),
            BlockKind::List(list) => self.push_list(list, attributes, block, out),
            BlockKind::DescriptionList(items) => {
                self.push_descriptions(items, attributes, block, out);
            }
            BlockKind::Quotation(content) => {
                let content = self.blocks(content);
                self.push_carried(BlockKind::Quotation(content), attributes, block, out);
            }
            BlockKind::Code(code) => self.push_code_block(code, attributes, block, out),
            BlockKind::Verse(lines) => self.push_verse(lines, attributes, block, out),
            BlockKind::Table(table) => self.push_table(table, attributes, block, out),
            BlockKind::Figure(figure) => self.push_figure(figure, attributes, block, out),
            BlockKind::Formula(formula) => self.push_formula_block(formula, attributes, block, out),
            BlockKind::Admonition(admonition) => {
                self.push_admonition(admonition, attributes, block, out);
            }
            BlockKind::Group(group) => self.push_group(group, attributes, block, out),
            BlockKind::ThematicBreak => {
                self.push_carried(BlockKind::ThematicBreak, attributes, block, out);
            }
            BlockKind::Break(kind) => {
                self.push_empty(BlockKind::Break(*kind), "a page break", block, out)
            }
            BlockKind::Contents(contents) => {
                let ContentsList { kind, depth } = **contents;
                let kind = BlockKind::Contents(Box::new(ContentsList { kind, depth }));
                self.push_empty(kind, "the place of a contents list", block, out);
            }
            BlockKind::Bibliography => {
                self.push_empty(
                    BlockKind::Bibliography,
                    "the place of the cited works",
                    block,
                    out,
                );
            }
            BlockKind::Foreign(foreign) => self.push_foreign_block(foreign, block, out),
            BlockKind::SourceRemark(remark) => {
                let markup = format!("<!-- {} -->", remark.replace("--", "- -"));
                let foreign = Foreign { format: "html".into(), markup };
                self.push_foreign_block(&foreign, block, out);
            }
        }
    }

    /// An empty paragraph says nothing, but links may lead to it.
    fn push_empty_paragraph(
        &mut self,
        attributes: &Attributes,
        block: &Block,
        out: &mut Vec<Block>,
    ) {
        let Some(id) = attributes.id() else { return };
        let anchor = [Inline::Anchor(Box::new(Anchor { id: id.into() }))];
        let content = self.leaf(&anchor, Flow::Lines);
        if !content.is_empty() {
            self.push_carried(BlockKind::Paragraph(content), Attributes::NONE, block, out);
        }
    }

    /// A block whose attributes, if any, a container, or else a `div`, carries.
    pub(super) fn push_carried(
        &mut self,
        kind: BlockKind,
        attributes: Attributes,
        block: &Block,
        out: &mut Vec<Block>,
    ) {
        if attributes.is_empty() || self.has(Switch::Containers) && fits_braces(&attributes) {
            return out.push(Block { kind, attributes, place: block.place });
        }
        let inner = Block { kind, attributes: Attributes::NONE, place: block.place };
        self.push_tagged_block("div", &attributes, vec![inner], block, out);
    }

    /// Blocks between the tags of an element; without tags where HTML is not allowed.
    pub(super) fn push_tagged_block(
        &mut self,
        element: &str,
        attributes: &Attributes,
        content: Vec<Block>,
        block: &Block,
        out: &mut Vec<Block>,
    ) {
        if !self.options.html {
            self.report_lost_tag(attributes);
            if attributes.id().is_some() {
                self.findings.count(Code::AttributeDropped, "id", Some(block.place));
            }
            self.findings.count(Code::ElementUnwrapped, element, Some(block.place));
            return out.extend(content);
        }
        self.report_lost_attributes(attributes);
        let open = embedded::open_tag(element, attributes);
        if open == "<div>" {
            return out.extend(content);
        }
        out.push(markup(open, block.place));
        out.extend(content);
        out.push(markup(format!("</{element}>"), block.place));
    }

    /// A block that only a container can say, and that holds nothing.
    fn push_empty(&mut self, kind: BlockKind, subject: &str, block: &Block, out: &mut Vec<Block>) {
        let section = matches!(kind, BlockKind::Break(crate::document::BreakKind::Section));
        if !self.has(Switch::Containers) || section {
            return self.not_carried(if section { "a section break" } else { subject });
        }
        let attributes = without_unsayable(&block.attributes);
        out.push(Block { kind, attributes, place: block.place });
    }

    fn push_heading(
        &mut self,
        heading: &Heading,
        mut attributes: Attributes,
        block: &Block,
        out: &mut Vec<Block>,
    ) {
        let mut content = Vec::new();
        if let Some(task) = &heading.task {
            content.push(Inline::Text(format!("{} ", task.keyword).into()));
            self.not_carried("the state of a heading that is a task");
        }
        if let Some(number) = &heading.number {
            content.push(Inline::Text(format!("{number} ").into()));
            self.findings.count(Code::NumberAsText, number, Some(block.place));
        }
        if !attributes.is_empty() && !self.fits_braces(&attributes) {
            if let Some(id) = attributes.id() {
                content.push(Inline::Anchor(Box::new(Anchor { id: id.into() })));
            }
            self.report_lost_tag(&attributes);
            attributes = Attributes::NONE;
        }
        content.extend(heading.content.iter().cloned());
        if !heading.tags.is_empty() {
            content.push(Inline::Text(format!(" {}", heading.tags.join(" ")).into()));
            self.not_carried("that words of a heading are tags");
        }
        let level = heading.level.clamp(1, 6);
        if heading.level > 6 {
            let subject = heading.level.to_string();
            self.findings.count(Code::HeadingLevelLowered, &subject, Some(block.place));
        }
        // Only the two levels that are underlined can have more than one line.
        let several = level <= 2 && content.iter().any(has_break);
        let flow = if several && attributes.is_empty() { Flow::Lines } else { Flow::Line };
        let content = self.leaf(&content, flow);
        let kind = BlockKind::Heading(Box::new(Heading { level, content, ..Heading::default() }));
        out.push(Block { kind, attributes, place: block.place });
    }

    pub(super) fn push_code_block(
        &mut self,
        code: &CodeBlock,
        attributes: Attributes,
        block: &Block,
        out: &mut Vec<Block>,
    ) {
        if !code.content.is_empty() {
            let html = self.options.html.then(|| embedded::code_html(code, &attributes)).flatten();
            if let Some(html) = html {
                return out.push(markup(html, block.place));
            }
            code_content::report_lost(code, block.place, &mut self.findings);
        }
        let mut code = CodeBlock { content: Vec::new(), ..code.clone() };
        if !code.text.is_empty() && !code.text.ends_with('\n') {
            code.text.push('\n');
        }
        code.text = self.without_lone_spaces(&code.text.replace('\r', "\n"));
        one_line_info(&mut code);
        if !attributes.is_empty() && !self.fits_braces(&attributes) {
            let code = Block::new(BlockKind::Code(Box::new(code))).at(block.place);
            return self.push_tagged_block("div", &attributes, vec![code], block, out);
        }
        out.push(Block { kind: BlockKind::Code(Box::new(code)), attributes, place: block.place });
    }

    fn push_verse(
        &mut self,
        lines: &[Vec<Inline>],
        attributes: Attributes,
        block: &Block,
        out: &mut Vec<Block>,
    ) {
        let stanzas: Vec<Vec<Vec<Inline>>> = lines
            .split(|line| line.is_empty())
            .map(|stanza| {
                let lines = stanza.iter().map(|line| self.term(line));
                lines.filter(|line| !line.is_empty()).collect::<Vec<_>>()
            })
            .filter(|stanza| !stanza.is_empty())
            .collect();
        let in_braces = attributes.is_empty() || fits_braces(&attributes);
        if self.has(Switch::Containers) && in_braces {
            let lines = stanzas.join(&Vec::new());
            return out.push(Block {
                kind: BlockKind::Verse(lines),
                attributes,
                place: block.place,
            });
        }
        self.not_carried("that lines are verse");
        for stanza in stanzas {
            let content = stanza.join(&Inline::Break(LineBreak::Hard));
            out.push(Block::new(BlockKind::Paragraph(content)).at(block.place));
        }
    }

    fn push_figure(
        &mut self,
        figure: &Figure,
        attributes: Attributes,
        block: &Block,
        out: &mut Vec<Block>,
    ) {
        let content = self.blocks(&figure.content);
        let caption = figure.caption.as_ref().map(|caption| self.caption(caption));
        let in_braces = attributes.is_empty() || fits_braces(&attributes);
        if self.has(Switch::Containers) && in_braces {
            let kind = BlockKind::Figure(Box::new(Figure { content, caption }));
            return out.push(Block { kind, attributes, place: block.place });
        }
        let mut inside = content;
        if let Some(caption) = caption {
            let content = with_label(caption);
            self.push_tagged_block("figcaption", &Attributes::NONE, content, block, &mut inside);
        }
        self.push_tagged_block("figure", &attributes, inside, block, out);
    }

    pub(super) fn caption(&mut self, caption: &Caption) -> Caption {
        Caption { label: caption.label.clone(), content: self.blocks(&caption.content) }
    }

    fn push_admonition(
        &mut self,
        admonition: &Admonition,
        attributes: Attributes,
        block: &Block,
        out: &mut Vec<Block>,
    ) {
        let content = self.blocks(&admonition.content);
        let title = admonition.title.as_ref().map(|title| self.leaf(title, Flow::Line));
        let title = title.filter(|title| !title.is_empty());
        let is_common = !matches!(admonition.kind, AdmonitionKind::Other(_));
        let is_alert =
            self.has(Switch::Alerts) && is_common && title.is_none() && attributes.is_empty();
        let in_braces = attributes.is_empty() || fits_braces(&attributes);
        if is_alert || self.has(Switch::Containers) && in_braces {
            let kind = admonition.kind.clone();
            let kind = BlockKind::Admonition(Box::new(Admonition { kind, title, content }));
            return out.push(Block { kind, attributes, place: block.place });
        }
        let title = title.unwrap_or_else(|| match &admonition.kind {
            AdmonitionKind::Other(word) => vec![Inline::Text(word.clone())],
            kind => vec![Inline::Text(self.words.admonition(kind).into())],
        });
        let strong =
            Formatted { format: Formatting::Strong, attributes: Attributes::NONE, content: title };
        let strong = Inline::Formatted(Box::new(strong));
        let mut inside = vec![Block::new(BlockKind::Paragraph(vec![strong])).at(block.place)];
        inside.extend(content);
        self.push_tagged_block("aside", &attributes, inside, block, out);
    }

    fn push_group(
        &mut self,
        group: &Group,
        attributes: Attributes,
        block: &Block,
        out: &mut Vec<Block>,
    ) {
        let content = self.blocks(&group.content);
        if group.role == GroupRole::Plain && attributes.is_empty() {
            return out.extend(content);
        }
        let in_braces = attributes.is_empty() || fits_braces(&attributes);
        if self.has(Switch::Containers) && in_braces {
            let role = match &group.role {
                GroupRole::Disclosure(summary) => {
                    GroupRole::Disclosure(self.leaf(summary, Flow::Line))
                }
                role => role.clone(),
            };
            let kind = BlockKind::Group(Box::new(Group { role, content }));
            return out.push(Block { kind, attributes, place: block.place });
        }
        let element = match &group.role {
            GroupRole::Aside => "aside",
            GroupRole::Disclosure(_) => "details",
            GroupRole::Plain => "div",
            GroupRole::PageHeader => "header",
            GroupRole::PageFooter => "footer",
            GroupRole::Abstract | GroupRole::Statement(_) | GroupRole::Drawer(_) => "section",
            GroupRole::Columns(_) | GroupRole::Centred => {
                self.not_carried("a layout in columns or in the middle");
                "div"
            }
        };
        let mut inside = Vec::new();
        match &group.role {
            GroupRole::Disclosure(summary) => {
                let summary = self.leaf(summary, Flow::Line);
                let tagged = std::iter::once(html("<summary>".into()))
                    .chain(summary)
                    .chain(std::iter::once(html("</summary>".into())));
                if self.options.html {
                    inside.extend(self.tag_line(tagged.collect(), block.place));
                }
            }
            GroupRole::Statement(name) | GroupRole::Drawer(name) => {
                self.not_carried(&format!("what “{name}” is"));
            }
            _ => {}
        }
        inside.extend(content);
        self.push_tagged_block(element, &attributes, inside, block, out);
    }
}

/// The language is a word, and the details stand in its line.
fn one_line_info(code: &mut CodeBlock) {
    let spaced = |text: &CompactString| text.replace(['\n', '\r'], " ");
    let language = code.language.as_ref().map(spaced).unwrap_or_default();
    let details = code.details.as_ref().map(spaced).unwrap_or_default();
    let info = format!("{language} {details}");
    let info = info.trim_matches([' ', '\t']);
    let (language, details) = match info.split_once([' ', '\t']) {
        Some((language, details)) => {
            (language, Some(details.trim_start_matches([' ', '\t']).into()))
        }
        None => (info, None),
    };
    code.language = (!language.is_empty()).then(|| language.into());
    code.details = details;
}

/// Attributes without what no Markdown says: named style, looks, tracked change.
pub(super) fn without_unsayable(attributes: &Attributes) -> Attributes {
    let Some(set) = attributes.get() else { return Attributes::NONE };
    if set.style.is_none() && set.looks.is_none() && set.revision.is_none() {
        return attributes.clone();
    }
    let mut set = set.clone();
    (set.style, set.looks, set.revision) = (None, None, None);
    set.into()
}

/// A block of raw HTML.
pub(super) fn markup(markup: String, place: Place) -> Block {
    let foreign = Foreign { format: "html".into(), markup };
    Block::new(BlockKind::Foreign(Box::new(foreign))).at(place)
}

/// A caption's blocks with its label in front of the words.
pub(super) fn with_label(caption: Caption) -> Vec<Block> {
    let mut content = caption.content;
    let Some(label) = caption.label else { return content };
    let label = format!("{label}: ");
    if let Some(BlockKind::Paragraph(first)) = content.first_mut().map(|block| &mut block.kind) {
        match first.first_mut() {
            Some(Inline::Text(text)) => text.insert_str(0, &label),
            _ => first.insert(0, Inline::Text(label.into())),
        }
    } else {
        let label = label.trim_end().into();
        content.insert(0, Block::new(BlockKind::Paragraph(vec![Inline::Text(label)])));
    }
    content
}
