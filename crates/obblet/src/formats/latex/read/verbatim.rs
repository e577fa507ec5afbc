//! Code: `\verb`, `verbatim`, listings.

use super::commands::Action;
use super::{Reader, keys};
use crate::document::{
    Attributes, Block, BlockKind, CodeBlock, CompactString, Figure, Inline, InlineCode,
};
use crate::findings::Code;
use crate::tex::{Category, Name, Spot};

impl Reader<'_> {
    pub(super) fn code_command(&mut self, action: Action, spot: Spot) {
        match action {
            Action::Verbatim => self.inline_code(None),
            Action::MintInline => {
                self.front.option();
                let language = self.front.argument_text();
                self.inline_code(Some(language));
            }
            Action::CodeFile => self.code_file(spot),
            Action::CodeLanguage => {
                self.front.option();
                self.front.argument_text();
                // One that is only made known says nothing of how it looks.
                if !self.front.argument_text().trim().is_empty() {
                    self.layout("\\lstdefinelanguage", spot);
                }
            }
            _ => {
                let settings = self.front.argument_text();
                let settings = keys::options(&settings);
                if let Some(language) = keys::value(&settings, "language") {
                    self.code_language = language_name(language);
                }
            }
        }
    }

    /// `\verb|code|`: between two of the same sign, or in braces.
    fn inline_code(&mut self, language: Option<String>) {
        let mut language = language.and_then(|name| language_name(&name));
        self.front.star();
        if let Some(options) = self.front.option_text() {
            let options = keys::options(&options);
            let stated = keys::value(&options, "language").and_then(language_name);
            language = stated.or(language);
        }
        let Some(open) = self.front.next_character() else { return };
        let close = if open == '{' { '}' } else { open };
        let text = self.front.verbatim(&close.to_string()).unwrap_or_default();
        let mut attributes = Attributes::NONE;
        if let Some(language) = language {
            attributes.edit().classes.push(language);
        }
        self.sheet.mark_place();
        self.sheet.push(Inline::Code(Box::new(InlineCode { text: text.into(), attributes })));
    }

    /// Code between two signs that stand for `\verb`.
    pub(super) fn short_code(&mut self, sign: &str) {
        self.sheet.mark_place();
        let Some(text) = self.front.verbatim_in_line(sign) else {
            return self.sheet.text.push_str(sign);
        };
        let code = InlineCode { text: text.into(), attributes: Attributes::NONE };
        self.sheet.push(Inline::Code(Box::new(code)));
    }

    /// `\MakeShortVerb{\|}`, `\DeleteShortVerb{\|}`.
    pub(super) fn short_verb(&mut self, begins: bool) {
        self.front.star();
        self.front.option();
        let sign = self.front.argument_text();
        let sign = sign.trim().trim_start_matches('\\');
        if let Some(character) = sign.chars().next() {
            self.set_short_verb(character, begins);
        }
    }

    pub(super) fn is_short_verb(&self, sign: &str) -> bool {
        self.short_verbs.iter().chain(&self.front.code_signs).any(|known| known == sign)
    }

    pub(super) fn set_short_verb(&mut self, character: char, begins: bool) {
        let sign = CompactString::from(character.to_string());
        self.short_verbs.retain(|known| *known != sign);
        let category = if begins { Category::Active } else { Category::Other };
        self.front.set_category(character, category);
        if begins {
            self.short_verbs.push(sign);
        }
    }

    /// `\lstnewenvironment{name}[count][default]{begin}{end}`, `\DefineVerbatimEnvironment{name}{kind}{options}`
    /// and their kin.
    pub(super) fn new_verbatim(&mut self, command: Name) {
        let command = self.front.names.text(command).to_string();
        self.front.star();
        let is_named_in_brackets = command == "newminted" || command == "newtcblisting";
        let option = self.front.option_text();
        let mut name = self.front.argument_text();
        let mut arguments = 0;
        match command.as_str() {
            "DefineVerbatimEnvironment"
            | "CustomVerbatimEnvironment"
            | "RecustomVerbatimEnvironment" => {
                self.front.argument();
                self.front.argument();
            }
            "newminted" => {
                name = option.filter(|_| is_named_in_brackets).unwrap_or(format!("{name}code"));
                self.front.argument();
            }
            "newtcblisting" | "lstnewenvironment" => {
                arguments =
                    self.front.option_text().and_then(|n| n.parse().ok()).unwrap_or(0_usize);
                self.front.option();
                self.front.argument();
                if command == "lstnewenvironment" {
                    self.front.argument();
                }
            }
            _ => {}
        }
        self.verbatim_environments.insert(name, arguments.min(9));
    }

    /// An environment of the document's own that holds code.
    pub(super) fn own_verbatim_environment(&mut self, name: &str, spot: Spot) {
        let arguments = self.verbatim_environments.get(name).copied().unwrap_or(0);
        let options = self.code_options();
        for _ in 0..arguments {
            if matches!(self.front.next_sign(), Some('{')) {
                self.argument_of_verbatim(name, spot);
            }
        }
        let inside = self.raw_up_to_end(name);
        // Looking for options leaves the end of the line where it was.
        let inside = inside.strip_prefix('\n').unwrap_or(&inside).to_string();
        self.sheet.end_paragraph();
        self.push_code(inside, None, &options, spot);
    }

    /// What is said in several words about code stands above it, as a title would; one word is a name.
    fn argument_of_verbatim(&mut self, name: &str, spot: Spot) {
        let tokens = self.front.argument();
        let text = self.front.typed(&tokens);
        if text.trim().contains(char::is_whitespace) {
            let content = self.inlines_of(tokens);
            self.sheet.end_paragraph();
            let paragraph = Block::new(BlockKind::Paragraph(content)).at(spot.into());
            return self.sheet.push_block(paragraph);
        }
        if text.chars().any(char::is_alphabetic) {
            let subject = format!("\\begin{{{name}}}{{{}}}", text.trim());
            self.findings.count(Code::CommandSkipped, &subject, Some(spot.into()));
        }
    }

    /// `\verbatim` in the definition of an environment: what stands up to the end of that is code.
    pub(super) fn verbatim_body(&mut self, spot: Spot) {
        let Some(name) = self.open_macros.last().cloned() else { return };
        let inside = self.raw_up_to_end(&name);
        self.sheet.end_paragraph();
        self.push_code(inside, None, &[], spot);
        self.push_end_again(&name);
    }

    /// The source up to the end of an environment, without what stands on the line of its beginning
    /// where that is nothing.
    fn raw_up_to_end(&mut self, name: &str) -> String {
        let end = format!("\\end{{{name}}}");
        let rest = self.front.rest_of_line();
        if let Some(at) = rest.find(&end) {
            return rest.get(..at).unwrap_or_default().to_string();
        }
        let inside = self.front.verbatim(&end).unwrap_or_default();
        match rest.trim().is_empty() {
            true => inside,
            false => format!("{rest}\n{inside}"),
        }
    }

    pub(super) fn verbatim_environment(&mut self, name: &str, spot: Spot) {
        let plain = name.trim_end_matches('*');
        let mut options = Vec::new();
        let mut language = None;
        match plain {
            "lstlisting" | "Verbatim" | "BVerbatim" | "LVerbatim" => {
                options = self.code_options();
                language = keys::value(&options, "language").and_then(language_name);
                if plain == "lstlisting" {
                    language = language.or(self.code_language.clone());
                }
            }
            "codeexample" | "LTXexample" | "SideBySideExample" | "CenterExample" => {
                options = self.code_options();
            }
            "tcblisting" | "VerbatimOut" | "verbatimwrite" | "SaveVerbatim" | "dispListing"
            | "dispExample" => {
                self.front.option();
                if matches!(self.front.next_sign(), Some('{')) {
                    self.front.argument();
                }
            }
            "minted" => {
                options = self.code_options();
                language = language_name(&self.front.argument_text());
            }
            "filecontents" => {
                self.front.option();
                self.front.argument();
            }
            _ => {}
        }
        let inside = self.raw_up_to_end(name);
        self.sheet.end_paragraph();
        match plain {
            "comment" => {
                let remark = BlockKind::SourceRemark(inside.trim().into());
                self.sheet.push_block(Block::new(remark).at(spot.into()));
            }
            "filecontents" => self.layout("filecontents", spot),
            "alltt" => self.push_code(spelled_out(&inside), language, &options, spot),
            _ => self.push_code(inside, language, &options, spot),
        }
    }

    fn code_options(&mut self) -> Vec<(String, String)> {
        let options = self.front.option();
        options.map(|tokens| keys::options(&self.front.typed(&tokens))).unwrap_or_default()
    }

    fn push_code(
        &mut self,
        text: String,
        language: Option<CompactString>,
        options: &[(String, String)],
        spot: Spot,
    ) {
        let mut text = text;
        // The line before `\end` may be indented as the environment is.
        let body = text.trim_end_matches([' ', '\t']).len();
        text.truncate(body);
        if !text.ends_with('\n') {
            text.push('\n');
        }
        let code = CodeBlock { language, ..CodeBlock::of_text(text) };
        let block = Block::new(BlockKind::Code(Box::new(code))).at(spot.into());
        let Some(caption) = self.listing_caption(options) else {
            return self.sheet.push_block(block);
        };
        let figure = Figure { content: vec![block], caption: Some(caption) };
        let mut figure = Block::new(BlockKind::Figure(Box::new(figure))).at(spot.into());
        if let Some(label) = keys::value(options, "label") {
            figure = figure.with_id(label);
        }
        self.sheet.push_block(figure);
    }

    /// Code that stands in a file of its own.
    fn code_file(&mut self, spot: Spot) {
        let options = self.code_options();
        let mut language = keys::value(&options, "language").and_then(language_name);
        let mut file = self.front.argument_text();
        if let Some(crate::tex::Token::Character('{', _)) = self.front.peek_raw().map(|t| t.token) {
            language = language_name(&file);
            file = self.front.argument_text();
        }
        match self.front.file(&file) {
            Some(text) => self.push_code(text.to_string(), language, &options, spot),
            None => self.findings.add_about(Code::IncludeMissing, &file, Some(spot.into())),
        }
    }
}

