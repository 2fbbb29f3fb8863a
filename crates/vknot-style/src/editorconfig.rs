//! `.editorconfig` files, after the EditorConfig specification 0.17: sections by glob, `root`, `unset`.

use std::path::{Path, PathBuf};

use globset::{GlobBuilder, GlobMatcher};

use crate::schema::Setting;

/// Something in a file that could not be taken; the rest of the file still holds.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("{message}")]
pub struct Problem {
    /// Line, from 1.
    pub line: u32,
    /// What is wrong and what to do.
    pub message: String,
}

/// A parsed file.
#[derive(Clone, Debug)]
pub struct EditorConfig {
    folder: PathBuf,
    /// Whether the search for further files ends here.
    pub root: bool,
    sections: Vec<Section>,
}

#[derive(Clone, Debug)]
struct Section {
    matcher: Option<GlobMatcher>,
    entries: Vec<Entry>,
}

/// One line of a section.
#[derive(Clone, Debug)]
pub(crate) struct Entry {
    pub(crate) setting: usize,
    /// `None` for `unset`.
    pub(crate) value: Option<String>,
    pub(crate) line: u32,
}

/// What our own keys begin with; any other unknown key belongs to some other program.
const OWN_PREFIX: &str = "vknot_";

impl EditorConfig {
    /// Parses the text of the file in `folder`. Lines that cannot be taken are left out and reported.
    pub fn parse(folder: &Path, text: &str) -> (Self, Vec<Problem>) {
        let mut config = Self { folder: folder.to_path_buf(), root: false, sections: Vec::new() };
        let mut problems = Vec::new();
        for (index, line) in text.trim_start_matches('\u{feff}').lines().enumerate() {
            let number = index as u32 + 1;
            if let Err(message) = config.take_line(line.trim(), number) {
                problems.push(Problem { line: number, message });
            }
        }
        (config, problems)
    }

    fn take_line(&mut self, line: &str, number: u32) -> Result<(), String> {
        if line.is_empty() || line.starts_with(['#', ';']) {
            return Ok(());
        }
        if let Some(glob) = line.strip_prefix('[').and_then(|rest| rest.strip_suffix(']')) {
            let made = matcher(glob);
            self.sections.push(Section { matcher: made.as_ref().ok().cloned(), entries: Vec::new() });
            return made.map(drop).map_err(|error| format!("the pattern [{glob}] cannot be read: {error}"));
        }
        let Some((key, value)) = line.split_once('=') else {
            return Err(format!("`{line}` is neither [a pattern] nor key = value"));
        };
        let (key, value) = (key.trim().to_ascii_lowercase(), value.trim());
        let Some(section) = self.sections.last_mut() else {
            if key == "root" {
                self.root = value.eq_ignore_ascii_case("true");
            }
            return Ok(());
        };
        let Some(index) = Setting::index(&key) else {
            return match key.starts_with(OWN_PREFIX) {
                true => Err(unknown_key(&key)),
                false => Ok(()),
            };
        };
        let value = if value.eq_ignore_ascii_case("unset") {
            None
        } else {
            Some(crate::SETTINGS[index].check(value).map_err(|error| error.to_string())?)
        };
        section.entries.push(Entry { setting: index, value, line: number });
        Ok(())
    }

    /// The entries that hold for `path`, in the order of the file.
    pub(crate) fn entries_for<'c>(&'c self, path: &'c Path) -> impl Iterator<Item = &'c Entry> {
        let relative = path.strip_prefix(&self.folder).ok();
        self.sections
            .iter()
            .filter(move |section| {
                let matcher = section.matcher.as_ref();
                relative.is_some_and(|path| matcher.is_some_and(|matcher| matcher.is_match(path)))
            })
            .flat_map(|section| &section.entries)
    }

    /// Where the file is.
    pub(crate) fn folder(&self) -> &Path {
        &self.folder
    }
}

