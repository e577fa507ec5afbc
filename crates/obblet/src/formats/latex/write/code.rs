//! Code.

use super::escape::Context;
use super::{Need, Writer};
use crate::document::{Attributes, CodeBlock};
use crate::formats::code_content;
use crate::formats::latex::DRAWING;

/// Languages that the package for listings knows by these names.
const KNOWN: [(&str, &str); 26] = [
    ("awk", "Awk"),
    ("bash", "bash"),
    ("c", "C"),
    ("cpp", "C++"),
    ("csh", "csh"),
    ("erlang", "erlang"),
    ("fortran", "Fortran"),
    ("gnuplot", "Gnuplot"),
    ("haskell", "Haskell"),
    ("html", "HTML"),
    ("java", "Java"),
    ("latex", "TeX"),
    ("lisp", "Lisp"),
    ("lua", "Lua"),
    ("make", "make"),
    ("matlab", "Matlab"),
    ("octave", "Octave"),
    ("pascal", "Pascal"),
    ("perl", "Perl"),
    ("php", "PHP"),
    ("prolog", "Prolog"),
    ("python", "Python"),
    ("r", "R"),
    ("ruby", "Ruby"),
    ("sql", "SQL"),
    ("xml", "XML"),
];

impl Writer<'_> {
    pub(super) fn code(&mut self, code: &CodeBlock, attributes: &Attributes) {
        let language = code.language.as_deref().filter(|language| !language.is_empty());
        let is_drawing = attributes.classes().iter().any(|class| class == DRAWING);
        if is_drawing && language == Some("latex") {
            self.paragraph_break();
            self.out.push_str(code.text.trim_end());
            self.out.push('\n');
            return self.drawing_packages(&code.text);
        }
        self.report_attributes(attributes);
        code_content::report_lost(code, self.place, &mut self.findings);
        if code.details.is_some() {
            self.lost("what is said about code behind its language");
        }
        self.paragraph_break();
        let label = self.label(attributes);
        if !label.is_empty() {
            self.out.push_str(&format!("\\phantomsection{label}\n"));
        }
        let is_plain = code.text.is_ascii()
            && !code.text.contains("\\end{")
            && !code.text.contains('\t')
            && !code.text.bytes().any(|b| b < b' ' && b != b'\n');
        match (is_plain && !self.is_argument && !self.is_cell, language) {
            (true, None) => self.verbatim("verbatim", "", &code.text),
            (true, Some(language)) => {
                self.need(Need::Listings);
                let known = KNOWN.iter().find(|(name, _)| *name == language);
                let name = match known {
                    Some((_, name)) => (*name).to_string(),
                    None => {
                        let safe: String =
                            language.chars().filter(|c| c.is_ascii_alphanumeric()).collect();
                        if safe != language {
                            self.lost("the spelling of a language");
                        }
                        self.code_languages.insert(safe.clone());
                        safe
                    }
                };
                self.verbatim("lstlisting", &format!("[language={name}]"), &code.text);
            }
            (false, language) => self.spelled(&code.text, language),
        }
    }

    fn verbatim(&mut self, name: &str, options: &str, text: &str) {
        self.out.push_str(&format!("\\begin{{{name}}}{options}\n{text}"));
        self.line();
        self.out.push_str(&format!("\\end{{{name}}}\n"));
    }

    /// Code whose characters have to be spelled, or that stands where lines are not kept.
    fn spelled(&mut self, text: &str, language: Option<&str>) {
        if language.is_some() {
            self.lost("the language of code");
        }
        if self.is_argument || self.is_cell {
            self.lost("the lines of code inside of a note or table");
            let words = self.as_argument(|writer| {
                for (at, line) in text.trim_end().lines().enumerate() {
                    if at > 0 {
                        writer.out.push_str("\\newline ");
                    }
                    writer.out.push_str("\\texttt{");
                    writer.characters(line, Context::Code);
                    writer.out.push('}');
                }
            });
            self.out.push_str(&words);
            return self.line();
        }
        self.need(Need::Alltt);
        self.out.push_str("\\begin{alltt}\n");
        for line in text.lines() {
            self.alltt_line(line);
            self.out.push('\n');
        }
        self.out.push_str("\\end{alltt}\n");
    }

    /// In `alltt` only three characters mean something.
    fn alltt_line(&mut self, line: &str) {
        let mut plain = String::new();
        for character in line.chars() {
            match character {
                '\\' => plain.push_str("\\textbackslash{}"),
                '{' | '}' => {
                    plain.push('\\');
                    plain.push(character);
                }
                '\t' => plain.push_str("        "),
                ' '..='\u{7e}' => plain.push(character),
                other => {
                    self.out.push_str(&std::mem::take(&mut plain));
                    self.characters(other.encode_utf8(&mut [0; 4]), Context::Code);
                }
            }
        }
        self.out.push_str(&plain);
    }

    fn drawing_packages(&mut self, source: &str) {
        if source.contains("tikz") || source.contains("tikzpicture") {
            self.need(Need::Tikz);
        }
    }
}
