//! The inlines of a text as a row of tokens: words, each with its formats and its link, and what
//! stands between words.

use crate::document::{
    Citation, CompactString, Document, Formatted, Formatting, Inline, LineBreak, NoteId, Picture,
    PictureSource, Timestamp, plain_text,
};
use crate::work;
use std::hash::{DefaultHasher, Hash, Hasher};

/// A row of tokens, with the links that stand over them.
#[derive(Debug, Default, Clone, PartialEq)]
pub(super) struct Text {
    pub(super) tokens: Vec<Token>,
    pub(super) links: Vec<LinkTarget>,
}

/// One token.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Token {
    pub(super) piece: Piece,
    /// The formats over it or over a part of it, one bit each.
    pub(super) formats: Formats,
    /// Where inside the word other formats begin, for the few where any do.
    pub(super) inside: Option<Box<Changes>>,
    /// The link over it, by its number in [`Text::links`].
    pub(super) link: Option<u32>,
    /// White space stands before it.
    pub(super) apart: bool,
}

/// Where in a word formats change, and what they are from there on.
#[derive(Debug, Default, Clone, PartialEq)]
pub(super) struct Changes(Vec<(usize, Formats)>);

/// What a token is.
#[derive(Debug, Clone, PartialEq)]
pub(super) enum Piece {
    Word(CompactString),
    Code(CompactString),
    Formula(CompactString),
    Picture(Box<PictureContent>),
    Note(NoteId),
    Break,
    Markup(CompactString),
}

/// Which picture, and its alternative text.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct PictureContent {
    pub(super) name: String,
    pub(super) bytes: Option<u64>,
    pub(super) alternative: String,
}

/// Where a link leads.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub(super) struct LinkTarget {
    pub(super) address: String,
    pub(super) title: String,
}

/// A set of formats.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Hash)]
pub(super) struct Formats(u32);

const FORMATS: [(Formatting, &str); 18] = [
    (Formatting::Emphasis, "emphasis"),
    (Formatting::Strong, "strong"),
    (Formatting::Underline, "underline"),
    (Formatting::Struck, "struck"),
    (Formatting::Deleted, "deleted"),
    (Formatting::Inserted, "inserted"),
    (Formatting::Superscript, "superscript"),
    (Formatting::Subscript, "subscript"),
    (Formatting::SmallCapitals, "small capitals"),
    (Formatting::Highlight, "highlight"),
    (Formatting::SmallPrint, "small print"),
    (Formatting::KeyboardInput, "keyboard input"),
    (Formatting::ProgramOutput, "program output"),
    (Formatting::Variable, "variable"),
    (Formatting::Quoted, "quotation"),
    (Formatting::WorkTitle, "title of a work"),
    (Formatting::DefinedTerm, "defined term"),
    (Formatting::Abbreviation, "abbreviation"),
];

impl Formats {
    fn with(self, format: Formatting) -> Self {
        let bit = FORMATS.iter().position(|(known, _)| *known == format);
        Self(bit.map_or(self.0, |bit| self.0 | 1 << bit))
    }

    fn and(self, other: Self) -> Self {
        Self(self.0 | other.0)
    }

    /// The formats one by one.
    pub(super) fn each(self) -> impl Iterator<Item = Self> {
        (0..FORMATS.len()).map(|bit| Self(1 << bit)).filter(move |one| self.has(*one))
    }

    pub(super) fn has(self, one: Self) -> bool {
        self.0 & one.0 == one.0
    }

    /// The name of a single format.
    pub(super) fn name(self) -> &'static str {
        FORMATS.get(self.0.trailing_zeros() as usize).map_or("", |(_, name)| name)
    }
}

impl Text {
    pub(super) fn of(inlines: &[Inline], document: &Document) -> Self {
        let mut reader = Reader { document, text: Self::default(), apart: false };
        reader.inlines(inlines, Formats::default(), None);
        reader.text
    }

    /// The words, with single spaces.
    pub(super) fn plain(&self) -> String {
        plain(&self.tokens)
    }

    pub(super) fn is_empty(&self) -> bool {
        self.tokens.is_empty()
    }
}