/// The message for a key of ours that does not exist.
pub(crate) fn unknown_key(key: &str) -> String {
    match Setting::nearest(key) {
        Some(nearest) => format!("there is no setting {key}; did you mean {nearest}?"),
        None => format!("there is no setting {key}"),
    }
}

fn matcher(glob: &str) -> Result<GlobMatcher, globset::Error> {
    let glob = expand_stars(&expand_ranges(glob));
    let rooted = match glob.strip_prefix('/') {
        Some(rest) => rest.to_owned(),
        None if glob.contains('/') => glob,
        None => format!("**/{glob}"),
    };
    let built = GlobBuilder::new(&rooted).literal_separator(true).backslash_escape(true).build();
    built.map(|glob| glob.compile_matcher())
}

/// Writes `**` that is not a whole path step out as any number of steps and a part of one.
fn expand_stars(glob: &str) -> String {
    let steps = glob.split('/').map(|step| match step {
        "**" => step.to_owned(),
        _ => step.replace("**", "{*,**/*}"),
    });
    steps.collect::<Vec<_>>().join("/")
}

/// Writes `{2..5}` out as `{2,3,4,5}`; ranges of more than 1000 numbers are left as they are.
fn expand_ranges(glob: &str) -> String {
    let mut out = String::with_capacity(glob.len());
    let mut rest = glob;
    while let Some(open) = rest.find('{') {
        let Some(close) = rest[open..].find('}').map(|at| open + at) else { break };
        out.push_str(&rest[..open]);
        let inner = &rest[open + 1..close];
        let bounds = inner.split_once("..").and_then(|(a, b)| Some((a.parse::<i32>().ok()?, b.parse::<i32>().ok()?)));
        match bounds {
            Some((low, high)) if low <= high && high.saturating_sub(low) < 1000 => {
                let numbers: Vec<String> = (low..=high).map(|number| number.to_string()).collect();
                out.push_str(&format!("{{{}}}", numbers.join(",")));
            }
            _ => out.push_str(&rest[open..=close]),
        }
        rest = &rest[close + 1..];
    }
    out.push_str(rest);
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    fn applies(glob: &str, path: &str) -> bool {
        let (config, problems) = EditorConfig::parse(Path::new("/tide"), &format!("[{glob}]\nindent_size = 3\n"));
        assert_eq!(problems, []);
        config.entries_for(Path::new(path)).next().is_some()
    }

    #[test]
    fn patterns_follow_the_standard() {
        for (glob, path, expected) in [
            ("*", "/tide/a/b.rs", true),
            ("*.java", "/tide/src/Gauge.java", true),
            ("*.{java,rs}", "/tide/x.rs", true),
            ("/x.rs", "/tide/x.rs", true),
            ("/x.rs", "/tide/a/x.rs", false),
            ("src/*.rs", "/tide/src/a.rs", true),
            ("src/*.rs", "/tide/src/a/b.rs", false),
            ("src/**.rs", "/tide/src/a/b.rs", true),
            ("log{1..3}.json", "/tide/log2.json", true),
            ("log{1..3}.json", "/tide/log4.json", false),
            ("[!x].rs", "/tide/y.rs", true),
            ("*.java", "/elsewhere/Gauge.java", false),
        ] {
            assert_eq!(applies(glob, path), expected, "[{glob}] {path}");
        }
    }

    #[test]
    fn mistakes_are_reported_with_their_line() {
        let text = "root = true\n[*.java]\nindent_size = many\nvknot_brace_contrl = next\nother_tool = 1\n";
        let (config, problems) = EditorConfig::parse(Path::new("/"), text);
        assert!(config.root);
        let said: Vec<String> = problems.iter().map(|p| format!("{}: {p}", p.line)).collect();
        assert_eq!(
            said,
            [
                "3: indent_size does not take `many`; it takes 1 to 16 | tab | as-found",
                "4: there is no setting vknot_brace_contrl; did you mean vknot_brace_control?",
            ]
        );
    }
}
