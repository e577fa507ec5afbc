//! The words of a part of a Word file: what stands in `w:t`, outside of lists of contents.

use super::super::letters::next_byte;
use super::page::end_of_tag;
use memchr::{memchr, memmem};
use std::ops::Range;

/// Where the words of a part are.
#[derive(Debug, Default)]
pub(in crate::account) struct WordsOfPart {
    pub(in crate::account) slices: Vec<Range<usize>>,
    /// Where each paragraph begins, as the reader counts them.
    pub(in crate::account) paragraphs: Vec<usize>,
    /// What a list of contents shows, which is made anew.
    pub(in crate::account) contents: Vec<Range<usize>>,
    /// Text that was moved away by a tracked change.
    pub(in crate::account) moved_away: Vec<Range<usize>>,
    /// Formulas that stand in no other.
    pub(in crate::account) formulas: u64,
}

/// A field, as far as it matters here.
#[derive(Default)]
struct Field {
    is_contents: bool,
}

/// Goes through the tags of a part.
pub(in crate::account) fn words_of_part(xml: &str) -> WordsOfPart {
    let mut scan =
        Scan { xml, found: WordsOfPart::default(), fields: Vec::new(), contents_from: None };
    let mut at = 0;
    loop {
        at = next_byte(xml.as_bytes(), at, b'<');
        if at >= xml.len() {
            return scan.found;
        }
        at = scan.tag(at);
    }
}

/// Whether a tag has this name, and no longer one.
fn is_named(tag: &[u8], name: &[u8]) -> bool {
    tag.starts_with(name) && !tag.get(name.len()).is_some_and(u8::is_ascii_alphanumeric)
}

struct Scan<'x> {
    xml: &'x str,
    found: WordsOfPart,
    fields: Vec<Field>,
    /// Where the outermost list of contents began.
    contents_from: Option<usize>,
}

impl Scan<'_> {
    /// Gives the offset from which to go on.
    fn tag(&mut self, at: usize) -> usize {
        let rest = self.xml.as_bytes().get(at + 1..).unwrap_or_default();
        // One look at the beginning passes over nearly all.
        match rest {
            [b'w', b':', b't', ..] if is_named(rest, b"w:t") => return self.text(at),
            [b'w', b':', b'p', ..] if is_named(rest, b"w:p") => self.found.paragraphs.push(at),
            [b'w', b':', b'i', ..] if is_named(rest, b"w:instrText") => {
                return self.instruction(at);
            }
            [b'w', b':', b'f', ..] if is_named(rest, b"w:fldChar") => self.field(at),
            [b'w', b':', b'm', ..] if is_named(rest, b"w:moveFrom") => {
                let end = self.end_of(at, b"</w:moveFrom>");
                self.found.moved_away.push(at..end);
            }
            [b'm', b':', b'o', ..] if is_named(rest, b"m:oMath") => {
                self.found.formulas += 1;
                return self.end_of(at, b"</m:oMath>");
            }
            [b'm', b'c', b':', ..] if is_named(rest, b"mc:Fallback") => {
                return self.end_of(at, b"</mc:Fallback>");
            }
            _ => {}
        }
        at + 1
    }

    fn end_of(&self, at: usize, end: &[u8]) -> usize {
        let rest = self.xml.as_bytes().get(at..).unwrap_or_default();
        memmem::find(rest, end).map_or(at + 1, |found| at + found + end.len())
    }

    fn text(&mut self, at: usize) -> usize {
        let bytes = self.xml.as_bytes();
        let start = end_of_tag(bytes, at);
        if bytes.get(start.saturating_sub(2)) == Some(&b'/') {
            return start;
        }
        let end = memchr(b'<', bytes.get(start..).unwrap_or_default());
        let end = end.map_or(bytes.len(), |found| start + found);
        if start < end {
            self.found.slices.push(start..end);
        }
        end
    }

    fn instruction(&mut self, at: usize) -> usize {
        let start = end_of_tag(self.xml.as_bytes(), at);
        let rest = self.xml.get(start..).unwrap_or_default();
        let text = rest.split('<').next().unwrap_or_default();
        if let Some(field) = self.fields.last_mut()
            && text.trim_start().get(..3).is_some_and(|name| name.eq_ignore_ascii_case("TOC"))
        {
            field.is_contents = true;
            self.contents_from.get_or_insert(at);
        }
        start + text.len()
    }

    fn field(&mut self, at: usize) {
        let end = end_of_tag(self.xml.as_bytes(), at);
        let tag = self.xml.get(at..end).unwrap_or_default();
        if tag.contains("\"begin\"") {
            self.fields.push(Field::default());
        } else if tag.contains("\"end\"")
            && self.fields.pop().is_some_and(|field| field.is_contents)
        {
            let is_inside = self.fields.iter().any(|field| field.is_contents);
            if let Some(from) = self.contents_from.take_if(|_| !is_inside) {
                self.found.contents.push(from..end);
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_are_what_stands_in_runs() {
        let xml = "<w:p><w:r><w:t>one</w:t></w:r><w:r><w:fldChar w:fldCharType=\"begin\"/><w:instrText> TOC \\o</w:instrText>\
            <w:t>two</w:t><w:fldChar w:fldCharType=\"end\"/><w:tab/><w:delText>no</w:delText><m:oMath><m:r><m:t>x</m:t></m:r></m:oMath>\
            <w:t xml:space=\"preserve\"> three</w:t><w:t/></w:r></w:p>";
        let found = words_of_part(xml);
        let texts: Vec<&str> = found.slices.iter().map(|slice| &xml[slice.clone()]).collect();
        assert_eq!(texts, ["one", "two", " three"]);
        assert_eq!((found.formulas, found.paragraphs.len(), found.contents.len()), (1, 1, 1));
        assert!(found.contents[0].contains(&found.slices[1].start));
    }
}
