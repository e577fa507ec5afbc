//! Style sheets: only the rules a page uses, or the rules put into the elements they are for (CSS
//! Cascading and Inheritance 4).

use super::style_rules::{Part, StyleRule, parts};
use crate::findings::{Code, Findings};
use crate::formats::html::css::values::{parts_between, value_and_importance};
use crate::formats::html::dom::{Dom, NodeId};
use crate::formats::html::select::{Html, Matcher};
use selectors::parser::Selector;
use std::collections::{BTreeMap, HashMap};

/// Takes the rules out of the page's style sheets that no element uses.
pub(super) fn drop_unused(dom: &mut Dom) {
    let sheets: Vec<NodeId> =
        dom.below(0).filter(|node| dom.name(*node) == Some("style")).collect();
    for sheet in sheets {
        let parts = parts(&dom.text_of(sheet));
        let mut used = String::from("\n");
        push_used(dom, &parts, "", &mut used);
        let Some(text) = dom.first_child(sheet) else { continue };
        dom.set_text(text, &used);
        if used.trim().is_empty() {
            dom.remove(sheet);
        }
    }
}

fn push_used(dom: &Dom, parts: &[Part], indent: &str, out: &mut String) {
    let mut matcher = Matcher::default();
    for part in parts {
        match part {
            Part::Rule(rule) if is_used(dom, rule, &mut matcher) => {
                out.push_str(&format!("{indent}{} {{ {} }}\n", rule.prelude, rule.declarations));
            }
            Part::Rule(_) => {}
            Part::Group { prelude, parts } => {
                let mut inner = String::new();
                push_used(dom, parts, &format!("{indent}  "), &mut inner);
                if !inner.is_empty() {
                    out.push_str(&format!("{indent}{prelude} {{\n{inner}{indent}}}\n"));
                }
            }
            Part::Other(text) => out.push_str(&format!("{indent}{text}\n")),
        }
    }
}

/// What cannot be told is used.
fn is_used(dom: &Dom, rule: &StyleRule, matcher: &mut Matcher) -> bool {
    let Some(selectors) = &rule.selectors else { return true };
    let is_match = |node: NodeId, matcher: &mut Matcher| {
        dom.name(node).is_some()
            && selectors.slice().iter().any(|selector| matcher.matches(dom, node, selector))
    };
    dom.below(0).any(|node| is_match(node, matcher))
}

/// A property, its value, and whether that is important.
type Declaration = (String, String, bool);

/// One rule with one of its selectors.
struct Weighted<'r> {
    selector: &'r Selector<Html>,
    declarations: &'r [Declaration],
}

/// Puts the declarations of a style sheet into the elements they are for, the stronger behind the
/// weaker. What only holds under a condition or in a state has no place there.
pub(super) fn put_into_elements(dom: &mut Dom, sheet: &str, findings: &mut Findings) {
    let parts = parts(sheet);
    let variables = variables(&parts);
    let mut lost: BTreeMap<String, usize> = BTreeMap::new();
    let mut rules: Vec<(&StyleRule, Vec<Declaration>)> = Vec::new();
    for part in &parts {
        match part {
            Part::Rule(rule) if rule.is_whole => {
                rules.push((rule, declarations(&rule.declarations, &variables)));
            }
            Part::Rule(rule) => *lost.entry(rule.prelude.clone()).or_default() += 1,
            Part::Group { prelude, .. } => *lost.entry(prelude.clone()).or_default() += 1,
            Part::Other(text) => {
                let name = text.split([' ', '{', ';']).next().unwrap_or_default();
                *lost.entry(name.into()).or_default() += 1;
            }
        }
    }
    let mut weighted: Vec<Weighted<'_>> = rules
        .iter()
        .flat_map(|(rule, declarations)| {
            let selectors = rule.selectors.as_ref().map_or(&[][..], |list| list.slice());
            selectors.iter().map(|selector| Weighted { selector, declarations })
        })
        .collect();
    // Rules of one weight keep their order.
    weighted.sort_by_key(|rule| rule.selector.specificity());
    let mut matcher = Matcher::default();
    let styles: Vec<(NodeId, String)> = shown_elements(dom)
        .into_iter()
        .filter_map(|node| {
            let style = style_of(dom, node, &weighted, &mut matcher);
            (!style.is_empty()).then_some((node, style))
        })
        .collect();
    for (node, style) in styles {
        dom.set_attribute(node, "style", &style);
    }
    for (subject, count) in lost {
        for _ in 0..count {
            findings.count(Code::StyleNotInlined, &subject, None);
        }
    }
}

