//! Addresses of files that stand in one folder, as they see each other.
//!
//! Paths have `/` between folders and are relative to a folder that all share.

mod moved;
mod raw;
mod scheme;

pub use moved::{seen_from_elsewhere, turn_addresses, with_addresses_turned};
pub use raw::turned_in_html;
pub(crate) use scheme::scheme;

use percent_encoding::{AsciiSet, CONTROLS, percent_decode_str, utf8_percent_encode};

/// What must be encoded in the path of an address.
const PATH: &AsciiSet =
    &CONTROLS.add(b' ').add(b'"').add(b'#').add(b'%').add(b'<').add(b'>').add(b'?').add(b'`');

/// The parts of an address that may lead to a file beside the one it stands in.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NearAddress<'a> {
    /// The path, encoded as it was written.
    pub path: &'a str,
    /// The query with its question mark; may be empty.
    pub query: &'a str,
    /// What stands behind the number sign.
    pub anchor: Option<&'a str>,
}

impl<'a> NearAddress<'a> {
    /// The parts of an address; `None` when it has a scheme, begins at the root of a server, or is
    /// a place in the same file.
    #[must_use]
    pub fn of(address: &'a str) -> Option<Self> {
        let (rest, anchor) = match address.split_once('#') {
            Some((rest, anchor)) => (rest, Some(anchor)),
            None => (address, None),
        };
        let (path, query) = rest.split_at(rest.find('?').unwrap_or(rest.len()));
        let has_scheme = path.split_once(':').is_some_and(|(scheme, _)| !scheme.contains('/'));
        let is_near = !path.is_empty() && !path.starts_with('/') && !has_scheme;
        is_near.then_some(Self { path, query, anchor })
    }

    /// The path of the file that it leads to from another; empty for the folder that all share, and
    /// `None` when it leads out of that.
    #[must_use]
    pub fn from(&self, file: &str) -> Option<String> {
        resolved(file, &decoded(self.path))
    }

    /// The place in the file, decoded.
    #[must_use]
    pub fn place(&self) -> Option<String> {
        self.anchor.map(decoded)
    }

    /// The address with another path.
    #[must_use]
    pub fn with_path(&self, path: &str) -> String {
        let anchor = self.anchor.map_or_else(String::new, |anchor| format!("#{anchor}"));
        format!("{path}{}{anchor}", self.query)
    }
}

fn decoded(text: &str) -> String {
    percent_decode_str(text).decode_utf8_lossy().into_owned()
}

/// The path of a file that another one names relative to itself, without `.` and `..`: empty for the
/// folder that all share, and `None` when it leads out of that.
///
/// ```
/// use obblet::address::resolved;
/// assert_eq!(resolved("work/log.org", "../guide.md").as_deref(), Some("guide.md"));
/// assert_eq!(resolved("work/log.org", "../../secret"), None);
/// ```
#[must_use]
pub fn resolved(file: &str, path: &str) -> Option<String> {
    let folder = file.rsplit_once('/').map_or("", |(folder, _)| folder);
    normalised(&joined(folder, path))
}

/// A path in a folder; the folder may be the one that all share, which has no name.
#[must_use]
pub fn joined(folder: &str, path: &str) -> String {
    if folder.is_empty() { path.to_string() } else { format!("{folder}/{path}") }
}

/// A path without `.` and `..`, empty for the folder itself; `None` when it leads out of it.
#[must_use]
pub fn normalised(path: &str) -> Option<String> {
    let mut names: Vec<&str> = Vec::new();
    for name in path.split('/') {
        match name {
            "" | "." => {}
            ".." => {
                names.pop()?;
            }
            _ => names.push(name),
        }
    }
    Some(names.join("/"))
}

/// A place in a file as it stands behind the number sign.
pub(crate) fn encoded_place(place: &str) -> String {
    utf8_percent_encode(place, PATH).to_string()
}

/// The address of one file as seen from another.
///
/// ```
/// use obblet::address::relative;
/// assert_eq!(relative("work/log.html", "tables/high water.html"), "../tables/high%20water.html");
/// ```
#[must_use]
pub fn relative(from: &str, to: &str) -> String {
    let folders = |path: &str| -> Vec<String> {
        let mut names: Vec<String> = path.split('/').map(String::from).collect();
        names.pop();
        names
    };
    let (from_folders, to_folders) = (folders(from), folders(to));
    let shared = from_folders.iter().zip(&to_folders).take_while(|(one, two)| one == two).count();
    let mut address = "../".repeat(from_folders.len() - shared);
    for name in to_folders.iter().skip(shared) {
        address.push_str(&utf8_percent_encode(name, PATH).to_string());
        address.push('/');
    }
    let file = to.rsplit('/').next().unwrap_or(to);
    address.push_str(&utf8_percent_encode(file, PATH).to_string());
    // A colon in the first segment would look like a scheme.
    if address.split('/').next().is_some_and(|first| first.contains(':')) {
        address.insert_str(0, "./");
    }
    address
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn addresses_lead_from_file_to_file() {
        let cases = [
            ("a.html", "b.html", "b.html"),
            ("x/a.html", "b.html", "../b.html"),
            ("x/a.html", "x/y/b c.html", "y/b%20c.html"),
            ("x/y/a.html", "x/z/b.html", "../z/b.html"),
            ("a.html", "12:30.html", "./12:30.html"),
        ];
        for (from, to, expected) in cases {
            assert_eq!(relative(from, to), expected);
        }
    }

    #[test]
    fn only_addresses_of_files_nearby_have_parts() {
        let near = NearAddress { path: "b.md", query: "?x=1", anchor: Some("y") };
        assert_eq!(NearAddress::of("b.md?x=1#y"), Some(near));
        for address in ["#y", "https://a.example/b.md", "mailto:x@y", "/b.md", "//h/b.md", ""] {
            assert_eq!(NearAddress::of(address), None, "{address}");
        }
    }

    #[test]
    fn paths_never_leave_the_folder() {
        assert_eq!(normalised("x/./../b.md").as_deref(), Some("b.md"));
        assert_eq!(normalised("x/..").as_deref(), Some(""));
        assert_eq!(normalised("../b.md"), None);
        assert_eq!(normalised("x/../../b.md"), None);
    }
}
