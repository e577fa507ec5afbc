//! Links, references and pictures.

use super::Writer;
use super::escape::Surroundings;
use crate::document::{
    Inline, Link, Picture, PictureSource, Reference, ReferenceShows, plain_text,
};
use crate::findings::Code;
use crate::formats::org::read::{is_known, plain_length, words_of};

impl Writer<'_> {
    pub(super) fn link(&mut self, link: &Link, around: Surroundings) {
        if link.title.is_some() {
            self.lost("the advice of a link");
        }
        let has_attributes = link.attributes.get().is_some_and(|set| {
            set.id.is_some() || !set.classes.is_empty() || !set.pairs.is_empty()
        });
        if has_attributes {
            self.lost("attributes of a link");
        }
        let address = link.address.trim();
        let Some(target) = self.target(address) else {
            return self.link_as_html(link, around);
        };
        let shown = plain_text(&link.content);
        let is_plain = matches!(link.content.as_slice(), [Inline::Text(_)]);
        let is_itself =
            is_plain && (shown == address || address.strip_prefix("mailto:") == Some(&shown));
        if is_itself && !address.starts_with('#') {
            return self.bare_link(address, &target);
        }
        if link.content.is_empty() {
            return self.out.push_str(&format!("[[{target}]]"));
        }
        if let [Inline::Picture(picture)] = link.content.as_slice() {
            let source = self.picture_address(picture);
            return self.out.push_str(&format!("[[{target}][file:{source}]]"));
        }
        let inside = Surroundings { is_link: true, is_last: false, ..around };
        let words = self.apart(|writer| writer.inlines(&link.content, inside));
        self.needs_apart = false;
        self.out.push_str(&format!("[[{target}][{words}]]"));
    }

    /// An address that is its own words.
    fn bare_link(&mut self, address: &str, target: &str) {
        let follows_word = self.out.chars().next_back().is_some_and(char::is_alphanumeric);
        let fits = |rest: &str| plain_length(rest) == Some(rest.len());
        let is_plain = address.split_once(':').is_some_and(|(scheme, rest)| {
            matches!(scheme, "http" | "https" | "ftp") && rest.starts_with("//") && fits(rest)
        });
        if is_plain
            && !follows_word
            && !self.is_cell
            && !crate::formats::org::read::is_picture(address)
        {
            self.out.push_str(address);
            return;
        }
        match address.contains(['<', '>', ' ']) || !address.contains(':') {
            true => self.out.push_str(&format!("[[{target}][{address}]]")),
            false => self.out.push_str(&format!("<{address}>")),
        }
    }

    /// A link to a kind of address that Org looks for in the document.
    fn link_as_html(&mut self, link: &Link, around: Surroundings) {
        self.findings.count(Code::FormatAsHtml, "a link", Some(self.place));
        let address = super::emphasis::escaped_html(&link.address);
        self.snippet("html", &format!("<a href=\"{address}\">"));
        self.inlines(&link.content, around);
        self.keep_apart(Some('@'));
        self.snippet("html", "</a>");
    }

    /// What a link leads to, in Org's words.
    fn target(&self, address: &str) -> Option<String> {
        if let Some(id) = address.strip_prefix('#') {
            return Some(self.place_of_id(id));
        }
        let scheme = address.split(':').next().filter(|scheme| scheme.len() < address.len());
        let is_path = scheme.is_none_or(|scheme| scheme.contains(['/', '?', '#', '.', ' ']));
        if !is_path {
            let scheme = scheme.unwrap_or_default();
            let is_kept =
                !matches!(scheme, "elisp" | "shell" | "id" | "attachment" | "doi" | "file");
            let has_host = address.get(scheme.len()..).is_some_and(|rest| rest.starts_with("://"));
            return (is_kept && (is_known(scheme) || has_host)).then(|| escaped(address));
        }
        let (file, fragment) = address.split_once('#').unwrap_or((address, ""));
        let fragment = if fragment.is_empty() { String::new() } else { format!("::#{fragment}") };
        Some(escaped(&format!("file:{file}{fragment}")))
    }

    /// A place of this document: a heading by its words or its id, a name.
    fn place_of_id(&self, id: &str) -> String {
        match self.survey.headings.get(id) {
            Some(words) => format!("*{words}"),
            None if self.survey.names.contains(id) && !self.survey.heading_ids.contains(id) => {
                let is_safe = !id.contains(':') && !id.starts_with(['#', '*', '(', '/', '.', '~']);
                if is_safe { escaped(id) } else { format!("#{}", escaped(id)) }
            }
            None if is_machine_id(id) => format!("id:{id}"),
            None => format!("#{}", escaped(id)),
        }
    }

    pub(super) fn reference(&mut self, reference: &Reference, around: Surroundings) {
        let target = reference.target.as_str();
        let is_equation = self.survey.equations.contains(target);
        let is_numbered = self.survey.numbered.contains(target);
        let written = match reference.shows {
            ReferenceShows::EquationNumber if is_equation => format!("\\eqref{{{target}}}"),
            ReferenceShows::Number if is_equation => format!("\\ref{{{target}}}"),
            ReferenceShows::Page => format!("\\pageref{{{target}}}"),
            ReferenceShows::Number if is_numbered => format!("[[{}]]", self.place_of_id(target)),
            ReferenceShows::Text if self.shows_itself(reference) => {
                format!("[[{}]]", self.place_of_id(target))
            }
            _ => {
                self.changed("a reference");
                let place = self.place_of_id(target);
                let inside = Surroundings { is_link: true, is_last: false, ..around };
                let words = self.apart(|writer| writer.inlines(&reference.stored, inside));
                self.needs_apart = false;
                match words.is_empty() {
                    true => format!("[[{place}]]"),
                    false => format!("[[{place}][{words}]]"),
                }
            }
        };
        self.out.push_str(&written);
    }

    /// Whether a reference shows the words of its target.
    fn shows_itself(&self, reference: &Reference) -> bool {
        let target = reference.target.as_str();
        let words = words_of(&reference.stored);
        match self.survey.headings.get(target) {
            Some(title) => title.to_lowercase() == words,
            None if self.survey.heading_ids.contains(target) => true,
            None => words == target.to_lowercase() || words.is_empty(),
        }
    }

    pub(super) fn picture(&mut self, picture: &Picture) {
        if !self.is_picture_alone {
            let is_more = !picture.alternative.is_empty()
                || picture.title.is_some()
                || picture.width.is_some()
                || picture.height.is_some()
                || !picture.attributes.is_empty();
            if is_more {
                self.lost("what is said about a picture in a line");
            }
        }
        let address = self.picture_address(picture);
        let is_remote = address.starts_with("http://") || address.starts_with("https://");
        let scheme = if is_remote { "" } else { "file:" };
        self.out.push_str(&format!("[[{scheme}{}]]", escaped(&address)));
    }

    fn picture_address(&mut self, picture: &Picture) -> String {
        match &picture.source {
            PictureSource::Address(address) => address.to_string(),
            PictureSource::Media(id) => {
                let name = self.document.media.get(*id).map(|media| media.name.to_string());
                let name = name.unwrap_or_default();
                match &self.options.picture_folder {
                    Some(folder) => format!("{folder}/{name}"),
                    None => {
                        self.findings.count(Code::PictureLinked, &name, Some(self.place));
                        name
                    }
                }
            }
        }
    }
}

/// Brackets and backslashes of an address that would end it.
fn escaped(address: &str) -> String {
    let mut out = String::with_capacity(address.len());
    for c in address.chars() {
        if matches!(c, '[' | ']' | '\\') {
            out.push('\\');
        }
        out.push(c);
    }
    out
}

/// Whether a program made this id.
pub(super) fn is_machine_id(id: &str) -> bool {
    id.len() == 36
        && id.bytes().enumerate().all(|(at, byte)| match at {
            8 | 13 | 18 | 23 => byte == b'-',
            _ => byte.is_ascii_hexdigit(),
        })
}
