//! Admonitions and groups.

use super::{Need, Writer};
use crate::document::{Admonition, AdmonitionKind, Attributes, Group, GroupRole};
use crate::formats::latex::read::admonition_title;

impl Writer<'_> {
    pub(super) fn admonition(&mut self, admonition: &Admonition, attributes: &Attributes) {
        self.need(Need::AdmonitionEnvironment);
        let title = match &admonition.title {
            Some(title) => self.as_argument(|writer| writer.inlines(title)),
            None => {
                let title = admonition_title(admonition.kind.name());
                self.as_argument(|writer| writer.text(&title))
            }
        };
        let kind = match &admonition.kind {
            AdmonitionKind::Other(name) => self.as_argument(|writer| writer.text(name)),
            kind => kind.name().to_string(),
        };
        let arguments = format!("{{{kind}}}{{{title}}}");
        self.environment("admonition", &arguments, &admonition.content, attributes);
    }

    pub(super) fn group(&mut self, group: &Group, attributes: &Attributes) {
        let content = &group.content;
        match &group.role {
            GroupRole::Plain => {
                let label = self.label(attributes);
                if !label.is_empty() {
                    self.paragraph_break();
                    self.out.push_str(&format!("\\phantomsection{label}\n"));
                }
                self.blocks(content);
            }
            GroupRole::Aside => {
                self.need(Need::AsideEnvironment);
                self.environment("aside", "", content, attributes);
            }
            GroupRole::Abstract if self.options.has_abstract() => {
                self.environment("abstract", "", content, attributes);
            }
            GroupRole::Abstract => {
                self.lost("that a part is the abstract");
                self.blocks(content);
            }
            GroupRole::Disclosure(summary) => {
                self.need(Need::DisclosureEnvironment);
                let summary = self.as_argument(|writer| writer.inlines(summary));
                let arguments = format!("{{{summary}}}");
                self.environment("disclosure", &arguments, content, attributes);
            }
            GroupRole::Statement(name) => self.statement(name, content, attributes),
            GroupRole::Drawer(name) => {
                let what = format!("the drawer “{name}”");
                self.lost(&what);
            }
            GroupRole::Columns(count) => {
                self.need(Need::Multicol);
                let count = (*count).clamp(2, 10);
                self.environment("multicols", &format!("{{{count}}}"), content, attributes);
            }
            GroupRole::Centred => self.environment("center", "", content, attributes),
            GroupRole::PageHeader | GroupRole::PageFooter => {
                self.lost("what stands at the top or bottom of every page");
            }
        }
    }
}
