//! What single commands stand for besides signs: space, brackets, classes, letter styles.

use crate::math::{BracketSide, LetterStyle, Overlap, SpacingClass, Strike};

/// Room that has a command of its own, in hundredths of a unit. The first name is written.
pub(super) const SPACES: [(&str, i32); 15] = [
    (",", 300),
    (":", 400),
    (";", 500),
    ("!", -300),
    ("quad", 1800),
    ("qquad", 3600),
    ("enspace", 900),
    ("thinspace", 300),
    ("medspace", 400),
    (">", 400),
    ("thickspace", 500),
    ("negthinspace", -300),
    ("negmedspace", -400),
    ("negthickspace", -500),
    ("hfill", 1800),
];

/// Commands that set letters.
pub(super) const STYLES: [(&str, LetterStyle); 14] = [
    ("mathrm", LetterStyle::Upright),
    ("mathit", LetterStyle::Slanted),
    ("mathbf", LetterStyle::Bold),
    ("boldsymbol", LetterStyle::BoldSlanted),
    ("mathbb", LetterStyle::DoubleStruck),
    ("mathcal", LetterStyle::Script),
    ("mathscr", LetterStyle::RoundScript),
    ("mathfrak", LetterStyle::Fraktur),
    ("mathsf", LetterStyle::SansSerif),
    ("mathtt", LetterStyle::Monospace),
    ("bm", LetterStyle::BoldSlanted),
    ("pmb", LetterStyle::BoldSlanted),
    ("mathnormal", LetterStyle::Usual),
    ("Bbb", LetterStyle::DoubleStruck),
];

/// Commands that set what is left of their group.
pub(super) const SWITCHES: [(&str, LetterStyle); 14] = [
    ("rm", LetterStyle::Upright),
    ("bf", LetterStyle::Bold),
    ("it", LetterStyle::Slanted),
    ("cal", LetterStyle::Script),
    ("sf", LetterStyle::SansSerif),
    ("tt", LetterStyle::Monospace),
    ("boldmath", LetterStyle::BoldSlanted),
    ("rmfamily", LetterStyle::Upright),
    ("bfseries", LetterStyle::Bold),
    ("itshape", LetterStyle::Slanted),
    ("slshape", LetterStyle::Slanted),
    ("em", LetterStyle::Slanted),
    ("sffamily", LetterStyle::SansSerif),
    ("ttfamily", LetterStyle::Monospace),
];

/// Boxes around words, with how many groups stand before the words: a height, a width, colours.
pub(super) const BOXES: [(&str, usize); 5] =
    [("raisebox", 1), ("makebox", 0), ("parbox", 1), ("colorbox", 1), ("fcolorbox", 2)];

/// What says something of sizes and lines of text, and nothing in a formula.
pub(super) const OF_TEXT: [&str; 16] = [
    "tiny",
    "scriptsize",
    "footnotesize",
    "small",
    "normalsize",
    "large",
    "Large",
    "LARGE",
    "huge",
    "Huge",
    "xspace",
    "hss",
    "vfill",
    "upshape",
    "mdseries",
    "normalfont",
];

/// Commands that set words.
pub(super) const TEXT_STYLES: [(&str, LetterStyle); 14] = [
    ("text", LetterStyle::Usual),
    ("textrm", LetterStyle::Upright),
    ("textit", LetterStyle::Slanted),
    ("textbf", LetterStyle::Bold),
    ("textsf", LetterStyle::SansSerif),
    ("texttt", LetterStyle::Monospace),
    ("mbox", LetterStyle::Usual),
    ("hbox", LetterStyle::Usual),
    ("textnormal", LetterStyle::Usual),
    ("textup", LetterStyle::Upright),
    ("emph", LetterStyle::Slanted),
    ("textsl", LetterStyle::Slanted),
    ("textsc", LetterStyle::Usual),
    ("textmd", LetterStyle::Usual),
];

/// Brackets of stated sizes: the command without its side.
pub(super) const SIZES: [(&str, u8); 4] = [("big", 1), ("Big", 2), ("bigg", 3), ("Bigg", 4)];

/// Commands that give a class.
pub(super) const CLASSES: [(&str, SpacingClass); 8] = [
    ("mathord", SpacingClass::Ordinary),
    ("mathop", SpacingClass::Operator),
    ("mathbin", SpacingClass::Binary),
    ("mathrel", SpacingClass::Relation),
    ("mathopen", SpacingClass::Open),
    ("mathclose", SpacingClass::Close),
    ("mathpunct", SpacingClass::Punctuation),
    ("mathinner", SpacingClass::Inner),
];

/// Brackets that say which side they are on.
pub(super) const SIDED: [(&str, &str, SpacingClass); 5] = [
    ("lvert", "|", SpacingClass::Open),
    ("rvert", "|", SpacingClass::Close),
    ("lVert", "‖", SpacingClass::Open),
    ("rVert", "‖", SpacingClass::Close),
    ("colon", ":", SpacingClass::Punctuation),
];

pub(super) const STRIKES: [(&str, Strike); 5] = [
    ("cancel", Strike::Rising),
    ("bcancel", Strike::Falling),
    ("xcancel", Strike::Crossed),
    ("sout", Strike::Level),
    ("hcancel", Strike::Level),
];

pub(super) const OVERLAPS: [(&str, Overlap); 6] = [
    ("smash", Overlap::Height),
    ("mathllap", Overlap::Left),
    ("mathrlap", Overlap::Right),
    ("mathclap", Overlap::Centre),
    ("llap", Overlap::Left),
    ("rlap", Overlap::Right),
];

/// What a command stands for in a table.
pub(super) fn meaning<T: Copy>(table: &[(&str, T)], name: &str) -> Option<T> {
    table.iter().find(|(known, _)| *known == name).map(|(_, meaning)| *meaning)
}

/// The first command that stands for something in a table.
pub(super) fn name_of<T: PartialEq>(
    table: &[(&'static str, T)],
    meaning: &T,
) -> Option<&'static str> {
    table.iter().find(|(_, known)| known == meaning).map(|(name, _)| *name)
}

/// A command for a bracket of a stated size, taken apart.
pub(super) fn sized(name: &str) -> Option<(u8, BracketSide)> {
    if let Some(size) = meaning(&SIZES, name) {
        return Some((size, BracketSide::Unstated));
    }
    let side = match name.chars().last()? {
        'l' => BracketSide::Open,
        'r' => BracketSide::Close,
        'm' => BracketSide::Middle,
        _ => return None,
    };
    let stem = name.get(..name.len() - 1)?;
    meaning(&SIZES, stem).map(|size| (size, side))
}

/// What `\not` makes of a relation.
pub(super) fn negated(sign: char) -> String {
    const JOINED: [(char, char); 13] = [
        ('=', '≠'),
        ('∈', '∉'),
        ('∋', '∌'),
        ('⊂', '⊄'),
        ('⊃', '⊅'),
        ('⊆', '⊈'),
        ('⊇', '⊉'),
        ('≤', '≰'),
        ('≥', '≱'),
        ('<', '≮'),
        ('>', '≯'),
        ('∣', '∤'),
        ('∃', '∄'),
    ];
    let known = JOINED.iter().find(|(plain, _)| *plain == sign);
    known.map_or_else(|| format!("{sign}\u{338}"), |(_, joined)| joined.to_string())
}
