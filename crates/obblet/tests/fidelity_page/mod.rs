//! The page that shows how constructs fare between formats.

use obblet::Format;
use obblet::findings::{Finding, FindingKind};
use std::collections::BTreeMap;
use std::fmt::Write as _;

/// How a construct fares.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Fate {
    Kept,
    Changed,
    Lost,
}

impl Fate {
    /// By the worst of what is said.
    pub(crate) fn of(said: &[Finding]) -> Self {
        let has = |kind: FindingKind| said.iter().any(|finding| finding.kind() == kind);
        if has(FindingKind::Lost) {
            Self::Lost
        } else if has(FindingKind::Changed) || has(FindingKind::Repaired) {
            Self::Changed
        } else {
            Self::Kept
        }
    }

    fn word(self) -> &'static str {
        match self {
            Self::Kept => "kept",
            Self::Changed => "changed",
            Self::Lost => "lost",
        }
    }
}

/// What is said of all that is lost, in words; of what is changed, where nothing is lost.
pub(crate) fn reason(said: &[Finding]) -> String {
    let has_lost = said.iter().any(|finding| finding.kind() == FindingKind::Lost);
    let told = said.iter().filter(|finding| !has_lost || finding.kind() == FindingKind::Lost);
    let mut words: Vec<String> =
        told.map(|finding| Finding { count: 1, ..finding.clone() }.message()).collect();
    words.dedup();
    words.join("; ").replace('|', "\\|").replace('<', "\\<")
}

/// Names by the format and the reason that they share.
type Reasons = BTreeMap<(usize, String), Vec<String>>;

/// What becomes of all constructs that one format can say.
pub(crate) struct Table {
    pub(crate) from: Format,
    /// The constructs, and how they fare in each format.
    pub(crate) rows: Vec<(String, Vec<Fate>)>,
    /// Why some are lost, by the number of the format.
    pub(crate) lost: Reasons,
}

impl Table {
    pub(crate) fn count(&self, to: usize, fate: Fate) -> usize {
        self.rows.iter().filter(|(_, fates)| fates.get(to) == Some(&fate)).count()
    }

    fn push(&self, page: &mut String, formats: &[Format]) {
        let _ = write!(page, "\n## From {}\n\n| Construct |", self.from.title());
        head(page, formats);
        for (name, fates) in &self.rows {
            let words: Vec<&str> = fates.iter().map(|fate| fate.word()).collect();
            let _ = writeln!(page, "| {name} | {} |", words.join(" | "));
        }
        if !self.lost.is_empty() {
            page.push_str("\n<details>\n<summary>Why it is lost</summary>\n");
            push_reasons(page, &self.lost, formats);
            page.push_str("\n</details>\n");
        }
    }
}

fn head(page: &mut String, formats: &[Format]) {
    for format in formats {
        let _ = write!(page, " {} |", format.title());
    }
    page.push_str("\n| --- |");
    page.push_str(&" --- |".repeat(formats.len()));
    page.push('\n');
}

fn push_reasons(page: &mut String, reasons: &Reasons, formats: &[Format]) {
    page.push_str("\n| In | Constructs | Said |\n| --- | --- | --- |\n");
    for ((format, why), names) in reasons {
        let _ = writeln!(page, "| {} | {} | {why} |", formats[*format].title(), names.join(", "));
    }
}

/// The whole page. What a format cannot say at all is no row of its own table.
pub(crate) fn page(formats: &[Format], tables: &[Table], unsayable: &Reasons) -> String {
    let mut page = String::from(HEAD);
    page.push_str("\n| From |");
    head(&mut page, formats);
    for table in tables {
        let _ = write!(page, "| {} |", table.from.title());
        for to in 0..formats.len() {
            let counts = [Fate::Kept, Fate::Changed, Fate::Lost].map(|fate| table.count(to, fate));
            let [kept, changed, lost] = counts;
            let _ = write!(page, " {kept}·{changed}·{lost} |");
        }
        page.push('\n');
    }
    tables.iter().for_each(|table| table.push(&mut page, formats));
    page.push_str("\n## What a format cannot say at all\n");
    push_reasons(&mut page, unsayable, formats);
    page
}

const HEAD: &str = "\
# Fidelity

What becomes of each construct between each two formats. This page is made by a test
(`crates/obblet/tests/fidelity.rs`), which takes every construct of `tests/fixtures/fidelity.txt` through
every writer and reads it back.

*Kept*: it comes back as it was. *Changed*: it is there in another form, and a finding says so. *Lost*: it
is not there, or a part of it is not, and a finding says so. The test fails where something is not there as it was
and nothing says so.

How many constructs are kept·changed·lost, of those that the first format can say:
";
