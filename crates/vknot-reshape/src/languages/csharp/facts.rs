//! What the namespaces of the base library offer: public types, and extension methods with a dot in front; made by `cargo xtask facts`.

use std::collections::{HashMap, HashSet};
use std::sync::OnceLock;

use crate::imports::words::facts;

static NAMESPACES: &str = include_str!("facts/namespaces.txt");

/// What a namespace offers; `None` where the base library has none of that name.
pub(super) fn offered(namespace: &str) -> Option<impl Iterator<Item = &'static str> + Clone + use<>> {
    static READY: OnceLock<HashMap<&str, &str>> = OnceLock::new();
    let namespaces = READY.get_or_init(|| namespaces().collect());
    namespaces.get(namespace).map(|offered| offered.split(' '))
}

fn namespaces() -> impl Iterator<Item = (&'static str, &'static str)> {
    facts(NAMESPACES).filter_map(|line| line.split_once(' '))
}

/// The namespaces that offer a name.
pub(super) fn homes_of(name: &str) -> impl Iterator<Item = &'static str> + use<> {
    static READY: OnceLock<HashMap<&str, Vec<&str>>> = OnceLock::new();
    let homes = READY.get_or_init(|| {
        let mut homes: HashMap<&str, Vec<&str>> = HashMap::new();
        for (namespace, offered) in namespaces() {
            offered.split(' ').for_each(|name| homes.entry(name).or_default().push(namespace));
        }
        homes
    });
    homes.get(name).into_iter().flatten().copied()
}

/// Whether the base library has a namespace, or one inside it.
pub(super) fn has_namespace(namespace: &str) -> bool {
    static READY: OnceLock<HashSet<&str>> = OnceLock::new();
    let spaces = READY.get_or_init(|| {
        let ends = |space: &'static str| {
            let dots = space.match_indices('.').map(|(at, _)| at);
            dots.chain([space.len()]).filter_map(|end| space.get(..end)).collect::<Vec<_>>()
        };
        namespaces().flat_map(|(space, _)| ends(space)).collect()
    });
    spaces.contains(namespace)
}
