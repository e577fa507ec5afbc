//! Names that reader and writer of Word files share: the styles that say what a paragraph or a text is, and
//! the tags of content controls around blocks that belong together.
//!
//! Names of built-in styles are those of ECMA-376 part 1, 17.7.4.9; Word shows them in the user's language.
//! All others are ours.

use crate::document::{ContentsKind, Formatting};

/// Text styles and what they say. Formats that Word has as properties of their own are not among them.
pub(super) const TEXT_STYLES: [(&str, Formatting); 9] = [
    ("Deleted Text", Formatting::Deleted),
    ("Inserted Text", Formatting::Inserted),
    ("Small Print", Formatting::SmallPrint),
    ("HTML Keyboard", Formatting::KeyboardInput),
    ("HTML Sample", Formatting::ProgramOutput),
    ("HTML Variable", Formatting::Variable),
    ("HTML Cite", Formatting::WorkTitle),
    ("HTML Definition", Formatting::DefinedTerm),
    ("HTML Acronym", Formatting::Abbreviation),
];

/// Code in a line, and code in paragraphs of its own; behind the latter its language may stand in brackets.
pub(super) const CODE_TEXT: &str = "HTML Code";
pub(super) const CODE: &str = "Code";

/// TeX in a mathematical zone, where no equation could be made of it.
pub(super) const TEX_SOURCE: &str = "TeX Source";

pub(super) const TITLE: &str = "Title";
pub(super) const QUOTATION: &str = "Quote";
pub(super) const CAPTION: &str = "caption";
pub(super) const LIST_ITEM: &str = "List Paragraph";
pub(super) const VERSE: &str = "Verse";
pub(super) const THEMATIC_BREAK: &str = "Thematic Break";
pub(super) const TERM: &str = "Term";
pub(super) const DESCRIPTION: &str = "Description";
/// A further paragraph of the same description.
pub(super) const DESCRIPTION_MORE: &str = "Description Continued";
/// The title of an admonition, the summary of what may be opened and closed.
pub(super) const BOX_TITLE: &str = "Box Title";
/// Text in admonitions, and beside the main text: their looks, no more.
pub(super) const BOX_TEXT: &str = "Box Text";

/// The style of tables that name none.
pub(super) const TABLE: &str = "Ruled Table";

/// What stands between the label of a caption and its words, where the two are told apart: an en space.
pub(super) const BEHIND_LABEL: char = '\u{2002}';

/// What the tags of our content controls begin with.
const TAG: &str = "obblet:";

