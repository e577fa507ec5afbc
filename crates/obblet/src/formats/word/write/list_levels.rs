//! How the levels of lists are counted, and which level makes the labels that items show.

use crate::document::{BlockKind, List, ListKind, NumberDelimiter, Numbering, NumeralStyle};
use crate::formats::word::number_formats::{NAMES, NumberFormat};

/// Levels of a list, as the standard has them.
pub(super) const LEVELS: usize = 9;

/// How one level is counted.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub(super) struct Level {
    pub(super) format: &'static str,
    /// The label, with `%n` for the number of level `n`.
    pub(super) text: String,
    pub(super) start: i32,
    /// All numbers of the label in decimal.
    pub(super) is_legal: bool,
}

/// The level on which a list stands that is in no other one: that of the number which its labels end with.
/// A list of clauses goes on with the numbers of its headings.
pub(super) fn outermost_level(list: &List) -> usize {
    let ListKind::Numbered(Numbering { pattern: Some(pattern), .. }) = &list.kind else { return 0 };
    let marks = pattern.split('%').skip(1).filter_map(|rest| rest.chars().next()?.to_digit(10));
    marks.last().map_or(0, |level| level as usize).clamp(1, LEVELS) - 1
}

/// The levels that a list and those inside it say, its own first.
pub(super) fn levels_of(list: &List, level: usize) -> [Option<Level>; LEVELS] {
    let mut levels = [const { None }; LEVELS];
    let mut here: Vec<&List> = vec![list];
    for (at, place) in levels.iter_mut().enumerate().skip(level) {
        let Some(first) = here.first() else { break };
        *place = Some(level_of(first, at));
        here = here.iter().flat_map(|list| inner_lists(list)).collect();
    }
    levels
}

fn inner_lists(list: &List) -> impl Iterator<Item = &List> {
    list.items.iter().flat_map(|item| &item.content).filter_map(|block| match &block.kind {
        BlockKind::List(list) => Some(&**list),
        _ => None,
    })
}

fn level_of(list: &List, level: usize) -> Level {
    match &list.kind {
        ListKind::Bulleted(_) if is_task_list(list) => Level::bullet(""),
        ListKind::Bulleted(bullet) => {
            let usual = ["•", "–", "▪"].get(level % 3).copied().unwrap_or("•");
            // Marks of plain text are no bullets of print.
            let own = bullet.filter(|bullet| !matches!(bullet, '-' | '*' | '+'));
            let text = own.map_or_else(|| usual.to_string(), String::from);
            Level::bullet(&text)
        }
        ListKind::Numbered(numbering) => {
            label_level(list, numbering, level).unwrap_or_else(|| plain(numbering, level))
        }
    }
}

/// Boxes take the place of bullets.
pub(super) fn is_task_list(list: &List) -> bool {
    list.items.iter().all(|item| item.check.is_some())
}

impl Level {
    /// Whether it shows its numbers in the same way, wherever they begin.
    pub(super) fn is_like(&self, other: &Self) -> bool {
        (self.format, &self.text, self.is_legal) == (other.format, &other.text, other.is_legal)
    }

    fn bullet(text: &str) -> Self {
        Self { format: "bullet", text: text.into(), start: 1, is_legal: false }
    }
}

/// A level that shows its numbers as the list says.
fn plain(numbering: &Numbering, level: usize) -> Level {
    let own = format!("%{}", level + 1);
    let text = match (&numbering.pattern, numbering.delimiter) {
        (Some(pattern), _) => pattern.to_string(),
        (None, NumberDelimiter::Period) => format!("{own}."),
        (None, NumberDelimiter::Parenthesis) => format!("{own})"),
        (None, NumberDelimiter::Parentheses) => format!("({own})"),
        (None, NumberDelimiter::None) => own,
    };
    Level { format: numeral(numbering.style), text, start: numbering.start, is_legal: false }
}

fn numeral(style: NumeralStyle) -> &'static str {
    match style {
        NumeralStyle::Decimal => "decimal",
        NumeralStyle::LowerLetter => "lowerLetter",
        NumeralStyle::UpperLetter => "upperLetter",
        NumeralStyle::LowerRoman => "lowerRoman",
        NumeralStyle::UpperRoman => "upperRoman",
    }
}

/// The level that makes the labels which the items show, where they show more than plain numbers.
fn label_level(list: &List, numbering: &Numbering, level: usize) -> Option<Level> {
    let mut next = numbering.start;
    let labels: Vec<(i32, Option<&str>)> = list
        .items
        .iter()
        .map(|item| {
            let number = item.number.unwrap_or(next);
            next = number.saturating_add(1);
            (number, item.label.as_deref())
        })
        .collect();
    let (first, label) = labels.first().and_then(|(number, label)| Some((*number, (*label)?)))?;
    // The usual numerals first: 1 is a decimal number before it is anything else.
    let usual = numeral(numbering.style);
    let names = std::iter::once(usual).chain(NAMES.into_iter().filter(|name| *name != usual));
    let all_show = |shown: &dyn Fn(i32, &str) -> bool| {
        labels.iter().all(|(number, label)| label.is_some_and(|label| shown(*number, label)))
    };
    for name in names {
        let format = NumberFormat::of(name);
        let spelled = format.spell(first);
        // The number of this level is the last one in the label.
        let Some(at) = label.rfind(spelled.as_str()).filter(|_| !spelled.is_empty()) else {
            continue;
        };
        let (before, behind) = (label.get(..at)?, label.get(at + spelled.len()..)?);
        let found = match &numbering.pattern {
            // Numbers of levels around this one change from place to place; the pattern knows them.
            Some(pattern) => all_show(&|number, label| label.contains(&format.spell(number)))
                .then(|| pattern.to_string()),
            None => all_show(&|number, label| {
                label == format!("{before}{}{behind}", format.spell(number))
            })
            .then(|| format!("{before}%{}{behind}", level + 1)),
        };
        if let Some(text) = found {
            // Numbers of all levels in decimal, whatever they are elsewhere, are those of a law (17.9.4).
            let is_legal =
                name == "decimal" && (usual != "decimal" || is_all_decimal(label, &text));
            let format = if is_legal { usual } else { name };
            return Some(Level { format, text, start: numbering.start, is_legal });
        }
    }
    None
}

/// Whether a label shows numbers of several levels, and all in decimal.
fn is_all_decimal(label: &str, pattern: &str) -> bool {
    let mut rest = label;
    let mut parts = pattern.split('%');
    let first = parts.next().unwrap_or_default();
    let Some(behind) = rest.strip_prefix(first) else { return false };
    rest = behind;
    let mut levels = 0;
    for part in parts {
        let literal = part.get(1..).unwrap_or_default();
        let number = rest.len() - rest.trim_start_matches(|c: char| c.is_ascii_digit()).len();
        let Some(behind) = rest.get(number..).and_then(|rest| rest.strip_prefix(literal)) else {
            return false;
        };
        if number == 0 {
            return false;
        }
        levels += 1;
        rest = behind;
    }
    levels > 1
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn labels_of_laws_are_decimal_on_all_levels() {
        let cases = [
            ("1.2", "%1.%2", true),
            ("§ 1.2(3)", "§ %1.%2(%3)", true),
            ("I.2", "%1.%2", false),
            ("2.", "%2.", false),
            ("1.2(c)", "%1.%2(%3)", false),
        ];
        for (label, pattern, expected) in cases {
            assert_eq!(is_all_decimal(label, pattern), expected, "{label}");
        }
    }
}
