//! The command line.

use clap::{Args, Parser, Subcommand};
use obblet::Format;
use obblet::compare::Kind;
use obblet::findings::{Code, Severity, Topic, Weight};
use obblet_publish::Split;
use std::num::{NonZeroU32, NonZeroUsize};
use std::path::PathBuf;

/// Turns documents into clean, standards-valid HTML, one by one or a whole folder.
#[derive(Debug, Parser)]
#[command(name = "obblet", version, after_help = AFTER_HELP)]
pub(crate) struct Arguments {
    #[command(subcommand)]
    pub(crate) command: Command,
    /// Megabytes of memory that the command may take before it gives up, with exit code 3; 0 for no
    /// limit.
    #[arg(long, global = true, value_name = "MB", default_value = "4096", hide_short_help = true)]
    pub(crate) memory_limit: u64,
    /// Seconds that the command may take before it gives up, with exit code 3; 0 for no limit. By
    /// default 600, and no limit for folders that are published or shown.
    #[arg(long, global = true, value_name = "SECONDS", hide_short_help = true)]
    pub(crate) time_limit: Option<u64>,
}

const AFTER_HELP: &str = "\
Results go to standard output, everything else to standard error.

Exit codes: 0 done; 1 done, but what you asked to hold does not (--strict lost
something, check found an error, compare a difference); 2 wrong usage; 3 a source could not be read or a target not written.

First steps:
  obblet demo                          make a demo folder and publish it
  obblet convert guide.md guide.html   one document
  obblet clean saved.html              a page without a program's noise
  obblet check texts                   what is wrong in a folder of documents
  obblet publish texts web --dry-run   see what a folder would become";

#[derive(Debug, Subcommand)]
pub(crate) enum Command {
    /// Convert one document.
    Convert(ConvertArguments),
    /// Clean HTML pages and fragments.
    Clean(CleanArguments),
    /// Say what is wrong in sources or pages: structure, links, accessibility, validity.
    Check(CheckArguments),
    /// Say what differs between two documents, in any two formats.
    Compare(CompareArguments),
    /// Bind several documents into one, with contents and the links between them turned inward.
    Bind(BindArguments),
    /// Publish a folder of documents as a web folder.
    Publish(PublishArguments),
    /// Look at documents in a browser while you work on them.
    Preview(PreviewArguments),
    /// List, show and start house styles, the settings for a destination.
    House(HouseArguments),
    /// Write the demo folder and publish it.
    Demo(DemoArguments),
    /// Print what lets a shell complete names of commands and options.
    Completions(CompletionsArguments),
    /// Print the manual page of the command, or write those of all commands into a folder.
    Manual(ManualArguments),
}

/// Which house, and what of it to change.
#[derive(Debug, Clone, Args)]
pub(crate) struct HouseChoice {
    /// House style: a built-in one by name (see “obblet house”), or a TOML file.
    /// “page” when there is none.
    #[arg(long, value_name = "NAME|FILE")]
    pub(crate) house: Option<String>,
    /// Change one setting of the house, for example page.contents=2. May be repeated.
    #[arg(long = "set", value_name = "KEY=VALUE")]
    pub(crate) settings: Vec<String>,
}

#[derive(Debug, Args)]
#[command(after_help = "\
Examples:
  obblet convert handbook.docx handbook.html
  obblet convert handbook.docx handbook.md --set markdown.wrap=80
  obblet convert - --read-as markdown --house body < note.md
  obblet convert guide.md guide.html --set page.contents=2 --ledger guide.json")]
