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

/// How many words a text has. Eight ASCII characters are looked at in a step.
pub(super) fn words(text: &str) -> u64 {
    let bytes = text.as_bytes();
    // The high bit of `before` is set where the last byte belongs to a word.
    let (mut count, mut before, mut at) = (0, 0, 0);
    loop {
        while let Some(eight) = bytes.get(at..).and_then(<[u8]>::first_chunk::<8>) {
            let eight = u64::from_le_bytes(*eight);
            if eight & HIGH_BITS != 0 {
                break;
            }
            let letters = letters_of(eight);
            count += high_bits(letters & !(letters << 8 | before));
            before = letters >> 56;
            at += 8;
        }
        // Up to the first character beyond ASCII, and behind it, or up to the end.
        loop {
            let Some(byte) = bytes.get(at) else { return count };
            let mark = if byte.is_ascii() { 0 } else { mark_length(bytes, at) };
            let is_letter = mark == 0 && is_letter(*byte);
            count += u64::from(is_letter && before == 0);
            before = if is_letter { 0x80 } else { 0 };
            at += mark.max(1);
            if !byte.is_ascii() && bytes.get(at).is_none_or(u8::is_ascii) {
                break;
            }
        }
    }
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

/// How many of the high bits of eight bytes are set: a multiplication adds them up, where a processor
/// may have no instruction for it.
fn high_bits(eight: u64) -> u64 {
    (eight >> 7).wrapping_mul(repeated(1)) >> 56
}

/// The offset of the first such byte from here on, or the end; for stretches so short that a search with
/// longer steps would take longer.
pub(super) fn next_byte(bytes: &[u8], from: usize, byte: u8) -> usize {
    let mut left = bytes.get(from..).unwrap_or_default();
    while let Some((eight, rest)) = left.split_first_chunk::<8>() {
        let differing = u64::from_le_bytes(*eight) ^ repeated(byte);
        let same = differing.wrapping_sub(repeated(1)) & !differing & HIGH_BITS;
        if same != 0 {
            return bytes.len() - left.len() + same.trailing_zeros() as usize / 8;
        }
        left = rest;
    }
    let found = left.iter().position(|other| *other == byte);
    bytes.len() - left.len() + found.unwrap_or(left.len())
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
            ("the “weir” — and the mill’s wheel", 7),
            ("Mühle", 1),
            ("éé eight x é", 4),
            ("水車 小屋", 2),
        ];
        for (text, count) in cases {
            assert_eq!(words(text), count, "{text}");
        }
        let long = "weir ".repeat(1000);
        assert_eq!(words(&long), 1000);
    }

    #[test]
    fn a_byte_is_found_wherever_it_stands() {
        let text = b"the weir and the sluice < the pond";
        for from in 0..25 {
            assert_eq!(next_byte(text, from, b'<'), 24);
        }
        assert_eq!(next_byte(text, 25, b'<'), text.len());
        assert_eq!(next_byte(text, 99, b'<'), text.len());
    }

    #[test]
    fn common_beginnings_are_found_past_whole_steps() {
        assert_eq!(common(b"high water at noon", b"high water at nine"), 15);
        assert_eq!(common(b"weir", b"weir"), 4);
        assert_eq!(common(b"", b"weir"), 0);
    }
}