/// Tokens as a person reads them.
pub(super) fn plain(tokens: &[Token]) -> String {
    let mut out = String::new();
    for token in tokens {
        if token.apart && !out.is_empty() {
            out.push(' ');
        }
        match &token.piece {
            Piece::Word(text) | Piece::Code(text) | Piece::Formula(text) | Piece::Markup(text) => {
                out.push_str(text);
            }
            Piece::Picture(picture) => out.push_str(&format!("[picture {}]", picture.name)),
            Piece::Note(_) => out.push_str("[note]"),
            Piece::Break => out.push_str(" / "),
        }
    }
    out
}

impl Token {
    /// Equal tokens are the same word or thing, whatever its format.
    pub(super) fn key(&self) -> u64 {
        let mut hasher = DefaultHasher::new();
        match &self.piece {
            Piece::Word(text) => (0, text).hash(&mut hasher),
            Piece::Code(text) => (1, text).hash(&mut hasher),
            Piece::Formula(text) => (2, text).hash(&mut hasher),
            // A changed name or alternative text does not make it another picture.
            Piece::Picture(_) => 3.hash(&mut hasher),
            Piece::Note(_) => 4.hash(&mut hasher),
            Piece::Break => 5.hash(&mut hasher),
            Piece::Markup(text) => (6, text).hash(&mut hasher),
        }
        // “well known” and “wellknown” are not the same.
        self.apart.hash(&mut hasher);
        hasher.finish()
    }
}

/// An address without percent-encoding: how it is encoded is spelling.
fn decoded(address: &str) -> String {
    let bytes = address.as_bytes();
    let mut out = Vec::with_capacity(bytes.len());
    let mut at = 0;
    while let Some(&byte) = bytes.get(at) {
        let digits = address.get(at + 1..at + 3).filter(|_| byte == b'%');
        match digits.and_then(|digits| u8::from_str_radix(digits, 16).ok()) {
            Some(value) => {
                out.push(value);
                at += 3;
            }
            None => {
                out.push(byte);
                at += 1;
            }
        }
    }
    String::from_utf8(out).unwrap_or_else(|_| address.to_string())
}

/// White space that may be broken.
fn is_space(c: char) -> bool {
    c.is_whitespace() && !matches!(c, '\u{A0}' | '\u{202F}')
}

struct Reader<'d> {
    document: &'d Document,
    text: Text,
    apart: bool,
}

