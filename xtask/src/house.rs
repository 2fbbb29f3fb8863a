//! The house rules of the source tree, read off its `use` lines and its texts: no circle of files, no arrow upwards through the layers, and
//! no language's words outside its folders.

#[cfg(test)]
mod tests {
    use std::collections::{BTreeMap, BTreeSet};
    use std::path::{Path, PathBuf};

    use vknot_syntax::{Kind, Language};

    type Module = Vec<String>;

    /// Layers of the crates that have them, the highest first. A module uses those of its own layer and of those below.
    const LAYERS: [(&str, &[&[&str]]); 2] = [
        ("vknot-reshape", &[
            &["", "steps", "styling"],
            &["registry"],
            &["languages"],
            &["editing"],
            &["spelling"],
            &["imports", "indent", "layout", "looks", "pins", "regions"],
            &["frames"],
            &["keeps"],
            &["items", "lines", "partners"],
            &["spec"],
            &["edits", "receipt", "reshape"],
            &["allowance"],
        ]),
        ("vknot-syntax", &[
            &["", "detect", "read"],
            &["registry"],
            &["languages"],
            &["reading"],
            &["reader"],
            &["lexis", "limits", "overload", "tree"],
            &["language"],
            &["role", "text"],
        ]),
    ];

    const CRATES: [&str; 4] = ["vknot", "vknot-reshape", "vknot-style", "vknot-syntax"];

    fn source_of(name: &str) -> PathBuf {
        Path::new(env!("CARGO_MANIFEST_DIR")).join("../crates").join(name).join("src")
    }

    /// The files of a crate by module, without their tests.
    fn files(root: &Path) -> BTreeMap<Module, String> {
        let mut folders = vec![root.to_path_buf()];
        let mut files = BTreeMap::new();
        while let Some(folder) = folders.pop() {
            for entry in std::fs::read_dir(folder).unwrap() {
                let path = entry.unwrap().path();
                if path.is_dir() {
                    folders.push(path);
                    continue;
                }
                let relative = path.strip_prefix(root).unwrap().with_extension("");
                let mut module: Module = relative.iter().map(|part| part.to_str().unwrap().to_owned()).collect();
                if matches!(module.last().map(String::as_str), Some("mod" | "lib" | "main")) {
                    module.pop();
                }
                let text = std::fs::read_to_string(&path).unwrap();
                let code = text.split("#[cfg(test)]").next().unwrap_or("");
                files.insert(module, code.to_owned());
            }
        }
        files
    }

    /// The paths that a file's `use` lines name, with their braces spelled out.
    fn used_paths(code: &str) -> Vec<String> {
        let lines = code.lines().map(|line| line.split("//").next().unwrap_or("")).collect::<Vec<_>>().join("\n");
        let statements = lines.split(';').filter_map(|statement| {
            let at = statement.rfind("use ").filter(|at| {
                let before = statement[.. * at].trim_end();
                before.is_empty() || before.ends_with(['}', ')', '\n', ']']) || before.ends_with("pub")
            })?;
            Some(statement[at + 4..].split_whitespace().collect::<Vec<_>>().join(" "))
        });
        let mut waiting: Vec<String> = statements.collect();
        let mut paths = Vec::new();
        while let Some(path) = waiting.pop() {
            let Some((before, inside)) = path.split_once('{') else {
                paths.push(path.split(" as ").next().unwrap_or("").trim().to_owned());
                continue;
            };
            let (mut depth, mut part) = (0, String::new());
            for c in inside.trim_end_matches(['}', ' ']).chars().chain([',']) {
                depth += i32::from(c == '{') - i32::from(c == '}');
                if c == ',' && depth <= 0 {
                    let closing = "}".repeat(part.matches('{').count().saturating_sub(part.matches('}').count()));
                    waiting.extend((!part.trim().is_empty()).then(|| format!("{before}{}{closing}", part.trim())));
                    part.clear();
                } else {
                    part.push(c);
                }
            }
        }
        paths
    }

