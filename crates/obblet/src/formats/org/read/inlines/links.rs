//! Links of every kind (Org syntax, “Links”; Org manual, “Hyperlinks”).

use super::leaf::Leaf;
use super::plain::LineBuilder;
use super::{Reader, Spot};
use crate::document::{
    Attributes, CompactString, Inline, Link, Picture, PictureSource, Place, id_of_words,
};
use crate::findings::Code;
use crate::formats::org::read::targets::Search;

/// Kinds of links that stand in text without brackets.
const PLAIN: [&str; 9] = ["doi", "file", "ftp", "http", "https", "id", "mailto", "news", "tel"];

/// Other kinds of links; what is none of these is looked for in the document.
const OTHERS: [&str; 13] = [
    "attachment",
    "bbdb",
    "data",
    "docview",
    "elisp",
    "gnus",
    "help",
    "info",
    "irc",
    "man",
    "shell",
    "sms",
    "urn",
];

const PICTURES: [&str; 9] =
    [".png", ".jpeg", ".jpg", ".gif", ".svg", ".webp", ".avif", ".tiff", ".bmp"];

/// Where a link leads to.
enum Target {
    Address(CompactString),
    /// A file's picture, when nothing describes it.
    Picture(CompactString),
    /// Nowhere that a page may lead to.
    None,
}

