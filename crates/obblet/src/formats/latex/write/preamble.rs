//! The whole document: class, packages, definitions, title.

use super::{Need, Writer};
use crate::document::plain_text;
use crate::formats::WriteError;
use crate::formats::latex::{LatexExtent, babel_name};
use minijinja::syntax::SyntaxConfig;
use minijinja::{Environment, context};

/// What stands around a body unless a house brings its own.
const LAYOUT: &str = include_str!("layout.tex");

/// Other fields of a document that hold lines for its preamble.
const HEAD_FIELDS: [&str; 2] = ["latex_header", "latex_header_extra"];

/// Packages and definitions by what needs them, in the order they are loaded.
const LINES: [(Need, &str); 51] = [
    (Need::Amsmath, "\\usepackage{amsmath}"),
    (Need::Mathtools, "\\usepackage{mathtools}"),
    (Need::Amssymb, "\\usepackage{amssymb}"),
    (Need::Amsthm, "\\usepackage{amsthm}"),
    (Need::Esint, "\\usepackage{esint}"),
    (Need::Mathrsfs, "\\usepackage{mathrsfs}"),
    (Need::Stmaryrd, "\\usepackage{stmaryrd}"),
    (Need::Cancel, "\\usepackage{cancel}"),
    (Need::Xfrac, "\\usepackage{xfrac}"),
    (Need::Mhchem, "\\usepackage[version=4]{mhchem}"),
    (Need::Csquotes, "\\usepackage{csquotes}"),
    (Need::Xcolor, "\\usepackage{xcolor}"),
    (Need::Graphicx, "\\usepackage{graphicx}"),
    (Need::Tikz, "\\usepackage{tikz}"),
    (Need::Array, "\\usepackage{array}"),
    (Need::Booktabs, "\\usepackage{booktabs}"),
    (Need::Tabularx, "\\usepackage{tabularx}"),
    (Need::Longtable, "\\usepackage{longtable}"),
    (Need::Multirow, "\\usepackage{multirow}"),
    (Need::Captionless, "\\usepackage{caption}"),
    (Need::Subcaption, "\\usepackage{subcaption}"),
    (Need::Multicol, "\\usepackage{multicol}"),
    (Need::Enumitem, "\\usepackage{enumitem}"),
    (Need::Listings, "\\usepackage{listings}"),
    (Need::Alltt, "\\usepackage{alltt}"),
    (Need::Comment, "\\usepackage{verbatim}"),
    (Need::Ulem, "\\usepackage[normalem]{ulem}"),
    (Need::Changes, "\\usepackage{changes}"),
    (Need::Endnotes, "\\usepackage{endnotes}"),
    (Need::Natbib, "\\usepackage{natbib}"),
    (Need::Hyperref, "\\usepackage[hidelinks]{hyperref}"),
    (Need::Cleveref, "\\usepackage{cleveref}"),
    (Need::HighlightCommand, "\\newcommand{\\hl}[1]{\\colorbox{yellow}{#1}}"),
    (Need::SmallPrintCommand, "\\newcommand{\\textsmall}[1]{{\\small #1}}"),
    (Need::KeystrokeCommand, "\\newcommand{\\keystroke}[1]{\\texttt{#1}}"),
    (Need::ProgramOutputCommand, "\\newcommand{\\programoutput}[1]{\\texttt{#1}}"),
    (Need::VariableCommand, "\\newcommand{\\variable}[1]{\\textit{#1}}"),
    (Need::WorkTitleCommand, "\\newcommand{\\worktitle}[1]{\\textit{#1}}"),
    (Need::DefinedTermCommand, "\\newcommand{\\definedterm}[1]{\\emph{#1}}"),
    (Need::AbbreviationCommand, "\\newcommand{\\abbreviation}[2]{#1}"),
    (Need::InlineCodeCommand, "\\newcommand{\\inlinecode}[2]{\\texttt{#2}}"),
    (Need::TextSign, "\\newcommand{\\textsign}[1]{\\ensuremath{#1}}"),
    (Need::ReadingCommand, "\\newcommand{\\reading}[2]{#1\\,(#2)}"),
    (
        Need::TaskBoxCommand,
        "\\newcommand{\\taskopen}{$\\square$}\n\\newcommand{\\taskdone}{$\\boxtimes$}",
    ),
    (
        Need::ThematicBreakCommand,
        "\\newcommand{\\thematicbreak}{\\par\\bigskip{\\centering*\\quad*\\quad*\\par}\\bigskip}",
    ),
    (
        Need::AdmonitionEnvironment,
        "\\newenvironment{admonition}[2]{\\begin{quote}\\textbf{#2}\\par}{\\end{quote}}",
    ),
    (Need::AsideEnvironment, "\\newenvironment{aside}{\\begin{quote}\\small}{\\end{quote}}"),
    (
        Need::DisclosureEnvironment,
        "\\newenvironment{disclosure}[1]{\\paragraph*{#1}\\mbox{}\\par}{}",
    ),
    (
        Need::StatementEnvironment,
        "\\newenvironment{statement}[1]{\\par\\medskip\\noindent\\textbf{#1}\\par}{\\par\\medskip}",
    ),
    (
        Need::AnyCharacter,
        "\\newcommand{\\anychar}[1]{\\ifdefined\\directlua#1\\else\\textbullet\\fi}\n\
         \\newcommand{\\replacementcharacter}{\\textbullet}",
    ),
    (Need::DeepLists, DEEP_LISTS),
];

