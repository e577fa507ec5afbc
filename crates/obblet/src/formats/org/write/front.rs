//! The keywords at the start of a file.

use super::Writer;
use super::blocks::WORKS;
use crate::document::{Block, BlockKind, ContentsKind, Value};
use crate::findings::Code;

impl<'d> Writer<'d> {
    /// The blocks without what stands among the keywords: a contents list at the start.
    pub(super) fn first_blocks(&self) -> (Option<u8>, &'d [Block]) {
        match self.document.blocks.split_first() {
            Some((Block { kind: BlockKind::Contents(contents), attributes, .. }, rest))
                if contents.kind == ContentsKind::Headings && attributes.is_empty() =>
            {
                (Some(contents.depth), rest)
            }
            _ => (None, &self.document.blocks),
        }
    }

    pub(super) fn front(&mut self) {
        let metadata = &self.document.metadata;
        self.file_properties();
        for (key, line) in [("title", &metadata.title), ("subtitle", &metadata.subtitle)] {
            if !line.is_empty() {
                let text = self.one_line(line);
                self.keyword(key, &text);
            }
        }
        for author in &metadata.authors {
            self.keyword("author", &author.name);
            if author.affiliation.is_some() {
                self.lost("the affiliation of an author");
            }
        }
        if let Some(email) = metadata.authors.iter().find_map(|author| author.email.as_deref()) {
            self.keyword("email", email);
        }
        for (key, value) in [
            ("date", metadata.date.as_deref()),
            ("description", metadata.description.as_deref()),
            ("language", metadata.language.as_deref()),
        ] {
            if let Some(value) = value {
                self.keyword(key, &value.split_whitespace().collect::<Vec<_>>().join(" "));
            }
        }
        if !metadata.keywords.is_empty() {
            self.keyword("keywords", &metadata.keywords.join(", "));
        }
        if !self.document.bibliography.is_empty() && !self.names_works() {
            self.keyword("bibliography", WORKS);
        }
        self.task_states();
        self.extras();
        self.options_line();
        if !self.out.is_empty() {
            self.out.push('\n');
        }
    }

    /// Properties of the file stand before everything else.
    fn file_properties(&mut self) {
        let Some(Block { kind: BlockKind::Foreign(foreign), .. }) = self.document.blocks.first()
        else {
            return;
        };
        if foreign.format == super::super::ORG && is_properties(&foreign.markup) {
            self.out.push_str(&foreign.markup);
            self.out.push('\n');
        }
    }

    pub(super) fn keyword(&mut self, key: &str, value: &str) {
        self.out.push_str(format!("#+{key}: {value}").trim_end());
        self.out.push('\n');
    }

    /// Everything else that is said about the document.
    fn extras(&mut self) {
        for (key, value) in &self.document.metadata.extra {
            if key == "options" {
                continue;
            }
            let is_key = !key.is_empty()
                && key.chars().all(|c| c.is_alphanumeric() || matches!(c, '_' | '-'));
            let values: Option<Vec<String>> = match value {
                Value::List(values) => values.iter().map(line_of).collect(),
                value => line_of(value).map(|line| vec![line]),
            };
            match values.filter(|_| is_key) {
                Some(values) => values.iter().for_each(|value| self.keyword(key, value)),
                None => self.findings.count(Code::NodeNotCarried, key, None),
            }
        }
    }

    /// Only the options without which the file would be read in another way.
    fn options_line(&mut self) {
        let mut options: Vec<String> = Vec::new();
        if let (Some(depth), _) = self.first_blocks() {
            options.push(if depth == 0 { "toc:t".into() } else { format!("toc:{depth}") });
        }
        if self.survey.counts_headings {
            options.push("num:t".into());
        }
        if self.survey.has_bare_scripts {
            options.push("^:{}".into());
        }
        if self.survey.has_special_strings {
            options.push("-:nil".into());
        }
        let kept = self.document.metadata.extra.iter().find(|(key, _)| key == "options");
        match kept {
            Some((_, Value::Text(kept))) => {
                options.extend(Some(kept.clone()).filter(|k| !k.is_empty()))
            }
            // What Org does not show unless it is told to.
            _ => options.extend(self.shown().into_iter().map(ToString::to_string)),
        }
        if !options.is_empty() {
            self.keyword("options", &options.join(" "));
        }
    }
}

impl Writer<'_> {
    /// The options that show what the document has and Org hides.
    fn shown(&self) -> Vec<&'static str> {
        let has_email = self.document.metadata.authors.iter().any(|author| author.email.is_some());
        let all = [
            (has_email, "email:t"),
            (self.survey.has_planning, "p:t"),
            (self.survey.has_priorities, "pri:t"),
            (self.survey.has_logbook, "d:t"),
        ];
        all.into_iter().filter(|(is_there, _)| *is_there).map(|(_, option)| option).collect()
    }
}

/// A value as it can stand in one line.
fn line_of(value: &Value) -> Option<String> {
    value.to_text().filter(|text| !text.contains('\n') && !text.trim().is_empty())
}

pub(super) fn is_properties(markup: &str) -> bool {
    markup.get(..12).is_some_and(|start| start.eq_ignore_ascii_case(":properties:"))
}
