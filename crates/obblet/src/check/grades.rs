//! How much a finding of a check weighs.

use crate::findings::{Code, Severity};
use serde::Serialize;
use std::fmt;

/// How much a finding of a check weighs.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Grade {
    /// Something is broken, or somebody cannot read it.
    Error,
    /// Most people would want it otherwise.
    Warning,
    /// Worth a look.
    Advice,
}

impl fmt::Display for Grade {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.write_str(match self {
            Self::Error => "error",
            Self::Warning => "warning",
            Self::Advice => "advice",
        })
    }
}

/// How much a finding with this code weighs when a document is checked.
#[must_use]
pub fn grade(code: Code) -> Grade {
    use Code as C;
    match code {
        C::AddressMalformed
        | C::AddressLocal
        | C::AddressRunsCode
        | C::AddressNotAllowed
        | C::AnchorBroken
        | C::AttributeMissing
        | C::AttributeNotAllowed
        | C::AttributeUnknown
        | C::AttributeWrong
        | C::BytesReplaced
        | C::CharactersControl
        | C::DoctypeMissing
        | C::ElementIncomplete
        | C::ElementMisplaced
        | C::ElementNotAllowed
        | C::ElementNotHtml
        | C::ElementObsolete
        | C::HeadingEmpty
        | C::HtmlSyntax
        | C::IdReferenceBroken
        | C::IdRepeated
        | C::IncludeMissing
        | C::LanguageWrong
        | C::LinkBroken
        | C::LinkTextEmpty
        | C::PictureFileMissing
        | C::PictureMissing
        | C::PictureUndescribed
        | C::ReferenceMissing
        | C::CitationMissing
        | C::TableGridWrong
        | C::TextMisplaced
        | C::TooLong => Grade::Error,
        C::BreaksTyped
        | C::CapitalsTyped
        | C::ColourAlone
        | C::FormattingEmpty
        | C::HeadingsMissing
        | C::LeadersTyped
        | C::LinkTextIsAddress
        | C::LinkTextRepeated
        | C::PictureDescriptionLong
        | C::WordRepeated => Grade::Advice,
        other => match other.severity() {
            Severity::Lost | Severity::Problem => Grade::Warning,
            Severity::Changed | Severity::Repaired => Grade::Advice,
        },
    }
}

/// What a finding of a check is about.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Topic {
    /// Headings, lists, tables, and what is typed to look like them.
    Structure,
    /// Where links and pictures lead, and their words.
    Links,
    /// What keeps people from reading.
    Access,
    /// Whether a page is valid HTML.
    Html,
    /// Spaces, signs, words.
    Text,
    /// What a house does not take.
    House,
    /// What the reader of the format met.
    Source,
}

impl Topic {
    /// All topics.
    pub const ALL: [Self; 7] = [
        Self::Structure,
        Self::Links,
        Self::Access,
        Self::Html,
        Self::Text,
        Self::House,
        Self::Source,
    ];

    /// The name in small letters.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Self::Structure => "structure",
            Self::Links => "links",
            Self::Access => "access",
            Self::Html => "html",
            Self::Text => "text",
            Self::House => "house",
            Self::Source => "source",
        }
    }

    /// The topic of this name.
    #[must_use]
    pub fn of_name(name: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|topic| topic.name() == name)
    }
}

/// What a finding with this code is about when a document is checked.
#[must_use]
pub fn topic(code: Code) -> Topic {
    use Code as C;
    match code {
        C::BreaksTyped
        | C::HeadingEmpty
        | C::HeadingLevelJump
        | C::HeadingTyped
        | C::HeadingsMissing
        | C::LeadersTyped
        | C::ListTyped
        | C::ParagraphEmpty
        | C::SceneBreakTyped
        | C::TableForLayout
        | C::TableHeadMissing
        | C::TableRowsUneven
        | C::TableTyped
        | C::TitleMissing
        | C::TopHeadingRepeated => Topic::Structure,
        C::AddressLocal
        | C::AddressMalformed
        | C::AddressRunsCode
        | C::AddressTracked
        | C::AnchorBroken
        | C::LinkBroken
        | C::LinkTextEmpty
        | C::LinkTextIsAddress
        | C::LinkTextRepeated
        | C::LinkTextVague
        | C::PictureFileMissing => Topic::Links,
        C::CapitalsTyped
        | C::ColourAlone
        | C::LanguageMissing
        | C::LanguageWrong
        | C::PictureDescribedByName
        | C::PictureDescriptionLong
        | C::PictureUndescribed
        | C::TabindexPositive => Topic::Access,
        C::AttributeMissing
        | C::AttributeObsolete
        | C::AttributeUnknown
        | C::AttributeWrong
        | C::DoctypeMissing
        | C::ElementIncomplete
        | C::ElementMisplaced
        | C::ElementNotHtml
        | C::ElementObsolete
        | C::HtmlSyntax
        | C::IdReferenceBroken
        | C::IdRepeated
        | C::TableGridWrong
        | C::TextMisplaced => Topic::Html,
        C::CharactersControl
        | C::CharactersInvisible
        | C::DashesMixed
        | C::FormattingEmpty
        | C::LigaturesTyped
        | C::QuotesUnlike
        | C::SpaceBeforePunctuation
        | C::SpacesDoubled
        | C::TextMisread
        | C::WordRepeated => Topic::Text,
        C::AddressNotAllowed | C::AttributeNotAllowed | C::ElementNotAllowed | C::TooLong => {
            Topic::House
        }
        _ => Topic::Source,
    }
}