/// What a content control of ours is around.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Container<'n> {
    /// Nothing but what must not grow together with its neighbours.
    Apart,
    /// More of the item of the list level with this number, from 0.
    Item(usize),
    Quotation,
    Figure,
    /// More of a description.
    Description,
    Admonition(&'n str),
    Aside,
    Abstract,
    Disclosure,
    Statement(&'n str),
    Drawer(&'n str),
    Centred,
    /// Blocks that share attributes.
    Group,
    /// Blocks, or text, for some audiences only: their names, with commas.
    For(&'n str),
    /// A list of figures or tables.
    Listed(ContentsKind),
}

impl<'n> Container<'n> {
    /// The tag of the control. Word takes 64 characters.
    pub(super) fn tag(self) -> String {
        let (word, name) = match self {
            Self::Apart => ("apart", ""),
            Self::Item(level) => return format!("{TAG}item:{level}"),
            Self::Quotation => ("quotation", ""),
            Self::Figure => ("figure", ""),
            Self::Description => ("description", ""),
            Self::Admonition(kind) => ("admonition", kind),
            Self::Aside => ("aside", ""),
            Self::Abstract => ("abstract", ""),
            Self::Disclosure => ("disclosure", ""),
            Self::Statement(name) => ("statement", name),
            Self::Drawer(name) => ("drawer", name),
            Self::Centred => ("centred", ""),
            Self::Group => ("group", ""),
            Self::For(audiences) => ("for", audiences),
            Self::Listed(kind) => ("list", list_name(kind)),
        };
        let mark = if name.is_empty() { "" } else { ":" };
        format!("{TAG}{word}{mark}{name}").chars().take(64).collect()
    }

    pub(super) fn of_tag(tag: &'n str) -> Option<Self> {
        let rest = tag.strip_prefix(TAG)?;
        let (word, name) = rest.split_once(':').unwrap_or((rest, ""));
        Some(match word {
            "apart" => Self::Apart,
            "item" => Self::Item(name.parse().ok()?),
            "quotation" => Self::Quotation,
            "figure" => Self::Figure,
            "description" => Self::Description,
            "admonition" => Self::Admonition(name),
            "aside" => Self::Aside,
            "abstract" => Self::Abstract,
            "disclosure" => Self::Disclosure,
            "statement" => Self::Statement(name),
            "drawer" => Self::Drawer(name),
            "centred" => Self::Centred,
            "group" => Self::Group,
            "for" => Self::For(name),
            "list" if name == list_name(ContentsKind::Tables) => Self::Listed(ContentsKind::Tables),
            "list" => Self::Listed(ContentsKind::Figures),
            _ => return None,
        })
    }
}

fn list_name(kind: ContentsKind) -> &'static str {
    match kind {
        ContentsKind::Headings => "headings",
        ContentsKind::Figures => "figures",
        ContentsKind::Tables => "tables",
    }
}

/// The name of the style of paragraphs that go on with an item of a list level, counted from 0.
pub(super) fn list_continuation(level: usize) -> String {
    match level {
        0 => "List Continue".into(),
        level => format!("List Continue {}", level + 1),
    }
}

/// The list level, from 0, that paragraphs of a style of this name in small letters go on with.
pub(super) fn continued_level(name: &str) -> Option<usize> {
    let rest = name.strip_prefix("list continue")?.trim();
    match rest {
        "" => Some(0),
        rest => rest.parse::<usize>().ok()?.checked_sub(1),
    }
}

/// The name of the style of code in a language, beside that of all code.
pub(super) fn code_style(code: &str, language: Option<&str>) -> String {
    match language.filter(|_| code == CODE) {
        Some(language) => format!("{CODE} ({language})"),
        None => code.into(),
    }
}

/// The language that a code style of this name says.
pub(super) fn code_language(name: &str) -> Option<&str> {
    name.strip_prefix(CODE)?.strip_prefix(" (")?.strip_suffix(')')
}

/// The name of a drawing whose picture has its own size, so that it need not be stated elsewhere.
pub(super) fn name_of_own_size(number: usize, width: u32, height: u32) -> String {
    format!("Picture {number}, own size {width} x {height}")
}

/// The size that the name of a drawing says to be the picture's own.
pub(super) fn own_size(name: &str) -> Option<(u32, u32)> {
    let (width, height) = name.split_once(", own size ")?.1.split_once(" x ")?;
    Some((width.parse().ok()?, height.parse().ok()?))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_are_read_as_they_are_written() {
        for container in [
            Container::Apart,
            Container::Item(3),
            Container::Admonition("warning"),
            Container::Statement("Theorem of the wheel"),
            Container::Group,
        ] {
            assert_eq!(Container::of_tag(&container.tag()), Some(container));
        }
        assert_eq!(own_size(&name_of_own_size(3, 160, 80)), Some((160, 80)));
        assert_eq!(own_size("Picture 3"), None);
        assert_eq!(Container::of_tag("budget"), None);
        assert_eq!(code_language(&code_style(CODE, Some("rust"))), Some("rust"));
        assert_eq!(code_language(&code_style(CODE, None)), None);
        for level in 0..9 {
            assert_eq!(continued_level(&list_continuation(level).to_lowercase()), Some(level));
        }
    }
}
