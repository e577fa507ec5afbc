//! Fields (ECMA-376 part 1, 17.16): links become links, everything else its last result.

use super::super::xml::Element;
use super::Reader;
use super::line::{Frame, Line};
use crate::findings::Code;

/// An open complex field.
#[derive(Debug, Default)]
pub(super) struct Field {
    instruction: String,
    /// The result is being read, not the instruction.
    in_result: bool,
    /// How many frames were open in the line before this field opened its own.
    opened_at: Option<usize>,
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
    pub(super) fn field_mark(&mut self, element: &Element<'_>, line: &mut Line) {
        match element.value("fldCharType").as_deref() {
            Some("begin") => self.fields.push(Field::default()),
            Some("separate") => {
                let Some(mut field) = self.fields.pop() else { return };
                field.in_result = true;
                if !self.is_inside_instruction() {
                    field.opened_at = self.open_field(&field.instruction, line);
                }
                self.fields.push(field);
            }
            Some("end") => {
                let Some(field) = self.fields.pop() else { return };
                if let Some(depth) = field.opened_at {
                    while line.depth() > depth {
                        line.close();
                    }
                } else if !field.in_result && !self.is_inside_instruction() {
                    self.flattened(&field.instruction);
                }
            }
            _ => {}
        }
    }

    /// Opens what a field's result stands in. Gives the number of frames before.
    pub(super) fn open_field(&mut self, instruction: &str, line: &mut Line) -> Option<usize> {
        let depth = line.depth();
        match link_of(instruction) {
            Some(frame) => {
                line.open(frame);
                Some(depth)
            }
            None => {
                self.flattened(instruction);
                None
            }
        }
    }

    fn flattened(&mut self, instruction: &str) {
        let name = instruction.split_whitespace().next().unwrap_or("?").to_ascii_uppercase();
        // A contents list is made anew; its entries have styles of their own.
        if name != "TOC" {
            self.findings.count(Code::FieldFlattened, &name, Some(self.place()));
        }
    }

    /// A field that goes on behind its paragraph cannot keep a frame open in it.
    pub(super) fn leave_paragraph_fields(&mut self) {
        self.fields.iter_mut().for_each(|field| field.opened_at = None);
    }
}

/// The link that a field is, if it is one.
fn link_of(instruction: &str) -> Option<Frame> {
    let words = words(instruction);
    let mut words = words.iter().map(String::as_str);
    let name = words.next()?.to_ascii_uppercase();
    let mut address = String::new();
    let (mut anchor, mut title, mut is_live) = (None, None, false);
    while let Some(word) = words.next() {
        match word {
            "\\l" => anchor = words.next(),
            "\\o" => title = words.next(),
            "\\t" | "\\*" | "\\d" | "\\f" => {
                words.next();
            }
            "\\h" => is_live = true,
            _ if word.starts_with('\\') => {}
            _ if address.is_empty() => address = word.to_string(),
            _ => {}
        }
    }
    match name.as_str() {
        "HYPERLINK" => {
            if let Some(anchor) = anchor {
                address = format!("{address}#{anchor}");
            }
        }
        "REF" | "PAGEREF" | "NOTEREF" if is_live => address = format!("#{address}"),
        _ => return None,
    }
    (!address.is_empty())
        .then(|| Frame::Link { address: address.into(), title: title.map(Into::into) })
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
            (r"REF _Ref1", None),
            (r"SEQ Figure \* ARABIC", None),
            ("", None),
        ];
        for (instruction, expected) in cases {
            let address = match link_of(instruction) {
                Some(Frame::Link { address, .. }) => Some(address.to_string()),
                _ => None,
            };
            assert_eq!(address.as_deref(), expected, "{instruction}");
        }
    }
}
