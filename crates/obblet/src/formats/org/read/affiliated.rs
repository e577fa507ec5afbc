//! What lines before an element say about it (Org syntax, “Affiliated Keywords”).

use super::Reader;
use super::lines::Keyword;
use crate::document::{Attributes, Block, BlockKind, Figure, Inline, Place};
use crate::findings::Code;

/// What lines before an element say about it.
#[derive(Debug, Default)]
pub(super) struct Affiliated {
    pub(super) name: Option<String>,
    pub(super) caption: Option<(String, Place)>,
    /// A caption for lists of captions, which no list here shows.
    has_short_caption: bool,
    /// Attributes for HTML, in source order.
    html: Vec<(String, String)>,
    /// Attributes for other targets, by their keywords.
    others: Vec<(String, String)>,
    /// Arguments of code.
    pub(super) arguments: String,
    /// The name of the code whose results these are, empty where it has none.
    pub(super) results: Option<String>,
    are_results_hidden: bool,
    place: Place,
}

impl Affiliated {
    pub(super) fn attribute(&self, name: &str) -> Option<&str> {
        self.html.iter().find(|(known, _)| known == name).map(|(_, value)| value.as_str())
    }

    /// The label of the caption, where the document states it.
    pub(super) fn label(&self) -> Option<&str> {
        self.attribute("data-label")
    }

    /// Size, alternative text and the like.
    pub(super) fn apply_to_picture(&self, inline: &mut Inline) {
        let picture = match inline {
            Inline::Picture(picture) => picture,
            Inline::Link(link) => match link.content.first_mut() {
                Some(Inline::Picture(picture)) => picture,
                _ => return,
            },
            _ => return,
        };
        if let Some(text) = self.attribute("alt") {
            picture.alternative = vec![Inline::Text(text.into())];
            picture.alternative.retain(|_| !text.is_empty());
            picture.decorative = text.is_empty();
        }
        picture.width = self.attribute("width").and_then(pixels).or(picture.width);
        picture.height = self.attribute("height").and_then(pixels).or(picture.height);
        picture.title = self.attribute("title").map(Into::into);
    }
}

impl Reader<'_> {
    /// The lines about the element that begins behind them, and its first line.
    pub(super) fn affiliated(&self, at: usize, end: usize) -> (Affiliated, usize) {
        let mut affiliated = Affiliated::default();
        let mut next = at;
        while let Some(line) = self.lines.get(next).filter(|line| next < end && !line.is_rest) {
            let text = line.trimmed();
            let Some(keyword) = text.starts_with("#+").then(|| Keyword::of(text)).flatten() else {
                break;
            };
            if !affiliated.take(&keyword, line.place()) {
                break;
            }
            next += 1;
        }
        // What they are the results of was read last; code among them would take its place.
        affiliated.are_results_hidden =
            affiliated.results.as_deref().is_some_and(|name| !self.shows_results(name));
        (affiliated, next)
    }

    /// Gives what lines say to the blocks that the element became.
    pub(super) fn apply(&mut self, affiliated: Affiliated, first: usize, out: &mut Vec<Block>) {
        let place = affiliated.place;
        if affiliated.has_short_caption {
            self.findings.count(Code::SettingNotKept, "the short form of a caption", Some(place));
        }
        if affiliated.are_results_hidden {
            out.truncate(first);
            return self.hidden("results of code", place);
        }
        if out.len() <= first {
            return;
        }
        let Some(mut block) = out.pop() else { return };
        if affiliated.caption.is_some() && !holds_caption(&block) {
            block = self.with_caption(block, &affiliated);
        }
        let is_picture = match &block.kind {
            BlockKind::Figure(_) => true,
            BlockKind::Paragraph(content) => matches!(content.as_slice(), [Inline::Picture(_)]),
            _ => false,
        };
        for (key, value) in &affiliated.html {
            let attributes = block.attributes.edit();
            match key.as_str() {
                "class" => attributes.classes.extend(value.split_whitespace().map(Into::into)),
                "id" => attributes.id = Some(value.into()),
                "lang" => attributes.language = Some(value.into()),
                "data-label" => {}
                "width" | "height" if is_picture && pixels(value).is_none() => {
                    self.findings.count(Code::AttributeDropped, key, Some(place));
                }
                "alt" | "width" | "height" | "title" if is_picture => {}
                "type" | "start" | "reversed" if matches!(block.kind, BlockKind::List(_)) => {}
                "title" => attributes.pairs.push(("title".into(), value.into())),
                "data-audience" => {
                    attributes.audiences = value.split_whitespace().map(Into::into).collect();
                }
                _ if self.options.keeps_hidden => {
                    attributes.pairs.push((key.into(), value.into()));
                }
                _ => self.findings.count(Code::AttributeDropped, key, Some(place)),
            }
        }
        if let Some(name) = &affiliated.name {
            self.targets.add_name(name);
            block.attributes.edit().id.get_or_insert_with(|| name.as_str().into());
        }
        self.keep_others(&affiliated, &mut block);
        super::lists::apply_numerals(&mut block, affiliated.attribute("type"));
        if block.attributes.is_empty() {
            block.attributes = Attributes::NONE;
        }
        out.push(block);
    }

    /// What is for other targets, or for who runs code.
    fn keep_others(&mut self, affiliated: &Affiliated, block: &mut Block) {
        let place = affiliated.place;
        if !self.options.keeps_hidden {
            for (key, _) in &affiliated.others {
                self.findings.count(Code::SettingNotKept, key, Some(place));
            }
            return;
        }
        let results =
            affiliated.results.iter().map(|name| ("results".into(), name.as_str().into()));
        let others = affiliated.others.iter().map(|(key, value)| (key.into(), value.into()));
        let pairs: Vec<_> = results.chain(others).collect();
        if !pairs.is_empty() {
            block.attributes.edit().pairs.extend(pairs);
        }
        if !affiliated.arguments.is_empty() {
            let value = affiliated.arguments.trim().into();
            block.attributes.edit().pairs.push(("header".into(), value));
        }
    }

    /// A block with a caption that has no place of its own for one.
    fn with_caption(&mut self, block: Block, affiliated: &Affiliated) -> Block {
        let kind = match &block.kind {
            BlockKind::Code(_) => "listing",
            _ => "figure",
        };
        let place = block.place;
        let caption = self.caption(affiliated, kind);
        let figure = Figure { content: vec![block], caption };
        Block::new(BlockKind::Figure(Box::new(figure))).at(place)
    }
}

