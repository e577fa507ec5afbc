//! Lines of a width.

use unicode_width::UnicodeWidthStr as _;

/// Breaks a text at spaces into lines of at most `width` columns. A no-break space is none; a word
/// that is wider stands alone.
pub(super) fn wrapped(text: &str, width: Option<usize>) -> Vec<String> {
    text.split('\n').flat_map(|line| wrapped_line(line, width)).collect()
}

fn wrapped_line(line: &str, width: Option<usize>) -> Vec<String> {
    let Some(width) = width else { return vec![line.trim_end().to_string()] };
    let mut lines = Vec::new();
    let (mut current, mut columns) = (String::new(), 0);
    for word in line.split(' ').filter(|word| !word.is_empty()) {
        let wide = word.width();
        if columns > 0 && columns + 1 + wide > width {
            lines.push(std::mem::take(&mut current));
            columns = 0;
        }
        if columns > 0 {
            current.push(' ');
            columns += 1;
        }
        current.push_str(word);
        columns += wide;
    }
    lines.push(current);
    lines
}

/// What is left of a width beside a mark.
pub(super) fn beside(width: Option<usize>, mark: usize) -> Option<usize> {
    // However deep the text stands, a few words fit a line.
    width.map(|width| width.saturating_sub(mark).max(20))
}

/// Lines behind a mark: the first one behind it, the others below.
pub(super) fn behind(mark: &str, lines: Vec<String>) -> Vec<String> {
    let indent = " ".repeat(mark.width());
    let mut lines = lines;
    for (at, line) in lines.iter_mut().enumerate() {
        // A line may stand in a hundred lists, so it is not made anew for each.
        match (at, line.is_empty()) {
            (0, true) => line.push_str(mark.trim_end()),
            (0, false) => line.insert_str(0, mark),
            (_, true) => {}
            (_, false) => line.insert_str(0, &indent),
        }
    }
    lines
}

/// A mark before every line.
pub(super) fn before_each(mark: &str, lines: Vec<String>) -> Vec<String> {
    lines.into_iter().map(|line| format!("{mark}{line}").trim_end().to_string()).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn lines_are_no_wider_than_asked() {
        let cases = [
            ("a bc def", Some(4), "a bc|def"),
            ("a  b", Some(9), "a b"),
            ("toolongaword b", Some(4), "toolongaword|b"),
            ("a\u{a0}b c", Some(3), "a\u{a0}b|c"),
            ("潮汐 表", Some(5), "潮汐|表"),
            ("a\nb", Some(9), "a|b"),
            ("a b ", None, "a b"),
            ("", Some(4), ""),
        ];
        for (text, width, expected) in cases {
            assert_eq!(wrapped(text, width).join("|"), expected, "{text:?}");
        }
    }
}
