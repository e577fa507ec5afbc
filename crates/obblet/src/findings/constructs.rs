//! What findings are about, by one name for all readers and writers.

use super::Weight;
use super::Weight::{Content, Formatting, Layout, Structure};
use serde::{Serialize, Serializer};
use std::fmt;

/// What a writer leaves out for those whom it writes for, in its finding.
pub(crate) const OTHER_AUDIENCES: &str = "text for other audiences";

/// A kind of thing that documents are made of, for example `link-title`: the name by which a ledger can
/// be filtered, whatever words a reader or writer has for the thing.
///
/// ```
/// use obblet::findings::Construct;
/// let construct = Construct::of("the advice on a link").map(|construct| construct.name());
/// assert_eq!(construct, Some("link-title"));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Construct(u8);

/// One row a construct: its name, how much it matters, and words that are only said of it. The first row
/// with a word that fits holds, so what is said of parts of a thing stands before the thing.
const CONSTRUCTS: &[(&str, Weight, &[&str])] = &[
    ("deleted-text", Content, &["change deletes", "struck"]),
    ("tracked-change", Structure, &["tracked change", "deleted part of"]),
    ("page-break", Layout, &["page break", "kind of break"]),
    ("section-break", Layout, &["section break"]),
    (
        "running-head",
        Layout,
        &["header or footer of pages", "top or bottom of every page", "page number that Word"],
    ),
    (
        "columns-of-text",
        Layout,
        &["columns inside of a block", "layout in columns", "set in columns"],
    ),
    ("position-on-page", Layout, &["stands on the page"]),
    ("comment", Content, &["comment"]),
    ("source-comment", Content, &["remark"]),
    ("note-mark", Structure, &["mark of a note", "tie between notes"]),
    ("note", Content, &["a note", "of a note to"]),
    ("link-title", Structure, &["title of a link", "advice on a link", "advice of a link"]),
    ("picture-title", Structure, &["advice on a picture"]),
    (
        "picture-size",
        Formatting,
        &["size of a picture", "cropping of a picture", "picture as a bullet"],
    ),
    ("link-address", Structure, &["address of a link", "link without an address"]),
    ("anchor", Structure, &["place that links point to", "place of one name", "link to a place"]),
    ("reference", Structure, &["number that “", "a reference"]),
    ("link", Structure, &["a link"]),
    ("picture-description", Structure, &["said about a picture"]),
    ("picture", Content, &["picture"]),
    ("film", Content, &["film", "sound"]),
    ("drawing", Content, &["drawn shape", "drawing", "handwriting"]),
    ("chart", Content, &["chart"]),
    ("diagram", Content, &["diagram"]),
    ("embedded-file", Content, &["embedded", "subdocument", "digital signature", "runs a program"]),
    ("formula-number", Structure, &["number of a formula", "numbers of a formula"]),
    ("formula", Content, &["formula", "equation"]),
    (
        "cell-alignment",
        Formatting,
        &["alignment of a cell", "widths of columns", "direction of lines", "high cell"],
    ),
    (
        "table-header",
        Structure,
        &["header of", "head of its row", "foot of a table", "groups of columns"],
    ),
    ("cell-span", Structure, &["span others", "span of cells"]),
    ("caption", Content, &["caption"]),
    ("cell-attributes", Formatting, &["attributes of a cell"]),
    ("table", Structure, &["table"]),
    (
        "code-language",
        Formatting,
        &["language of code", "beside its language", "behind its language"],
    ),
    ("code", Structure, &["code"]),
    ("language", Formatting, &["language"]),
    ("direction", Formatting, &["direction"]),
    ("heading-tags", Structure, &["tags"]),
    ("task", Structure, &["task", "ticked", "check box"]),
    ("heading", Structure, &["heading"]),
    ("date", Structure, &["date"]),
    (
        "contents-list",
        Structure,
        &["contents list", "entry for an index", "list of figures", "list of tables"],
    ),
    ("citation", Structure, &["citation"]),
    ("bibliography", Structure, &["bibliography", "list of works", "cited works"]),
    ("affiliation", Content, &["affiliation", "author works", "place of work"]),
    ("subtitle", Content, &["subtitle"]),
    ("metadata", Content, &["metadata", "property", "named value", "format of the"]),
    ("abstract", Structure, &["abstract"]),
    ("description-list", Structure, &["description"]),
    ("list-number", Structure, &["numbers of outer lists", "number of its own", "list's numbers"]),
    ("list-item", Structure, &["item"]),
    ("verse", Structure, &["verse"]),
    ("admonition", Structure, &["admonition"]),
    ("aside", Structure, &["aside", "stands beside"]),
    ("disclosure", Structure, &["summary"]),
    ("drawer", Structure, &["drawer"]),
    ("statement", Structure, &["statement", "theorem"]),
    ("ruby", Structure, &["ruby"]),
    ("hidden-text", Content, &["hidden"]),
    ("small-capitals", Formatting, &["small capitals"]),
    ("alignment", Formatting, &["centring", "in the middle", "aligned"]),
    ("tab-stops", Formatting, &["tab stops"]),
    ("symbol", Content, &["place in a font", "of the font", "the character "]),
    ("line-break", Formatting, &["line break"]),
    ("raw-markup", Content, &["raw markup", "markup of the format"]),
    ("class", Formatting, &["class", "attributes"]),
    ("style", Formatting, &["style"]),
    (
        "inline-format",
        Formatting,
        &[
            "format",
            "superscript",
            "subscript",
            "highlight",
            "underline",
            "small print",
            "abbreviation",
        ],
    ),
];

