//! Blocks, as text.

use super::attributes::braces;
use super::leaf::Place as LeafPlace;
use super::lines::Lines;
use super::links::LinkDefinitions;
use super::spacing::{needs_blank_line, needs_carrier};
use super::{FenceMark, HeadingForm, MarkdownWriteOptions, report_unsayable};
use crate::document::{
    Admonition, AdmonitionKind, Attributes, Block, BlockKind, BreakKind, Caption, CheckState,
    CodeBlock, ContentsList, DescriptionItem, Document, Figure, Foreign, Group, GroupRole, Heading,
    Inline, LineBreak, List, ListItem, ListKind, ListSpacing, NumberDelimiter, Place, plain_text,
};
use crate::findings::Findings;
use crate::formats::markdown::Switch;
use crate::formats::markdown::containers::{
    CAPTION, CONTENTS_KINDS, Carrier, ContainerKind, DELIMITERS, NUMERALS, RoleName,
    container_name, role_words, word_for,
};
use crate::formats::markdown::read::grammar::{self, TextReader};
use crate::work;

/// The state of spelling one document.
pub(super) struct Speller<'d> {
    pub(super) document: &'d Document,
    pub(super) options: &'d MarkdownWriteOptions,
    pub(super) reader: TextReader<'d>,
    pub(super) links: &'d LinkDefinitions,
    pub(super) findings: Findings,
    pub(super) out: Lines,
    pub(super) place: Place,
    /// A bullet `*` stands in the line that is being begun, so `***` would join it.
    behind_asterisk: bool,
}

impl<'d> Speller<'d> {
    pub(super) fn new(
        document: &'d Document,
        options: &'d MarkdownWriteOptions,
        reader: TextReader<'d>,
        links: &'d LinkDefinitions,
    ) -> Self {
        Self {
            document,
            options,
            reader,
            links,
            findings: Findings::new(),
            out: Lines::default(),
            place: Place::default(),
            behind_asterisk: false,
        }
    }

    pub(super) fn finished(self) -> (String, Findings) {
        (self.out.into_text(), self.findings)
    }

    pub(super) fn has(&self, switch: Switch) -> bool {
        self.options.switches.has(switch)
    }

    /// All blocks, then the notes.
    pub(super) fn document(&mut self) {
        let document = self.document;
        self.blocks(&document.blocks, true);
        for note in &document.notes {
            self.part();
            let label = note.label.as_deref().unwrap_or_default();
            let outside = self.out.enter(&format!("[^{label}]: "), "    ");
            // What begins with a space would lose it behind the label.
            if note.content.first().is_some_and(begins_with_space) {
                self.out.line("");
            }
            self.blocks(&note.content, true);
            self.out.leave(outside);
        }
    }

    /// Link definitions and abbreviations, at the end.
    pub(super) fn definitions(&mut self, abbreviations: &[(String, String)]) {
        if !self.links.all.is_empty() {
            self.part();
        }
        for link in &self.links.all {
            self.out.line(&link.spelled());
        }
        if !abbreviations.is_empty() {
            self.part();
        }
        for (short, long) in abbreviations {
            self.out.line(&format!("*[{short}]: {long}"));
        }
    }

    /// A blank line, if there is anything before it.
    fn part(&mut self) {
        if !self.out.is_empty() {
            self.out.blank();
        }
    }

    /// Blocks one below the other, with a blank line between them or only where there must be one.
    fn blocks(&mut self, blocks: &[Block], apart: bool) {
        let mut before: Option<&Block> = None;
        for block in blocks {
            if before.is_some_and(|b| apart || needs_blank_line(b, block, self.options)) {
                self.out.blank();
            }
            work::count_output(self.out.len());
            if work::is_over() {
                return;
            }
            self.place = block.place;
            self.block(block);
            before = Some(block);
        }
    }

