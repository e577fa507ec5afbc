//! How works are shown: in citations by author and year, in lists by everything that is known.

use crate::document::{Citation, CitationForm, CitedWork, Formatting, Inline, build};
use std::collections::HashMap;

/// The works of a document, as they are shown.
#[derive(Debug, Default)]
pub(crate) struct Shown<'d> {
    works: Vec<&'d CitedWork>,
    by_key: HashMap<&'d str, usize>,
    /// How many works come before the first that is known as text.
    first_text: usize,
    /// What tells works of one author and year apart: `a`, `b`.
    letters: Vec<String>,
}

impl<'d> Shown<'d> {
    /// In the order of the list: by author, year and title; works as text in their own order.
    pub(crate) fn of(bibliography: &'d [CitedWork]) -> Self {
        let mut works: Vec<&CitedWork> = bibliography.iter().collect();
        works.sort_by_key(|work| (is_text(work), sort_key(work)));
        let by_key = works.iter().enumerate().map(|(at, work)| (work.key.as_str(), at)).collect();
        let mut letters = vec![String::new(); works.len()];
        let mut same: HashMap<(String, String), Vec<usize>> = HashMap::new();
        for (at, work) in works.iter().enumerate().filter(|(_, work)| !is_text(work)) {
            same.entry((author_text(work), year(work))).or_default().push(at);
        }
        for group in same.values().filter(|group| group.len() > 1) {
            for (number, at) in group.iter().enumerate() {
                let letter = char::from_u32('a' as u32 + number.min(25) as u32);
                if let (Some(place), Some(letter)) = (letters.get_mut(*at), letter) {
                    *place = letter.into();
                }
            }
        }
        let first_text = works.partition_point(|work| !is_text(work));
        Self { works, by_key, first_text, letters }
    }

    pub(crate) fn work(&self, key: &str) -> Option<&'d CitedWork> {
        self.by_key.get(key).and_then(|at| self.works.get(*at)).copied()
    }

    /// The works in the order of the list.
    pub(crate) fn works(&self) -> impl Iterator<Item = &'d CitedWork> + '_ {
        self.works.iter().copied()
    }

    /// What a citation says of one work, without brackets.
    pub(crate) fn cite_text(&self, key: &str, form: CitationForm) -> String {
        let Some(at) = self.by_key.get(key).copied() else { return key.to_string() };
        let Some(work) = self.works.get(at) else { return key.to_string() };
        if is_text(work) {
            let label = field(work, "label").map(ToString::to_string);
            let parts = label.as_deref().and_then(split_label);
            return match (parts, form) {
                (Some((author, _)), CitationForm::AuthorOnly) => author,
                (Some((_, year)), CitationForm::YearOnly) => year,
                (Some((author, year)), CitationForm::InText) => format!("{author} ({year})"),
                (Some((author, year)), _) => format!("{author} {year}"),
                (None, _) => label.unwrap_or_else(|| self.number(at)),
            };
        }
        let year = format!("{}{}", year(work), self.letters.get(at).map_or("", |letter| letter));
        let author = author_text(work);
        match form {
            CitationForm::AuthorOnly => author,
            CitationForm::YearOnly => year,
            CitationForm::InText => format!("{author} ({year})"),
            CitationForm::Bracketed | CitationForm::Silent => format!("{author} {year}"),
        }
    }

    /// Whether every work can be cited by its year.
    pub(crate) fn have_years(&self) -> bool {
        self.works.iter().all(|work| !self.author_and_year(&work.key).1.is_empty())
    }

    /// Who and when, as a label shows them; the year is empty where that is not known.
    pub(crate) fn author_and_year(&self, key: &str) -> (String, String) {
        let Some(work) = self.work(key) else { return Default::default() };
        if is_text(work) {
            return field(work, "label").and_then(split_label).unwrap_or_default();
        }
        let at = self.by_key.get(key).copied().unwrap_or(0);
        let letter = self.letters.get(at).map_or("", |letter| letter);
        (author_text(work), format!("{}{letter}", year(work)))
    }

    /// The entry of a work without the label before it.
    pub(crate) fn bare_entry(&self, work: &CitedWork) -> Vec<Inline> {
        match field(work, "text") {
            Some(text) => as_shown(work, text),
            None => self.entry(work),
        }
    }

    /// Works as text have numbers, in their own order; they are the last ones of the list.
    fn number(&self, at: usize) -> String {
        (at + 1).saturating_sub(self.first_text).to_string()
    }

    /// The brackets around a whole citation.
    pub(crate) fn brackets(&self, citation: &Citation) -> (&'static str, &'static str) {
        let has_no_year = |work: &CitedWork| {
            is_text(work) && field(work, "label").and_then(split_label).is_none()
        };
        let is_numbered =
            citation.works.iter().any(|cite| self.work(&cite.key).is_none_or(has_no_year));
        match citation.form {
            CitationForm::Bracketed if is_numbered => ("[", "]"),
            CitationForm::Bracketed => ("(", ")"),
            CitationForm::InText if is_numbered => ("[", "]"),
            _ => ("", ""),
        }
    }

    /// The entry of a work in the list.
    pub(crate) fn entry(&self, work: &CitedWork) -> Vec<Inline> {
        if let Some(text) = field(work, "text") {
            let at = self.by_key.get(work.key.as_str()).copied().unwrap_or(0);
            let label = field(work, "label").map_or_else(|| self.number(at), ToString::to_string);
            if split_label(&label).is_some() {
                return as_shown(work, text);
            }
            let mut entry = vec![format!("[{label}] ").into()];
            match as_shown(work, text).as_slice() {
                [Inline::Text(text)] => return vec![format!("[{label}] {text}").into()],
                content => entry.extend_from_slice(content),
            }
            return entry;
        }
        let at = self.by_key.get(work.key.as_str()).copied().unwrap_or(0);
        let letter = self.letters.get(at).map_or("", |letter| letter);
        let mut entry = Vec::new();
        let people = all_people(work);
        let year = format!("{}{letter}", year(work));
        entry.push(Inline::Text(format!("{people} ({year}). ").into()));
        push_titles(work, &mut entry);
        entry.push(publication(work).into());
        if let Some(address) = address(work) {
            entry.push(" ".into());
            entry.push(build::link(address.as_str(), address.as_str()));
        }
        entry
    }
}

