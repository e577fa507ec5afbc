//! Publishes a folder of documents as a web folder.
//!
//! Two steps: [`Plan::of`] looks at a folder and says what would become of every file, without
//! writing anything; [`publish`] does it, all cores wide, and gives a [`Report`] with an outcome
//! for every file. One file that fails never stops the others.
//!
//! ```
//! # fn main() -> Result<(), Box<dyn std::error::Error>> {
//! use obblet_publish::{OutcomeKind, Plan, PublishOptions, publish};
//! # let scratch = tempfile::tempdir()?;
//! # let (source, output) = (scratch.path().join("texts"), scratch.path().join("web"));
//! std::fs::create_dir(&source)?;
//! std::fs::write(source.join("tides.md"), "# Tides\n\nSee the [mill](mill.md).\n")?;
//! std::fs::write(source.join("mill.md"), "# The mill\n")?;
//!
//! let options = PublishOptions::default();
//! let plan = Plan::of(&source, &output, &options)?;
//! assert_eq!(plan.entries().len(), 2);
//!
//! let report = publish(&plan, &options, &())?;
//! assert_eq!(report.count(OutcomeKind::Converted), 2);
//! let page = std::fs::read_to_string(output.join("tides.html"))?;
//! assert!(page.contains("<a href=\"mill.html\">"));
//! # Ok(())
//! # }
//! ```

mod convert;
mod index;
mod links;
mod plan;
mod record;
mod report;
mod resolver;
mod run;
mod write;

pub use plan::{Action, Entry, Plan, PlanError};
pub use record::RECORD_NAME;
pub use report::{Outcome, OutcomeKind, Report};
pub use resolver::FolderResolver;
pub use run::{PublishError, Watcher, publish};
pub use write::{WriteFailure, backup_path, write_atomically};

use obblet::House;
use std::num::NonZeroUsize;

/// What [`Plan::of`] and [`publish`] can be told.
#[derive(Debug, Clone, Default)]
pub struct PublishOptions {
    /// The settings of the destination. Default: the house `page`.
    pub house: House,
    /// The title of the index page. Default: the folder's name.
    pub title: Option<String>,
    /// How many files are worked on at once. Default: one a core.
    pub jobs: Option<NonZeroUsize>,
    /// Replace files of the output folder that were changed by hand or come from elsewhere; a
    /// backup is kept beside each. Default: leave them alone and report a conflict.
    pub overwrite: bool,
}
