//! Blocks: what a document is stacked from.

use super::{
    Attributes, CodeBlock, CompactString, DescriptionItem, Inline, List, Moment, Place, Table,
    Timestamp, plain_text,
};
use crate::math::Formula;
use serde::{Deserialize, Serialize};

/// A block with its attributes and its place in the source.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Block {
    /// What kind of block this is, with its content.
    pub kind: BlockKind,
    /// Id, classes, style, language and the like.
    #[serde(default)]
    pub attributes: Attributes,
    /// Where it stood in the source.
    #[serde(default)]
    pub place: Place,
}

impl Block {
    /// A block with no attributes and no known place.
    #[must_use]
    pub fn new(kind: BlockKind) -> Self {
        Self { kind, attributes: Attributes::NONE, place: Place::default() }
    }

    /// The same block with a place.
    #[must_use]
    pub fn at(mut self, place: Place) -> Self {
        self.place = place;
        self
    }

    /// The same block with an id.
    #[must_use]
    pub fn with_id(mut self, id: impl Into<CompactString>) -> Self {
        self.attributes.edit().id = Some(id.into());
        self
    }
}

impl From<BlockKind> for Block {
    fn from(kind: BlockKind) -> Self {
        Self::new(kind)
    }
}

/// Every kind of block a document can hold.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum BlockKind {
    /// Running text.
    Paragraph(Vec<Inline>),
    /// A heading. Sections follow from the levels; they are not nested in the tree.
    Heading(Box<Heading>),
    /// A bulleted or numbered list.
    List(Box<List>),
    /// Terms and what is said about them.
    DescriptionList(Vec<DescriptionItem>),
    /// Somebody else's words, set apart.
    Quotation(Vec<Block>),
    /// Preformatted text: source code, terminal output.
    Code(Box<CodeBlock>),
    /// Verse, a line an entry; an empty line parts stanzas.
    Verse(Vec<Vec<Inline>>),
    /// A table.
    Table(Box<Table>),
    /// Content with a caption that the text refers to.
    Figure(Box<Figure>),
    /// A displayed formula.
    Formula(Box<Formula>),
    /// A note, tip or warning set apart.
    Admonition(Box<Admonition>),
    /// Blocks that belong together and share attributes or a role.
    Group(Box<Group>),
    /// A change of scene or topic.
    ThematicBreak,
    /// A break that matters on paper.
    Break(BreakKind),
    /// The place where a list of contents, figures or tables is wanted.
    Contents(Box<ContentsList>),
    /// The place where the list of cited works is wanted.
    Bibliography,
    /// Markup of one named format, kept as it was written.
    Foreign(Box<Foreign>),
    /// A remark in the source that is not shown to readers.
    SourceRemark(CompactString),
}

impl BlockKind {
    /// A paragraph, or the displayed formula that it is nothing but.
    #[must_use]
    pub fn of_line(mut content: Vec<Inline>) -> Self {
        if let [Inline::Formula(formula)] = content.as_slice()
            && formula.display
            && let Some(Inline::Formula(formula)) = content.pop()
        {
            return Self::Formula(formula);
        }
        Self::Paragraph(content)
    }
}

/// A heading.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Heading {
    /// 1 (highest) to 9. HTML shows levels past 6 as level 6, with a finding.
    pub level: u8,
    /// The words.
    pub content: Vec<Inline>,
    /// The number as the source shows it, for example `2.1`, when numbers are on.
    pub number: Option<CompactString>,
    /// Task state, priority and dates, when the heading is a task.
    pub task: Option<Box<Task>>,
    /// Tags, in source order.
    pub tags: Vec<CompactString>,
}

/// A heading's life as a task.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Task {
    /// The state's keyword as the source spells it, for example `TODO` or `WAITING`.
    pub keyword: CompactString,
    /// Whether that keyword means the task is over.
    pub done: bool,
    /// A priority letter or number.
    pub priority: Option<CompactString>,
    /// When it is to be begun, finished, or was closed.
    pub planning: Vec<Planning>,
}

/// One planned date of a task.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Planning {
    /// Which of the dates this is.
    pub kind: PlanningKind,
    /// The date.
    pub timestamp: Timestamp,
}

/// What a planned date means.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum PlanningKind {
    /// Work starts then.
    Scheduled,
    /// Work must be over by then.
    Deadline,
    /// Work was over then.
    Closed,
}

