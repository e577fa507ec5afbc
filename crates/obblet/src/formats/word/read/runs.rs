//! Runs: text with one set of properties.

use super::super::xml::{Element, Ns, Xml};
use super::Reader;
use super::line::{Line, RunFormat};
use crate::document::{Block, BlockKind, BreakKind, Inline, LineBreak, NoteKind};
use crate::findings::Code;

/// Properties of a run that carry meaning; `None` where a level of inheritance says nothing.
#[derive(Debug, Clone, Default)]
pub(super) struct RunProperties {
    style: Option<String>,
    bold: Option<bool>,
    italic: Option<bool>,
    underline: Option<bool>,
    strike: Option<bool>,
    small_capitals: Option<bool>,
    capitals: Option<bool>,
    highlight: Option<bool>,
    hidden: Option<bool>,
    raised: Option<Raised>,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Raised {
    No,
    Superscript,
    Subscript,
}

impl RunProperties {
    /// Reads the properties below `w:rPr`; hands every other one to `other`.
    pub(super) fn read(xml: &mut Xml<'_>, other: &mut dyn FnMut(&Element<'_>)) -> Self {
        let mut found = Self::default();
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            if element.ns != Ns::Word {
                other(&element);
                continue;
            }
            let on = Some(element.is_on());
            match element.local() {
                "rStyle" => found.style = element.val(),
                "b" => found.bold = on,
                "i" => found.italic = on,
                "u" => found.underline = on,
                "strike" | "dstrike" => found.strike = on,
                "smallCaps" => found.small_capitals = on,
                "caps" => found.capitals = on,
                "highlight" => found.highlight = on,
                "vanish" => found.hidden = on,
                "vertAlign" => {
                    found.raised = Some(match element.val().as_deref() {
                        Some("superscript") => Raised::Superscript,
                        Some("subscript") => Raised::Subscript,
                        _ => Raised::No,
                    });
                }
                _ => other(&element),
            }
        }
        found
    }

    /// These properties, with those of a farther level where they say nothing.
    pub(super) fn or(mut self, farther: &Self) -> Self {
        self.style = self.style.or_else(|| farther.style.clone());
        self.bold = self.bold.or(farther.bold);
        self.italic = self.italic.or(farther.italic);
        self.underline = self.underline.or(farther.underline);
        self.strike = self.strike.or(farther.strike);
        self.small_capitals = self.small_capitals.or(farther.small_capitals);
        self.capitals = self.capitals.or(farther.capitals);
        self.highlight = self.highlight.or(farther.highlight);
        self.hidden = self.hidden.or(farther.hidden);
        self.raised = self.raised.or(farther.raised);
        self
    }
}

