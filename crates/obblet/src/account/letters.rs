//! Words as the account counts them: runs of letters and digits, whatever stands between them.

/// Whether a byte may belong to a word: an ASCII letter or digit, or part of a longer character.
pub(super) fn is_letter(byte: u8) -> bool {
    LETTERS.get(usize::from(byte)).is_some_and(|is_letter| *is_letter)
}

static LETTERS: [bool; 256] = {
    let mut letters = [false; 256];
    let mut byte = 0;
    while byte < 256 {
        let ascii = byte as u8;
        letters[byte] = ascii.is_ascii_alphanumeric() || byte >= 0x80;
        byte += 1;
    }
    letters
};

/// The offset of the first letter from here on, or the end.
pub(super) fn next_letter(bytes: &[u8], from: usize) -> usize {
    let rest = bytes.get(from..).unwrap_or_default();
    let Some(found) = rest.iter().position(|byte| is_letter(*byte)) else { return bytes.len() };
    let at = from + found;
    match bytes.get(at) {
        Some(byte) if byte.is_ascii() => at,
        _ => match mark_length(bytes, at) {
            0 => at,
            length => next_letter_after_marks(bytes, at + length),
        },
    }
}

/// The same behind a sign that is no letter: without recursion for long rows of them.
fn next_letter_after_marks(bytes: &[u8], from: usize) -> usize {
    let mut at = from;
    while let Some(byte) = bytes.get(at) {
        match mark_length(bytes, at) {
            0 if is_letter(*byte) => return at,
            0 => at += 1,
            length => at += length,
        }
    }
    bytes.len()
}

/// The length of a sign outside ASCII that belongs to no word: quotation marks, dashes, spaces,
/// arrows and the like (the blocks up to U+303F), and the signs of Latin-1. 0 for all others.
pub(super) fn mark_length(bytes: &[u8], at: usize) -> usize {
    match bytes.get(at..).unwrap_or_default() {
        [0xc2, second, ..] if !matches!(second, 0xaa | 0xb2 | 0xb3 | 0xb5 | 0xb9 | 0xba) => 2,
        [0xc3, 0x97 | 0xb7, ..] => 2,
        [0xe2, 0x80..=0xaf, _, ..] => 3,
        [0xe3, 0x80, _, ..] | [0xef, 0xbb | 0xbf, _, ..] => 3,
        [0xf0, 0x9f, _, _, ..] => 4,
        _ => 0,
    }
}

/// The offset behind the word that begins here.
pub(super) fn word_end(bytes: &[u8], from: usize) -> usize {
    let mut at = from;
    while let Some(byte) = bytes.get(at) {
        let is_letter = match byte.is_ascii() {
            true => byte.is_ascii_alphanumeric(),
            false => mark_length(bytes, at) == 0,
        };
        if !is_letter {
            break;
        }
        at += 1;
    }
    at
}

/// How many words a text has.
pub(super) fn words(text: &str) -> u64 {
    let bytes = text.as_bytes();
    let (mut count, mut before, mut left) = (0, 0, bytes);
    while let Some((eight, rest)) = left.split_first_chunk::<8>() {
        let eight = u64::from_le_bytes(*eight);
        if eight & HIGH_BITS != 0 {
            return words_in_any_script(bytes);
        }
        let letters = letters_of(eight);
        count += u64::from((letters & !(letters << 8 | before)).count_ones());
        before = letters >> 56;
        left = rest;
    }
    let mut is_inside = before != 0;
    for byte in left {
        if !byte.is_ascii() {
            return words_in_any_script(bytes);
        }
        let is_letter = byte.is_ascii_alphanumeric();
        count += u64::from(is_letter & !is_inside);
        is_inside = is_letter;
    }
    count
}

const HIGH_BITS: u64 = repeated(0x80);

const fn repeated(byte: u8) -> u64 {
    u64::from_le_bytes([byte; 8])
}

/// The high bit of each of eight ASCII characters that is a letter or digit.
fn letters_of(eight: u64) -> u64 {
    // Adding what a bound lacks to 128 sets the high bit from that bound on, and nothing carries over.
    let between = |characters: u64, first: u8, last: u8| {
        (characters + repeated(0x80 - first)) & !(characters + repeated(0x7f - last))
    };
    let letters = between(eight | repeated(0x20), b'a', b'z');
    (letters | between(eight, b'0', b'9')) & HIGH_BITS
}

fn words_in_any_script(bytes: &[u8]) -> u64 {
    let mut count = 0;
    let mut at = next_letter(bytes, 0);
    while at < bytes.len() {
        count += 1;
        at = next_letter(bytes, word_end(bytes, at));
    }
    count
}

/// How many bytes two texts begin with alike.
pub(super) fn common(one: &[u8], two: &[u8]) -> usize {
    let (mut left, mut right) = (one, two);
    while let (Some((a, rest_left)), Some((b, rest_right))) =
        (left.split_first_chunk::<8>(), right.split_first_chunk::<8>())
    {
        let differing = u64::from_le_bytes(*a) ^ u64::from_le_bytes(*b);
        if differing != 0 {
            return one.len() - left.len() + differing.trailing_zeros() as usize / 8;
        }
        (left, right) = (rest_left, rest_right);
    }
    let alike = left.iter().zip(right).take_while(|(a, b)| a == b).count();
    one.len() - left.len() + alike
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_are_runs_of_letters_in_any_script() {
        let cases = [
            ("", 0),
            ("weir", 1),
            ("a weir, and a sluice", 5),
            ("snake_case", 2),
            ("“Weir” – sluice…", 2),
            ("Mühle an der Bucht", 4),
            ("прилив и отлив", 3),
            ("3.1 m", 3),
            ("— … ☞", 0),
        ];
        for (text, count) in cases {
            assert_eq!(words(text), count, "{text}");
        }
        let long = "weir ".repeat(1000);
        assert_eq!(words(&long), 1000);
    }

    #[test]
    fn common_beginnings_are_found_past_whole_steps() {
        assert_eq!(common(b"high water at noon", b"high water at nine"), 15);
        assert_eq!(common(b"weir", b"weir"), 4);
        assert_eq!(common(b"", b"weir"), 0);
    }
}
