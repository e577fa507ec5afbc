//! What can begin a block: one scanner a construct, each over the bytes from the first non-space.

use super::html_scan;
use crate::document::NumberDelimiter;

/// A marker of a list item.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Marker {
    pub(super) kind: MarkerKind,
    /// Bytes, and so columns, of the marker.
    pub(super) width: usize,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum MarkerKind {
    Bullet(u8),
    Number(i32, NumberDelimiter),
}

impl MarkerKind {
    /// CommonMark 5.3: two markers are of one list when their bullet or delimiter is the same.
    pub(super) fn same_list(self, other: Self) -> bool {
        match (self, other) {
            (Self::Bullet(one), Self::Bullet(two)) => one == two,
            (Self::Number(_, one), Self::Number(_, two)) => one == two,
            _ => false,
        }
    }
}

/// The opening of a fenced code block.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Fence {
    pub(super) mark: u8,
    pub(super) length: usize,
}

/// CommonMark 4.1: three or more matching `-`, `_` or `*`, with white space between and behind.
pub(super) fn is_thematic_break(rest: &[u8]) -> bool {
    let Some(&mark @ (b'-' | b'_' | b'*')) = rest.first() else { return false };
    let mut count = 0;
    for &byte in rest {
        match byte {
            b' ' | b'\t' => {}
            _ if byte == mark => count += 1,
            _ => return false,
        }
    }
    count >= 3
}

/// CommonMark 4.2: 1 to 6 `#`, then white space or the end. Gives the level.
pub(super) fn atx_heading(rest: &[u8]) -> Option<u8> {
    let level = rest.iter().take_while(|byte| **byte == b'#').count();
    let follows = matches!(rest.get(level), None | Some(b' ' | b'\t'));
    ((1..=6).contains(&level) && follows).then_some(level as u8)
}

/// The content of an ATX heading, without the marks before and behind: as a range of `rest`.
pub(super) fn atx_content(rest: &[u8], level: u8) -> std::ops::Range<usize> {
    let is_space = |index: usize| matches!(rest.get(index), Some(b' ' | b'\t'));
    let mut start = usize::from(level);
    while is_space(start) {
        start += 1;
    }
    let mut end = rest.len();
    while end > start && is_space(end - 1) {
        end -= 1;
    }
    let mut closing = end;
    while closing > start && rest.get(closing - 1) == Some(&b'#') {
        closing -= 1;
    }
    if closing == start || (closing < end && is_space(closing - 1)) {
        end = closing;
        while end > start && is_space(end - 1) {
            end -= 1;
        }
    }
    start..end
}

/// CommonMark 4.3: a run of `=` or `-`, then only white space. Gives the level.
pub(super) fn setext_underline(rest: &[u8]) -> Option<u8> {
    let &mark @ (b'=' | b'-') = rest.first()? else { return None };
    let run = rest.iter().take_while(|byte| **byte == mark).count();
    let blank_behind = rest.iter().skip(run).all(|byte| matches!(byte, b' ' | b'\t'));
    blank_behind.then_some(if mark == b'=' { 1 } else { 2 })
}

/// CommonMark 4.5: three or more backticks or tildes; behind backticks no more backticks.
pub(super) fn opening_fence(rest: &[u8]) -> Option<Fence> {
    let &mark @ (b'`' | b'~') = rest.first()? else { return None };
    let length = rest.iter().take_while(|byte| **byte == mark).count();
    let clear = mark == b'~' || !rest.iter().skip(length).any(|byte| *byte == b'`');
    (length >= 3 && clear).then_some(Fence { mark, length })
}

/// CommonMark 4.5: at least as many of the same mark, then only white space.
pub(super) fn closes_fence(rest: &[u8], fence: Fence) -> bool {
    let length = rest.iter().take_while(|byte| **byte == fence.mark).count();
    length >= fence.length && rest.iter().skip(length).all(|byte| matches!(byte, b' ' | b'\t'))
}

/// CommonMark 5.2: a bullet, or 1 to 9 digits with `.` or `)`; then white space or the end.
pub(super) fn list_marker(rest: &[u8]) -> Option<Marker> {
    let (kind, width) = match rest.first()? {
        &bullet @ (b'-' | b'+' | b'*') => (MarkerKind::Bullet(bullet), 1),
        b'0'..=b'9' => {
            let digits = rest.iter().take(10).take_while(|byte| byte.is_ascii_digit());
            let (count, number) = digits
                .fold((0, 0), |(n, value), digit| (n + 1, value * 10 + i64::from(digit - b'0')));
            let delimiter = match rest.get(count)? {
                b'.' => NumberDelimiter::Period,
                b')' => NumberDelimiter::Parenthesis,
                _ => return None,
            };
            if count > 9 {
                return None;
            }
            (MarkerKind::Number(number as i32, delimiter), count + 1)
        }
        _ => return None,
    };
    matches!(rest.get(width), None | Some(b' ' | b'\t')).then_some(Marker { kind, width })
}

/// CommonMark 5.2: an item that interrupts a paragraph starts with 1 and has content.
pub(super) fn interrupts_paragraph(rest: &[u8], marker: Marker) -> bool {
    let counts = !matches!(marker.kind, MarkerKind::Number(number, _) if number != 1);
    let behind = rest.get(marker.width..).unwrap_or_default();
    counts && !behind.iter().all(|byte| matches!(byte, b' ' | b'\t'))
}