/// Works without years are cited by their numbers.
const NUMBERED_WORKS: &str = "\\usepackage[numbers]{natbib}";

/// Lists deeper than LaTeX's own four.
const DEEP_LISTS: &str = "\\setlistdepth{100}\n\\renewlist{itemize}{itemize}{100}\n\
    \\setlist[itemize]{label=\\textbullet}\n\\renewlist{enumerate}{enumerate}{100}\n\
    \\setlist[enumerate]{label=\\arabic*.}\n\\renewlist{description}{description}{100}";

/// Steps that a template may take.
const MOST_STEPS: u64 = 1_000_000;

/// The body with what stands around it.
pub(super) fn document(writer: &mut Writer<'_>, body: &str) -> Result<String, WriteError> {
    let body = body.trim_start_matches('\n');
    if writer.options.extent == LatexExtent::Body {
        return Ok(body.to_string());
    }
    settle_needs(writer, body);
    let title = title(writer);
    let options = writer.options;
    let language = writer.document.metadata.language.clone();
    let packages = packages(writer, language.as_deref());
    let layout = options.layout.as_deref().unwrap_or(LAYOUT);
    let layout_error = |error: minijinja::Error| WriteError::Layout(format!("{error:#}"));
    let syntax = SyntaxConfig::builder().keep_trailing_newline(true).build();
    let mut environment = Environment::new();
    environment.set_syntax(syntax.map_err(layout_error)?);
    environment.set_fuel(Some(MOST_STEPS));
    environment.add_template("layout", layout).map_err(layout_error)?;
    let template = environment.get_template("layout").map_err(layout_error)?;
    let metadata = &writer.document.metadata;
    template
        .render(context! {
            class => options.class.as_str(),
            class_options => options.class_options.as_str(),
            packages => packages,
            title_lines => title,
            title => plain_text(&metadata.title),
            language => language.as_deref().unwrap_or("en"),
            body => body,
        })
        .map_err(layout_error)
}

/// What needs something else.
fn settle_needs(writer: &mut Writer<'_>, body: &str) {
    let commands = ["\\href", "\\url", "\\hyperref", "\\phantomsection", "\\autoref", "\\nameref"];
    let is_linked = commands.iter().any(|command| body.contains(command));
    if is_linked
        || writer.needs.contains(&Need::Cleveref)
        || !writer.document.metadata.title.is_empty()
    {
        writer.need(Need::Hyperref);
    }
    if writer.deepest_list > 4 {
        writer.need(Need::Enumitem);
        writer.need(Need::DeepLists);
    }
    if writer.needs.contains(&Need::HighlightCommand) {
        writer.need(Need::Xcolor);
    }
    if writer.needs.contains(&Need::TaskBoxCommand) {
        writer.need(Need::Amssymb);
    }
    if body.contains("\\added{") || body.contains("\\deleted{") {
        writer.need(Need::Changes);
    }
}

