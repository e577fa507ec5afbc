//! Looks that are left out: counted by what they are about, so that one finding tells.

use std::collections::BTreeMap;

/// How often each sort of look was met.
#[derive(Debug, Clone, Default)]
pub(super) struct LooksCount(BTreeMap<&'static str, u32>);

impl LooksCount {
    pub(super) fn count(&mut self, sort: &'static str) {
        *self.0.entry(sort).or_default() += 1;
    }

    /// Counts all that another one has counted.
    pub(super) fn add(&mut self, other: &Self) {
        for (sort, count) in &other.0 {
            *self.0.entry(sort).or_default() += count;
        }
    }

    /// Counts a property by its element name. Gives false when the name is not known at all.
    pub(super) fn count_property(&mut self, element: &str) -> bool {
        let Ok(index) = PROPERTIES.binary_search_by(|property| property.0.cmp(element)) else {
            return false;
        };
        if let Some(sort) = PROPERTIES.get(index).and_then(|property| property.1) {
            self.count(sort);
        }
        true
    }

    /// `colours (3), fonts (12)`
    pub(super) fn summary(&self) -> Option<String> {
        let parts: Vec<String> = self.0.iter().map(|(sort, n)| format!("{sort} ({n})")).collect();
        (!parts.is_empty()).then(|| parts.join(", "))
    }
}

/// Whether an element of this name is one of these properties.
pub(super) fn is_property(element: &str) -> bool {
    PROPERTIES.binary_search_by(|property| property.0.cmp(element)).is_ok()
}

/// Properties of runs, paragraphs, tables, rows and cells that carry looks, sorted, each with what
/// it is about. `None`: says nothing to a reader of the text (proofing, revision save marks, the
/// complex-script twin of another property).
const PROPERTIES: &[(&str, Option<&str>)] = &[
    ("adjustRightInd", None),
    ("autoSpaceDE", None),
    ("autoSpaceDN", None),
    ("bCs", None),
    ("bdr", Some("borders")),
    ("bidiVisual", Some("table direction")),
    ("cantSplit", None),
    ("cnfStyle", None),
    ("color", Some("colours")),
    ("contextualSpacing", Some("spacing")),
    ("cs", None),
    ("divId", None),
    ("eastAsianLayout", Some("East Asian layout")),
    ("effect", Some("text effects")),
    ("em", Some("emphasis marks")),
    ("emboss", Some("text effects")),
    ("fitText", Some("spacing")),
    ("framePr", Some("frames")),
    ("hideMark", None),
    ("hpsBaseText", None),
    ("iCs", None),
    ("imprint", Some("text effects")),
    ("ind", Some("indents")),
    ("jc", Some("alignment")),
    ("keepLines", None),
    ("keepNext", None),
    ("kern", None),
    ("kinsoku", None),
    ("lang", None),
    ("ligatures", None),
    ("mirrorIndents", Some("indents")),
    ("noProof", None),
    ("noWrap", None),
    ("outline", Some("text effects")),
    ("overflowPunct", None),
    ("pBdr", Some("borders")),
    ("pageBreakBefore", Some("page breaks")),
    ("position", Some("raised or lowered text")),
    ("rFonts", Some("fonts")),
    ("rtl", None),
    ("shadow", Some("text effects")),
    ("shd", Some("shading")),
    ("snapToGrid", None),
    ("spacing", Some("spacing")),
    ("specVanish", None),
    ("suppressAutoHyphens", None),
    ("suppressLineNumbers", None),
    ("suppressOverlap", None),
    ("sz", Some("sizes")),
    ("szCs", None),
    ("tabs", Some("tab stops")),
    ("tblBorders", Some("borders")),
    ("tblCellMar", Some("cell margins")),
    ("tblCellSpacing", Some("spacing")),
    ("tblInd", Some("indents")),
    ("tblLayout", None),
    ("tblOverlap", None),
    ("tblStyleColBandSize", None),
    ("tblStyleRowBandSize", None),
    ("tblW", Some("table widths")),
    ("tblpPr", Some("table positions")),
    ("tcBorders", Some("borders")),
    ("tcFitText", None),
    ("tcMar", Some("cell margins")),
    ("textAlignment", Some("alignment")),
    ("textDirection", Some("text direction")),
    ("textboxTightWrap", None),
    ("topLinePunct", None),
    ("trHeight", Some("row heights")),
    ("vAlign", None),
    ("w", Some("stretched text")),
    ("wAfter", None),
    ("wBefore", None),
    ("webHidden", None),
    ("widowControl", None),
    ("wordWrap", None),
];

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn properties_are_sorted() {
        assert!(PROPERTIES.is_sorted_by_key(|property| property.0));
    }
}