impl Reader<'_> {
    /// Reads a run into a line. `base` is what the paragraph's style says of all its text.
    pub(super) fn run(&mut self, xml: &mut Xml<'_>, line: &mut Line, base: &RunProperties) {
        let level = xml.level();
        let mut format = self.format(&RunProperties::default(), base);
        while let Some(element) = xml.child(level) {
            if element.is("rPr") {
                let properties = self.run_properties(xml);
                format = self.format(&properties, base);
                // The line below a link says that it is a link, and pages say so themselves.
                if line.is_inside_link() && format.has(RunFormat::UNDERLINE) {
                    format = format.without(RunFormat::UNDERLINE);
                    self.looks.count("underlined links");
                }
                continue;
            }
            // Word shows nothing of a field before its result.
            let is_field_mark = element.is("fldChar") || element.is("instrText");
            if is_field_mark || !self.is_inside_instruction() {
                self.run_content(&element, xml, line, format);
            }
        }
    }

    fn run_properties(&mut self, xml: &mut Xml<'_>) -> RunProperties {
        let mut others: Vec<(Ns, String, String)> = Vec::new();
        let properties = RunProperties::read(xml, &mut |element| {
            others.push((element.ns, element.local().into(), element.shown().into()));
        });
        for (ns, local, shown) in others {
            match local.as_str() {
                "rPrChange" => self.lost("a tracked change of looks"),
                "ins" | "del" | "moveFrom" | "moveTo" if ns == Ns::Word => {
                    self.lost("a tracked change of a paragraph's end");
                }
                // Newer text effects have a namespace of their own.
                _ if ns != Ns::Word => self.looks.count("text effects"),
                _ if self.looks.count_property(&local) => {}
                _ => self.unknown(&shown),
            }
        }
        properties
    }

    /// What is special about a run, beyond what its paragraph's style makes of all text: the bold
    /// of a heading style is no stress.
    fn format(&mut self, direct: &RunProperties, base: &RunProperties) -> RunFormat {
        let style = direct.style.as_deref();
        let is_link = style.is_some_and(|id| self.styles.marks_link(id));
        let named = self.styles.run(style);
        let run = direct.clone().or(&named);
        let mut format = RunFormat::default();
        let mut mark = |mark: RunFormat, run: Option<bool>, base: Option<bool>| {
            if run.unwrap_or_default() && !base.unwrap_or_default() {
                format = format.with(mark);
            }
        };
        mark(RunFormat::STRONG, run.bold, base.bold);
        mark(RunFormat::EMPHASIS, run.italic, base.italic);
        mark(RunFormat::UNDERLINE, run.underline.filter(|_| !is_link), base.underline);
        mark(RunFormat::STRUCK, run.strike, base.strike);
        mark(RunFormat::SMALL_CAPITALS, run.small_capitals, base.small_capitals);
        mark(RunFormat::HIGHLIGHT, run.highlight, base.highlight);
        mark(RunFormat::SUPERSCRIPT, Some(run.raised == Some(Raised::Superscript)), None);
        mark(RunFormat::SUBSCRIPT, Some(run.raised == Some(Raised::Subscript)), None);
        mark(RunFormat::CODE, Some(style.is_some_and(|id| self.styles.marks_code(id))), None);
        if run.capitals.unwrap_or_default() {
            self.looks.count("capitals");
        }
        if run.hidden.or(base.hidden).unwrap_or_default() {
            format = format.with(RunFormat::HIDDEN);
        }
        format
    }

    fn run_content(
        &mut self,
        element: &Element<'_>,
        xml: &mut Xml<'_>,
        line: &mut Line,
        format: RunFormat,
    ) {
        if element.ns != Ns::Word {
            return self.foreign_content(element, xml, line);
        }
        match element.local() {
            "t" | "delText" => {
                let level = xml.level();
                let text = xml.text(level);
                self.run_text(&text, line, format);
            }
            "tab" | "ptab" => line.push_text("\t", format),
            "br" => self.line_break(element, line, format),
            "cr" => line.push(Inline::Break(LineBreak::Hard), format),
            "noBreakHyphen" => line.push_text("\u{2011}", format),
            "softHyphen" => line.push_text("\u{AD}", format),
            "sym" => self.symbol(element, line, format),
            "footnoteReference" => self.note_mark(element, NoteKind::Footnote, line),
            "endnoteReference" => self.note_mark(element, NoteKind::Endnote, line),
            "fldChar" => self.field_mark(element, line),
            "instrText" | "delInstrText" => {
                let level = xml.level();
                let text = xml.text(level);
                self.field_instruction(&text);
            }
            "drawing" => self.drawing(xml, line),
            "pict" | "object" => self.older_object(element, xml, line),
            "ruby" => self.ruby(xml, line, format),
            // Marks of a note's own number, of separators, of page layout in the past, and of
            // comments, which the finding about their part covers.
            "footnoteRef"
            | "endnoteRef"
            | "separator"
            | "continuationSeparator"
            | "lastRenderedPageBreak"
            | "annotationRef"
            | "commentReference" => {}
            "pgNum" | "dayLong" | "dayShort" | "monthLong" | "monthShort" | "yearLong"
            | "yearShort" => self.lost("a date or page number that Word fills in"),
            _ => self.unknown(element.shown()),
        }
    }

    fn run_text(&mut self, text: &str, line: &mut Line, format: RunFormat) {
        if format.has(RunFormat::HIDDEN) {
            if !text.trim().is_empty() {
                self.lost("hidden text");
            }
            return;
        }
        line.push_text(text, format);
    }

    fn line_break(&mut self, element: &Element<'_>, line: &mut Line, format: RunFormat) {
        let kind = match element.value("type").as_deref() {
            Some("page") => BreakKind::Page,
            Some("column") => BreakKind::Column,
            _ => return line.push(Inline::Break(LineBreak::Hard), format),
        };
        self.behind_paragraph.push(Block::new(BlockKind::Break(kind)).at(self.place()));
    }

    /// ECMA-376 part 1, 17.3.3.30: a character by its place in a font.
    fn symbol(&mut self, element: &Element<'_>, line: &mut Line, format: RunFormat) {
        let font = element.value("font").unwrap_or_default();
        let code = element.value("char").unwrap_or_default();
        // Symbol fonts put their characters into the private use area from F000 on.
        let number = u32::from_str_radix(&code, 16).unwrap_or_default() & 0x0FFF;
        match symbol_in_unicode(&font, number) {
            Some(character) => line.push_text(character.encode_utf8(&mut [0; 4]), format),
            None => {
                line.push_text("\u{FFFD}", format);
                self.lost(&format!("the character {code} of the font {font}"));
            }
        }
    }

    fn note_mark(&mut self, element: &Element<'_>, kind: NoteKind, line: &mut Line) {
        let Some(number) = element.number("id") else { return };
        match self.note(kind, number) {
            Some(note) => line.push(Inline::NoteMark(note), RunFormat::default()),
            None => {
                let subject = number.to_string();
                self.findings.add_about(Code::NoteMissing, &subject, Some(self.place()));
            }
        }
    }

    /// Ruby text: the reading above its base.
    fn ruby(&mut self, xml: &mut Xml<'_>, line: &mut Line, format: RunFormat) {
        let (mut base, mut reading) = (Vec::new(), Vec::new());
        let level = xml.level();
        while let Some(part) = xml.child(level) {
            let target = match part.local() {
                "rt" => &mut reading,
                "rubyBase" => &mut base,
                _ => continue,
            };
            let mut inside = Line::default();
            let runs = xml.level();
            while let Some(run) = xml.child(runs) {
                if run.is("r") {
                    self.run(xml, &mut inside, &RunProperties::default());
                }
            }
            *target = inside.finish();
        }
        line.push(Inline::Ruby(Box::new(crate::document::Ruby { base, reading })), format);
    }
}

