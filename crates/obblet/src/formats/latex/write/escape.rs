//! Characters of text as LaTeX has them.

use crate::formats::latex::read::{command_of, marked_of};
use crate::math::tex_name;

/// Where characters stand.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Context {
    /// In running text: dashes and quotation marks are typed as people type them.
    Text,
    /// In code: every character is itself.
    Code,
}

/// What characters need of the preamble.
#[derive(Debug, Default, Clone, Copy)]
pub(super) struct Needs {
    pub(super) symbols: bool,
    pub(super) any_character: bool,
}

/// Adds characters. `is_german` says that quotation marks begin shorthands.
pub(super) fn push(out: &mut String, text: &str, context: Context, is_german: bool) -> Needs {
    let mut needs = Needs::default();
    let mut characters = text.chars().peekable();
    while let Some(character) = characters.next() {
        let next = characters.peek().copied();
        // Marks that join the letter before them.
        if let Some(marked) = next.and_then(|mark| with_mark(character, mark)) {
            out.push_str(&marked);
            characters.next();
            continue;
        }
        if is_of_other_script(character) && next.is_some_and(is_of_other_script) {
            out.push_str(r"\anychar{");
            out.push(character);
            push_script(out, &mut characters);
            out.push('}');
            needs.any_character = true;
            continue;
        }
        push_one(out, character, next, context, is_german, &mut needs);
    }
    needs
}

/// Words of another script, with the spaces between them.
fn push_script(out: &mut String, characters: &mut std::iter::Peekable<std::str::Chars<'_>>) {
    let mut behind = characters.clone();
    while let Some(character) = behind.next() {
        let goes_on = match character {
            ' ' => behind.peek().copied().is_some_and(is_of_other_script),
            mark => is_of_other_script(mark) || ('\u{300}'..='\u{36F}').contains(&mark),
        };
        if !goes_on {
            return;
        }
        out.push(character);
        characters.next();
    }
}

/// Letters of scripts that TeX's own fonts do not have.
fn is_of_other_script(character: char) -> bool {
    character.is_alphabetic()
        && !matches!(
            character,
            '\0'..='\u{36F}' | '\u{1D00}'..='\u{1EFF}' | '\u{2070}'..='\u{218F}'
                | '\u{2C60}'..='\u{2C7F}' | '\u{A720}'..='\u{A7FF}' | '\u{FB00}'..='\u{FB06}'
                | '\u{1D400}'..='\u{1D7FF}'
        )
}

fn push_one(
    out: &mut String,
    character: char,
    next: Option<char>,
    context: Context,
    is_german: bool,
    needs: &mut Needs,
) {
    match character {
        '\\' => out.push_str(r"\textbackslash{}"),
        '{' | '}' | '$' | '&' | '#' | '_' | '%' => {
            out.push('\\');
            out.push(character);
        }
        '^' => out.push_str(r"\textasciicircum{}"),
        '~' => out.push_str(r"\textasciitilde{}"),
        '\'' => out.push_str(r"\textquotesingle{}"),
        '`' => out.push_str(r"\textasciigrave{}"),
        '"' if is_german || context == Context::Code => out.push_str(r"\textquotedbl{}"),
        // Two of these would join.
        '-' | '<' | '>' | ',' if next == Some(character) => {
            out.push(character);
            out.push_str("{}");
        }
        '!' | '?' if next == Some('`') => {
            out.push(character);
            out.push_str("{}");
        }
        ' ' if context == Context::Code && (next == Some(' ') || out.ends_with(' ')) => {
            out.push_str(r"\ ");
        }
        ' '..='\u{7e}' => out.push(character),
        '\u{a0}' => out.push('~'),
        '—' if context == Context::Text => out.push_str("---"),
        '–' if context == Context::Text => out.push_str("--"),
        '“' if context == Context::Text => out.push_str("``"),
        '”' if context == Context::Text => out.push_str("''"),
        '‘' if context == Context::Text => out.push('`'),
        '’' if context == Context::Text => {
            out.push('\'');
            if next == Some('’') {
                out.push_str("{}");
            }
        }
        '\t' | '\u{b}' | '\u{c}' | '\u{85}' | '\u{2028}' | '\u{2029}' => out.push(' '),
        _ => push_foreign(out, character, needs),
    }
}

