//! `docs`: what is generated from tables. A test fails when it is stale.

use std::path::{Path, PathBuf};
use std::process::ExitCode;

use anyhow::Context;
use vknot_style::{Setting, SETTINGS};

const HEAD: &str = "# Settings

Settings live in `.editorconfig` files: sections by glob, the nearest file wins, `root = true` ends the search. `--set KEY=VALUE`
beats the files. Keys of other programs are passed over; a mistake in one of ours is reported with its line.

| key | values | default | what it says |
| --- | --- | --- | --- |
";

pub fn run() -> anyhow::Result<ExitCode> {
    let path = settings_page();
    std::fs::write(&path, settings()).with_context(|| format!("cannot write {}", path.display()))?;
    Ok(ExitCode::SUCCESS)
}

fn settings_page() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../docs/settings.md")
}

/// The settings reference.
fn settings() -> String {
    SETTINGS.iter().fold(HEAD.to_owned(), |page, setting| page + &row(setting))
}

fn row(setting: &Setting) -> String {
    let others = setting.language_defaults.iter().map(|(language, value)| format!(", {language}: `{value}`"));
    let only = match setting.languages {
        [] => String::new(),
        languages => format!(" ({})", languages.join(", ")),
    };
    let values = setting.takes().replace('|', "\\|");
    let default = format!("`{}`{}", setting.default, others.collect::<String>());
    format!("| `{}` | {values} | {default} | {}{only} |\n", setting.key, setting.help)
}

#[cfg(test)]
mod tests {
    #[test]
    fn the_settings_page_is_fresh() {
        let page = std::fs::read_to_string(super::settings_page()).unwrap_or_default();
        assert!(page == super::settings(), "docs/settings.md is stale; run `cargo xtask docs`");
    }
}