    /// Which files of its crate each file uses.
    fn arrows(files: &BTreeMap<Module, String>) -> BTreeMap<&Module, BTreeSet<&Module>> {
        let target = |from: &Module, path: &str| {
            let parts: Vec<&str> = path.split("::").map(str::trim).collect();
            let ups = parts.iter().take_while(|part| **part == "super").count();
            let inner = |rest: &[&str]| rest.iter().map(|part| (*part).to_owned()).collect::<Module>();
            let whole: Module = match parts.first().copied()? {
                "crate" => inner(&parts[1..]),
                "super" => from[..from.len().checked_sub(ups)?].iter().cloned().chain(inner(&parts[ups..])).collect(),
                _ => from.iter().cloned().chain(inner(&parts)).collect(),
            };
            let own = from.len() + usize::from(!matches!(parts[0], "crate" | "super"));
            let found = (0..=whole.len()).rev().find_map(|length| files.get_key_value(&whole[..length]))?.0;
            let relative = !matches!(parts[0], "crate" | "super");
            (!(relative && found.len() < own) && found != from).then_some(found)
        };
        let of = |(module, code): (&Module, &String)| {
            used_paths(code).iter().filter_map(|path| target(module, path)).collect::<BTreeSet<&Module>>()
        };
        files.iter().map(|file| (files.get_key_value(file.0).unwrap().0, of(file))).collect()
    }

    fn shown(module: &Module) -> String {
        if module.is_empty() { "the root".to_owned() } else { module.join("/") }
    }

    #[test]
    fn no_files_use_each_other_in_a_circle() {
        for name in CRATES {
            let files = files(&source_of(name));
            let mut left = arrows(&files);
            assert!(left.values().map(BTreeSet::len).sum::<usize>() > files.len() / 2, "{name}: its arrows are seen");
            // What uses nothing that is left is in no circle.
            loop {
                let free: Vec<&Module> =
                    left.iter().filter(|(_, uses)| uses.is_empty()).map(|(module, _)| *module).collect();
                if free.is_empty() {
                    break;
                }
                left.retain(|module, _| !free.contains(module));
                left.values_mut().for_each(|uses| uses.retain(|module| !free.contains(module)));
            }
            // What nothing left uses only leads to one.
            while let Some(outer) =
                left.keys().copied().find(|module| !left.values().any(|uses| uses.contains(module)))
            {
                left.remove(outer);
            }
            let circle: Vec<String> = left.keys().map(|module| shown(module)).collect();
            assert!(circle.is_empty(), "{name}: these files use each other in a circle: {}", circle.join(", "));
        }
    }

    #[test]
    fn no_arrow_goes_up_through_the_layers() {
        for (name, layers) in LAYERS {
            let files = files(&source_of(name));
            let layer = |module: &Module| {
                let top = module.first().map_or("", String::as_str);
                layers
                    .iter()
                    .position(|layer| layer.contains(&top))
                    .unwrap_or_else(|| panic!("{name}: {top} has no layer"))
            };
            for (from, uses) in arrows(&files) {
                for to in uses {
                    assert!(layer(from) <= layer(to), "{name}: {} uses {}, which is above it", shown(from), shown(to));
                }
            }
        }
    }

    /// The names of kinds, fields and words of all languages, less what has no letters.
    fn words_of_languages() -> BTreeSet<String> {
        let mut words = BTreeSet::new();
        for language in Language::all().filter(|language| language.grammar().is_some()) {
            let kinds = (0..language.kind_count() as u16).map(|kind| language.kind_name(Kind(kind)).to_owned());
            words.extend(kinds.filter(
                |kind| !kind.starts_with('_')
                    && kind.contains('_')
                    && kind.chars().all(|c| c.is_ascii_lowercase() || c == '_'),
            ));
        }
        words
    }

    #[test]
    fn languages_words_stand_in_their_folders() {
        let words = words_of_languages();
        assert!(words.contains("method_declaration") && Language::all().count() > 20);
        for name in ["vknot", "vknot-reshape", "vknot-style", "vknot-syntax"] {
            for (module, code) in files(&source_of(name)) {
                let free = matches!(module.first().map(String::as_str), Some("languages" | "reading"));
                let literals = code.split('"').skip(1).step_by(2);
                let found: Vec<&str> = literals.filter(|text| words.contains(*text)).collect();
                assert!(free || found.is_empty(), "{name}: {} has words of a language: {found:?}", shown(&module));
            }
        }
    }
}