pub(crate) struct ConvertArguments {
    /// The document; - is standard input.
    pub(crate) source: PathBuf,
    /// The file to write; - or nothing is standard output. Its name gives the format.
    pub(crate) target: Option<PathBuf>,
    /// Format of the source, where its name does not tell: markdown, html, word, latex, org,
    /// text.
    #[arg(long, value_name = "FORMAT")]
    pub(crate) read_as: Option<Format>,
    /// Format of the target, where its name does not tell: html, markdown, word, latex, org, text.
    #[arg(long, value_name = "FORMAT")]
    pub(crate) write_as: Option<Format>,
    #[command(flatten)]
    pub(crate) house: HouseChoice,
    /// Folder for the pictures that the document carries inside itself; by default one beside the
    /// target, named after it. On standard output they are embedded.
    #[arg(long, value_name = "FOLDER")]
    pub(crate) pictures: Option<PathBuf>,
    /// Write all findings to this file, as JSON.
    #[arg(long, value_name = "FILE")]
    pub(crate) ledger: Option<PathBuf>,
    /// End with exit code 1 when content or structure was lost, or a link leads nowhere. A level
    /// asks for more: content, structure, formatting, layout.
    #[arg(long, value_name = "LEVEL", num_args = 0..=1, require_equals = true, default_missing_value = "structure")]
    pub(crate) strict: Option<Weight>,
}

#[derive(Debug, Args)]
#[command(after_help = "\
A whole page becomes a whole page, a fragment a fragment. What is repaired is in
the house under “repairs”; see “obblet house show body”. The last line on
standard error says what became of each file.

Examples:
  obblet clean saved.html > clean.html
  obblet clean *.html --in-place
  obblet clean < pasted.html
  obblet clean saved.html --house body --set repairs.bold_headings=true")]
pub(crate) struct CleanArguments {
    /// The files; - or nothing is standard input.
    pub(crate) files: Vec<PathBuf>,
    /// Put each clean page in the place of its file, with a backup beside it.
    #[arg(long)]
    pub(crate) in_place: bool,
    /// House style: a built-in one by name (see “obblet house”), or a TOML file. By default what a
    /// page needs for a page, and what a body needs for a fragment.
    #[arg(long, value_name = "NAME|FILE")]
    pub(crate) house: Option<String>,
    /// Change one setting of the house, for example repairs.typed_lists=false. May be repeated.
    #[arg(long = "set", value_name = "KEY=VALUE")]
    pub(crate) settings: Vec<String>,
    /// Also print every finding.
    #[arg(long)]
    pub(crate) findings: bool,
    /// Write all findings to this file, as JSON.
    #[arg(long, value_name = "FILE")]
    pub(crate) ledger: Option<PathBuf>,
    /// End with exit code 1 when content or structure was lost, or a link leads nowhere. A level
    /// asks for more: content, structure, formatting, layout.
    #[arg(long, value_name = "LEVEL", num_args = 0..=1, require_equals = true, default_missing_value = "structure")]
    pub(crate) strict: Option<Weight>,
}

#[derive(Debug, Args)]
#[command(after_help = "\
Each finding is an error, a warning or advice; below the first of each code stands
what one can do. Nothing is asked of the network: of addresses outside only the
form is looked at. A folder is checked as a whole, with the links between its files.

Topics: structure, links, access, html, text, house, source.

--fix mends what a repair pass can mend (typed lists and headings, empty paragraphs,
double spaces, gaps between levels and the like). In a text only the blocks at fault
are written anew; a page is written anew as “obblet clean” does; a Word file is left
alone where anything else would change. A backup (.bak) is kept.

Examples:
  obblet check guide.md
  obblet check texts --only links,access
  obblet check web --only html --sarif web.sarif
  obblet check texts --fix
  obblet check --explain heading-typed")]
