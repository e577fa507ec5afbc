//! House styles: the settings for one destination, as a TOML file.
//!
//! ```
//! use obblet::House;
//! let house = House::from_toml("like = \"page\"\n\n[page]\ncontents = 2\n")?;
//! assert_eq!(house.page.contents, 2);
//!
//! let error = House::from_toml("[page]\ncontens = 2\n").unwrap_err();
//! assert_eq!(error.to_string(), "line 2: there is no setting page.contens; did you mean page.contents?");
//! # Ok::<(), obblet::HouseError>(())
//! ```

mod error;
mod groups;
pub(crate) mod layouts;
mod repairs;
mod rules;
mod setting;
mod settings;

pub use error::HouseError;
pub use groups::{
    CharacterSettings, CountUnit, Counted, Extent, House, KeepLooks, LatexSettings, LimitSettings,
    LookSettings, MarkdownDialect, MarkdownSettings, OrgSettings, PageSettings, PictureFormat,
    PicturePlacement, PictureSettings, ReviewSettings, SafetySettings, StylePlacement,
    TextSettings, Theme, WordFileSettings, WordSettings,
};
pub use repairs::RepairSettings;
pub use setting::Setting;
pub use settings::SETTINGS;

use crate::document::CompactString;
use crate::format::Format;
use crate::formats::html::{HtmlReadOptions, LooksForm, RawHtml, is_page, shows_own_metadata};
use crate::formats::latex::{LatexExtent, LatexWriteOptions};
use crate::formats::markdown::{MarkdownReadOptions, MarkdownWriteOptions, Switch};
use crate::formats::org::OrgWriteOptions;
use crate::formats::text::{TextReadOptions, TextWriteOptions};
use crate::formats::word::{WordReadOptions, WordWriteOptions};
use crate::formats::{ReadOptions, WriteError};
use crate::repair::{Punctuation, PunctuationForm, Repairs};
use error::{nearest, no_such_setting, wrong_value};
use std::sync::Arc;
use toml::Spanned;
use toml::de::{DeTable, DeValue};

/// The built-in houses: name, one line about it, and its settings.
pub const BUILT_IN: [(&str, &str, &str); 7] = [
    ("page", "a whole page with contents list and theme", ""),
    (
        "body",
        "only the body, for a system that brings its own page",
        include_str!("built_in/body.toml"),
    ),
    (
        "looks",
        "a page with the source's own fonts, colours and borders",
        include_str!("built_in/looks.toml"),
    ),
    (
        "listing",
        "few elements and 2,000 characters, for a marketplace's form",
        include_str!("built_in/listing.toml"),
    ),
    (
        "filing",
        "ASCII and a short list of elements, for an authority's form",
        include_str!("built_in/filing.toml"),
    ),
    ("text", "plain text, for mail and text-only destinations", include_str!("built_in/text.toml")),
    ("ebook", "XHTML with the looks of a book", include_str!("built_in/ebook.toml")),
];

/// What a new house file says of rules.
const RULE_TO_START_FROM: &str = r##"
# Rules run in their order, behind those of the house above. Each is a CSS selector and what
# becomes of what it matches: case, find or pattern and with, set, drop_attributes, add_classes,
# drop_classes, rename, before, after, wrap, unwrap, drop, keep_only.
#[[rules]]
#on = "strong"
#case = "capitals"
#unwrap = true
"##;

impl House {
    /// A built-in house.
    ///
    /// # Errors
    /// [`HouseError::NoSuchHouse`], with the nearest name there is.
    pub fn built_in(name: &str) -> Result<Self, HouseError> {
        match BUILT_IN.iter().find(|house| house.0 == name) {
            Some((_, _, toml)) => Self::from_toml(toml),
            None => Err(HouseError::NoSuchHouse {
                name: name.into(),
                nearest: nearest(name, BUILT_IN.iter().map(|house| house.0)),
            }),
        }
    }

    /// The house for cleaning HTML: a whole page keeps what a page needs and gets no theme, no contents
    /// list and no title that it did not show; a fragment stays a fragment.
    #[must_use]
    pub fn for_cleaning(source: &[u8]) -> Self {
        let mut house = Self::default();
        house.page.theme = Theme::None;
        // A page of ours shows its title; another one's title is for its tab.
        house.page.show_title = shows_own_metadata(source);
        house.page.contents = 0;
        house.repairs.unused_classes = true;
        if !is_page(source) {
            house.page.extent = Extent::Body;
        }
        house
    }