/// The characters of symbol fonts that documents use most: bullets, boxes, arrows, ticks.
fn symbol_in_unicode(font: &str, number: u32) -> Option<char> {
    /// Font in lower case, number in the font, character; sorted.
    const SYMBOLS: &[(&str, u32, char)] = &[
        ("symbol", 0x2D, '−'),
        ("symbol", 0x61, 'α'),
        ("symbol", 0x62, 'β'),
        ("symbol", 0x64, 'δ'),
        ("symbol", 0x67, 'γ'),
        ("symbol", 0x6C, 'λ'),
        ("symbol", 0x6D, 'μ'),
        ("symbol", 0x70, 'π'),
        ("symbol", 0x71, 'θ'),
        ("symbol", 0x72, 'ρ'),
        ("symbol", 0x73, 'σ'),
        ("symbol", 0x77, 'ω'),
        ("symbol", 0xA3, '≤'),
        ("symbol", 0xAE, '→'),
        ("symbol", 0xB0, '°'),
        ("symbol", 0xB1, '±'),
        ("symbol", 0xB3, '≥'),
        ("symbol", 0xB4, '×'),
        ("symbol", 0xB7, '•'),
        ("symbol", 0xB8, '÷'),
        ("symbol", 0xB9, '≠'),
        ("symbol", 0xBB, '≈'),
        ("wingdings", 0x28, '☎'),
        ("wingdings", 0x2A, '✉'),
        ("wingdings", 0x4A, '☺'),
        ("wingdings", 0x6C, '●'),
        ("wingdings", 0x6E, '■'),
        ("wingdings", 0x6F, '□'),
        ("wingdings", 0x76, '❖'),
        ("wingdings", 0xA7, '▪'),
        ("wingdings", 0xA8, '◻'),
        ("wingdings", 0xD8, '➢'),
        ("wingdings", 0xDF, '←'),
        ("wingdings", 0xE0, '→'),
        ("wingdings", 0xE8, '➔'),
        ("wingdings", 0xFB, '✗'),
        ("wingdings", 0xFC, '✓'),
        ("wingdings", 0xFD, '☒'),
        ("wingdings", 0xFE, '☑'),
        ("wingdings 2", 0x50, '✓'),
        ("wingdings 2", 0x52, '☑'),
        ("wingdings 2", 0xA3, '☐'),
    ];
    let font = font.to_lowercase();
    let at = SYMBOLS.binary_search_by(|row| (row.0, row.1).cmp(&(font.as_str(), number))).ok()?;
    SYMBOLS.get(at).map(|row| row.2)
}
