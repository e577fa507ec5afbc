//! The templates of a house, with Obblet's own beside them.

use crate::formats::WriteError;
use crate::formats::html::escaped_text;
use crate::house::layouts::{OWN, is_own};
use crate::house::{House, PageSettings};
use crate::work;
use minijinja::syntax::SyntaxConfig;
use minijinja::{Environment, Value};
use std::sync::LazyLock;

/// Whether a house's layout shows the tree of all pages, so that each page changes with any other.
#[must_use]
pub fn layout_asks_for_tree(house: &House) -> bool {
    house.files.values().any(|text| text.contains("shelf.tree"))
}

/// Steps that a layout may take; a page of a folder with ten thousand pages in its menu takes some hundred
/// thousand.
const MOST_STEPS: u64 = 10_000_000;

/// How often the body may stand in a page; [`Limits::made_bytes`](crate::limits::Limits::made_bytes) says what may
/// be around it.
const MOST_BODIES: usize = 4;

/// A page that a layout may not make as large as it likes.
struct Page {
    bytes: Vec<u8>,
    room: usize,
    is_full: bool,
}

impl std::io::Write for Page {
    fn write(&mut self, bytes: &[u8]) -> std::io::Result<usize> {
        if self.bytes.len() + bytes.len() > self.room {
            self.is_full = true;
            return Err(std::io::ErrorKind::FileTooLarge.into());
        }
        self.bytes.extend_from_slice(bytes);
        Ok(bytes.len())
    }

    fn flush(&mut self) -> std::io::Result<()> {
        Ok(())
    }
}

/// The templates of a house.
pub(super) enum Layouts {
    /// Our own alone, made once.
    Built(&'static Environment<'static>),
    Own(Box<Environment<'static>>),
}

impl Layouts {
    pub(super) fn of(house: &House) -> Result<Self, WriteError> {
        static BUILT: LazyLock<Result<Environment<'static>, String>> = LazyLock::new(environment);
        let PageSettings { layout, header, footer, .. } = &house.page;
        let is_file = |name: &&String| !name.is_empty() && !is_own(name);
        let named: Vec<&String> = [layout, header, footer].into_iter().filter(is_file).collect();
        if named.is_empty() {
            let built = BUILT.as_ref().map_err(|error| WriteError::Layout(error.clone()))?;
            return Ok(Self::Built(built));
        }
        named.iter().try_for_each(|name| house.file(name).map(|_| ()))?;
        let mut environment = environment().map_err(WriteError::Layout)?;
        // Pieces that these take from other files are among the house's files.
        for (name, text) in &house.files {
            let is_template = text.contains("{{") || text.contains("{%") || named.contains(&name);
            if is_template && !is_own(name) {
                let added = environment.add_template_owned(name.clone(), text.to_string());
                added.map_err(layout_error)?;
            }
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
    pub(super) fn piece(&self, name: &str, context: &Value) -> Result<String, WriteError> {
        if name.is_empty() { Ok(String::new()) } else { self.render(name, context) }
    }

    /// A template; our own when it has no name.
    pub(super) fn render(&self, name: &str, context: &Value) -> Result<String, WriteError> {
        let name = if name.is_empty() { "side" } else { name };
        let template = self.environment().get_template(name).map_err(layout_error)?;
        let body = context.get_attr("leaf").and_then(|leaf| leaf.get_attr("body"));
        let body = body.ok().and_then(|body| body.as_str().map(str::len)).unwrap_or_default();
        let room = work::limit(|limits| limits.made_bytes) + MOST_BODIES * body;
        let mut page = Page { bytes: Vec::new(), room, is_full: false };
        let rendered = template.render_captured_to(context, &mut page).map(|_| ());
        if page.is_full {
            return Err(WriteError::Layout(format!("{name}: it makes more than {room} bytes")));
        }
        rendered.map_err(layout_error)?;
        String::from_utf8(page.bytes).map_err(|error| WriteError::Layout(error.to_string()))
    }
}

/// What is wrong, with the file and the line where the template engine knows them.
fn layout_error(error: minijinja::Error) -> WriteError {
    let why = error.detail().map_or_else(|| error.kind().to_string(), ToString::to_string);
    WriteError::Layout(match (error.name(), error.line()) {
        (Some(name), Some(line)) => format!("{name}:{line}: {why}"),
        (Some(name), None) => format!("{name}: {why}"),
        _ => why,
    })
}

/// Our own templates.
fn environment() -> Result<Environment<'static>, String> {
    let mut environment = Environment::new();
    // A line with nothing but a block statement leaves no line behind.
    let syntax = SyntaxConfig::builder()
        .trim_blocks(true)
        .lstrip_blocks(true)
        .keep_trailing_newline(true)
        .build();
    environment.set_syntax(syntax.map_err(|error| error.to_string())?);
    environment.set_fuel(Some(MOST_STEPS));
    // Values that are no HTML yet are escaped as the writer escapes, and not more.
    environment.set_formatter(|out, _, value| {
        match value {
            value if value.is_undefined() || value.is_none() => {}
            value if value.is_safe() => out.write_str(&value.to_string())?,
            value => out.write_str(&escaped_text(&value.to_string()))?,
        }
        Ok(())
    });
    for (name, text) in OWN {
        environment.add_template(name, text).map_err(|error| error.to_string())?;
    }
    Ok(environment)
}
