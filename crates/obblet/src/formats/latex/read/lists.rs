//! Lists: `itemize`, `enumerate`, `description`, with the options of their packages.

use super::{Reader, Stop, keys};
use crate::document::{
    Block, BlockKind, CheckState, CompactString, DescriptionItem, Inline, List, ListItem, ListKind,
    ListSpacing, NumberDelimiter, Numbering, NumeralStyle, plain_text,
};
use crate::findings::Code;
use crate::tex::Spot;

/// A list that is being read.
#[derive(Debug, Clone)]
pub(super) struct OpenList {
    /// The counter of a numbered one.
    counter: Option<&'static str>,
    /// How its items are numbered, where its options say so: references show that whole.
    stated: Option<Numbering>,
}

/// The counters of numbered lists by their depth.
const COUNTERS: [&str; 4] = ["enumi", "enumii", "enumiii", "enumiv"];

impl Reader<'_> {
    pub(super) fn list(&mut self, name: &str, spot: Spot) {
        let options = self.front.option_text().unwrap_or_default();
        if name == "list" {
            self.front.argument();
            self.front.argument();
        }
        self.sheet.end_paragraph();
        let place = spot.into();
        if name.starts_with("desc") || name == "compactdesc" {
            let kind = BlockKind::DescriptionList(self.descriptions(name, spot));
            return self.sheet.push_block(Block::new(kind).at(place));
        }
        let is_numbered = name.contains("enum");
        let kind = match is_numbered {
            true => ListKind::Numbered(self.numbering(&options)),
            false => ListKind::Bulleted(None),
        };
        let counter = is_numbered.then(|| self.list_counter());
        if let (Some(counter), ListKind::Numbered(numbering)) = (counter, &kind) {
            self.front.set_counter(counter, i64::from(numbering.start) - 1);
        }
        let stated = match &kind {
            ListKind::Numbered(numbering) if has_label(&options) => Some(numbering.clone()),
            _ => None,
        };
        self.lists.push(OpenList { counter, stated });
        let items = self.items(name, spot, counter);
        self.lists.pop();
        if let Some(counter) = counter {
            let last = self.front.counter(counter);
            self.resumed.insert(counter.to_string(), last);
        }
        if items.is_empty() {
            return;
        }
        let is_compact = keys::options(&options)
            .iter()
            .any(|(key, _)| matches!(key.as_str(), "noitemsep" | "nosep" | "tight"))
            || name.starts_with("compact");
        let spacing = match items.iter().all(|item| is_line(&item.content)) {
            _ if is_compact => ListSpacing::Tight,
            true => ListSpacing::Tight,
            false => ListSpacing::Loose,
        };
        let list = List { kind, spacing, items };
        self.sheet.push_block(Block::new(BlockKind::List(Box::new(list))).at(place));
    }

    fn list_counter(&self) -> &'static str {
        let depth = self.lists.iter().filter(|list| list.counter.is_some()).count();
        COUNTERS.get(depth).copied().unwrap_or("enumiv")
    }

    /// How a list is numbered: by its depth, or as its options say.
    fn numbering(&mut self, options: &str) -> Numbering {
        let depth = self.lists.iter().filter(|list| list.counter.is_some()).count();
        let (style, delimiter) = match depth {
            0 => (NumeralStyle::Decimal, NumberDelimiter::Period),
            1 => (NumeralStyle::LowerLetter, NumberDelimiter::Parentheses),
            2 => (NumeralStyle::LowerRoman, NumberDelimiter::Period),
            _ => (NumeralStyle::UpperLetter, NumberDelimiter::Period),
        };
        let mut numbering = Numbering { style, delimiter, ..Numbering::default() };
        for (key, value) in keys::options(options) {
            match key.as_str() {
                "label" => pattern(&value, &mut numbering),
                "start" => numbering.start = value.parse().unwrap_or(1),
                "resume" | "resume*" => {
                    let counter = self.list_counter();
                    let last = self.resumed.get(counter).copied().unwrap_or(0);
                    numbering.start = i32::try_from(last + 1).unwrap_or(1);
                }
                // Short labels of another package: `[(a)]`, `[1.]`.
                _ if value.is_empty() && is_short_label(&key) => pattern(&key, &mut numbering),
                _ => {}
            }
        }
        numbering
    }

    /// The items up to the end of the list.
    fn items(&mut self, name: &str, spot: Spot, counter: Option<&'static str>) -> Vec<ListItem> {
        let mut items: Vec<ListItem> = Vec::new();
        let mut open: Option<ListItem> = None;
        loop {
            let mut stop = Stop::End;
            let sheet = self.nested(|reader| {
                reader.sheet.is_list = true;
                stop = reader.run(None);
            });
            let content = sheet.into_blocks();
            match &mut open {
                Some(item) => item.content.extend(content),
                None if content.is_empty() => {}
                // Before the first item stands nothing, or an item without its mark.
                None => open = Some(ListItem { content, ..ListItem::default() }),
            }
            match stop {
                Stop::Item => {
                    items.extend(open.take());
                    open = Some(self.item(counter));
                }
                stop if self.ends(stop, name, spot) => break,
                _ => {}
            }
        }
        items.extend(open);
        items.into_iter().map(settled).collect()
    }

    /// What stands behind `\item`: perhaps a mark of its own.
    fn item(&mut self, counter: Option<&'static str>) -> ListItem {
        let place = self.place();
        let label = self.front.option();
        let mut item = ListItem { place, ..ListItem::default() };
        match (label, counter) {
            (Some(label), _) => {
                let text = self.front.typed(&label);
                match check_state(text.trim()) {
                    Some(state) => item.check = Some(state),
                    None => {
                        let label = plain_text(&self.inlines_of(label));
                        item.label = Some(label.trim().into()).filter(|_| !label.trim().is_empty());
                    }
                }
            }
            (None, Some(counter)) => {
                self.front.step_counter(counter);
                let number = self.front.shown_counter(counter);
                let prefix = match counter {
                    "enumii" => self.front.shown_counter("enumi"),
                    "enumiii" => {
                        let (one, two) =
                            (self.front.shown_counter("enumi"), self.front.shown_counter("enumii"));
                        format!("{one}({two})").into()
                    }
                    _ => CompactString::default(),
                };
                let stated = self.lists.last().and_then(|list| list.stated.as_ref());
                let shown = match stated {
                    Some(numbering) => shown_number(
                        numbering,
                        i32::try_from(self.front.counter(counter)).unwrap_or(1),
                    ),
                    None => format!("{prefix}{number}"),
                };
                self.labels.current(&shown, "item");
            }
            (None, None) => {}
        }
        item
    }

    fn descriptions(&mut self, name: &str, spot: Spot) -> Vec<DescriptionItem> {
        let mut items: Vec<DescriptionItem> = Vec::new();
        loop {
            let mut stop = Stop::End;
            let sheet = self.nested(|reader| {
                reader.sheet.is_list = true;
                stop = reader.run(None);
            });
            let content = sheet.into_blocks();
            if !content.is_empty() {
                match items.last_mut() {
                    Some(item) => item.descriptions.push(content),
                    None => items
                        .push(DescriptionItem { terms: Vec::new(), descriptions: vec![content] }),
                }
            }
            match stop {
                Stop::Item => {
                    let term = self.inline_option().unwrap_or_default();
                    match items.last_mut() {
                        // Several terms in a row share what is said about them.
                        Some(item) if item.descriptions.is_empty() => item.terms.push(term),
                        _ => items
                            .push(DescriptionItem { terms: vec![term], descriptions: Vec::new() }),
                    }
                }
                stop if self.ends(stop, name, spot) => break,
                _ => {}
            }
        }
        if items.is_empty() {
            self.findings.add_about(Code::GroupUnclosed, "description", Some(spot.into()));
        }
        items
    }
}