/// A character outside ASCII: itself where the fonts of all engines have it, else its command.
fn push_foreign(out: &mut String, character: char, needs: &mut Needs) {
    if is_native(character) {
        return out.push(character);
    }
    if let Some(command) = command_of(character) {
        needs.any_character |= character == '\u{FFFD}';
        // A command of one sign needs nothing behind it.
        let is_name = command.chars().next().is_some_and(char::is_alphabetic);
        return out.push_str(&format!("\\{command}{}", if is_name { "{}" } else { "" }));
    }
    if let Some((mark, base)) = marked_of(character) {
        return out.push_str(&format!("\\{mark}{{{base}}}"));
    }
    match tex_name(character) {
        Some(name) => {
            needs.symbols = true;
            out.push_str(&format!(r"\textsign{{\{name}}}"));
        }
        None if character.is_control() || ('\u{200B}'..='\u{200F}').contains(&character) => {}
        None => {
            needs.any_character = true;
            out.push_str(&format!(r"\anychar{{{character}}}"));
        }
    }
}

/// Letters that LaTeX's own fonts have in the encoding T1.
fn is_native(character: char) -> bool {
    matches!(
        character,
        '¡' | '¢' | '£' | '¤' | '¥' | '§' | '¨' | '©' | 'ª' | '«' | '¬' | '®' | '¯' | '°' | '±' | '²'
            | '³' | '´' | 'µ' | '¶' | '·' | '¸' | '¹' | 'º' | '»' | '¼' | '½' | '¾' | '¿' | '×' | '÷'
            | 'À'..='Ö' | 'Ø'..='ö' | 'ø'..='ÿ'
            | 'Ā'..='ē' | 'Ė'..='ģ' | 'Ĩ'..='ı' | 'Ĵ'..='ķ' | 'Ĺ'..='ľ' | 'Ł'..='ň' | 'Ŋ'..='ž'
            | '…' | '€' | '†' | '‡' | '•' | '‰' | '„' | '‚' | '‹' | '›' | '™'
    )
}

/// A letter and a mark that joins it, where that is no character of its own.
fn with_mark(letter: char, mark: char) -> Option<String> {
    if !('\u{300}'..='\u{36F}').contains(&mark) {
        return None;
    }
    let command = crate::formats::latex::read::mark_command(mark)?;
    letter.is_ascii_alphabetic().then(|| format!("\\{command}{{{letter}}}"))
}

/// A label as it may stand in `\label`.
pub(super) fn label(id: &str) -> String {
    id.chars()
        .map(|c| match c {
            '{' | '}' | '\\' | '%' | '#' | '~' | '^' | '$' | '&' | ',' => '-',
            c if c.is_whitespace() || c.is_control() => '-',
            c => c,
        })
        .collect()
}

/// An address as it may stand in an argument.
pub(super) fn address(address: &str) -> String {
    let mut out = String::new();
    for character in address.chars() {
        match character {
            '%' | '#' | '&' | '_' => {
                out.push('\\');
                out.push(character);
            }
            '{' => out.push_str("\\%7B"),
            '}' => out.push_str("\\%7D"),
            '\\' => out.push_str("\\%5C"),
            '~' => out.push_str("\\string~"),
            '^' => out.push_str("\\%5E"),
            ' ' => out.push_str("\\%20"),
            c if c.is_ascii() => out.push(c),
            c => {
                for byte in c.encode_utf8(&mut [0; 4]).bytes() {
                    out.push_str(&format!("\\%{byte:02X}"));
                }
            }
        }
    }
    out
}