/// Content with a caption.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Figure {
    /// Usually one picture; may be anything.
    pub content: Vec<Block>,
    /// What stands below or above it.
    pub caption: Option<Caption>,
}

/// The words that belong to a figure or table.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Caption {
    /// The label with its number as the source shows it, for example `Figure 2`.
    pub label: Option<CompactString>,
    /// The caption itself, usually one paragraph.
    pub content: Vec<Block>,
}

impl Caption {
    /// The label and the first paragraph without formats, as a list of figures shows them.
    #[must_use]
    pub fn plain_text(&self) -> String {
        let first = self.content.iter().find_map(|block| match &block.kind {
            BlockKind::Paragraph(content) => Some(plain_text(content)),
            _ => None,
        });
        let words = first.unwrap_or_default();
        match &self.label {
            Some(label) if words.is_empty() => label.to_string(),
            Some(label) if label.ends_with(')') => format!("{label} {words}"),
            Some(label) => format!("{label}: {words}"),
            None => words,
        }
    }
}

/// A note, tip or warning set apart from the text.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Admonition {
    /// What sort of advice it is.
    pub kind: AdmonitionKind,
    /// A title of its own; otherwise the kind's name is shown.
    pub title: Option<Vec<Inline>>,
    /// The advice.
    pub content: Vec<Block>,
}

/// The sorts of admonition in common use.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum AdmonitionKind {
    /// Worth knowing.
    Note,
    /// Makes things easier.
    Tip,
    /// Must be known.
    Important,
    /// May go wrong.
    Warning,
    /// Will do harm.
    Caution,
    /// Any other word.
    Other(CompactString),
}

impl AdmonitionKind {
    /// The kind's name in small letters.
    #[must_use]
    pub fn name(&self) -> &str {
        match self {
            Self::Note => "note",
            Self::Tip => "tip",
            Self::Important => "important",
            Self::Warning => "warning",
            Self::Caution => "caution",
            Self::Other(name) => name,
        }
    }

    /// The kind of this name.
    ///
    /// ```
    /// use obblet::document::AdmonitionKind;
    /// assert_eq!(AdmonitionKind::named("tip"), AdmonitionKind::Tip);
    /// assert_eq!(AdmonitionKind::named("spring tide").name(), "spring tide");
    /// ```
    #[must_use]
    pub fn named(name: &str) -> Self {
        match name {
            "note" => Self::Note,
            "tip" => Self::Tip,
            "important" => Self::Important,
            "warning" => Self::Warning,
            "caution" => Self::Caution,
            other => Self::Other(other.into()),
        }
    }
}

/// Blocks that belong together.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Group {
    /// Why they belong together.
    pub role: GroupRole,
    /// The blocks.
    pub content: Vec<Block>,
}

/// Why blocks stand in one group.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum GroupRole {
    /// Only to share attributes.
    #[default]
    Plain,
    /// Content beside the main text.
    Aside,
    /// The abstract of a paper.
    Abstract,
    /// Content that a reader may open and close, under this summary.
    Disclosure(Vec<Inline>),
    /// A theorem, proof, example or other named statement.
    Statement(CompactString),
    /// A drawer or property list of a notes file.
    Drawer(CompactString),
    /// Set in this many columns.
    Columns(u8),
    /// Centred by its meaning, for example a dedication.
    Centred,
    /// What paper shows at the top of its pages.
    PageHeader,
    /// What paper shows at the bottom of its pages.
    PageFooter,
}

/// A break that matters on paper.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum BreakKind {
    /// The next block starts a page.
    Page,
    /// The next block starts a column.
    Column,
    /// The next block starts a section with a page set-up of its own.
    Section,
}

/// A list that is made from the rest of the document.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct ContentsList {
    /// What is listed.
    pub kind: ContentsKind,
    /// Deepest heading level listed; 0 for all.
    pub depth: u8,
}

/// What a contents list lists.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum ContentsKind {
    /// Headings.
    Headings,
    /// Figures.
    Figures,
    /// Tables.
    Tables,
}

/// Markup of one named format, kept as it was written.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Foreign {
    /// The format's name, for example `html`.
    pub format: CompactString,
    /// The markup.
    pub markup: String,
}

impl Timestamp {
    /// A timestamp of one day.
    #[must_use]
    pub fn day(year: i16, month: u8, day: u8) -> Self {
        Self {
            active: true,
            start: Moment { year, month, day, time: None },
            end: None,
            repeater: None,
            warning: None,
        }
    }
}
