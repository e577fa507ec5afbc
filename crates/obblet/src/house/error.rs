//! What can be wrong with settings, and the word that was probably meant.

use super::settings::SETTINGS;
use crate::rules::RuleFault;
use thiserror::Error;
use toml::de::DeValue;

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
    /// A rule cannot run.
    #[error("{}rules.{fault}", at(.line))]
    WrongRule {
        /// The line in the house file, counted from 1.
        line: Option<usize>,
        /// What is wrong with it.
        fault: RuleFault,
    },
    /// A rule has a key that there is not.
    #[error("{}a rule has no key {key}{}", at(.line), hint(.nearest))]
    NoSuchRuleKey {
        /// The line in the house file, counted from 1.
        line: Option<usize>,
        /// The key.
        key: String,
        /// The nearest key there is.
        nearest: Option<String>,
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

pub(super) fn no_such_setting(line: Option<usize>, key: &str) -> HouseError {
    let nearest = nearest(key, SETTINGS.iter().map(|setting| setting.key));
    HouseError::NoSuchSetting { line, key: key.into(), nearest }
}

pub(super) fn wrong_value(
    line: Option<usize>,
    key: &str,
    wanted: &str,
    found: &DeValue<'_>,
) -> HouseError {
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
pub(super) fn nearest<'c>(word: &str, candidates: impl Iterator<Item = &'c str>) -> Option<String> {
    let likeness = |candidate: &str| strsim::jaro_winkler(word, candidate);
    candidates
        .map(|candidate| (likeness(candidate), candidate))
        .filter(|(likeness, _)| *likeness > 0.75)
        .max_by(|one, two| one.0.total_cmp(&two.0))
        .map(|(_, candidate)| candidate.to_string())
}