/// The elements that a browser shows: the body, or a fragment's root's content, and below.
fn shown_elements(dom: &Dom) -> Vec<NodeId> {
    let body = dom.body();
    let top = body.unwrap_or(dom.root());
    let is_element = |node: &NodeId| dom.name(*node).is_some();
    body.into_iter().chain(dom.below(top)).filter(is_element).collect()
}

fn style_of(dom: &Dom, node: NodeId, rules: &[Weighted<'_>], matcher: &mut Matcher) -> String {
    let own = dom.attribute(node, "style").unwrap_or_default();
    let own = declarations(own, &HashMap::new());
    let mut order: Vec<&str> = Vec::new();
    let mut values: HashMap<&str, (&str, bool)> = HashMap::new();
    let matching: Vec<&Weighted<'_>> =
        rules.iter().filter(|rule| matcher.matches(dom, node, rule.selector)).collect();
    let all = matching.iter().flat_map(|rule| rule.declarations.iter()).chain(own.iter());
    for (name, value, is_important) in all {
        match values.get(name.as_str()) {
            Some((_, true)) if !is_important => continue,
            Some(_) => order.retain(|known| known != name),
            None => {}
        }
        // A later declaration stands behind: `font` and `font-size` depend on their order.
        order.push(name);
        values.insert(name, (value, *is_important));
    }
    let line = |name: &&str| {
        let (value, _) = values.get(name)?;
        Some(format!("{name}: {value}"))
    };
    order.iter().filter_map(line).collect::<Vec<_>>().join("; ")
}

/// Variables that hold for the whole page.
fn variables(parts: &[Part]) -> HashMap<String, String> {
    let mut variables = HashMap::new();
    for part in parts {
        if let Part::Rule(rule) = part
            && rule.prelude == ":root"
        {
            for (name, value, _) in declarations(&rule.declarations, &HashMap::new()) {
                variables.insert(name, value);
            }
        }
    }
    variables
}

/// Names, values and whether they are important. Variables are put in; variables themselves say
/// nothing in an element.
fn declarations(text: &str, variables: &HashMap<String, String>) -> Vec<Declaration> {
    let mut found = Vec::new();
    for declaration in parts_between(text, |c| c == ';') {
        let Some((name, value)) = declaration.split_once(':') else { continue };
        let (name, value) = (name.trim().to_ascii_lowercase(), value.trim());
        if name.starts_with("--") && !variables.is_empty() {
            continue;
        }
        let (value, is_important) = value_and_importance(value);
        found.push((name, with_variables(value, variables), is_important));
    }
    found
}

/// A value with `var(--name)` replaced, as deep as variables name each other, ten times at most.
fn with_variables(value: &str, variables: &HashMap<String, String>) -> String {
    let mut value = value.to_string();
    for _ in 0..10 {
        let Some(start) = value.find("var(") else { break };
        let Some(end) = value.get(start..).and_then(|rest| rest.find(')')) else { break };
        let inner = value.get(start + 4..start + end).unwrap_or_default();
        let (name, fallback) = inner.split_once(',').unwrap_or((inner, ""));
        let known = variables.get(name.trim()).map_or(fallback.trim(), String::as_str).to_string();
        value.replace_range(start..=start + end, &known);
    }
    value
}
