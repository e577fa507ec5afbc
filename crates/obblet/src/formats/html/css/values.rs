//! Small scanners of declarations (CSS Syntax 3).

use cssparser::Parser;

/// All that is left of the input, as it is spelled.
pub(crate) fn rest_of<'i>(input: &mut Parser<'i>) -> &'i str {
    let start = input.position();
    while input.next().is_ok() {}
    input.slice_from(start)
}

/// A value, and whether `!important` stands behind it.
pub(crate) fn value_and_importance(value: &str) -> (&str, bool) {
    match value.rsplit_once('!') {
        Some((value, mark)) if mark.trim().eq_ignore_ascii_case("important") => {
            (value.trim_end(), true)
        }
        _ => (value, false),
    }
}

/// The parts of a text between marks that stand in no quotes and no brackets.
pub(crate) fn parts_between(text: &str, is_mark: impl Fn(char) -> bool) -> Vec<&str> {
    let (mut depth, mut quote) = (0_u32, None);
    let is_gap = |c: char| {
        match (quote, c) {
            (Some(open), c) if c == open => quote = None,
            (None, '"' | '\'') => quote = Some(c),
            (None, '(') => depth += 1,
            (None, ')') => depth = depth.saturating_sub(1),
            _ => {}
        }
        is_mark(c) && depth == 0 && quote.is_none()
    };
    text.split(is_gap).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn values_are_parted_outside_of_quotes_and_brackets() {
        let parts = |text| parts_between(text, |c| c == ';').join("|");
        assert_eq!(parts("a: b;c: url(d;e);f: \"g;'h\";"), "a: b|c: url(d;e)|f: \"g;'h\"|");
        assert_eq!(parts("a)b;c"), "a)b|c");
        assert_eq!(value_and_importance("red ! IMPORTANT"), ("red", true));
        assert_eq!(value_and_importance("\"a!b\""), ("\"a!b\"", false));
    }
}
