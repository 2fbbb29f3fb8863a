//! The effective settings of one file, each with where it came from.

use std::path::{Path, PathBuf};

use crate::editorconfig::{EditorConfig, unknown_key};
use crate::choices::{Choice, IndentStyle};
use crate::schema::{Key, Setting, SETTINGS};

/// Where a value came from.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Origin {
    /// Nothing set it.
    Default,
    /// Nothing set it, but the file shows it.
    Found,
    /// Nothing set it, and the file does not tell, but the files beside it show it.
    Beside,
    /// A line of a file.
    File(PathBuf, u32),
    /// The command line.
    CommandLine,
}

/// A `KEY=VALUE` that beats the files.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Override {
    setting: usize,
    value: String,
}

impl std::str::FromStr for Override {
    type Err = String;

    fn from_str(text: &str) -> Result<Self, String> {
        let (key, value) = text.split_once('=').ok_or_else(|| format!("`{text}` is not KEY=VALUE"))?;
        let key = key.trim().to_ascii_lowercase();
        let setting = Setting::index(&key).ok_or_else(|| unknown_key(&key))?;
        let value = SETTINGS[setting].check(value).map_err(|error| error.to_string())?;
        Ok(Self { setting, value })
    }
}

impl Override {
    /// A setting with one of its values.
    ///
    /// # Errors
    /// When the setting does not take the value.
    pub fn new(key: Key, value: &str) -> Result<Self, crate::schema::ValueError> {
        Ok(Self { setting: key as usize, value: key.setting().check(value)? })
    }

    /// Which setting it sets.
    pub fn key(&self) -> Key {
        SETTINGS[self.setting].id
    }

    /// What to.
    pub fn value(&self) -> &str {
        &self.value
    }
}

/// What a level of indentation is made of.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Indentation {
    /// Tabs, with spaces only for what is less than a tab.
    pub tabs: bool,
    /// Columns of one level.
    pub size: u32,
    /// Columns a tab stands for.
    pub tab_width: u32,
}

#[derive(Clone, Debug)]
struct Chosen {
    value: String,
    origin: Origin,
}

/// What a language says about settings.
#[derive(Debug)]
pub struct LanguageStyle {
    /// Its own defaults.
    pub defaults: &'static [(Key, &'static str)],
    /// The settings that have an effect in it, beside those on the file as a whole.
    pub settings: &'static [Key],
}

impl LanguageStyle {
    /// Whether a setting has an effect in it.
    pub fn covers(&self, key: Key) -> bool {
        self.settings.contains(&key)
    }

    /// What holds when nothing sets a setting.
    pub fn default_of(&self, key: Key) -> &'static str {
        let own = self.defaults.iter().find(|(own, _)| *own == key);
        own.map_or(key.setting().default, |(_, value)| value)
    }
}

/// The effective settings of one file.
#[derive(Clone, Debug)]
pub struct Style {
    language: &'static LanguageStyle,
    /// One for each row of [`SETTINGS`]; `None` means the default.
    chosen: Vec<Option<Chosen>>,
    /// What the files beside it show of settings that go by what the file shows.
    beside: Vec<(Key, String)>,
    /// A line that holds for the file and could not be taken.
    fault: Option<(PathBuf, u32)>,
}

impl Style {
    /// The defaults of a language.
    pub fn defaults(language: &'static LanguageStyle) -> Self {
        Self { language, chosen: vec![None; SETTINGS.len()], beside: Vec::new(), fault: None }
    }

    /// The defaults of a language with some overrides.
    pub fn with(language: &'static LanguageStyle, overrides: &[Override]) -> Self {
        let mut style = Self::defaults(language);
        style.override_with(overrides);
        style
    }

    /// The style of the file at `path` (absolute). `configs` go from the farthest folder to the nearest.
    pub fn resolve(
        configs: &[EditorConfig],
        overrides: &[Override],
        path: &Path,
        language: &'static LanguageStyle,
    ) -> Self {
        let mut style = Self::defaults(language);
        for config in configs {
            let file = || config.folder().join(".editorconfig");
            style.fault = style.fault.or_else(|| config.fault_for(path).map(|line| (file(), line)));
            for entry in config.entries_for(path) {
                let origin = Origin::File(config.folder().join(".editorconfig"), entry.line);
                style.chosen[entry.setting] = entry.value.clone().map(|value| Chosen { value, origin });
            }
        }
        style.override_with(overrides);
        style
    }

    /// The same settings for code of another language inside the file, of which the files beside tell nothing.
    pub fn for_language(&self, language: &'static LanguageStyle) -> Self {
        let mut style = Self { language, beside: Vec::new(), ..self.clone() };
        for chosen in &mut style.chosen {
            chosen.take_if(|chosen| chosen.origin == Origin::Beside);
        }
        style
    }

