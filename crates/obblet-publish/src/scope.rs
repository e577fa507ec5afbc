//! What holds for a folder and everything below it: `obblet.toml`. See `docs/publishing.md`.

use crate::PublishOptions;
use crate::fingerprint::Fingerprint;
use crate::houses::{HouseFileError, house_inside, read_files_inside};
use crate::inside;
use obblet::House;
use obblet::document::{Metadata, Person, Value};
use serde::Deserialize;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use thiserror::Error;

/// The name of a folder's settings file.
pub const FOLDER_FILE: &str = "obblet.toml";

/// Why a folder's settings cannot be used.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum ScopeError {
    /// The file cannot be read.
    #[error("{} cannot be read: {error}", path.display())]
    Read {
        /// The file.
        path: PathBuf,
        /// What the system says.
        error: std::io::Error,
    },
    /// A key or a value is wrong.
    #[error("{}:{line}: {why}", path.display())]
    Wrong {
        /// The file.
        path: PathBuf,
        /// The line, counted from 1.
        line: usize,
        /// What is wrong.
        why: String,
    },
    /// It asks for what the command line alone may say.
    #[error(
        "{}: safety.trust_sources is for the command line alone (--set safety.trust_sources=true): \
         by a file in the folder, whoever can write there could let scripts out", path.display()
    )]
    Trust {
        /// The file.
        path: PathBuf,
    },
    /// The house that it names cannot be used.
    #[error("{}: {error}", path.display())]
    House {
        /// The file.
        path: PathBuf,
        /// What is wrong.
        error: Box<HouseFileError>,
    },
}

/// The settings file of a folder, as it is written.
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields, default)]
struct FolderFile {
    title: Option<String>,
    order: Vec<String>,
    house: Option<String>,
    layout: Option<String>,
    set: toml::Table,
    metadata: toml::Table,
    dated: Option<bool>,
    unlisted: Option<bool>,
    split: Option<SplitSetting>,
    only: Vec<String>,
    skip: Vec<String>,
    web: Option<WebSettings>,
}

/// Where documents become several pages.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub enum Split {
    /// Each stays one page.
    #[default]
    Never,
    /// At headings of this level, 1 to 6, and higher ones.
    AtLevel(u8),
    /// At page breaks.
    AtPageBreaks,
}

impl Split {
    /// By name: a level, or `page-breaks`; 0 is never.
    #[must_use]
    pub fn of_name(name: &str) -> Option<Self> {
        match name {
            "0" => Some(Self::Never),
            PAGE_BREAKS => Some(Self::AtPageBreaks),
            level => level.parse().ok().filter(|level| (1..=6).contains(level)).map(Self::AtLevel),
        }
    }
}

const PAGE_BREAKS: &str = "page-breaks";

/// The same in a settings file: a number, or a name.
#[derive(Debug, Deserialize)]
#[serde(try_from = "toml::Value")]
struct SplitSetting(Split);

impl From<SplitSetting> for Split {
    fn from(setting: SplitSetting) -> Self {
        setting.0
    }
}

impl TryFrom<toml::Value> for SplitSetting {
    type Error = String;

    fn try_from(value: toml::Value) -> Result<Self, String> {
        let name = match &value {
            toml::Value::String(name) => name.clone(),
            value => value.to_string(),
        };
        let wrong = || format!("split takes a heading level from 1 to 6, 0, or \"{PAGE_BREAKS}\"");
        Split::of_name(&name).map(Self).ok_or_else(wrong)
    }
}

/// What holds for the web folder as a whole; only in the top folder's file.
#[derive(Debug, Clone, Default, Deserialize)]
#[serde(deny_unknown_fields, default)]
pub(crate) struct WebSettings {
    /// Where the folder will be found, as an address that ends with `/`.
    pub(crate) address: Option<String>,
    /// Whether pages have a search box.
    pub(crate) search: Option<bool>,
    /// A folder of style sheets and what they need, beside the file.
    pub(crate) theme: Option<String>,
    /// The language of pages that are made, such as the index.
    pub(crate) language: Option<String>,
    /// Whether pages have a content security policy.
    pub(crate) security_policy: bool,
}

