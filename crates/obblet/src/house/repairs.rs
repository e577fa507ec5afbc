//! Which repair passes a house runs.

use crate::format::Format;
use crate::repair::{
    BoldHeadings, DoubleBreaks, DoubleSpaces, DuplicateIds, EmptyParagraphs, FormattingRepair,
    HeadingLevels, InvisibleCharacters, LayoutTables, Ligatures, ManualBreaks, OneTopHeading,
    Punctuation, PunctuationForm, Redirects, Repair, Repairs, SceneBreaks, SignatureLines,
    SpacedPunctuation, TabTables, TrackingParameters, TypedLeaders, TypedLists, UnderlinedLinks,
    UnusedClasses,
};
use serde::Serialize;
use std::sync::Arc;

/// Which repair passes run, and on what.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct RepairSettings {
    /// The formats whose documents are repaired.
    pub sources: Vec<Format>,
    /// Byte order marks and other characters that nobody sees go.
    pub invisible_characters: bool,
    /// Ligatures such as ﬁ become their letters.
    pub ligatures: bool,
    /// Tables that only place things on the page become what they hold.
    pub layout_tables: bool,
    /// Two line breaks in a row part paragraphs.
    pub double_breaks: bool,
    /// Line breaks inside a sentence become spaces.
    pub manual_breaks: bool,
    /// Lines of underscores and the name below them become one paragraph.
    pub signature_lines: bool,
    /// Lines such as * * * become thematic breaks.
    pub scene_breaks: bool,
    /// Columns made of tabs or spaces become tables.
    pub tab_tables: bool,
    /// Typed leaders become an ellipsis, and long lines to fill in shorter.
    pub typed_leaders: bool,
    /// Paragraphs with typed bullets or numbers become lists.
    pub typed_lists: bool,
    /// Runs of spaces become one.
    pub double_spaces: bool,
    /// Spaces before commas, periods and the like go.
    pub spaced_punctuation: bool,
    /// Underlining of links goes.
    pub underlined_links: bool,
    /// Neighbours of one format become one; formats of nothing go.
    pub formatting: bool,
    /// Paragraphs with nothing to see go.
    pub empty_paragraphs: bool,
    /// Short bold paragraphs become headings.
    pub bold_headings: bool,
    /// Heading levels have no gaps.
    pub heading_levels: bool,
    /// One heading stands above all others.
    pub one_top_heading: bool,
    /// Links through pages that only send on lead straight to the target.
    pub redirects: bool,
    /// Parts of addresses that only tell where a reader came from go.
    pub tracking_parameters: bool,
    /// What stands around the text of a page goes: navigation, banners, dialogs, footers.
    pub page_frame: bool,
    /// Classes go that nothing in the page gives a meaning.
    pub unused_classes: bool,
    /// An id stands only once.
    pub duplicate_ids: bool,
}

impl RepairSettings {
    /// The passes that are on, in the order in which they help each other. `punctuation` is how
    /// it is spelled.
    pub(super) fn passes(&self, punctuation: PunctuationForm) -> Repairs {
        let mut passes = Repairs::none();
        let mut add = |is_on: bool, pass: Arc<dyn Repair>| {
            if is_on {
                passes.push(pass);
            }
        };
        add(self.invisible_characters, Arc::new(InvisibleCharacters));
        add(self.ligatures, Arc::new(Ligatures));
        // What was there for a class alone stands in the way of what follows.
        add(self.unused_classes, Arc::new(UnusedClasses));
        add(self.layout_tables, Arc::new(LayoutTables));
        add(self.double_breaks, Arc::new(DoubleBreaks));
        add(self.manual_breaks, Arc::new(ManualBreaks));
        add(self.signature_lines, Arc::new(SignatureLines));
        add(self.scene_breaks, Arc::new(SceneBreaks));
        add(self.typed_lists, Arc::new(TypedLists));
        add(self.tab_tables, Arc::new(TabTables));
        add(self.typed_leaders, Arc::new(TypedLeaders));
        let is_spelled = punctuation != PunctuationForm::Kept;
        add(is_spelled, Arc::new(Punctuation(punctuation)));
        add(self.underlined_links, Arc::new(UnderlinedLinks));
        add(self.duplicate_ids, Arc::new(DuplicateIds));
        add(self.formatting, Arc::new(FormattingRepair));
        add(self.double_spaces, Arc::new(DoubleSpaces));
        add(self.spaced_punctuation, Arc::new(SpacedPunctuation));
        add(self.empty_paragraphs, Arc::new(EmptyParagraphs));
        add(self.bold_headings, Arc::new(BoldHeadings));
        add(self.heading_levels, Arc::new(HeadingLevels));
        add(self.one_top_heading, Arc::new(OneTopHeading));
        add(self.redirects, Arc::new(Redirects));
        add(self.tracking_parameters, Arc::new(TrackingParameters));
        passes
    }
}

impl Default for RepairSettings {
    /// Repairs of HTML that no reader of the page would miss.
    fn default() -> Self {
        Self {
            sources: vec![Format::Html],
            invisible_characters: true,
            ligatures: true,
            layout_tables: true,
            double_breaks: true,
            manual_breaks: false,
            signature_lines: true,
            scene_breaks: true,
            tab_tables: true,
            typed_leaders: true,
            typed_lists: true,
            double_spaces: true,
            spaced_punctuation: true,
            underlined_links: true,
            formatting: true,
            empty_paragraphs: true,
            bold_headings: false,
            heading_levels: false,
            one_top_heading: false,
            redirects: true,
            tracking_parameters: true,
            page_frame: false,
            unused_classes: false,
            duplicate_ids: true,
        }
    }
}
