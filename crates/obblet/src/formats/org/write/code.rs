//! Code and examples.

use super::Writer;
use crate::document::{Attributes, CodeBlock};
use crate::formats::code_content;
use crate::formats::org::read::{needs_comma, without_shared_indentation};

impl Writer<'_> {
    pub(super) fn code_block(&mut self, code: &CodeBlock, attributes: &Attributes) {
        self.attribute_lines(attributes, &[]);
        code_content::report_lost(code, self.place, &mut self.findings);
        let (kind, mut header) = match &code.language {
            Some(language) => ("src", format!(" {}", language.replace(' ', "-"))),
            None => ("example", String::new()),
        };
        let is_result = attributes.pair("results").is_some();
        if is_result && code.language.is_none() && code.details.is_none() && !code.text.is_empty() {
            let fixed: Vec<String> = code.text.lines().map(|line| format!(": {line}")).collect();
            let fixed: Vec<&str> = fixed.iter().map(|line| line.trim_end()).collect();
            return self.lines(&fixed.join("\n"));
        }
        let details = code.details.as_deref().unwrap_or_default().trim();
        let keeps = without_shared_indentation(&code.text) != code.text;
        if keeps && !details.split_whitespace().any(|word| word == "-i") {
            header.push_str(" -i");
        }
        if !details.is_empty() {
            header.push(' ');
            header.push_str(details);
        }
        self.lines(&format!("#+begin_{kind}{header}"));
        let text = protected(&code.text);
        match keeps {
            // Its white space is its own.
            true => self.out.push_str(&text),
            false => self.lines(&text),
        }
        if !self.out.ends_with('\n') {
            self.out.push('\n');
        }
        self.lines(&format!("#+end_{kind}"));
    }

    /// Text between the lines of a block, as it is.
    pub(super) fn literal_block(&mut self, kind: &str, parameters: &str, text: &str) {
        self.lines(format!("#+begin_{kind} {parameters}").trim_end());
        self.out.push_str(&protected(text));
        if !self.out.ends_with('\n') {
            self.out.push('\n');
        }
        self.lines(&format!("#+end_{kind}"));
    }
}

/// Lines that Org would take for its own get a comma.
fn protected(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for line in text.split_inclusive('\n') {
        if needs_comma(line) {
            let trimmed = line.trim_start_matches([' ', '\t']);
            out.push_str(line.get(..line.len() - trimmed.len()).unwrap_or_default());
            out.push(',');
            out.push_str(trimmed);
        } else {
            out.push_str(line);
        }
    }
    out
}