impl Affiliated {
    /// `false` where a keyword says nothing about the next element.
    fn take(&mut self, keyword: &Keyword<'_>, place: Place) -> bool {
        let key = keyword.key.to_ascii_lowercase();
        let value = keyword.value;
        match key.as_str() {
            "name" | "tblname" | "label" | "srcname" | "source" | "data" => {
                self.name = Some(value.to_string());
            }
            "caption" => {
                self.has_short_caption |= keyword.option.is_some();
                match &mut self.caption {
                    Some((text, _)) => {
                        text.push(' ');
                        text.push_str(value);
                    }
                    None => self.caption = Some((value.to_string(), place)),
                }
            }
            "attr_html" => self.html.extend(pairs(value)),
            "header" | "headers" => {
                self.arguments.push_str(value);
                self.arguments.push(' ');
            }
            "results" | "result" => self.results = Some(value.to_string()),
            "plot" => self.others.push((key, value.to_string())),
            _ if key.starts_with("attr_") => self.others.push((key, value.to_string())),
            _ => return false,
        }
        self.place = place;
        true
    }
}

/// A length in the pixels of the web.
fn pixels(value: &str) -> Option<f32> {
    value.trim_end_matches("px").trim().parse().ok()
}

fn holds_caption(block: &Block) -> bool {
    match &block.kind {
        BlockKind::Figure(figure) => figure.caption.is_some(),
        BlockKind::Table(table) => table.caption.is_some(),
        _ => false,
    }
}

/// `:key value :key "value"`; a value goes on up to the next key.
pub(super) fn pairs(text: &str) -> Vec<(String, String)> {
    let mut found: Vec<(String, String)> = Vec::new();
    for word in text.split([' ', '\t']).filter(|word| !word.is_empty()) {
        let key = word.strip_prefix(':').filter(|key| key.starts_with(|c: char| c.is_alphabetic()));
        match (key, found.last_mut()) {
            (Some(key), _) => found.push((key.to_lowercase(), String::new())),
            (None, Some((_, value))) => {
                if !value.is_empty() {
                    value.push(' ');
                }
                value.push_str(word);
            }
            (None, None) => {}
        }
    }
    for (_, value) in &mut found {
        if let Some(inner) = value.strip_prefix('"').and_then(|value| value.strip_suffix('"')) {
            *value = inner.replace("\\\"", "\"");
        }
    }
    found
}