/// The title, and what the work is a part of.
fn push_titles(work: &CitedWork, entry: &mut Vec<Inline>) {
    let title = field(work, "title").unwrap_or_default();
    let host = field(work, "journaltitle").or(field(work, "journal")).or(field(work, "booktitle"));
    let Some(host) = host else {
        return entry.push(build::formatted(Formatting::WorkTitle, title));
    };
    entry.push(format!("{title}. ").into());
    if field(work, "booktitle").is_some() {
        entry.push("In: ".into());
    }
    entry.push(build::formatted(Formatting::WorkTitle, host));
}

/// Volume, pages, edition, editors, publisher: everything behind the titles.
fn publication(work: &CitedWork) -> String {
    let mut rest = String::new();
    if let Some(volume) = field(work, "volume") {
        rest.push_str(&format!(" {volume}"));
        if let Some(number) = field(work, "number") {
            rest.push_str(&format!("({number})"));
        }
    }
    if let Some(edition) = field(work, "edition") {
        rest.push_str(&format!(", {} edition", ordinal(edition)));
    }
    if let Some(pages) = field(work, "pages") {
        rest.push_str(&format!(", {}", pages.replace("--", "–")));
    }
    if field(work, "author").is_some()
        && let Some(editors) = field(work, "editor")
    {
        rest.push_str(&format!(". Edited by {}", names_in_order(editors)));
    }
    let place = field(work, "address").or(field(work, "location"));
    let house = field(work, "publisher")
        .or(field(work, "institution"))
        .or(field(work, "school"))
        .or(field(work, "organization"));
    match (place, house) {
        (Some(place), Some(house)) => rest.push_str(&format!(". {place}: {house}")),
        (None, Some(house)) => rest.push_str(&format!(". {house}")),
        _ => {}
    }
    let eprint = field(work, "eprint").filter(|_| eprint_address(work).is_none());
    let more = [field(work, "howpublished"), eprint, field(work, "note")];
    more.into_iter().flatten().for_each(|text| rest.push_str(&format!(". {text}")));
    rest.push('.');
    rest
}

/// Where the work is on the web.
fn address(work: &CitedWork) -> Option<String> {
    let doi = field(work, "doi").map(|doi| match doi.contains("://") {
        true => doi.to_string(),
        false => format!("https://doi.org/{}", doi.trim_start_matches("doi:").trim_start()),
    });
    doi.or_else(|| field(work, "url").map(ToString::to_string)).or_else(|| eprint_address(work))
}

