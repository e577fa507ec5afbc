//! What stands around a page among its neighbours.

use serde::Serialize;

/// What stands around a page among its neighbours. Layouts see it as `shelf`. Addresses are
/// relative to the page, but for those of the tree.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize)]
pub struct Surroundings {
    /// The address of the page that leads to all others.
    pub home: Option<String>,
    /// What the link to it says.
    pub home_title: String,
    /// The folders that the page lies in, from the highest down.
    pub trail: Vec<PageLink>,
    /// The pages beside this one, itself too.
    pub pages: Vec<PageLink>,
    /// What they have in common: the name of their folder.
    pub pages_title: String,
    /// The page to read before this one.
    pub previous: Option<PageLink>,
    /// The page to read after this one.
    pub next: Option<PageLink>,
    /// What the page is about, with the places where all pages about that are listed.
    pub tags: Vec<PageLink>,
    /// Style sheets behind those of the house.
    pub style_sheets: Vec<String>,
    /// The Atom feed that the page is in.
    pub feed: Option<String>,
    /// The script that searches all pages.
    pub search: Option<String>,
    /// Where the page will be found on the web, as a whole address.
    pub own_address: Option<String>,
    /// What the page may load and run: the content of a `Content-Security-Policy`.
    pub security_policy: Option<String>,
    /// What relative addresses are relative to, where that is not the page.
    pub base: Option<String>,
    /// What this page lists, where it is a list of pages.
    pub entries: Vec<ListedPage>,
    /// What leads from the page to the top of the folder: empty, `../`, `../../`.
    pub up: String,
    /// Every page of the folder, nested as the folders are; addresses are relative to the top.
    /// Only for layouts that ask for it: see [`layout_asks_for_tree`](super::layout_asks_for_tree).
    pub tree: Vec<TreeNode>,
}

/// A page that another one leads to.
#[derive(Debug, Clone, Default, PartialEq, Eq, Hash, Serialize)]
pub struct PageLink {
    /// Its title.
    pub title: String,
    /// Where it is.
    pub address: String,
    /// True for the page that leads there itself.
    pub is_current: bool,
}

impl PageLink {
    /// A link to another page.
    #[must_use]
    pub fn new(title: &str, address: impl Into<String>) -> Self {
        Self { title: title.into(), address: address.into(), is_current: false }
    }
}

/// A page in a list of pages.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize)]
pub struct ListedPage {
    /// Its title.
    pub title: String,
    /// Where it is.
    pub address: String,
    /// One or two sentences about it.
    pub description: Option<String>,
    /// The date it bears.
    pub date: Option<String>,
    /// The folder it is in; empty for the one that lists it.
    pub folder: String,
}

/// A page or folder of the tree.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize)]
pub struct TreeNode {
    /// Its title.
    pub title: String,
    /// Where it is; none for a folder without an index.
    pub address: Option<String>,
    /// What is in the folder.
    pub pages: Vec<TreeNode>,
}
