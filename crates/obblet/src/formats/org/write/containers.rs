//! Blocks that hold blocks: special blocks, drawers, inline tasks.

use super::Writer;
use crate::document::{Admonition, AdmonitionKind, Attributes, Block, Group, GroupRole};
use crate::formats::org::read::{DYNAMIC, TASK};
use crate::formats::org::special_blocks::{name_of_role, special_block};

impl Writer<'_> {
    /// `#+begin_NAME`, blocks, `#+end_NAME`. In a block of the same name, which the first end would end,
    /// the name has a number.
    pub(super) fn holding(&mut self, name: &str, parameters: &str, content: &[Block]) {
        let same = format!("#+end_{name}");
        let numbered = |end: &&String| {
            let number = end.strip_prefix(&same).and_then(|rest| rest.strip_prefix('-'));
            number.is_some_and(|number| number.bytes().all(|byte| byte.is_ascii_digit()))
        };
        let depth = self.open.iter().filter(|end| **end == same || numbered(end)).count();
        let name = if depth > 0 { format!("{name}-{}", depth + 1) } else { name.to_string() };
        self.between(
            format!("#+begin_{name} {parameters}").trim_end(),
            &format!("#+end_{name}"),
            content,
        );
    }

    /// Whether something that ends like this is open already.
    fn is_open(&self, end: &str) -> bool {
        self.open.iter().any(|open| open == end)
    }

    fn between(&mut self, begin: &str, end: &str, content: &[Block]) {
        self.lines(begin);
        let outer = (self.is_start, self.has_list_before);
        (self.is_start, self.has_list_before) = (true, false);
        self.open.push(end.to_string());
        self.blocks(content);
        self.open.pop();
        (self.is_start, self.has_list_before) = outer;
        self.is_behind_heading = false;
        while self.out.ends_with("\n\n") {
            self.out.pop();
        }
        self.lines(end);
    }

    pub(super) fn admonition(&mut self, admonition: &Admonition, attributes: &Attributes) {
        let title = admonition.title.as_ref().map(|title| self.one_line(title));
        if admonition.kind == AdmonitionKind::Other(TASK.into()) && !self.is_inside() {
            let stars = "*".repeat(15);
            let title = title.unwrap_or_default();
            if admonition.content.is_empty() {
                return self.lines(&format!("{stars} {title}"));
            }
            return self.between(
                &format!("{stars} {title}"),
                &format!("{stars} END"),
                &admonition.content,
            );
        }
        self.attribute_lines(attributes, &[]);
        match &admonition.kind {
            AdmonitionKind::Other(word) => {
                let title = title.map(|title| format!(": {title}")).unwrap_or_default();
                self.holding("admonition", &format!("{word}{title}"), &admonition.content);
            }
            kind => {
                self.holding(kind.name(), &title.unwrap_or_default(), &admonition.content);
            }
        }
    }

    pub(super) fn group(&mut self, group: &Group, attributes: &Attributes) {
        let content = &group.content;
        if let Some(parameters) = attributes.pair(DYNAMIC).filter(|_| !self.is_open("#+end:")) {
            return self.between(&format!("#+begin: {parameters}"), "#+end:", content);
        }
        match &group.role {
            GroupRole::Centred => {
                self.attribute_lines(attributes, &[]);
                self.holding("center", "", content);
            }
            GroupRole::Drawer(name) => {
                let is_name = !name.is_empty()
                    && !name.eq_ignore_ascii_case("end")
                    && !name.eq_ignore_ascii_case("properties")
                    && name.chars().all(|c| c.is_alphanumeric() || matches!(c, '-' | '_'));
                let is_open = self.is_open(":END:");
                let start = self.out.len();
                self.attribute_lines(attributes, &[]);
                let begin = self.out.len();
                if is_name && !is_open {
                    self.between(&format!(":{name}:"), ":END:", content);
                }
                // Nothing in a drawer may look like its end, not even in code.
                let written = self.out.get(begin..).unwrap_or_default();
                let ends = written.lines().filter(|line| line.trim().eq_ignore_ascii_case(":end:"));
                if ends.count() != 1 {
                    self.out.truncate(start);
                    self.changed("a drawer");
                    self.blocks(content);
                }
            }
            GroupRole::Disclosure(summary) => {
                self.attribute_lines(attributes, &[]);
                let summary = self.one_line(summary);
                self.holding("details", &summary, content);
            }
            GroupRole::Plain => self.plain_group(content, attributes),
            role => {
                self.attribute_lines(attributes, &[]);
                match name_of_role(role) {
                    Some((name, words)) => self.holding(name, &words, content),
                    None => self.blocks(content),
                }
            }
        }
    }

    /// A group with a class is the special block of that name.
    fn plain_group(&mut self, content: &[Block], attributes: &Attributes) {
        let mut rest = attributes.clone();
        let is_name = |name: &str| {
            special_block(name).is_none()
                && !matches!(
                    name,
                    "quote" | "center" | "src" | "example" | "export" | "comment" | "verse"
                )
                && !name.is_empty()
                && name.chars().all(|c| c.is_alphanumeric() || matches!(c, '-' | '_'))
                && name.to_lowercase() == name
        };
        let classes = attributes.classes();
        match classes.first().filter(|name| is_name(name)) {
            Some(name) => {
                rest.edit().classes.remove(0);
                self.attribute_lines(&rest, &[]);
                self.holding(name, "", content);
            }
            None if attributes.is_empty() => {
                self.changed("a group of blocks");
                self.blocks(content);
            }
            None => {
                self.attribute_lines(attributes, &[]);
                self.holding("group", "", content);
            }
        }
    }
}
