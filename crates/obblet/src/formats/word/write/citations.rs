//! Citations: fields with the words that the text shows.

use super::Writer;
use super::runs::RunLook;
use crate::document::{Citation, plain_text};

impl<'d> Writer<'d> {
    /// A citation: a field that names its sources, with what readers see.
    pub(super) fn citation(&mut self, citation: &Citation, look: &RunLook, out: &mut String) {
        self.changed("a citation");
        let keys: Vec<&str> = citation.works.iter().map(|work| work.key.as_str()).collect();
        let mut instruction = String::from("CITATION");
        for (at, key) in keys.iter().enumerate() {
            instruction.push_str(if at == 0 { " " } else { " \\m " });
            instruction.push_str(key);
        }
        let shown: Vec<String> = citation
            .works
            .iter()
            .map(|work| {
                let cited = self.works.cite_text(&work.key, citation.form);
                let behind = plain_text(&work.behind);
                let behind = if behind.is_empty() { behind } else { format!(", {behind}") };
                format!("{} {cited}{behind}", plain_text(&work.before).trim()).trim().to_string()
            })
            .collect();
        let (open, close) = self.works.brackets(citation);
        let shown = format!("{open}{}{close}", shown.join("; "));
        self.push_field(&instruction, &shown, look, out);
    }
}
