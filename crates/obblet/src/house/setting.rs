//! What a setting is: a name, a sentence about it, and a field of the house.

use super::House;
use crate::format::Format;
use toml::de::DeValue;

/// One setting.
#[derive(Debug, Clone, Copy)]
pub struct Setting {
    /// Its name, for example `page.contents`.
    pub key: &'static str,
    /// What it means, as a sentence.
    pub comment: &'static str,
    field: Field,
}

/// Where a setting stands in a house, by what it takes.
#[derive(Debug, Clone, Copy)]
pub(super) enum Field {
    Truth(fn(&mut House) -> &mut bool),
    Choice(fn(&mut House) -> &mut dyn Choice),
    /// Anything that the check allows.
    Text(&'static str, fn(&str) -> bool, fn(&mut House) -> &mut String),
    Words(&'static str, fn(&mut House) -> &mut Vec<String>),
    Number(Bounds, fn(&mut House) -> &mut dyn Number),
    Formats(fn(&mut House) -> &mut Vec<Format>),
}

/// One of several named values.
pub(super) trait Choice {
    fn name(&self) -> &'static str;
    /// False when there is no value of this name.
    fn choose(&mut self, name: &str) -> bool;
    fn names(&self) -> Vec<&'static str>;
}

/// A type whose values have names in house files.
pub(super) trait Named: Copy + PartialEq + 'static {
    const NAMES: &'static [(&'static str, Self)];
}

impl<T: Named> Choice for T {
    fn name(&self) -> &'static str {
        T::NAMES.iter().find(|(_, value)| value == self).map_or("", |(name, _)| name)
    }

    fn choose(&mut self, wanted: &str) -> bool {
        let found = T::NAMES.iter().find(|(name, _)| *name == wanted);
        if let Some((_, value)) = found {
            *self = *value;
        }
        found.is_some()
    }

    fn names(&self) -> Vec<&'static str> {
        T::NAMES.iter().map(|(name, _)| *name).collect()
    }
}

/// A whole number of some width.
pub(super) trait Number {
    fn get(&self) -> u32;
    /// False when the field is too narrow.
    fn put(&mut self, number: u32) -> bool;
}

impl<T: Copy + Into<u32> + TryFrom<u32>> Number for T {
    fn get(&self) -> u32 {
        (*self).into()
    }

    fn put(&mut self, number: u32) -> bool {
        let fitting = T::try_from(number);
        let fits = fitting.is_ok();
        *self = fitting.unwrap_or(*self);
        fits
    }
}

/// The numbers that a setting takes.
#[derive(Debug, Clone, Copy)]
pub(super) enum Bounds {
    Within(u32, u32),
    /// Zero, or within.
    ZeroOr(u32, u32),
}

impl Bounds {
    fn allow(self, number: u32) -> bool {
        match self {
            Self::Within(least, most) => (least..=most).contains(&number),
            Self::ZeroOr(least, most) => number == 0 || (least..=most).contains(&number),
        }
    }

    fn in_words(self) -> String {
        match self {
            Self::Within(least, most) => format!("a whole number from {least} to {most}"),
            Self::ZeroOr(least, most) => format!("0, or a whole number from {least} to {most}"),
        }
    }
}

/// What the setting of a file takes.
pub(super) const FILE: &str = "the name of a file beside the house file";

pub(super) const fn truth(
    key: &'static str,
    comment: &'static str,
    field: fn(&mut House) -> &mut bool,
) -> Setting {
    Setting { key, comment, field: Field::Truth(field) }
}

pub(super) const fn choice(
    key: &'static str,
    comment: &'static str,
    field: fn(&mut House) -> &mut dyn Choice,
) -> Setting {
    Setting { key, comment, field: Field::Choice(field) }
}

pub(super) const fn text(
    key: &'static str,
    comment: &'static str,
    field: fn(&mut House) -> &mut String,
) -> Setting {
    Setting { key, comment, field: Field::Text("text", |_| true, field) }
}

pub(super) const fn language(
    key: &'static str,
    comment: &'static str,
    field: fn(&mut House) -> &mut String,
) -> Setting {
    const TAG: &str = "a language tag such as \"en\" or \"de-AT\"";
    Setting { key, comment, field: Field::Text(TAG, crate::formats::html::is_language_tag, field) }
}

pub(super) const fn file(
    key: &'static str,
    comment: &'static str,
    field: fn(&mut House) -> &mut String,
) -> Setting {
    Setting { key, comment, field: Field::Text(FILE, |_| true, field) }
}