fn packages(writer: &Writer<'_>, language: Option<&str>) -> String {
    let mut lines = Vec::new();
    let own = language.and_then(babel_name);
    let others = writer.languages.iter().copied().filter(|name| Some(*name) != own);
    let mut languages: Vec<&str> = others.collect();
    languages.extend(own);
    if !languages.is_empty() && languages != ["english"] {
        lines.push(format!("\\usepackage[{}]{{babel}}", languages.join(",")));
    }
    for (need, line) in LINES {
        if writer.needs.contains(&need) {
            let is_numbered = need == Need::Natbib && !writer.works.have_years();
            lines.push(if is_numbered { NUMBERED_WORKS.into() } else { line.to_string() });
        }
    }
    for language in &writer.code_languages {
        lines.push(format!("\\lstdefinelanguage{{{language}}}{{}}"));
    }
    if writer.needs.contains(&Need::Listings) {
        lines.push("\\lstset{basicstyle=\\ttfamily\\small,columns=fullflexible,keepspaces}".into());
    }
    for command in &writer.unknown_commands {
        lines.push(format!(
            "\\providecommand{{\\{command}}}{{\\text{{\\textbackslash {command}}}}}"
        ));
    }
    lines.extend(theorems(writer));
    let numbers = writer.numbers;
    for (is_within, counter) in [
        (numbers.equations_within, "equation"),
        (numbers.figures_within, "figure"),
        (numbers.tables_within, "table"),
    ] {
        let section = if writer.options.has_chapters() { "chapter" } else { "section" };
        if is_within {
            lines.push(format!("\\counterwithin{{{counter}}}{{{section}}}"));
        }
    }
    if !writer.headings.has_numbers {
        lines.push("\\setcounter{secnumdepth}{-1}".into());
    }
    let own = writer.document.metadata.lines_of(&HEAD_FIELDS);
    lines.extend(own.into_iter().map(ToString::to_string));
    lines.join("\n")
}

fn theorems(writer: &Writer<'_>) -> Vec<String> {
    let statements = &writer.statements;
    if !statements.is_counted {
        return Vec::new();
    }
    let within = match (statements.is_within, writer.options.has_chapters()) {
        (false, _) => "",
        (true, true) => "[chapter]",
        (true, false) => "[section]",
    };
    let mut first: Option<&str> = None;
    let mut lines = Vec::new();
    for (words, name) in &statements.kinds {
        lines.push(match (first, statements.is_shared) {
            (Some(first), true) => format!("\\newtheorem{{{name}}}[{first}]{{{words}}}"),
            _ => format!("\\newtheorem{{{name}}}{{{words}}}{within}"),
        });
        first.get_or_insert(name);
    }
    lines
}

/// Title, authors and date, and what the file says of itself.
fn title(writer: &mut Writer<'_>) -> String {
    let metadata = &writer.document.metadata;
    let mut lines = Vec::new();
    if !metadata.title.is_empty() {
        let words = writer.as_argument(|writer| writer.inlines(&metadata.title));
        let subtitle = writer.as_argument(|writer| writer.inlines(&metadata.subtitle));
        match subtitle.is_empty() {
            true => lines.push(format!("\\title{{{words}}}")),
            false => lines.push(format!("\\title{{{words}\\\\\\large {subtitle}}}")),
        }
        if !subtitle.is_empty() {
            writer.lost("that a part of the title is the subtitle");
        }
    }
    let people: Vec<String> = metadata
        .authors
        .iter()
        .map(|person| {
            writer.as_argument(|writer| {
                writer.text(&person.name);
                if let Some(place) = &person.affiliation {
                    writer.out.push_str("\\\\ ");
                    writer.text(place);
                }
                if let Some(mail) = &person.email {
                    writer.out.push_str("\\\\ \\texttt{");
                    writer.text(mail);
                    writer.out.push('}');
                }
            })
        })
        .collect();
    if !people.is_empty() {
        lines.push(format!("\\author{{{}}}", people.join(" \\and ")));
    }
    if !metadata.title.is_empty() {
        let date = metadata.date.as_deref().unwrap_or_default().to_string();
        let date = writer.as_argument(|writer| writer.text(&date));
        lines.push(format!("\\date{{{date}}}"));
    }
    let mut setup = Vec::new();
    if !metadata.keywords.is_empty() {
        let words = metadata.keywords.join(", ");
        setup.push(format!("pdfkeywords={{{}}}", writer.as_argument(|w| w.text(&words))));
    }
    if let Some(description) = &metadata.description {
        setup.push(format!("pdfsubject={{{}}}", writer.as_argument(|w| w.text(description))));
    }
    if let Some(language) = metadata.language.as_deref().filter(|tag| babel_name(tag).is_none()) {
        setup.push(format!("pdflang={{{language}}}"));
    }
    if metadata.extra.iter().any(|(name, _)| !HEAD_FIELDS.contains(&name.as_str())) {
        writer.lost("other fields of the metadata");
    }
    if !setup.is_empty() {
        writer.need(Need::Hyperref);
        lines.push(format!("\\hypersetup{{{}}}", setup.join(", ")));
    }
    lines.join("\n")
}