fn has_label(options: &str) -> bool {
    keys::options(options)
        .iter()
        .any(|(key, value)| key == "label" || (value.is_empty() && is_short_label(key)))
}

/// A number with what stands around it.
fn shown_number(numbering: &Numbering, number: i32) -> String {
    let number = numbering.style.spell(number);
    match numbering.delimiter {
        NumberDelimiter::Period => format!("{number}."),
        NumberDelimiter::Parenthesis => format!("{number})"),
        NumberDelimiter::Parentheses => format!("({number})"),
        NumberDelimiter::None => number,
    }
}

/// A label that stands at the start of an item is the item's own.
fn settled(mut item: ListItem) -> ListItem {
    let Some(Block { kind: BlockKind::Paragraph(content), .. }) = item.content.first_mut() else {
        return item;
    };
    if let Some(Inline::Anchor(anchor)) = content.first() {
        let id = anchor.id.clone();
        content.remove(0);
        item.attributes.edit().id = Some(id);
        if let Some(Inline::Text(text)) = content.first_mut() {
            *text = text.trim_start().into();
        }
        if content.is_empty() {
            item.content.remove(0);
        }
    } else if let Some(Inline::Anchor(anchor)) = content.last() {
        // At the end of the line it means the same.
        let id = anchor.id.clone();
        content.pop();
        item.attributes.edit().id = Some(id);
    }
    item
}