    /// Reads a house file. `like` names the built-in house it starts from; without it that is
    /// `page`.
    ///
    /// # Errors
    /// [`HouseError`] names the line and the nearest word that would have been right.
    pub fn from_toml(text: &str) -> Result<Self, HouseError> {
        let line = |offset: usize| Some(line_of(text, offset));
        let table = DeTable::parse(text).map_err(|error| HouseError::NoToml {
            line: error.span().and_then(|span| line(span.start)),
            why: error.message().to_string(),
        })?;
        let mut house = Self::default();
        if let Some(base) = table.get_ref().get("like") {
            let DeValue::String(name) = base.get_ref() else {
                return Err(wrong_value(line(base.span().start), "like", "a name", base.get_ref()));
            };
            house = Self::built_in(name)?;
        }
        for (group, value) in table.get_ref() {
            if group.get_ref() == "like" {
                continue;
            }
            if group.get_ref() == "rules" {
                house.read_rules(value, &line)?;
                continue;
            }
            let DeValue::Table(settings) = value.get_ref() else {
                return Err(no_such_setting(line(group.span().start), group.get_ref()));
            };
            for (key, value) in settings {
                let name = format!("{}.{}", group.get_ref(), key.get_ref());
                house.set_value(&name, value.get_ref(), line(key.span().start))?;
            }
        }
        Ok(house)
    }

    /// A house file to start from: like a built-in house, every setting in a comment.
    ///
    /// # Errors
    /// [`HouseError::NoSuchHouse`], with the nearest name there is.
    pub fn start_like(name: &str) -> Result<String, HouseError> {
        let settings = Self { rules: Vec::new(), ..Self::built_in(name)? }.to_toml();
        let mut text = format!(
            "# A house style: the settings for one destination. What is not set here is as in the\n\
             # house named below. To change a setting, take the # away before its name.\nlike = \"{name}\"\n\n"
        );
        for line in settings.lines() {
            let is_setting = !line.is_empty() && !line.starts_with(['#', '[']);
            let mark = if is_setting { "#" } else { "" };
            text.push_str(&format!("{mark}{line}\n"));
        }
        text.push_str(RULE_TO_START_FROM);
        Ok(text)
    }

    fn read_rules(
        &mut self,
        value: &Spanned<DeValue<'_>>,
        line: &dyn Fn(usize) -> Option<usize>,
    ) -> Result<(), HouseError> {
        let at = line(value.span().start);
        let wrong = || wrong_value(at, "rules", "[[rules]], each with “on”", value.get_ref());
        for rule in value.get_ref().as_array().ok_or_else(wrong)? {
            let at = line(rule.span().start);
            let DeValue::Table(table) = rule.get_ref() else { return Err(wrong()) };
            self.rules.push(rules::rule(table, at, line)?);
        }
        Ok(())
    }

    /// The names of the files that the settings name, and those that templates among the files that
    /// are there already take pieces from. The caller reads them, relative to the house file, puts
    /// their texts into [`files`](House::files), and asks again until nothing is new.
    #[must_use]
    pub fn files_named(&self) -> Vec<String> {
        let PageSettings { layout, header, footer, style_sheets, .. } = &self.page;
        let templates: Vec<&str> = [layout, header, footer]
            .into_iter()
            .map(String::as_str)
            .chain(self.files.values().flat_map(|text| layouts::named_in(text)))
            .filter(|name| !layouts::is_own(name))
            .collect();
        let mut names: Vec<String> = templates
            .into_iter()
            .chain(style_sheets.iter().map(String::as_str))
            .chain([self.latex.layout.as_str()])
            .filter(|name| !name.is_empty())
            .map(Into::into)
            .collect();
        names.sort();
        names.dedup();
        names
    }

    /// The text of a file that a setting names.
    pub(crate) fn file(&self, name: &str) -> Result<&str, WriteError> {
        let text = self.files.get(name).map(|text| &**text);
        text.ok_or_else(|| WriteError::FileMissing(name.into()))
    }

    /// The repair passes for documents of a format: but for punctuation none where such documents
    /// are not repaired.
    #[must_use]
    pub fn repairs_for(&self, format: Format) -> Repairs {
        let punctuation = self.characters.punctuation;
        if self.repairs.sources.contains(&format) {
            return self.repairs.passes(punctuation);
        }
        let mut passes = Repairs::none();
        if punctuation != PunctuationForm::Kept {
            passes.push(Arc::new(Punctuation(punctuation)));
        }
        passes
    }

    /// Changes one setting, as `--set KEY=VALUE` does. Text needs no quotes.
    ///
    /// # Errors
    /// [`HouseError`], without a line.
    pub fn set(&mut self, key: &str, value: &str) -> Result<(), HouseError> {
        let as_toml = format!("value = {value}");
        let parsed = DeTable::parse(&as_toml).ok();
        let parsed = parsed.as_ref().and_then(|table| table.get_ref().get("value"));
        match parsed {
            Some(parsed) => self.set_value(key, parsed.get_ref(), None),
            None => self.set_value(key, &DeValue::String(value.into()), None),
        }
    }

    fn set_value(
        &mut self,
        key: &str,
        value: &DeValue<'_>,
        line: Option<usize>,
    ) -> Result<(), HouseError> {
        let setting = SETTINGS.iter().find(|setting| setting.key == key);
        let setting = setting.ok_or_else(|| no_such_setting(line, key))?;
        setting.set(self, value).ok_or_else(|| wrong_value(line, key, &setting.takes(), value))
    }