pub(crate) struct CheckArguments {
    /// Files or folders; - is standard input.
    #[arg(required_unless_present = "explain")]
    pub(crate) paths: Vec<PathBuf>,
    /// Only these topics, parted by commas.
    #[arg(long, value_name = "TOPICS", value_delimiter = ',')]
    pub(crate) only: Vec<Topic>,
    /// Not these codes, parted by commas.
    #[arg(long, value_name = "CODES", value_delimiter = ',')]
    pub(crate) ignore: Vec<Code>,
    /// The least that is told: error, warning or advice.
    #[arg(long, value_name = "SEVERITY", default_value = "advice")]
    pub(crate) least: Severity,
    /// No files or folders that match this pattern, for example drafts. May be repeated.
    #[arg(long, value_name = "PATTERN")]
    pub(crate) skip: Vec<String>,
    /// Mend what a repair pass can mend, with a backup beside each file; then say what is left.
    #[arg(long)]
    pub(crate) fix: bool,
    /// Format of a file whose name does not tell: markdown, html, word, latex, org, text.
    #[arg(long, value_name = "FORMAT")]
    pub(crate) read_as: Option<Format>,
    #[command(flatten)]
    pub(crate) house: HouseChoice,
    /// Print all findings as JSON.
    #[arg(long)]
    pub(crate) json: bool,
    /// Also write all findings to this file, in SARIF 2.1.0, for editors and code hosts.
    #[arg(long, value_name = "FILE")]
    pub(crate) sarif: Option<PathBuf>,
    /// Say what a code means and what to do about it; “all” for all codes.
    #[arg(long, value_name = "CODE", exclusive = true)]
    pub(crate) explain: Option<String>,
}

#[derive(Debug, Args)]
#[command(after_help = "\
The two are aligned by their structure, not by lines. First comes a table of
counts, then each difference with its line in both sources (in a Word file, its
paragraph). How a document is spelled is no difference.

Kinds: heading, paragraph, list, table, code, math, structure, link, picture,
note, emphasis, metadata.

Examples:
  obblet compare handbook.docx handbook.md
  obblet compare old.md new.md --ignore metadata,emphasis
  obblet compare guide.md guide.docx --json")]
pub(crate) struct CompareArguments {
    /// One document; - is standard input.
    pub(crate) left: PathBuf,
    /// The other; - is standard input.
    pub(crate) right: PathBuf,
    /// Format of LEFT, where its name does not tell.
    #[arg(long, value_name = "FORMAT")]
    pub(crate) left_as: Option<Format>,
    /// Format of RIGHT, where its name does not tell.
    #[arg(long, value_name = "FORMAT")]
    pub(crate) right_as: Option<Format>,
    /// Kinds of differences that do not matter, parted by commas.
    #[arg(long, value_name = "KINDS", value_delimiter = ',', value_parser = kind)]
    pub(crate) ignore: Vec<Kind>,
    #[command(flatten)]
    pub(crate) house: HouseChoice,
    /// Also say what the readers found.
    #[arg(long)]
    pub(crate) findings: bool,
    /// Print counts and differences as JSON.
    #[arg(long)]
    pub(crate) json: bool,
}

#[derive(Debug, Args)]
#[command(after_help = "\
Each document becomes a chapter under its title, in the order in which they are
named; a folder stands for all documents in it. At the front there are a list of
the documents and the contents. Links from one to another lead to the place
inside; notes are numbered in one row.

Examples:
  obblet bind guide.md handbook.docx paper.tex all.html
  obblet bind texts proof.docx --title \"All about the mill\"")]
pub(crate) struct BindArguments {
    /// The documents, or folders of them, and then the file to write; its name gives the format.
    #[arg(required = true, num_args = 2.., value_names = ["SOURCE", "TARGET"])]
    pub(crate) files: Vec<PathBuf>,
    /// Write over the target, also where it is a document like the sources.
    #[arg(long)]
    pub(crate) overwrite: bool,
    /// The title of the whole; by default that of the first document.
    #[arg(long, value_name = "TEXT")]
    pub(crate) title: Option<String>,
    /// No list of the documents at the front.
    #[arg(long)]
    pub(crate) no_cover: bool,
    /// The deepest level in the contents list, where a document's title is level 1; 0 for no list.
    #[arg(long, value_name = "LEVEL", default_value = "2", value_parser = clap::value_parser!(u8).range(0..=9))]
    pub(crate) contents: u8,
    /// Format of the target, where its name does not tell.
    #[arg(long, value_name = "FORMAT")]
    pub(crate) write_as: Option<Format>,
    #[command(flatten)]
    pub(crate) house: HouseChoice,
    /// Folder for the pictures that the documents carry inside themselves; by default one beside
    /// the target, named after it.
    #[arg(long, value_name = "FOLDER")]
    pub(crate) pictures: Option<PathBuf>,
    /// Write all findings to this file, as JSON.
    #[arg(long, value_name = "FILE")]
    pub(crate) ledger: Option<PathBuf>,
    /// End with exit code 1 when content or structure was lost, or a link leads nowhere. A level
    /// asks for more: content, structure, formatting, layout.
    #[arg(long, value_name = "LEVEL", num_args = 0..=1, require_equals = true, default_missing_value = "structure")]
    pub(crate) strict: Option<Weight>,
}