/// The definition of a note: `[^label]:`. Gives the label as a range, and the position behind.
pub(super) fn note_definition(rest: &[u8]) -> Option<(std::ops::Range<usize>, usize)> {
    let end = note_label(rest.strip_prefix(b"[^")?)? + 2;
    (rest.get(end..end + 2)? == b"]:").then_some((2..end, end + 2))
}

/// The length of a note's label: no white space and no brackets, up to a closing bracket.
pub(super) fn note_label(bytes: &[u8]) -> Option<usize> {
    const LONGEST: usize = 200;
    let window = bytes.get(..bytes.len().min(LONGEST))?;
    let end = window.iter().position(|b| b.is_ascii_whitespace() || b"[]".contains(b))?;
    (end > 0 && window.get(end) == Some(&b']')).then_some(end)
}

/// The fence of a container: three or more colons. Gives their number and what stands behind them.
pub(super) fn container_fence(rest: &[u8]) -> Option<(usize, &[u8])> {
    let length = rest.iter().take_while(|byte| **byte == b':').count();
    (length >= 3).then(|| (length, rest.get(length..).unwrap_or_default().trim_ascii()))
}

/// The mark of a description: a colon and white space with something behind it.
pub(super) fn is_description_mark(rest: &[u8]) -> bool {
    matches!(rest, [b':', b' ' | b'\t', tail @ ..] if !tail.trim_ascii().is_empty())
}

/// How an HTML block ends.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum HtmlEnd {
    /// In the line that holds this text, whatever its case.
    Holds(&'static [&'static str]),
    /// Before the next blank line.
    BlankLine,
}

/// CommonMark 4.6: the seven ways an HTML block begins, with the way it ends.
pub(super) fn html_block(rest: &[u8], interrupts_paragraph: bool) -> Option<HtmlEnd> {
    const RAW_TEXT: [&str; 4] = ["script", "pre", "style", "textarea"];
    if rest.first() != Some(&b'<') {
        return None;
    }
    let behind = rest.get(1..).unwrap_or_default();
    if let Some(name) = html_scan::leading_name(behind)
        && RAW_TEXT.iter().any(|raw| name.eq_ignore_ascii_case(raw.as_bytes()))
        && matches!(behind.get(name.len()), None | Some(b' ' | b'\t' | b'>'))
    {
        return Some(HtmlEnd::Holds(&["</script>", "</pre>", "</style>", "</textarea>"]));
    }
    if behind.starts_with(b"!--") {
        return Some(HtmlEnd::Holds(&["-->"]));
    }
    if behind.starts_with(b"?") {
        return Some(HtmlEnd::Holds(&["?>"]));
    }
    if behind.starts_with(b"![CDATA[") {
        return Some(HtmlEnd::Holds(&["]]>"]));
    }
    if behind.first() == Some(&b'!') && behind.get(1).is_some_and(u8::is_ascii_alphabetic) {
        return Some(HtmlEnd::Holds(&[">"]));
    }
    let closing = behind.strip_prefix(b"/").unwrap_or(behind);
    if let Some(name) = html_scan::leading_name(closing)
        && html_scan::is_block_element(name)
        && (matches!(closing.get(name.len()), None | Some(b' ' | b'\t' | b'>'))
            || closing.get(name.len()..).is_some_and(|tail| tail.starts_with(b"/>")))
    {
        return Some(HtmlEnd::BlankLine);
    }
    if interrupts_paragraph {
        return None;
    }
    let tag = html_scan::tag(rest)?;
    let blank_behind = rest.iter().skip(tag).all(|byte| matches!(byte, b' ' | b'\t'));
    blank_behind.then_some(HtmlEnd::BlankLine)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn markers_need_white_space_behind_and_at_most_nine_digits() {
        let cases: [(&str, Option<(MarkerKind, usize)>); 8] = [
            ("- a", Some((MarkerKind::Bullet(b'-'), 1))),
            ("-", Some((MarkerKind::Bullet(b'-'), 1))),
            ("-a", None),
            ("1. a", Some((MarkerKind::Number(1, NumberDelimiter::Period), 2))),
            ("007)", Some((MarkerKind::Number(7, NumberDelimiter::Parenthesis), 4))),
            ("123456789. a", Some((MarkerKind::Number(123_456_789, NumberDelimiter::Period), 10))),
            ("1234567890. a", None),
            ("1.a", None),
        ];
        for (text, expected) in cases {
            let found = list_marker(text.as_bytes()).map(|marker| (marker.kind, marker.width));
            assert_eq!(found, expected, "{text:?}");
        }
    }

    #[test]
    fn atx_marks_behind_the_text_go_only_after_a_space() {
        let cases = [
            ("# a", "a"),
            ("## a ##  ", "a"),
            ("# a#", "a#"),
            ("# a # b", "a # b"),
            ("#", ""),
            ("### ###", ""),
            ("# a \\#", "a \\#"),
        ];
        for (text, expected) in cases {
            let level = atx_heading(text.as_bytes()).unwrap();
            assert_eq!(&text[atx_content(text.as_bytes(), level)], expected, "{text:?}");
        }
        assert_eq!(atx_heading(b"####### a"), None);
        assert_eq!(atx_heading(b"#a"), None);
    }
}
