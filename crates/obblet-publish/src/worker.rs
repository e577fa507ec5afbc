//! What workers do: reading documents, copying files, laying out pages.

use crate::convert::{Content, Converted, convert, write_options};
use crate::entry::{Action, Entry};
use crate::fingerprint::Fingerprint;
use crate::inside;
use crate::late::LateAddresses;
use crate::output::{Output, Put};
use crate::pictures::Pictures;
use crate::plan::Plan;
use crate::record::SourceRecord;
use crate::search::SearchIndex;
use crate::site::Site;
use obblet::findings::{Code, Finding, Findings};
use obblet::page::Surroundings;
use obblet::{Account, Cancel, Draft, Limits, clean_drawing};
use std::collections::{BTreeMap, HashMap};
use std::path::Path;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::{Duration, Instant};

/// Bytes of written bodies that wait in memory for their pages to be laid out.
pub(crate) const WAITING: usize = 64 << 20;

/// What all workers share.
pub(crate) struct Shared {
    pub(crate) plan: Plan,
    pub(crate) output: Output,
    pub(crate) pictures: Pictures,
    /// Bytes of bodies that wait.
    pub(crate) waiting: AtomicUsize,
    /// The bodies that wait, by the number of their entry.
    pub(crate) drafts: Mutex<HashMap<usize, Vec<Draft>>>,
    /// None where pages have no search box.
    pub(crate) search: Option<Mutex<SearchIndex>>,
}

/// What a worker gives for one document or file.
pub(crate) enum Done {
    Converted(Box<Read>),
    Copied(Arc<SourceRecord>, Put, Vec<Finding>),
    /// A file that could do harm where it is copied to: why it may, and the finding.
    Refused(String, Vec<Finding>),
    Failed(String),
}

/// A document that was read.
pub(crate) struct Read {
    pub(crate) facts: SourceRecord,
    pub(crate) findings: Vec<Finding>,
    pub(crate) account: Account,
    /// The target of a format that has no pages to be laid out.
    pub(crate) put: Option<Put>,
    /// The first of its own files that could not be put where it belongs.
    pub(crate) trouble: Option<(String, Put)>,
    /// Its own files that are written already.
    pub(crate) noted: Vec<(String, Fingerprint)>,
    pub(crate) duration: Duration,
}

/// A document whose pages may have to be laid out.
pub(crate) struct Layout {
    pub(crate) at: usize,
    /// Its pages are there, and stay when nothing around them is otherwise.
    pub(crate) may_stay: bool,
    pub(crate) facts: Arc<SourceRecord>,
}

/// What is known of all documents when pages are laid out.
pub(crate) struct LayoutGround {
    pub(crate) site: Arc<Site>,
    pub(crate) facts: BTreeMap<String, Arc<SourceRecord>>,
}

/// A page that was laid out.
pub(crate) struct LaidOut {
    pub(crate) put: Put,
    /// The fingerprint of what stands around it.
    pub(crate) around: Option<Fingerprint>,
    pub(crate) findings: Vec<Finding>,
    pub(crate) duration: Duration,
}

impl LaidOut {
    pub(crate) fn failed(why: &str) -> Self {
        Self {
            put: Put::Failed(why.into()),
            around: None,
            findings: Vec::new(),
            duration: Duration::ZERO,
        }
    }
}

fn is_drawing(target: &str) -> bool {
    let ending = target.rsplit_once('.').map_or("", |(_, ending)| ending);
    ["svg", "svgz"].iter().any(|drawing| ending.eq_ignore_ascii_case(drawing))
}

impl Shared {
    /// One entry of the plan: a document is read, a file copied.
    pub(crate) fn take(&self, at: usize, cancel: &Cancel) -> Option<Done> {
        let entry = self.plan.entries().get(at)?;
        let bytes = match self.read_source(entry) {
            Ok(bytes) => bytes,
            Err(why) => return Some(Done::Failed(why)),
        };
        Some(match entry.action {
            Action::Convert(_) => self.document(at, entry, &bytes, cancel),
            _ => self.copy(entry, &bytes),
        })
    }

