//! How text is set: formats, sizes, colours, languages.

use super::Reader;
use super::commands::Action;
use super::sheet::SpanStyle;
use crate::document::{
    AttributeSet, Attributes, Colour, Formatted, Formatting, Inline, Length, Looks, as_code,
};
use crate::notation::css_colour;
use crate::tex::Name;

impl Reader<'_> {
    /// `\textbf{…}` and the like.
    pub(super) fn format(&mut self, format: Formatting) {
        // Boxes say how wide they are first.
        if format == Formatting::Plain {
            self.front.option();
            self.front.option();
            let tokens = self.front.argument();
            let content = self.inlines_of(tokens);
            return self.sheet.extend(content);
        }
        self.front.between('<', '>');
        let content = self.inline_argument();
        self.push_formatted(format, content);
    }

    /// `\bfseries`: to the end of the group. The old commands of two letters take each other's place.
    pub(super) fn declare(&mut self, format: Formatting, name: Name) {
        let is_old = self.front.names.text(name).len() == 2;
        if is_old {
            self.sheet.close_own_spans();
        }
        self.sheet.open_span(SpanStyle::Format(format));
    }

    /// `\texttt{…}`: code; links and formats in it stand around pieces of code.
    pub(super) fn typewriter(&mut self) {
        let content = self.inline_argument();
        self.sheet.mark_place();
        for inline in as_code(content) {
            self.sheet.push(inline);
        }
    }

    pub(super) fn size(&mut self, hundredths: u16) {
        if !self.options.looks || hundredths == 1000 {
            return;
        }
        let size = Some(Length::Points(f32::from(hundredths) / 100.0));
        self.open_looks(Looks { size, ..Looks::default() });
    }

    fn open_looks(&mut self, looks: Looks) {
        self.sheet.open_span(SpanStyle::Attributes(with_looks(looks)));
    }

    fn push_with(&mut self, attributes: Attributes, content: Vec<Inline>) {
        if attributes.is_empty() {
            return self.sheet.extend(content);
        }
        let format = Formatting::Plain;
        self.sheet.push(Inline::Formatted(Box::new(Formatted { format, attributes, content })));
    }

    pub(super) fn colour_command(&mut self, action: Action, name: Name) {
        if matches!(action, Action::DefineColour) {
            let name = self.front.argument_text();
            let model = self.front.argument_text();
            let value = self.front.argument_text();
            if let Some(colour) = css_colour(&model, &value) {
                self.colours.insert(name, colour);
            }
            return;
        }
        let model = self.front.option_text().unwrap_or_default();
        if self.front.names.text(name) == "fcolorbox" {
            // The frame's colour comes first, and may have a model of its own behind it.
            self.front.argument();
            self.front.option();
        }
        let value = self.front.argument_text();
        let named = self.colours.get(&value).cloned();
        let colour = named.or_else(|| css_colour(&model, &value));
        let digits = colour.as_deref().and_then(crate::notation::hex_digits);
        let colour = digits.and_then(|digits| colour_of(&digits)).filter(|_| self.options.looks);
        match action {
            Action::Colour => {
                if let Some(colour) = colour {
                    self.open_looks(Looks { colour: Some(colour), ..Looks::default() });
                }
            }
            _ => {
                let content = self.inline_argument();
                let looks = match (action, colour) {
                    (_, None) => Looks::default(),
                    (Action::ColourBox, background) => Looks { background, ..Looks::default() },
                    (_, colour) => Looks { colour, ..Looks::default() },
                };
                self.push_with(with_looks(looks), content);
            }
        }
    }

    pub(super) fn language_command(&mut self, action: Action, name: Name) {
        let stated = match action {
            Action::NamedLanguage => {
                let name = self.front.names.text(name);
                name.strip_prefix("text").unwrap_or(name).to_string()
            }
            _ => {
                self.front.option();
                self.front.argument_text()
            }
        };
        let tag = super::packages::language_tag(&stated);
        if matches!(action, Action::Language) {
            self.is_german = tag.is_some_and(|tag| tag.starts_with("de"));
            if self.document.metadata.language.is_none() {
                self.document.metadata.language = tag.map(Into::into);
            }
            return;
        }
        let was_german =
            std::mem::replace(&mut self.is_german, tag.is_some_and(|t| t.starts_with("de")));
        let content = self.inline_argument();
        self.is_german = was_german;
        let language = tag.map(Into::into);
        let set = AttributeSet { language, ..AttributeSet::default() };
        self.push_with(set.into(), content);
    }
}

fn with_looks(looks: Looks) -> Attributes {
    if looks == Looks::default() {
        return Attributes::NONE;
    }
    AttributeSet { looks: Some(Box::new(looks)), ..AttributeSet::default() }.into()
}

/// A colour from its six hexadecimal digits.
fn colour_of(digits: &str) -> Option<Colour> {
    let part = |at: usize| u8::from_str_radix(digits.get(at..at + 2)?, 16).ok();
    Some(Colour(part(0)?, part(2)?, part(4)?))
}