#[derive(Debug, Args)]
#[command(after_help = "\
Every readable document becomes a page at the same place in OUTPUT; other files
are copied; links between documents lead to the pages. Pages get a list of their
neighbours, a search box, indexes of folders and of topics. What has not changed
since the last run is left alone; so are files in OUTPUT that were changed by hand.

A file obblet.toml in any folder says what holds there: title, order, house,
layout, metadata; in the top folder also the address on the web, for a feed and a
site map. See docs/publishing.md.

Examples:
  obblet publish texts web --dry-run
  obblet publish texts web --ledger web.json --zip web.zip
  obblet publish texts web --skip drafts --formats markdown,word
  obblet publish old-site notes --write-as markdown --formats html")]
pub(crate) struct PublishArguments {
    /// The folder of documents.
    pub(crate) folder: PathBuf,
    /// The folder to write; made if need be. It must not lie inside FOLDER.
    pub(crate) output: PathBuf,
    /// Say what would be done and why, and write nothing.
    #[arg(long)]
    pub(crate) dry_run: bool,
    /// Make everything anew, also what has not changed.
    #[arg(long)]
    pub(crate) rebuild: bool,
    /// Take away the pages of sources that are gone.
    #[arg(long)]
    pub(crate) prune: bool,
    /// Replace files in OUTPUT that were changed by hand; a backup (.bak) is kept of each.
    #[arg(long)]
    pub(crate) overwrite: bool,
    #[command(flatten)]
    pub(crate) house: HouseChoice,
    /// The format to write, for all documents; by default that of the house, which is html.
    #[arg(long, value_name = "FORMAT")]
    pub(crate) write_as: Option<Format>,
    /// Formats to read, parted by commas: markdown, html, word, latex, org, text. By default all but the
    /// one that is written, whose files are copied.
    #[arg(long, value_name = "LIST", value_delimiter = ',')]
    pub(crate) formats: Vec<Format>,
    /// Only files that match this pattern, for example '*.md' or '/guides/**'. May be repeated.
    #[arg(long, value_name = "PATTERN")]
    pub(crate) only: Vec<String>,
    /// No files or folders that match this pattern, for example drafts. May be repeated. Patterns in
    /// a file .obblet-ignore of any folder do the same.
    #[arg(long, value_name = "PATTERN")]
    pub(crate) skip: Vec<String>,
    /// Hidden files too: those whose names begin with a dot.
    #[arg(long)]
    pub(crate) hidden: bool,
    /// Make several pages of each document: one for each heading of this level (1 to 6) or higher, or
    /// one for each page of paper (page-breaks).
    #[arg(long, value_name = "LEVEL", value_parser = split)]
    pub(crate) split: Option<Split>,
    /// The title of the whole; by default what obblet.toml says, or the folder's name.
    #[arg(long, value_name = "TEXT")]
    pub(crate) title: Option<String>,
    /// Publish again whenever something changes, until Ctrl-C.
    #[arg(long, conflicts_with = "dry_run")]
    pub(crate) watch: bool,
    /// Files worked on at once; one a core by default.
    #[arg(long, value_name = "N")]
    pub(crate) jobs: Option<NonZeroUsize>,
    /// Seconds after which one file is given up and the rest goes on.
    #[arg(long, value_name = "SECONDS", default_value = "300")]
    pub(crate) patience: NonZeroU32,
    /// Write all findings to this file, as JSON.
    #[arg(long, value_name = "FILE")]
    pub(crate) ledger: Option<PathBuf>,
    /// Write a line for every file to this file.
    #[arg(long, value_name = "FILE")]
    pub(crate) log: Option<PathBuf>,
    /// Also put everything that was published into this archive, to upload.
    #[arg(long, value_name = "FILE")]
    pub(crate) zip: Option<PathBuf>,
    /// Also write a list of all pages with their bodies (.csv or .json), to import elsewhere.
    #[arg(long, value_name = "FILE")]
    pub(crate) catalogue: Option<PathBuf>,
    /// Print the summary, or the plan, as JSON.
    #[arg(long)]
    pub(crate) json: bool,
    /// End with exit code 1 when content or structure was lost, or a link leads nowhere. A level
    /// asks for more: content, structure, formatting, layout.
    #[arg(long, value_name = "LEVEL", num_args = 0..=1, require_equals = true, default_missing_value = "structure")]
    pub(crate) strict: Option<Weight>,
}

