//! Lines with what containers put before them.

/// The text as it grows, and what each new line begins with.
#[derive(Debug, Default)]
pub(super) struct Lines {
    text: String,
    prefix: String,
    /// The last line has nothing but marks of containers yet.
    begun: bool,
}

/// What a container had before it was entered.
#[derive(Debug)]
pub(super) struct Outside(usize);

impl Lines {
    /// Bytes that there are by now.
    pub(super) fn len(&self) -> usize {
        self.text.len()
    }

    /// Enters a container whose first line begins with `first` and whose others with `later`.
    pub(super) fn enter(&mut self, first: &str, later: &str) -> Outside {
        self.begin();
        self.text.push_str(first);
        self.begun = true;
        let outside = Outside(self.prefix.len());
        self.prefix.push_str(later);
        outside
    }

    /// Leaves a container. One that held nothing gets a line with its mark alone.
    pub(super) fn leave(&mut self, outside: Outside) {
        if self.begun {
            self.end();
        }
        self.prefix.truncate(outside.0);
    }

    fn begin(&mut self) {
        if !self.begun {
            self.text.push_str(&self.prefix);
        }
    }

    fn end(&mut self) {
        let kept = self.text.trim_end_matches(' ').len();
        self.text.truncate(kept);
        self.text.push('\n');
        self.begun = false;
    }

    /// A line, as it is.
    pub(super) fn line(&mut self, line: &str) {
        self.begin();
        self.text.push_str(line);
        if line.is_empty() {
            return self.end();
        }
        self.text.push('\n');
        self.begun = false;
    }

    /// The lines of a text.
    pub(super) fn lines(&mut self, text: &str) {
        text.split('\n').for_each(|line| self.line(line));
    }

    /// An empty line.
    pub(super) fn blank(&mut self) {
        self.line("");
    }

    /// Whether the line that is begun ends with this mark twice, so that once more would make it
    /// a thematic break.
    pub(super) fn ends_with_twice(&self, mark: &str) -> bool {
        let line = self.text.rsplit('\n').next().unwrap_or_default();
        self.begun && line.ends_with(&format!("{mark} {mark} "))
    }

    /// Characters before the content of each line.
    pub(super) fn prefix_width(&self) -> usize {
        self.prefix.len()
    }

    pub(super) fn is_empty(&self) -> bool {
        self.text.is_empty()
    }

    pub(super) fn into_text(self) -> String {
        self.text
    }
}
