//! Fields (ECMA-376 part 1, 17.16): links and references become links, check boxes and choices what
//! they show, everything else its last result.

use super::super::xml::{Element, Xml};
use super::Reader;
use super::line::{Frame, Line, TextStyle};
use super::links::link_of;
use super::symbols::SymbolFont;
use crate::document::{Block, BlockKind, CompactString, ContentsKind, ContentsList, Inline};
use crate::findings::Code;

/// An open complex field.
#[derive(Debug, Default)]
pub(super) struct Field {
    instruction: String,
    /// The result is being read, not the instruction.
    in_result: bool,
    /// The link that its result is.
    link: Option<(CompactString, Option<CompactString>)>,
    /// How many frames were open in the line before this field opened its own.
    opened_at: Option<usize>,
    /// It makes a list of contents.
    is_contents: bool,
    form: Option<FormField>,
}

/// What a field of an older form holds (17.16.17).
#[derive(Debug)]
enum FormField {
    CheckBox(bool),
    Choice(Option<String>),
    Text,
}

impl Reader<'_> {
    /// Whether what is read now is an instruction, which nobody is to see.
    pub(super) fn is_inside_instruction(&self) -> bool {
        self.fields.iter().any(|field| !field.in_result)
    }

    pub(super) fn field_instruction(&mut self, text: &str) {
        if let Some(field) = self.fields.last_mut().filter(|field| !field.in_result) {
            field.instruction.push_str(text);
        }
    }

    /// `w:fldChar`: the begin, separator or end of a complex field.
    pub(super) fn field_mark(&mut self, element: &Element<'_>, xml: &mut Xml<'_>, line: &mut Line) {
        match element.value("fldCharType").as_deref() {
            Some("begin") => {
                let form = self.form_field(xml);
                self.fields.push(Field { form, ..Field::default() });
            }
            Some("separate") => {
                let Some(mut field) = self.fields.pop() else { return };
                field.in_result = true;
                if !self.is_inside_instruction() {
                    self.begin_result(&mut field, line);
                }
                self.fields.push(field);
            }
            Some("end") => {
                let Some(field) = self.fields.pop() else { return };
                self.end_field(field, line);
            }
            _ => {}
        }
    }

    fn begin_result(&mut self, field: &mut Field, line: &mut Line) {
        let words = words(&field.instruction);
        field.link = link_of(&words);
        field.is_contents = is_contents(&words);
        if field.is_contents {
            self.begin_contents(&words, line);
            field.opened_at = Some(line.depth());
            return line.open(Frame::Contents);
        }
        match &field.link {
            Some((address, title)) => {
                field.opened_at = Some(line.depth());
                line.open(Frame::Link { address: address.clone(), title: title.clone() });
            }
            None => self.note_field(&words),
        }
    }

    /// The list itself stands where its field begins.
    fn begin_contents(&mut self, words: &[String], line: &Line) {
        self.holds_contents = true;
        if self.fields.iter().any(|field| field.is_contents) {
            return;
        }
        let contents =
            ContentsList { kind: ContentsKind::Headings, depth: depth_of_contents(words) };
        let block = Block::new(BlockKind::Contents(Box::new(contents))).at(self.place());
        match line.is_bare() {
            true => self.before_paragraph.push(block),
            false => self.behind_paragraph.push(block),
        }
    }

    fn end_field(&mut self, field: Field, line: &mut Line) {
        if let Some(depth) = field.opened_at {
            while line.depth() > depth {
                line.close();
            }
        }
        if self.is_inside_instruction() {
            return;
        }
        match field.form {
            Some(FormField::CheckBox(ticked)) => {
                line.push(Inline::CheckBox(ticked), TextStyle::default());
            }
            Some(FormField::Choice(Some(choice))) if !field.in_result => {
                line.push_text(&choice, &TextStyle::default());
            }
            _ if !field.in_result => self.field_without_result(&words(&field.instruction), line),
            _ => {}
        }
    }

    /// A field that shows something though no result is stored.
    fn field_without_result(&mut self, words: &[String], line: &mut Line) {
        let name = words.first().map(|name| name.to_ascii_uppercase()).unwrap_or_default();
        match name.as_str() {
            // Marks for lists that are made elsewhere, and variables.
            "XE" | "TC" | "TA" => self.lost("an entry for an index or list"),
            "SET" | "ASK" | "RD" | "PRIVATE" | "ADVANCE" => {}
            "MACROBUTTON" | "GOTOBUTTON" => {
                let text = words.get(2..).unwrap_or_default().join(" ");
                line.push_text(&text, &TextStyle::default());
                self.flattened(&name);
            }
            "SYMBOL" => self.symbol_field(words, line),
            "EQ" => {
                let text = equation_text(words.get(1..).unwrap_or_default());
                line.push_text(&text, &TextStyle::default());
                self.findings.add_about(Code::EquationFlattened, &text, Some(self.place()));
            }
            "" => {}
            _ => self.flattened(&name),
        }
    }

    /// `SYMBOL 252 \f Wingdings`
    fn symbol_field(&mut self, words: &[String], line: &mut Line) {
        let code = words.get(1).and_then(|word| match word.strip_prefix("0x") {
            Some(digits) => u32::from_str_radix(digits, 16).ok(),
            None => word.parse().ok(),
        });
        let at = words.iter().position(|word| word == "\\f");
        let font = at.and_then(|at| words.get(at + 1)).and_then(|font| SymbolFont::of(font));
        let found = code.and_then(|code| match font {
            Some(font) => font.character(code),
            None => char::from_u32(code).filter(|c| !c.is_control()),
        });
        match found {
            Some(character) => {
                line.push_text(character.encode_utf8(&mut [0; 4]), &TextStyle::default());
            }
            None => self.lost("a character by its place in a font"),
        }
    }

    /// `w:fldSimple`: opens what its result stands in. Gives whether a frame is open.
    pub(super) fn open_simple_field(&mut self, instruction: &str, line: &mut Line) -> bool {
        let words = words(instruction);
        match link_of(&words) {
            Some((address, title)) => {
                line.open(Frame::Link { address, title });
                true
            }
            None => {
                self.note_field(&words);
                false
            }
        }
    }

    /// What a field means for the paragraph around it; and that its result will not change again.
    fn note_field(&mut self, words: &[String]) {
        let name = words.first().map_or("?".into(), |name| name.to_ascii_uppercase());
        match name.as_str() {
            // Their results are all they say.
            "TOC" | "INDEX" | "BIBLIOGRAPHY" | "CITATION" | "QUOTE" | "FORMTEXT"
            | "FORMDROPDOWN" | "FORMCHECKBOX" | "ADDIN" | "HYPERLINK" | "EMBED" | "LINK"
            | "SHAPE" | "INCLUDEPICTURE" => {}
            "SEQ" => {
                self.sequence = words.get(1).map(|name| name.as_str().into());
                self.flattened(&name);
            }
            _ => self.flattened(&name),
        }
    }

    fn flattened(&mut self, name: &str) {
        self.findings.count(Code::FieldFlattened, name, Some(self.place()));
    }

    /// A link that goes on from the paragraph before.
    pub(super) fn reopen_fields(&mut self, line: &mut Line) {
        if self.is_inside_instruction() {
            return;
        }
        for field in &mut self.fields {
            if field.is_contents {
                self.holds_contents = true;
                field.opened_at = Some(line.depth());
                line.open(Frame::Contents);
            }
            if let Some((address, title)) = &field.link {
                field.opened_at = Some(line.depth());
                line.open(Frame::Link { address: address.clone(), title: title.clone() });
            }
        }
    }

    /// A field that goes on behind its paragraph cannot keep a frame open in it.
    pub(super) fn leave_paragraph_fields(&mut self) {
        self.fields.iter_mut().for_each(|field| field.opened_at = None);
    }
}

