//! What the namespaces of the base library offer: public types, and extension methods with a dot in front; made by `cargo xtask facts`.

use std::collections::HashMap;
use std::sync::OnceLock;

use crate::imports::words::facts;

static NAMESPACES: &str = include_str!("facts/namespaces.txt");

/// What a namespace offers; `None` where the base library has none of that name.
pub(super) fn offered(namespace: &str) -> Option<impl Iterator<Item = &'static str> + Clone + use<>> {
    static READY: OnceLock<HashMap<&str, &str>> = OnceLock::new();
    let namespaces = READY.get_or_init(|| {
        let lines = facts(NAMESPACES);
        lines.filter_map(|line| line.split_once(' ')).collect()
    });
    namespaces.get(namespace).map(|offered| offered.split(' '))
}
