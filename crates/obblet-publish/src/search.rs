//! The search index of a web folder: which words are on which pages. It is a set of scripts, so that
//! a page opened from a disk can read it too: `search.js` (see there), `search/pages.js` with the
//! titles and addresses, and a file for each first letter of a word.

use crate::fingerprint::Fingerprint;
use crate::plan::Plan;
use crate::site::Site;
use std::collections::{BTreeMap, BTreeSet, HashMap};

/// The script behind the search box.
const SCRIPT: &str = include_str!("search.js");

/// The folder of the index, below the output folder.
pub(crate) const FOLDER: &str = "search";

/// The file with the titles of all pages.
const PAGES: &str = "pages.js";

/// The longest word that is kept.
const LONGEST: usize = 40;

/// The words of all pages.
#[derive(Debug, Default)]
pub(crate) struct SearchIndex {
    /// The numbers of words.
    numbers: HashMap<String, u32>,
    /// The words of each page by its target, by their numbers.
    pages: HashMap<String, Vec<u32>>,
    has_earlier_pages: bool,
}

impl SearchIndex {
    /// What an earlier run has written, for pages that stay as they are.
    pub(crate) fn load(plan: &Plan) -> Self {
        let mut index = Self::default();
        // A run that did not end has left files of two indexes, or parts of them.
        if plan.left_behind.is_unfinished() {
            return index;
        }
        let Some(files) = earlier_files(plan) else { return index };
        let pages = files.iter().find(|(name, _)| *name == PAGES);
        let pages = pages.and_then(|(_, text)| read_call::<Vec<(String, String, String)>>(text));
        let Some(pages) = pages else { return index };
        for (_, target, _) in &pages {
            index.pages.insert(target.clone(), Vec::new());
        }
        for (_, text) in files.iter().filter(|(name, _)| *name != PAGES) {
            let words: BTreeMap<String, String> = read_call(text).unwrap_or_default();
            for (word, numbers) in words {
                let number = index.number(&word);
                let targets = apart(&numbers).filter_map(|page| pages.get(page));
                for (_, target, _) in targets {
                    index.pages.entry(target.clone()).or_default().push(number);
                }
            }
        }
        index.has_earlier_pages = true;
        index
    }

    fn number(&mut self, word: &str) -> u32 {
        if let Some(number) = self.numbers.get(word) {
            return *number;
        }
        let number = self.numbers.len() as u32;
        self.numbers.insert(word.to_string(), number);
        number
    }

    /// Sets the words of a page.
    pub(crate) fn set(&mut self, target: &str, words: BTreeSet<String>) {
        let words = words.iter().map(|word| self.number(word)).collect();
        self.pages.insert(target.to_string(), words);
    }

    /// Whether it has the words of all pages of the run before.
    pub(crate) fn has_earlier_pages(&self) -> bool {
        self.has_earlier_pages
    }

    /// The files of the index, for the pages of a web folder.
    pub(crate) fn files(&self, site: &Site, script: &str) -> Vec<(String, Vec<u8>)> {
        let mut words: Vec<&str> = vec![""; self.numbers.len()];
        for (word, number) in &self.numbers {
            if let Some(slot) = words.get_mut(*number as usize) {
                *slot = word;
            }
        }
        let mut pages = Vec::new();
        let mut found: BTreeMap<&str, Vec<usize>> = BTreeMap::new();
        for page in site.in_reading_order() {
            let number = pages.len();
            let target = page.target();
            let description = page.facts().description.as_deref().unwrap_or_default();
            pages.push((page.title(), target, description));
            let mut note = |word| found.entry(word).or_default().push(number);
            let numbers = self.pages.get(target).into_iter().flatten();
            numbers.filter_map(|number| words.get(*number as usize)).for_each(|word| note(word));
        }
        let mut files = vec![(script.to_string(), SCRIPT.as_bytes().to_vec())];
        files.push((format!("{FOLDER}/{PAGES}"), call("obbletPages", &pages)));
        let mut shards: BTreeMap<String, BTreeMap<&str, String>> = BTreeMap::new();
        for (word, numbers) in found {
            shards.entry(shard(word)).or_default().insert(word, together(&numbers));
        }
        files.extend(
            shards.into_iter().map(|(name, words)| {
                (format!("{FOLDER}/w-{name}.js"), call("obbletWords", &words))
            }),
        );
        files
    }
}

/// Whether a target is one of the files with words.
pub(crate) fn is_shard(target: &str) -> bool {
    let name = target.strip_prefix(FOLDER).and_then(|rest| rest.strip_prefix("/w-"));
    name.is_some_and(|name| name.ends_with(".js"))
}

/// The file that a word is in: by its first letter.
fn shard(word: &str) -> String {
    match word.chars().next() {
        Some(first) if first.is_ascii_alphanumeric() => first.to_string(),
        Some(first) => format!("u{:x}", first as u32 >> 5),
        None => "0".into(),
    }
}

/// Numbers as text: each as its distance from the one before, in base 36.
fn together(numbers: &[usize]) -> String {
    let mut text = String::new();
    let mut before = 0;
    for number in numbers {
        if !text.is_empty() {
            text.push(' ');
        }
        push_base_36(number - before, &mut text);
        before = *number;
    }
    text
}

