//! The codes of all findings, with their severity and their words.

use serde::Serialize;
use std::fmt;

/// What sort of finding it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Severity {
    /// Something in the source is not in the output.
    Lost,
    /// Something is in the output in another form.
    Changed,
    /// Something was mended.
    Repaired,
    /// Something is wrong with the source; nothing was lost.
    Problem,
}

impl fmt::Display for Severity {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.write_str(match self {
            Self::Lost => "lost",
            Self::Changed => "changed",
            Self::Repaired => "repaired",
            Self::Problem => "problem",
        })
    }
}

/// What happened. Names are stable: a script may rely on them.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
#[non_exhaustive]
#[allow(missing_docs, reason = "each is explained by its message in the table below")]
pub enum Code {
    // Any source.
    BytesReplaced,
    NestingTooDeep,
    SourceEmpty,
    // Markdown.
    ContainerUnclosed,
    ExpansionLimit,
    FenceUnclosed,
    FrontMatterBroken,
    HeadingLevelJump,
    LinkDefinitionDuplicate,
    LinkDefinitionMissing,
    NoteLabelDuplicate,
    NoteLabelMissing,
    NoteUnused,
    TableCellsSurplus,
    TableTooWide,
    // Word.
    ChangesAccepted,
    ChangesRejected,
    ChartRedrawn,
    CommentMissing,
    DiagramAsList,
    ElementUnknown,
    EquationFlattened,
    FieldFlattened,
    FieldUnclosed,
    LooksNotRead,
    NoteMissing,
    NumberingMissing,
    ObjectNotCarried,
    PartMissing,
    PartNotRead,
    PictureKindUnusual,
    PictureMissing,
    RelationMissing,
    XmlBroken,
    // LaTeX.
    BibliographyBroken,
    CitationMissing,
    CommandUnknown,
    DrawingAsSource,
    EnvironmentUnknown,
    GroupUnclosed,
    GroupUnopened,
    IncludeCircular,
    IncludeMissing,
    LayoutNotKept,
    MacroKept,
    MacroLimit,
    MacroMismatch,
    PageReferenceAsNumber,
    ReferenceMissing,
    // Org.
    BlockUnclosed,
    BlockUnopened,
    CitationStyleDropped,
    CodeNotRun,
    DrawnTableAsText,
    EmphasisDropped,
    FormatAsHtml,
    KeywordKept,
    KeywordMisplaced,
    KeywordUnknown,
    LinkUnwrapped,
    MacroUnknown,
    NotPublished,
    SearchInFileDropped,
    SettingNotKept,
    // Writing Word.
    ControlDropped,
    PictureLinked,
    // Writing Markdown.
    EndnoteAsFootnote,
    ListSpacingChanged,
    ListsJoined,
    MarkupAmbiguous,
    NumberAsText,
    NumberFormChanged,
    WhiteSpaceChanged,
    // HTML.
    AddressBroken,
    AddressUnsafe,
    AlternativeMissing,
    AttributeDropped,
    CountingPictureDropped,
    ElementDropped,
    ElementUnwrapped,
    ForeignMarkupLost,
    FormulaAsSource,
    FormulaBroken,
    FormulaCommandUnknown,
    FormulaUnbalanced,
    HeadingLevelLowered,
    HeadingLevelRaised,
    HiddenDropped,
    HtmlRepaired,
    LooksDropped,
    IdDuplicate,
    NodeChanged,
    NodeNotCarried,
    NumberPatternLost,
    // Repairs.
    AddressRepaired,
    BoldHeadingMade,
    BreaksRepaired,
    CharactersRepaired,
    ClassDropped,
    EmptyRemoved,
    FormattingRepaired,
    HeadingLowered,
    IdDropped,
    LayoutTableUnwrapped,
    LeadersRepaired,
    PageFrameDropped,
    PunctuationRepaired,
    SceneBreakMade,
    SpacesRepaired,
    TabTableMade,
    TypedListMade,
    // Houses.
    AddressNotAllowed,
    AttributeNotAllowed,
    ElementNotAllowed,
    PictureConverted,
    PictureDropped,
    PictureNotConverted,
    PictureNotTakenIn,
    RuleApplied,
    RuleNotApplied,
    RuleTooCostly,
    RuleWrong,
    StyleNotInlined,
    TooLong,
    // Folders.
    AnchorBroken,
    LinkBroken,
}

