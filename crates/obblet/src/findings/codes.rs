//! The codes of all findings: what can be asked of one.

use super::{Code, FindingKind, Severity, Topic, Weight};
use serde::Serialize;
use std::fmt;
use std::str::FromStr;

/// Makes of the rows of `table.rs` the enum of all codes, and what is said of each.
macro_rules! codes {
    ($($code:ident = $name:literal, $kind:ident, $severity:ident, $weight:ident, $topic:ident {
        $message:literal $explanation:literal $mending:literal
    })*) => {
        /// What happened. Names are stable: a script may rely on them.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
        #[non_exhaustive]
        pub enum Code {
            $(#[doc = $message] $code,)*
            /// A code of somebody else's, for readers, writers and repair passes of their own.
            Other(&'static CodeFacts),
        }

        impl Code {
            /// All codes of Obblet's own, in their order.
            pub fn all() -> impl Iterator<Item = Self> {
                [$(Self::$code),*].into_iter()
            }

            /// What is said of it.
            #[must_use]
            pub fn facts(self) -> &'static CodeFacts {
                match self {
                    $(Self::$code => &CodeFacts {
                        name: $name,
                        kind: FindingKind::$kind,
                        severity: Severity::$severity,
                        weight: Weight::$weight,
                        topic: Topic::$topic,
                        message: $message,
                        explanation: $explanation,
                        mending: $mending,
                    },)*
                    Self::Other(facts) => facts,
                }
            }
        }
    };
}
pub(super) use codes;

/// What is said of a code. A program that adds readers, writers or repair passes makes codes of its own:
///
/// ```
/// use obblet::findings::{Code, CodeFacts, Findings, FindingKind, Severity, Topic, Weight};
/// static GAUGE_UNREAD: CodeFacts = CodeFacts {
///     name: "gauge-unread",
///     kind: FindingKind::Lost,
///     severity: Severity::Warning,
///     weight: Weight::Content,
///     topic: Topic::Source,
///     message: "the reading of the gauge “{}” was left out",
///     explanation: "Gauges that are being cleaned give no readings.",
///     mending: "Read the gauge by hand.",
/// };
/// let mut findings = Findings::new();
/// findings.add_about(Code::Other(&GAUGE_UNREAD), "north", None);
/// let line = findings.iter().next().map(|finding| finding.line("log.csv"));
/// let wanted = "log.csv: lost: the reading of the gauge “north” was left out [gauge-unread]";
/// assert_eq!(line.as_deref(), Some(wanted));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct CodeFacts {
    /// The stable name, for example `fence-unclosed`.
    pub name: &'static str,
    /// What happened.
    pub kind: FindingKind,
    /// How heavy it is when a document is checked.
    pub severity: Severity,
    /// How much it matters in a conversion.
    pub weight: Weight,
    /// What it is about.
    pub topic: Topic,
    /// What happened, in words; `{}` stands for what it happened to.
    pub message: &'static str,
    /// A paragraph on what this means.
    pub explanation: &'static str,
    /// What one can do about it, in a sentence or two.
    pub mending: &'static str,
}

impl Code {
    /// The stable name, for example `fence-unclosed`.
    #[must_use]
    pub fn name(self) -> &'static str {
        self.facts().name
    }

    /// What happened.
    #[must_use]
    pub fn kind(self) -> FindingKind {
        self.facts().kind
    }

    /// How heavy findings with this code are when a document is checked.
    #[must_use]
    pub fn severity(self) -> Severity {
        self.facts().severity
    }

    /// How much findings with this code matter, where what they are about does not say.
    #[must_use]
    pub fn weight(self) -> Weight {
        self.facts().weight
    }

    /// What findings with this code are about when a document is checked.
    #[must_use]
    pub fn topic(self) -> Topic {
        self.facts().topic
    }

    /// The words, with `{}` where the subject goes.
    #[must_use]
    pub fn message(self) -> &'static str {
        self.facts().message
    }

    /// A paragraph on what this means.
    #[must_use]
    pub fn explanation(self) -> &'static str {
        self.facts().explanation
    }

    /// What one can do about it, in a sentence or two.
    #[must_use]
    pub fn mending(self) -> &'static str {
        self.facts().mending
    }

    /// The code of this name.
    ///
    /// ```
    /// use obblet::findings::Code;
    /// assert_eq!(Code::of_name("fence-unclosed"), Some(Code::FenceUnclosed));
    /// ```
    #[must_use]
    pub fn of_name(name: &str) -> Option<Self> {
        Self::all().find(|code| code.name() == name)
    }

    /// The code whose name is most like this one, when any is.
    #[must_use]
    pub fn nearest(name: &str) -> Option<Self> {
        let likeness = |code: &Self| strsim::jaro_winkler(code.name(), name);
        Self::all()
            .max_by(|one, two| likeness(one).total_cmp(&likeness(two)))
            .filter(|code| likeness(code) > 0.8)
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
        self.kind() == FindingKind::Lost && !self.is_about_constructs() || changes.contains(&self)
    }
}

impl FromStr for Code {
    type Err = String;

    fn from_str(name: &str) -> Result<Self, Self::Err> {
        Self::of_name(name).ok_or_else(|| match Self::nearest(name) {
            Some(nearest) => format!("there is no such code; did you mean {nearest}?"),
            None => "there is no such code; --explain all prints all codes".to_string(),
        })
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
    fn rows_are_named_and_worded_alike() {
        for code in Code::all() {
            let variant: String = code.name().split('-').map(capitalised).collect();
            assert_eq!(format!("{code:?}"), variant);
            assert_eq!(Code::of_name(code.name()), Some(code), "no name comes twice");
            assert!(!code.message().ends_with('.'), "{code}: messages are not sentences");
            assert!(code.explanation().ends_with('.') && code.mending().ends_with('.'), "{code}");
        }
    }

    fn capitalised(word: &str) -> String {
        let (first, rest) = word.split_at(1);
        first.to_uppercase() + rest
    }
}