fn push_base_36(mut number: usize, text: &mut String) {
    const DIGITS: &[u8; 36] = b"0123456789abcdefghijklmnopqrstuvwxyz";
    let mut digits = Vec::new();
    loop {
        digits.extend(DIGITS.get(number % 36).map(|digit| char::from(*digit)));
        number /= 36;
        if number == 0 {
            break;
        }
    }
    text.extend(digits.iter().rev());
}

fn apart(text: &str) -> impl Iterator<Item = usize> {
    let mut number = 0;
    text.split(' ').filter_map(move |distance| {
        number += usize::from_str_radix(distance, 36).ok()?;
        Some(number)
    })
}

/// A script that calls a function with some data.
fn call(function: &str, data: &impl serde::Serialize) -> Vec<u8> {
    // Plain data always has a JSON form.
    let json = serde_json::to_string(data).unwrap_or_default();
    format!("{function}({json})\n").into_bytes()
}

/// The files of the index as the run before has written them, each with its name; nothing where somebody has
/// taken one of them away or changed it, since none tells all.
fn earlier_files(plan: &Plan) -> Option<Vec<(&str, String)>> {
    let named = plan.before.targets.iter().filter_map(|(target, hash)| {
        let name = target.strip_prefix(FOLDER)?.strip_prefix('/')?;
        (name == PAGES || is_shard(target)).then_some((name, target, hash))
    });
    let read = named.map(|(name, target, hash)| {
        let text = std::fs::read_to_string(plan.output.join(target)).ok()?;
        (Fingerprint::of(text.as_bytes()) == *hash).then_some((name, text))
    });
    read.collect()
}

/// What such a script hands over.
fn read_call<T: serde::de::DeserializeOwned>(text: &str) -> Option<T> {
    let (_, json) = text.trim_end().strip_suffix(')')?.split_once('(')?;
    serde_json::from_str(json).ok()
}

/// The words of some HTML, in small letters: runs of letters and digits; in scripts without spaces
/// each sign is a word.
pub(crate) fn words_of(html: &str) -> BTreeSet<String> {
    let mut words = BTreeSet::new();
    let mut word = String::new();
    let mut rest = html;
    loop {
        let (text, tag) = match rest.split_once('<') {
            Some((text, tag)) => (text, Some(tag)),
            None => (rest, None),
        };
        words_of_text(text, &mut word, &mut words);
        let Some(tag) = tag else { break };
        // Emphasis inside a word leaves it one word; a new block begins a new one.
        if !is_inside_words(tag) {
            end_word(&mut word, &mut words);
        }
        rest = tag.split_once('>').map_or("", |(_, behind)| behind);
    }
    end_word(&mut word, &mut words);
    words
}

fn is_inside_words(tag: &str) -> bool {
    const INSIDE: [&str; 14] = [
        "a", "b", "code", "del", "em", "i", "ins", "mark", "s", "small", "span", "strong", "sub",
        "u",
    ];
    let name = tag.trim_start_matches('/');
    let end = name.find(|c: char| !c.is_ascii_alphanumeric()).unwrap_or(name.len());
    name.get(..end).is_some_and(|name| INSIDE.contains(&name))
}

fn words_of_text(text: &str, word: &mut String, words: &mut BTreeSet<String>) {
    let mut rest = text;
    while let Some(c) = rest.chars().next() {
        let mut width = c.len_utf8();
        match c {
            '&' => {
                // The writer spells but these four as references.
                let known = ["&amp;", "&lt;", "&gt;", "&quot;"];
                width = known.iter().find(|known| rest.starts_with(**known)).map_or(1, |k| k.len());
                end_word(word, words);
            }
            c if is_sign(c) => {
                end_word(word, words);
                words.insert(c.to_string());
            }
            c if c.is_alphanumeric() => word.extend(c.to_lowercase()),
            // A soft hyphen is no end of a word.
            '\u{AD}' => {}
            _ => end_word(word, words),
        }
        rest = rest.get(width..).unwrap_or_default();
    }
}

/// Signs of scripts that have no spaces between words.
fn is_sign(c: char) -> bool {
    matches!(c, '\u{3040}'..='\u{30FF}' | '\u{3400}'..='\u{4DBF}' | '\u{4E00}'..='\u{9FFF}')
        || matches!(c, '\u{F900}'..='\u{FAFF}' | '\u{20000}'..='\u{2FA1F}')
}

fn end_word(word: &mut String, words: &mut BTreeSet<String>) {
    let length = word.chars().count();
    if (2..=LONGEST).contains(&length) {
        words.insert(std::mem::take(word));
    }
    word.clear();
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_are_found_across_emphasis_and_not_across_blocks() {
        let cases = [
            ("<p>High <em>wa</em>ter at 12:30</p>", "12 30 at high water"),
            ("<p>Mill</p><p>race &amp; weir</p>", "mill race weir"),
            ("<h2 id=\"tide\">Flut&shy; M\u{FC}hle</h2>", "flut mühle shy"),
            ("<p>潮の力 a</p>", "の 力 潮"),
            ("<p title=\"x > y\">z1</p", "z1"),
        ];
        for (html, expected) in cases {
            let words: Vec<String> = words_of(html).into_iter().collect();
            assert_eq!(words.join(" "), expected, "{html}");
        }
    }

    #[test]
    fn numbers_come_back() {
        let numbers = [0, 1, 35, 36, 1000, 99_999];
        assert_eq!(together(&numbers), "0 1 y 1 qs 24dz");
        assert_eq!(apart(&together(&numbers)).collect::<Vec<_>>(), numbers);
    }
}
