//! What a file says about itself (Org manual, “In-buffer Settings” and “Export Settings”).

use super::code::InheritedExports;
use super::lines::{Keyword, Line};
use super::options::Options;
use super::sources::file;
use crate::document::Place;
use crate::resolver::Resolver;
use std::collections::{HashMap, HashSet};

/// How deep setup files may name others.
const DEEPEST: usize = 10;

/// What a file says about itself.
#[derive(Debug, Default)]
pub(super) struct Settings {
    /// The files of settings that were read.
    setup_files: HashSet<String>,
    pub(super) options: Options,
    /// Words of tasks, each with whether it means that a task is over.
    states: HashMap<String, bool>,
    pub(super) macros: HashMap<String, String>,
    /// Beginnings of addresses by their short names.
    pub(super) abbreviations: HashMap<String, String>,
    pub(super) selecting_tags: HashSet<String>,
    pub(super) excluding_tags: HashSet<String>,
    pub(super) exports: InheritedExports,
    pub(super) title: Vec<String>,
    pub(super) subtitle: Vec<String>,
    pub(super) authors: Vec<String>,
    pub(super) email: Option<String>,
    pub(super) date: Option<String>,
    pub(super) description: Vec<String>,
    pub(super) keywords: Vec<String>,
    pub(super) language: Option<String>,
    pub(super) bibliography_files: Vec<(String, u32)>,
    /// The other settings, in source order, for who writes the document again.
    pub(super) others: Vec<OtherSetting>,
    /// What the document says about itself at its start in words of its own.
    pub(super) own: Vec<(String, String)>,
    own_keys: HashSet<String>,
    /// Where each keyword stands first.
    places: HashMap<String, Place>,
    /// What each keyword said, for macros that ask.
    pub(super) values: HashMap<String, String>,
}

/// Settings that are read.
const HELD: &[&str] = &[
    "author",
    "bibliography",
    "date",
    "description",
    "email",
    "keywords",
    "language",
    "link",
    "macro",
    "options",
    "setupfile",
    "subtitle",
    "title",
];

/// Settings that only programs have a use for, or that are followed here and no part of the tree.
const KNOWN: &[&str] = &[
    "archive",
    "bind",
    "category",
    "cite_export",
    "columns",
    "constants",
    "creator",
    "exclude_tags",
    "export_file_name",
    "export_title",
    "filetags",
    "html_container",
    "html_doctype",
    "html_head",
    "html_head_extra",
    "html_link_home",
    "html_link_up",
    "html_mathjax",
    "infojs_opt",
    "latex_class",
    "latex_class_options",
    "latex_compiler",
    "latex_header",
    "latex_header_extra",
    "odt_styles_file",
    "priorities",
    "property",
    "select_tags",
    "seq_todo",
    "startup",
    "tags",
    "todo",
    "typ_todo",
];

/// Settings that are followed, or that only an editor has a use for.
const FOLLOWED: &[&str] = &[
    "exclude_tags",
    "export_file_name",
    "priorities",
    "select_tags",
    "seq_todo",
    "startup",
    "todo",
    "typ_todo",
];

/// Settings that the tree keeps as fields, for the writers that they are for.
pub(super) const HEAD_LINES: [&str; 4] =
    ["html_head", "html_head_extra", "latex_header", "latex_header_extra"];

/// A setting that has no place in the tree.
#[derive(Debug)]
pub(super) struct OtherSetting {
    pub(super) key: String,
    pub(super) value: String,
    /// Whether readers lose nothing without it.
    pub(super) is_followed: bool,
}

/// How a keyword of a file is taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Setting {
    /// It is read, and the tree holds what it says.
    Held,
    /// It is a setting that has no place in the tree.
    Other,
    /// It is none.
    Unknown,
}

