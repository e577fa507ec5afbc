//! Markdown.
//!
//! The base is CommonMark 0.31.2. Everything beyond it is a [`Switch`] of its own; a [`Dialect`]
//! is a set of switches with a name.
//!
//! # Read
//! A block pass over the lines ([`read`]), then an inline pass over each paragraph once all link
//! definitions are known. Raw HTML stays [`Foreign`](crate::document::Foreign) markup, unless
//! [`ReadOptions`](crate::formats::ReadOptions) want nodes.
//!
//! # Write
//! The document is first made one that the dialect can say ([`sayable_form`]), then spelled
//! ([`write()`]), each text with the fewest escapes with which it reads back as itself.
//!
//! # Beyond CommonMark
//!
//! | switch | what it reads | becomes |
//! | --- | --- | --- |
//! | [`Tables`](Switch::Tables) | rows of pipes with a delimiter row | a table with a head |
//! | [`Footnotes`](Switch::Footnotes) | `[^a]` and `[^a]: text`, indented blocks below; `^[text]` | notes |
//! | [`Alerts`](Switch::Alerts) | `> [!NOTE]` | an admonition |
//! | [`Containers`](Switch::Containers) | `::: tip Title` to `:::` | an admonition, a figure, a table with its caption, a group |
//! | [`DescriptionLists`](Switch::DescriptionLists) | a term, below it `: ` and text | a description list |
//! | [`Attributes`](Switch::Attributes) | `{#id .class key=value}` | attributes; `audience=web` says for whom |
//! | [`Math`](Switch::Math) | `$a$`, `$$a$$`, fences of language `math` | formulas |
//! | [`Abbreviations`](Switch::Abbreviations) | `*[TLA]: words` | abbreviations wherever they stand |
//!
//! # Limits
//! Containers and emphasis nest to [`NESTING_LIMIT`](crate::document::NESTING_LIMIT); what is
//! deeper stays text, with a finding. Link references may add ten times the source's length, and
//! at least 100,000 bytes, to the document; then they stay text, with a finding.
//!
//! # Not preserved
//! The exact spelling: which bullet mark a list had is kept, how far its text was indented is
//! not. Two backslash or two-space line breaks are the same break.

mod containers;
mod read;
mod write;

pub(crate) use read::Structure;
pub use read::read;
pub use write::{
    BulletMark, EmphasisMark, FenceMark, HeadingForm, LinkForm, MarkdownWriteOptions, TableForm,
    sayable_form, write,
};

/// One thing a dialect can say beyond CommonMark.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[repr(u8)]
pub enum Switch {
    /// Tables drawn with pipes.
    Tables,
    /// `~~struck~~` and `~struck~`.
    Strikethrough,
    /// `- [ ]` and `- [x]` at the start of a list item.
    Tasks,
    /// Web and mail addresses become links without angle brackets.
    BareAddresses,
    /// YAML between `---` lines, or TOML between `+++` lines, at the very start is metadata.
    FrontMatter,
    /// `[^label]` with `[^label]: text` elsewhere, and `^[text]`.
    Footnotes,
    /// A quotation that begins with `[!NOTE]` or another of five words is an admonition.
    Alerts,
    /// `{#id .class key=value}` behind headings, fences, links, pictures, code and `[spans]`.
    Attributes,
    /// Blocks between `::: name` and `:::`.
    Containers,
    /// A term, and below it `: ` with what is said about it.
    DescriptionLists,
    /// Formulas between `$…$`, `$$…$$` and in fences of the language `math`.
    Math,
    /// `==marked==`.
    Highlight,
    /// `++put in++`.
    Insertion,
    /// `^raised^` and `~lowered~`.
    Scripts,
    /// `*[TLA]: what it stands for`.
    Abbreviations,
    /// `[[page]]` and `[[page|words]]`.
    WikiLinks,
    /// Every line ending is a hard break, as in texts from form fields.
    HardWraps,
    /// Straight quotes, `--`, `---` and `...` become typographic, quotes by the language.
    SmartPunctuation,
    /// The tags that GFM disallows (6.11) lose their `<`. Not needed where raw HTML is sanitised.
    HarmlessTags,
    /// Between the tags of an HTML block that is still open, indented lines are text, not code.
    IndentedInHtml,
}

/// A set of switches.
///
/// ```
/// use obblet::formats::markdown::{Dialect, Switch};
/// assert!(!Dialect::Standard.switches().has(Switch::Tables));
/// assert!(Dialect::Forge.switches().with(Switch::FrontMatter).has(Switch::FrontMatter));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Switches(u32);

impl Switches {
    /// No switch on.
    pub const NONE: Self = Self(0);

    /// The same set with this switch on.
    #[must_use]
    pub const fn with(self, switch: Switch) -> Self {
        Self(self.0 | 1 << switch as u8)
    }

    /// The same set with this switch off.
    #[must_use]
    pub const fn without(self, switch: Switch) -> Self {
        Self(self.0 & !(1 << switch as u8))
    }

    /// Whether this switch is on.
    #[must_use]
    pub const fn has(self, switch: Switch) -> bool {
        self.0 & 1 << switch as u8 != 0
    }
}

/// A named set of switches.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub enum Dialect {
    /// CommonMark 0.31.2 and nothing else.
    Standard,
    /// What code forges show: tables, strikethrough, tasks, bare addresses, footnotes, alerts, no
    /// disallowed tags.
    Forge,
    /// Everything this reader knows, but for the two switches that change plain text: hard wraps
    /// and smart punctuation.
    #[default]
    Full,
}

impl Dialect {
    /// The switches that are on in this dialect.
    #[must_use]
    pub const fn switches(self) -> Switches {
        let forge = Switches::NONE
            .with(Switch::Tables)
            .with(Switch::Strikethrough)
            .with(Switch::Tasks)
            .with(Switch::BareAddresses)
            .with(Switch::Footnotes)
            .with(Switch::Alerts);
        match self {
            Self::Standard => Switches::NONE,
            Self::Forge => forge.with(Switch::HarmlessTags),
            Self::Full => forge
                .with(Switch::FrontMatter)
                .with(Switch::Attributes)
                .with(Switch::Containers)
                .with(Switch::DescriptionLists)
                .with(Switch::Math)
                .with(Switch::Highlight)
                .with(Switch::Insertion)
                .with(Switch::Scripts)
                .with(Switch::Abbreviations)
                .with(Switch::WikiLinks)
                .with(Switch::IndentedInHtml),
        }
    }
}

/// What the Markdown reader can be told.
#[derive(Debug, Clone, Copy)]
pub struct MarkdownReadOptions {
    /// The switches that are on. Default: those of [`Dialect::Full`].
    pub switches: Switches,
}

impl Default for MarkdownReadOptions {
    fn default() -> Self {
        Self { switches: Dialect::Full.switches() }
    }
}
