//! The names of containers (`::: name`) that mean more than a class, for reader and writer.

use crate::document::{BreakKind, ContentsKind, GroupRole, NumberDelimiter, NumeralStyle};

/// What a container of a known name is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum ContainerKind {
    /// Gives its attributes to the one block it holds.
    Carrier(Carrier),
    /// A figure, with a container `caption` at its end.
    Figure,
    /// Lines that are verse.
    Verse,
    /// A group with this role; words behind the name belong to the role.
    Role(RoleName),
    /// Holds nothing and stands for a break.
    Break(BreakKind),
    /// Holds nothing and stands for a list made from the document.
    Contents,
    /// Holds nothing and stands for the list of cited works.
    Bibliography,
}

/// A block that takes its attributes from the container around it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Carrier {
    Paragraph,
    Quotation,
    List,
    Descriptions,
    Table,
    Formula,
    Rule,
}

/// The roles of groups that have a name of their own.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum RoleName {
    Aside,
    Abstract,
    Disclosure,
    Statement,
    Drawer,
    Columns,
    Centred,
    PageHeader,
    PageFooter,
}

/// The container inside a figure or table container that is its caption.
pub(super) const CAPTION: &str = "caption";

const NAMES: [(&str, ContainerKind); 22] = [
    ("paragraph", ContainerKind::Carrier(Carrier::Paragraph)),
    ("quotation", ContainerKind::Carrier(Carrier::Quotation)),
    ("list", ContainerKind::Carrier(Carrier::List)),
    ("descriptions", ContainerKind::Carrier(Carrier::Descriptions)),
    ("table", ContainerKind::Carrier(Carrier::Table)),
    ("formula", ContainerKind::Carrier(Carrier::Formula)),
    ("rule", ContainerKind::Carrier(Carrier::Rule)),
    ("figure", ContainerKind::Figure),
    ("verse", ContainerKind::Verse),
    ("aside", ContainerKind::Role(RoleName::Aside)),
    ("abstract", ContainerKind::Role(RoleName::Abstract)),
    ("disclosure", ContainerKind::Role(RoleName::Disclosure)),
    ("statement", ContainerKind::Role(RoleName::Statement)),
    ("drawer", ContainerKind::Role(RoleName::Drawer)),
    ("columns", ContainerKind::Role(RoleName::Columns)),
    ("centred", ContainerKind::Role(RoleName::Centred)),
    ("page-header", ContainerKind::Role(RoleName::PageHeader)),
    ("page-footer", ContainerKind::Role(RoleName::PageFooter)),
    ("page-break", ContainerKind::Break(BreakKind::Page)),
    ("column-break", ContainerKind::Break(BreakKind::Column)),
    ("contents", ContainerKind::Contents),
    ("bibliography", ContainerKind::Bibliography),
];

/// What a container of this name is; `None` for a name that is only a class.
pub(super) fn container_kind(name: &str) -> Option<ContainerKind> {
    NAMES.iter().find(|(known, _)| *known == name).map(|(_, kind)| *kind)
}

/// The name a kind of container is written with.
pub(super) fn container_name(wanted: ContainerKind) -> &'static str {
    NAMES.iter().find(|(_, kind)| *kind == wanted).map_or("group", |(name, _)| name)
}

/// The name of a group's role and the words behind it; `None` for a plain group.
pub(super) fn role_words(role: &GroupRole) -> Option<(RoleName, String)> {
    Some(match role {
        GroupRole::Plain => return None,
        GroupRole::Aside => (RoleName::Aside, String::new()),
        GroupRole::Abstract => (RoleName::Abstract, String::new()),
        // The summary is a line of inlines, which the writer spells.
        GroupRole::Disclosure(_) => (RoleName::Disclosure, String::new()),
        GroupRole::Statement(name) => (RoleName::Statement, name.to_string()),
        GroupRole::Drawer(name) => (RoleName::Drawer, name.to_string()),
        GroupRole::Columns(count) => (RoleName::Columns, count.to_string()),
        GroupRole::Centred => (RoleName::Centred, String::new()),
        GroupRole::PageHeader => (RoleName::PageHeader, String::new()),
        GroupRole::PageFooter => (RoleName::PageFooter, String::new()),
    })
}

/// What a `contents` container lists, by the first word behind its name.
pub(super) const CONTENTS_KINDS: [(&str, ContentsKind); 3] = [
    ("headings", ContentsKind::Headings),
    ("figures", ContentsKind::Figures),
    ("tables", ContentsKind::Tables),
];

/// The value of `numerals` on a `list` container.
pub(super) const NUMERALS: [(&str, NumeralStyle); 5] = [
    ("decimal", NumeralStyle::Decimal),
    ("lower-letter", NumeralStyle::LowerLetter),
    ("upper-letter", NumeralStyle::UpperLetter),
    ("lower-roman", NumeralStyle::LowerRoman),
    ("upper-roman", NumeralStyle::UpperRoman),
];

/// The value of `delimiter` on a `list` container, where the marker cannot show it.
pub(super) const DELIMITERS: [(&str, NumberDelimiter); 2] =
    [("parentheses", NumberDelimiter::Parentheses), ("none", NumberDelimiter::None)];

/// The value that a table of words gives to a word.
pub(super) fn value_of<T: Copy>(table: &[(&str, T)], word: &str) -> Option<T> {
    table.iter().find(|(known, _)| *known == word).map(|(_, value)| *value)
}

/// The word that stands for a value in a table of words.
pub(super) fn word_for<T: PartialEq>(
    table: &[(&'static str, T)],
    wanted: &T,
) -> Option<&'static str> {
    table.iter().find(|(_, value)| value == wanted).map(|(word, _)| *word)
}
