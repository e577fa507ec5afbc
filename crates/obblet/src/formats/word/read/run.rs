//! Runs: text with one set of properties (ECMA-376 part 1, 17.3.2).

use super::super::xml::{Element, Ns, Xml};
use super::Reader;
use super::known_properties::Noted;
use super::line::{Dress, Line, RunFormat, TextStyle};
use super::run_properties::{ByScript, Raised, RunProperties, Toggle};
use super::symbols::SymbolFont;
use super::text_base::TextBase;
use super::text_script::{TextScript, primary};
use crate::document::{
    Block, BlockKind, BreakKind, CompactString, Inline, LineBreak, NoteKind, RevisionKind, Ruby,
    UnderlineLine,
};
use crate::findings::Code;
use std::rc::Rc;

/// How deep runs may stand in each other, by way of text boxes, ruby text and alternatives.
const RUN_DEPTH: usize = 20;

/// White space (XML 1.0, 2.3).
const XML_SPACE: [char; 4] = [' ', '\t', '\n', '\r'];

/// What the content of a run has.
pub(super) struct RunStyle {
    pub(super) text: TextStyle,
    is_hidden: bool,
    symbols: Option<SymbolFont>,
    languages: Option<Box<ByScript>>,
}

impl Reader<'_> {
    /// Reads a run into a line.
    pub(super) fn run(&mut self, xml: &mut Xml<'_>, line: &mut Line, base: &TextBase) {
        let level = xml.level();
        if self.run_depth >= RUN_DEPTH {
            self.findings.add(Code::NestingTooDeep, Some(self.place()));
            while let Some(element) = xml.descendant(level) {
                if element.is("t") {
                    let inside = xml.level();
                    let text = xml.text(inside);
                    line.push_text(&text, &TextStyle::default());
                }
            }
            return;
        }
        self.run_depth += 1;
        self.run_children(level, xml, line, base);
        self.run_depth -= 1;
    }

    fn run_children(&mut self, level: usize, xml: &mut Xml<'_>, line: &mut Line, base: &TextBase) {
        let known = self.part.run_properties.take(xml);
        let mut style = known.map(|noted| self.stated_run_style(&noted, base, line));
        self.plain_text(xml, line, &mut style, base);
        while let Some(element) = xml.child(level) {
            if element.is("rPr") {
                let noted =
                    self.remembered(xml, |part| &mut part.run_properties, RunProperties::read);
                style = Some(self.stated_run_style(&noted, base, line));
                continue;
            }
            // Word shows nothing of a field before its result.
            let is_field_mark = element.is("fldChar") || element.is("instrText");
            if is_field_mark || !self.is_inside_instruction() {
                let style = style
                    .get_or_insert_with(|| self.run_style(&RunProperties::default(), base, line));
                self.run_content(&element, xml, line, style, base);
            }
        }
        self.own_mark = None;
    }

    /// The text of most runs, spelled as most programs do.
    fn plain_text(
        &mut self,
        xml: &mut Xml<'_>,
        line: &mut Line,
        style: &mut Option<RunStyle>,
        base: &TextBase,
    ) {
        if self.is_inside_instruction() {
            return;
        }
        let text = match xml.take_text("<w:t xml:space=\"preserve\">", "</w:t>") {
            Some(text) => text,
            None => match xml.take_text("<w:t>", "</w:t>") {
                Some(text) => text.trim_matches(XML_SPACE),
                None => return,
            },
        };
        let style =
            style.get_or_insert_with(|| self.run_style(&RunProperties::default(), base, line));
        self.run_text(text, line, style, base);
    }

    /// By the properties that count: those before a tracked change of looks where it is rejected.
    fn stated_run_style(
        &mut self,
        noted: &Noted<RunProperties>,
        base: &TextBase,
        line: &Line,
    ) -> RunStyle {
        self.report(noted);
        let RunProperties { before_change, looks_change, .. } = &noted.properties;
        let Some(before) = before_change.as_deref() else {
            return self.run_style(&noted.properties, base, line);
        };
        // What was before stands to what is now as deleted text to text.
        match self.is_kept(RevisionKind::Deletion) {
            Some(true) => self.run_style(before, base, line),
            Some(false) => self.run_style(&noted.properties, base, line),
            None => {
                let mut style = self.run_style(&noted.properties, base, line);
                let mut dress = style.text.dress.as_deref().cloned().unwrap_or_default();
                dress.change.clone_from(looks_change);
                style.text.dress = Some(self.shared(dress));
                style
            }
        }
    }

    fn run_style(&mut self, direct: &RunProperties, base: &TextBase, line: &Line) -> RunStyle {
        let style = direct.style.as_ref().map(|id| self.styles.character(id));
        // What a style is named after says all that its looks would say.
        let says = style.as_deref().and_then(|style| style.says);
        let named = style.as_deref().map(|style| &style.run).filter(|_| says.is_none());
        let defaults = &self.styles.default_run;
        let is = |toggle: Toggle| base.run_has(toggle, direct, named, defaults);
        let mut format = RunFormat::default();
        // What the paragraph's style makes of all text is no stress.
        let mut mark = |mark: RunFormat, toggle: Toggle| {
            if is(toggle) && !base.has(toggle) {
                format = format.with(mark);
            }
        };
        let right_to_left = direct.right_to_left == Some(true);
        mark(RunFormat::STRONG, if right_to_left { Toggle::BOLD_COMPLEX } else { Toggle::BOLD });
        mark(
            RunFormat::EMPHASIS,
            if right_to_left { Toggle::ITALIC_COMPLEX } else { Toggle::ITALIC },
        );
        mark(RunFormat::STRUCK, Toggle::STRUCK);
        mark(RunFormat::STRUCK, Toggle::DOUBLE_STRUCK);
        mark(RunFormat::SMALL_CAPITALS, Toggle::SMALL_CAPITALS);
        let is_hidden = is(Toggle::HIDDEN);
        let (capitals, effect) =
            (is(Toggle::CAPITALS) && !base.has(Toggle::CAPITALS), is(Toggle::EFFECT));
        let underline = direct.underline.or(named.and_then(|style| style.underline));
        let has_line = |line: Option<UnderlineLine>| line.is_some_and(|l| l != UnderlineLine::None);
        let is_link = style.as_ref().is_some_and(|style| style.is_link);
        // A line of another kind is a look of its own.
        let is_look = self.options.looks && underline != Some(UnderlineLine::Single);
        if has_line(underline) && !has_line(base.run.underline) && !is_link && !is_look {
            format = format.with(RunFormat::UNDERLINE);
        }
        let highlight = direct.highlight.or(named.and_then(|style| style.highlight)).flatten();
        if highlight.is_some() && base.run.highlight.flatten().is_none() {
            format = format.with(RunFormat::HIGHLIGHT);
        }
        match direct.raised.or(named.and_then(|style| style.raised)) {
            Some(Raised::Superscript) => format = format.with(RunFormat::SUPERSCRIPT),
            Some(Raised::Subscript) => format = format.with(RunFormat::SUBSCRIPT),
            _ => {}
        }
        if style.as_ref().is_some_and(|style| style.is_code) {
            format = format.with(RunFormat::CODE);
        }
        if let Some(says) = says.and_then(RunFormat::of_style) {
            format = format.with(says);
        }
        // The line below a link says that it is a link, and pages say so themselves.
        if line.is_inside_link() && format.has(RunFormat::UNDERLINE) {
            format = format.without(RunFormat::UNDERLINE);
            self.looks.count("underlined links");
        }
        if capitals && !self.options.looks {
            self.looks.count("capitals");
        }
        if effect {
            self.looks.count("text effects");
        }
        let symbols = direct.symbol_font.or(named.and_then(|style| style.symbol_font));
        let symbols = symbols.or(base.run.symbol_font).flatten();
        let languages = self.own_languages(direct, named, base);
        let dress = self.dress(direct, base, format).map(|dress| self.shared(dress));
        RunStyle { text: TextStyle { format, dress }, is_hidden, symbols, languages }
    }

    /// The languages of a run, where it states any.
    fn own_languages(
        &self,
        direct: &RunProperties,
        named: Option<&RunProperties>,
        base: &TextBase,
    ) -> Option<Box<ByScript>> {
        let nothing = ByScript::default();
        let of_style = named.map_or(&nothing, |style| &style.languages);
        let says_no_more = |own: &ByScript| *own == nothing || own.is_within(&base.run.languages);
        if says_no_more(&direct.languages) && says_no_more(of_style) {
            return None;
        }
        let mut found = direct.languages.clone();
        found.or(of_style);
        found.or(&base.run.languages);
        Some(Box::new(found))
    }

    fn run_content(
        &mut self,
        element: &Element<'_>,
        xml: &mut Xml<'_>,
        line: &mut Line,
        style: &RunStyle,
        base: &TextBase,
    ) {
        if element.ns != Ns::Word {
            return self.foreign_content(element, xml, line, base);
        }
        match element.local() {
            "t" | "delText" => {
                let keeps_spaces = element.value("space").as_deref() == Some("preserve");
                let level = xml.level();
                let text = xml.text(level);
                let trimmed = text.trim_matches(XML_SPACE);
                self.run_text(if keeps_spaces { &text } else { trimmed }, line, style, base);
            }
            "tab" | "ptab" => line.push_text("\t", &style.text),
            "br" => self.line_break(element, line, style),
            "cr" => line.push(Inline::Break(LineBreak::Hard), style.text.clone()),
            "noBreakHyphen" => line.push_text("\u{2011}", &style.text),
            "softHyphen" => line.push_text("\u{AD}", &style.text),
            "sym" => self.symbol(element, line, style),
            "footnoteReference" => self.note_mark(element, NoteKind::Footnote, line),
            "endnoteReference" => self.note_mark(element, NoteKind::Endnote, line),
            "commentReference" => self.comment_point(element, line),
            "fldChar" => self.field_mark(element, xml, line),
            "instrText" | "delInstrText" => {
                let level = xml.level();
                let text = xml.text(level);
                self.field_instruction(&text);
            }
            "drawing" => self.drawing(xml, line),
            "pict" | "object" => self.older_object(element, xml, line),
            "ruby" => self.ruby(xml, line, style, base),
            // Marks of a note's own number, of separators, of page layout in the past.
            "footnoteRef"
            | "endnoteRef"
            | "separator"
            | "continuationSeparator"
            | "lastRenderedPageBreak"
            | "annotationRef" => {}
            "pgNum" | "dayLong" | "dayShort" | "monthLong" | "monthShort" | "yearLong"
            | "yearShort" => self.lost("a date or page number that Word fills in"),
            "contentPart" => self.lost("handwriting"),
            _ => self.unknown(element),
        }
    }

    fn run_text(&mut self, text: &str, line: &mut Line, style: &RunStyle, base: &TextBase) {
        if let Some(note) = self.own_mark.take() {
            self.lost("a mark of a note that its author chose; it is numbered");
            if let Some(note) = self.document.notes.get_mut(note.index()) {
                note.label.get_or_insert_with(|| text.trim().into());
            }
            return;
        }
        if style.is_hidden {
            if !text.trim().is_empty() {
                self.lost("hidden text");
            }
            return;
        }
        let Some(font) = style.symbols else {
            let dressed = self.text_style(text, style, base);
            return line.push_text(text, dressed.as_ref().unwrap_or(&style.text));
        };
        let (text, missing) = font.text(text);
        line.push_text(&text, &style.text);
        for code in missing {
            self.lost(&format!("the character {code:02X} of the font {}", font.name()));
        }
    }

    /// The style of a text in another language than the document's.
    fn text_style(&mut self, text: &str, style: &RunStyle, base: &TextBase) -> Option<TextStyle> {
        let languages = style.languages.as_deref().unwrap_or(&base.run.languages);
        let script = TextScript::of(text)?;
        let language = match script {
            TextScript::Latin => &languages.latin,
            TextScript::EastAsian => &languages.east_asian,
            TextScript::Complex => &languages.complex,
        };
        let language = language.as_ref()?;
        self.count_language(language, text.len());
        if self.language.as_deref().is_some_and(|own| primary(own) == primary(language)) {
            return None;
        }
        let mut dress = style.text.dress.as_deref().cloned().unwrap_or_default();
        dress.language = Some(language.clone());
        Some(TextStyle { format: style.text.format, dress: Some(self.shared(dress)) })
    }

    /// Counts text by its language, so that the one with most of it is the document's.
    fn count_language(&mut self, language: &CompactString, bytes: usize) {
        match self.languages.iter().position(|(known, _)| known == language) {
            Some(at) => {
                if let Some((_, count)) = self.languages.get_mut(at) {
                    *count += bytes;
                }
            }
            None if self.languages.len() < 64 => self.languages.push((language.clone(), bytes)),
            None => {}
        }
    }

    fn line_break(&mut self, element: &Element<'_>, line: &mut Line, style: &RunStyle) {
        let kind = match element.value("type").as_deref() {
            Some("page") => BreakKind::Page,
            Some("column") => BreakKind::Column,
            _ => return line.push(Inline::Break(LineBreak::Hard), style.text.clone()),
        };
        let block = Block::new(BlockKind::Break(kind)).at(self.place());
        if line.is_bare() {
            self.before_paragraph.push(block);
        } else {
            self.behind_paragraph.push(block);
        }
    }

    /// ECMA-376 part 1, 17.3.3.30: a character by its place in a font.
    fn symbol(&mut self, element: &Element<'_>, line: &mut Line, style: &RunStyle) {
        let font = element.value("font").unwrap_or_default();
        let code = element.value("char").unwrap_or_default();
        let number = u32::from_str_radix(&code, 16).unwrap_or_default();
        let found = match SymbolFont::of(&font) {
            Some(font) => font.character(number),
            // Other fonts have their characters where Unicode has them.
            None => char::from_u32(number).filter(|_| !(0xE000..=0xF8FF).contains(&number)),
        };
        match found.filter(|character| !character.is_control()) {
            Some(character) => line.push_text(character.encode_utf8(&mut [0; 4]), &style.text),
            None => {
                line.push_text("\u{FFFD}", &style.text);
                self.lost(&format!("the character {code} of the font {font}"));
            }
        }
    }

    /// Ruby text: the reading above its base (17.3.3.25).
    fn ruby(&mut self, xml: &mut Xml<'_>, line: &mut Line, style: &RunStyle, around: &TextBase) {
        let (mut base, mut reading) = (Vec::new(), Vec::new());
        let level = xml.level();
        while let Some(part) = xml.child(level) {
            let target = match part.local() {
                "rt" => &mut reading,
                "rubyBase" => &mut base,
                "rubyPr" => {
                    self.ruby_properties(xml);
                    continue;
                }
                _ => {
                    self.unknown(&part);
                    continue;
                }
            };
            let mut inside = Line::default();
            self.inlines(xml, &mut inside, around);
            // Readings are small in every run.
            if part.local() == "rt" {
                inside.take_common_dress();
            }
            *target = inside.finish();
        }
        line.push(Inline::Ruby(Box::new(Ruby { base, reading })), style.text.clone());
    }

    /// How large and how far away a reading stands says nothing: pages place it by themselves.
    fn ruby_properties(&mut self, xml: &mut Xml<'_>) {
        let level = xml.level();
        while let Some(property) = xml.child(level) {
            let is_known = matches!(
                property.local(),
                "rubyAlign" | "hps" | "hpsRaise" | "hpsBaseText" | "lid" | "dirty"
            );
            if !is_known {
                self.unknown(&property);
            }
        }
    }

    /// The same style again, where the last one is like it: neighbours then join quickly.
    pub(super) fn shared(&mut self, dress: Dress) -> Rc<Dress> {
        match &self.last_dress {
            Some(last) if **last == dress => last.clone(),
            _ => {
                let shared = Rc::new(dress);
                self.last_dress = Some(shared.clone());
                shared
            }
        }
    }
}
