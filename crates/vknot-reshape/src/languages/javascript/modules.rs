//! What modules of a project are called: by their path from its root, with a `/` in front, without an ending, and without `index`.

/// How the files of modules end, the longest first.
pub(super) const ENDINGS: [&str; 11] = [
    ".d.mts", ".d.cts", ".d.ts", ".mts", ".cts", ".tsx", ".jsx", ".mjs", ".cjs", ".ts", ".js",
];

/// A path without its ending.
pub(super) fn bare(path: &str) -> &str {
    ENDINGS.iter().find_map(|ending| path.strip_suffix(ending)).unwrap_or(path)
}

/// What a module at a place of its project is called.
pub(super) fn module_at(place: &str) -> String {
    let bare = bare(place);
    let folder = bare.strip_suffix("index").filter(|folder| folder.is_empty() || folder.ends_with('/'));
    format!("/{}", folder.map_or(bare, |folder| folder.trim_end_matches('/')))
}

/// What a module is called that a file at a place imports by a path from there.
pub(super) fn module_from(place: &str, path: &str) -> String {
    let mut parts: Vec<&str> = place.split('/').collect();
    parts.pop();
    for part in path.split('/') {
        match part {
            "." | "" => {}
            ".." => drop(parts.pop()),
            part => parts.push(part),
        }
    }
    module_at(&parts.join("/"))
}

/// How a file at a place writes the path to a module.
pub(super) fn path_to(module: &str, place: &str) -> String {
    let mut from: Vec<&str> = place.split('/').collect();
    from.pop();
    let to: Vec<&str> = module.split('/').filter(|part| !part.is_empty()).collect();
    let shared = from.iter().zip(&to).take_while(|(a, b)| a == b).count();
    let up = from.len() - shared;
    let rest = to[shared..].join("/");
    match (up, rest.is_empty()) {
        (0, true) => ".".to_owned(),
        (0, false) => format!("./{rest}"),
        (up, true) => vec![".."; up].join("/"),
        (up, false) => format!("{}{rest}", "../".repeat(up)),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn modules_are_found_from_any_place() {
        for (place, path, module) in [
            ("src/board.ts", "./gauge.js", "/src/gauge"),
            ("src/board.ts", "./tide", "/src/tide"),
            ("src/web/page.tsx", "../tide/index.js", "/src/tide"),
            ("src/web/page.tsx", "..", "/src"),
            ("page.ts", ".", "/"),
        ] {
            assert_eq!(module_from(place, path), module, "{place} {path}");
        }
        assert_eq!(path_to("/src/gauge", "src/board.ts"), "./gauge");
        assert_eq!(path_to("/src/tide", "src/web/page.tsx"), "../tide");
        assert_eq!(path_to("/src", "src/web/page.tsx"), "..");
        assert_eq!(module_at("src/tide/index.d.ts"), "/src/tide");
    }
}