/// A language as its own people write it in small letters.
fn language_name(name: &str) -> Option<CompactString> {
    let name = name.trim();
    // Dialects stand in brackets before it.
    let name = name.rsplit(']').next().unwrap_or(name).trim();
    let known = match name {
        "" => return None,
        "C++" => "cpp",
        "TeX" | "[LaTeX]TeX" => "latex",
        "Bash" | "bash" | "sh" => "bash",
        other => return Some(other.to_lowercase().into()),
    };
    Some(known.into())
}

/// In `alltt`, commands and braces mean something; all other characters are themselves.
fn spelled_out(text: &str) -> String {
    let mut shown = String::new();
    let mut rest = text;
    while let Some(at) = rest.find(['\\', '{', '}']) {
        shown.push_str(rest.get(..at).unwrap_or_default());
        rest = rest.get(at..).unwrap_or_default();
        let length = command_length(rest);
        let (command, behind) = rest.split_at(length);
        if command.starts_with('\\') {
            shown.push_str(&super::super::plain_text_of(command));
        }
        rest = behind;
    }
    shown.push_str(rest);
    shown
}

/// How long a command is with the group right behind it; a brace alone is one character.
fn command_length(text: &str) -> usize {
    let Some(name) = text.strip_prefix('\\') else { return 1 };
    let letters = name.bytes().take_while(u8::is_ascii_alphabetic).count();
    if letters == 0 {
        let sign = name.chars().next();
        // Accents take the group behind them.
        let is_escape = matches!(sign, Some('{' | '}' | '%' | '#' | '&' | '_' | '$' | ' ') | None);
        let length = 1 + sign.map_or(0, char::len_utf8);
        return if is_escape { length } else { length + group_length(text.get(length..)) };
    }
    1 + letters + group_length(text.get(1 + letters..))
}

fn group_length(text: Option<&str>) -> usize {
    let text = text.unwrap_or_default();
    if !text.starts_with('{') {
        return 0;
    }
    text.find('}').map_or(0, |end| end + 1)
}