    /// The whole house as a house file, each setting with its comment.
    #[must_use]
    pub fn to_toml(&self) -> String {
        let mut text = String::new();
        let mut group = "";
        for setting in SETTINGS {
            let (its_group, name) = setting.key.split_once('.').unwrap_or(("", setting.key));
            if its_group != group {
                group = its_group;
                text.push_str(&format!("\n[{group}]\n"));
            }
            let value = setting.show(self);
            text.push_str(&format!(
                "# {} Takes {}.\n{name} = {value}\n",
                setting.comment,
                setting.takes()
            ));
        }
        text.extend(self.rules.iter().map(rules::to_toml));
        text.trim_start().to_string()
    }

    /// What the readers are told when a source is read for this house.
    #[must_use]
    pub fn read_options(&self) -> ReadOptions {
        let mut switches = self.markdown.dialect.switches();
        if self.markdown.hard_wraps {
            switches = switches.with(Switch::HardWraps);
        }
        if self.markdown.smart_punctuation {
            switches = switches.with(Switch::SmartPunctuation);
        }
        ReadOptions {
            markdown: MarkdownReadOptions { switches },
            html: HtmlReadOptions {
                drop_page_frame: self.repairs.page_frame,
                looks: self.looks.keep != KeepLooks::None,
            },
            text: TextReadOptions { paragraphs: self.text.paragraphs },
            word: WordReadOptions {
                looks: self.looks.keep != KeepLooks::None,
                changes: self.review.changes,
                running_heads: self.page.running_heads,
            },
            ..ReadOptions::default()
        }
    }

    /// What the Markdown writer is told when a target is written for this house.
    #[must_use]
    pub fn markdown_write_options(&self) -> MarkdownWriteOptions {
        let settings = &self.markdown;
        MarkdownWriteOptions {
            switches: self.read_options().markdown.switches,
            wrap: (settings.wrap > 0).then_some(settings.wrap),
            bullet: settings.bullet,
            emphasis: settings.emphasis,
            headings: settings.headings,
            fence: settings.fence,
            links: settings.links,
            tables: settings.tables,
            html: settings.html,
            picture_folder: None,
        }
    }

    /// What the text writer is told when a target is written for this house.
    #[must_use]
    pub fn text_write_options(&self) -> TextWriteOptions {
        TextWriteOptions {
            wrap: (self.text.wrap > 0).then_some(self.text.wrap),
            links: self.text.links,
            audiences: self.page.audiences.iter().map(Into::into).collect(),
        }
    }

    /// What the Word writer is told when a target is written for this house.
    ///
    /// # Errors
    /// [`WriteError::FileMissing`] when the pattern is named and was not given.
    pub fn word_write_options(&self) -> Result<WordWriteOptions, WriteError> {
        let WordFileSettings { paper, pattern, styles } = &self.word;
        if !pattern.is_empty() && self.pattern.is_none() {
            return Err(WriteError::FileMissing(pattern.clone()));
        }
        let pattern = self.pattern.clone().filter(|_| !pattern.is_empty());
        Ok(WordWriteOptions { paper: *paper, pattern, styles: styles.clone() })
    }

    /// What the LaTeX writer is told when a target is written for this house.
    ///
    /// # Errors
    /// [`WriteError::FileMissing`] when the layout is named and was not given.
    pub fn latex_write_options(&self) -> Result<LatexWriteOptions, WriteError> {
        let LatexSettings { class, class_options, layout } = &self.latex;
        let layout = match layout.as_str() {
            "" => None,
            name => {
                let text = self.files.get(name);
                Some(text.ok_or_else(|| WriteError::FileMissing(name.into()))?.to_string())
            }
        };
        Ok(LatexWriteOptions {
            extent: match self.page.extent {
                Extent::Page => LatexExtent::Document,
                Extent::Body => LatexExtent::Body,
            },
            class: class.clone(),
            class_options: class_options.clone(),
            layout,
            picture_folder: None,
            audiences: self.print_audiences(),
        })
    }

    /// What the Org writer is told when a target is written for this house.
    #[must_use]
    pub fn org_write_options(&self) -> OrgWriteOptions {
        OrgWriteOptions { picture_folder: None, wrap: self.org.wrap }
    }

    /// The audiences of a document for paper: where the house is for the web only, those of print.
    fn print_audiences(&self) -> Vec<CompactString> {
        match self.page.audiences.as_slice() {
            [web] if web == "web" => vec!["print".into()],
            stated => stated.iter().map(Into::into).collect(),
        }
    }

    /// What the HTML writer does with looks.
    pub(crate) fn looks_form(&self) -> LooksForm {
        match self.looks.keep {
            KeepLooks::None => LooksForm::Dropped,
            KeepLooks::Classes if self.page.extent == Extent::Page => LooksForm::Classes,
            KeepLooks::Classes | KeepLooks::Inline => LooksForm::Inline,
        }
    }

    pub(crate) fn raw_html(&self) -> RawHtml {
        if self.safety.trust_sources { RawHtml::Trusted } else { RawHtml::Sanitised }
    }
}

fn line_of(text: &str, offset: usize) -> usize {
    text.bytes().take(offset).filter(|byte| *byte == b'\n').count() + 1
}

#[cfg(test)]
mod tests;
