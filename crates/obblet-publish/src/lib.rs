//! Publishes a folder of documents as a web folder.
//!
//! Two steps: [`Plan::of`] looks at a folder and at what an earlier run has made of it, and says what
//! would become of every file and why, without writing anything; [`publish`] does it, all cores
//! wide, and gives a [`Report`] with an outcome for every file. One file that fails never stops the
//! others.
//!
//! ```
//! # fn main() -> Result<(), Box<dyn std::error::Error>> {
//! use obblet_publish::{OutcomeKind, Plan, PublishOptions, State, publish};
//! # let scratch = tempfile::tempdir()?;
//! # let (source, output) = (scratch.path().join("texts"), scratch.path().join("web"));
//! std::fs::create_dir(&source)?;
//! std::fs::write(source.join("tides.md"), "# Tides\n\nSee the [mill](mill.md).\n")?;
//! std::fs::write(source.join("mill.md"), "# The mill\n")?;
//!
//! let options = PublishOptions::default();
//! let plan = Plan::of(&source, &output, &options)?;
//! assert_eq!(plan.count(State::New), 2);
//!
//! let report = publish(&plan, &options, &())?;
//! assert_eq!(report.count(OutcomeKind::Converted), 2);
//! let page = std::fs::read_to_string(output.join("tides.html"))?;
//! assert!(page.contains("<a href=\"mill.html\">"));
//!
//! // Nothing has changed: nothing is to be done.
//! assert_eq!(Plan::of(&source, &output, &options)?.count(State::Unchanged), 2);
//! # Ok(())
//! # }
//! ```

mod archive;
mod catalogue;
mod changes;
mod check;
mod closing;
mod convert;
mod entry;
mod error;
mod fingerprint;
mod houses;
mod inside;
mod journal;
mod late;
mod links;
mod made;
mod output;
mod pictures;
mod plan;
mod pool;
mod preview;
mod record;
mod report;
mod resolver;
mod run;
mod scope;
mod search;
mod site;
mod site_page;
mod standing;
mod tags;
mod targets;
mod titles;
mod walk;
mod watch;
mod worker;
mod write;

pub use archive::archive;
pub use catalogue::{CatalogueForm, catalogue};
pub use check::{CheckError, CheckedFile, check_file, check_folder, documents_of};
pub use entry::{Action, Entry, State};
pub use error::{PlanError, PublishError};
pub use houses::{HouseFileError, house_named, read_house_files};
pub use journal::JOURNAL_NAME;
pub use plan::Plan;
pub use preview::{Preview, PreviewError};
pub use record::RECORD_NAME;
pub use report::{Outcome, OutcomeKind, Report};
pub use resolver::FolderResolver;
pub use run::{Watcher, publish};
pub use scope::{FOLDER_FILE, ScopeError, Split};
pub use site::documents_in_order;
pub use walk::IGNORE_FILE;
pub use watch::Changes;
pub use write::{WriteFailure, backup_path, folder_of, write_atomically};

use obblet::{Additions, Format, House};
use std::num::NonZeroUsize;
use std::time::Duration;

/// What [`Plan::of`] and [`publish`] can be told.
#[derive(Debug, Clone)]
pub struct PublishOptions {
    /// The settings of the destination; its [`format`](obblet::house::PageSettings::format) is the
    /// one that documents are written in. Default: the house `page`.
    pub house: House,
    /// Whether folders may name another house in their settings files. Default: yes.
    pub follow_folder_houses: bool,
    /// Settings that are changed in every house, also in those that folders name.
    pub settings: Vec<(String, String)>,
    /// The title of the whole. Default: what the top folder's settings say, or else its name.
    pub title: Option<String>,
    /// The formats that are read; files of other document formats are left out, but for those of
    /// the target's format, which are copied. Default: all formats but that of the target.
    pub formats: Option<Vec<Format>>,
    /// Patterns of files that are published; empty for all. As in ignore files: `*.md`,
    /// `/guides/**`.
    pub only: Vec<String>,
    /// Patterns of files and folders that are left out.
    pub skip: Vec<String>,
    /// Publish hidden files too. Default: no.
    pub hidden: bool,
    /// Where documents become several pages, unless a folder says otherwise.
    pub split: Split,
    /// How many files are worked on at once. Default: one a core.
    pub jobs: Option<NonZeroUsize>,
    /// How long one file may take. Default: five minutes.
    pub patience: Duration,
    /// Make everything anew, also what has not changed. Default: no.
    pub rebuild: bool,
    /// Take away what earlier runs have made of sources that are gone. Default: no.
    pub prune: bool,
    /// Replace files of the output folder that were changed by hand or come from elsewhere; a
    /// backup is kept beside each. Default: leave them alone and report a conflict.
    pub overwrite: bool,
    /// Readers, writers and repair passes that the program adds. What their `Debug` shows is part of what a
    /// page depends on: a reader whose rules have changed shows another version there, and its pages are made
    /// anew. Default: none.
    pub additions: Additions,
}

impl Default for PublishOptions {
    fn default() -> Self {
        Self {
            house: House::default(),
            follow_folder_houses: true,
            settings: Vec::new(),
            title: None,
            formats: None,
            only: Vec::new(),
            skip: Vec::new(),
            hidden: false,
            split: Split::Never,
            jobs: None,
            patience: Duration::from_secs(300),
            rebuild: false,
            prune: false,
            overwrite: false,
            additions: Additions::new(),
        }
    }
}

impl PublishOptions {
    /// Does some work on as many threads as there are workers.
    fn with_crew<R: Send>(&self, work: impl FnOnce() -> R + Send) -> R {
        match rayon::ThreadPoolBuilder::new().num_threads(self.workers()).build() {
            Ok(crew) => crew.install(work),
            // Where no threads are to be had, one is enough.
            Err(_) => work(),
        }
    }

    /// How many workers there are.
    fn workers(&self) -> usize {
        let one_a_core = || std::thread::available_parallelism().map_or(1, Into::into);
        self.jobs.map_or_else(one_a_core, Into::into)
    }
}
