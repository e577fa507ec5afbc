//! What a repair pass can mend: found by letting the pass run on a copy.

use super::Subject;
use crate::document::{
    Block, BlockKind, CompactString, Document, GroupRole, Place, walk_blocks_mut,
};
use crate::findings::{Code, Finding, Findings};
use crate::house::House;
use crate::repair::{
    BoldHeadings, DoubleBreaks, DoubleSpaces, EmptyParagraphs, FormattingRepair, HeadingLevels,
    InvisibleCharacters, LayoutTables, Ligatures, Punctuation, PunctuationForm, Repair,
    SceneBreaks, SpacedPunctuation, TabTables, TrackingParameters, TypedLeaders, TypedLists,
    UnderlinedLinks,
};
use std::collections::{HashSet, VecDeque};
use std::sync::Arc;

/// The passes in the order in which they help each other, with the code of what each finds.
fn passes(house: &House) -> Vec<(Arc<dyn Repair>, Code)> {
    let mut passes: Vec<(Arc<dyn Repair>, Code)> = vec![
        (Arc::new(InvisibleCharacters), Code::CharactersInvisible),
        (Arc::new(Ligatures), Code::LigaturesTyped),
        (Arc::new(LayoutTables), Code::TableForLayout),
        (Arc::new(DoubleBreaks), Code::BreaksTyped),
        (Arc::new(SceneBreaks), Code::SceneBreakTyped),
        (Arc::new(TypedLists), Code::ListTyped),
        (Arc::new(TabTables), Code::TableTyped),
        (Arc::new(TypedLeaders), Code::LeadersTyped),
    ];
    let form = house.characters.punctuation;
    if form != PunctuationForm::Kept {
        passes.push((Arc::new(Punctuation(form)), Code::QuotesUnlike));
    }
    passes.extend([
        (Arc::new(UnderlinedLinks) as Arc<dyn Repair>, Code::FormattingEmpty),
        (Arc::new(FormattingRepair), Code::FormattingEmpty),
        (Arc::new(DoubleSpaces), Code::SpacesDoubled),
        (Arc::new(SpacedPunctuation), Code::SpaceBeforePunctuation),
        (Arc::new(EmptyParagraphs), Code::ParagraphEmpty),
        (Arc::new(BoldHeadings), Code::HeadingTyped),
        (Arc::new(TrackingParameters), Code::AddressTracked),
    ]);
    passes
}

impl Subject<'_> {
    pub(super) fn mendable(&mut self) {
        let mut copy = self.document.clone();
        take_drawers(&mut copy);
        let mut mendable = Vec::new();
        for (pass, code) in passes(self.house) {
            let mut found = Findings::new();
            pass.repair(&mut copy, &mut found);
            mendable
                .extend(found.into_vec().into_iter().map(|finding| Finding { code, ..finding }));
        }
        let places_of = |findings: &[Finding], code: Code| -> HashSet<Option<Place>> {
            let of_code = findings.iter().filter(|finding| finding.code == code);
            of_code.map(|finding| finding.place).collect()
        };
        // One fault is told once: an empty paragraph of spaces has no double spaces, and an empty
        // heading is no empty paragraph.
        let empty = places_of(&mendable, Code::ParagraphEmpty);
        let headings: Vec<Finding> = self.findings.iter().cloned().collect();
        let headings = places_of(&headings, Code::HeadingEmpty);
        for finding in mendable {
            let is_told = match finding.code {
                Code::SpacesDoubled => empty.contains(&finding.place),
                Code::ParagraphEmpty => headings.contains(&finding.place),
                _ => false,
            };
            if !is_told {
                self.findings.take(Finding { subject: subject_of(&finding), ..finding });
            }
        }
    }
}

/// Takes away what drawers hold: what a program has logged is nobody's spelling.
fn take_drawers(document: &mut Document) -> VecDeque<Vec<Block>> {
    let mut taken = VecDeque::new();
    each_drawer(document, |content| taken.push_back(std::mem::take(content)));
    taken
}

fn each_drawer(document: &mut Document, mut change: impl FnMut(&mut Vec<Block>)) {
    walk_blocks_mut(&mut document.blocks, |blocks| {
        for block in blocks {
            if let BlockKind::Group(group) = &mut block.kind
                && matches!(group.role, GroupRole::Drawer(_))
            {
                change(&mut group.content);
            }
        }
    });
}

/// The words of a heading or the like; what passes call what they did says nothing here.
fn subject_of(finding: &Finding) -> Option<CompactString> {
    finding.subject.clone().filter(|_| finding.code.message().contains("{}"))
}

/// Mends in a document what a repair pass can mend: what [`check`](super::check) finds with the codes
/// of the passes, and gaps between the levels of headings. Gives what was mended.
///
/// ```
/// use obblet::document::{Document, build::*};
/// use obblet::{House, check::mend, findings::Code};
/// let mut document = Document::of(vec![paragraph("High  water")]);
/// let mended = mend(&mut document, &House::default());
/// assert_eq!(document, Document::of(vec![paragraph("High water")]));
/// assert_eq!(mended.iter().next().map(|finding| finding.code), Some(Code::SpacesDoubled));
/// ```
pub fn mend(document: &mut Document, house: &House) -> Findings {
    let mut mended = Findings::new();
    let mut drawers = take_drawers(document);
    let levels: (Arc<dyn Repair>, Code) = (Arc::new(HeadingLevels), Code::HeadingLevelJump);
    for (pass, code) in passes(house).into_iter().chain([levels]) {
        let mut found = Findings::new();
        pass.repair(document, &mut found);
        for mut finding in found.into_vec() {
            finding.code = code;
            mended.take(finding);
        }
    }
    // No pass takes a group away or moves it.
    each_drawer(document, |content| {
        if content.is_empty() {
            *content = drawers.pop_front().unwrap_or_default();
        }
    });
    mended
}
