//! The packages of Go's standard library, their names, and what they offer; made by `cargo xtask facts`.

use std::collections::{HashMap, HashSet};
use std::sync::OnceLock;

use crate::imports::words::facts;

/// The packages of the standard library; made by `cargo xtask facts`.
static PACKAGES: &str = include_str!("facts/packages.txt");

/// The name of a package of the standard library; `None` where it has none of that path.
pub(super) fn standard(path: &str) -> Option<&'static str> {
    static READY: OnceLock<HashMap<&str, &str>> = OnceLock::new();
    let packages = READY.get_or_init(|| {
        let lines = facts(PACKAGES);
        lines.filter_map(|line| line.split_once(' ')).collect()
    });
    packages.get(path).copied()
}

/// What packages of the standard library offer, a package a line; made by `cargo xtask facts`.
static MEMBERS: &str = include_str!("facts/members.txt");

/// Whether a package of the standard library offers all of some names, or what it offers is not known.
pub(super) fn offers(path: &str, names: &[&str]) -> bool {
    static READY: OnceLock<HashMap<&str, HashSet<&str>>> = OnceLock::new();
    let members = READY.get_or_init(|| {
        let lines = facts(MEMBERS).filter_map(|line| line.split_once(' '));
        lines.map(|(package, names)| (package, names.split(' ').collect())).collect()
    });
    members.get(path).is_none_or(|offered| names.iter().all(|name| offered.contains(name)))
}

/// The packages of the standard library that have a name.
pub(super) fn standard_named(name: &str) -> impl Iterator<Item = &'static str> {
    facts(PACKAGES).filter_map(|line| line.split_once(' ')).filter(move |(_, of)| *of == name).map(|(path, _)| path)
}
