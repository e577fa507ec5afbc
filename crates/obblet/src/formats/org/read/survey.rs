//! One pass over all lines, before they are read: what ends where.

use super::lines::{Line, block_begin, block_end, drawer_name, is_dynamic_end, stars};
use super::sources::is_verbatim;
use crate::work;
use std::collections::HashMap;

/// Where things end, by the numbers of their lines.
#[derive(Debug, Default)]
pub(super) struct Survey {
    /// `#+end_NAME` by the name, and `\end{name}` by `\name`.
    ends: HashMap<String, Vec<usize>>,
    drawer_ends: Vec<usize>,
    dynamic_ends: Vec<usize>,
    /// Headings, without inline tasks.
    pub(super) headings: Vec<usize>,
    /// Whether a line stands in a block whose text is taken as it is.
    pub(super) in_text: Vec<bool>,
}

/// Headings with this many stars or more are inline tasks.
pub(super) const INLINE_TASK: usize = 15;

impl Survey {
    pub(super) fn of(lines: &[Line<'_>]) -> Self {
        let mut survey = Self::default();
        for (at, line) in lines.iter().enumerate() {
            let text = line.text;
            work::count(1 + text.len() / 16);
            match text.trim_start_matches([' ', '\t']).as_bytes().first() {
                Some(b'*') => match stars(text) {
                    Some(stars) if stars < INLINE_TASK => survey.headings.push(at),
                    _ => {}
                },
                Some(b'#') => {
                    let text = line.trimmed();
                    if let Some(name) = block_end(text) {
                        survey.ends.entry(name.to_ascii_lowercase()).or_default().push(at);
                    } else if is_dynamic_end(text) {
                        survey.dynamic_ends.push(at);
                    }
                }
                Some(b':') => {
                    if drawer_name(line.trimmed()).is_some_and(|n| n.eq_ignore_ascii_case("end")) {
                        survey.drawer_ends.push(at);
                    }
                }
                _ => survey.environment_end(text, at),
            }
        }
        survey.mark_text(lines);
        survey
    }

    /// An environment may end behind its last formula.
    fn environment_end(&mut self, text: &str, at: usize) {
        let Some(rest) = text.rfind("\\end{").and_then(|start| text.get(start + 5..)) else {
            return;
        };
        let Some((name, "")) = rest.trim_end_matches([' ', '\t']).split_once('}') else { return };
        self.ends.entry(format!("\\{name}")).or_default().push(at);
    }

    fn mark_text(&mut self, lines: &[Line<'_>]) {
        self.in_text = vec![false; lines.len()];
        let mut at = 0;
        while let Some(line) = lines.get(at) {
            let text = line.trimmed();
            let begin = text.starts_with('#').then(|| block_begin(text)).flatten();
            if let Some((name, _)) = begin.filter(|(name, _)| is_verbatim(name))
                && let Some(end) = self.block_end(name, at, self.next_heading(at, lines.len()))
            {
                if let Some(inside) = self.in_text.get_mut(at + 1..end) {
                    inside.fill(true);
                }
                at = end;
            }
            at += 1;
        }
    }

    /// Where the block of this name that begins at a line ends, before a limit.
    pub(super) fn block_end(&self, name: &str, begin: usize, limit: usize) -> Option<usize> {
        next_of(self.ends.get(&name.to_ascii_lowercase())?, begin, limit)
    }

    pub(super) fn environment_end_of(
        &self,
        name: &str,
        begin: usize,
        limit: usize,
    ) -> Option<usize> {
        // It may end in the line that it begins in.
        first_from(self.ends.get(&format!("\\{name}"))?, begin, limit)
    }

    pub(super) fn drawer_end(&self, begin: usize, limit: usize) -> Option<usize> {
        next_of(&self.drawer_ends, begin, limit)
    }

    pub(super) fn dynamic_end(&self, begin: usize, limit: usize) -> Option<usize> {
        next_of(&self.dynamic_ends, begin, limit)
    }

    /// The first heading behind a line.
    pub(super) fn next_heading(&self, at: usize, limit: usize) -> usize {
        next_of(&self.headings, at, limit).unwrap_or(limit)
    }
}

/// The next one behind a line, before a limit.
fn next_of(sorted: &[usize], begin: usize, limit: usize) -> Option<usize> {
    first_from(sorted, begin.saturating_add(1), limit)
}

fn first_from(sorted: &[usize], begin: usize, limit: usize) -> Option<usize> {
    let index = sorted.partition_point(|at| *at < begin);
    sorted.get(index).copied().filter(|at| *at < limit)
}
