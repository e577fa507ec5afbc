//! Classes for the parts of a book, for style sheets of reading devices that know no more than classes.

use crate::document::{Block, BlockKind, Document, Heading, plain_text};

/// What a part of a book is, by the words of its heading.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Matter {
    /// Before the text: a foreword, a dedication.
    Front(&'static str),
    /// A chapter or part of the text itself.
    Body(&'static str),
    /// Behind it: an appendix, thanks.
    Back(&'static str),
}

/// Words of headings with what they begin, by the EPUB Structural Semantics Vocabulary.
const KINDS: &[(&str, Matter)] = &[
    ("acknowledgements", Matter::Back("acknowledgments")),
    ("acknowledgments", Matter::Back("acknowledgments")),
    ("afterword", Matter::Back("afterword")),
    ("anhang", Matter::Back("appendix")),
    ("appendix", Matter::Back("appendix")),
    ("bibliography", Matter::Back("bibliography")),
    ("danksagung", Matter::Back("acknowledgments")),
    ("dedication", Matter::Front("dedication")),
    ("einleitung", Matter::Front("introduction")),
    ("epilog", Matter::Body("epilogue")),
    ("epilogue", Matter::Body("epilogue")),
    ("foreword", Matter::Front("foreword")),
    ("glossary", Matter::Back("glossary")),
    ("introduction", Matter::Front("introduction")),
    ("nachwort", Matter::Back("afterword")),
    ("part", Matter::Body("part")),
    ("preface", Matter::Front("preface")),
    ("prolog", Matter::Body("prologue")),
    ("prologue", Matter::Body("prologue")),
    ("teil", Matter::Body("part")),
    ("vorwort", Matter::Front("foreword")),
];

impl Matter {
    pub(crate) fn of(words: &str) -> Self {
        let first: String = words
            .chars()
            .skip_while(|c| !c.is_alphabetic())
            .take_while(|c| c.is_alphabetic())
            .collect::<String>()
            .to_lowercase();
        KINDS
            .iter()
            .find(|(word, _)| *word == first)
            .map_or(Self::Body("chapter"), |(_, kind)| *kind)
    }

    pub(crate) fn kind(self) -> &'static str {
        match self {
            Self::Front(kind) | Self::Body(kind) | Self::Back(kind) => kind,
        }
    }

    /// The division of the book that it stands in.
    pub(crate) fn division(self) -> &'static str {
        match self {
            Self::Front(_) => "frontmatter",
            Self::Body(_) => "bodymatter",
            Self::Back(_) => "backmatter",
        }
    }
}

/// Gives a document's own blocks the classes of a book: `chapter` (or what else a heading begins, with
/// `front` or `back`) on headings of the first two levels, `first` on the paragraph below a heading or a
/// change of scene, `scene` on changes of scene.
pub(super) fn with_book_classes(document: &Document) -> Document {
    let mut document = document.clone();
    let mut begins = true;
    for block in &mut document.blocks {
        let is_first = std::mem::take(&mut begins);
        match &block.kind {
            BlockKind::Heading(heading) => {
                begins = true;
                let classes = heading_classes(heading);
                add(block, &classes);
            }
            BlockKind::ThematicBreak => {
                begins = true;
                add(block, &["scene"]);
            }
            BlockKind::Paragraph(_) if is_first => add(block, &["first"]),
            BlockKind::SourceRemark(_) | BlockKind::Contents(_) | BlockKind::Break(_) => {
                begins = is_first;
            }
            _ => {}
        }
    }
    document
}

fn heading_classes(heading: &Heading) -> Vec<&'static str> {
    if heading.level > 2 {
        return Vec::new();
    }
    match Matter::of(&plain_text(&heading.content)) {
        Matter::Front(kind) => vec![kind, "front"],
        Matter::Body(kind) => vec![kind],
        Matter::Back(kind) => vec![kind, "back"],
    }
}

fn add(block: &mut Block, classes: &[&str]) {
    for class in classes {
        let known = &mut block.attributes.edit().classes;
        if !known.iter().any(|one| one == class) {
            known.push((*class).into());
        }
    }
}
