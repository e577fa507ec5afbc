//! From body to whole page: title, contents list, layout, theme.
//!
//! A layout is a minijinja template: one of Obblet's own (`side`, with the contents list beside the
//! text, or `menu`, with the headings as a menu above it), or a file of the house. It sees one page
//! as `leaf` (`title`, `subtitle`, `language`, `direction`, `description`, `keywords`, `authors`, `date`,
//! `is_date`, `shows_title`, `headings_lowered`, `shows_byline`, `affiliations` (`name`, `place`, `mail`
//! and `mail_address` of each author who states any), `outline`, `opening` (the first heading, when the body
//! begins with it), `body` (what follows), `fields` (all other metadata), `style` and `style_address`
//! (the style sheet, or the file that holds it), `own_head` (the document's own lines), `above` and
//! `below` (the house's header and footer), and ids that the body does not use: `text_id`,
//! `outline_id`, `pages_id`, `search_id`), its neighbours as `shelf` ([`Surroundings`]), the fixed
//! words of the page's language as `words`, and the program as `maker`. Header and footer are
//! templates that see the same, but for each other. What is no HTML yet is escaped by itself. Pieces
//! come from other files by `{% include "file.html" %}`, and from Obblet as `obblet/head`,
//! `obblet/trail`, `obblet/text` and `obblet/beside`.

mod layouts;
mod site_words;
mod surroundings;

use crate::dates::When;
use crate::document::{Metadata, Person, plain_text};
use crate::formats::WriteError;
use crate::formats::html::outline::outline;
use crate::formats::html::{Body, id_of_words, is_language_tag};
use crate::house::{House, Theme};
use crate::locale::Words;
use layouts::Layouts;
use minijinja::value::Serde;
use minijinja::{Value, context};
use std::collections::BTreeMap;

pub use layouts::layout_asks_for_tree;
pub use site_words::SiteWords;
pub use surroundings::{ListedPage, PageLink, Surroundings, TreeNode};

/// The style sheet of the theme for screens.
pub const SCREEN_THEME: &str = include_str!("theme.css");

/// The style sheet of the theme for books.
pub const BOOK_THEME: &str = include_str!("book.css");

/// The title of a page, and whether the page must show it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Title {
    /// The title.
    pub text: Option<String>,
    /// True when no heading of the document shows it.
    pub shown_above: bool,
}

impl Title {
    /// The house's title, or the document's, or the words of its first heading.
    #[must_use]
    pub fn of(metadata: &Metadata, first_heading: Option<String>, house: &House) -> Self {
        let stated = match &metadata.title {
            title if title.is_empty() => None,
            title => Some(plain_text(title)),
        };
        let stated = Some(house.page.title.clone()).filter(|title| !title.is_empty()).or(stated);
        let is_shown = match (&stated, &first_heading) {
            (Some(stated), Some(heading)) => shows(heading, stated),
            (stated, _) => stated.is_none(),
        };
        let text = stated.or(first_heading).filter(|text| !text.trim().is_empty());
        Self { text, shown_above: !is_shown && house.page.show_title }
    }

    /// The level the document's highest headings get: below the title, where it is shown.
    #[must_use]
    pub fn top_heading_level(&self, house: &House) -> Option<u8> {
        let is_page = house.page.extent == crate::house::Extent::Page;
        match house.page.top_heading {
            0 if !is_page => None,
            0 if self.shown_above => Some(2),
            0 => Some(1),
            level => Some(level),
        }
    }
}

/// Whether a heading shows a title: the same words, also where the title goes on behind them with the
/// name of the site.
fn shows(heading: &str, title: &str) -> bool {
    let parts = title.split(['|', '—', '·', '–']).flat_map(|part| part.split(" - "));
    if heading == title {
        return true;
    }
    let heading = id_of_words(heading);
    !heading.is_empty() && parts.map(id_of_words).any(|part| part == heading)
}

/// Other fields of a document that hold lines for the head of its page.
pub(crate) const HEAD_FIELDS: [&str; 2] = ["html_head", "html_head_extra"];

/// The style sheet of a page.
#[derive(Debug, Clone, Default)]
pub struct Style {
    /// Stands in the page's head.
    pub embedded: String,
    /// The address of the file that holds it, as seen from the page.
    pub address: Option<String>,
}

/// The house's style sheets, one behind the other: its theme, then its own.
///
/// # Errors
/// [`WriteError::FileMissing`] when one is not among the house's files.
pub fn style_sheet(house: &House) -> Result<String, WriteError> {
    let mut sheet = String::from(match house.page.theme {
        Theme::Screen => SCREEN_THEME,
        Theme::Book => BOOK_THEME,
        Theme::None => "",
    });
    for name in &house.page.style_sheets {
        sheet.push_str(house.file(name)?);
    }
    Ok(sheet)
}

