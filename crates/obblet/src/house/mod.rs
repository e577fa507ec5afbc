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

mod repairs;
mod settings;

pub use repairs::RepairSettings;
pub use settings::{SETTINGS, Setting};

use crate::formats::ReadOptions;
use crate::formats::html::{HtmlReadOptions, RawHtml};
use crate::formats::markdown::{
    BulletMark, Dialect, EmphasisMark, FenceMark, HeadingForm, LinkForm, MarkdownReadOptions,
    MarkdownWriteOptions, Switch, Switches, TableForm,
};
use serde::Serialize;
use thiserror::Error;
use toml::de::{DeTable, DeValue};

/// The settings for one destination.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct House {
    /// The page as a whole.
    pub page: PageSettings,
    /// Pictures.
    pub pictures: PictureSettings,
    /// How far sources are trusted.
    pub safety: SafetySettings,
    /// How Markdown is read and written.
    pub markdown: MarkdownSettings,
    /// Which repair passes run.
    pub repairs: RepairSettings,
}

/// Settings of the page as a whole.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct PageSettings {
    /// A whole page or only its body.
    pub extent: Extent,
    /// A title for all pages; empty for each document's own.
    pub title: String,
    /// The language of documents that state none, as a BCP 47 tag.
    pub language: String,
    /// The deepest heading level in the contents list; 0 for no list.
    pub contents: u8,
    /// The level that a document's highest headings get; 0 leaves it to the page.
    pub top_heading: u8,
    /// Whether the page has Obblet's style sheet.
    pub theme: bool,
    /// The audiences written for; what is meant for others only is left out.
    pub audiences: Vec<String>,
}

/// A whole page or only its body.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Extent {
    /// From the document type on.
    Page,
    /// Only what stands inside the page's main part.
    Body,
}

/// Settings of pictures.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct PictureSettings {
    /// Where the pictures go that a document carries inside itself.
    pub placement: PicturePlacement,
}

/// Where the pictures go that a document carries inside itself.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum PicturePlacement {
    /// Into a folder beside the page, wherever there is one.
    Beside,
    /// Into the page.
    Embedded,
}

/// How far sources are trusted.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct SafetySettings {
    /// Lets raw HTML out as it is. Only for sources that may do anything on the destination.
    pub trust_sources: bool,
}

/// Settings of how Markdown is read and written.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct MarkdownSettings {
    /// What Markdown may say.
    pub dialect: MarkdownDialect,
    /// Every line ending is a line break.
    pub hard_wraps: bool,
    /// Straight quotes, hyphens and periods become typographic.
    pub smart_punctuation: bool,
    /// The longest line of written text, in characters; 0 keeps the line breaks of the source.
    pub wrap: u16,
    /// The mark of bulleted lists.
    pub bullet: BulletMark,
    /// The mark of emphasis.
    pub emphasis: EmphasisMark,
    /// How headings of the two highest levels are marked.
    pub headings: HeadingForm,
    /// The fence around code.
    pub fence: FenceMark,
    /// Where the addresses of links stand.
    pub links: LinkForm,
    /// How tables are drawn.
    pub tables: TableForm,
    /// Whether HTML may say what the dialect has no words for.
    pub html: bool,
}

/// What Markdown may say.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum MarkdownDialect {
    /// CommonMark alone.
    Standard,
    /// What code forges show.
    Forge,
    /// Everything.
    Full,
}

impl MarkdownDialect {
    fn switches(self) -> Switches {
        match self {
            Self::Standard => Dialect::Standard,
            Self::Forge => Dialect::Forge,
            Self::Full => Dialect::Full,
        }
        .switches()
    }
}

/// What is wrong with settings.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[non_exhaustive]
pub enum HouseError {
    /// There is no built-in house of this name.
    #[error("there is no house {name}{}", hint(.nearest))]
    NoSuchHouse {
        /// The name that was asked for.
        name: String,
        /// The nearest name there is.
        nearest: Option<String>,
    },
    /// There is no setting of this name.
    #[error("{}there is no setting {key}{}", at(.line), hint(.nearest))]
    NoSuchSetting {
        /// The line in the house file, counted from 1.
        line: Option<usize>,
        /// The name that was asked for.
        key: String,
        /// The nearest name there is.
        nearest: Option<String>,
    },
    /// The setting does not take this value.
    #[error("{}{key} takes {wanted}, not {found}", at(.line))]
    WrongValue {
        /// The line in the house file, counted from 1.
        line: Option<usize>,
        /// The setting.
        key: String,
        /// What it takes.
        wanted: String,
        /// What it was given.
        found: String,
    },
    /// The file is no TOML.
    #[error("{}{why}", at(.line))]
    NoToml {
        /// The line in the house file, counted from 1.
        line: Option<usize>,
        /// What the TOML reader says.
        why: String,
    },
}

