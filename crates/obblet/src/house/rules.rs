//! Rules in a house file: `[[rules]]`, each a table of its selector and its actions.

use super::error::{HouseError, nearest, wrong_value};
use super::setting::{list, quoted, words_of};
use crate::rules::{Action, Case, Replacement, Rule};
use std::fmt::Write as _;
use toml::Spanned;
use toml::de::{DeTable, DeValue};

/// The keys of a rule, in the order in which their actions run.
const KEYS: [(&str, &str); 17] = [
    ("on", "a CSS selector"),
    ("find", "text"),
    ("pattern", "a regular expression"),
    ("with", "text"),
    ("case", "\"capitals\", \"lower\" or \"title\""),
    ("drop_attributes", "a list of attribute names"),
    ("set", "a table of attributes and their values"),
    ("drop_classes", "a list of classes"),
    ("add_classes", "a list of classes"),
    ("rename", "the name of an element"),
    ("before", "text or harmless HTML"),
    ("after", "text or harmless HTML"),
    ("wrap", "the name of an element"),
    ("unwrap", "true"),
    ("drop", "true"),
    ("keep_only", "true"),
    ("why", "text"),
];

const CASES: [(&str, Case); 3] =
    [("capitals", Case::Capitals), ("lower", Case::Lower), ("title", Case::Title)];

/// A table of a house file, with what turns its places into lines.
type Table<'t> = DeTable<'t>;

/// Reads one rule.
pub(super) fn rule(
    table: &Table<'_>,
    rule_line: Option<usize>,
    line_of: &dyn Fn(usize) -> Option<usize>,
) -> Result<Rule, HouseError> {
    let mut actions = Vec::new();
    for (key, value) in table {
        let (name, line) = (key.get_ref().as_ref(), line_of(key.span().start));
        let Some((_, takes)) = KEYS.iter().find(|(known, _)| *known == name) else {
            let nearest = nearest(name, KEYS.iter().map(|(known, _)| *known));
            return Err(HouseError::NoSuchRuleKey { line, key: name.into(), nearest });
        };
        let wrong = || wrong_value(line, &format!("rules.{name}"), takes, value.get_ref());
        action(table, name, value.get_ref(), &mut actions).ok_or_else(wrong)?;
    }
    actions.sort();
    let on = text(table, "on").unwrap_or_default();
    let rule = Rule { on, actions, why: text(table, "why") };
    let line = |key: &str| table.get(key).map_or(rule_line, |value| line_of(value.span().start));
    match rule.check() {
        Ok(()) => Ok(rule),
        Err(fault) => Err(HouseError::WrongRule { line: line(fault.key), fault }),
    }
}

/// Adds what a key says; `None` when it does not take the value.
fn action(
    table: &Table<'_>,
    name: &str,
    value: &DeValue<'_>,
    actions: &mut Vec<Action>,
) -> Option<()> {
    let string = || value.as_str().map(str::to_string);
    let is_true = || matches!(value, DeValue::Boolean(true));
    actions.push(match name {
        "find" | "pattern" => Action::Replace(Replacement {
            find: string()?,
            is_pattern: name == "pattern",
            with: text(table, "with").unwrap_or_default(),
        }),
        "case" => {
            let word = value.as_str()?;
            Action::Case(CASES.iter().find(|(name, _)| *name == word)?.1)
        }
        "drop_attributes" => Action::DropAttributes(words_of(value)?),
        "set" => {
            for (attribute, value) in value.as_table()? {
                let value = value.get_ref().as_str()?.to_string();
                actions.push(Action::SetAttribute(attribute.get_ref().to_string(), value));
            }
            return Some(());
        }
        "drop_classes" => Action::DropClasses(words_of(value)?),
        "add_classes" => Action::AddClasses(words_of(value)?),
        "rename" => Action::Rename(string()?),
        "before" => Action::Before(string()?),
        "after" => Action::After(string()?),
        "wrap" => Action::Wrap(string()?),
        "unwrap" if is_true() => Action::Unwrap,
        "drop" if is_true() => Action::Drop,
        "keep_only" if is_true() => Action::KeepOnly,
        // Read with the others: the selector, the words put in, and a remark for people.
        "on" | "with" | "why" => return string().map(|_| ()),
        _ => return None,
    });
    Some(())
}

fn text(table: &Table<'_>, key: &str) -> Option<String> {
    let value: &Spanned<DeValue<'_>> = table.get(key)?;
    value.get_ref().as_str().map(str::to_string)
}

/// A rule as it stands in a house file.
pub(super) fn to_toml(rule: &Rule) -> String {
    let mut toml = String::from("\n[[rules]]\n");
    if let Some(why) = &rule.why {
        let _ = writeln!(toml, "why = {}", quoted(why));
    }
    let _ = writeln!(toml, "on = {}", quoted(&rule.on));
    let mut line = |key: &str, value: String| {
        let _ = writeln!(toml, "{key} = {value}");
    };
    let words = |words: &[String]| list(words.iter().map(String::as_str));
    let mut set = Vec::new();
    for action in &rule.actions {
        match action {
            Action::Replace(replacement) => {
                let key = if replacement.is_pattern { "pattern" } else { "find" };
                line(key, quoted(&replacement.find));
                line("with", quoted(&replacement.with));
            }
            Action::Case(case) => {
                let name =
                    CASES.iter().find(|(_, known)| known == case).map_or("", |(name, _)| name);
                line("case", quoted(name));
            }
            Action::DropAttributes(names) => line("drop_attributes", words(names)),
            Action::SetAttribute(name, value) => {
                set.push(format!("{} = {}", quoted(name), quoted(value)));
            }
            Action::DropClasses(names) => line("drop_classes", words(names)),
            Action::AddClasses(names) => line("add_classes", words(names)),
            Action::Rename(name) => line("rename", quoted(name)),
            Action::Before(text) => line("before", quoted(text)),
            Action::After(text) => line("after", quoted(text)),
            Action::Wrap(name) => line("wrap", quoted(name)),
            Action::Unwrap => line("unwrap", "true".into()),
            Action::Drop => line("drop", "true".into()),
            Action::KeepOnly => line("keep_only", "true".into()),
        }
    }
    if !set.is_empty() {
        line("set", format!("{{ {} }}", set.join(", ")));
    }
    toml
}
