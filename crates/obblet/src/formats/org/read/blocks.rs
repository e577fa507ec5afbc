//! Blocks that hold elements or lines: quotations, verse, special and dynamic blocks, environments.

use super::Reader;
use super::affiliated::Affiliated;
use super::lines::{block_begin, dynamic_begin, environment};
use crate::document::{
    Admonition, AdmonitionKind, Block, BlockKind, Figure, Foreign, Group, GroupRole, Inline, Place,
    plain_text,
};
use crate::findings::Code;
use crate::formats::org::special_blocks::{SpecialBlock, capitalised, special_block};
use crate::math::Formula;
use crate::notation::{read_tex, report};
use std::ops::Range;
use std::sync::Arc;

/// The attribute that keeps what a dynamic block is made from.
pub(in crate::formats::org) const DYNAMIC: &str = "dynamic-block";

/// Environments of LaTeX that hold formulas; a star may follow.
const FORMULAS: [&str; 13] = [
    "align",
    "alignat",
    "displaymath",
    "eqnarray",
    "equation",
    "flalign",
    "gather",
    "math",
    "multline",
    "subequations",
    "xalignat",
    "xxalignat",
    "dmath",
];

impl Reader<'_> {
    pub(super) fn block(
        &mut self,
        at: usize,
        close: usize,
        affiliated: &Affiliated,
        out: &mut Vec<Block>,
    ) {
        let Some(line) = self.lines.get(at).copied() else { return };
        let Some((name, parameters)) = block_begin(line.trimmed()) else { return };
        let inside = at + 1..close;
        let place = self.place_of(&(at..close + 1));
        let name = name.to_ascii_lowercase();
        match name.as_str() {
            "src" => self.code(parameters, inside, affiliated, place, out),
            "example" => self.example(parameters, inside, place, out),
            "export" => {
                let format =
                    parameters.split_whitespace().next().unwrap_or_default().to_lowercase();
                let foreign = Foreign { format: format.into(), markup: self.text_of(inside) };
                out.push(Block::new(BlockKind::Foreign(Box::new(foreign))).at(place));
            }
            "comment" => {
                let text = self.text_of(inside);
                let text = text.trim_end_matches('\n').into();
                out.push(Block::new(BlockKind::SourceRemark(text)).at(place));
            }
            "verse" => {
                let verse = BlockKind::Verse(self.verse(inside));
                out.push(Block::new(verse).at(place));
            }
            _ => {
                let name = self.name_without_number(&name).to_string();
                self.open_blocks.push(name.clone());
                let read = self.deeper(place, |reader| reader.elements(inside.clone()));
                self.open_blocks.pop();
                let content = read.unwrap_or_else(|| self.as_text(inside));
                let block = self.holding(&name, parameters, content, place);
                out.push(block);
            }
        }
    }

    /// `quote-2` in a quotation is one more: the end of a `quote` would be that of the outer one.
    fn name_without_number<'n>(&self, name: &'n str) -> &'n str {
        let numbered = name.rsplit_once('-').filter(|(base, number)| {
            number.bytes().all(|byte| byte.is_ascii_digit())
                && self.open_blocks.iter().any(|open| open == base)
        });
        numbered.map_or(name, |(base, _)| base)
    }

    /// A block that holds elements.
    fn holding(
        &mut self,
        name: &str,
        parameters: &str,
        content: Vec<Block>,
        place: Place,
    ) -> Block {
        let group = |role, content| BlockKind::Group(Box::new(Group { role, content }));
        let kind = match name {
            "quote" => BlockKind::Quotation(content),
            "center" => group(GroupRole::Centred, content),
            _ => match special_block(name) {
                Some(special) => self.special(special, name, parameters, content, place),
                None => {
                    let mut block = Block::new(group(GroupRole::Plain, content)).at(place);
                    block.attributes.edit().classes.push(name.into());
                    if !parameters.is_empty() {
                        self.findings.count(Code::AttributeDropped, parameters, Some(place));
                    }
                    return block;
                }
            },
        };
        Block::new(kind).at(place)
    }

    fn special(
        &mut self,
        special: SpecialBlock,
        name: &str,
        parameters: &str,
        mut content: Vec<Block>,
        place: Place,
    ) -> BlockKind {
        let words = self.inlines_of_text(parameters, place);
        let title = (!words.is_empty()).then_some(words);
        let role = match special {
            SpecialBlock::Admonition(mut kind) => {
                let mut title = title;
                if matches!(kind, AdmonitionKind::Other(_)) {
                    let (word, rest) = parameters.split_once(':').unwrap_or((parameters, ""));
                    kind = AdmonitionKind::Other(word.trim().into());
                    let rest = self.inlines_of_text(rest.trim(), place);
                    title = (!rest.is_empty()).then_some(rest);
                }
                return BlockKind::Admonition(Box::new(Admonition { kind, title, content }));
            }
            SpecialBlock::Figure => {
                return BlockKind::Figure(Box::new(Figure { content, caption: None }));
            }
            SpecialBlock::Aside => GroupRole::Aside,
            SpecialBlock::Abstract => GroupRole::Abstract,
            SpecialBlock::Disclosure => {
                let summary = title.or_else(|| take_summary(&mut content));
                GroupRole::Disclosure(summary.unwrap_or_default())
            }
            SpecialBlock::Statement => {
                let words = title.map(|title| plain_text(&title));
                let shown = match words {
                    Some(words) if name == "statement" => words,
                    Some(words) => format!("{} ({words})", capitalised(name)),
                    None => capitalised(name),
                };
                GroupRole::Statement(shown.into())
            }
            SpecialBlock::Columns => match parameters.trim().parse() {
                Ok(count) => GroupRole::Columns(count),
                Err(_) => GroupRole::Plain,
            },
            SpecialBlock::PageHeader => GroupRole::PageHeader,
            SpecialBlock::PageFooter => GroupRole::PageFooter,
        };
        BlockKind::Group(Box::new(Group { role, content }))
    }

    /// A block that a program fills; what it was filled with last is what there is.
    pub(super) fn dynamic_block(&mut self, at: usize, close: usize, out: &mut Vec<Block>) {
        let place = self.place_of(&(at..close + 1));
        let parameters = self.lines.get(at).and_then(|line| dynamic_begin(line.trimmed()));
        let parameters = parameters.unwrap_or_default().to_string();
        let read = self.deeper(place, |reader| reader.elements(at + 1..close));
        let content = read.unwrap_or_else(|| self.as_text(at + 1..close));
        if !self.options.keeps_hidden {
            let name = parameters.split_whitespace().next().unwrap_or_default();
            self.findings.count(Code::CodeNotRun, name, Some(place));
            return out.extend(content);
        }
        let group = Group { role: GroupRole::Plain, content };
        let mut block = Block::new(BlockKind::Group(Box::new(group))).at(place);
        block.attributes.edit().pairs.push((DYNAMIC.into(), parameters.into()));
        out.push(block);
    }

    /// Lines of verse: white space before them is kept.
    fn verse(&mut self, range: Range<usize>) -> Vec<Vec<Inline>> {
        let mut verse = Vec::new();
        let lines: Vec<_> = self.lines.get(range).unwrap_or_default().to_vec();
        let filled = lines.iter().filter(|line| !line.is_blank());
        let least = filled.map(|line| line.text.len() - line.trimmed().len()).min().unwrap_or(0);
        for line in lines {
            let text = line.trimmed().trim_end();
            let text = text.strip_suffix("\\\\").map_or(text, str::trim_end);
            let indented = (line.text.len() - line.trimmed().len()).saturating_sub(least);
            let mut content = Vec::new();
            if !text.is_empty() {
                if indented > 0 {
                    content.push(Inline::Text("\u{a0}".repeat(indented).into()));
                }
                content.extend(self.inlines_of_text(text, line.place()));
            }
            verse.push(content);
        }
        while verse.last().is_some_and(Vec::is_empty) {
            verse.pop();
        }
        let blank = verse.iter().take_while(|line| line.is_empty()).count();
        verse.drain(..blank);
        verse.dedup_by(|line, before| line.is_empty() && before.is_empty());
        verse
    }

    /// An environment of LaTeX: a formula, or markup that only LaTeX can read.
    pub(super) fn environment(
        &mut self,
        range: Range<usize>,
        affiliated: &Affiliated,
        out: &mut Vec<Block>,
    ) {
        let place = self.place_of(&range);
        let lines = self.lines.get(range).unwrap_or_default();
        let name = lines.first().and_then(|line| environment(line.trimmed())).unwrap_or_default();
        let source: Vec<&str> = lines.iter().map(|line| line.trimmed().trim_end()).collect();
        let source = source.join("\n");
        let plain = name.trim_end_matches('*');
        if !FORMULAS.contains(&plain) || !self.settings.options.formulas {
            let foreign = Foreign { format: "latex".into(), markup: source };
            return out.push(Block::new(BlockKind::Foreign(Box::new(foreign))).at(place));
        }
        let mut formula = Formula { display: true, ..Formula::default() };
        let is_single = matches!(plain, "equation" | "displaymath" | "math" | "dmath");
        formula.source = match is_single {
            true => source
                .strip_prefix(&format!("\\begin{{{name}}}"))
                .and_then(|rest| rest.strip_suffix(&format!("\\end{{{name}}}")))
                .unwrap_or(&source)
                .trim()
                .to_string(),
            false => source,
        };
        let label = is_single.then(|| take_label(&mut formula.source)).flatten();
        let label = label.or_else(|| affiliated.name.clone());
        let is_numbered = matches!(name, "equation" | "dmath");
        if is_numbered {
            let number = self.targets.count("equation");
            formula.number = Some(number.to_string().into());
            if let Some(label) = &label {
                self.targets.add_number(label, number);
            }
        }
        formula.label = label.filter(|_| is_single).map(Into::into);
        let formula = self.with_tree(formula, place);
        out.push(Block::new(BlockKind::Formula(Box::new(formula))).at(place));
    }

    /// Reads what a formula says; what is wrong with it is told here.
    pub(super) fn with_tree(&mut self, mut formula: Formula, place: Place) -> Formula {
        let (tree, problems) = read_tex(&formula.source);
        if problems.is_empty() {
            formula.tree = Some(Arc::new(tree));
            return formula;
        }
        let unbalanced: Vec<_> = problems.into_iter().filter(|p| p.is_about_balance()).collect();
        report(&unbalanced, &mut self.findings, Some(place));
        formula
    }
}

/// What a block `summary` at the start holds.
fn take_summary(content: &mut Vec<Block>) -> Option<Vec<Inline>> {
    let first = content.first_mut()?;
    let is_summary = first
        .attributes
        .get()
        .is_some_and(|set| set.classes.iter().any(|class| class == "summary"));
    let BlockKind::Group(group) = &mut first.kind else { return None };
    let [Block { kind: BlockKind::Paragraph(words), .. }] = group.content.as_mut_slice() else {
        return None;
    };
    let words = is_summary.then(|| std::mem::take(words))?;
    content.remove(0);
    Some(words)
}

/// Takes `\label{…}` out of a formula.
fn take_label(source: &mut String) -> Option<String> {
    let start = source.find("\\label{")?;
    let end = start + source.get(start..)?.find('}')?;
    let label = source.get(start + 7..end)?.to_string();
    source.replace_range(start..=end, "");
    *source = source.trim().to_string();
    Some(label)
}