use Severity::{Changed, Lost, Problem, Repaired};

/// One row a code, in the order of the enum; `{}` stands for the subject.
const TABLE: &[(Code, &str, Severity, &str)] = &[
    (
        Code::BytesReplaced,
        "bytes-replaced",
        Problem,
        "bytes that are no text in {} were replaced by U+FFFD",
    ),
    (
        Code::NestingTooDeep,
        "nesting-too-deep",
        Changed,
        "nested too deep; what is deeper was moved up to the deepest level that is kept",
    ),
    (Code::SourceEmpty, "source-empty", Problem, "the source is empty"),
    (
        Code::ContainerUnclosed,
        "container-unclosed",
        Problem,
        "the container “{}” is never closed; it reaches to the end of what it stands in",
    ),
    (
        Code::ExpansionLimit,
        "expansion-limit",
        Changed,
        "references to long link definitions would blow the output up; from here on they stay text",
    ),
    (
        Code::FenceUnclosed,
        "fence-unclosed",
        Problem,
        "the code fence is never closed; the rest of its container is code",
    ),
    (
        Code::FrontMatterBroken,
        "front-matter-broken",
        Problem,
        "the front matter cannot be read and was kept as it is: {}",
    ),
    (Code::HeadingLevelJump, "heading-level-jump", Problem, "a heading level is left out: {}"),
    (
        Code::LinkDefinitionDuplicate,
        "link-definition-duplicate",
        Problem,
        "the link label “{}” is defined again; the first definition holds",
    ),
    (
        Code::LinkDefinitionMissing,
        "link-definition-missing",
        Problem,
        "there is no definition of the link label “{}”; the brackets stay text",
    ),
    (
        Code::NoteLabelDuplicate,
        "note-label-duplicate",
        Lost,
        "the note “{}” is defined again; its second text was dropped",
    ),
    (
        Code::NoteLabelMissing,
        "note-label-missing",
        Problem,
        "there is no text of the note “{}”; the mark stays text",
    ),
    (Code::NoteUnused, "note-unused", Problem, "the note “{}” has no mark in the text"),
    (
        Code::TableCellsSurplus,
        "table-cells-surplus",
        Lost,
        "the row has more cells than the table's head; the surplus cells were dropped: {}",
    ),
    (
        Code::TableTooWide,
        "table-too-wide",
        Changed,
        "short rows of a very wide table are not filled up with empty cells",
    ),
    (Code::ChangesAccepted, "changes-accepted", Changed, "tracked changes were accepted: {}"),
    (Code::ChangesRejected, "changes-rejected", Changed, "tracked changes were rejected: {}"),
    (
        Code::ChartRedrawn,
        "chart-redrawn",
        Changed,
        "a chart of the kind {} is drawn in another way; its values are in its table",
    ),
    (Code::CommentMissing, "comment-missing", Problem, "there is no comment with the number {}"),
    (Code::DiagramAsList, "diagram-as-list", Changed, "a diagram became a list of what it says"),
    (
        Code::ElementUnknown,
        "element-unknown",
        Lost,
        "the element “{}” is not known to this reader; what it says by itself was dropped",
    ),
    (
        Code::EquationFlattened,
        "equation-flattened",
        Changed,
        "an equation was reduced to its characters: {}",
    ),
    (
        Code::FieldFlattened,
        "field-flattened",
        Changed,
        "the field “{}” was replaced by its last stored result",
    ),
    (
        Code::FieldUnclosed,
        "field-unclosed",
        Lost,
        "a field has no end, and what stands behind its beginning is part of it",
    ),
    (Code::LooksNotRead, "looks-not-read", Changed, "looks were left out: {}"),
    (Code::NoteMissing, "note-missing", Problem, "there is no note with the number {}"),
    (
        Code::NumberingMissing,
        "numbering-missing",
        Problem,
        "there is no list definition {}; its paragraph was read without a number",
    ),
    (
        Code::ObjectNotCarried,
        "object-not-carried",
        Lost,
        "an object that this reader does not carry was dropped: {}",
    ),
    (Code::PartMissing, "part-missing", Problem, "the package has no part {}"),
    (Code::PartNotRead, "part-not-read", Lost, "the part {} is not read; what it says was dropped"),
    (
        Code::PictureKindUnusual,
        "picture-kind-unusual",
        Problem,
        "browsers do not show pictures of this kind: {}",
    ),
    (Code::PictureMissing, "picture-missing", Lost, "there is no picture {}"),
    (
        Code::RelationMissing,
        "relation-missing",
        Problem,
        "the package has no relationship {}; the link was dropped, its text kept",
    ),
    (Code::XmlBroken, "xml-broken", Lost, "the XML breaks off; what follows was not read: {}"),
    (
        Code::BibliographyBroken,
        "bibliography-broken",
        Problem,
        "the file of works is broken at “{}”",
    ),
    (
        Code::CitationMissing,
        "citation-missing",
        Problem,
        "no work is known by the key “{}” that the text cites",
    ),
    (
        Code::CommandUnknown,
        "command-unknown",
        Changed,
        "the command “{}” is not known; only what its arguments hold was kept",
    ),
    (Code::DrawingAsSource, "drawing-as-source", Changed, "a drawing ({}) is shown as its source"),
    (
        Code::EnvironmentUnknown,
        "environment-unknown",
        Changed,
        "the environment “{}” is not known; only what it holds was kept",
    ),
    (Code::GroupUnclosed, "group-unclosed", Problem, "“{}” is never closed"),
    (
        Code::GroupUnopened,
        "group-unopened",
        Problem,
        "“{}” closes something that was never opened, and was passed over",
    ),
    (
        Code::IncludeCircular,
        "include-circular",
        Problem,
        "the file “{}” includes itself, and was not read again",
    ),
    (
        Code::IncludeMissing,
        "include-missing",
        Lost,
        "the file “{}” is not there or may not be read; what it holds is missing",
    ),
    (
        Code::LayoutNotKept,
        "layout-not-kept",
        Lost,
        "what “{}” says of the layout of paper has no place in the document",
    ),
    (
        Code::MacroKept,
        "macro-kept",
        Changed,
        "the source defines “{}” anew; what it means for the structure was kept instead",
    ),
    (
        Code::MacroLimit,
        "macro-limit",
        Problem,
        "macros make more than is read; from here on they stay as they are written",
    ),
    (Code::MacroMismatch, "macro-mismatch", Problem, "the use of “{}” does not fit its definition"),
    (
        Code::PageReferenceAsNumber,
        "page-reference-as-number",
        Changed,
        "the page of “{}” is not known; its number is shown instead",
    ),
    (Code::ReferenceMissing, "reference-missing", Problem, "nothing has the label “{}”"),
    (Code::BlockUnclosed, "block-unclosed", Problem, "“{}” is never closed, and stays text"),
    (Code::BlockUnopened, "block-unopened", Problem, "“{}” ends nothing, and stays text"),
    (
        Code::CitationStyleDropped,
        "citation-style-dropped",
        Changed,
        "“{}” is no style of citations that is known; the nearest one was taken",
    ),
    (
        Code::CodeNotRun,
        "code-not-run",
        Changed,
        "“{}” was not run; results are as they stand in the source",
    ),
    (
        Code::DrawnTableAsText,
        "drawn-table-as-text",
        Changed,
        "a table drawn with signs stays as it is drawn",
    ),
    (
        Code::EmphasisDropped,
        "emphasis-dropped",
        Lost,
        "the marks around “{}” would be read in another way, and were left out",
    ),
    (Code::FormatAsHtml, "format-as-html", Changed, "{} is written as HTML inside the text"),
    (
        Code::KeywordKept,
        "keyword-kept",
        Changed,
        "the keyword “{}” is not known; what it says is kept as a field of the document",
    ),
    (
        Code::KeywordMisplaced,
        "keyword-misplaced",
        Lost,
        "nothing follows “{}” that it could be about",
    ),
    (
        Code::KeywordUnknown,
        "keyword-unknown",
        Lost,
        "the keyword “{}” is not known; its line was left out",
    ),
    (
        Code::LinkUnwrapped,
        "link-unwrapped",
        Changed,
        "“{}” cannot be linked to; only the words were kept",
    ),
    (
        Code::MacroUnknown,
        "macro-unknown",
        Problem,
        "there is no macro “{}” that can be filled in; it stays as it is written",
    ),
    (Code::NotPublished, "not-published", Changed, "the document keeps {} from its readers"),
    (
        Code::SearchInFileDropped,
        "search-in-file-dropped",
        Changed,
        "the link leads to the file; what was to be looked for in it, “{}”, was left out",
    ),
    (
        Code::SettingNotKept,
        "setting-not-kept",
        Lost,
        "the setting “{}” has no meaning in the output, and was left out",
    ),
    (
        Code::ControlDropped,
        "control-dropped",
        Lost,
        "a control character that the output cannot hold was dropped",
    ),
    (
        Code::PictureLinked,
        "picture-linked",
        Changed,
        "the picture {} is not in the file, which only links to it",
    ),
    (
        Code::EndnoteAsFootnote,
        "endnote-as-footnote",
        Changed,
        "the output has one kind of note; an endnote became a footnote",
    ),
    (
        Code::ListSpacingChanged,
        "list-spacing-changed",
        Changed,
        "the list's items stand closer or wider than they did: the output cannot say it otherwise",
    ),
    (
        Code::ListsJoined,
        "lists-joined",
        Changed,
        "two {} lists that followed each other became one",
    ),
    (
        Code::MarkupAmbiguous,
        "markup-ambiguous",
        Changed,
        "marks that would run into each other were written as HTML",
    ),
    (
        Code::NumberAsText,
        "number-as-text",
        Changed,
        "the number of a heading became a part of its words: {}",
    ),
    (
        Code::NumberFormChanged,
        "number-form-changed",
        Changed,
        "list numbers of the form “{}” are written in another form",
    ),
    (
        Code::WhiteSpaceChanged,
        "white-space-changed",
        Changed,
        "white space was put in or taken out where the output cannot say it otherwise: {}",
    ),
    (
        Code::AddressBroken,
        "address-broken",
        Changed,
        "the link or picture leads nowhere: “{}” is no address; its text was kept",
    ),
    (
        Code::AddressUnsafe,
        "address-unsafe",
        Changed,
        "an address that may run code was removed: {}",
    ),
    (
        Code::AlternativeMissing,
        "alternative-missing",
        Problem,
        "the picture {} has no alternative text",
    ),
    (
        Code::AttributeDropped,
        "attribute-dropped",
        Lost,
        "the attribute “{}” is not allowed in the output and was dropped",
    ),
    (
        Code::CountingPictureDropped,
        "counting-picture-dropped",
        Lost,
        "a picture that only counts readers was dropped: {}",
    ),
    (
        Code::ElementDropped,
        "element-dropped",
        Lost,
        "the element “{}” is not allowed in the output and was dropped with all it held",
    ),
    (
        Code::ElementUnwrapped,
        "element-unwrapped",
        Changed,
        "the element “{}” may not stand in the output, or not there; only what it held was kept",
    ),
    (
        Code::ForeignMarkupLost,
        "foreign-markup-lost",
        Lost,
        "markup of the format “{}” has no place in the output and was dropped",
    ),
    (Code::FormulaAsSource, "formula-as-source", Changed, "a formula is shown as its {} source"),
    (
        Code::FormulaBroken,
        "formula-broken",
        Problem,
        "in a formula, something is missing or stands where it cannot: “{}”",
    ),
    (
        Code::FormulaCommandUnknown,
        "formula-command-unknown",
        Changed,
        "the formula command “{}” is not known, and is shown as its source",
    ),
    (
        Code::FormulaUnbalanced,
        "formula-unbalanced",
        Problem,
        "in a formula, “{}” opens or closes without its counterpart",
    ),
    (
        Code::HeadingLevelLowered,
        "heading-level-lowered",
        Changed,
        "HTML has six heading levels; a heading of level {} became one of level 6",
    ),
    (
        Code::HeadingLevelRaised,
        "heading-level-raised",
        Repaired,
        "a heading of level {}, so that a page leaves no level out",
    ),
    (
        Code::HiddenDropped,
        "hidden-dropped",
        Lost,
        "content that the page hides from readers was dropped",
    ),
    (
        Code::HtmlRepaired,
        "html-repaired",
        Repaired,
        "HTML in the source was not well formed and was mended: {}",
    ),
    (
        Code::LooksDropped,
        "looks-dropped",
        Lost,
        "fonts, colours, borders and the like are left to the destination",
    ),
    (
        Code::IdDuplicate,
        "id-duplicate",
        Repaired,
        "the id “{}” is used more than once; a later one got a number",
    ),
    (Code::NodeChanged, "node-changed", Changed, "the output says {} in another way"),
    (Code::NodeNotCarried, "node-not-carried", Lost, "the output has no place for {}"),
    (
        Code::NumberPatternLost,
        "number-pattern-lost",
        Changed,
        "list numbers of the form “{}” are shown by their last part only",
    ),
    (
        Code::AddressRepaired,
        "address-repaired",
        Changed,
        "a part of a link's address that readers do not need was taken off: {}",
    ),
    (
        Code::BoldHeadingMade,
        "bold-heading-made",
        Repaired,
        "a short bold paragraph with text below it became a heading: {}",
    ),
    (
        Code::BreaksRepaired,
        "breaks-repaired",
        Repaired,
        "line breaks that part paragraphs, or nothing, were repaired",
    ),
    (
        Code::CharactersRepaired,
        "characters-repaired",
        Repaired,
        "characters that only a program wants were repaired: {}",
    ),
    (
        Code::ClassDropped,
        "class-dropped",
        Changed,
        "a class that nothing in the page gives a meaning was dropped",
    ),
    (
        Code::EmptyRemoved,
        "empty-removed",
        Repaired,
        "a paragraph in which there is nothing to see was removed",
    ),
    (
        Code::FormattingRepaired,
        "formatting-repaired",
        Repaired,
        "formats that say nothing, or the same twice, were repaired",
    ),
    (
        Code::HeadingLowered,
        "heading-lowered",
        Repaired,
        "the heading went one level down, so that one heading stands above all others",
    ),
    (
        Code::IdDropped,
        "id-dropped",
        Repaired,
        "the id “{}” is used more than once; only the first keeps it",
    ),
    (
        Code::LayoutTableUnwrapped,
        "layout-table-unwrapped",
        Repaired,
        "a table that only places things became what it holds",
    ),
    (
        Code::LeadersRepaired,
        "leaders-repaired",
        Repaired,
        "a leader or a line to fill in, drawn with dots or underscores, was shortened or joined with what belongs to it",
    ),
    (
        Code::PageFrameDropped,
        "page-frame-dropped",
        Lost,
        "what stands around the text of the page was left out, as was asked",
    ),
    (
        Code::PunctuationRepaired,
        "punctuation-repaired",
        Changed,
        "quotation marks, dashes and the like are spelled as the house wants them",
    ),
    (
        Code::SceneBreakMade,
        "scene-break-made",
        Repaired,
        "a line of nothing but marks became a thematic break",
    ),
    (Code::SpacesRepaired, "spaces-repaired", Repaired, "superfluous spaces were removed"),
    (
        Code::TabTableMade,
        "tab-table-made",
        Repaired,
        "columns made of tabs or spaces became a table",
    ),
    (
        Code::TypedListMade,
        "typed-list-made",
        Repaired,
        "paragraphs with typed bullets or numbers became a list",
    ),
    (
        Code::AddressNotAllowed,
        "address-not-allowed",
        Lost,
        "the destination takes no such address; what was linked stays, the address does not: {}",
    ),
    (
        Code::AttributeNotAllowed,
        "attribute-not-allowed",
        Lost,
        "the destination does not take the attribute “{}”; it was dropped",
    ),
    (
        Code::ElementNotAllowed,
        "element-not-allowed",
        Lost,
        "the destination does not take the element “{}”; what it holds stays",
    ),
    (
        Code::PictureConverted,
        "picture-converted",
        Changed,
        "the picture {} has the format and size that the house wants",
    ),
    (
        Code::PictureDropped,
        "picture-dropped",
        Lost,
        "the house leaves pictures out; its words stand for it: {}",
    ),
    (
        Code::PictureNotConverted,
        "picture-not-converted",
        Problem,
        "the picture {} could not be converted and stays as it is",
    ),
    (
        Code::PictureNotTakenIn,
        "picture-not-taken-in",
        Problem,
        "the picture is not there, or of no kind that is taken in; it stays where it is: {}",
    ),
    (Code::RuleApplied, "rule-applied", Changed, "the house's rule on “{}” was applied"),
    (
        Code::RuleNotApplied,
        "rule-not-applied",
        Problem,
        "HTML cannot hold what the house's rule on “{}” would make here; it was left as it is",
    ),
    (
        Code::RuleTooCostly,
        "rule-too-costly",
        Problem,
        "the page is too large for the house's rule on “{}”; not all that it matches was found",
    ),
    (Code::RuleWrong, "rule-wrong", Problem, "a rule of the house is wrong and was left out: {}"),
    (
        Code::StyleNotInlined,
        "style-not-inlined",
        Lost,
        "this part of a style sheet cannot stand in an element and was dropped: {}",
    ),
    (Code::TooLong, "too-long", Problem, "the output is too long for its destination: {}"),
    (
        Code::AnchorBroken,
        "anchor-broken",
        Problem,
        "the link leads to a page that has no such place: {}",
    ),
    (
        Code::LinkBroken,
        "link-broken",
        Problem,
        "the link or picture leads to no file of this folder: {}",
    ),
];

