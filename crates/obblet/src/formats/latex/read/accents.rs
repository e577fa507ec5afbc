//! Accents and symbols of text, and their characters.

use std::collections::HashMap;
use std::sync::LazyLock;

/// Accent commands and the marks that join the letter before them. Sorted.
const MARKS: &[(&str, char)] = &[
    ("\"", '\u{308}'),
    ("'", '\u{301}'),
    (".", '\u{307}'),
    ("=", '\u{304}'),
    ("G", '\u{30F}'),
    ("H", '\u{30B}'),
    ("^", '\u{302}'),
    ("`", '\u{300}'),
    ("b", '\u{331}'),
    ("c", '\u{327}'),
    ("d", '\u{323}'),
    ("k", '\u{328}'),
    ("r", '\u{30A}'),
    ("t", '\u{361}'),
    ("u", '\u{306}'),
    ("v", '\u{30C}'),
    ("~", '\u{303}'),
];

/// Letters with a mark, as one character: base, mark, character.
const JOINED_LETTERS: &str = include_str!("accented.txt");

/// Commands that stand for characters. Sorted.
const SYMBOLS: &[(&str, &str)] = &[
    (" ", " "),
    ("#", "#"),
    ("$", "$"),
    ("%", "%"),
    ("&", "&"),
    (",", "\u{202F}"),
    ("-", "\u{ad}"),
    ("/", ""),
    (":", "\u{2005}"),
    (";", "\u{2004}"),
    ("@", ""),
    ("AA", "Å"),
    ("AE", "Æ"),
    ("AmS", "AMS"),
    ("AmSTeX", "AMS-TeX"),
    ("BibTeX", "BibTeX"),
    ("ConTeXt", "ConTeXt"),
    ("DH", "Ð"),
    ("DJ", "Đ"),
    ("IJ", "Ĳ"),
    ("L", "Ł"),
    ("LaTeX", "LaTeX"),
    ("LaTeXe", "LaTeX2ε"),
    ("LuaLaTeX", "LuaLaTeX"),
    ("LuaTeX", "LuaTeX"),
    ("LyX", "LyX"),
    ("MF", "METAFONT"),
    ("MP", "MetaPost"),
    ("NG", "Ŋ"),
    ("O", "Ø"),
    ("OE", "Œ"),
    ("P", "¶"),
    ("S", "§"),
    ("SS", "ẞ"),
    ("TH", "Þ"),
    ("TeX", "TeX"),
    ("TeXLive", "TeX Live"),
    ("XeLaTeX", "XeLaTeX"),
    ("XeTeX", "XeTeX"),
    ("_", "_"),
    ("aa", "å"),
    ("ae", "æ"),
    ("checkmark", "✓"),
    ("copyright", "©"),
    ("dag", "†"),
    ("ddag", "‡"),
    ("degree", "°"),
    ("dh", "ð"),
    ("dj", "đ"),
    ("dots", "…"),
    ("eTeX", "ε-TeX"),
    ("enspace", "\u{2002}"),
    ("euro", "€"),
    ("fg", " »"),
    ("glqq", "„"),
    ("grqq", "“"),
    ("guillemetleft", "«"),
    ("guillemetright", "»"),
    ("guillemotleft", "«"),
    ("guillemotright", "»"),
    ("guilsinglleft", "‹"),
    ("guilsinglright", "›"),
    ("i", "ı"),
    ("ij", "ĳ"),
    ("j", "ȷ"),
    ("l", "ł"),
    ("lbrack", "["),
    ("ldots", "…"),
    ("lq", "‘"),
    ("ng", "ŋ"),
    ("nobreakdash", ""),
    ("nobreakspace", "\u{a0}"),
    ("o", "ø"),
    ("oe", "œ"),
    ("og", "« "),
    ("pdfLaTeX", "pdfLaTeX"),
    ("pdfTeX", "pdfTeX"),
    ("pounds", "£"),
    ("qquad", "\u{2003}\u{2003}"),
    ("quad", "\u{2003}"),
    ("quotedblbase", "„"),
    ("quotesinglbase", "‚"),
    ("rbrack", "]"),
    ("replacementcharacter", "\u{FFFD}"),
    ("rq", "’"),
    ("slash", "/"),
    ("space", " "),
    ("ss", "ß"),
    ("textasciicircum", "^"),
    ("textasciigrave", "`"),
    ("textasciitilde", "~"),
    ("textasteriskcentered", "*"),
    ("textbackslash", "\\"),
    ("textbar", "|"),
    ("textbardbl", "‖"),
    ("textbraceleft", "{"),
    ("textbraceright", "}"),
    ("textbullet", "•"),
    ("textcelsius", "℃"),
    ("textcent", "¢"),
    ("textcopyright", "©"),
    ("textcurrency", "¤"),
    ("textdagger", "†"),
    ("textdaggerdbl", "‡"),
    ("textdegree", "°"),
    ("textdiv", "÷"),
    ("textdollar", "$"),
    ("textellipsis", "…"),
    ("textemdash", "—"),
    ("textendash", "–"),
    ("texteuro", "€"),
    ("textexclamdown", "¡"),
    ("textgreater", ">"),
    ("textless", "<"),
    ("textlnot", "¬"),
    ("textmu", "µ"),
    ("textnumero", "№"),
    ("textohm", "Ω"),
    ("textonehalf", "½"),
    ("textonequarter", "¼"),
    ("textonesuperior", "¹"),
    ("textordfeminine", "ª"),
    ("textordmasculine", "º"),
    ("textparagraph", "¶"),
    ("textperiodcentered", "·"),
    ("textperthousand", "‰"),
    ("textpm", "±"),
    ("textquestiondown", "¿"),
    ("textquotedbl", "\""),
    ("textquotedblleft", "“"),
    ("textquotedblright", "”"),
    ("textquoteleft", "‘"),
    ("textquoteright", "’"),
    ("textquotesingle", "'"),
    ("textregistered", "®"),
    ("textrightarrow", "→"),
    ("textsection", "§"),
    ("textsterling", "£"),
    ("textthreequarters", "¾"),
    ("textthreesuperior", "³"),
    ("texttimes", "×"),
    ("texttrademark", "™"),
    ("texttwosuperior", "²"),
    ("textunderscore", "_"),
    ("textvisiblespace", "␣"),
    ("textyen", "¥"),
    ("th", "þ"),
    ("thinspace", "\u{2009}"),
    ("{", "{"),
    ("}", "}"),
];