    /// The content of a source that nobody writes to meanwhile.
    fn read_source(&self, entry: &Entry) -> Result<Vec<u8>, String> {
        let failed = |error| format!("it cannot be read: {error}");
        let read = || inside::read(&self.plan.source, Path::new(&entry.source)).map_err(failed);
        let mut bytes = read()?;
        // As the plan saw it: nobody has touched it since.
        if entry.hash == Some(Fingerprint::of(&bytes)) {
            return Ok(bytes);
        }
        for _ in 0..3 {
            std::thread::sleep(Duration::from_millis(50));
            let again = read()?;
            if again == bytes {
                return Ok(bytes);
            }
            bytes = again;
        }
        Err("it was being changed while it was read; run this again".into())
    }

    fn copy(&self, entry: &Entry, bytes: &[u8]) -> Done {
        let mut findings = Findings::new();
        // Who opens a drawing by itself runs its scripts on the site it stands on.
        let is_looked_at = is_drawing(&entry.target) && !entry.house().safety.trust_sources;
        let drawing = is_looked_at.then(|| clean_drawing(bytes));
        let written = match &drawing {
            Some(Some(drawing)) if drawing.is_changed => {
                findings.add_about(Code::PictureCleaned, &entry.source, None);
                drawing.svg.as_bytes()
            }
            Some(None) => {
                findings.add_about(Code::PictureRefused, &entry.source, None);
                let why = "it is no drawing (SVG in UTF-8) that can be looked through for scripts";
                return Done::Refused(why.into(), findings.into_vec());
            }
            _ => bytes,
        };
        let facts = Arc::new(SourceRecord {
            hash: Fingerprint::of(bytes),
            settings: entry.settings(self.plan.format, self.plan.added),
            ..SourceRecord::nothing()
        });
        Done::Copied(facts, self.output.put(&entry.target, written), findings.into_vec())
    }

    fn document(&self, at: usize, entry: &Entry, bytes: &[u8], cancel: &Cancel) -> Done {
        let begun = Instant::now();
        let limits = Limits { cancel: cancel.clone(), ..Limits::default() };
        let converted = match limits.run(|| convert(bytes, entry, &self.plan)) {
            Ok(Ok(converted)) => converted,
            Ok(Err(error)) => return Done::Failed(error.to_string()),
            Err(exceeded) => return Done::Failed(exceeded.to_string()),
        };
        let Converted { content, media, findings, account, facts } = converted;
        let mut read = Read {
            facts,
            findings,
            account,
            put: None,
            trouble: None,
            noted: Vec::new(),
            duration: Duration::ZERO,
        };
        match content {
            Content::Drafts(drafts) => {
                for (picture, known) in media.iter().zip(&read.facts.pictures) {
                    if let Err(error) = self.pictures.put(picture, known.hash) {
                        return Done::Failed(format!(
                            "{} cannot be put aside: {error}",
                            picture.name
                        ));
                    }
                }
                self.index(&drafts, &read.facts);
                self.keep(at, drafts);
            }
            Content::Bytes(bytes) => {
                for (picture, known) in media.iter().zip(&read.facts.pictures) {
                    let put = self.output.put(&known.target, &picture.bytes);
                    match put.hash() {
                        Some(hash) => read.noted.push((known.target.clone(), hash)),
                        None => read.trouble = Some((known.target.clone(), put)),
                    }
                }
                read.put = Some(self.output.put(&entry.target, &bytes));
            }
        }
        read.duration = begun.elapsed();
        Done::Converted(Box::new(read))
    }

    /// Takes the words of pages into the search index.
    fn index(&self, drafts: &[Draft], facts: &SourceRecord) {
        let Some(search) = &self.search else { return };
        for (draft, page) in drafts.iter().zip(&facts.pages) {
            let words = crate::search::words_of(draft.html());
            let mut search = search.lock().unwrap_or_else(PoisonError::into_inner);
            search.set(&page.target, words);
        }
    }

