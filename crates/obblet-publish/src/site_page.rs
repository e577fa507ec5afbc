//! A page of the web folder.

use crate::record::{PageRecord, SourceRecord};
use std::sync::{Arc, LazyLock};

/// A page of the web folder.
#[derive(Debug, Clone)]
pub(crate) struct SitePage {
    pub(crate) source: String,
    /// The folder of its source.
    pub(crate) folder: String,
    pub(crate) known: Arc<SourceRecord>,
    /// Which page of its source it is, counted from 0.
    pub(crate) number: usize,
}

impl SitePage {
    /// What is known of it.
    pub(crate) fn facts(&self) -> &PageRecord {
        static NOTHING: LazyLock<PageRecord> = LazyLock::new(PageRecord::default);
        self.known.pages.get(self.number).unwrap_or(&NOTHING)
    }

    pub(crate) fn title(&self) -> &str {
        self.facts().title.as_deref().unwrap_or(&self.source)
    }

    pub(crate) fn target(&self) -> &str {
        &self.facts().target
    }
}
