//! What is done with a hostile source.

use crate::kind::Kind;
use obblet::check::{CheckOptions, check};
use obblet::compare::{CompareOptions, compare};
use obblet::{Converter, Format, House, ReadOptions, Resolver, WriteOptions};
use std::fmt;

#[derive(Clone, Copy)]
pub(crate) enum Task {
    /// Into a format.
    Write(Format),
    /// HTML, into clean HTML.
    Clean,
    Check,
    /// With the same source and a little more.
    Compare,
}

pub(crate) const TASKS: [Task; 9] = [
    Task::Write(Format::Html),
    Task::Write(Format::Markdown),
    Task::Write(Format::Word),
    Task::Write(Format::Latex),
    Task::Write(Format::Org),
    Task::Write(Format::Text),
    Task::Clean,
    Task::Check,
    Task::Compare,
];

impl fmt::Display for Task {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Write(format) => write!(out, "to {format}"),
            Self::Clean => out.write_str("clean"),
            Self::Check => out.write_str("check"),
            Self::Compare => out.write_str("compare"),
        }
    }
}

/// Gives the text beside a source under any name but that of a picture.
struct Beside<'k>(&'k str);

impl Resolver for Beside<'_> {
    fn resolve(&self, _: &str) -> Option<Vec<u8>> {
        (!self.0.is_empty()).then(|| self.0.as_bytes().to_vec())
    }
}

impl Task {
    /// Does it; gives the bytes that came out. What a reader refuses gives none.
    pub(crate) fn run(self, kind: &Kind, source: &[u8]) -> usize {
        let beside = Beside(&kind.beside);
        let written = |options: &WriteOptions| {
            let written = Converter::with_options(options)
                .from(kind.format)
                .resolver(&beside)
                .convert(source);
            written.map_or(0, |written| written.bytes.len())
        };
        match self {
            Self::Write(format) => written(&WriteOptions::format(format)),
            Self::Clean if kind.format == Format::Html => {
                let house = House::for_cleaning(source);
                written(&WriteOptions { house, ..WriteOptions::format(Format::Html) })
            }
            Self::Clean => 0,
            Self::Check => {
                let checked = check(source, kind.format, &CheckOptions::default(), &beside);
                checked.map_or(0, |checked| checked.findings.iter().count())
            }
            Self::Compare => compared(kind, source, &beside),
        }
    }
}

fn compared(kind: &Kind, source: &[u8], beside: &Beside<'_>) -> usize {
    let read = |source: &[u8]| {
        Converter::default()
            .from(kind.format)
            .resolver(beside)
            .read_as_it_is(source, &ReadOptions::default())
    };
    let mut more = source.to_vec();
    if kind.format != Format::Word {
        more.extend_from_slice(b"\n\nweir\n");
    }
    let (Ok(left), Ok(right)) = (read(source), read(&more)) else { return 0 };
    compare(&left.document, &right.document, &CompareOptions::default()).differences.len()
}
