//! Floats: figures and tables with their captions and labels.

use super::commands::Action;
use super::{Reader, keys};
use crate::document::{Attributes, Block, BlockKind, Caption, CompactString, Figure};
use crate::tex::{Located, Spot};

/// A float that is being read.
#[derive(Debug, Default)]
pub(super) struct Float {
    /// `figure`, `table` or the name of another float; what is counted.
    counter: String,
    caption: Option<Caption>,
    label: Option<CompactString>,
}

impl Float {
    /// A table over several pages has its caption inside.
    pub(super) fn of_long_table() -> Self {
        Self { counter: "table".into(), ..Self::default() }
    }

    /// Its caption and its label.
    pub(super) fn parts(self) -> (Option<Caption>, Option<CompactString>) {
        (self.caption, self.label)
    }
}

impl Reader<'_> {
    pub(super) fn float(&mut self, name: &str, spot: Spot) {
        let plain = name.trim_end_matches('*');
        let is_part = plain.starts_with("sub");
        let counter = match plain {
            "listing" => "lstlisting",
            "algorithm" => "algorithm",
            _ if is_part && plain.contains("table") => "subtable",
            _ if is_part => "subfigure",
            _ if plain.contains("table") => "table",
            _ => "figure",
        };
        if counter == "algorithm" && !self.front.has_counter("algorithm") {
            self.front.new_counter("algorithm", None);
        }
        self.front.option();
        if plain.starts_with("wrap") || is_part {
            self.front.option();
            self.front.argument();
            if plain.starts_with("wrap") {
                self.front.option();
                self.front.argument();
            }
        }
        self.sheet.end_paragraph();
        self.open_float(counter);
        if !is_part {
            self.start_parts();
        }
        let content = self.content_of(name, spot);
        self.close_float(content, spot);
    }

    fn open_float(&mut self, counter: &str) {
        self.floats.push(Float { counter: counter.into(), ..Float::default() });
    }

    /// The parts of a float are counted anew.
    fn start_parts(&mut self) {
        self.front.set_counter("subfigure", 0);
        self.front.set_counter("subtable", 0);
    }

    /// A float that is only a table is that table; any other one is a figure.
    fn close_float(&mut self, content: Vec<Block>, spot: Spot) {
        let Some(float) = self.floats.pop() else { return };
        let attributes = float.label.map(Attributes::with_id).unwrap_or_default();
        let mut content = content;
        if let [Block { kind: BlockKind::Table(table), attributes: own, .. }] =
            content.as_mut_slice()
            && float.counter.contains("table")
        {
            table.caption = float.caption.or(table.caption.take());
            if attributes.id().is_some() {
                *own = attributes;
            }
            return self.sheet.blocks.extend(content);
        }
        if content.is_empty() && float.caption.is_none() {
            return;
        }
        let figure = Figure { content, caption: float.caption };
        let mut block = Block::new(BlockKind::Figure(Box::new(figure))).at(spot.into());
        block.attributes = attributes;
        self.sheet.push_block(block);
    }

    /// A label inside of a float is the float's own.
    pub(super) fn label_float(&mut self, label: &str) -> bool {
        let is_here = self.sheet_is_float();
        match self.floats.last_mut() {
            Some(float) if is_here && float.label.is_none() => {
                float.label = Some(label.into());
                true
            }
            _ => false,
        }
    }

    /// Formulas and items inside of floats have labels of their own.
    fn sheet_is_float(&self) -> bool {
        !self.sheet.is_list && !self.sheet.is_cell
    }

    pub(super) fn caption_command(&mut self, action: Action, spot: Spot) {
        match action {
            Action::Caption => self.caption(),
            Action::SubCaption => self.part_caption(),
            Action::SubCaptionBox => {
                let caption = self.front.argument();
                self.front.option();
                self.front.option();
                let content = self.front.argument();
                self.part(Some(caption), content, spot);
            }
            _ => {
                let caption = self.front.option();
                let content = self.front.argument();
                self.part(caption, content, spot);
            }
        }
    }

    /// A caption outside of floats: `\captionof{figure}{words}` says what it counts.
    fn lone_caption(&mut self) -> (String, Option<Vec<Located>>) {
        let tokens = self.front.argument();
        let named = self.front.typed(&tokens).trim().to_string();
        if matches!(named.as_str(), "figure" | "table") {
            self.front.option();
            return (named, None);
        }
        ("figure".to_string(), Some(tokens))
    }

    /// `\caption[short]{words}`, or `\caption*` without a number.
    fn caption(&mut self) {
        let has_star = self.front.star();
        self.front.option();
        let (counter, tokens) = match self.floats.last() {
            Some(float) => (float.counter.clone(), None),
            None => self.lone_caption(),
        };
        if counter.starts_with("sub") {
            let number = self.step(&counter, "");
            self.label_part(&counter, &number);
            let content = self.block_argument();
            let caption = Caption { label: Some(format!("({number})").into()), content };
            if let Some(float) = self.floats.last_mut() {
                float.caption = Some(caption);
            }
            return;
        }
        let number = (!has_star).then(|| self.step(&counter, ""));
        let label = number.map(|number| self.float_label(&counter, &number));
        let content = match tokens {
            Some(tokens) => self.blocks_of(tokens),
            None => self.block_argument(),
        };
        let lines = content.iter().filter_map(|block| match &block.kind {
            BlockKind::Paragraph(content) => Some(content.as_slice()),
            _ => None,
        });
        self.labels.title(lines);
        let caption = Caption { label: label.map(Into::into), content };
        match self.floats.last_mut() {
            Some(float) => float.caption = Some(caption),
            None => {
                // A caption on its own belongs to what stands before it.
                let last = self.sheet.blocks.last_mut().map(|block| &mut block.kind);
                match last {
                    Some(BlockKind::Table(table)) => table.caption = Some(caption),
                    _ => self.sheet.blocks.extend(caption.content),
                }
            }
        }
    }

    fn float_label(&self, counter: &str, number: &str) -> String {
        let words = &self.caption_words;
        match counter {
            "figure" => format!("{} {number}", words.figure),
            "table" => format!("{} {number}", words.table),
            "lstlisting" => format!("{} {number}", words.listing),
            "subfigure" | "subtable" => format!("({number})"),
            other => {
                let mut letters = other.chars();
                let first =
                    letters.next().map(|c| c.to_uppercase().to_string()).unwrap_or_default();
                format!("{first}{} {number}", letters.as_str())
            }
        }
    }

    fn part_caption(&mut self) {
        let counter = self.floats.last().map_or("figure", |float| match float.counter.as_str() {
            "table" => "subtable",
            _ => "subfigure",
        });
        let number = self.step(counter, "");
        self.label_part(counter, &number);
        let content = self.block_argument();
        let caption = Caption { label: Some(format!("({number})").into()), content };
        if let Some(float) = self.floats.last_mut() {
            float.caption = Some(caption);
        }
    }

    /// References to a part name the float, too.
    fn label_part(&mut self, counter: &str, number: &str) {
        let whole = if counter == "subtable" { "table" } else { "figure" };
        // The float's own caption comes later, and counts one more.
        let next = self.front.counter(whole) + 1;
        let before = self.front.counter(whole);
        self.front.set_counter(whole, next);
        let shown = self.front.shown_counter(whole);
        self.front.set_counter(whole, before);
        self.labels.current(&format!("{shown}{number}"), counter);
    }

    /// A part of a figure: content with a caption of its own.
    fn part(&mut self, caption: Option<Vec<Located>>, content: Vec<Located>, spot: Spot) {
        let counter = match self.floats.last() {
            Some(float) if float.counter == "table" => "subtable",
            _ => "subfigure",
        };
        self.sheet.end_paragraph();
        self.open_float(counter);
        if let Some(caption) = caption {
            let number = self.step(counter, "");
            self.label_part(counter, &number);
            // A label stands in the caption.
            let content = self.blocks_of(caption);
            let caption = Caption { label: Some(format!("({number})").into()), content };
            if let Some(float) = self.floats.last_mut() {
                float.caption = Some(caption);
            }
        }
        let content = self.blocks_of(content);
        self.close_float(content, spot);
    }

    /// Floats stand in the middle of the page anyway.
    pub(super) fn centre_float(&mut self, spot: Spot) {
        if self.floats.is_empty() {
            self.layout("\\centering", spot);
        }
    }

    /// The caption of a listing is among its options.
    pub(super) fn listing_caption(&mut self, options: &[(String, String)]) -> Option<Caption> {
        let words = keys::value(options, "caption")?.to_string();
        let number = self.step("lstlisting", "");
        let label = self.float_label("lstlisting", &number);
        if let Some(name) = keys::value(options, "label") {
            self.labels.add(name);
        }
        let content = vec![crate::document::build::paragraph(words.as_str())];
        Some(Caption { label: Some(label.into()), content })
    }
}
