//! Headings, and what stands before them: title, authors, date, keywords.

use super::commands::Action;
use super::{Reader, keys};
use crate::dates;
use crate::document::{
    Attributes, Block, BlockKind, Heading, Node, Note, NoteKind, Person, Visit, plain_text,
    push_plain_text, walk_inlines,
};
use crate::findings::Code;
use crate::tex::{Located, Name, Spot, Token};

impl Reader<'_> {
    /// `\section[short]{words}`; with a star it has no number.
    pub(super) fn section(&mut self, level: i8, name: Name, spot: Spot) {
        // Without chapters, parts stand right above sections.
        let is_part = level == -1 && !self.class.has_chapters;
        let level = if is_part { 0 } else { level };
        let has_star = self.front.star();
        self.front.option();
        let text = self.front.names.text(name).to_string();
        let counter = match text.as_str() {
            "addchap" => "chapter",
            "addsec" => "section",
            "addpart" => "part",
            "minisec" => "paragraph",
            other => other,
        };
        let is_unnumbered = has_star || text.starts_with("add") || text == "minisec";
        let is_counted = !is_unnumbered && i64::from(level) <= self.front.counter("secnumdepth");
        let number = is_counted.then(|| self.step(counter, self.section_word(level)));
        self.sheet.end_paragraph();
        let content = self.inline_argument();
        self.labels.title([content.as_slice()]);
        let mut heading = Heading { content, ..Heading::default() };
        // Levels are settled when all of them are known.
        heading.level = u8::try_from(level + 2).unwrap_or(1);
        heading.number = number;
        self.push_heading(heading, spot);
    }

    fn push_heading(&mut self, heading: Heading, spot: Spot) {
        self.highest_level = self.highest_level.min(heading.level);
        let block = Block::new(BlockKind::Heading(Box::new(heading))).at(spot.into());
        self.sheet.push_block(block);
    }

    fn section_word(&self, level: i8) -> &'static str {
        match level {
            -1 => "part",
            0 => "chapter",
            _ => "section",
        }
    }

    pub(super) fn appendix(&mut self) {
        self.class.is_appendix = true;
        let top = if self.class.has_chapters { "chapter" } else { "section" };
        self.front.set_counter(top, 0);
        self.front.define_text(&format!("the{top}"), &format!(r"\Alph{{{top}}}"));
    }

    pub(super) fn frame_title(&mut self, spot: Spot) {
        let content = self.inline_argument();
        self.push_frame_title(content, spot);
    }

    /// The title of a slide is a heading below the sections.
    pub(super) fn push_frame_title(&mut self, content: Vec<crate::document::Inline>, spot: Spot) {
        if content.is_empty() {
            return;
        }
        self.push_heading(Heading { level: 4, content, ..Heading::default() }, spot);
    }

    pub(super) fn title_command(&mut self, action: Action, name: Name, spot: Spot) {
        match action {
            Action::Title => {
                self.front.option();
                let tokens = self.front.argument();
                self.document.metadata.title = self.title_of(tokens);
            }
            Action::Subtitle => {
                self.front.option();
                let tokens = self.front.argument();
                self.document.metadata.subtitle = self.title_of(tokens);
            }
            Action::Author => {
                let marks = self.front.option_text().unwrap_or_default();
                self.author_marks.resize(self.document.metadata.authors.len(), String::new());
                let tokens = self.front.argument();
                self.authors(tokens);
                self.author_marks.resize(self.document.metadata.authors.len(), marks);
            }
            Action::Date => {
                let date = self.inline_argument();
                self.keep_marks(&date);
                let date = plain_text(&date);
                self.document.metadata.date =
                    Some(date.trim().into()).filter(|_| !date.trim().is_empty());
            }
            Action::MakeTitle => self.make_title(),
            Action::Thanks => {
                self.front.option();
                let content = self.block_argument();
                self.title_notes.push(content);
            }
            Action::Affiliation if self.is_letter() => self.letter_sender(),
            Action::Affiliation => self.affiliation(),
            Action::Email => {
                self.front.option();
                let text = self.inline_argument();
                let text = plain_text(&text);
                if let Some(author) = self.document.metadata.authors.last_mut() {
                    author.email.get_or_insert_with(|| text.trim().into());
                }
            }
            Action::Keywords => {
                let text = self.inline_argument();
                self.keywords(&plain_text(&text));
            }
            Action::And => self.sheet.text.push_str(", "),
            Action::Today => self.today(spot),
            _ => self.letter_part(name),
        }
    }

    /// The day on which the document is read, as far as that is known.
    fn today(&mut self, spot: Spot) {
        match self.resolver.today() {
            Some(day) => {
                let language = match self.document.metadata.language.as_deref() {
                    None | Some("en") => "en-US",
                    Some(other) => other,
                };
                let spelled = dates::spelled(language, &day).unwrap_or(day);
                self.sheet.text.push_str(&spelled);
            }
            None => self.findings.count(Code::DateUnknown, "\\today", Some(spot.into())),
        }
    }

    /// A place of work: of the authors whose mark it has, or else of those since the last one.
    fn affiliation(&mut self) {
        let mark = self.front.option_text();
        let content = self.inline_argument();
        self.keep_marks(&content);
        let text = plain_text(&content);
        let text = text.split_whitespace().collect::<Vec<_>>().join(" ");
        let authors = &mut self.document.metadata.authors;
        let has_mark = |marks: &str| {
            mark.as_deref()
                .is_some_and(|mark| marks.split(',').any(|one| one.trim() == mark.trim()))
        };
        let all_marks = self.author_marks.iter().enumerate();
        let marked: Vec<usize> =
            all_marks.filter(|(_, marks)| has_mark(marks)).map(|(at, _)| at).collect();
        let all = authors.iter().enumerate();
        let without: Vec<usize> =
            all.filter(|(_, author)| author.affiliation.is_none()).map(|(at, _)| at).collect();
        let theirs = match (marked.is_empty(), without.is_empty()) {
            (false, _) => marked,
            (true, false) => without,
            (true, true) => authors.len().checked_sub(1).into_iter().collect(),
        };
        if theirs.is_empty() {
            // Nobody works there: it stays a line of the text.
            self.sheet.push_block(crate::document::build::paragraph(text.as_str()));
            return;
        }
        for at in theirs {
            let Some(author) = authors.get_mut(at) else { continue };
            author.affiliation = match author.affiliation.take() {
                Some(other) => Some(format!("{other}; {text}").into()),
                None => Some(text.as_str().into()),
            };
        }
    }

    fn title_of(&mut self, tokens: Vec<Located>) -> Vec<crate::document::Inline> {
        let content = self.inlines_of(tokens);
        // Line breaks of a title page are no part of a title.
        content
            .into_iter()
            .map(|inline| match inline {
                crate::document::Inline::Break(_) => " ".into(),
                other => other,
            })
            .collect()
    }

    pub(super) fn keywords(&mut self, text: &str) {
        let words = text.split([',', ';', '·']).map(str::trim).filter(|word| !word.is_empty());
        self.document.metadata.keywords.extend(words.map(Into::into));
    }

    /// Names between `\and`, each perhaps with an affiliation on further lines.
    fn authors(&mut self, tokens: Vec<Located>) {
        let mut people = vec![Vec::new()];
        for located in tokens {
            let is_and = match located.token {
                Token::Command(name) => {
                    matches!(self.front.names.text(name), "and" | "AND" | "And")
                }
                _ => false,
            };
            match people.last_mut() {
                _ if is_and => people.push(Vec::new()),
                Some(person) => person.push(located),
                None => {}
            }
        }
        for person in people {
            let content = self.inlines_of(person);
            self.keep_marks(&content);
            let mut lines = vec![String::new()];
            for inline in &content {
                match (inline, lines.last_mut()) {
                    (crate::document::Inline::Break(crate::document::LineBreak::Hard), _) => {
                        lines.push(String::new());
                    }
                    (inline, Some(line)) => push_plain_text(std::slice::from_ref(inline), line),
                    _ => {}
                }
            }
            let mut lines = lines.into_iter().map(|line| line.trim().to_string());
            let name = lines.next().unwrap_or_default();
            let rest: Vec<String> = lines.filter(|line| !line.is_empty()).collect();
            let is_mail = |line: &String| line.contains('@') && !line.contains(char::is_whitespace);
            let (mail, mut places): (Vec<String>, Vec<String>) =
                rest.into_iter().partition(is_mail);
            if name.is_empty() {
                continue;
            }
            let mut mail = mail.into_iter();
            let email = mail.next().map(Into::into);
            places.extend(mail);
            self.document.metadata.authors.push(Person {
                name: name.into(),
                email,
                affiliation: (!places.is_empty()).then(|| places.join(", ").into()),
            });
        }
    }

    /// Notes to names and dates, which hold no marks, are notes to the title.
    fn keep_marks(&mut self, content: &[crate::document::Inline]) {
        for visit in walk_inlines(content) {
            if let Visit::Enter(Node::Inline(mark @ crate::document::Inline::NoteMark(_))) = visit {
                self.title_marks.push(mark.clone());
            }
        }
    }

    /// The title itself is metadata, with the marks of notes to it.
    pub(super) fn make_title(&mut self) {
        for content in std::mem::take(&mut self.title_notes) {
            let note = Note { kind: NoteKind::Footnote, label: None, content };
            let id = self.document.add_note(note);
            self.title_marks.push(crate::document::Inline::NoteMark(id));
        }
        let title = &mut self.document.metadata.title;
        if !title.is_empty() {
            title.append(&mut self.title_marks);
        }
    }

    pub(super) fn setup(&mut self) {
        let text = self.front.argument();
        let text = self.front.typed(&text);
        for (key, value) in keys::options(&text) {
            let metadata = &mut self.document.metadata;
            match key.as_str() {
                "pdftitle" if metadata.title.is_empty() => {
                    metadata.title = vec![value.as_str().into()];
                }
                "pdfauthor" if metadata.authors.is_empty() => {
                    let person =
                        |name: &str| Person { name: name.trim().into(), ..Person::default() };
                    metadata.authors = value.split([',', ';']).map(person).collect();
                }
                "pdfsubject" => metadata.description = Some(value),
                "pdfkeywords" if metadata.keywords.is_empty() => self.keywords(&value),
                "pdflang" => metadata.language = Some(value.as_str().into()),
                _ => {}
            }
        }
    }

    /// Gives a block the label that is stated right behind what it names.
    pub(super) fn label_last(&mut self, label: &str) -> bool {
        if !self.sheet.is_line_empty() {
            return false;
        }
        let Some(last) = self.sheet.blocks.last_mut() else { return false };
        if !matches!(last.kind, BlockKind::Heading(_)) || last.attributes.id().is_some() {
            return false;
        }
        let mut attributes = std::mem::replace(&mut last.attributes, Attributes::NONE);
        attributes.edit().id = Some(label.into());
        last.attributes = attributes;
        true
    }
}
