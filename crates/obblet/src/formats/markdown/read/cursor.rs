//! A position in one line, in bytes and in columns.
//!
//! CommonMark 2.2: tabs are not expanded, but behave, where white space helps to define block
//! structure, as if they were replaced by spaces with a tab stop of 4 characters.

/// Where the reader stands in a line.
#[derive(Debug, Clone, Copy)]
pub(super) struct Cursor<'s> {
    line: &'s [u8],
    /// Offset of the line in the source.
    line_start: usize,
    /// Bytes consumed.
    pub offset: usize,
    /// Columns consumed.
    pub column: usize,
    /// The byte at `offset` is a tab of which some columns are consumed.
    inside_tab: bool,
    /// Offset of the next byte that is neither space nor tab.
    pub next: usize,
    next_column: usize,
}

impl<'s> Cursor<'s> {
    pub(super) fn new(line: &'s str, line_start: usize) -> Self {
        let line = line.as_bytes();
        let mut cursor = Self {
            line,
            line_start,
            offset: 0,
            column: 0,
            inside_tab: false,
            next: 0,
            next_column: 0,
        };
        cursor.find_next();
        cursor
    }

    /// Columns of white space before the next other byte.
    pub(super) fn indent(&self) -> usize {
        self.next_column - self.column
    }

    /// True when nothing but white space is left.
    pub(super) fn is_blank(&self) -> bool {
        self.next >= self.line.len()
    }

    /// The bytes from the next non-space on.
    pub(super) fn rest(&self) -> &'s [u8] {
        self.line.get(self.next..).unwrap_or_default()
    }

    /// The byte at the offset.
    pub(super) fn peek(&self) -> Option<u8> {
        self.line.get(self.offset).copied()
    }

    /// Offset of the next non-space in the source.
    pub(super) fn next_in_source(&self) -> usize {
        self.line_start + self.next
    }

    /// Offset in the source of what is left, and the spaces that stand for a half consumed tab.
    pub(super) fn remainder(&self) -> (usize, u8) {
        if self.inside_tab {
            (self.line_start + self.offset + 1, (4 - self.column % 4) as u8)
        } else {
            (self.line_start + self.offset, 0)
        }
    }

    pub(super) fn find_next(&mut self) {
        self.next = self.offset;
        self.next_column = self.column;
        while let Some(byte) = self.line.get(self.next) {
            match byte {
                b' ' => self.next_column += 1,
                b'\t' => self.next_column += 4 - self.next_column % 4,
                _ => break,
            }
            self.next += 1;
        }
    }

    /// Consumes the white space.
    pub(super) fn skip_space(&mut self) {
        self.offset = self.next;
        self.column = self.next_column;
        self.inside_tab = false;
    }

    /// Consumes this many bytes, none of them a tab.
    pub(super) fn skip_bytes(&mut self, count: usize) {
        self.offset += count;
        self.column += count;
        self.inside_tab = false;
        self.find_next();
    }

    /// Consumes this many columns, a part of a tab if need be.
    pub(super) fn skip_columns(&mut self, mut count: usize) {
        while count > 0 {
            let Some(byte) = self.peek() else { break };
            let width = if byte == b'\t' { 4 - self.column % 4 } else { 1 };
            self.inside_tab = width > count;
            let taken = width.min(count);
            self.column += taken;
            self.offset += usize::from(!self.inside_tab);
            count -= taken;
        }
        self.find_next();
    }

    /// Consumes one column if it is white space.
    pub(super) fn skip_one_space(&mut self) {
        if matches!(self.peek(), Some(b' ' | b'\t')) {
            self.skip_columns(1);
        }
    }
}