    fn block(&mut self, block: &Block) {
        let behind_asterisk = std::mem::take(&mut self.behind_asterisk);
        let attributes = &block.attributes;
        match &block.kind {
            BlockKind::Paragraph(content) => {
                self.carried(Carrier::Paragraph, attributes, &[], |s| {
                    s.paragraph(content);
                })
            }
            BlockKind::Heading(heading) => self.heading(heading, attributes),
            BlockKind::List(list) => self.list(list, attributes, behind_asterisk),
            BlockKind::DescriptionList(items) => {
                self.carried(Carrier::Descriptions, attributes, &[], |s| s.descriptions(items));
            }
            BlockKind::Quotation(content) => {
                self.carried(Carrier::Quotation, attributes, &[], |s| s.quotation(content));
            }
            BlockKind::Code(code) => self.code(code, attributes),
            BlockKind::Verse(lines) => {
                let name = container_name(ContainerKind::Verse);
                self.container(name, attributes, &[], |s| s.verse(lines));
            }
            BlockKind::Table(table) => match &table.caption {
                Some(caption) => {
                    let name = container_name(ContainerKind::Carrier(Carrier::Table));
                    self.container(name, attributes, &[], |s| {
                        s.table(table);
                        s.out.blank();
                        s.caption(caption);
                    });
                }
                None => self.carried(Carrier::Table, attributes, &[], |s| s.table(table)),
            },
            BlockKind::Figure(figure) => self.figure(figure, attributes),
            BlockKind::Formula(formula) => self.formula(formula, attributes),
            BlockKind::Admonition(admonition) => self.admonition(admonition, attributes),
            BlockKind::Group(group) => self.group(group, attributes),
            BlockKind::ThematicBreak => {
                let rule = if behind_asterisk { "___" } else { "***" };
                self.carried(Carrier::Rule, attributes, &[], |s| s.out.line(rule));
            }
            BlockKind::Break(kind) => self.empty_container(break_name(*kind), attributes),
            BlockKind::Contents(contents) => self.contents(contents, attributes),
            BlockKind::Bibliography => {
                self.empty_container(container_name(ContainerKind::Bibliography), attributes);
            }
            BlockKind::Foreign(foreign) => self.foreign(foreign),
            // A sayable document holds it as a comment of HTML.
            BlockKind::SourceRemark(_) => {}
        }
    }

    /// A block inside the container that carries its attributes, when there are any.
    pub(super) fn carried(
        &mut self,
        carrier: Carrier,
        attributes: &Attributes,
        more: &[(&str, String)],
        content: impl FnOnce(&mut Self),
    ) {
        if attributes.is_empty() && more.is_empty() {
            return content(self);
        }
        self.container(container_name(ContainerKind::Carrier(carrier)), attributes, more, content);
    }

    /// `::: words {attributes}` to `:::`
    fn container(
        &mut self,
        words: &str,
        attributes: &Attributes,
        more: &[(&str, String)],
        content: impl FnOnce(&mut Self),
    ) {
        let parts = [":::", words, &braces(attributes, more)];
        let parts: Vec<&str> = parts.into_iter().filter(|part| !part.is_empty()).collect();
        self.out.line(&parts.join(" "));
        content(self);
        self.out.line(":::");
    }

    fn empty_container(&mut self, words: &str, attributes: &Attributes) {
        self.container(words, attributes, &[], |_| {});
    }

    fn paragraph(&mut self, content: &[Inline]) {
        let text = self.leaf(content, LeafPlace::Paragraph);
        self.out.lines(&text);
    }

    fn heading(&mut self, heading: &Heading, attributes: &Attributes) {
        let braces = braces(attributes, &[]);
        if is_underlined(heading, self.options) {
            let mut text = self.leaf(&heading.content, LeafPlace::Underlined);
            if !braces.is_empty() {
                text = format!("{text} {braces}");
            }
            let mark = if heading.level == 1 { "=" } else { "-" };
            let width = text.lines().map(|line| line.chars().count()).max().unwrap_or(0);
            self.out.lines(&text);
            return self.out.line(&mark.repeat(width.clamp(3, 60)));
        }
        let marks = "#".repeat(heading.level.into());
        let text = self.leaf(&heading.content, LeafPlace::Line);
        let parts = [marks.as_str(), &text, &braces];
        let parts: Vec<&str> = parts.into_iter().filter(|part| !part.is_empty()).collect();
        self.out.line(&parts.join(" "));
    }

