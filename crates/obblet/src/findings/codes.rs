//! The codes of all findings, with their severity and their words.

use super::Weight;
use super::table::TABLE;
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
    TextAdded,
    TextMoved,
    TextAfterEnd,
    TextUnaccounted,
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
    PictureCleaned,
    PictureRefused,
    RelationMissing,
    XmlBroken,
    // LaTeX.
    BlockInLine,
    BibliographyBroken,
    BoxUnshown,
    CitationMissing,
    CommandSkipped,
    CommandUnknown,
    DateImpossible,
    DateUnknown,
    DrawingAsSource,
    EnvironmentUnknown,
    GroupUnclosed,
    GroupUnopened,
    IncludeCircular,
    IncludeMissing,
    LayoutNotKept,
    MacroCircular,
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
    // Plain text.
    TextTakenFor,
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
    StyleDropped,
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
    BoundContentsList,
    BoundMetadata,
    BoundStyleDiffers,
    BoundWorkDiffers,
    LinkBroken,
    // Checks.
    AddressLocal,
    AddressMalformed,
    AddressRunsCode,
    AddressTracked,
    AttributeMissing,
    AttributeObsolete,
    AttributeUnknown,
    AttributeWrong,
    BreaksTyped,
    CapitalsTyped,
    CharactersControl,
    CharactersInvisible,
    ColourAlone,
    DashesMixed,
    DoctypeMissing,
    ElementIncomplete,
    ElementMisplaced,
    ElementNotHtml,
    ElementObsolete,
    FormattingEmpty,
    HeadingEmpty,
    HeadingTyped,
    HeadingsMissing,
    HtmlSyntax,
    IdReferenceBroken,
    IdRepeated,
    LanguageMissing,
    LanguageWrong,
    LeadersTyped,
    LigaturesTyped,
    LinkTextEmpty,
    LinkTextIsAddress,
    LinkTextRepeated,
    LinkTextVague,
    ListTyped,
    ParagraphEmpty,
    PictureDescribedByName,
    PictureDescriptionLong,
    PictureFileMissing,
    PictureUndescribed,
    QuotesUnlike,
    SceneBreakTyped,
    SpaceBeforePunctuation,
    SpacesDoubled,
    TabindexPositive,
    TableForLayout,
    TableGridWrong,
    TableHeadMissing,
    TableRowsUneven,
    TableTyped,
    TextMisplaced,
    TextMisread,
    TitleMissing,
    TopHeadingRepeated,
    WordRepeated,
}

impl Code {
    /// All codes, in the order of the enum.
    pub fn all() -> impl Iterator<Item = Self> {
        TABLE.iter().map(|row| row.0)
    }

    fn row(self) -> &'static (Self, &'static str, Severity, Weight, &'static str) {
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

    /// How much findings with this code matter, where what they are about does not say.
    #[must_use]
    pub fn weight(self) -> Weight {
        self.row().3
    }

    /// Whether it is the subject of a finding with this code that says what was lost or changed.
    #[must_use]
    pub fn is_about_constructs(self) -> bool {
        matches!(
            self,
            Self::NodeNotCarried | Self::NodeChanged | Self::FormatAsHtml | Self::ObjectNotCarried
        )
    }

    /// Whether a finding with this code says that a link leads nowhere.
    #[must_use]
    pub fn is_broken_link(self) -> bool {
        matches!(self, Self::LinkBroken | Self::AnchorBroken | Self::AddressBroken)
    }

    /// Whether a finding with this code may be about words that are in the source and not in the
    /// document, or in the document and not in the output.
    #[must_use]
    pub fn leaves_out(self) -> bool {
        let changes = [
            Self::ChangesAccepted,
            Self::ChangesRejected,
            Self::CommandUnknown,
            Self::DiagramAsList,
            Self::DrawingAsSource,
            Self::EnvironmentUnknown,
            Self::EquationFlattened,
            Self::FieldFlattened,
            Self::NotPublished,
        ];
        self.severity() == Severity::Lost && !self.is_about_constructs() || changes.contains(&self)
    }

    /// The words, with `{}` where the subject goes.
    #[must_use]
    pub fn message(self) -> &'static str {
        self.row().4
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
        for (index, (code, name, _, _, message)) in TABLE.iter().enumerate() {
            assert_eq!(*code as usize, index, "{name}");
            let variant: String = name.split('-').map(capitalised).collect();
            assert_eq!(format!("{code:?}"), variant);
            assert!(!message.ends_with('.'), "{name}: messages are not sentences");
        }
        assert_eq!(TABLE.len(), Code::WordRepeated as usize + 1, "the last code of the enum");
    }

    fn capitalised(word: &str) -> String {
        let (first, rest) = word.split_at(1);
        first.to_uppercase() + rest
    }
}
