//! Fonts whose characters are pictures: what each is in Unicode.

/// A font whose characters have other meanings than their codes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum SymbolFont {
    Symbol,
    Wingdings,
    Wingdings2,
    Wingdings3,
    Webdings,
}

/// Where a character has no equal in Unicode that readers' fonts are likely to have.
const NONE: char = '\u{FFFD}';

/// From 0x20 on.
const SYMBOL_LOW: &str = " !∀#∃%&∋()∗+,−./0123456789:;<=>?≅ΑΒΧΔΕΦΓΗΙϑΚΛΜΝΟΠΘΡΣΤΥςΩΞΨΖ[∴]⊥_‾αβχδεφγηιϕκλμνοπθρστυϖωξψζ{|}∼";
/// From 0xA0 on.
const SYMBOL_HIGH: &str = "€ϒ′≤⁄∞ƒ♣♦♥♠↔←↑→↓°±″≥×∝∂•÷≠≡≈…│─↵ℵℑℜ℘⊗⊕∅∩∪⊃⊇⊄⊂⊆∈∉∠∇®©™∏√⋅¬∧∨⇔⇐⇑⇒⇓◊⟨®©™∑⎛⎜⎝⎡⎢⎣⎧⎨⎩⎪\u{FFFD}⟩∫⌠⎮⌡⎞⎟⎠⎤⎥⎦⎫⎬⎭";
/// From 0x20 on.
const WINGDINGS_LOW: &str = " ✏✂✁👓🔔📖🕯☎✆✉✉📪📫📬📭📁📂📄📄📄🗄⌛⌨🖱🖲💻🖴💾💾✇✍✍✌👌👍👎☜☞☝☟✋☺😐☹💣☠⚐⚑✈☼💧❄✝✞✝✠✡☪☯ॐ☸♈♉♊♋♌♍♎♏♐♑♒♓&&●❍■□▭❑❒⬧⧫◆❖⬥⌧⍓⌘❀✿❝❞\u{FFFD}⓪①②③④⑤⑥⑦⑧⑨⑩⓿❶❷❸❹❺❻❼❽❾❿❧❧❧❧❦❦❦❦·•";
/// From 0xA0 on.
const WINGDINGS_HIGH: &str = "▪○◉◉◎◉○▪◻▴✦★✶✴✹✵⌖⌖⟡⌑✧✪✰🕐🕑🕒🕓🕔🕕🕖🕗🕘🕙🕚🕛↲↳↰↱↴↵↰↱❦❦❧❧❧❧❧❧❧❧⌫⌦⮘➢⮙⮛➲➲⮉⮋←→↑↓↖↗↙↘⬅➔⬆⬇⬉⬈⬋⬊⇦⇨⇧⇩⬄⇳⬁⬀⬃⬂▭▫✗✓☒☑";

/// Single characters of the other fonts: code and character, sorted by code.
const WINGDINGS_2: &[(u32, char)] = &[
    (0x4F, '✗'),
    (0x50, '✓'),
    (0x51, '☒'),
    (0x52, '☑'),
    (0x53, '☒'),
    (0x54, '☒'),
    (0x97, '●'),
    (0x98, '●'),
    (0x9F, '■'),
    (0xA0, '■'),
    (0xA1, '■'),
    (0xA2, '□'),
    (0xA3, '☐'),
];
const WINGDINGS_3: &[(u32, char)] = &[
    (0x66, '←'),
    (0x67, '→'),
    (0x68, '↑'),
    (0x69, '↓'),
    (0x6A, '↖'),
    (0x6B, '↗'),
    (0x6C, '↙'),
    (0x6D, '↘'),
    (0x70, '▲'),
    (0x71, '▼'),
    (0x72, '△'),
    (0x73, '▽'),
    (0x74, '◀'),
    (0x75, '▶'),
    (0x76, '◁'),
    (0x77, '▷'),
    (0x78, '◣'),
    (0x79, '◢'),
    (0x7A, '◤'),
    (0x7B, '◥'),
    (0x7D, '▶'),
];
const WEBDINGS: &[(u32, char)] = &[
    (0x33, '◀'),
    (0x34, '▶'),
    (0x35, '▲'),
    (0x36, '▼'),
    (0x3D, '■'),
    (0x59, '♥'),
    (0x61, '✓'),
    (0x63, '□'),
    (0x67, '■'),
    (0x69, 'ℹ'),
    (0x6E, '●'),
    (0x72, '✗'),
    (0x73, '❓'),
];

impl SymbolFont {
    /// The font of this name, if it is one of symbols.
    pub(super) fn of(name: &str) -> Option<Self> {
        const FONTS: [(&str, SymbolFont); 5] = [
            ("symbol", SymbolFont::Symbol),
            ("wingdings", SymbolFont::Wingdings),
            ("wingdings 2", SymbolFont::Wingdings2),
            ("wingdings 3", SymbolFont::Wingdings3),
            ("webdings", SymbolFont::Webdings),
        ];
        let name = name.trim();
        FONTS.iter().find(|(font, _)| name.eq_ignore_ascii_case(font)).map(|(_, font)| *font)
    }