/// The preprint archive whose numbers are addresses.
fn eprint_address(work: &CitedWork) -> Option<String> {
    let archive = field(work, "eprinttype").or(field(work, "archiveprefix"))?;
    let number = field(work, "eprint").filter(|_| archive.eq_ignore_ascii_case("arxiv"))?;
    Some(format!("https://arxiv.org/abs/{number}"))
}

/// `2` as `2nd`; words are words.
fn ordinal(edition: &str) -> String {
    let Ok(number) = edition.trim().parse::<u32>() else { return edition.to_lowercase() };
    let end = match (number % 100, number % 10) {
        (11..=13, _) => "th",
        (_, 1) => "st",
        (_, 2) => "nd",
        (_, 3) => "rd",
        _ => "th",
    };
    format!("{number}{end}")
}

/// Given names first.
fn names_in_order(names: &str) -> String {
    let in_order = |name: &str| match name.split_once(',') {
        Some((family, given)) => format!("{} {}", given.trim(), family.trim()),
        None => name.trim().to_string(),
    };
    let names: Vec<String> = names.split(" and ").map(in_order).collect();
    match names.split_last() {
        Some((last, rest)) if !rest.is_empty() => format!("{} and {last}", rest.join(", ")),
        _ => names.join(""),
    }
}

/// A work in the source's own words.
fn as_shown(work: &CitedWork, text: &str) -> Vec<Inline> {
    if work.content.is_empty() { vec![text.into()] } else { work.content.clone() }
}

/// `Marrow 1893` and `Marrow(1893)`: who and when.
fn split_label(label: &str) -> Option<(String, String)> {
    let (author, year) = match label.strip_suffix(')').and_then(|rest| rest.rsplit_once('(')) {
        Some(parts) => parts,
        None => label.rsplit_once(' ')?,
    };
    let is_year = year.len() >= 4 && year.get(..4)?.bytes().all(|b| b.is_ascii_digit());
    (is_year || year == "n.d.").then(|| (author.trim().to_string(), year.to_string()))
}

fn is_text(work: &CitedWork) -> bool {
    field(work, "text").is_some()
}

fn field<'w>(work: &'w CitedWork, name: &str) -> Option<&'w str> {
    let found = work.fields.iter().find(|(known, _)| known == name);
    found.map(|(_, value)| value.as_str()).filter(|value| !value.is_empty())
}

fn year(work: &CitedWork) -> String {
    match (field(work, "year"), field(work, "date")) {
        (Some(year), _) => year.to_string(),
        (None, Some(date)) => date.chars().take(4).collect(),
        (None, None) => "n.d.".to_string(),
    }
}

fn people(work: &CitedWork) -> Vec<String> {
    let names = field(work, "author").or(field(work, "editor")).unwrap_or_default();
    names.split(" and ").map(str::trim).filter(|n| !n.is_empty()).map(ToString::to_string).collect()
}

/// `Marrow, Ada` and `Ada Marrow`: the family's name.
fn family(name: &str) -> &str {
    match name.split_once(',') {
        Some((family, _)) => family.trim(),
        None => name.rsplit(' ').next().unwrap_or(name),
    }
}

/// The authors in a citation.
fn author_text(work: &CitedWork) -> String {
    let people = people(work);
    match people.as_slice() {
        [] => field(work, "title").unwrap_or(&work.key).to_string(),
        [one] => family(one).to_string(),
        [one, two] => format!("{} and {}", family(one), family(two)),
        [first, ..] => format!("{} et al.", family(first)),
    }
}

/// The authors in the list.
fn all_people(work: &CitedWork) -> String {
    let whole = |name: &String| match name.split_once(',') {
        Some(_) => name.clone(),
        None => match name.rsplit_once(' ') {
            Some((given, family)) => format!("{family}, {given}"),
            None => name.clone(),
        },
    };
    let people: Vec<String> = people(work).iter().map(whole).collect();
    let are_editors = field(work, "author").is_none();
    match people.split_last() {
        None => field(work, "title").unwrap_or(&work.key).to_string(),
        Some((last, [])) if are_editors => format!("{last}, editor"),
        Some((last, [])) => last.clone(),
        Some((last, rest)) if are_editors => format!("{} and {last}, editors", rest.join(", ")),
        Some((last, rest)) => format!("{} and {last}", rest.join(", ")),
    }
}

fn sort_key(work: &CitedWork) -> (String, String, String) {
    if is_text(work) {
        return Default::default();
    }
    let title = field(work, "title").unwrap_or_default().to_lowercase();
    (all_people(work).to_lowercase(), year(work), title)
}
