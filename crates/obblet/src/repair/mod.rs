//! Repair passes: one cleaning step each over a document, between reading and writing.
//!
//! A pass says with a finding what it repaired, and finds nothing more to do the second time. A
//! house turns passes on and off by their names; a program adds passes of its own
//! ([`Additions`](crate::Additions)).
//!
//! ```
//! use obblet::document::{Document, build::*};
//! use obblet::findings::Findings;
//! use obblet::repair::{DoubleSpaces, Repair};
//! let mut document = Document::of(vec![paragraph("High  water")]);
//! let mut findings = Findings::new();
//! DoubleSpaces.repair(&mut document, &mut findings);
//! assert_eq!(document, Document::of(vec![paragraph("High water")]));
//! assert_eq!(findings.iter().count(), 1);
//! ```

mod bold_headings;
mod double_breaks;
mod double_spaces;
mod duplicate_ids;
mod empty_paragraphs;
mod formatting;
mod heading_levels;
mod invisible_characters;
mod layout_tables;
mod ligatures;
mod lines;
mod manual_breaks;
mod one_top_heading;
mod punctuation;
mod redirects;
mod scene_breaks;
mod signature_lines;
mod spaced_punctuation;
mod tab_tables;
mod tracking_parameters;
mod typed_leaders;
mod typed_lists;
mod underlined_links;
mod unused_classes;

pub use bold_headings::BoldHeadings;
pub use double_breaks::DoubleBreaks;
pub use double_spaces::DoubleSpaces;
pub use duplicate_ids::DuplicateIds;
pub use empty_paragraphs::EmptyParagraphs;
pub use formatting::FormattingRepair;
pub use heading_levels::HeadingLevels;
pub use invisible_characters::InvisibleCharacters;
pub use layout_tables::LayoutTables;
pub use ligatures::Ligatures;
pub use manual_breaks::ManualBreaks;
pub use one_top_heading::OneTopHeading;
pub use punctuation::{Punctuation, PunctuationForm};
pub use redirects::Redirects;
pub use scene_breaks::SceneBreaks;
pub use signature_lines::SignatureLines;
pub use spaced_punctuation::SpacedPunctuation;
pub use tab_tables::TabTables;
pub use tracking_parameters::TrackingParameters;
pub use typed_leaders::TypedLeaders;
pub use typed_lists::TypedLists;
pub use underlined_links::UnderlinedLinks;
pub use unused_classes::UnusedClasses;

use crate::document::Document;
use crate::findings::Findings;
use std::fmt::Debug;
use std::sync::Arc;

/// One cleaning step.
pub trait Repair: Debug + Send + Sync {
    /// Repairs a document. What was changed is told; a second call changes nothing.
    fn repair(&self, document: &mut Document, findings: &mut Findings);
}

/// Passes in the order in which they run.
#[derive(Debug, Default)]
pub struct Repairs(Vec<Arc<dyn Repair>>);

impl Repairs {
    /// No passes.
    #[must_use]
    pub fn none() -> Self {
        Self::default()
    }

    pub(crate) fn push(&mut self, pass: Arc<dyn Repair>) {
        self.0.push(pass);
    }

    pub(crate) fn append(&mut self, mut passes: Self) {
        self.0.append(&mut passes.0);
    }

    /// True when nothing would be done.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.0.is_empty()
    }

    /// The passes, in order.
    pub fn iter(&self) -> impl Iterator<Item = &dyn Repair> {
        self.0.iter().map(|pass| &**pass)
    }

    /// Runs all passes.
    pub fn run(&self, document: &mut Document, findings: &mut Findings) {
        self.0.iter().for_each(|pass| pass.repair(document, findings));
    }
}
