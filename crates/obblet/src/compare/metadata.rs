//! Title, authors, language and the like.

use super::{Change, Kind, Tally, quoted};
use crate::document::{Document, Metadata, Person, plain_text};

/// A field with what a document says there; empty for nothing.
type Field = (&'static str, String);

pub(super) fn compare_metadata(left: &Document, right: &Document, tally: &mut Tally<'_>) {
    let same_title = title_is_shown(left, right) || title_is_shown(right, left);
    let both = fields(&left.metadata).into_iter().zip(fields(&right.metadata));
    for ((name, one), (_, two)) in both {
        let places = (None, None);
        if name == TITLE && same_title {
            tally.keep(Kind::Metadata);
            continue;
        }
        match (one.is_empty(), two.is_empty()) {
            (true, true) => {}
            _ if one == two => tally.keep(Kind::Metadata),
            (false, false) => {
                let what = format!("{name} {} became {}", quoted(&one), quoted(&two));
                tally.report(Kind::Metadata, Change::Changed, what, places);
            }
            (false, true) => {
                let what = format!("{name} {}", quoted(&one));
                tally.report(Kind::Metadata, Change::Missing, what, places);
            }
            (true, false) => {
                let what = format!("{name} {}", quoted(&two));
                tally.report(Kind::Metadata, Change::Extra, what, places);
            }
        }
    }
}

/// Whether one document only states the title that the other one's first heading shows.
fn title_is_shown(stating: &Document, showing: &Document) -> bool {
    !stating.metadata.title.is_empty()
        && showing.metadata.title.is_empty()
        && stating.title_or_first_heading() == showing.title_or_first_heading()
}

const TITLE: &str = "the title";

fn fields(metadata: &Metadata) -> Vec<Field> {
    let person = |person: &Person| match &person.email {
        Some(email) => format!("{} <{email}>", person.name),
        None => person.name.to_string(),
    };
    let authors: Vec<String> = metadata.authors.iter().map(person).collect();
    let keywords: Vec<&str> = metadata.keywords.iter().map(|word| word.as_str()).collect();
    let text = |text: Option<&str>| text.unwrap_or_default().to_string();
    let direction = metadata.direction.map(|direction| direction.html());
    vec![
        (TITLE, plain_text(&metadata.title)),
        ("the subtitle", plain_text(&metadata.subtitle)),
        ("the authors", authors.join(", ")),
        ("the description", text(metadata.description.as_deref())),
        ("the keywords", keywords.join(", ")),
        ("the language", text(metadata.language.as_deref())),
        ("the direction", text(direction)),
        ("the date", text(metadata.date.as_deref())),
        ("the day it was made", text(metadata.created.as_deref())),
        ("the day it was changed", text(metadata.modified.as_deref())),
        ("other fields", extra(metadata)),
    ]
}

fn extra(metadata: &Metadata) -> String {
    let field = |(name, value): &(crate::document::CompactString, crate::document::Value)| {
        let shown = value.to_text().unwrap_or_else(|| format!("{value:?}"));
        format!("{name}: {shown}")
    };
    let mut fields: Vec<String> = metadata.extra.iter().map(field).collect();
    // The order of fields says nothing.
    fields.sort();
    fields.join("; ")
}
