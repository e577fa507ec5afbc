//! From body to whole page: title, contents list, layout, theme.
//!
//! A layout is a minijinja template. It sees one page as `leaf` (`title`, `language`,
//! `direction`, `description`, `keywords`, `authors`, `date`, `is_date`, `shows_title`, `shows_byline`,
//! `outline`, `opening` (the first heading, when the body begins with it), `body` (what follows),
//! `style` and `style_address` (the style sheet, or the file that holds it), `own_head` (the document's own lines), `above` and `below` (the
//! house's header and footer), `text_id`, `outline_id`), its neighbours as `shelf` (`home`, `home_title`), the fixed words of the
//! page's language as `words`, and the program as `maker`. Header and footer are templates that see
//! the same, but for each other. What is no HTML yet is escaped by itself.

pub(crate) mod words;

use crate::document::{Metadata, plain_text};
use crate::formats::WriteError;
use crate::formats::html::outline::outline;
use crate::formats::html::{Body, escaped_text, id_of_words, is_date_time, is_language_tag};
use crate::house::{House, PageSettings, Theme};
use minijinja::syntax::SyntaxConfig;
use minijinja::{Environment, Value, context};
use std::sync::LazyLock;
use words::Words;

/// The style sheet of the theme for screens.
pub const SCREEN_THEME: &str = include_str!("theme.css");

/// The style sheet of the theme for books.
pub const BOOK_THEME: &str = include_str!("book.css");

const LAYOUT: &str = include_str!("layout.html");

/// What stands around a page among its neighbours.
#[derive(Debug, Clone, Default)]
pub struct Surroundings {
    /// The address of the page that leads to all others, relative to this one.
    pub home: Option<String>,
    /// What the link to it says.
    pub home_title: String,
}

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
    let outline = outline(&body.headings, depth);
    let (opening, rest) = opening_heading(&body.html);
    let leaf = context! {
        title => title.text.as_deref().unwrap_or(UNTITLED),
        shows_title => title.shown_above,
        shows_byline => house.page.show_title,
        language => language,
        direction => metadata.direction.map(|direction| direction.html()),
        description => metadata.description.as_deref(),
        authors => authors.join(", "),
        date => metadata.date.as_deref(),
        is_date => metadata.date.as_deref().is_some_and(is_date_time),
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
    };
    let shelf = context! {
        home => surroundings.home.as_deref(),
        home_title => surroundings.home_title.as_str(),
    };
    let shown_words = context! { contents => words.contents, skip_to_text => words.skip_to_text };
    let maker = concat!("Obblet ", env!("CARGO_PKG_VERSION"));
    let around = context! { leaf => leaf.clone(), shelf, words => shown_words, maker };
    let above = Value::from_safe_string(layouts.piece(&house.page.header, &around)?);
    let below = Value::from_safe_string(layouts.piece(&house.page.footer, &around)?);
    let leaf = context! { above, below, ..leaf };
    layouts.render(&house.page.layout, &context! { leaf, ..around })
}

/// The lines that a document wants in the head of its page, where the house trusts its sources.
fn own_head<'m>(metadata: &'m Metadata, house: &House) -> Vec<&'m str> {
    if house.safety.trust_sources { metadata.lines_of(&HEAD_FIELDS) } else { Vec::new() }
}

/// The templates of a house.
enum Layouts {
    /// Our own alone, made once.
    Built(&'static Environment<'static>),
    Own(Box<Environment<'static>>),
}

impl Layouts {
    fn of(house: &House) -> Result<Self, WriteError> {
        static BUILT: LazyLock<Result<Environment<'static>, String>> = LazyLock::new(|| {
            let mut environment = environment()?;
            environment.add_template(BUILT_IN, LAYOUT).map_err(|error| error.to_string())?;
            Ok(environment)
        });
        let PageSettings { layout, header, footer, .. } = &house.page;
        let named: Vec<&String> =
            [layout, header, footer].into_iter().filter(|name| !name.is_empty()).collect();
        if named.is_empty() {
            let built = BUILT.as_ref().map_err(|error| WriteError::Layout(error.clone()))?;
            return Ok(Self::Built(built));
        }
        let mut environment = environment().map_err(WriteError::Layout)?;
        environment.add_template(BUILT_IN, LAYOUT).map_err(layout_error)?;
        for name in named {
            environment
                .add_template_owned(name.clone(), house.file(name)?.to_string())
                .map_err(layout_error)?;
        }
        Ok(Self::Own(Box::new(environment)))
    }

    fn environment(&self) -> &Environment<'static> {
        match self {
            Self::Built(environment) => environment,
            Self::Own(environment) => environment,
        }
    }

    /// A piece; empty when it has no name.
    fn piece(&self, name: &str, context: &Value) -> Result<String, WriteError> {
        if name.is_empty() { Ok(String::new()) } else { self.render(name, context) }
    }

    /// A template; our own when it has no name.
    fn render(&self, name: &str, context: &Value) -> Result<String, WriteError> {
        let name = if name.is_empty() { BUILT_IN } else { name };
        let template = self.environment().get_template(name);
        template.and_then(|template| template.render(context)).map_err(layout_error)
    }
}

/// The name of our own layout among the templates.
const BUILT_IN: &str = "(built in)";

/// What is wrong, with the file and the line where the template engine knows them.
fn layout_error(error: minijinja::Error) -> WriteError {
    let why = error.detail().map_or_else(|| error.kind().to_string(), ToString::to_string);
    WriteError::Layout(match (error.name(), error.line()) {
        (Some(name), Some(line)) => format!("{name}:{line}: {why}"),
        (Some(name), None) => format!("{name}: {why}"),
        _ => why,
    })
}

/// The title of a page whose document says nothing that could be one.
pub(crate) const UNTITLED: &str = "Untitled";

fn environment() -> Result<Environment<'static>, String> {
    let mut environment = Environment::new();
    // A line with nothing but a block statement leaves no line behind.
    let syntax = SyntaxConfig::builder()
        .trim_blocks(true)
        .lstrip_blocks(true)
        .keep_trailing_newline(true)
        .build();
    environment.set_syntax(syntax.map_err(|error| error.to_string())?);
    // Values that are no HTML yet are escaped as the writer escapes, and not more.
    environment.set_formatter(|out, _, value| {
        match value {
            value if value.is_undefined() || value.is_none() => {}
            value if value.is_safe() => out.write_str(&value.to_string())?,
            value => out.write_str(&escaped_text(&value.to_string()))?,
        }
        Ok(())
    });
    Ok(environment)
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
