//! The contents list: headings as nested lists of links.

use super::address::push_address;
use super::write::{HeadingEntry, escaped_text};

/// The nested list of all headings down to a level, or nothing when it would have less than two
/// entries. A level of 0 means no list.
pub(crate) fn outline(headings: &[HeadingEntry], depth: u8) -> String {
    let shown = |entry: &&HeadingEntry| entry.level <= depth && entry.id.is_some();
    // A single heading of level 1 is the page's own title, and no entry.
    let titles = headings.iter().filter(|entry| entry.level == 1).count();
    let is_title = |entry: &&HeadingEntry| entry.level == 1 && titles == 1;
    let entries: Vec<&HeadingEntry> =
        headings.iter().filter(shown).filter(|entry| !is_title(entry)).collect();
    if entries.len() < 2 {
        return String::new();
    }
    let mut html = String::new();
    let mut open: Vec<u8> = Vec::new();
    for entry in entries {
        while open.last().is_some_and(|level| *level > entry.level) && open.len() > 1 {
            html.push_str("</li>\n</ol>\n");
            open.pop();
        }
        match open.last() {
            Some(level) if *level >= entry.level => html.push_str("</li>\n"),
            _ => {
                html.push_str("<ol>\n");
                open.push(entry.level);
            }
        }
        let id = entry.id.as_deref().unwrap_or_default();
        let text = escaped_text(&entry.text);
        html.push_str("<li><a href=\"");
        push_address(&mut html, &format!("#{id}"));
        html.push_str(&format!("\">{text}</a>"));
    }
    html.push_str(&"</li>\n</ol>\n".repeat(open.len()));
    html
}

#[cfg(test)]
mod tests {
    use super::*;

    fn outline_of(levels: &[u8]) -> String {
        let entry = |(index, level): (usize, &u8)| HeadingEntry {
            level: *level,
            id: Some(format!("h{index}").into()),
            text: format!("<{index}>"),
        };
        let headings: Vec<HeadingEntry> = levels.iter().enumerate().map(entry).collect();
        let html = outline(&headings, 3);
        html.replace("<a href=\"#h", "").replace("</a>", "").replace('\n', "")
    }

    #[test]
    fn lists_nest_as_levels_do_even_when_they_jump() {
        let cases: [(&[u8], &str); 5] = [
            (&[1, 2], ""),
            (&[1, 2, 2], "<ol><li>1\">&lt;1&gt;</li><li>2\">&lt;2&gt;</li></ol>"),
            (
                &[2, 3, 2],
                "<ol><li>0\">&lt;0&gt;<ol><li>1\">&lt;1&gt;</li></ol></li><li>2\">&lt;2&gt;</li></ol>",
            ),
            (&[3, 2, 4], "<ol><li>0\">&lt;0&gt;</li><li>1\">&lt;1&gt;</li></ol>"),
            (&[2, 4], ""),
        ];
        for (levels, expected) in cases {
            assert_eq!(outline_of(levels), expected, "{levels:?}");
        }
    }
}