    fn list(&mut self, list: &List, attributes: &Attributes, behind_asterisk: bool) {
        let mut more = Vec::new();
        if let ListKind::Numbered(numbering) = &list.kind
            && needs_carrier(list)
        {
            more.extend(word_for(&NUMERALS, &numbering.style).map(|w| ("numerals", w.to_string())));
            let delimiter = word_for(&DELIMITERS, &numbering.delimiter);
            more.extend(delimiter.map(|word| ("delimiter", word.to_string())));
        }
        self.carried(Carrier::List, attributes, &more, |s| {
            s.behind_asterisk = behind_asterisk;
            let apart = list.spacing == ListSpacing::Loose;
            let mut number = match &list.kind {
                ListKind::Numbered(numbering) => i64::from(numbering.start),
                ListKind::Bulleted(_) => 0,
            };
            for (index, item) in list.items.iter().enumerate() {
                if index > 0 && apart {
                    s.out.blank();
                }
                s.item(item, &list.kind, number, apart);
                number = (number + 1).min(999_999_999);
            }
        });
    }

    fn item(&mut self, item: &ListItem, kind: &ListKind, number: i64, apart: bool) {
        let marker = match kind {
            ListKind::Bulleted(mark) => mark.unwrap_or('-').to_string(),
            ListKind::Numbered(numbering) => {
                let parenthesis = numbering.delimiter == NumberDelimiter::Parenthesis;
                format!("{number}{}", if parenthesis { ')' } else { '.' })
            }
        };
        if self.out.ends_with_twice(&marker) {
            self.out.line("");
        }
        let outside = self.out.enter(&format!("{marker} "), &" ".repeat(marker.len() + 1));
        if item.content.first().is_some_and(begins_with_space) {
            self.out.line("");
        }
        self.behind_asterisk |= marker == "*";
        if let (Some(check), Some(first)) = (item.check, item.content.first())
            && let BlockKind::Paragraph(content) = &first.kind
        {
            self.behind_asterisk = false;
            self.place = first.place;
            let mark = if check == CheckState::Done { "[x] " } else { "[ ] " };
            let text = self.leaf(content, LeafPlace::Task);
            self.out.lines(&format!("{mark}{text}"));
            if let Some(second) = item.content.get(1)
                && (apart || needs_blank_line(first, second, self.options))
            {
                self.out.blank();
            }
            self.blocks(item.content.get(1..).unwrap_or_default(), apart);
        } else {
            self.item_blocks(&item.content, apart);
        }
        self.out.leave(outside);
        self.behind_asterisk = false;
    }

    /// The blocks of an item without a box; text that looks like one is escaped.
    fn item_blocks(&mut self, content: &[Block], apart: bool) {
        if let Some((first, rest)) = content.split_first()
            && let BlockKind::Paragraph(inlines) = &first.kind
            && first.attributes.is_empty()
        {
            self.behind_asterisk = false;
            self.place = first.place;
            let text = self.leaf(inlines, LeafPlace::Item);
            self.out.lines(&text);
            if let Some(second) = rest.first()
                && (apart || needs_blank_line(first, second, self.options))
            {
                self.out.blank();
            }
            return self.blocks(rest, apart);
        }
        self.blocks(content, apart);
    }

    fn quotation(&mut self, content: &[Block]) {
        let outside = self.out.enter("> ", "> ");
        self.blocks(content, true);
        self.out.leave(outside);
    }

    fn descriptions(&mut self, items: &[DescriptionItem]) {
        for (index, item) in items.iter().enumerate() {
            if index > 0 {
                self.out.blank();
            }
            for term in &item.terms {
                let text = self.leaf(term, LeafPlace::Term);
                self.out.line(&text);
            }
            for description in &item.descriptions {
                let outside = self.out.enter(": ", "  ");
                self.blocks(description, true);
                self.out.leave(outside);
            }
        }
    }

    fn code(&mut self, code: &CodeBlock, attributes: &Attributes) {
        let language = code.language.as_deref().unwrap_or_default();
        let details = code.details.as_deref().unwrap_or_default();
        let mut braces = braces(attributes, &[]);
        // A class alone in front would be the language.
        if language.is_empty() && braces.starts_with("{.") {
            braces.replace_range(1..2, "class=");
        }
        let parts = [escaped_info(language), escaped_info(details), braces];
        let parts: Vec<&str> =
            parts.iter().map(String::as_str).filter(|part| !part.is_empty()).collect();
        self.fenced(&code.text, &parts.join(" "));
    }