impl Reader<'_> {
    /// The form field that begins with a field, if one does.
    fn form_field(&mut self, xml: &mut Xml<'_>) -> Option<FormField> {
        let mut found = None;
        let (mut ticked, mut chosen, mut choices) = (None, 0usize, Vec::new());
        let level = xml.level();
        while let Some(element) = xml.descendant(level) {
            match element.local() {
                "checkBox" => found = Some(FormField::CheckBox(false)),
                "ddList" => found = Some(FormField::Choice(None)),
                "textInput" => found = Some(FormField::Text),
                // What is set now stands over what was set at first.
                "checked" => ticked = Some(element.is_on()),
                "default" if matches!(found, Some(FormField::CheckBox(_))) => {
                    ticked = ticked.or(Some(element.is_on()));
                }
                "result" => {
                    chosen =
                        element.number("val").and_then(|n| usize::try_from(n).ok()).unwrap_or(0);
                }
                "listEntry" => choices.push(element.string("val").unwrap_or_default()),
                // Names, helps and limits for who fills the form in; the first entries of fields.
                "ffData" | "name" | "label" | "tabIndex" | "enabled" | "calcOnExit"
                | "entryMacro" | "exitMacro" | "helpText" | "statusText" | "size" | "sizeAuto"
                | "default" | "type" | "maxLength" | "format" | "fldData" | "numberingChange" => {}
                _ => self.unknown(&element),
            }
        }
        match found? {
            FormField::CheckBox(_) => Some(FormField::CheckBox(ticked.unwrap_or_default())),
            FormField::Choice(_) => Some(FormField::Choice(choices.into_iter().nth(chosen))),
            FormField::Text => Some(FormField::Text),
        }
    }
}