/// Whether an item is a line, perhaps with lists below it.
fn is_line(content: &[Block]) -> bool {
    match content.split_first() {
        Some((first, rest)) => {
            let is_list = |block: &Block| {
                matches!(block.kind, BlockKind::List(_) | BlockKind::DescriptionList(_))
            };
            (matches!(first.kind, BlockKind::Paragraph(_)) || is_list(first))
                && rest.iter().all(is_list)
        }
        None => true,
    }
}

/// The boxes of tasks.
fn check_state(label: &str) -> Option<CheckState> {
    let bare: String =
        label.chars().filter(|c| !c.is_whitespace() && !matches!(c, '$' | '{' | '}')).collect();
    Some(match bare.as_str() {
        r"\square" | r"\Box" | "☐" => CheckState::Open,
        r"\boxtimes" | r"\blacksquare" | r"\checkmark" | r"\CheckedBox" | "☑" | "☒" => {
            CheckState::Done
        }
        r"\boxminus" | r"\boxdot" => CheckState::Partial,
        _ => return None,
    })
}

fn is_short_label(key: &str) -> bool {
    let bare = key.trim_matches(['(', ')', '.', '[', ']']);
    matches!(bare, "1" | "a" | "A" | "i" | "I")
        || key.contains(r"\arabic")
        || key.contains(r"\alph")
}

/// `(\alph*)`, `\Roman*.`, `(i)`: a numeral style and what stands around it.
fn pattern(label: &str, numbering: &mut Numbering) {
    const STYLES: [(&str, NumeralStyle); 10] = [
        (r"\arabic*", NumeralStyle::Decimal),
        (r"\alph*", NumeralStyle::LowerLetter),
        (r"\Alph*", NumeralStyle::UpperLetter),
        (r"\roman*", NumeralStyle::LowerRoman),
        (r"\Roman*", NumeralStyle::UpperRoman),
        ("1", NumeralStyle::Decimal),
        ("a", NumeralStyle::LowerLetter),
        ("A", NumeralStyle::UpperLetter),
        ("i", NumeralStyle::LowerRoman),
        ("I", NumeralStyle::UpperRoman),
    ];
    let label = label.replace(' ', "");
    let label = label.trim_matches(['{', '}']);
    for (name, style) in STYLES {
        let Some((before, behind)) = label.split_once(name) else { continue };
        if name.len() == 1 && label.contains('\\') {
            continue;
        }
        numbering.style = style;
        numbering.delimiter = match (before, behind) {
            ("(", ")") => NumberDelimiter::Parentheses,
            ("", ")") => NumberDelimiter::Parenthesis,
            ("", "") => NumberDelimiter::None,
            _ => NumberDelimiter::Period,
        };
        return;
    }
}
