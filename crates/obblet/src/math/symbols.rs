//! Characters of formulas and their names in TeX (LaTeX2e, amssymb, mathtools).

use super::symbol_names::NAMES;
use super::symbol_table::SYMBOLS;

/// What a sign is to the signs around it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Class {
    /// A letter.
    Letter,
    /// A sign that stands for itself.
    Sign,
    /// Joins what stands before and behind it.
    Binary,
    /// Says how the two relate; arrows are among them.
    Relation,
    /// A sum, integral or the like.
    Large,
    /// A bracket.
    Bracket,
}

/// The character and class of a command, by its name without the backslash.
pub(crate) fn symbol(name: &str) -> Option<(char, Class)> {
    let at = SYMBOLS.binary_search_by_key(&name, |(known, ..)| known).ok()?;
    SYMBOLS.get(at).map(|(_, character, class)| (*character, *class))
}

/// The name of a character in TeX, without the backslash.
pub(crate) fn tex_name(character: char) -> Option<&'static str> {
    let at = NAMES.binary_search_by_key(&character, |(known, _)| *known).ok()?;
    NAMES.get(at).map(|(_, name)| *name)
}

/// What a character is to those around it.
pub(crate) fn class_of(character: char) -> Class {
    match character {
        '+' | '−' | '-' | '*' | '/' => Class::Binary,
        '=' | '<' | '>' | ':' => Class::Relation,
        '(' | ')' | '[' | ']' | '{' | '}' | '|' => Class::Bracket,
        _ => tex_name(character).and_then(symbol).map_or(Class::Sign, |(_, class)| class),
    }
}

/// Marks above letters: as a character of its own, joined to a letter, and in TeX.
pub(crate) const ACCENTS: [(char, char, &str); 12] = [
    ('\u{5E}', '\u{302}', "hat"),
    ('\u{2C7}', '\u{30C}', "check"),
    ('\u{7E}', '\u{303}', "tilde"),
    ('\u{B4}', '\u{301}', "acute"),
    ('\u{60}', '\u{300}', "grave"),
    ('\u{2D9}', '\u{307}', "dot"),
    ('\u{A8}', '\u{308}', "ddot"),
    ('\u{20DB}', '\u{20DB}', "dddot"),
    ('\u{2D8}', '\u{306}', "breve"),
    ('\u{AF}', '\u{304}', "bar"),
    ('\u{2192}', '\u{20D7}', "vec"),
    ('\u{2DA}', '\u{30A}', "mathring"),
];

/// Signs that span something: the sign, whether it stands below, and its name in TeX.
pub(crate) const SPANS: [(char, bool, &str); 16] = [
    ('\u{AF}', false, "overline"),
    ('_', true, "underline"),
    ('\u{23DE}', false, "overbrace"),
    ('\u{23DF}', true, "underbrace"),
    ('\u{23B4}', false, "overbracket"),
    ('\u{23B5}', true, "underbracket"),
    ('\u{23DC}', false, "overparen"),
    ('\u{23DD}', true, "underparen"),
    ('^', false, "widehat"),
    ('~', false, "widetilde"),
    ('→', false, "overrightarrow"),
    ('←', false, "overleftarrow"),
    ('↔', false, "overleftrightarrow"),
    ('→', true, "underrightarrow"),
    ('←', true, "underleftarrow"),
    ('↔', true, "underleftrightarrow"),
];

/// Arrows that grow with what stands above and below them.
pub(crate) const ARROWS: [(char, &str); 16] = [
    ('→', "xrightarrow"),
    ('←', "xleftarrow"),
    ('↔', "xleftrightarrow"),
    ('⇒', "xRightarrow"),
    ('⇐', "xLeftarrow"),
    ('⇔', "xLeftrightarrow"),
    ('↦', "xmapsto"),
    ('↪', "xhookrightarrow"),
    ('↩', "xhookleftarrow"),
    ('⇀', "xrightharpoonup"),
    ('⇁', "xrightharpoondown"),
    ('↼', "xleftharpoonup"),
    ('↽', "xleftharpoondown"),
    ('⇌', "xrightleftharpoons"),
    ('⇋', "xleftrightharpoons"),
    ('⟹', "xLongrightarrow"),
];

/// The names of functions that TeX knows by themselves, in the order of their bytes.
const FUNCTIONS: [&str; 34] = [
    "Pr", "arccos", "arcsin", "arctan", "arg", "cos", "cosh", "cot", "coth", "csc", "deg", "det",
    "dim", "exp", "gcd", "hom", "inf", "injlim", "ker", "lg", "lim", "liminf", "limsup", "ln",
    "log", "max", "min", "projlim", "sec", "sin", "sinh", "sup", "tan", "tanh",
];

/// Whether a command is the name of a function.
pub(crate) fn is_function(name: &str) -> bool {
    FUNCTIONS.binary_search(&name).is_ok()
}

/// Whether what is below and above a function stands there and not behind it.
pub(crate) fn has_limits(name: &str) -> bool {
    matches!(
        name,
        "lim"
            | "max"
            | "min"
            | "sup"
            | "inf"
            | "limsup"
            | "liminf"
            | "det"
            | "gcd"
            | "Pr"
            | "injlim"
            | "projlim"
    )
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn tables_are_sorted_and_agree() {
        assert!(SYMBOLS.is_sorted_by_key(|(name, ..)| *name));
        assert!(NAMES.is_sorted_by_key(|(character, _)| *character));
        assert!(FUNCTIONS.is_sorted());
        for (character, name) in NAMES {
            assert_eq!(symbol(name).map(|(known, _)| known), Some(*character), "{name}");
        }
        assert_eq!(tex_name('ρ'), Some("rho"));
        assert_eq!(tex_name('x'), None);
        assert_eq!(class_of('≤'), Class::Relation);
    }
}