impl Reader<'_> {
    /// `[[target]]` or `[[target][words]]`
    pub(super) fn bracket_link(
        &mut self,
        spot: Spot<'_, '_>,
        line: &mut LineBuilder,
    ) -> Option<usize> {
        let Spot { leaf, at, range, depth } = spot;
        let start = at + 2;
        let text = leaf.text.get(start..range.end).filter(|_| !self.in_link)?;
        let length = path_length(text)?;
        let behind = text.get(length + 1..)?;
        let path = unescaped(text.get(..length)?);
        if path.trim().is_empty() {
            return None;
        }
        let place = leaf.place(at);
        if behind.starts_with(']') {
            let inline = self.link(path.trim(), None, place, leaf);
            self.push(line, inline);
            return Some(start + length + 2);
        }
        behind.strip_prefix('[').filter(|rest| !rest.starts_with(']'))?;
        let from = start + length + 2;
        let close = leaf.next("]]", from).filter(|close| close + 2 <= range.end)?;
        let words = leaf.text.get(from..close)?;
        let content = match picture_address(words) {
            Some(address) => vec![picture(self.in_folder(address, leaf))],
            None => {
                self.in_link = true;
                let content = self.objects(leaf, from..close, depth + 1);
                self.in_link = false;
                content
            }
        };
        let inline = self.link(path.trim(), Some(content), place, leaf);
        self.push(line, inline);
        Some(close + 2)
    }

    /// `<https://…>`
    pub(super) fn angle_link(
        &mut self,
        spot: Spot<'_, '_>,
        line: &mut LineBuilder,
    ) -> Option<usize> {
        let Spot { leaf, at, range, .. } = spot;
        let close = leaf.next(">", at).filter(|close| *close < range.end && !self.in_link)?;
        let path = leaf.text.get(at + 1..close)?;
        let scheme = path.split(':').next().filter(|scheme| scheme.len() < path.len())?;
        let is_word = scheme.starts_with(|c: char| c.is_ascii_alphabetic())
            && scheme.chars().all(|c| c.is_ascii_alphanumeric() || "+.-".contains(c));
        let is_address =
            is_known(scheme) || is_word && path.get(scheme.len()..)?.starts_with("://");
        if !is_address || path.contains(['<', '\n']) {
            return None;
        }
        let inline = self.link(path, None, leaf.place(at), leaf);
        self.push(line, inline);
        Some(close + 1)
    }

    /// An address in the text, at its colon.
    pub(super) fn plain_link(
        &mut self,
        spot: Spot<'_, '_>,
        line: &mut LineBuilder,
    ) -> Option<usize> {
        let Spot { leaf, at, range, .. } = spot;
        let before = leaf.text.get(range.start..at).filter(|_| !self.in_link)?;
        let letters = before.bytes().rev().take_while(u8::is_ascii_alphabetic).count();
        let scheme = before.get(before.len() - letters..)?;
        let is_word = before
            .get(..before.len() - letters)?
            .chars()
            .next_back()
            .is_none_or(|c| !c.is_alphanumeric());
        if !is_word || !PLAIN.contains(&scheme) || !line.text.ends_with(scheme) {
            return None;
        }
        let text = leaf.text.get(at + 1..range.end)?;
        if matches!(scheme, "http" | "https" | "ftp") && !text.starts_with("//") {
            return None;
        }
        let length = plain_length(text)?;
        let start = at - letters;
        let path = leaf.text.get(start..at + 1 + length)?;
        line.text.truncate(line.text.len() - letters);
        let inline = self.link(path, None, leaf.place(start), leaf);
        self.push(line, inline);
        Some(at + 1 + length)
    }

    fn link(
        &mut self,
        path: &str,
        content: Option<Vec<Inline>>,
        place: Place,
        leaf: &Leaf<'_>,
    ) -> Inline {
        let path = self.without_abbreviation(path);
        let has_words = content.is_some();
        let target = self.target_of(&path, has_words, place, leaf);
        let shown = || {
            let bare = path.strip_prefix("mailto:").or(path.strip_prefix("file:"));
            vec![Inline::Text(bare.unwrap_or(&path).into())]
        };
        match target {
            Target::Picture(address) => picture(address),
            Target::Address(address) => {
                let is_searched = address.starts_with('\u{1}');
                let content = match content {
                    Some(content) => content,
                    None if is_searched => Vec::new(),
                    None => shown(),
                };
                let attributes = Attributes::NONE;
                Inline::Link(Box::new(Link { address, title: None, content, attributes }))
            }
            Target::None => {
                let content = content.unwrap_or_else(shown);
                super::formatted(crate::document::Formatting::Plain, content)
            }
        }
    }

    fn without_abbreviation(&self, path: &str) -> String {
        let Some((name, tag)) = path.split_once(':') else { return path.to_string() };
        let Some(address) = self.settings.abbreviations.get(name) else { return path.to_string() };
        if address.contains("%s") {
            return address.replace("%s", tag);
        }
        if address.contains("%h") {
            let encoded: String = url::form_urlencoded::byte_serialize(tag.as_bytes()).collect();
            return address.replace("%h", &encoded.replace('+', "%20"));
        }
        format!("{address}{tag}")
    }

    fn target_of(&mut self, path: &str, has_words: bool, place: Place, leaf: &Leaf<'_>) -> Target {
        let mut searched =
            |search, words: &str| Target::Address(self.targets.searched(search, words, place));
        if let Some(words) = path.strip_prefix('#') {
            return searched(Search::Id, words);
        }
        if let Some(words) = path.strip_prefix('*') {
            return searched(Search::Heading, words);
        }
        if let Some(label) = path.strip_prefix('(').and_then(|path| path.strip_suffix(')')) {
            return searched(Search::CodeLine, label);
        }
        if path.starts_with(['/', '~']) || path.starts_with("./") || path.starts_with("../") {
            return self.file(path, has_words, place, leaf);
        }
        let scheme = path.split(':').next().filter(|scheme| scheme.len() < path.len());
        let Some(scheme) = scheme else { return searched(Search::Anything, path) };
        let rest = path.get(scheme.len() + 1..).unwrap_or_default();
        match scheme {
            "id" => searched(Search::Id, rest.split("::").next().unwrap_or(rest)),
            "file" | "file+sys" | "file+emacs" => self.file(rest, has_words, place, leaf),
            "attachment" => {
                self.findings.count(Code::LinkUnwrapped, path, Some(place));
                Target::None
            }
            "doi" => Target::Address(format!("https://doi.org/{rest}").into()),
            "elisp" | "shell" => {
                self.findings.count(Code::AddressUnsafe, path, Some(place));
                Target::None
            }
            "http" | "https" if !has_words && is_picture(path) => Target::Picture(path.into()),
            _ if is_known(scheme) || rest.starts_with("//") => Target::Address(path.into()),
            _ => searched(Search::Anything, path),
        }
    }

    /// A file, with what is looked for in it behind two colons.
    fn file(&mut self, path: &str, has_words: bool, place: Place, leaf: &Leaf<'_>) -> Target {
        let (file, part) = path.split_once("::").unwrap_or((path, ""));
        if file.is_empty() {
            return Target::Address(self.targets.searched(Search::Anything, part, place));
        }
        let fragment = match part.chars().next() {
            None => String::new(),
            Some('#') => part.to_string(),
            Some('*') => format!("#{}", id_of_words(part)),
            Some(_) => {
                self.findings.count(Code::SearchInFileDropped, part, Some(place));
                String::new()
            }
        };
        let file = file.strip_prefix("./").unwrap_or(file);
        let address = self.in_folder(file, leaf);
        if !has_words && fragment.is_empty() && is_picture(file) {
            return Target::Picture(address);
        }
        Target::Address(format!("{address}{fragment}").into())
    }

    /// An address that an included file states is relative to that file.
    fn in_folder(&self, address: &str, leaf: &Leaf<'_>) -> CompactString {
        let folder = self.sources.folder(leaf.source());
        let is_absolute = address.starts_with(['/', '~']) || address.contains("://");
        if folder.is_empty() || is_absolute {
            return address.into();
        }
        let mut parts: Vec<&str> = folder.trim_end_matches('/').split('/').collect();
        let mut rest = address;
        while let Some(behind) = rest.strip_prefix("../").filter(|_| !parts.is_empty()) {
            parts.pop();
            rest = behind;
        }
        parts.push(rest);
        parts.join("/").into()
    }
}

