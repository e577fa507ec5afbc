//! Titles of what states none.

/// A folder's name as a title: `tide-mill` becomes `Tide mill`.
pub(crate) fn title_of_name(name: &str) -> String {
    let name = name.replace(['-', '_'], " ");
    let mut characters = name.chars();
    let first = characters.next().map(|first| first.to_uppercase().collect::<String>());
    first.map_or_else(|| "Documents".into(), |first| first + characters.as_str())
}
