//! Arrows run one way: each room of the library uses only rooms on floors below it. The table of floors in
//! `ARCHITECTURE.md` is the picture of the house, and this holds the code to it.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};
use syn::visit::Visit;

/// A module, by the names on the way to it.
type Module = Vec<String>;

/// What one file takes from others, as paths from the crate's root.
struct Arrows<'h> {
    house: &'h House,
    module: Module,
    found: Vec<Module>,
}

/// The files of the library, and what their modules hand on under names of their own.
#[derive(Default)]
struct House {
    files: BTreeMap<Module, syn::File>,
    handed_on: BTreeMap<Module, Module>,
}

impl House {
    fn read(root: &Path) -> Self {
        let mut house = Self::default();
        for path in rust_files(root) {
            let name = path.strip_prefix(root).unwrap().with_extension("");
            let mut module: Module =
                name.iter().map(|part| part.to_str().unwrap().to_string()).collect();
            if matches!(module.last().map(String::as_str), Some("mod" | "lib" | "main")) {
                module.pop();
            }
            let is_test = module.last().is_some_and(|name| name.ends_with("tests"));
            if !is_test {
                let text = std::fs::read_to_string(&path).unwrap();
                house.files.insert(module, syn::parse_file(&text).unwrap());
            }
        }
        for (module, file) in &house.files {
            for item in &file.items {
                let syn::Item::Use(item) = item else { continue };
                if matches!(item.vis, syn::Visibility::Inherited) {
                    continue;
                }
                for (path, name) in paths_of(&item.tree, Vec::new()) {
                    let here = [module.as_slice(), &[name]].concat();
                    let there = absolute(&path, module)
                        .unwrap_or_else(|| [module.as_slice(), path.as_slice()].concat());
                    house.handed_on.insert(here, there);
                }
            }
        }
        house
    }

    /// The module in which what a path names is defined.
    fn home_of(&self, path: &[String]) -> Module {
        let mut path = path.to_vec();
        for _ in 0..8 {
            let handed = (1..=path.len()).rev().find_map(|length| {
                let there = self.handed_on.get(&path[..length])?;
                Some([there.as_slice(), &path[length..]].concat())
            });
            match handed {
                Some(there) if there != path => path = there,
                _ => break,
            }
        }
        while !path.is_empty() && !self.files.contains_key(&path) {
            path.pop();
        }
        path
    }

    /// All rooms but the crate's root and the face of the formats.
    fn rooms(&self) -> BTreeSet<String> {
        let rooms = self.files.keys().map(|module| room_of(module));
        rooms.filter(|room| !matches!(room.as_str(), "" | "formats")).collect()
    }

    /// For each room the rooms it uses, with one file that does.
    fn arrows(&self) -> BTreeMap<(String, String), String> {
        let mut arrows = BTreeMap::new();
        for (module, file) in &self.files {
            let mut seen = Arrows { house: self, module: module.clone(), found: Vec::new() };
            seen.visit_file(file);
            for home in seen.found {
                let (from, to) = (room_of(module), room_of(&home));
                if !from.is_empty() && !to.is_empty() && from != to {
                    arrows.entry((from, to)).or_insert_with(|| module.join("/"));
                }
            }
        }
        arrows
    }
}

impl<'a> Visit<'a> for Arrows<'_> {
    fn visit_item_use(&mut self, item: &'a syn::ItemUse) {
        // What a module hands on of its own rooms is its face, and no arrow.
        let is_face = !matches!(item.vis, syn::Visibility::Inherited);
        for (path, _) in paths_of(&item.tree, Vec::new()) {
            if let Some(path) = absolute(&path, &self.module)
                && !(is_face && path.starts_with(&self.module))
            {
                self.found.push(self.house.home_of(&path));
            }
        }
    }

    fn visit_path(&mut self, path: &'a syn::Path) {
        let names: Vec<String> = path.segments.iter().map(|part| part.ident.to_string()).collect();
        let below = [self.module.as_slice(), names.get(..1).unwrap_or_default()].concat();
        let named = match names.len() > 1 && self.house.files.contains_key(&below) {
            true => Some([self.module.as_slice(), names.as_slice()].concat()),
            false => absolute(&names, &self.module),
        };
        self.found.extend(named.map(|named| self.house.home_of(&named)));
        syn::visit::visit_path(self, path);
    }

    fn visit_item_mod(&mut self, item: &'a syn::ItemMod) {
        if item.content.is_some() && !is_for_tests(&item.attrs) {
            self.module.push(item.ident.to_string());
            syn::visit::visit_item_mod(self, item);
            self.module.pop();
        }
    }

    fn visit_item_fn(&mut self, item: &'a syn::ItemFn) {
        if !is_for_tests(&item.attrs) {
            syn::visit::visit_item_fn(self, item);
        }
    }
}

fn is_for_tests(attributes: &[syn::Attribute]) -> bool {
    attributes.iter().any(|attribute| {
        let is_test = |path: syn::Path| path.is_ident("test");
        attribute.path().is_ident("cfg") && attribute.parse_args().is_ok_and(is_test)
    })
}