/// The mark that an accent command puts on a letter.
pub(super) fn mark(command: &str) -> Option<char> {
    let at = MARKS.binary_search_by_key(&command, |(known, _)| known).ok()?;
    MARKS.get(at).map(|(_, mark)| *mark)
}

/// The mark with this number in the fonts that TeX came with.
pub(super) fn by_number(number: i64) -> Option<char> {
    Some(match number {
        18 => '\u{300}',
        19 => '\u{301}',
        20 => '\u{30C}',
        21 => '\u{306}',
        22 => '\u{304}',
        23 => '\u{30A}',
        24 => '\u{327}',
        94 => '\u{302}',
        95 => '\u{307}',
        125 => '\u{30B}',
        126 => '\u{303}',
        127 => '\u{308}',
        _ => return None,
    })
}

/// An accent command that has no letter to put its mark on, as in `\~{}`.
pub(super) fn alone(mark: char) -> &'static str {
    match mark {
        '\u{302}' => "^",
        '\u{303}' => "~",
        '\u{300}' => "`",
        '\u{301}' => "´",
        '\u{308}' => "¨",
        '\u{304}' => "¯",
        '\u{327}' => "¸",
        '\u{306}' => "˘",
        '\u{30C}' => "ˇ",
        '\u{307}' => "˙",
        '\u{30A}' => "˚",
        '\u{30B}' => "˝",
        _ => "",
    }
}

/// What a command stands for.
pub(super) fn symbol(command: &str) -> Option<&'static str> {
    let at = SYMBOLS.binary_search_by_key(&command, |(known, _)| known).ok()?;
    SYMBOLS.get(at).map(|(_, shown)| *shown)
}

/// Characters that have commands of their own, the first of those that stand for one.
static COMMANDS: LazyLock<HashMap<char, &'static str>> = LazyLock::new(|| {
    let mut commands = HashMap::new();
    for &(command, shown) in SYMBOLS {
        let mut characters = shown.chars();
        // Short commands of one letter could be read as another word's.
        let is_good = !matches!(command, "" | "@" | "checkmark" | "degree" | "euro");
        if let (Some(character), None, true) = (characters.next(), characters.next(), is_good) {
            commands.entry(character).or_insert(command);
        }
    }
    commands
});

/// The command for a character, where it has one.
pub(crate) fn command_of(character: char) -> Option<&'static str> {
    COMMANDS.get(&character).copied()
}

/// The accent command of a mark that joins letters.
pub(crate) fn mark_command(mark: char) -> Option<&'static str> {
    MARKS.iter().find(|(_, known)| *known == mark).map(|(command, _)| *command)
}

/// Letters with marks that are one character.
struct Joined {
    by_parts: HashMap<(char, char), char>,
    /// The command of the mark, and the letter.
    parts: HashMap<char, (&'static str, char)>,
}

static JOINED: LazyLock<Joined> = LazyLock::new(|| {
    let mut joined = Joined { by_parts: HashMap::new(), parts: HashMap::new() };
    for line in JOINED_LETTERS.lines() {
        let mut characters = line.chars();
        let mut next = || characters.next();
        let (Some(base), Some(mark), Some(letter)) = (next(), next(), next()) else { continue };
        joined.by_parts.entry((base, mark)).or_insert(letter);
        if let Some(command) = mark_command(mark) {
            joined.parts.entry(letter).or_insert((command, base));
        }
    }
    joined
});

/// The accent command and the letter of a character that has both.
pub(crate) fn marked_of(character: char) -> Option<(&'static str, char)> {
    JOINED.parts.get(&character).copied()
}

/// A letter with a mark on it: one character where there is one.
pub(super) fn joined(base: &str, mark: char) -> String {
    let base = match base {
        "ı" => "i",
        "ȷ" => "j",
        other => other,
    };
    let mut letters = base.chars();
    let Some(first) = letters.next() else { return String::new() };
    let rest: String = letters.collect();
    let known = JOINED.by_parts.get(&(first, mark)).copied();
    match known {
        Some(character) => format!("{character}{rest}"),
        None => format!("{first}{mark}{rest}"),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn tables_are_sorted() {
        assert!(MARKS.is_sorted_by_key(|(command, _)| *command));
        assert!(SYMBOLS.is_sorted_by_key(|(command, _)| *command));
        assert_eq!(joined("e", '\u{301}'), "é");
        assert_eq!(joined("ı", '\u{308}'), "ï");
        assert_eq!(joined("q", '\u{301}'), "q\u{301}");
    }
}