/// Recursion is bounded by the depth readers nest inlines to.
impl Reader<'_> {
    fn inlines(&mut self, inlines: &[Inline], formats: Formats, link: Option<u32>) {
        inlines.iter().for_each(|inline| self.inline(inline, formats, link));
    }

    fn inline(&mut self, inline: &Inline, formats: Formats, link: Option<u32>) {
        match inline {
            Inline::Text(text) => self.words(text, formats, link),
            Inline::Break(LineBreak::Soft) => self.apart = true,
            Inline::Break(LineBreak::Hard) => self.push(Piece::Break, formats, link),
            Inline::Formatted(formatted) => self.formatted(formatted, formats, link),
            Inline::Code(code) => self.push(Piece::Code(code.text.as_str().into()), formats, link),
            Inline::Link(target) => {
                let title = target.title.as_deref().unwrap_or_default().to_string();
                self.link(&target.address, title, &target.content, formats);
            }
            Inline::Picture(picture) => {
                let content = self.picture(picture);
                self.push(Piece::Picture(Box::new(content)), formats, link);
            }
            Inline::NoteMark(note) => self.push(Piece::Note(*note), formats, link),
            Inline::Reference(reference) => {
                let address = format!("#{}", reference.target);
                self.link(&address, String::new(), &reference.stored, formats);
            }
            Inline::Citation(citation) => self.words(&citation_text(citation), formats, link),
            Inline::Formula(formula) => {
                self.push(Piece::Formula(formula.meaning().into()), formats, link);
            }
            Inline::CheckBox(ticked) => self.words(if *ticked { "☑" } else { "☐" }, formats, link),
            Inline::Timestamp(timestamp) => self.words(&timestamp_text(timestamp), formats, link),
            Inline::Ruby(ruby) => {
                self.inlines(&ruby.base, formats, link);
                self.inlines(&ruby.reading, formats, link);
            }
            Inline::Foreign(foreign) => {
                // A comment says nothing to readers.
                if !foreign.markup.starts_with("<!--") {
                    self.push(Piece::Markup(foreign.markup.as_str().into()), formats, link);
                }
            }
            Inline::CommentMark(_) | Inline::Anchor(_) => {}
        }
    }

    fn formatted(&mut self, formatted: &Formatted, formats: Formats, link: Option<u32>) {
        self.inlines(&formatted.content, formats.with(formatted.format), link);
    }

    fn link(&mut self, address: &str, title: String, content: &[Inline], formats: Formats) {
        let title = title.split_whitespace().collect::<Vec<_>>().join(" ");
        self.text.links.push(LinkTarget { address: decoded(address.trim()), title });
        let link = u32::try_from(self.text.links.len() - 1).ok();
        self.inlines(content, formats, link);
    }

    /// Letters and digits side by side are one word, whatever formats or links begin inside it;
    /// every other character stands for itself.
    fn words(&mut self, text: &str, formats: Formats, link: Option<u32>) {
        let mut left = text;
        while let Some(c) = left.chars().next() {
            if is_space(c) {
                self.apart = true;
                left = left.trim_start_matches(is_space);
                continue;
            }
            let end = if c.is_alphanumeric() {
                left.find(|c: char| !c.is_alphanumeric()).unwrap_or(left.len())
            } else {
                c.len_utf8()
            };
            let (word, rest) = left.split_at(end);
            self.word(word, formats, link);
            left = rest;
        }
    }

    fn word(&mut self, word: &str, formats: Formats, link: Option<u32>) {
        work::count(1);
        // A word is all letters and digits, or one other character.
        let is_letters = |word: &str| word.starts_with(char::is_alphanumeric);
        if !self.apart
            && is_letters(word)
            && let Some(last) = self.text.tokens.last_mut()
            && let Piece::Word(before) = &mut last.piece
            && is_letters(before)
        {
            if last.formats != formats {
                last.inside.get_or_insert_default().0.push((before.len(), formats));
            }
            before.push_str(word);
            last.formats = last.formats.and(formats);
            last.link = last.link.or(link);
            return;
        }
        self.push(Piece::Word(word.into()), formats, link);
    }

    fn push(&mut self, piece: Piece, formats: Formats, link: Option<u32>) {
        let apart = std::mem::take(&mut self.apart) && !self.text.tokens.is_empty();
        self.text.tokens.push(Token { piece, formats, inside: None, link, apart });
    }

    fn picture(&self, picture: &Picture) -> PictureContent {
        let alternative = plain_text(&picture.alternative);
        match &picture.source {
            PictureSource::Media(id) => {
                let media = self.document.media.get(*id);
                PictureContent {
                    name: media.map(|media| media.name.to_string()).unwrap_or_default(),
                    bytes: media.map(|media| digest(&media.bytes)),
                    alternative,
                }
            }
            PictureSource::Address(address) => {
                let is_data = address.starts_with("data:");
                let name = address.rsplit('/').next().unwrap_or_default();
                PictureContent {
                    name: if is_data { "data".into() } else { name.to_string() },
                    bytes: is_data.then(|| data_digest(address)).flatten(),
                    alternative,
                }
            }
        }
    }
}

fn digest(bytes: &[u8]) -> u64 {
    let mut hasher = DefaultHasher::new();
    bytes.hash(&mut hasher);
    hasher.finish()
}

fn data_digest(address: &str) -> Option<u64> {
    use base64::Engine as _;
    let (_, encoded) = address.split_once(";base64,")?;
    let bytes = base64::engine::general_purpose::STANDARD.decode(encoded).ok()?;
    Some(digest(&bytes))
}

fn citation_text(citation: &Citation) -> String {
    let keys: Vec<&str> = citation.works.iter().map(|work| work.key.as_str()).collect();
    format!("[{}]", keys.join("; "))
}

fn timestamp_text(timestamp: &Timestamp) -> String {
    let moment = |m: crate::document::Moment| {
        let time = m.time.map_or(String::new(), |(h, min)| format!(" {h:02}:{min:02}"));
        format!("{:04}-{:02}-{:02}{time}", m.year, m.month, m.day)
    };
    let end = timestamp.end.map_or(String::new(), |end| format!("–{}", moment(end)));
    moment(timestamp.start) + &end
}