/// A list of so many levels shows all that a document has.
const ALL_LEVELS: u8 = 8;

/// How many levels of headings a list of contents shows: `\o "1-3"`; 0 for all.
fn depth_of_contents(words: &[String]) -> u8 {
    let levels = words.iter().position(|word| word == "\\o").and_then(|at| words.get(at + 1));
    let last = levels.and_then(|levels| levels.rsplit('-').next());
    last.and_then(|last| last.trim().parse().ok()).filter(|depth| *depth < ALL_LEVELS).unwrap_or(0)
}

/// A list of contents made of headings; lists of figures keep their entries.
fn is_contents(words: &[String]) -> bool {
    words.first().is_some_and(|name| name.eq_ignore_ascii_case("TOC"))
        && !words.iter().any(|word| matches!(word.as_str(), "\\c" | "\\a" | "\\f"))
}

/// The characters of an equation field, without its switches.
fn equation_text(words: &[String]) -> String {
    let text = words.join(" ");
    let mut out = String::new();
    let mut characters = text.chars().peekable();
    while let Some(character) = characters.next() {
        match character {
            '\\' => {
                while characters.peek().is_some_and(|next| next.is_ascii_alphabetic()) {
                    characters.next();
                }
            }
            '(' | ')' | ';' => out.push(' '),
            _ => out.push(character),
        }
    }
    out.split_whitespace().collect::<Vec<_>>().join(" ")
}

/// The words of an instruction; quoted ones are one word, `\\` in them is one backslash.
fn words(instruction: &str) -> Vec<String> {
    let mut words = Vec::new();
    let mut characters = instruction.chars().peekable();
    while let Some(&first) = characters.peek() {
        if first.is_whitespace() {
            characters.next();
            continue;
        }
        let mut word = String::new();
        let quoted = matches!(first, '"' | '“' | '”');
        if quoted {
            characters.next();
        }
        while let Some(c) = characters.next() {
            match c {
                '"' | '“' | '”' if quoted => break,
                '\\' if quoted => word.extend(characters.next()),
                _ => word.push(c),
            }
            if !quoted && characters.peek().is_some_and(|next| next.is_whitespace()) {
                break;
            }
        }
        words.push(word);
    }
    words
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn link_fields_give_their_addresses() {
        let cases = [
            (
                r#" HYPERLINK "https://mill.example/a b" \o "Tip" "#,
                Some("https://mill.example/a b"),
            ),
            (r#"HYPERLINK \l "tides""#, Some("#tides")),
            (r#"HYPERLINK "guide.docx" \l "tides""#, Some("guide.docx#tides")),
            (r"REF _Ref1 \h", Some("#_Ref1")),
            (r"REF _Ref1", Some("#_Ref1")),
            (r"REF", None),
            (r"SEQ Figure \* ARABIC", None),
            ("", None),
        ];
        for (instruction, expected) in cases {
            let address = link_of(&words(instruction)).map(|(address, _)| address.to_string());
            assert_eq!(address.as_deref(), expected, "{instruction}");
        }
    }

    #[test]
    fn lists_of_figures_are_no_contents() {
        let cases =
            [(r#"TOC \o "1-3" \h"#, true), (r#"TOC \h \c "Figure""#, false), ("INDEX", false)];
        for (instruction, expected) in cases {
            assert_eq!(is_contents(&words(instruction)), expected, "{instruction}");
        }
    }
}
