//! Whether a piece of HTML closes what it opens, told from its tags alone.

use super::depth_guard::EMPTY;

/// Elements whose content is text up to their own end tag (HTML Standard, 13.1.2).
pub(super) const TEXT_ONLY: [&str; 8] =
    ["iframe", "noembed", "noframes", "script", "style", "textarea", "title", "xmp"];

/// The elements that markup has opened and not closed. It errs on one side only: what the parser
/// would close by itself (a `p`, a `li`) counts as open.
#[derive(Debug, Default)]
pub(super) struct OpenTags {
    open: Vec<Box<str>>,
    /// A tag or comment without an end, or an end tag without a start: the tags no longer tell.
    is_broken: bool,
}

impl OpenTags {
    /// Reads on, in markup that begins and ends outside of tags unless it is broken.
    pub(super) fn read(&mut self, markup: &str) {
        let mut rest = markup;
        while let Some(at) = memchr::memchr(b'<', rest.as_bytes()).filter(|_| !self.is_broken) {
            match self.tag(&rest[at..]) {
                Some(behind) => rest = behind,
                None => self.is_broken = true,
            }
        }
    }

    /// True when nothing is open.
    pub(super) fn all_closed(&self) -> bool {
        self.open.is_empty() && !self.is_broken
    }

    /// Reads what begins with `<` and gives what stands behind it; `None` when it has no end.
    fn tag<'m>(&mut self, markup: &'m str) -> Option<&'m str> {
        if let Some(comment) = markup.strip_prefix("<!--") {
            return comment.split_once("-->").map(|(_, behind)| behind);
        }
        if markup.starts_with("<!") || markup.starts_with("<?") {
            return markup.split_once('>').map(|(_, behind)| behind);
        }
        let inside = &markup[1..];
        let (is_end, inside) = match inside.strip_prefix('/') {
            Some(inside) => (true, inside),
            None => (false, inside),
        };
        if !inside.starts_with(|c: char| c.is_ascii_alphabetic()) {
            return Some(inside);
        }
        let stops = |c: char| c.is_ascii_whitespace() || matches!(c, '/' | '>');
        let name = inside.get(..inside.find(stops)?)?.to_ascii_lowercase();
        let behind = behind_tag(inside.get(name.len()..)?)?;
        if is_end {
            return (*self.open.pop()? == *name).then_some(behind);
        }
        if TEXT_ONLY.contains(&name.as_str()) {
            return behind_text(behind, &name);
        }
        // Nothing ends it, not even its end tag.
        if name == "plaintext" {
            return None;
        }
        if !EMPTY.contains(&name.as_str()) {
            self.open.push(name.into());
        }
        Some(behind)
    }
}

/// What stands behind the end tag of an element that holds only text.
pub(super) fn behind_text<'m>(markup: &'m str, name: &str) -> Option<&'m str> {
    let ends = memchr::memmem::find_iter(markup.as_bytes(), b"</");
    let mut behind = ends.filter_map(|at| markup.get(at + 2..));
    let is_end = |behind: &&str| {
        behind.get(..name.len()).is_some_and(|found| found.eq_ignore_ascii_case(name))
    };
    behind_tag(behind.find(is_end)?.get(name.len()..)?)
}

/// What stands behind the `>` of a tag, quoted values passed over.
pub(super) fn behind_tag(attributes: &str) -> Option<&str> {
    let mut quote = None;
    for (at, byte) in attributes.bytes().enumerate() {
        match (quote, byte) {
            (None, b'>') => return attributes.get(at + 1..),
            (None, b'"' | b'\'') => quote = Some(byte),
            (Some(open), _) if open == byte => quote = None,
            _ => {}
        }
    }
    None
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_open_is_known() {
        let cases = [
            ("", true),
            ("<b>a</b>", true),
            ("<br><img src=\"a>b\"><hr/>", true),
            ("<div><p>a</p></div><!-- <div> -->", true),
            ("<script>if (a < b) '<div>'</script>", true),
            ("<DIV>a</div>", true),
            ("a < b <3 &lt;", true),
            ("<div>", false),
            ("<p>one<p>two", false),
            ("<b><i>a</b></i>", false),
            ("</div>", false),
            ("<!-- open", false),
            ("<div class=\"a", false),
            ("<style>p { }", false),
            ("<plaintext></plaintext>", false),
        ];
        for (markup, expected) in cases {
            let mut tags = OpenTags::default();
            tags.read(markup);
            assert_eq!(tags.all_closed(), expected, "{markup}");
        }
    }

    /// Looking for an end must not look through all that is left, or this takes minutes.
    #[test]
    fn many_elements_of_text_take_time_in_proportion() {
        let mut tags = OpenTags::default();
        tags.read(&"<TITLE>tide</title>".repeat(200_000));
        assert!(tags.all_closed());
    }

    #[test]
    fn an_element_may_close_in_later_markup() {
        let mut tags = OpenTags::default();
        tags.read("<details><summary>a</summary>");
        assert!(!tags.all_closed());
        tags.read("</details>");
        assert!(tags.all_closed());
    }
}
