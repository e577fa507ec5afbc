//! Tracked changes: `ins` and `del` with who and when.

use super::Writer;
use crate::dates::When;
use crate::document::{Attributes, Revision, RevisionKind};

impl Writer<'_> {
    /// Opens the element of a tracked change. Gives its closing tag.
    pub(super) fn open_revision(&mut self, attributes: &Attributes) -> &'static str {
        let Some(revision) = attributes.revision() else { return "" };
        let (open, close) = match revision.kind {
            RevisionKind::Insertion | RevisionKind::MoveTarget => ("<ins", "</ins>"),
            RevisionKind::Deletion | RevisionKind::MoveSource => ("<del", "</del>"),
            RevisionKind::Formatting => return self.open_format_change(revision),
        };
        self.out.push_str(open);
        self.revision_details(revision);
        self.out.push('>');
        close
    }

    /// HTML has no element for text that only looks another way: who changed it stands in its advice.
    pub(super) fn open_format_change(&mut self, revision: &Revision) -> &'static str {
        let author = revision.author.as_deref().unwrap_or_default();
        let advice = format!("{}: {author}", self.words.format_change);
        self.out.push_str("<span");
        self.attribute("title", advice.trim_end_matches([':', ' ']));
        self.out.push('>');
        "</span>"
    }

    pub(super) fn revision_details(&mut self, revision: &Revision) {
        if let Some(when) = revision.date.as_deref().and_then(When::of) {
            self.attribute("datetime", &when.html());
        }
        if let Some(author) = &revision.author {
            self.attribute("title", author);
        }
    }
}
