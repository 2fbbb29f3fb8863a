//! `vknot.toml`: what a project says that is no setting.

use std::collections::BTreeMap;

use serde::Deserialize;

/// A project's own marks and programs. Everything may be left out.
#[derive(Clone, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Project {
    /// Region markers.
    #[serde(default)]
    pub regions: RegionMarks,
    /// Section marks.
    #[serde(default)]
    pub sections: SectionMarks,
    /// Tags of notes.
    #[serde(default)]
    pub todos: TodoTags,
    /// For languages by name, the command that runs their sections; it gets the code on standard input.
    #[serde(default)]
    pub interpreters: BTreeMap<String, String>,
    /// For languages by name, the command of a driver that keeps an interpreter and feeds it piece by piece.
    #[serde(default)]
    pub sittings: BTreeMap<String, String>,
    /// For languages by name, archives of compiled libraries and folders of such, from the project's root: what is in them is known.
    #[serde(default)]
    pub libraries: BTreeMap<String, Vec<String>>,
}

/// `[regions]`
#[derive(Clone, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct RegionMarks {
    /// Pairs of words in comments that open and close a region, beside the usual ones.
    #[serde(default)]
    pub markers: Vec<(String, String)>,
}

/// `[sections]`
#[derive(Clone, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct SectionMarks {
    /// Beginnings of comments that head a section, beside `%%`.
    #[serde(default)]
    pub markers: Vec<String>,
}

/// `[todos]`
#[derive(Clone, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct TodoTags {
    /// Tags beside the usual ones.
    #[serde(default)]
    pub tags: Vec<String>,
}

/// What is wrong in a `vknot.toml`.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("{message}")]
pub struct ProjectError {
    /// The line, from 1.
    pub line: u32,
    /// What is wrong there.
    pub message: String,
}

impl Project {
    /// Reads the text of a `vknot.toml`.
    ///
    /// # Errors
    /// With the first mistake: a key that there is not, a value of the wrong kind, or no TOML.
    pub fn parse(text: &str) -> Result<Project, ProjectError> {
        toml::from_str(text).map_err(|error| {
            let before = error.span().and_then(|span| text.get(..span.start)).unwrap_or("");
            ProjectError { line: before.matches('\n').count() as u32 + 1, message: error.message().to_owned() }
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_project_says_what_it_adds() {
        let project = Project::parse(
            "[todos]\ntags = [\"TIDE\"]\n[regions]\nmarkers = [[\"basin\", \"basin end\"]]\n[interpreters]\npython = \"python3 -\"\n",
        );
        let project = project.unwrap_or_default();
        assert_eq!(project.todos.tags, ["TIDE"]);
        assert_eq!(project.regions.markers, [("basin".to_owned(), "basin end".to_owned())]);
        assert_eq!(project.interpreters.get("python").map(String::as_str), Some("python3 -"));
    }

    #[test]
    fn a_mistake_is_reported_with_its_line() {
        for (text, line) in [("[todos]\ntag = []\n", 2), ("\n\n[sections]\nmarkers = 3\n", 4), ("= 1\n", 1)] {
            assert_eq!(Project::parse(text).map_err(|error| error.line), Err(line), "{text}");
        }
    }
}
