//! All settings, one row each: what it is called, what it means, how it is set and shown.

use super::{Extent, House, MarkdownDialect, PicturePlacement};
use crate::format::Format;
use crate::formats::markdown::{
    BulletMark, EmphasisMark, FenceMark, HeadingForm, LinkForm, TableForm,
};
use crate::repair::PunctuationForm;
use toml::de::DeValue;

/// One setting.
#[derive(Debug, Clone, Copy)]
pub struct Setting {
    /// Its name, for example `page.contents`.
    pub key: &'static str,
    /// What it means, as a sentence.
    pub comment: &'static str,
    /// What it takes, in words.
    pub values: &'static str,
    access: Access,
}

/// How a setting is set and shown.
#[derive(Debug, Clone, Copy)]
enum Access {
    /// It is true or false.
    Truth(fn(&mut House) -> &mut bool),
    /// It takes values of its own.
    Own {
        /// Sets it; `None` when it does not take the value.
        set: fn(&mut House, &DeValue<'_>) -> Option<()>,
        /// Its value as TOML.
        show: fn(&House) -> String,
    },
}

impl Setting {
    /// Sets it; `None` when it does not take the value.
    pub(super) fn set(&self, house: &mut House, value: &DeValue<'_>) -> Option<()> {
        match self.access {
            Access::Truth(field) => *field(house) = truth(value)?,
            Access::Own { set, .. } => set(house, value)?,
        }
        Some(())
    }