    /// Text between fences that nothing in it can close.
    pub(super) fn fenced(&mut self, text: &str, info: &str) {
        let backticks = self.options.fence == FenceMark::Backticks && !info.contains('`');
        let mark = if backticks { '`' } else { '~' };
        let longest = text
            .split('\n')
            .map(|line| line.trim_start_matches(' ').chars().take_while(|c| *c == mark).count());
        let length = longest.max().unwrap_or(0).max(2) + 1;
        let fence: String = std::iter::repeat_n(mark, length).collect();
        let gap = if info.starts_with(mark) { " " } else { "" };
        self.out.line(&format!("{fence}{gap}{info}"));
        if let Some(lines) = text.strip_suffix('\n') {
            self.out.lines(lines);
        }
        self.out.line(&fence);
    }

    /// Stanzas as paragraphs, lines ended by hard breaks.
    fn verse(&mut self, lines: &[Vec<Inline>]) {
        for (index, stanza) in lines.split(|line| line.is_empty()).enumerate() {
            if index > 0 {
                self.out.blank();
            }
            let stanza = stanza.join(&Inline::Break(LineBreak::Hard));
            let text = self.leaf(&stanza, LeafPlace::Verse);
            self.out.lines(&text);
        }
    }

    fn figure(&mut self, figure: &Figure, attributes: &Attributes) {
        self.container(container_name(ContainerKind::Figure), attributes, &[], |s| {
            s.blocks(&figure.content, true);
            if let Some(caption) = &figure.caption {
                if !figure.content.is_empty() {
                    s.out.blank();
                }
                s.caption(caption);
            }
        });
    }

    fn caption(&mut self, caption: &Caption) {
        let label = caption.label.iter().map(|label| ("label", label.to_string()));
        let label: Vec<(&str, String)> = label.collect();
        self.container(CAPTION, &Attributes::NONE, &label, |s| s.blocks(&caption.content, true));
    }

    fn admonition(&mut self, admonition: &Admonition, attributes: &Attributes) {
        let name = kind_name(&admonition.kind);
        let is_alert = self.has(Switch::Alerts)
            && admonition.title.is_none()
            && attributes.is_empty()
            && !matches!(admonition.kind, AdmonitionKind::Other(_));
        if is_alert {
            let outside = self.out.enter("> ", "> ");
            self.out.line(&format!("[!{}]", name.to_uppercase()));
            if let Some(first) = admonition.content.first()
                && !joins_alert(first)
            {
                self.out.blank();
            }
            self.blocks(&admonition.content, true);
            return self.out.leave(outside);
        }
        let mut more = Vec::new();
        if let AdmonitionKind::Other(word) = &admonition.kind {
            more.push(("kind", word.to_string()));
        }
        let title = admonition.title.as_deref().unwrap_or_default();
        let title = self.leaf(title, LeafPlace::Title);
        let words = if title.is_empty() { name.to_string() } else { format!("{name} {title}") };
        self.container(&words, attributes, &more, |s| s.blocks(&admonition.content, true));
    }

    fn group(&mut self, group: &Group, attributes: &Attributes) {
        let Some((role, words)) = role_words(&group.role) else {
            return self.plain_group(group, attributes);
        };
        let words = match &group.role {
            GroupRole::Disclosure(summary) => self.leaf(summary, LeafPlace::Title),
            _ => words,
        };
        let name = container_name(ContainerKind::Role(role));
        let words = if words.is_empty() { name.to_string() } else { format!("{name} {words}") };
        if role == RoleName::Statement || role == RoleName::Drawer {
            self.check_name(&words);
        }
        self.container(&words, attributes, &[], |s| s.blocks(&group.content, true));
    }

    /// A name stands between `:::` and the end of its line as it is.
    fn check_name(&mut self, words: &str) {
        if words.contains(['{', '\n']) || words.trim() != words || words.ends_with(':') {
            report_unsayable(&mut self.findings, self.place);
        }
    }