    /// The file and line, from 1, of a setting that holds for the file and could not be taken; line 0 stands for the whole file.
    pub fn fault(&self) -> Option<(&Path, u32)> {
        self.fault.as_ref().map(|(file, line)| (file.as_path(), *line))
    }

    /// What its language says about settings.
    pub fn language(&self) -> &'static LanguageStyle {
        self.language
    }

    /// The same with a value that the file itself shows.
    pub fn with_found(&self, key: Key, value: String) -> Self {
        let mut style = self.clone();
        if let Some(chosen) = style.chosen.get_mut(key as usize) {
            *chosen = Some(Chosen { value, origin: Origin::Found });
        }
        style
    }

    /// The same with a value that is usual where nothing else tells.
    pub fn with_usual(&self, key: Key, value: String) -> Self {
        let mut style = self.clone();
        if let Some(chosen) = style.chosen.get_mut(key as usize) {
            *chosen = Some(Chosen { value, origin: Origin::Default });
        }
        style
    }

    /// The same with a value that the files beside show: it holds where nothing sets another one, and the file does not tell.
    pub fn with_beside(&self, key: Key, value: String) -> Self {
        let mut style = self.clone();
        if !self.is_open(key) {
            return style;
        }
        if matches!(self.word(key), "as-found" | "indent") {
            style.beside.push((key, value));
        } else if let Some(chosen) = style.chosen.get_mut(key as usize) {
            *chosen = Some(Chosen { value, origin: Origin::Beside });
        }
        style
    }

    /// The value that the files beside show of a setting that goes by what the file shows.
    pub fn beside(&self, key: Key) -> Option<&str> {
        self.beside.iter().find(|(own, _)| *own == key).map(|(_, value)| value.as_str())
    }

    /// The same with what the files beside show in place of what the file could show, for a file that does not.
    pub fn with_shown_beside(&self, key: Key) -> Option<Self> {
        let value = self.beside(key)?.to_owned();
        let mut style = self.clone();
        if let Some(chosen) = style.chosen.get_mut(key as usize) {
            *chosen = Some(Chosen { value, origin: Origin::Beside });
        }
        Some(style)
    }

    /// Whether nobody set it, so that files may tell.
    pub fn is_open(&self, key: Key) -> bool {
        matches!(self.origin(key), Origin::Default | Origin::Found | Origin::Beside)
    }

    /// The same with what files showed taken as set, so that nothing else is looked for.
    pub fn fixed(mut self) -> Self {
        let shown = |chosen: &&mut Chosen| matches!(chosen.origin, Origin::Found | Origin::Beside);
        for chosen in self.chosen.iter_mut().flatten().filter(shown) {
            chosen.origin = Origin::CommandLine;
        }
        self
    }

    /// The same with some settings that beat what it has.
    pub fn overridden(mut self, overrides: &[Override]) -> Self {
        self.override_with(overrides);
        self
    }

    fn override_with(&mut self, overrides: &[Override]) {
        for chosen in overrides {
            self.chosen[chosen.setting] = Some(Chosen { value: chosen.value.clone(), origin: Origin::CommandLine });
        }
    }

    /// The value of a setting as a word.
    pub fn word(&self, key: Key) -> &str {
        let chosen = self.chosen.get(key as usize).and_then(Option::as_ref);
        chosen.map_or_else(|| self.language.default_of(key), |chosen| &chosen.value)
    }

    /// The value of a setting as a number; `None` where it is a word such as `off`.
    pub fn number(&self, key: Key) -> Option<u32> {
        self.word(key).parse().ok()
    }

    /// Whether a setting is `true`.
    pub fn flag(&self, key: Key) -> bool {
        self.word(key) == "true"
    }

    /// The value of a setting that takes words.
    pub fn choice<C: Choice>(&self) -> C {
        let word = self.word(C::KEY);
        let found = C::WORDS.iter().find(|(name, _)| *name == word);
        // Every value was checked when it was set.
        found.unwrap_or(&C::WORDS[0]).1
    }

    /// Where a setting's value came from.
    pub fn origin(&self, key: Key) -> Origin {
        let chosen = self.chosen.get(key as usize).and_then(Option::as_ref);
        chosen.map_or(Origin::Default, |chosen| chosen.origin.clone())
    }

    /// The indentation, where `found` is what the file itself uses (`None` when it has none) and `habit` what the
    /// language does by default.
    pub fn indentation(&self, found: Option<Indentation>, habit: Indentation) -> Indentation {
        let tabs = match self.choice::<IndentStyle>() {
            IndentStyle::Tab => true,
            IndentStyle::Space => false,
            IndentStyle::AsFound => found.unwrap_or(habit).tabs,
        };
        // Steps of less than a tab, with a tab for as many columns as it stands for, are a way of their own.
        let mixed = found.filter(|found| tabs == found.tabs && found.size < found.tab_width);
        let tab_width = self.number(Key::TabWidth).or(mixed.map(|mixed| mixed.tab_width));
        let size = match self.word(Key::IndentSize) {
            "tab" => tab_width.unwrap_or(habit.size),
            word => word.parse().ok().unwrap_or_else(|| match found {
                Some(found) if found.tabs == tabs && (!tabs || mixed.is_some()) => found.size,
                _ if tabs => tab_width.unwrap_or(habit.size),
                _ => habit.size,
            }),
        };
        Indentation { tabs, size, tab_width: tab_width.unwrap_or(size) }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    static PLAIN: LanguageStyle = LanguageStyle { defaults: &[], settings: &[] };

    #[test]
    fn nearer_files_and_later_sections_win_and_unset_takes_back() {
        let far = "[*]\nindent_size = 8\nmax_line_length = 80\nend_of_line = crlf\n";
        let near = "[*.java]\nindent_size = 2\n[Gauge.java]\nend_of_line = unset\n";
        let configs = [
            EditorConfig::parse(Path::new("/tide"), far).0,
            EditorConfig::parse(Path::new("/tide/src"), near).0,
        ];
        let overrides = ["max_line_length = off".parse().unwrap()];
        let style = Style::resolve(&configs, &overrides, Path::new("/tide/src/Gauge.java"), &PLAIN);
        assert_eq!(style.number(Key::IndentSize), Some(2));
        assert_eq!(style.origin(Key::IndentSize), Origin::File("/tide/src/.editorconfig".into(), 2));
        assert_eq!((style.word(Key::MaxLineLength), style.number(Key::MaxLineLength)), ("off", None));
        assert_eq!(style.origin(Key::MaxLineLength), Origin::CommandLine);
        assert_eq!((style.word(Key::EndOfLine), style.origin(Key::EndOfLine)), ("as-found", Origin::Default));
    }

    #[test]
    fn indentation_follows_settings_then_the_file_then_habit() {
        let found = Some(Indentation { tabs: false, size: 3, tab_width: 3 });
        let style = |sets: &[&str]| {
            let overrides: Vec<Override> = sets.iter().map(|set| set.parse().unwrap()).collect();
            Style::with(&PLAIN, &overrides)
        };
        type Case<'c> = (&'c [&'c str], Option<Indentation>, (bool, u32, u32));
        let mixed = Some(Indentation { tabs: true, size: 2, tab_width: 8 });
        let cases: [Case<'_>; 7] = [
            (&[], mixed, (true, 2, 8)),
            (&["tab_width=4"], mixed, (true, 2, 4)),
            (&[], None, (false, 4, 4)),
            (&[], found, (false, 3, 3)),
            (&["indent_size=2"], found, (false, 2, 2)),
            (&["indent_style=tab", "tab_width=8"], found, (true, 8, 8)),
            (&["indent_style=tab", "indent_size=4", "tab_width=8"], None, (true, 4, 8)),
        ];
        for (sets, found, (tabs, size, tab_width)) in cases {
            let habit = Indentation { tabs: false, size: 4, tab_width: 4 };
            let got = style(sets).indentation(found, habit);
            assert_eq!(got, Indentation { tabs, size, tab_width }, "{sets:?}");
        }
    }

    #[test]
    fn what_is_beside_holds_where_nothing_is_set() {
        let set = Style::with(&PLAIN, &["indent_size=8".parse().unwrap()]);
        let style = [(Key::IndentSize, "2"), (Key::IndentStyle, "tab"), (Key::BlankItem, "1")]
            .into_iter()
            .fold(set, |style, (key, value)| style.with_beside(key, value.to_owned()));
        assert_eq!((style.word(Key::IndentSize), style.beside(Key::IndentSize)), ("8", None));
        // What goes by the file goes by it first.
        assert_eq!((style.word(Key::IndentStyle), style.beside(Key::IndentStyle)), ("as-found", Some("tab")));
        assert_eq!((style.word(Key::BlankItem), style.origin(Key::BlankItem)), ("1", Origin::Beside));
        let shown = style.with_shown_beside(Key::IndentStyle).unwrap();
        assert_eq!((shown.word(Key::IndentStyle), shown.origin(Key::IndentStyle)), ("tab", Origin::Beside));
        assert_eq!(shown.fixed().origin(Key::IndentStyle), Origin::CommandLine);
        let inside = style.for_language(&PLAIN);
        assert_eq!((inside.word(Key::BlankItem), inside.beside(Key::IndentStyle)), ("0", None));
        assert_eq!(inside.word(Key::IndentSize), "8");
    }

    #[test]
    fn wrong_overrides_say_why() {
        assert!("nonsense".parse::<Override>().is_err());
        let error = "vknot_wrap_chains=fit".parse::<Override>().unwrap_err();
        assert_eq!(error, "there is no setting vknot_wrap_chains; did you mean vknot_wrap_chain?");
    }
}