    /// Keeps bodies for their layout, if there is room.
    fn keep(&self, at: usize, drafts: Vec<Draft>) {
        let size: usize = drafts.iter().map(|draft| draft.html().len()).sum();
        if self.waiting.fetch_add(size, Ordering::SeqCst) + size <= WAITING {
            self.drafts.lock().unwrap_or_else(PoisonError::into_inner).insert(at, drafts);
        } else {
            self.waiting.fetch_sub(size, Ordering::SeqCst);
        }
    }

    pub(crate) fn put_picture(&self, target: &str, hash: Fingerprint) -> Put {
        match self.pictures.get(hash) {
            Ok(bytes) => self.output.put(target, &bytes),
            // It is where an earlier run has put it; what if not was found out before.
            Err(_) => match std::fs::read(self.output.root().join(target)) {
                Ok(there) if Fingerprint::of(&there) == hash => Put::Same(hash),
                _ => Put::Conflict,
            },
        }
    }

    /// Lays out the pages of a document; `None` where they are what they have to be.
    pub(crate) fn lay_out(&self, ground: &LayoutGround, layout: &Layout) -> Option<Vec<LaidOut>> {
        let entry = self.plan.entries().get(layout.at)?;
        let late = LateAddresses::of(&self.plan, &entry.source, &layout.facts, &ground.facts);
        let arounds: Vec<(Surroundings, Fingerprint)> = layout
            .facts
            .pages
            .iter()
            .map(|page| {
                let around = ground.site.around_page(&self.plan, &page.target);
                let sheet = self.plan.style_sheet_of(entry);
                let print = Fingerprint::of_data(&(&around, sheet, late.sorted()));
                (around, print)
            })
            .collect();
        let known = layout.facts.pages.iter().map(|page| page.around);
        if layout.may_stay && known.eq(arounds.iter().map(|(_, print)| Some(*print))) {
            return None;
        }
        let drafts = match self.drafts_of(layout.at, entry) {
            Ok(drafts) => drafts,
            Err(why) => return Some(vec![LaidOut::failed(&why)]),
        };
        let pages = drafts.into_iter().zip(&layout.facts.pages).zip(arounds);
        let laid_out = pages.map(|((draft, page), (around, print))| {
            let begun = Instant::now();
            let laid_out = self.page(entry, draft, &page.target, around, &late);
            LaidOut { around: Some(print), duration: begun.elapsed(), ..laid_out }
        });
        Some(laid_out.collect())
    }

    /// The bodies of a document: those that wait, or else made once more.
    fn drafts_of(&self, at: usize, entry: &Entry) -> Result<Vec<Draft>, String> {
        let waiting = self.drafts.lock().unwrap_or_else(PoisonError::into_inner).remove(&at);
        let Some(drafts) = waiting else { return self.drafts_again(entry) };
        let size = drafts.iter().map(|draft| draft.html().len()).sum();
        self.waiting.fetch_sub(size, Ordering::SeqCst);
        Ok(drafts)
    }

    /// Reads a document once more whose bodies did not wait.
    fn drafts_again(&self, entry: &Entry) -> Result<Vec<Draft>, String> {
        let bytes = self.read_source(entry)?;
        let converted = convert(&bytes, entry, &self.plan).map_err(|error| error.to_string())?;
        match converted.content {
            Content::Drafts(drafts) => Ok(drafts),
            Content::Bytes(_) => Ok(Vec::new()),
        }
    }

    fn page(
        &self,
        entry: &Entry,
        mut draft: Draft,
        target: &str,
        around: Surroundings,
        late: &LateAddresses,
    ) -> LaidOut {
        if let Some(html) = late.settle(draft.html(), target) {
            draft.replace_html(html);
        }
        let mut options = write_options(entry, &self.plan);
        options.surroundings = around;
        options.style_sheet_address =
            self.plan.style_sheet_of(entry).map(|sheet| obblet::address::relative(target, sheet));
        match draft.lay_out(&options) {
            Ok(written) => LaidOut {
                put: self.output.put(target, &written.bytes),
                around: None,
                findings: written.findings.into_vec(),
                duration: Duration::ZERO,
            },
            Err(error) => LaidOut::failed(&error.to_string()),
        }
    }
}