    /// A group without a role: its first class is the container's name, unless that would mean
    /// something else.
    fn plain_group(&mut self, group: &Group, attributes: &Attributes) {
        let classes = attributes.classes();
        let is_name = |class: &str| {
            !class.is_empty()
                && crate::formats::markdown::containers::container_kind(class).is_none()
                && class != "admonition"
                && !ADMONITIONS.iter().any(|(known, _)| *known == class)
                && class.chars().all(|c| c.is_alphanumeric() || matches!(c, '-' | '_'))
        };
        let mut left = attributes.clone();
        let name = match classes.first() {
            Some(class) if is_name(class) => {
                left.edit().classes.remove(0);
                class.as_str()
            }
            _ => "",
        };
        self.container(name, &left, &[], |s| s.blocks(&group.content, true));
    }

    fn contents(&mut self, contents: &ContentsList, attributes: &Attributes) {
        let mut words = container_name(ContainerKind::Contents).to_string();
        let kind = word_for(&CONTENTS_KINDS, &contents.kind).unwrap_or_default();
        words.push_str(&format!(" {kind}"));
        if contents.depth > 0 {
            words.push_str(&format!(" {}", contents.depth));
        }
        self.empty_container(&words, attributes);
    }

    fn foreign(&mut self, foreign: &Foreign) {
        if foreign.format != "html" {
            let raw = [("raw", foreign.format.to_string())];
            return self.fenced(&foreign.markup, &braces(&Attributes::NONE, &raw));
        }
        self.out.lines(&grammar::written_html(&foreign.markup, self.options.switches));
    }

    /// Characters that containers put before each line.
    pub(super) fn prefix_width(&self) -> usize {
        self.out.prefix_width()
    }

    pub(super) fn line(&mut self, line: &str) {
        self.out.line(line);
    }
}

const ADMONITIONS: [(&str, AdmonitionKind); 5] = [
    ("note", AdmonitionKind::Note),
    ("tip", AdmonitionKind::Tip),
    ("important", AdmonitionKind::Important),
    ("warning", AdmonitionKind::Warning),
    ("caution", AdmonitionKind::Caution),
];

fn kind_name(kind: &AdmonitionKind) -> &'static str {
    ADMONITIONS.iter().find(|(_, known)| known == kind).map_or("admonition", |(name, _)| name)
}

fn break_name(kind: BreakKind) -> &'static str {
    container_name(ContainerKind::Break(kind))
}

/// Whether a block can stand in the line below an alert's mark: a paragraph that is no underline.
fn joins_alert(first: &Block) -> bool {
    matches!(&first.kind, BlockKind::Paragraph(content)
        if !plain_text(content).starts_with(['=', '-', '|', ':']))
}

/// Whether a heading gets a line below it: by choice, or because it has several lines.
pub(super) fn is_underlined(heading: &Heading, options: &MarkdownWriteOptions) -> bool {
    let several = heading.content.iter().any(has_break);
    let chosen = options.headings == HeadingForm::Underlined;
    let is_text = !matches!(heading.content.as_slice(), [] | [Inline::Foreign(_)]);
    heading.level <= 2 && is_text && (several || chosen)
}

/// Whether an inline reaches over more than one line.
pub(super) fn has_break(inline: &Inline) -> bool {
    match inline {
        Inline::Break(_) => true,
        Inline::Formatted(formatted) => formatted.content.iter().any(has_break),
        Inline::Link(link) => link.content.iter().any(has_break),
        Inline::Foreign(foreign) => foreign.markup.contains('\n'),
        Inline::Formula(formula) => formula.source.contains('\n'),
        _ => false,
    }
}

/// Whether a block's first line begins with spaces that behind a list marker would be lost.
fn begins_with_space(block: &Block) -> bool {
    matches!(&block.kind, BlockKind::Foreign(foreign)
        if foreign.format == "html" && foreign.markup.starts_with(' '))
}

/// Language and details of code: entities and backslashes mean themselves.
fn escaped_info(info: &str) -> String {
    let mut out = String::with_capacity(info.len());
    for (index, c) in info.char_indices() {
        let tail = info.get(index..).unwrap_or_default();
        let next_is_mark = tail.chars().nth(1).is_some_and(|next| next.is_ascii_punctuation());
        match c {
            '\\' if next_is_mark => out.push_str("\\\\"),
            '&' if grammar::is_reference(tail) => {
                out.push_str("\\&");
            }
            '{' => out.push_str("\\{"),
            '\n' | '\r' => out.push(' '),
            _ => out.push(c),
        }
    }
    out
}
