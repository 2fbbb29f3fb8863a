//! The public types of the Java runtime, by package; made by `cargo xtask facts`.

use std::collections::HashMap;
use std::sync::OnceLock;

use crate::imports::words::facts;

static TYPES: &str = include_str!("facts/types.txt");

/// A line each: a package, and its types.
fn packages() -> &'static HashMap<&'static str, &'static str> {
    static READY: OnceLock<HashMap<&str, &str>> = OnceLock::new();
    READY.get_or_init(
        || facts(TYPES).filter_map(|line| line.split_once(' ')).collect(),
    )
}

/// The types of a package; `None` where the runtime has no such package.
pub(super) fn types_in(package: &str) -> Option<impl Iterator<Item = &'static str> + use<>> {
    packages().get(package).map(|types| types.split(' '))
}

/// The packages that have a type of that name, sorted.
pub(super) fn homes_of(name: &str) -> Vec<&'static str> {
    static READY: OnceLock<HashMap<&str, Vec<&str>>> = OnceLock::new();
    let homes = READY.get_or_init(|| {
        let mut homes: HashMap<&str, Vec<&str>> = HashMap::new();
        for (package, types) in packages() {
            types.split(' ').for_each(|name| homes.entry(name).or_default().push(package));
        }
        homes.values_mut().for_each(|packages| packages.sort_unstable());
        homes
    });
    homes.get(name).cloned().unwrap_or_default()
}
