//! A list of all pages with their bodies, for import into a content system.

use crate::convert::{Content, convert};
use crate::entry::Action;
use crate::late::LateAddresses;
use crate::plan::Plan;
use crate::pool::{self, Ended, PoolOptions};
use crate::record::Record;
use crate::write::{WriteFailure, folder_of};
use crate::{PublishOptions, inside};
use obblet::Cancel;
use serde::Serialize;
use std::io::{self, BufWriter, Write};
use std::path::Path;
use std::sync::Arc;

/// How a catalogue is written.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum CatalogueForm {
    /// Comma-separated values (RFC 4180), with a line of names.
    Csv,
    /// A JSON array of objects.
    Json,
}

/// How many documents are in memory at once for each worker.
const AHEAD: usize = 16;

#[derive(Serialize)]
struct Row {
    title: String,
    description: String,
    path: String,
    body: String,
}

impl Row {
    /// For programs that take cells for formulas.
    fn without_formulas(&self) -> Self {
        let [title, description, path, body] =
            [&self.title, &self.description, &self.path, &self.body]
                .map(|cell| without_formula(cell));
        Self { title, description, path, body }
    }
}

/// Writes a list of all pages: title, description, path below the output folder, HTML of the body.
/// Addresses in a body are relative to its page.
///
/// Gives the number of pages. Call it after [`publish`](crate::publish), with the same plan.
///
/// # Errors
/// [`WriteFailure`] when the file cannot be written; then it is as it was before.
pub fn catalogue(
    plan: &Plan,
    options: &PublishOptions,
    form: CatalogueForm,
    file: &Path,
) -> Result<usize, WriteFailure> {
    let failed = |error| WriteFailure { path: file.to_path_buf(), error };
    let folder = folder_of(file);
    std::fs::create_dir_all(folder).map_err(failed)?;
    let part = tempfile::NamedTempFile::new_in(folder).map_err(failed)?;
    let mut rows = Rows::begin(form, BufWriter::new(part.as_file())).map_err(failed)?;
    let shared = Arc::new((plan.clone(), Record::load(plan.output())));
    let documents: Vec<usize> = (0..plan.entries().len())
        .filter(|at| {
            plan.entries().get(*at).is_some_and(|e| matches!(e.action, Action::Convert(_)))
        })
        .collect();
    let workers = options.workers();
    for some in documents.chunks(AHEAD * workers) {
        let (shared, list) = (shared.clone(), some.to_vec());
        let work = move |job: usize, _: &Cancel| {
            list.get(job).map_or_else(Vec::new, |at| bodies(&shared, *at))
        };
        let pool = PoolOptions { workers, patience: options.patience, is_stopped: &|| false };
        let mut done: Vec<(usize, Vec<Row>)> = Vec::new();
        pool::run(some.len(), &pool, Arc::new(work), |job, ended| {
            if let Ended::Done(rows) = ended {
                done.push((job, rows));
            }
        })
        .map_err(failed)?;
        done.sort_by_key(|(job, _)| *job);
        for row in done.iter().flat_map(|(_, rows)| rows) {
            rows.add(row).map_err(failed)?;
        }
    }
    let count = rows.end().map_err(failed)?;
    part.persist(file).map_err(|refused| failed(refused.error))?;
    Ok(count)
}

/// The pages of a document that was published.
fn bodies(shared: &(Plan, Record), at: usize) -> Vec<Row> {
    let (plan, record) = shared;
    let Some(entry) = plan.entries().get(at) else { return Vec::new() };
    // What failed was told when it was published.
    let Some(known) = record.sources.get(&entry.source) else { return Vec::new() };
    let Ok(bytes) = inside::read(&plan.source, Path::new(&entry.source)) else { return Vec::new() };
    let Ok(converted) = convert(&bytes, entry, plan) else { return Vec::new() };
    let Content::Drafts(drafts) = converted.content else { return Vec::new() };
    let late = LateAddresses::of(plan, &entry.source, known, &record.sources);
    let pages = drafts.iter().zip(&known.pages);
    pages
        .map(|(draft, page)| Row {
            title: page.title.clone().unwrap_or_default(),
            description: page.description.clone().unwrap_or_default(),
            path: page.target.clone(),
            body: late
                .settle(draft.html(), &page.target)
                .unwrap_or_else(|| draft.html().to_string()),
        })
        .collect()
}

/// A cell that no spreadsheet takes for a formula: those begin with these signs.
fn without_formula(cell: &str) -> String {
    match cell.chars().next() {
        Some('=' | '+' | '-' | '@' | '\t' | '\r') => format!("'{cell}"),
        _ => cell.to_string(),
    }
}

/// Rows on their way into a file.
enum Rows<W: Write> {
    Csv(Box<csv::Writer<W>>, usize),
    Json(W, usize),
}

impl<W: Write> Rows<W> {
    fn begin(form: CatalogueForm, mut out: W) -> io::Result<Self> {
        Ok(match form {
            CatalogueForm::Csv => Self::Csv(Box::new(csv::Writer::from_writer(out)), 0),
            CatalogueForm::Json => {
                out.write_all(b"[")?;
                Self::Json(out, 0)
            }
        })
    }

    fn add(&mut self, row: &Row) -> io::Result<()> {
        match self {
            Self::Csv(out, count) => {
                *count += 1;
                out.serialize(row.without_formulas()).map_err(io::Error::other)
            }
            Self::Json(out, count) => {
                out.write_all(if *count == 0 { b"\n" } else { b",\n" })?;
                *count += 1;
                serde_json::to_writer(out, row).map_err(io::Error::from)
            }
        }
    }

    fn end(self) -> io::Result<usize> {
        match self {
            Self::Csv(mut out, count) => out.flush().map(|()| count),
            Self::Json(mut out, count) => {
                out.write_all(b"\n]\n")?;
                out.flush().map(|()| count)
            }
        }
    }
}
