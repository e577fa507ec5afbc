//! What `#+OPTIONS` says is to be published, and how (Org manual, “Export Settings”).

/// The choices of one document. What no document states is as Org has it.
#[derive(Debug, Clone)]
pub(super) struct Options {
    /// A contents list at the start; 0 for all levels.
    pub(super) contents: Option<Option<u8>>,
    /// The deepest level that is numbered, where numbers are on.
    pub(super) numbers: Option<usize>,
    /// Headings below this level are items of lists.
    pub(super) depth: Option<usize>,
    pub(super) tasks: Chosen,
    pub(super) keywords: bool,
    pub(super) priorities: bool,
    pub(super) tags: bool,
    pub(super) planning: bool,
    pub(super) clocks: bool,
    pub(super) timestamps: Timestamps,
    pub(super) drawers: Chosen,
    pub(super) properties: Chosen,
    pub(super) inline_tasks: bool,
    pub(super) archived: Archived,
    pub(super) notes: bool,
    pub(super) tables: bool,
    pub(super) fixed_width: bool,
    pub(super) statistics: bool,
    pub(super) title: bool,
    pub(super) author: bool,
    pub(super) email: bool,
    pub(super) date: bool,
    pub(super) scripts: Scripts,
    pub(super) special_strings: bool,
    pub(super) smart_quotes: bool,
    pub(super) emphasis: bool,
    pub(super) entities: bool,
    pub(super) formulas: bool,
    /// Line breaks of the source are seen.
    pub(super) keeps_breaks: bool,
    /// Words of options that are no part of the tree, for who writes the document again.
    pub(super) others: Vec<String>,
}

/// Which of several named things are wanted.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) enum Chosen {
    All,
    None,
    Only(Vec<String>),
    Except(Vec<String>),
}

impl Chosen {
    pub(super) fn has(&self, name: &str) -> bool {
        let holds = |names: &[String]| names.iter().any(|known| known.eq_ignore_ascii_case(name));
        match self {
            Self::All => true,
            Self::None => false,
            Self::Only(names) => holds(names),
            Self::Except(names) => !holds(names),
        }
    }
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Timestamps {
    All,
    Active,
    Inactive,
    None,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Archived {
    Whole,
    HeadingOnly,
    Not,
}

/// Where `a_b` and `a^b` are lowered and raised.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Scripts {
    Always,
    InBraces,
    Never,
}

impl Default for Options {
    fn default() -> Self {
        Self {
            contents: None,
            numbers: None,
            depth: None,
            tasks: Chosen::All,
            keywords: true,
            priorities: false,
            tags: true,
            planning: false,
            clocks: false,
            timestamps: Timestamps::All,
            drawers: Chosen::Except(vec!["LOGBOOK".into()]),
            properties: Chosen::None,
            inline_tasks: true,
            archived: Archived::HeadingOnly,
            notes: true,
            tables: true,
            fixed_width: true,
            statistics: true,
            title: true,
            author: true,
            email: false,
            date: true,
            scripts: Scripts::Always,
            special_strings: true,
            smart_quotes: false,
            emphasis: true,
            entities: true,
            formulas: true,
            keeps_breaks: false,
            others: Vec::new(),
        }
    }
}

impl Options {
    /// Reads the value of one `#+OPTIONS` line.
    pub(super) fn read(&mut self, line: &str) {
        for (name, value) in words(line) {
            if !self.set(name, value) {
                self.others.push(format!("{name}:{value}"));
            }
        }
    }

    /// `false` for an option whose effect the tree does not hold.
    fn set(&mut self, name: &str, value: &str) -> bool {
        let is_on = value != "nil";
        match name {
            "toc" => {
                self.contents = Some(match value {
                    "nil" => None,
                    "t" => Some(0),
                    depth => depth.parse().ok(),
                });
                return true;
            }
            "num" => {
                self.numbers = match value {
                    "nil" => None,
                    depth => Some(depth.parse().unwrap_or(usize::MAX)),
                };
                return true;
            }
            "^" => {
                self.scripts = match value {
                    "nil" => Scripts::Never,
                    "{}" => Scripts::InBraces,
                    _ => Scripts::Always,
                };
                return true;
            }
            "-" => self.special_strings = is_on,
            "'" => self.smart_quotes = is_on,
            "\\n" => self.keeps_breaks = is_on,
            _ => return self.choose(name, value),
        }
        true
    }

