//! Pages that lead on from old addresses to new ones.

use super::Made;
use crate::entry::{Action, State};
use crate::plan::Plan;
use crate::record::SourceRecord;
use obblet::address::{normalised, relative};
use obblet::formats::html::escaped_text;
use obblet::page::SiteWords;
use std::collections::{BTreeMap, HashMap};
use std::sync::Arc;

/// Old targets, each with the target it leads to: those of earlier runs, of sources that were
/// renamed, and those that documents name as their former addresses.
pub(crate) fn moved(
    plan: &Plan,
    facts: &BTreeMap<String, Arc<SourceRecord>>,
) -> BTreeMap<String, String> {
    let mut moved = plan.before.moved.clone();
    let old_target = |source: &str| {
        let known = plan.before.sources.get(source)?;
        Some(known.pages.first()?.target.clone())
    };
    let renamed = plan.entries().iter().filter(|entry| {
        matches!(entry.action, Action::Convert(_))
            && matches!(entry.state, State::New | State::InConflict)
    });
    for entry in renamed {
        for old in plan.renamed_from(entry).iter().filter_map(|source| old_target(source)) {
            moved.insert(old, entry.target.clone());
        }
    }
    let ending = &plan.page_ending();
    for page in facts.values().flat_map(|facts| &facts.pages) {
        for former in &page.formerly {
            let Some(former) = below(former, plan.top().web.address.as_deref()) else { continue };
            let path = former.trim_start_matches('/');
            let path = match path.is_empty() || path.ends_with('/') {
                true => format!("{path}index{ending}"),
                false => path.to_string(),
            };
            if let Some(old) = normalised(&path).filter(|old| old.ends_with(ending.as_str())) {
                moved.insert(old, page.target.clone());
            }
        }
    }
    settled(moved, plan)
}

/// What is left of a full address below that of the folder; of one elsewhere nothing.
fn below<'a>(former: &'a str, address: Option<&str>) -> Option<&'a str> {
    match former.contains("://") || former.starts_with("//") {
        true => former.strip_prefix(address?),
        false => Some(former),
    }
}

/// Without circles, without steps between, and without those that lead nowhere or away from a page
/// that is there.
fn settled(moved: BTreeMap<String, String>, plan: &Plan) -> BTreeMap<String, String> {
    let steps: HashMap<&str, &str> =
        moved.iter().map(|(old, new)| (old.as_str(), new.as_str())).collect();
    let end_of = |old: &str| {
        let mut at = *steps.get(old)?;
        for _ in 0..steps.len() {
            match steps.get(at) {
                Some(next) if !plan.is_target(at) => at = next,
                _ => break,
            }
        }
        plan.is_target(at).then(|| at.to_string())
    };
    let away = moved.keys().filter(|old| !plan.is_target(old));
    away.filter_map(|old| Some((old.clone(), end_of(old)?))).collect()
}

/// The page at an old address.
pub(super) fn page(plan: &Plan, old: &str, new: &str) -> Made {
    let words = SiteWords::of_language(plan.language());
    let address = escaped_text(&relative(old, new));
    let language = escaped_text(plan.language());
    let page = format!(
        "<!DOCTYPE html>\n<html lang=\"{language}\">\n<head>\n<meta charset=\"utf-8\">\n\
         <meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n\
         <title>{title}</title>\n<meta http-equiv=\"refresh\" content=\"0; url={address}\">\n\
         <link rel=\"canonical\" href=\"{address}\">\n</head>\n<body>\n<h1>{title}</h1>\n\
         <p>{text} <a href=\"{address}\">{address}</a></p>\n</body>\n</html>\n",
        title = words.moved,
        text = words.moved_text,
    );
    (old.to_string(), page.into_bytes())
}
