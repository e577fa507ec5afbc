//! Letters of other styles have characters of their own (MathML Core, 4.2; Unicode block 1D400).

use crate::math::LetterStyle;

/// The first capital, small letter, digit, Greek capital and small Greek letter of a style; 0 where
/// it has none.
const BLOCKS: [(LetterStyle, [u32; 5]); 8] = [
    (LetterStyle::Bold, [0x1D400, 0x1D41A, 0x1D7CE, 0x1D6A8, 0x1D6C2]),
    (LetterStyle::Slanted, [0x1D434, 0x1D44E, 0, 0x1D6E2, 0x1D6FC]),
    (LetterStyle::BoldSlanted, [0x1D468, 0x1D482, 0, 0x1D71C, 0x1D736]),
    (LetterStyle::Script, [0x1D49C, 0x1D4B6, 0, 0, 0]),
    (LetterStyle::Fraktur, [0x1D504, 0x1D51E, 0, 0, 0]),
    (LetterStyle::DoubleStruck, [0x1D538, 0x1D552, 0x1D7D8, 0, 0]),
    (LetterStyle::SansSerif, [0x1D5A0, 0x1D5BA, 0x1D7E2, 0, 0]),
    (LetterStyle::Monospace, [0x1D670, 0x1D68A, 0x1D7F6, 0, 0]),
];

/// Letters that were characters before the block was made.
const EARLIER: [(LetterStyle, char, char); 24] = [
    (LetterStyle::Slanted, 'h', 'ℎ'),
    (LetterStyle::Script, 'B', 'ℬ'),
    (LetterStyle::Script, 'E', 'ℰ'),
    (LetterStyle::Script, 'F', 'ℱ'),
    (LetterStyle::Script, 'H', 'ℋ'),
    (LetterStyle::Script, 'I', 'ℐ'),
    (LetterStyle::Script, 'L', 'ℒ'),
    (LetterStyle::Script, 'M', 'ℳ'),
    (LetterStyle::Script, 'R', 'ℛ'),
    (LetterStyle::Script, 'e', 'ℯ'),
    (LetterStyle::Script, 'g', 'ℊ'),
    (LetterStyle::Script, 'o', 'ℴ'),
    (LetterStyle::Fraktur, 'C', 'ℭ'),
    (LetterStyle::Fraktur, 'H', 'ℌ'),
    (LetterStyle::Fraktur, 'I', 'ℑ'),
    (LetterStyle::Fraktur, 'R', 'ℜ'),
    (LetterStyle::Fraktur, 'Z', 'ℨ'),
    (LetterStyle::DoubleStruck, 'C', 'ℂ'),
    (LetterStyle::DoubleStruck, 'H', 'ℍ'),
    (LetterStyle::DoubleStruck, 'N', 'ℕ'),
    (LetterStyle::DoubleStruck, 'P', 'ℙ'),
    (LetterStyle::DoubleStruck, 'Q', 'ℚ'),
    (LetterStyle::DoubleStruck, 'R', 'ℝ'),
    (LetterStyle::DoubleStruck, 'Z', 'ℤ'),
];

/// Greek letters of other shapes, in the order they follow the small ones.
const VARIANTS: [char; 7] = ['∂', 'ϵ', 'ϑ', 'ϰ', 'ϕ', 'ϱ', 'ϖ'];

/// Says which of the two scripts is meant.
const ROUND: char = '\u{FE01}';

/// Plain letters, as a style sets them.
pub(crate) fn styled_text(text: &str, style: LetterStyle) -> String {
    let mut styled = String::new();
    for character in text.chars() {
        match style {
            LetterStyle::RoundScript => {
                styled.push(styled_letter(character, LetterStyle::Script));
                styled.push(ROUND);
            }
            style => styled.push(styled_letter(character, style)),
        }
    }
    styled
}

fn styled_letter(character: char, style: LetterStyle) -> char {
    let earlier = EARLIER.iter().find(|(s, plain, _)| *s == style && *plain == character);
    if let Some((.., known)) = earlier {
        return *known;
    }
    let Some((_, blocks)) = BLOCKS.iter().find(|(known, _)| *known == style) else {
        return character;
    };
    let shifted = |first: u32, from: char| {
        let found = char::from_u32(first + u32::from(character) - u32::from(from));
        found.filter(|_| first > 0).unwrap_or(character)
    };
    let [capitals, small, digits, greek_capitals, greek] = *blocks;
    match character {
        'A'..='Z' => shifted(capitals, 'A'),
        'a'..='z' => shifted(small, 'a'),
        '0'..='9' => shifted(digits, '0'),
        'Α'..='Ω' => shifted(greek_capitals, 'Α'),
        'α'..='ω' => shifted(greek, 'α'),
        _ => match VARIANTS.iter().position(|known| *known == character) {
            Some(at) if greek > 0 => char::from_u32(greek + 25 + at as u32).unwrap_or(character),
            _ => character,
        },
    }
}

/// The plain letters of a text, and the style that all of them have.
pub(super) fn plain_text(text: &str) -> Option<(String, LetterStyle)> {
    let mut plain = String::new();
    let mut style = None;
    let is_round = text.contains(ROUND);
    for character in text.chars().filter(|c| *c != ROUND) {
        let (letter, its_style) = plain_letter(character)?;
        if style.is_some_and(|known| known != its_style) {
            return None;
        }
        style = Some(its_style);
        plain.push(letter);
    }
    let style = style?;
    Some((plain, if is_round { LetterStyle::RoundScript } else { style }))
}

fn plain_letter(character: char) -> Option<(char, LetterStyle)> {
    if let Some((style, plain, _)) = EARLIER.iter().find(|(.., known)| *known == character) {
        return Some((*plain, *style));
    }
    let code = u32::from(character);
    if !(0x1D400..0x1D800).contains(&code) {
        return None;
    }
    let starts = [('A', 26), ('a', 26), ('0', 10), ('Α', 25), ('α', 32)];
    for (style, blocks) in &BLOCKS {
        for (first, (from, length)) in blocks.iter().zip(starts) {
            let Some(at) = code.checked_sub(*first).filter(|at| *first > 0 && *at < length) else {
                continue;
            };
            let plain = match (from, at.checked_sub(25)) {
                ('α', Some(variant)) => VARIANTS.get(variant as usize).copied(),
                _ => char::from_u32(u32::from(from) + at),
            };
            return plain.map(|plain| (plain, *style));
        }
    }
    None
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn letters_of_every_style_are_known_again() {
        for (style, _) in BLOCKS {
            for text in ["A", "Z", "a", "hz", "BEFHILMR", "CHNPQRZ", "7", "Γ", "αω", "ϕ"] {
                let styled = styled_text(text, style);
                if styled != text {
                    assert_eq!(plain_text(&styled), Some((text.into(), style)), "{style:?}");
                }
            }
        }
        let round = styled_text("L", LetterStyle::RoundScript);
        assert_eq!(plain_text(&round), Some(("L".into(), LetterStyle::RoundScript)));
        assert_eq!(plain_text("x"), None);
    }
}