impl Construct {
    /// What these words of a finding are about, where that is known.
    #[must_use]
    pub fn of(subject: &str) -> Option<Self> {
        let fits = |row: &(&str, Weight, &[&str])| row.2.iter().any(|word| subject.contains(word));
        let index = CONSTRUCTS.iter().position(fits)?;
        u8::try_from(index).ok().map(Self)
    }

    /// All constructs.
    pub fn all() -> impl Iterator<Item = Self> {
        (0_u8..).take(CONSTRUCTS.len()).map(Self)
    }

    fn row(self) -> Option<&'static (&'static str, Weight, &'static [&'static str])> {
        CONSTRUCTS.get(usize::from(self.0))
    }

    /// Its name.
    #[must_use]
    pub fn name(self) -> &'static str {
        self.row().map_or("", |row| row.0)
    }

    /// How much it matters when it is lost or changed.
    #[must_use]
    pub fn weight(self) -> Weight {
        self.row().map_or(Structure, |row| row.1)
    }
}

impl fmt::Display for Construct {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.write_str(self.name())
    }
}

impl Serialize for Construct {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_str(self.name())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::collections::HashSet;

    #[test]
    fn words_of_findings_are_about_one_construct() {
        let cases = [
            ("the title of a link", "link-title", Structure),
            ("the advice on a link", "link-title", Structure),
            ("the advice of a link", "link-title", Structure),
            ("a page break", "page-break", Layout),
            ("a tracked change of looks", "tracked-change", Structure),
            ("the number of a formula inside a line", "formula-number", Structure),
            ("a formula", "formula", Content),
            ("the text of review comments", "comment", Content),
            ("small capitals", "small-capitals", Formatting),
            ("the widths of columns", "cell-alignment", Formatting),
            ("the foot of a table", "table-header", Structure),
            ("a note that nothing refers to", "note", Content),
            ("a picture without a file", "picture", Content),
            ("a contents list", "contents-list", Structure),
            ("the number that “weir” stands for", "reference", Structure),
        ];
        for (subject, name, weight) in cases {
            let construct = Construct::of(subject).map(|found| (found.name(), found.weight()));
            assert_eq!(construct, Some((name, weight)), "{subject}");
        }
        assert_eq!(Construct::of("a weir"), None);
    }

    #[test]
    fn names_are_unique() {
        let names: HashSet<&str> = Construct::all().map(Construct::name).collect();
        assert_eq!(names.len(), CONSTRUCTS.len());
    }
}