impl Settings {
    /// Reads the settings among lines; those that stand in blocks of text are none.
    pub(super) fn of(lines: &[Line<'_>], in_text: &[bool], resolver: &dyn Resolver) -> Self {
        let mut settings = Self::default();
        let mut is_header = true;
        for (line, is_in_text) in lines.iter().zip(in_text) {
            let text = line.trimmed();
            if *is_in_text {
                continue;
            }
            let keyword = text.starts_with("#+").then(|| Keyword::of(text)).flatten();
            let Some(keyword) = keyword else {
                is_header &= text.is_empty() || text.starts_with("# ") || text.starts_with(':');
                continue;
            };
            let setting = settings.keyword(&keyword, line.source, resolver, 0);
            if setting != Setting::Unknown || is_header && !is_about_text(keyword.key) {
                let key = keyword.key.to_lowercase();
                settings.places.entry(key).or_insert_with(|| line.place());
            }
            if is_header && setting == Setting::Unknown && !is_about_text(keyword.key) {
                let key = keyword.key.to_lowercase();
                settings.own_keys.insert(key.clone());
                settings.own.push((key, keyword.value.to_string()));
            }
        }
        settings.fill();
        settings
    }

    /// What no file states.
    fn fill(&mut self) {
        if self.states.is_empty() {
            self.states = HashMap::from([("TODO".into(), false), ("DONE".into(), true)]);
        }
        if self.selecting_tags.is_empty() {
            self.selecting_tags.insert("export".into());
        }
        if self.excluding_tags.is_empty() {
            self.excluding_tags.insert("noexport".into());
        }
    }

    pub(super) fn keyword(
        &mut self,
        keyword: &Keyword<'_>,
        source: u32,
        resolver: &dyn Resolver,
        depth: usize,
    ) -> Setting {
        let key = keyword.key.to_ascii_lowercase();
        let value = keyword.value;
        let list = || value.split_whitespace().map(ToString::to_string);
        match key.as_str() {
            "options" => self.options.read(value),
            "title" => self.title.push(value.into()),
            "subtitle" => self.subtitle.push(value.into()),
            "author" => self.authors.extend(value.split("\\and").map(|name| name.trim().into())),
            "email" => self.email = Some(value.into()),
            "date" => self.date = Some(value.into()),
            "description" => self.description.push(value.into()),
            "keywords" => {
                let words = value.split(',').map(str::trim).filter(|word| !word.is_empty());
                self.keywords.extend(words.map(ToString::to_string));
            }
            "language" => self.language = Some(value.into()).filter(|tag: &String| !tag.is_empty()),
            "macro" => {
                let (name, body) = value.split_once([' ', '\t']).unwrap_or((value, ""));
                self.macros.insert(name.to_lowercase(), body.trim().to_string());
            }
            "link" => {
                let (name, address) = value.split_once([' ', '\t']).unwrap_or((value, ""));
                let name = name.trim_matches('"');
                self.abbreviations.insert(name.into(), address.trim().trim_matches('"').into());
            }
            "bibliography" => {
                self.bibliography_files.push((value.trim_matches('"').into(), source));
                self.keep(&key, value, true);
            }
            "setupfile" => {
                self.setup_file(value.trim_matches('"'), source, resolver, depth);
            }
            _ => {
                if !KNOWN.contains(&key.as_str()) {
                    return Setting::Unknown;
                }
                let mut is_followed = FOLLOWED.contains(&key.as_str());
                match key.as_str() {
                    "todo" | "seq_todo" | "typ_todo" => self.sequence(value),
                    "select_tags" => self.selecting_tags.extend(list()),
                    "exclude_tags" => self.excluding_tags.extend(list()),
                    "property" => {
                        let (name, arguments) =
                            value.split_once([' ', '\t']).unwrap_or((value, ""));
                        is_followed = self.exports.take(0, name, arguments);
                    }
                    _ => {}
                }
                self.keep(&key, value, is_followed);
                self.values.insert(key, value.to_string());
                return Setting::Other;
            }
        }
        let known = self.values.entry(key).or_default();
        if !known.is_empty() {
            known.push(' ');
        }
        known.push_str(value);
        Setting::Held
    }

    fn keep(&mut self, key: &str, value: &str, is_followed: bool) {
        self.others.push(OtherSetting { key: key.into(), value: value.into(), is_followed });
    }

    /// `TODO WAITING(w@/!) | DONE CANCELLED`: without a bar the last word means done.
    fn sequence(&mut self, value: &str) {
        let words: Vec<&str> = value.split_whitespace().collect();
        let bar = words.iter().position(|word| *word == "|");
        let first_done = bar.unwrap_or(words.len().saturating_sub(1));
        for (at, word) in words.iter().enumerate().filter(|(_, word)| **word != "|") {
            let name = word.split('(').next().unwrap_or_default();
            if !name.is_empty() && !self.states.contains_key(name) {
                self.states.insert(name.to_string(), at >= first_done);
            }
        }
    }

    fn setup_file(&mut self, name: &str, source: u32, resolver: &dyn Resolver, depth: usize) {
        if depth >= DEEPEST {
            return;
        }
        // What was read once says nothing new; a file may name itself.
        if !self.setup_files.insert(name.to_string()) {
            return;
        }
        let Some(text) = file(resolver, name) else { return };
        let (mut start, mut lines) = (0_u32, Vec::new());
        for text in text.split('\n') {
            lines.push(Line::new(text, source, start));
            start = start.saturating_add(u32::try_from(text.len()).unwrap_or(0) + 1);
        }
        for line in &lines {
            if let Some(keyword) = Keyword::of(line.trimmed()) {
                self.keyword(&keyword, source, resolver, depth + 1);
            }
        }
    }

    /// Whether a word is the state of a task, and whether that means it is over.
    pub(super) fn state(&self, word: &str) -> Option<bool> {
        self.states.get(word).copied()
    }

    /// Whether a document says this about itself at its start.
    pub(super) fn is_own(&self, key: &str) -> bool {
        self.own_keys.contains(key)
    }

    /// Where a keyword stands first.
    pub(super) fn place(&self, key: &str) -> Option<Place> {
        self.places.get(key).copied()
    }
}

/// Whether a keyword, in small letters, says something about the whole file.
pub(super) fn is_setting(key: &str) -> bool {
    HELD.contains(&key) || KNOWN.contains(&key)
}

/// Keywords that are about what stands below them.
fn is_about_text(key: &str) -> bool {
    const KEYS: [&str; 16] = [
        "ascii",
        "beamer",
        "call",
        "caption",
        "header",
        "headers",
        "html",
        "include",
        "latex",
        "man",
        "md",
        "name",
        "odt",
        "print_bibliography",
        "results",
        "toc",
    ];
    let key = key.to_lowercase();
    KEYS.contains(&key.as_str()) || key.starts_with("attr_") || key.starts_with("begin")
}