/// Lays a body out as a whole page.
///
/// # Errors
/// [`WriteError::Layout`] when the layout or a piece is no template, fails, or is not among the
/// house's files.
pub fn page(
    metadata: &Metadata,
    body: &Body,
    title: &Title,
    house: &House,
    style: &Style,
    surroundings: &Surroundings,
) -> Result<String, WriteError> {
    let layouts = Layouts::of(house)?;
    let stated = metadata.language.as_deref().filter(|tag| is_language_tag(tag));
    let language = stated.unwrap_or(&house.page.language);
    let words = Words::of_language(Some(language));
    let authors: Vec<&str> = metadata.authors.iter().map(|person| person.name.as_str()).collect();
    // Where the document has a place for its contents list, the page needs none.
    let depth = if body.has_contents { 0 } else { house.page.contents };
    let when = metadata.date.as_deref().and_then(|date| When::of_text(date, language));
    let outline = outline(&body.headings, depth);
    let (opening, rest) = opening_heading(&body.html);
    let leaf = context! {
        title => title.text.as_deref().unwrap_or(crate::locale::UNTITLED),
        subtitle => subtitle_shown(metadata, body, title, house),
        shows_title => title.shown_above,
        headings_lowered => if title.shown_above { body.headings_lowered } else { 0 },
        shows_byline => house.page.show_title,
        language => language,
        direction => metadata.direction.map(|direction| direction.html()),
        description => metadata.description.as_deref(),
        authors => authors.join(", "),
        affiliations => affiliations(metadata),
        date => metadata.date.as_deref(),
        is_date => when.is_some_and(|when| Some(when.html().as_str()) == metadata.date.as_deref()),
        date_time => when.map(|when| when.html()),
        keywords => metadata.keywords.join(", "),
        outline => Value::from_safe_string(outline),
        opening => Value::from_safe_string(opening.into()),
        body => Value::from_safe_string(rest.into()),
        // A style sheet that names its own end would end its element.
        style => Value::from_safe_string(style.embedded.replace("</", "<\\/")),
        style_address => style.address.as_deref(),
        own_head => Value::from_safe_string(own_head(metadata, house).join("\n")),
        text_id => free_id(body, "text"),
        outline_id => free_id(body, "contents"),
        pages_id => free_id(body, "pages"),
        search_id => free_id(body, "search"),
        fields => fields(metadata),
    };
    let shelf = Value::from(Serde(surroundings));
    let site = SiteWords::of_language(language);
    let shown_words = context! {
        contents => words.contents,
        skip_to_text => words.skip_to_text,
        trail => site.trail,
        pages => site.pages,
        turn => site.turn,
        previous => site.previous,
        next => site.next,
        tags => site.tags,
        search => site.search,
        nothing_found => site.nothing_found,
    };
    let maker = concat!("Obblet ", env!("CARGO_PKG_VERSION"));
    let around = context! { leaf => leaf.clone(), shelf, words => shown_words, maker };
    let above = Value::from_safe_string(layouts.piece(&house.page.header, &around)?);
    let below = Value::from_safe_string(layouts.piece(&house.page.footer, &around)?);
    let leaf = context! { above, below, ..leaf };
    layouts.render(&house.page.layout, &context! { leaf, ..around })
}

/// Where authors work and how to reach them, of those who state any of it.
fn affiliations(metadata: &Metadata) -> Vec<Value> {
    let people = metadata.authors.iter();
    let stating = people.filter(|person| person.affiliation.is_some() || person.email.is_some());
    let shown = |person: &Person| {
        context! {
            name => person.name.as_str(),
            place => person.affiliation.as_deref(),
            mail => person.email.as_deref(),
            mail_address => person.email.as_deref().filter(|mail| is_mail_address(mail)),
        }
    };
    stating.map(shown).collect()
}

/// Several addresses in one, as `{ada,bo}@…`, are none to link to.
fn is_mail_address(mail: &str) -> bool {
    let is_fitting = |c: char| c.is_ascii_alphanumeric() || "._+-@".contains(c);
    mail.matches('@').count() == 1
        && mail.chars().all(is_fitting)
        && !mail.starts_with('@')
        && !mail.ends_with('@')
}

/// The subtitle, where the page shows a title that it can stand below: just one, its own or the
/// document's first heading.
pub(crate) fn subtitle_shown(
    metadata: &Metadata,
    body: &Body,
    title: &Title,
    house: &House,
) -> Option<String> {
    let (opening, _) = opening_heading(&body.html);
    let has_one_title = title.shown_above != (house.page.show_title && !opening.is_empty());
    let subtitle = plain_text(&metadata.subtitle);
    (has_one_title && !subtitle.trim().is_empty()).then_some(subtitle)
}

/// All other metadata, by name.
fn fields(metadata: &Metadata) -> Value {
    let fields = metadata.extra.iter().map(|(name, value)| (name.as_str(), value));
    Value::from(Serde(fields.collect::<BTreeMap<_, _>>()))
}

/// The lines that a document wants in the head of its page, where the house trusts its sources.
fn own_head<'m>(metadata: &'m Metadata, house: &House) -> Vec<&'m str> {
    if house.safety.trust_sources { metadata.lines_of(&HEAD_FIELDS) } else { Vec::new() }
}

/// The highest heading when the body begins with it, and what follows: authors and date stand
/// between the two.
fn opening_heading(html: &str) -> (&str, &str) {
    const END: &str = "</h1>\n";
    let end = html.find(END).filter(|_| html.starts_with("<h1")).map_or(0, |at| at + END.len());
    html.split_at(end)
}

/// An id that the body does not use.
fn free_id(body: &Body, base: &str) -> String {
    let mut id = base.to_string();
    while body.ids.contains(id.as_str()) {
        id.push('_');
    }
    id
}
