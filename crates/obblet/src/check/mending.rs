//! What a repair pass can mend: found by letting the pass run on a copy.

use super::Subject;
use crate::House;
use crate::document::Document;
use crate::findings::{Code, Findings};
use crate::repair::{
    BoldHeadings, DoubleBreaks, DoubleSpaces, EmptyParagraphs, FormattingRepair, HeadingLevels,
    InvisibleCharacters, LayoutTables, Ligatures, Punctuation, PunctuationForm, Repair, SceneBreaks,
    SpacedPunctuation, TabTables, TrackingParameters, TypedLeaders, TypedLists, UnderlinedLinks,
};

/// The passes in the order in which they help each other, with the code of what each finds.
fn passes(house: &House) -> Vec<(Box<dyn Repair>, Code)> {
    let mut passes: Vec<(Box<dyn Repair>, Code)> = vec![
        (Box::new(InvisibleCharacters), Code::CharactersInvisible),
        (Box::new(Ligatures), Code::LigaturesTyped),
        (Box::new(LayoutTables), Code::TableForLayout),
        (Box::new(DoubleBreaks), Code::BreaksTyped),
        (Box::new(SceneBreaks), Code::SceneBreakTyped),
        (Box::new(TypedLists), Code::ListTyped),
        (Box::new(TabTables), Code::TableTyped),
        (Box::new(TypedLeaders), Code::LeadersTyped),
    ];
    let form = house.characters.punctuation;
    if form != PunctuationForm::Kept {
        passes.push((Box::new(Punctuation(form)), Code::QuotesUnlike));
    }
    passes.extend([
        (Box::new(UnderlinedLinks) as Box<dyn Repair>, Code::FormattingEmpty),
        (Box::new(FormattingRepair), Code::FormattingEmpty),
        (Box::new(DoubleSpaces), Code::SpacesDoubled),
        (Box::new(SpacedPunctuation), Code::SpaceBeforePunctuation),
        (Box::new(EmptyParagraphs), Code::ParagraphEmpty),
        (Box::new(BoldHeadings), Code::HeadingTyped),
        (Box::new(TrackingParameters), Code::AddressTracked),
    ]);
    passes
}

impl Subject<'_> {
    pub(super) fn mendable(&mut self) {
        let mut copy = self.document.clone();
        for (pass, code) in passes(self.house) {
            let mut found = Findings::new();
            pass.repair(&mut copy, &mut found);
            for mut finding in found.into_vec() {
                finding.code = code;
                self.findings.take(finding);
            }
        }
    }
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
    let levels: (Box<dyn Repair>, Code) = (Box::new(HeadingLevels), Code::HeadingLevelJump);
    for (pass, code) in passes(house).into_iter().chain([levels]) {
        let mut found = Findings::new();
        pass.repair(document, &mut found);
        for mut finding in found.into_vec() {
            finding.code = code;
            mended.take(finding);
        }
    }
    mended
}
