//! Writing Org as somebody who works in it would: drawers for ids, aligned tables, tags at their column.
//!
//! | file | what it writes |
//! | --- | --- |
//! | `survey` | what is known of the whole document before anything is written |
//! | `front` | the keywords at the start |
//! | `headings`, `blocks`, `lists`, `tables`, `code`, `containers` | blocks |
//! | `inlines`, `links`, `emphasis` | what stands in a line |
//! | `escape` | text, so that it is read as text |
//! | `attributes` | the lines before a block that say something about it |

mod attributes;
mod blocks;
mod citations;
mod code;
mod containers;
mod emphasis;
mod escape;
mod formulas;
mod front;
mod headings;
mod inlines;
mod links;
mod lists;
mod notes;
mod survey;
mod tables;
mod tasks;

use super::OrgWriteOptions;
use crate::document::{Document, EmptyCells, Place};
use crate::findings::{Code, Findings};
use crate::formats::WriteError;
use crate::formats::depth::refuse_too_deep;
use survey::Survey;

/// Writes a document.
///
/// # Errors
/// [`WriteError::TooDeep`] for a document deeper than any reader makes it.
pub(crate) fn write(
    document: &Document,
    options: &OrgWriteOptions,
) -> Result<(String, Findings), WriteError> {
    refuse_too_deep(document)?;
    let mut writer = Writer {
        document,
        options,
        survey: Survey::of(document),
        out: String::new(),
        findings: Findings::new(),
        place: Place::default(),
        indentation: 0,
        open: Vec::new(),
        is_cell: false,
        empty_cells: EmptyCells::new(),
        is_line: false,
        has_list_before: false,
        is_start: true,
        needs_apart: false,
        is_picture_alone: false,
        is_item_start: false,
        is_behind_heading: false,
        equation: 0,
    };
    writer.front();
    let (_, blocks) = writer.first_blocks();
    writer.blocks(blocks);
    writer.works();
    writer.notes();
    let mut text = writer.out;
    text.truncate(text.trim_end_matches('\n').len());
    if !text.is_empty() {
        text.push('\n');
    }
    Ok((text, writer.findings))
}

struct Writer<'d> {
    document: &'d Document,
    options: &'d OrgWriteOptions,
    survey: Survey<'d>,
    out: String,
    findings: Findings,
    place: Place,
    /// White space before each line, in items of lists.
    indentation: usize,
    /// What ends the blocks, drawers and notes that are open; a heading would end all.
    open: Vec<String>,
    /// Whether a bar would end what is written.
    is_cell: bool,
    empty_cells: EmptyCells,
    /// Whether a line break would end what is written: headings, captions, terms.
    is_line: bool,
    /// Whether the block before is a list, which the next one would go on with.
    has_list_before: bool,
    /// Whether nothing stands yet where blocks are written.
    is_start: bool,
    /// Whether a mark that closes was written last, which no letter may follow.
    needs_apart: bool,
    /// Whether the picture that is written stands alone, so that lines before it say more about it.
    is_picture_alone: bool,
    /// Whether the next paragraph begins in the line of a bullet.
    is_item_start: bool,
    /// Whether a heading stands in the line before.
    is_behind_heading: bool,
    /// The number of the last equation.
    equation: usize,
}

impl Writer<'_> {
    fn lost(&mut self, what: &str) {
        self.findings.count(Code::NodeNotCarried, what, Some(self.place));
    }

    fn changed(&mut self, what: &str) {
        self.findings.count(Code::NodeChanged, what, Some(self.place));
    }

    /// Whether something is open that a heading would end.
    fn is_inside(&self) -> bool {
        self.indentation > 0 || !self.open.is_empty()
    }

    /// What something writes, on its own.
    fn apart(&mut self, write: impl FnOnce(&mut Self)) -> String {
        let outer = std::mem::take(&mut self.out);
        write(self);
        std::mem::replace(&mut self.out, outer)
    }

    /// Writes lines, each behind the white space of the items around it.
    fn lines(&mut self, text: &str) {
        for line in text.lines() {
            if !line.is_empty() {
                self.out.push_str(&" ".repeat(self.indentation));
                self.out.push_str(line);
            }
            self.out.push('\n');
        }
    }
}