    /// What is shown of what there is. All of this is still there for who writes Org again, so that
    /// the option has to be kept too.
    fn choose(&mut self, name: &str, value: &str) -> bool {
        let is_on = value != "nil";
        match name {
            "*" => self.emphasis = is_on,
            "e" => self.entities = is_on,
            "H" => self.depth = value.parse().ok().filter(|depth| *depth > 0),
            "tasks" => self.tasks = chosen(value),
            "todo" => self.keywords = is_on,
            "pri" => self.priorities = is_on,
            "tags" => self.tags = is_on,
            "p" => self.planning = is_on,
            "c" => self.clocks = is_on,
            "d" => self.drawers = chosen(value),
            "prop" => self.properties = chosen(value),
            "inline" => self.inline_tasks = is_on,
            "f" => self.notes = is_on,
            "|" => self.tables = is_on,
            ":" => self.fixed_width = is_on,
            "stat" => self.statistics = is_on,
            "title" => self.title = is_on,
            "author" => self.author = is_on,
            "email" => self.email = is_on,
            "date" => self.date = is_on,
            "tex" => self.formulas = is_on && value != "verbatim",
            "<" => {
                self.timestamps = match value {
                    "nil" => Timestamps::None,
                    "active" => Timestamps::Active,
                    "inactive" => Timestamps::Inactive,
                    _ => Timestamps::All,
                }
            }
            "arch" => {
                self.archived = match value {
                    "nil" => Archived::Not,
                    "headline" => Archived::HeadingOnly,
                    _ => Archived::Whole,
                }
            }
            _ => {}
        }
        false
    }
}

fn chosen(value: &str) -> Chosen {
    let names = |list: &str| -> Vec<String> {
        let words = list.split([' ', '\t']).map(|word| word.trim_matches('"'));
        words.filter(|word| !word.is_empty()).map(ToString::to_string).collect()
    };
    match value {
        "nil" => Chosen::None,
        "t" => Chosen::All,
        _ => match value.strip_prefix('(').and_then(|list| list.strip_suffix(')')) {
            Some(list) => match list.trim_start().strip_prefix("not ") {
                Some(list) => Chosen::Except(names(list)),
                None => Chosen::Only(names(list)),
            },
            None => Chosen::Only(vec![value.to_string()]),
        },
    }
}

/// `name:value` words; a value may be a list in parentheses or a string.
fn words(line: &str) -> Vec<(&str, &str)> {
    let mut found = Vec::new();
    let mut left = line.trim_start();
    while !left.is_empty() {
        // The name of one option is a colon itself.
        let from = usize::from(left.starts_with("::"));
        let Some(colon) = left.get(from..).and_then(|rest| rest.find(':')).map(|at| at + from)
        else {
            break;
        };
        let (name, value) = (left.get(..colon).unwrap_or_default(), left.get(colon + 1..));
        let value = value.unwrap_or_default();
        let end = match value.chars().next() {
            Some('(') => value.find(')').map(|at| at + 1),
            Some('"') => value.get(1..).and_then(|rest| rest.find('"')).map(|at| at + 2),
            _ => value.find([' ', '\t']),
        };
        let end = end.unwrap_or(value.len());
        let name = name.rsplit([' ', '\t']).next().unwrap_or_default();
        found.push((name, value.get(..end).unwrap_or_default()));
        left = value.get(end..).unwrap_or_default().trim_start();
    }
    found
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn options_are_words_lists_and_strings() {
        let line = "toc:2 num:nil ^:{} d:(not \"LOGBOOK\" PLAN) ::nil ':t tasks:done H:2";
        let mut options = Options::default();
        options.read(line);
        assert_eq!((options.contents, options.numbers), (Some(Some(2)), None));
        assert_eq!(options.scripts, Scripts::InBraces);
        assert!(!options.drawers.has("plan") && options.drawers.has("other"));
        assert!(!options.fixed_width && options.smart_quotes);
        assert_eq!((options.tasks, options.depth), (Chosen::Only(vec!["done".into()]), Some(2)));
    }
}