#[derive(Debug, Args)]
#[command(after_help = "\
The server answers on this machine alone, and its pages ask nobody else. Beside the
page stand the findings, each leading to its place in the source; the page can be
seen beside its source, as text and as HTML, and in any house.

Examples:
  obblet preview guide.md
  obblet preview texts --house listing --port 8090")]
pub(crate) struct PreviewArguments {
    /// A document, or a folder of them.
    pub(crate) path: PathBuf,
    #[command(flatten)]
    pub(crate) house: HouseChoice,
    /// The port to answer on; 0 for any that is free.
    #[arg(long, value_name = "PORT", default_value = "0")]
    pub(crate) port: u16,
}

#[derive(Debug, Args)]
pub(crate) struct HouseArguments {
    #[command(subcommand)]
    pub(crate) what: Option<HouseCommand>,
}

#[derive(Debug, Subcommand)]
pub(crate) enum HouseCommand {
    /// List the built-in houses (also what “obblet house” alone does).
    List,
    /// Print a whole house as TOML, each setting with its comment.
    Show {
        /// A built-in house, or a file.
        name: String,
    },
    /// Write a house file to start from: every setting with its comment, ready to be changed.
    New {
        /// The file to write, for example trust.toml.
        file: PathBuf,
        /// The built-in house to start from.
        #[arg(long, value_name = "NAME", default_value = "page")]
        like: String,
    },
}

#[derive(Debug, Args)]
pub(crate) struct DemoArguments {
    /// Where to put the demo: FOLDER/texts is published to FOLDER/web.
    #[arg(default_value = "obblet-demo")]
    pub(crate) folder: PathBuf,
}

#[derive(Debug, Args)]
#[command(after_help = "\
Examples:
  obblet completions bash > ~/.local/share/bash-completion/completions/obblet
  obblet completions zsh > ~/.zfunc/_obblet
  obblet completions fish > ~/.config/fish/completions/obblet.fish")]
pub(crate) struct CompletionsArguments {
    /// The shell.
    pub(crate) shell: clap_complete::Shell,
}

#[derive(Debug, Args)]
#[command(after_help = "\
Examples:
  obblet manual | man -l -
  obblet manual ~/.local/share/man/man1")]
pub(crate) struct ManualArguments {
    /// The folder for the pages of all commands; made if need be.
    pub(crate) folder: Option<PathBuf>,
}

fn kind(name: &str) -> Result<Kind, String> {
    Kind::of_name(name).ok_or_else(|| {
        let names: Vec<&str> = Kind::ALL.into_iter().map(Kind::name).collect();
        format!("there is no such kind; there are {}", names.join(", "))
    })
}

fn split(name: &str) -> Result<Split, String> {
    Split::of_name(name).ok_or_else(|| "a heading level from 1 to 6, or page-breaks".to_string())
}