fn hint(nearest: &Option<String>) -> String {
    nearest.as_ref().map_or_else(String::new, |word| format!("; did you mean {word}?"))
}

fn at(line: &Option<usize>) -> String {
    line.map_or_else(String::new, |line| format!("line {line}: "))
}

/// The built-in houses: name, one line about it, and its settings.
pub const BUILT_IN: [(&str, &str, &str); 2] = [
    ("page", "a whole page with contents list and theme", ""),
    ("body", "only the body, for a system that brings its own page", "[page]\nextent = \"body\"\n"),
];

impl Default for House {
    /// The house `page`.
    fn default() -> Self {
        Self {
            page: PageSettings {
                extent: Extent::Page,
                title: String::new(),
                language: "en".into(),
                contents: 3,
                top_heading: 0,
                theme: true,
                audiences: vec!["web".into()],
            },
            pictures: PictureSettings { placement: PicturePlacement::Beside },
            safety: SafetySettings { trust_sources: false },
            markdown: MarkdownSettings {
                dialect: MarkdownDialect::Full,
                hard_wraps: false,
                smart_punctuation: false,
                wrap: 0,
                bullet: BulletMark::Kept,
                emphasis: EmphasisMark::Asterisk,
                headings: HeadingForm::NumberSigns,
                fence: FenceMark::Backticks,
                links: LinkForm::Inline,
                tables: TableForm::Padded,
                html: true,
            },
            repairs: RepairSettings::default(),
        }
    }
}

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

    /// The house for cleaning HTML: a whole page keeps what a page needs and gets no theme and no
    /// contents list, a fragment stays a fragment.
    #[must_use]
    pub fn for_cleaning(is_page: bool) -> Self {
        let mut house = Self::default();
        house.page.theme = false;
        house.page.contents = 0;
        house.repairs.unused_classes = true;
        if !is_page {
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
        setting.set(self, value).ok_or_else(|| wrong_value(line, key, setting.values, value))
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
                setting.comment, setting.values
            ));
        }
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
            html: HtmlReadOptions { drop_page_frame: self.repairs.page_frame },
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

    pub(crate) fn raw_html(&self) -> RawHtml {
        if self.safety.trust_sources { RawHtml::Trusted } else { RawHtml::Sanitised }
    }
}

fn no_such_setting(line: Option<usize>, key: &str) -> HouseError {
    let nearest = nearest(key, SETTINGS.iter().map(|setting| setting.key));
    HouseError::NoSuchSetting { line, key: key.into(), nearest }
}

fn wrong_value(line: Option<usize>, key: &str, wanted: &str, found: &DeValue<'_>) -> HouseError {
    let found = match found {
        DeValue::String(text) => format!("\"{text}\""),
        DeValue::Integer(number) => number.to_string(),
        DeValue::Float(number) => number.to_string(),
        DeValue::Boolean(truth) => truth.to_string(),
        DeValue::Datetime(date) => date.to_string(),
        DeValue::Array(_) => "a list".into(),
        DeValue::Table(_) => "a table".into(),
    };
    HouseError::WrongValue { line, key: key.into(), wanted: wanted.into(), found }
}

/// The candidate that is most like a word, if any is much like it.
fn nearest<'c>(word: &str, candidates: impl Iterator<Item = &'c str>) -> Option<String> {
    let likeness = |candidate: &str| strsim::jaro_winkler(word, candidate);
    candidates
        .map(|candidate| (likeness(candidate), candidate))
        .filter(|(likeness, _)| *likeness > 0.75)
        .max_by(|one, two| one.0.total_cmp(&two.0))
        .map(|(_, candidate)| candidate.to_string())
}

fn line_of(text: &str, offset: usize) -> usize {
    text.bytes().take(offset).filter(|byte| *byte == b'\n').count() + 1
}

#[cfg(test)]
mod tests;