/// A path from the crate's root; `None` for one that begins elsewhere.
fn absolute(path: &[String], module: &[String]) -> Option<Module> {
    let first = path.first()?.as_str();
    let ups = path.iter().take_while(|name| *name == "super").count();
    let base = match first {
        "crate" => &[][..],
        "self" => module,
        "super" => module.get(..module.len().checked_sub(ups)?)?,
        _ => return None,
    };
    Some([base, path.get(ups.max(1)..)?].concat())
}

/// All paths of a `use`, each with the name it has here.
fn paths_of(tree: &syn::UseTree, before: Module) -> Vec<(Module, String)> {
    let with = |name: &syn::Ident| [before.as_slice(), &[name.to_string()]].concat();
    match tree {
        syn::UseTree::Path(path) => paths_of(&path.tree, with(&path.ident)),
        syn::UseTree::Group(group) => {
            group.items.iter().flat_map(|item| paths_of(item, before.clone())).collect()
        }
        syn::UseTree::Name(name) if name.ident == "self" => {
            let last = before.last().cloned().unwrap_or_default();
            vec![(before, last)]
        }
        syn::UseTree::Name(name) => vec![(with(&name.ident), name.ident.to_string())],
        syn::UseTree::Rename(rename) => vec![(with(&rename.ident), rename.rename.to_string())],
        syn::UseTree::Glob(_) => vec![(before, String::new())],
    }
}

/// The room a module is in: each format is a room, and what all formats share file by file.
fn room_of(module: &[String]) -> String {
    let depth = if module.first().is_some_and(|name| name == "formats") { 2 } else { 1 };
    module.iter().take(depth).cloned().collect::<Vec<_>>().join("/")
}

fn rust_files(folder: &Path) -> Vec<PathBuf> {
    let mut files = Vec::new();
    for entry in std::fs::read_dir(folder).unwrap() {
        let path = entry.unwrap().path();
        match path.is_dir() {
            true => files.extend(rust_files(&path)),
            false if path.extension().is_some_and(|it| it == "rs") => files.push(path),
            false => {}
        }
    }
    files
}

/// The floors that `ARCHITECTURE.md` says, the highest first: room and number.
fn floors() -> BTreeMap<String, usize> {
    let page = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../ARCHITECTURE.md");
    let page = std::fs::read_to_string(page).unwrap();
    let rows = page.lines().filter_map(|line| {
        let mut cells = line.strip_prefix("| ")?.split(" | ");
        let floor: usize = cells.next()?.trim().parse().ok()?;
        Some((floor, cells.next()?.to_string()))
    });
    let mut floors = BTreeMap::new();
    for (floor, rooms) in rows {
        for room in rooms.split('`').skip(1).step_by(2) {
            let twice = floors.insert(room.to_string(), floor);
            assert!(twice.is_none(), "{room} stands on two floors");
        }
    }
    floors
}

/// The lowest floor that each room can stand on.
fn lowest_floors(
    rooms: &BTreeSet<String>,
    arrows: &BTreeMap<(String, String), String>,
) -> BTreeMap<String, usize> {
    let mut floors: BTreeMap<String, usize> = rooms.iter().map(|room| (room.clone(), 1)).collect();
    for _ in 0..rooms.len() {
        for (from, to) in arrows.keys() {
            let below = floors.get(to).copied().unwrap_or(1);
            let floor = floors.entry(from.clone()).or_insert(1);
            *floor = (*floor).max(below + 1);
        }
    }
    floors
}

fn library() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("src")
}

/// What the command and publishing are made of; nothing where the library stands alone.
fn other_crates() -> impl Iterator<Item = PathBuf> {
    let beside = ["obblet-publish", "obblet-cli"].into_iter();
    beside.map(|name| library().join("../..").join(name).join("src")).filter(|path| path.is_dir())
}

#[test]
fn arrows_run_down() {
    let house = House::read(&library());
    let arrows = house.arrows();
    assert!(arrows.len() > 100, "only {} arrows were seen", arrows.len());
    let floors = floors();
    let rooms = house.rooms();
    let shown: BTreeSet<String> = floors.keys().cloned().collect();
    let could = || lowest_floors(&rooms, &arrows);
    assert_eq!(
        shown,
        rooms,
        "ARCHITECTURE.md and src/ differ; rooms could stand on {:#?}",
        could()
    );
    for ((from, to), file) in &arrows {
        let (above, below) = (floors.get(from), floors.get(to));
        assert!(above > below, "{file}: {from} ({above:?}) uses {to} ({below:?}); {:#?}", could());
    }
}

#[test]
fn no_room_of_the_other_crates_is_in_a_circle() {
    for root in other_crates() {
        let house = House::read(&root);
        let arrows = house.arrows();
        let floors = lowest_floors(&house.rooms(), &arrows);
        // In a circle each room lifts the next one.
        for (from, to) in arrows.keys() {
            assert!(floors.get(from) > floors.get(to), "{} and {from}, {to}", root.display());
            assert!(
                floors.get(from).is_none_or(|floor| *floor <= floors.len()),
                "circle of {from}"
            );
        }
    }
}
