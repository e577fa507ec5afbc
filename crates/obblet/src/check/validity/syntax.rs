//! What the parser had to mend (HTML Standard, 13.2).

use super::Validator;
use crate::findings::Code;
use crate::formats::html::dom::Fault;

/// How many syntax errors are told one by one: a broken page has one on every line.
const SHOWN: usize = 100;

impl Validator<'_> {
    pub(super) fn syntax(&mut self, text: &str) {
        let faults: Vec<Fault> =
            self.dom.faults.iter().filter(|fault| self.matters(fault)).cloned().collect();
        let has_doctype = has_doctype(text);
        let mut last = None;
        // The parser stumbles over the first tag where the doctype is missing.
        let first =
            faults.first().filter(|fault| !has_doctype && fault.message == "Unexpected token");
        for fault in faults.iter().skip(usize::from(first.is_some())).take(SHOWN) {
            // One mistake makes the parser stumble more than once.
            if last == Some((fault.line, &fault.message)) {
                continue;
            }
            last = Some((fault.line, &fault.message));
            let place = self.places.of_line(fault.line);
            self.findings.add_about(Code::HtmlSyntax, words(&fault.message), Some(place));
        }
        if self.is_page && !has_doctype {
            self.findings.add(Code::DoctypeMissing, Some(self.places.of_line(1)));
        }
    }

    fn matters(&self, fault: &Fault) -> bool {
        // A part of a page has no doctype, and a missing one is told apart.
        !fault.message.contains("doctype") && !fault.message.contains("DOCTYPE")
    }
}

fn has_doctype(text: &str) -> bool {
    let mut rest = text.trim_start_matches('\u{FEFF}').trim_start();
    while let Some(remark) = rest.strip_prefix("<!--") {
        rest = remark.split_once("-->").map_or("", |(_, behind)| behind).trim_start();
    }
    let declared = rest.get(..9).is_some_and(|start| start.eq_ignore_ascii_case("<!doctype"));
    let inside =
        rest.get(9..).and_then(|rest| rest.split_once('>')).map_or("", |(inside, _)| inside);
    let words: Vec<&str> = inside.split_ascii_whitespace().collect();
    declared
        && match words.as_slice() {
            [name] => name.eq_ignore_ascii_case("html"),
            [name, "SYSTEM" | "system", address] => {
                name.eq_ignore_ascii_case("html") && address.contains("about:legacy-compat")
            }
            _ => false,
        }
}

/// The parser's message for people who write pages.
fn words(message: &str) -> &str {
    match message {
        "No <p> tag to close" => "</p> where no paragraph is open; a block before it closed it",
        "No matching tag to close" | "Formatting element not open" => {
            "an end tag without its start tag"
        }
        "Unexpected open element while closing" | "Unexpected open tag at end of body" => {
            "an element is closed while one inside it is still open"
        }
        "Formatting element not in scope" | "Formatting element not current node" => {
            "elements overlap instead of nesting"
        }
        "Unacknowledged self-closing tag" => "a slash at the end of a tag that is not empty",
        "Non-space table text" => "text in a table outside of its cells",
        "Unexpected token" => "a tag or text where none may be",
        "Duplicate attribute" => "an attribute stands twice in one tag",
        "nested heading tags" => "a heading begins inside a heading",
        other => other,
    }
}
