//! Links inside raw HTML, as Markdown holds it: their addresses are turned where they stand.

use std::ops::Range;

/// HTML with its `href` and `src` values turned; `None` where none changes.
///
/// ```
/// use obblet::address::turned_in_html;
/// let turned = turned_in_html("<a href='x.md'>x.md</a>", |_| Some("x.html".into()));
/// assert_eq!(turned.as_deref(), Some("<a href='x.html'>x.md</a>"));
/// ```
pub fn turned_in_html(
    markup: &str,
    mut turn: impl FnMut(&str) -> Option<String>,
) -> Option<String> {
    let mut turned = String::new();
    let mut done = 0;
    for value in values(markup) {
        let Some(address) = markup.get(value.clone()) else { continue };
        let Some(new) = turn(&address.replace("&amp;", "&")) else { continue };
        turned.push_str(markup.get(done..value.start).unwrap_or_default());
        turned.push_str(&new.replace('&', "&amp;").replace('"', "&quot;").replace('\'', "&#39;"));
        done = value.end;
    }
    turned.push_str(markup.get(done..).filter(|_| done > 0)?);
    Some(turned)
}

/// Where the values of `href` and `src` stand, inside tags only.
fn values(markup: &str) -> Vec<Range<usize>> {
    let mut found = Vec::new();
    let bytes = markup.as_bytes();
    let mut at = 0;
    while let Some(open) = markup.get(at..).and_then(|rest| rest.find('<')) {
        at += open + 1;
        if markup.get(at..).is_some_and(|rest| rest.starts_with("!--")) {
            at += markup.get(at..).and_then(|rest| rest.find("-->")).unwrap_or(bytes.len());
            continue;
        }
        at = attributes(bytes, at, &mut found);
    }
    found
}

/// Goes through a tag from its name on, to behind its end.
fn attributes(bytes: &[u8], mut at: usize, found: &mut Vec<Range<usize>>) -> usize {
    loop {
        // Names and values stand behind white space; a slash is as good.
        let is_between = |byte: &u8| byte.is_ascii_whitespace() || *byte == b'/';
        at += bytes.get(at..).map_or(0, |rest| rest.iter().take_while(|b| is_between(b)).count());
        let Some(&first) = bytes.get(at) else { return at };
        if first == b'>' {
            return at + 1;
        }
        let is_name =
            |byte: &u8| !byte.is_ascii_whitespace() && !matches!(byte, b'=' | b'>' | b'/');
        let length =
            bytes.get(at..).map_or(0, |rest| rest.iter().take_while(|b| is_name(b)).count());
        let name = bytes.get(at..at + length).unwrap_or_default();
        at += length.max(1);
        let Some(value) = value(bytes, &mut at) else { continue };
        if [b"href".as_slice(), b"src"].iter().any(|wanted| name.eq_ignore_ascii_case(wanted)) {
            found.push(value);
        }
    }
}

/// The value behind an attribute's name, if it has one.
fn value(bytes: &[u8], at: &mut usize) -> Option<Range<usize>> {
    let white = |from: usize| {
        bytes
            .get(from..)
            .map_or(0, |rest| rest.iter().take_while(|b| b.is_ascii_whitespace()).count())
    };
    let sign = *at + white(*at);
    bytes.get(sign).filter(|byte| **byte == b'=')?;
    let start = sign + 1 + white(sign + 1);
    let quote = bytes.get(start).copied().filter(|byte| matches!(byte, b'"' | b'\''));
    let first = start + usize::from(quote.is_some());
    let is_inside = |byte: &u8| match quote {
        Some(quote) => *byte != quote,
        None => !byte.is_ascii_whitespace() && *byte != b'>',
    };
    let length =
        bytes.get(first..).map_or(0, |rest| rest.iter().take_while(|b| is_inside(b)).count());
    *at = first + length + usize::from(quote.is_some());
    Some(first..first + length)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_addresses_in_tags_are_turned() {
        let cases = [
            ("<a href=\"x.md\">x.md</a>", Some("<a href=\"X\">x.md</a>")),
            ("<A HREF = 'x.md' title=\"href=x.md\">", Some("<A HREF = 'X' title=\"href=x.md\">")),
            ("<img alt=a src=x.md><br/>", Some("<img alt=a src=X><br/>")),
            ("<p>href=\"x.md\"", None),
            (
                "<!-- <a href=\"x.md\"> --><b href=x.md>",
                Some("<!-- <a href=\"x.md\"> --><b href=X>"),
            ),
            ("<a data-href=\"x.md\" href=\"y.md\">", None),
            ("<a href=\"x.md", Some("<a href=\"X")),
            ("<a href=", None),
            ("a < b", None),
            ("<é href=x.md é>", Some("<é href=X é>")),
        ];
        for (markup, expected) in cases {
            let found = turned_in_html(markup, |address| (address == "x.md").then(|| "X".into()));
            assert_eq!(found.as_deref(), expected, "{markup}");
        }
        let found = turned_in_html("<a href='a?b&amp;c'>", |address| Some(format!("{address}'&d")));
        assert_eq!(found.as_deref(), Some("<a href='a?b&amp;c&#39;&amp;d'>"));
    }
}
