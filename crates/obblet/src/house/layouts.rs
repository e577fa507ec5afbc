//! Obblet's own layouts and pieces, and the names by which layouts take pieces in.

/// Obblet's own templates: layouts by the names that houses give them, pieces below `obblet/`.
pub(crate) const OWN: [(&str, &str); 6] = [
    ("side", include_str!("layouts/side.html")),
    ("menu", include_str!("layouts/menu.html")),
    ("obblet/head", include_str!("layouts/head.html")),
    ("obblet/trail", include_str!("layouts/trail.html")),
    ("obblet/text", include_str!("layouts/text.html")),
    ("obblet/beside", include_str!("layouts/beside.html")),
];

/// Whether a template is Obblet's own, so that there is no file of this name.
pub(crate) fn is_own(name: &str) -> bool {
    OWN.iter().any(|(own, _)| *own == name)
}

/// The names of the templates that a template takes pieces from, where it names them in quotes.
pub(crate) fn named_in(template: &str) -> Vec<&str> {
    const STATEMENTS: [&str; 4] = ["include", "extends", "import", "from"];
    let statements = template.split("{%").skip(1).filter_map(|rest| rest.split("%}").next());
    statements
        .filter_map(|statement| {
            let statement = statement.trim_start_matches(['-', '+']).trim_start();
            let rest =
                STATEMENTS.iter().find_map(|word| statement.strip_prefix(word))?.trim_start();
            let quote = rest.chars().next().filter(|first| matches!(first, '"' | '\''))?;
            rest.get(1..)?.split(quote).next()
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn templates_name_what_they_take_pieces_from() {
        let cases: [(&str, &[&str]); 4] = [
            ("{% include \"top.html\" %}{%- extends 'base.html' -%}", &["top.html", "base.html"]),
            ("{% from \"words.html\" import x %}{% include name %}", &["words.html"]),
            ("{% if a %}include \"x\"{% endif %}", &[]),
            ("{% include \"unclosed", &["unclosed"]),
        ];
        for (template, names) in cases {
            assert_eq!(named_in(template), names, "{template}");
        }
    }
}