pub(super) const fn layout(
    key: &'static str,
    comment: &'static str,
    field: fn(&mut House) -> &mut String,
) -> Setting {
    const LAYOUT: &str = "\"side\", \"menu\" or the name of a file beside the house file";
    Setting { key, comment, field: Field::Text(LAYOUT, |_| true, field) }
}

pub(super) const fn files(
    key: &'static str,
    comment: &'static str,
    field: fn(&mut House) -> &mut Vec<String>,
) -> Setting {
    words(key, comment, "a list of files beside the house file", field)
}

pub(super) const fn words(
    key: &'static str,
    comment: &'static str,
    takes: &'static str,
    field: fn(&mut House) -> &mut Vec<String>,
) -> Setting {
    Setting { key, comment, field: Field::Words(takes, field) }
}

pub(super) const fn number(
    key: &'static str,
    comment: &'static str,
    bounds: Bounds,
    field: fn(&mut House) -> &mut dyn Number,
) -> Setting {
    Setting { key, comment, field: Field::Number(bounds, field) }
}

pub(super) const fn formats(
    key: &'static str,
    comment: &'static str,
    field: fn(&mut House) -> &mut Vec<Format>,
) -> Setting {
    Setting { key, comment, field: Field::Formats(field) }
}

impl Setting {
    /// What it takes, in words.
    #[must_use]
    pub fn takes(&self) -> String {
        match self.field {
            Field::Truth(_) => "true or false".into(),
            Field::Choice(field) => one_of(&field(&mut House::default()).names()),
            Field::Text(takes, ..) | Field::Words(takes, _) => takes.into(),
            Field::Number(bounds, _) => bounds.in_words(),
            Field::Formats(_) => "a list of formats, such as [\"html\", \"word\"]".into(),
        }
    }

    /// Sets it; `None` when it does not take the value.
    pub(super) fn set(&self, house: &mut House, value: &DeValue<'_>) -> Option<()> {
        match self.field {
            Field::Truth(field) => *field(house) = truth_of(value)?,
            Field::Choice(field) => {
                return field(house).choose(value.as_str()?).then_some(());
            }
            Field::Text(_, check, field) => {
                let text = value.as_str().filter(|text| check(text))?;
                *field(house) = text.into();
            }
            Field::Words(_, field) => *field(house) = words_of(value)?,
            Field::Number(bounds, field) => {
                let DeValue::Integer(number) = value else { return None };
                let number = number.as_str().parse().ok().filter(|number| bounds.allow(*number))?;
                return field(house).put(number).then_some(());
            }
            Field::Formats(field) => {
                let names = words_of(value)?;
                let formats: Option<Vec<Format>> =
                    names.iter().map(|name| Format::of_name(name)).collect();
                *field(house) = formats?;
            }
        }
        Some(())
    }

    /// Its value as TOML.
    pub(super) fn show(&self, house: &House) -> String {
        let house = &mut house.clone();
        match self.field {
            Field::Truth(field) => field(house).to_string(),
            Field::Choice(field) => quoted(field(house).name()),
            Field::Text(_, _, field) => quoted(field(house)),
            Field::Words(_, field) => list(field(house).iter().map(String::as_str)),
            Field::Number(_, field) => field(house).get().to_string(),
            Field::Formats(field) => list(field(house).iter().map(|format| format.name())),
        }
    }
}

/// `"a", "b" or "c"`
fn one_of(names: &[&str]) -> String {
    let quoted: Vec<String> = names.iter().map(|name| quoted(name)).collect();
    match quoted.split_last() {
        Some((last, rest)) if !rest.is_empty() => format!("{} or {last}", rest.join(", ")),
        _ => quoted.concat(),
    }
}

fn truth_of(value: &DeValue<'_>) -> Option<bool> {
    match value {
        DeValue::Boolean(truth) => Some(*truth),
        _ => None,
    }
}

/// The texts of a list.
pub(super) fn words_of(value: &DeValue<'_>) -> Option<Vec<String>> {
    value.as_array()?.iter().map(|word| word.get_ref().as_str().map(Into::into)).collect()
}

/// A list of texts, as TOML.
pub(super) fn list<'t>(texts: impl Iterator<Item = &'t str>) -> String {
    format!("[{}]", texts.map(quoted).collect::<Vec<_>>().join(", "))
}

/// A text, as TOML.
pub(super) fn quoted(text: &str) -> String {
    toml::Value::String(text.into()).to_string()
}
