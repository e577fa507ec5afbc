//! The names of special blocks that mean more than a class, for reader and writer.

use crate::document::{AdmonitionKind, GroupRole};

/// What a special block of a known name is.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) enum SpecialBlock {
    Admonition(AdmonitionKind),
    Aside,
    Abstract,
    /// Opened and closed by readers; the words behind the name are the summary.
    Disclosure,
    /// Holds a picture or the like, and a caption.
    Figure,
    /// A named statement; the words behind the name are its title where it has one.
    Statement,
    /// Set in columns; the word behind the name is their number.
    Columns,
    PageHeader,
    PageFooter,
}

/// Statements whose name is the block's.
pub(super) const STATEMENTS: [&str; 10] = [
    "theorem",
    "lemma",
    "corollary",
    "proposition",
    "definition",
    "proof",
    "example-statement",
    "remark",
    "axiom",
    "conjecture",
];

/// What a special block of this name is; `None` for a name that is only a class.
pub(super) fn special_block(name: &str) -> Option<SpecialBlock> {
    Some(match name {
        "note" | "tip" | "important" | "warning" | "caution" => {
            SpecialBlock::Admonition(AdmonitionKind::named(name))
        }
        "admonition" => SpecialBlock::Admonition(AdmonitionKind::Other("".into())),
        "aside" => SpecialBlock::Aside,
        "abstract" => SpecialBlock::Abstract,
        "details" => SpecialBlock::Disclosure,
        "figure" => SpecialBlock::Figure,
        "statement" => SpecialBlock::Statement,
        "columns" => SpecialBlock::Columns,
        "pageheader" => SpecialBlock::PageHeader,
        "pagefooter" => SpecialBlock::PageFooter,
        name if STATEMENTS.contains(&name) => SpecialBlock::Statement,
        _ => return None,
    })
}

/// The name of the special block of a role, and the words behind it.
pub(super) fn name_of_role(role: &GroupRole) -> Option<(&'static str, String)> {
    Some(match role {
        GroupRole::Aside => ("aside", String::new()),
        GroupRole::Abstract => ("abstract", String::new()),
        GroupRole::Statement(name) => {
            let lower = name.to_lowercase();
            match STATEMENTS.iter().find(|known| **known == lower && is_capitalised(name)) {
                Some(known) => (known, String::new()),
                None => ("statement", name.to_string()),
            }
        }
        GroupRole::Columns(count) => ("columns", count.to_string()),
        GroupRole::PageHeader => ("pageheader", String::new()),
        GroupRole::PageFooter => ("pagefooter", String::new()),
        GroupRole::Plain | GroupRole::Centred | GroupRole::Disclosure(_) | GroupRole::Drawer(_) => {
            return None;
        }
    })
}

/// The name with a capital, as the reader shows a block's name.
pub(super) fn capitalised(name: &str) -> String {
    let mut characters = name.chars();
    let first: String = characters.next().map(|c| c.to_uppercase().collect()).unwrap_or_default();
    first + characters.as_str()
}

fn is_capitalised(name: &str) -> bool {
    capitalised(&name.to_lowercase()) == name
}