impl Code {
    /// All codes, in the order of the enum.
    pub fn all() -> impl Iterator<Item = Self> {
        TABLE.iter().map(|row| row.0)
    }

    fn row(self) -> &'static (Self, &'static str, Severity, &'static str) {
        // A test makes sure that the table has every code at its own index.
        &TABLE[self as usize]
    }

    /// The stable name, for example `fence-unclosed`.
    #[must_use]
    pub fn name(self) -> &'static str {
        self.row().1
    }

    /// The severity of every finding with this code.
    #[must_use]
    pub fn severity(self) -> Severity {
        self.row().2
    }

    /// The words, with `{}` where the subject goes.
    #[must_use]
    pub fn message(self) -> &'static str {
        self.row().3
    }
}

impl fmt::Display for Code {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.write_str(self.name())
    }
}

impl Serialize for Code {
    fn serialize<S: serde::Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_str(self.name())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_table_has_every_code_at_its_own_index_under_its_own_name() {
        for (index, (code, name, _, message)) in TABLE.iter().enumerate() {
            assert_eq!(*code as usize, index, "{name}");
            let variant: String = name.split('-').map(capitalised).collect();
            assert_eq!(format!("{code:?}"), variant);
            assert!(!message.ends_with('.'), "{name}: messages are not sentences");
        }
        assert_eq!(TABLE.len(), Code::LinkBroken as usize + 1, "the last code of the enum");
    }

    fn capitalised(word: &str) -> String {
        let (first, rest) = word.split_at(1);
        first.to_uppercase() + rest
    }
}