    /// The character with this code; codes of the private use area from F000 on count from 0.
    pub(super) fn character(self, code: u32) -> Option<char> {
        let code = if (0xF000..=0xF0FF).contains(&code) { code - 0xF000 } else { code };
        let of_row = |low: &str, high: &str| {
            let (row, first) = if code >= 0xA0 { (high, 0xA0) } else { (low, 0x20) };
            row.chars().nth(code.checked_sub(first)? as usize)
        };
        let of_pairs = |pairs: &[(u32, char)]| {
            pairs.iter().find(|(number, _)| *number == code).map(|(_, character)| *character)
        };
        let found = match self {
            Self::Symbol => of_row(SYMBOL_LOW, SYMBOL_HIGH),
            Self::Wingdings => of_row(WINGDINGS_LOW, WINGDINGS_HIGH),
            Self::Wingdings2 => circled(code, 0x69, 0x74).or_else(|| of_pairs(WINGDINGS_2)),
            Self::Wingdings3 => of_pairs(WINGDINGS_3),
            Self::Webdings => of_pairs(WEBDINGS),
        };
        found.filter(|character| *character != NONE).or((code == 0x20).then_some(' '))
    }

    /// A text set in this font. Gives the codes that have no character, too.
    pub(super) fn text(self, text: &str) -> (String, Vec<u32>) {
        let mut missing = Vec::new();
        let converted = text.chars().map(|character| {
            let code = u32::from(character);
            // What is no code of such a font was shown in another one.
            if code < 0x20 || (0x100..0xF000).contains(&code) || code > 0xF0FF {
                return character;
            }
            self.character(code).unwrap_or_else(|| {
                missing.push(code);
                NONE
            })
        });
        (converted.collect(), missing)
    }

    pub(super) fn name(self) -> &'static str {
        match self {
            Self::Symbol => "Symbol",
            Self::Wingdings => "Wingdings",
            Self::Wingdings2 => "Wingdings 2",
            Self::Wingdings3 => "Wingdings 3",
            Self::Webdings => "Webdings",
        }
    }
}

/// Digits in light and in dark circles, each from zero on.
fn circled(code: u32, light: u32, dark: u32) -> Option<char> {
    match code {
        _ if code == light => Some('⓪'),
        _ if code == dark => Some('⓿'),
        _ if (light..dark).contains(&code) => char::from_u32(0x2460 + code - light - 1),
        _ if (dark..dark + 11).contains(&code) => char::from_u32(0x2776 + code - dark - 1),
        _ => None,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn rows_are_as_long_as_their_fonts_have_codes() {
        let lengths =
            [SYMBOL_LOW, SYMBOL_HIGH, WINGDINGS_LOW, WINGDINGS_HIGH].map(|row| row.chars().count());
        assert_eq!(lengths, [0x7F - 0x20, 0xFF - 0xA0, 0xA0 - 0x20, 0xFF - 0xA0]);
    }

    #[test]
    fn characters_of_symbol_fonts_are_those_of_unicode() {
        let cases = [
            (SymbolFont::Symbol, 0x61, Some('α')),
            (SymbolFont::Symbol, 0xF0B7, Some('•')),
            (SymbolFont::Symbol, 0xB3, Some('≥')),
            (SymbolFont::Symbol, 0xAE, Some('→')),
            (SymbolFont::Symbol, 0xE5, Some('∑')),
            (SymbolFont::Symbol, 0xF0, None),
            (SymbolFont::Wingdings, 0xF0FC, Some('✓')),
            (SymbolFont::Wingdings, 0x4A, Some('☺')),
            (SymbolFont::Wingdings, 0x6E, Some('■')),
            (SymbolFont::Wingdings, 0x81, Some('①')),
            (SymbolFont::Wingdings, 0x8C, Some('❶')),
            (SymbolFont::Wingdings, 0xA7, Some('▪')),
            (SymbolFont::Wingdings, 0xAB, Some('★')),
            (SymbolFont::Wingdings, 0xD8, Some('➢')),
            (SymbolFont::Wingdings, 0xE0, Some('→')),
            (SymbolFont::Wingdings, 0xFE, Some('☑')),
            (SymbolFont::Wingdings2, 0x52, Some('☑')),
            (SymbolFont::Wingdings2, 0x6A, Some('①')),
            (SymbolFont::Wingdings2, 0x7E, Some('❿')),
            (SymbolFont::Webdings, 0x61, Some('✓')),
            (SymbolFont::Webdings, 0x99, None),
        ];
        for (font, code, expected) in cases {
            assert_eq!(font.character(code), expected, "{font:?} {code:x}");
        }
        assert_eq!(SymbolFont::Symbol.text("a\u{f062}漢"), ("αβ漢".into(), vec![]));
    }
}
