//! Blocks that hold blocks: special blocks, drawers, inline tasks.

use super::Writer;
use crate::document::{Admonition, AdmonitionKind, Attributes, Block, Group, GroupRole};
use crate::formats::org::read::{DYNAMIC, TASK};
use crate::formats::org::special_blocks::{name_of_role, special_block};

impl Writer<'_> {
    /// `#+begin_NAME`, blocks, `#+end_NAME`.
    pub(super) fn holding(&mut self, name: &str, parameters: &str, content: &[Block]) {
        self.between(
            format!("#+begin_{name} {parameters}").trim_end(),
            &format!("#+end_{name}"),
            content,
        );
    }

    fn between(&mut self, begin: &str, end: &str, content: &[Block]) {
        self.lines(begin);
        let outer = (self.is_start, self.has_list_before);
        (self.is_start, self.has_list_before) = (true, false);
        self.blocks(content);
        (self.is_start, self.has_list_before) = outer;
        self.is_behind_heading = false;
        while self.out.ends_with("\n\n") {
            self.out.pop();
        }
        self.lines(end);
    }

    pub(super) fn admonition(&mut self, admonition: &Admonition, attributes: &Attributes) {
        let title = admonition.title.as_ref().map(|title| self.one_line(title));
        if admonition.kind == AdmonitionKind::Other(TASK.into()) && self.indentation == 0 {
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
        if let Some(parameters) = attributes.pair(DYNAMIC) {
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
                if !is_name {
                    self.changed("a drawer");
                    return self.blocks(content);
                }
                self.attribute_lines(attributes, &[]);
                self.between(&format!(":{name}:"), ":END:", content);
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
