//! Folders to publish, and what came of them.

#![allow(dead_code, reason = "each test uses what it needs")]
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use obblet_publish::{Outcome, OutcomeKind, Plan, PublishOptions, Report, publish};
use std::collections::BTreeMap;
use std::fs;
use std::path::PathBuf;
use tempfile::TempDir;

/// A folder with a source to fill and an output to look at.
pub(crate) struct Scene {
    pub(crate) scratch: TempDir,
}

impl Scene {
    pub(crate) fn new(files: &[(&str, &str)]) -> Self {
        let scene = Self { scratch: tempfile::tempdir().unwrap() };
        fs::create_dir(scene.source()).unwrap();
        files.iter().for_each(|(path, text)| scene.put(path, text.as_bytes()));
        scene
    }

    pub(crate) fn source(&self) -> PathBuf {
        self.scratch.path().join("mill-texts")
    }

    pub(crate) fn output(&self) -> PathBuf {
        self.scratch.path().join("web")
    }

    pub(crate) fn put(&self, path: &str, bytes: &[u8]) {
        let path = self.source().join(path);
        fs::create_dir_all(path.parent().unwrap()).unwrap();
        fs::write(path, bytes).unwrap();
    }

    pub(crate) fn publish(&self, options: &PublishOptions) -> Report {
        let plan = Plan::of(&self.source(), &self.output(), options).unwrap();
        publish(&plan, options, &()).unwrap()
    }

    pub(crate) fn plan(&self, options: &PublishOptions) -> Plan {
        Plan::of(&self.source(), &self.output(), options).unwrap()
    }

    /// What became of each source, in the order of their paths.
    pub(crate) fn kinds(&self, options: &PublishOptions) -> Vec<(String, OutcomeKind)> {
        let report = self.publish(options);
        of_sources(&report).map(|outcome| (outcome.source.clone(), outcome.kind)).collect()
    }

    pub(crate) fn page(&self, path: &str) -> String {
        fs::read_to_string(self.output().join(path)).unwrap()
    }

    /// Every file of the output with its content.
    pub(crate) fn written(&self) -> BTreeMap<String, Vec<u8>> {
        let mut files = BTreeMap::new();
        let mut folders = vec![self.output()];
        while let Some(folder) = folders.pop() {
            for entry in fs::read_dir(folder).unwrap() {
                let path = entry.unwrap().path();
                if path.is_dir() {
                    folders.push(path);
                } else {
                    let name = path.strip_prefix(self.output()).unwrap().display().to_string();
                    files.insert(name, fs::read(&path).unwrap());
                }
            }
        }
        files
    }
}

pub(crate) fn outcome<'r>(report: &'r Report, source: &str) -> &'r Outcome {
    report.outcomes.iter().find(|outcome| outcome.source == source).unwrap()
}

/// The outcomes of sources: what is made beside them has its own tests.
pub(crate) fn of_sources(report: &Report) -> impl Iterator<Item = &Outcome> {
    report.outcomes.iter().filter(|outcome| !outcome.source.is_empty())
}

/// How many sources had this outcome.
pub(crate) fn count(report: &Report, kind: OutcomeKind) -> usize {
    of_sources(report).filter(|outcome| outcome.kind == kind).count()
}

pub(crate) fn codes(outcome: &Outcome) -> Vec<&'static str> {
    outcome.findings.iter().map(|finding| finding.code.name()).collect()
}