/// What holds for a folder.
#[derive(Debug, Clone)]
pub(crate) struct Scope {
    pub(crate) title: Option<String>,
    /// Names of files and folders that come first, in this order.
    pub(crate) order: Vec<String>,
    pub(crate) house: Arc<House>,
    /// Of the house with all its files.
    pub(crate) house_print: Fingerprint,
    pub(crate) metadata: toml::Table,
    /// Pages are listed by their dates, newest first.
    pub(crate) dated: bool,
    /// Pages are written and in no list.
    pub(crate) unlisted: bool,
    pub(crate) split: Split,
    pub(crate) only: Vec<String>,
    pub(crate) skip: Vec<String>,
    pub(crate) web: WebSettings,
    /// Of all that a document of this folder becomes a page by.
    pub(crate) print: Fingerprint,
}

impl Scope {
    /// What holds for the top folder before its file is read.
    pub(crate) fn outer(options: &PublishOptions) -> Self {
        let house_print = house_print(&options.house);
        Self {
            title: None,
            order: Vec::new(),
            house: Arc::new(options.house.clone()),
            house_print,
            print: house_print,
            metadata: toml::Table::new(),
            dated: false,
            unlisted: false,
            split: options.split,
            only: options.only.clone(),
            skip: options.skip.clone(),
            web: WebSettings::default(),
        }
    }

    /// What holds for a folder inside this one, by its path below the top folder. All that stands there
    /// may come from anybody: its settings name nothing outside, and give no trust.
    pub(crate) fn inner(
        &self,
        root: &Path,
        folder: &Path,
        options: &PublishOptions,
    ) -> Result<Self, ScopeError> {
        let path = &root.join(folder).join(FOLDER_FILE);
        let mut inner = Self {
            title: None,
            order: Vec::new(),
            only: Vec::new(),
            skip: Vec::new(),
            ..self.clone()
        };
        let text = match inside::read_text(root, &folder.join(FOLDER_FILE)) {
            Ok(text) => text,
            Err(error) if error.kind() == std::io::ErrorKind::NotFound => return Ok(inner),
            Err(error) => return Err(ScopeError::Read { path: path.into(), error }),
        };
        let file: FolderFile = toml::from_str(&text).map_err(|error| ScopeError::Wrong {
            path: path.into(),
            line: line_of(&text, error.span().map_or(0, |span| span.start)),
            why: error.message().trim().replace('\n', " "),
        })?;
        inner.take_house(&file, root, folder, options)?;
        for (key, value) in file.metadata {
            inner.metadata.insert(key, value);
        }
        inner.title = file.title;
        inner.order = file.order;
        inner.dated = file.dated.unwrap_or(self.dated);
        inner.unlisted = file.unlisted.unwrap_or(self.unlisted);
        inner.split = file.split.map_or(self.split, Into::into);
        inner.only = file.only;
        inner.skip = file.skip;
        inner.web = file.web.unwrap_or_else(|| self.web.clone());
        inner.print = inner.page_print();
        Ok(inner)
    }

    fn take_house(
        &mut self,
        file: &FolderFile,
        root: &Path,
        folder: &Path,
        options: &PublishOptions,
    ) -> Result<(), ScopeError> {
        let path = root.join(folder).join(FOLDER_FILE);
        let wrong = |error| ScopeError::House { path: path.clone(), error: Box::new(error) };
        let named = file.house.as_deref().filter(|_| options.follow_folder_houses);
        if named.is_none() && file.layout.is_none() && file.set.is_empty() {
            return Ok(());
        }
        let mut house = match named {
            Some(name) => house_inside(name, root, folder).map_err(wrong)?,
            None => House::clone(&self.house),
        };
        if let Some(layout) = &file.layout {
            house.page.layout.clone_from(layout);
            // A file of the same name may come from another folder.
            house.files.remove(layout);
        }
        for (key, value) in flat("", &file.set) {
            let wrong = |error| wrong(HouseFileError::House { file: "[set]".into(), error });
            house.set(&key, &value.to_string()).map_err(wrong)?;
        }
        if house.safety.trust_sources && !options.house.safety.trust_sources {
            return Err(ScopeError::Trust { path });
        }
        for (key, value) in &options.settings {
            let wrong = |error| wrong(HouseFileError::House { file: "--set".into(), error });
            house.set(key, value).map_err(wrong)?;
        }
        read_files_inside(&mut house, root, folder).map_err(wrong)?;
        self.house_print = house_print(&house);
        self.house = Arc::new(house);
        Ok(())
    }