    /// Its value as TOML.
    pub(super) fn show(&self, house: &House) -> String {
        match self.access {
            Access::Truth(field) => field(&mut house.clone()).to_string(),
            Access::Own { show, .. } => show(house),
        }
    }
}

/// All settings, grouped.
pub const SETTINGS: &[Setting] = &[
    Setting {
        key: "page.extent",
        comment: "A whole page, or only its body.",
        values: "\"page\" or \"body\"",
        access: Access::Own {
            set: |house, value| {
                house.page.extent =
                    choice(value, &[("page", Extent::Page), ("body", Extent::Body)])?;
                Some(())
            },
            show: |house| quoted(if house.page.extent == Extent::Page { "page" } else { "body" }),
        },
    },
    Setting {
        key: "page.title",
        comment: "A title for all pages; empty for each document's own.",
        values: "text",
        access: Access::Own {
            set: |house, value| {
                house.page.title = text(value)?;
                Some(())
            },
            show: |house| quoted(&house.page.title),
        },
    },
    Setting {
        key: "page.language",
        comment: "The language of documents that state none.",
        values: "a language tag such as \"en\" or \"de-AT\"",
        access: Access::Own {
            set: |house, value| {
                let tag = text(value)?;
                let is_tag = !tag.is_empty()
                    && tag.bytes().all(|byte| byte.is_ascii_alphanumeric() || byte == b'-');
                house.page.language = is_tag.then_some(tag)?;
                Some(())
            },
            show: |house| quoted(&house.page.language),
        },
    },
    Setting {
        key: "page.contents",
        comment: "The deepest heading level in the contents list; 0 for no list.",
        values: "a whole number from 0 to 6",
        access: Access::Own {
            set: |house, value| {
                house.page.contents = level(value)?;
                Some(())
            },
            show: |house| house.page.contents.to_string(),
        },
    },
    Setting {
        key: "page.top_heading",
        comment: "The level of a document's highest headings; 0 leaves it to the page.",
        values: "a whole number from 0 to 6",
        access: Access::Own {
            set: |house, value| {
                house.page.top_heading = level(value)?;
                Some(())
            },
            show: |house| house.page.top_heading.to_string(),
        },
    },
    Setting {
        key: "page.theme",
        comment: "Whether the page has Obblet's style sheet.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.page.theme),
    },
    Setting {
        key: "page.audiences",
        comment: "The audiences written for; what is meant for others only is left out.",
        values: "a list of words, such as [\"web\", \"print\"]",
        access: Access::Own {
            set: |house, value| {
                house.page.audiences = words(value)?;
                Some(())
            },
            show: |house| {
                let words: Vec<String> =
                    house.page.audiences.iter().map(|word| quoted(word)).collect();
                format!("[{}]", words.join(", "))
            },
        },
    },
    Setting {
        key: "pictures.placement",
        comment: "Where the pictures go that a document carries inside itself.",
        values: "\"beside\" or \"embedded\"",
        access: Access::Own {
            set: |house, value| {
                let choices = [
                    ("beside", PicturePlacement::Beside),
                    ("embedded", PicturePlacement::Embedded),
                ];
                house.pictures.placement = choice(value, &choices)?;
                Some(())
            },
            show: |house| {
                let beside = house.pictures.placement == PicturePlacement::Beside;
                quoted(if beside { "beside" } else { "embedded" })
            },
        },
    },
    Setting {
        key: "safety.trust_sources",
        comment: "Lets raw HTML out as it is. Only for sources that may do anything on the destination.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.safety.trust_sources),
    },
    Setting {
        key: "markdown.dialect",
        comment: "What Markdown may say: CommonMark alone, what code forges show, or everything.",
        values: "\"standard\", \"forge\" or \"full\"",
        access: Access::Own {
            set: |house, value| {
                house.markdown.dialect = choice(value, &DIALECTS)?;
                Some(())
            },
            show: |house| name_of(&DIALECTS, house.markdown.dialect),
        },
    },
    Setting {
        key: "markdown.hard_wraps",
        comment: "Every line ending is a line break, as in texts from form fields.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.markdown.hard_wraps),
    },
    Setting {
        key: "markdown.smart_punctuation",
        comment: "Straight quotes, hyphens and periods become typographic, by the language.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.markdown.smart_punctuation),
    },
    Setting {
        key: "markdown.wrap",
        comment: "The longest line of written text, in characters; 0 keeps the source's line breaks.",
        values: "0, or a whole number from 20 to 1000",
        access: Access::Own {
            set: |house, value| {
                let DeValue::Integer(number) = value else { return None };
                let width: u16 = number.as_str().parse().ok()?;
                house.markdown.wrap =
                    (width == 0 || (20..=1000).contains(&width)).then_some(width)?;
                Some(())
            },
            show: |house| house.markdown.wrap.to_string(),
        },
    },
    Setting {
        key: "markdown.bullet",
        comment: "The mark of bulleted lists; kept is the source's own.",
        values: "\"kept\", \"-\", \"*\" or \"+\"",
        access: Access::Own {
            set: |house, value| {
                house.markdown.bullet = choice(value, &BULLETS)?;
                Some(())
            },
            show: |house| name_of(&BULLETS, house.markdown.bullet),
        },
    },
    Setting {
        key: "markdown.emphasis",
        comment: "The mark of emphasis, doubled for strong text.",
        values: "\"*\" or \"_\"",
        access: Access::Own {
            set: |house, value| {
                house.markdown.emphasis = choice(value, &EMPHASES)?;
                Some(())
            },
            show: |house| name_of(&EMPHASES, house.markdown.emphasis),
        },
    },
    Setting {
        key: "markdown.headings",
        comment: "The marks of headings: before them, or below those of levels 1 and 2.",
        values: "\"signs\" or \"underlined\"",
        access: Access::Own {
            set: |house, value| {
                house.markdown.headings = choice(value, &HEADINGS)?;
                Some(())
            },
            show: |house| name_of(&HEADINGS, house.markdown.headings),
        },
    },
    Setting {
        key: "markdown.fence",
        comment: "The fence around code.",
        values: "\"backticks\" or \"tildes\"",
        access: Access::Own {
            set: |house, value| {
                house.markdown.fence = choice(value, &FENCES)?;
                Some(())
            },
            show: |house| name_of(&FENCES, house.markdown.fence),
        },
    },
    Setting {
        key: "markdown.links",
        comment: "Where addresses of links stand: behind the text, or at the document's end.",
        values: "\"inline\" or \"reference\"",
        access: Access::Own {
            set: |house, value| {
                house.markdown.links = choice(value, &LINKS)?;
                Some(())
            },
            show: |house| name_of(&LINKS, house.markdown.links),
        },
    },
    Setting {
        key: "markdown.tables",
        comment: "Whether the columns of a table's text line up.",
        values: "\"padded\" or \"compact\"",
        access: Access::Own {
            set: |house, value| {
                house.markdown.tables = choice(value, &TABLES)?;
                Some(())
            },
            show: |house| name_of(&TABLES, house.markdown.tables),
        },
    },
    Setting {
        key: "markdown.html",
        comment: "Whether HTML may say what the dialect has no words for.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.markdown.html),
    },
    Setting {
        key: "repairs.sources",
        comment: "The formats whose documents are repaired.",
        values: "a list of formats, such as [\"html\", \"word\"]",
        access: Access::Own {
            set: |house, value| {
                let names = words(value)?;
                let formats: Option<Vec<Format>> =
                    names.iter().map(|name| Format::of_name(name)).collect();
                house.repairs.sources = formats?;
                Some(())
            },
            show: |house| {
                let names: Vec<String> =
                    house.repairs.sources.iter().map(|format| quoted(format.name())).collect();
                format!("[{}]", names.join(", "))
            },
        },
    },
    Setting {
        key: "repairs.punctuation",
        comment: "How quotation marks, apostrophes, dashes and ellipses are spelled.",
        values: "\"kept\", \"typographic\" or \"plain\"",
        access: Access::Own {
            set: |house, value| {
                house.repairs.punctuation = choice(value, &PUNCTUATION)?;
                Some(())
            },
            show: |house| name_of(&PUNCTUATION, house.repairs.punctuation),
        },
    },
    Setting {
        key: "repairs.invisible_characters",
        comment: "Byte order marks and other characters that nobody sees go.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.invisible_characters),
    },
    Setting {
        key: "repairs.ligatures",
        comment: "Ligatures such as ﬁ become their letters.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.ligatures),
    },
    Setting {
        key: "repairs.layout_tables",
        comment: "Tables that only place things on the page become what they hold.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.layout_tables),
    },
    Setting {
        key: "repairs.double_breaks",
        comment: "Two line breaks in a row part paragraphs.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.double_breaks),
    },
    Setting {
        key: "repairs.manual_breaks",
        comment: "Line breaks inside a sentence become spaces.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.manual_breaks),
    },
    Setting {
        key: "repairs.scene_breaks",
        comment: "Lines such as * * * become thematic breaks.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.scene_breaks),
    },
    Setting {
        key: "repairs.tab_tables",
        comment: "Columns made of tabs or spaces become tables.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.tab_tables),
    },
    Setting {
        key: "repairs.typed_lists",
        comment: "Paragraphs with typed bullets or numbers become lists.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.typed_lists),
    },
    Setting {
        key: "repairs.double_spaces",
        comment: "Runs of spaces become one.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.double_spaces),
    },
    Setting {
        key: "repairs.spaced_punctuation",
        comment: "Spaces before commas, periods and the like go.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.spaced_punctuation),
    },
    Setting {
        key: "repairs.underlined_links",
        comment: "Underlining of links goes.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.underlined_links),
    },
    Setting {
        key: "repairs.formatting",
        comment: "Neighbours of one format become one; formats of nothing go.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.formatting),
    },
    Setting {
        key: "repairs.empty_paragraphs",
        comment: "Paragraphs with nothing to see go.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.empty_paragraphs),
    },
    Setting {
        key: "repairs.bold_headings",
        comment: "Short bold paragraphs become headings.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.bold_headings),
    },
    Setting {
        key: "repairs.heading_levels",
        comment: "Heading levels have no gaps.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.heading_levels),
    },
    Setting {
        key: "repairs.one_top_heading",
        comment: "One heading stands above all others.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.one_top_heading),
    },
    Setting {
        key: "repairs.redirects",
        comment: "Links through pages that only send on lead straight to the target.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.redirects),
    },
    Setting {
        key: "repairs.tracking_parameters",
        comment: "Parts of addresses that only tell where a reader came from go.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.tracking_parameters),
    },
    Setting {
        key: "repairs.page_frame",
        comment: "What stands around the text of a page goes: navigation, banners, dialogs, footers.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.page_frame),
    },
    Setting {
        key: "repairs.unused_classes",
        comment: "Classes go that nothing in the page gives a meaning.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.unused_classes),
    },
    Setting {
        key: "repairs.duplicate_ids",
        comment: "An id stands only once.",
        values: "true or false",
        access: Access::Truth(|house| &mut house.repairs.duplicate_ids),
    },
];

const PUNCTUATION: [(&str, PunctuationForm); 3] = [
    ("kept", PunctuationForm::Kept),
    ("typographic", PunctuationForm::Typographic),
    ("plain", PunctuationForm::Plain),
];

const DIALECTS: [(&str, MarkdownDialect); 3] = [
    ("standard", MarkdownDialect::Standard),
    ("forge", MarkdownDialect::Forge),
    ("full", MarkdownDialect::Full),
];

const BULLETS: [(&str, BulletMark); 4] = [
    ("kept", BulletMark::Kept),
    ("-", BulletMark::Hyphen),
    ("*", BulletMark::Asterisk),
    ("+", BulletMark::Plus),
];

const EMPHASES: [(&str, EmphasisMark); 2] =
    [("*", EmphasisMark::Asterisk), ("_", EmphasisMark::Underscore)];

const HEADINGS: [(&str, HeadingForm); 2] =
    [("signs", HeadingForm::NumberSigns), ("underlined", HeadingForm::Underlined)];

const FENCES: [(&str, FenceMark); 2] =
    [("backticks", FenceMark::Backticks), ("tildes", FenceMark::Tildes)];

const LINKS: [(&str, LinkForm); 2] =
    [("inline", LinkForm::Inline), ("reference", LinkForm::Reference)];

const TABLES: [(&str, TableForm); 2] =
    [("padded", TableForm::Padded), ("compact", TableForm::Compact)];

fn words(value: &DeValue<'_>) -> Option<Vec<String>> {
    value.as_array()?.iter().map(|word| text(word.get_ref())).collect()
}

fn text(value: &DeValue<'_>) -> Option<String> {
    value.as_str().map(Into::into)
}

fn truth(value: &DeValue<'_>) -> Option<bool> {
    match value {
        DeValue::Boolean(truth) => Some(*truth),
        _ => None,
    }
}

fn level(value: &DeValue<'_>) -> Option<u8> {
    let DeValue::Integer(number) = value else { return None };
    number.as_str().parse().ok().filter(|level| *level <= 6)
}

fn choice<T: Copy>(value: &DeValue<'_>, choices: &[(&str, T)]) -> Option<T> {
    let word = value.as_str()?;
    choices.iter().find(|(name, _)| *name == word).map(|(_, choice)| *choice)
}

/// The name of a choice, as TOML.
fn name_of<T: PartialEq>(choices: &[(&str, T)], wanted: T) -> String {
    let found = choices.iter().find(|(_, choice)| *choice == wanted);
    quoted(found.map_or("", |(name, _)| name))
}

fn quoted(text: &str) -> String {
    toml::Value::String(text.into()).to_string()
}