/// Whether this is a kind of links.
pub(in crate::formats::org) fn is_known(scheme: &str) -> bool {
    PLAIN.contains(&scheme) || OTHERS.contains(&scheme)
}

pub(in crate::formats::org) fn is_picture(path: &str) -> bool {
    let lower = path.to_ascii_lowercase();
    PICTURES.iter().any(|extension| lower.ends_with(extension))
}

/// The address of a picture that describes a link.
fn picture_address(words: &str) -> Option<&str> {
    let is_address = |rest: &str| is_picture(rest) && !rest.contains([' ', '\n', '[']);
    let address = match words.strip_prefix("file:") {
        Some(rest) => rest.strip_prefix("./").unwrap_or(rest),
        None if words.starts_with("http://") || words.starts_with("https://") => words,
        None => words.strip_prefix("./")?,
    };
    is_address(address).then_some(address)
}

fn picture(address: CompactString) -> Inline {
    Inline::Picture(Box::new(Picture {
        source: PictureSource::Address(address),
        alternative: Vec::new(),
        decorative: false,
        title: None,
        width: None,
        height: None,
        attributes: Attributes::NONE,
    }))
}

/// How long the target of a link is; brackets in it are escaped.
fn path_length(text: &str) -> Option<usize> {
    let mut bytes = text.bytes().enumerate();
    while let Some((at, byte)) = bytes.next() {
        match byte {
            b']' => return Some(at),
            b'[' => return None,
            b'\\' if matches!(text.as_bytes().get(at + 1), Some(b'[' | b']' | b'\\')) => {
                bytes.next();
            }
            _ => {}
        }
    }
    None
}

fn unescaped(path: &str) -> String {
    let joined = path.replace('\n', " ");
    if !joined.contains('\\') {
        return joined;
    }
    let mut out = String::new();
    let mut characters = joined.chars().peekable();
    while let Some(c) = characters.next() {
        if c == '\\' && matches!(characters.peek(), Some('[' | ']' | '\\')) {
            out.extend(characters.next());
        } else {
            out.push(c);
        }
    }
    out
}

/// Whether a colon that was written begins the address of a link with the word before it.
pub(in crate::formats::org) fn starts_plain_link(out: &str, behind: &str) -> bool {
    let Some(before) = out.strip_suffix(':') else { return false };
    let letters = before.bytes().rev().take_while(u8::is_ascii_alphabetic).count();
    let scheme = before.get(before.len() - letters..).unwrap_or_default();
    PLAIN.contains(&scheme) && starts_address(behind)
}

/// Signs in which an address has its first letter or slash.
const ADDRESS_START: usize = 200;

/// Whether an address of any length begins here.
fn starts_address(text: &str) -> bool {
    // A sign that an address may end with, or a parenthesis that is closed, comes early or never.
    let start = text.char_indices().nth(ADDRESS_START).map_or(text.len(), |(at, _)| at);
    plain_length(text.get(..start).unwrap_or_default()).is_some()
}

/// How long an address in the text is: it ends before white space and brackets, and not with a sign of
/// the sentence.
pub(in crate::formats::org) fn plain_length(text: &str) -> Option<usize> {
    let mut length = 0;
    let mut depth = 0_usize;
    for (at, c) in text.char_indices() {
        match c {
            '(' => depth += 1,
            ')' if depth == 0 => break,
            ')' => {
                depth -= 1;
                length = at + 1;
            }
            c if c.is_whitespace() || matches!(c, '<' | '>' | '[' | ']' | '\u{200b}' | '"') => {
                break;
            }
            '/' => length = at + 1,
            c if c.is_ascii_punctuation() || matches!(c, '”' | '’' | '»' | '…' | '—') => {}
            c => length = at + c.len_utf8(),
        }
    }
    (length > 0).then_some(length)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn addresses_in_text_end_before_the_sentence_does() {
        let cases = [
            ("//mill.example/a_(b). More", Some("//mill.example/a_(b)")),
            ("//mill.example/), and", Some("//mill.example/")),
            ("//mill.example, and", Some("//mill.example")),
            (" x", None),
        ];
        for (text, expected) in cases {
            assert_eq!(
                plain_length(text).and_then(|length| text.get(..length)),
                expected,
                "{text}"
            );
        }
    }
}