    /// Gives a document what its folder says of all documents and it does not say itself.
    pub(crate) fn complete(&self, metadata: &mut Metadata) {
        for (key, value) in &self.metadata {
            let text = value.as_str();
            match key.as_str() {
                "authors" if metadata.authors.is_empty() => {
                    let person = |name: String| Person { name: name.into(), ..Person::default() };
                    metadata.authors = texts(value).into_iter().map(person).collect();
                }
                "keywords" if metadata.keywords.is_empty() => {
                    metadata.keywords = texts(value).into_iter().map(Into::into).collect();
                }
                "language" if metadata.language.is_none() => {
                    metadata.language = text.map(Into::into);
                }
                "description" if metadata.description.is_none() => {
                    metadata.description = text.map(Into::into);
                }
                "date" if metadata.date.is_none() => {
                    metadata.date = Some(text.map_or_else(|| value.to_string(), Into::into).into());
                }
                "authors" | "keywords" | "language" | "description" | "date" => {}
                _ if metadata.extra.iter().any(|(name, _)| name == key) => {}
                _ => metadata.extra.push((key.into(), value_of(value))),
            }
        }
    }

    /// All that lists of pages depend on, as text.
    pub(crate) fn listing(&self) -> String {
        let Self { title, order, house_print, dated, unlisted, web, .. } = self;
        format!("{title:?} {order:?} {house_print} {dated} {unlisted} {web:?}")
    }

    fn page_print(&self) -> Fingerprint {
        let metadata = self.metadata.to_string();
        let split = format!("{:?}", self.split);
        Fingerprint::of_parts([self.house_print.as_bytes(), metadata.as_bytes(), split.as_bytes()])
    }
}

/// The fingerprint of a house with all its files.
fn house_print(house: &House) -> Fingerprint {
    // A house is plain data, which always has a JSON form.
    let settings = serde_json::to_vec(house).unwrap_or_default();
    let pattern = house.pattern.as_deref().unwrap_or_default();
    Fingerprint::of_parts([settings.as_slice(), pattern])
}

/// `page.contents = 2` and the like, out of tables in tables.
fn flat(prefix: &str, table: &toml::Table) -> Vec<(String, toml::Value)> {
    let mut settings = Vec::new();
    for (key, value) in table {
        let key = if prefix.is_empty() { key.clone() } else { format!("{prefix}.{key}") };
        match value {
            toml::Value::Table(inner) => settings.extend(flat(&key, inner)),
            value => settings.push((key, value.clone())),
        }
    }
    settings
}

/// A text, or the texts of a list.
fn texts(value: &toml::Value) -> Vec<String> {
    match value {
        toml::Value::Array(values) => {
            values.iter().filter_map(|value| value.as_str().map(Into::into)).collect()
        }
        value => value.as_str().map(Into::into).into_iter().collect(),
    }
}

fn value_of(value: &toml::Value) -> Value {
    match value {
        toml::Value::String(text) => Value::Text(text.clone()),
        toml::Value::Integer(number) => Value::Integer(*number),
        toml::Value::Float(number) => Value::Number(*number),
        toml::Value::Boolean(truth) => Value::Bool(*truth),
        toml::Value::Datetime(date) => Value::Text(date.to_string()),
        toml::Value::Array(values) => Value::List(values.iter().map(value_of).collect()),
        toml::Value::Table(table) => {
            Value::Map(table.iter().map(|(key, value)| (key.clone(), value_of(value))).collect())
        }
    }
}

fn line_of(text: &str, offset: usize) -> usize {
    text.bytes().take(offset).filter(|byte| *byte == b'\n').count() + 1
}
