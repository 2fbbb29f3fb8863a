//! What the files of a language in a project declare. It is read when it is first asked for, in parallel, and remembered by the content of
//! each file.

use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::{Arc, OnceLock};

use rayon::prelude::*;
use sha2::{Digest, Sha256};
use vknot_reshape::{Code, Declared, declared, Index, index_languages, library_spec, Origin};
use vknot_syntax::{Language, Source, Tree};

use super::cache;
use super::libraries;
use super::plain;

/// The folder below that of the program, by the form of what is in it.
const FOLDER: &str = "declared-2";

/// What is known of one language in one project.
#[derive(Debug, Default)]
pub struct Neighbours {
    index: OnceLock<Arc<Index>>,
}

impl Neighbours {
    /// What the files of a language, and of those that go with it, below a root declare, and what archives of libraries offer.
    pub fn index(&self, root: &Path, language: &'static Language, archives: &[PathBuf]) -> Arc<Index> {
        Arc::clone(self.index.get_or_init(|| Arc::new(read(root, language, archives))))
    }
}

/// Reads what the files of a language below a root declare. Files are worked on in parallel, too, so that this has workers of its own: one
/// that waits here must not take up a file that waits for the same.
fn read(root: &Path, language: &'static Language, archives: &[PathBuf]) -> Index {
    let read = || {
        let pool = rayon::ThreadPoolBuilder::new().build();
        let files = files_below(root, &index_languages(language));
        let memory = Memory::of(root, language);
        let file = |(file, language): &(PathBuf, &'static Language)| {
            memory.told(root, file, |bytes, place| of_file(file, bytes, place, language))
        };
        let library = library_spec(language);
        let archive = |archive: &PathBuf| {
            memory.told(root, archive, |bytes, _| library.map(|spec| libraries::declared(&bytes, spec)))
        };
        let each = || files
            .par_iter()
            .filter_map(file)
            .chain(archives.par_iter().filter_map(archive))
            .collect::<Vec<_>>();
        let found = pool.map_or_else(|_| Vec::new(), |pool| pool.install(each));
        memory.keep(&found);
        Index::of(found.into_iter().map(|(_, declared)| declared))
    };
    std::thread::scope(|scope| scope.spawn(read).join()).unwrap_or_default()
}

/// The files of some languages below a folder, by the rules of ignore files.
fn files_below(folder: &Path, languages: &[&'static Language]) -> Vec<(PathBuf, &'static Language)> {
    let walker = ignore::WalkBuilder::new(folder).require_git(false).build();
    let language_of = |path: &Path| {
        let ending = path.extension().and_then(|ending| ending.to_str()).unwrap_or("");
        languages.iter().copied().find(|language| language.spec().extensions.contains(&ending))
    };
    let entries = walker.filter_map(Result::ok).filter(|entry| entry.file_type().is_some_and(|kind| kind.is_file()));
    let paths = entries.map(ignore::DirEntry::into_path);
    let mut files: Vec<_> = paths.filter_map(|path| language_of(&path).map(|language| (path, language))).collect();
    files.sort_unstable_by(|a, b| a.0.cmp(&b.0));
    files
}

/// What the files of a project declared when they were last read, by their content.
struct Memory {
    path: Option<PathBuf>,
    known: HashMap<String, Declared>,
}

impl Memory {
    fn of(root: &Path, language: &'static Language) -> Memory {
        let name = hash(&[root.to_string_lossy().as_bytes(), language.name().as_bytes()]);
        let path = cache::folder().map(|folder| folder.join(FOLDER).join(name));
        let text = path.as_ref().and_then(|path| std::fs::read_to_string(path).ok()).unwrap_or_default();
        let mut lines = text.lines();
        let same = lines.next() == Some(head().as_str());
        let known = lines.filter(|_| same).filter_map(|line| {
            let (key, declared) = line.split_once('\t')?;
            Some((key.to_owned(), parsed(declared)?))
        });
        Memory { known: known.collect(), path }
    }

    /// What a file declares, read where it is not known yet, with what stands for its content and place.
    fn told(
        &self,
        root: &Path,
        file: &Path,
        read: impl FnOnce(Vec<u8>, &str) -> Option<Declared>,
    ) -> Option<(String, Declared)> {
        let bytes = plain::read_if_there(file).ok()??;
        let place = file.strip_prefix(root).unwrap_or(file).to_string_lossy().replace('\\', "/");
        let key = hash(&[place.as_bytes(), &bytes]);
        if let Some(known) = self.known.get(&key) {
            return Some((key, known.clone()));
        }
        Some((key, read(bytes, &place)?))
    }

    /// Writes down what was found, if it is not what was known. What cannot be written is read again another time.
    fn keep(&self, found: &[(String, Declared)]) {
        let same = found.len() == self.known.len() && found.iter().all(|(key, _)| self.known.contains_key(key));
        let Some(path) = self.path.as_ref().filter(|_| !same) else { return };
        let Some(folder) = path.parent().filter(|folder| std::fs::create_dir_all(folder).is_ok()) else { return };
        let mut text = head() + "\n";
        for (key, declared) in found {
            text.push_str(&format!("{key}\t{}\n", written(declared)));
        }
        if let Ok(mut file) = tempfile::NamedTempFile::new_in(folder)
            && std::io::Write::write_all(&mut file, text.as_bytes()).is_ok()
        {
            let _ = file.persist(path);
        }
    }
}

/// What a file declares.
fn of_file(file: &Path, bytes: Vec<u8>, place: &str, language: &'static Language) -> Option<Declared> {
    let source = Source::from_text(file, String::from_utf8(bytes).ok()?);
    let tree = Tree::read(&source, language);
    declared(Code::of(&source, &tree), place)
}

/// The first line of a memory: what another program wrote is not read.
fn head() -> String {
    hash(&[&cache::program()])
}

fn hash(parts: &[&[u8]]) -> String {
    let mut hash = Sha256::new();
    for part in parts {
        hash.update((part.len() as u64).to_le_bytes());
        hash.update(part);
    }
    hash.finalize().iter().take(16).map(|byte| format!("{byte:02x}")).collect()
}

fn written(declared: &Declared) -> serde_json::Value {
    let origin = |(name, origin): &(String, Origin)| (
        name.clone(),
        origin.source.clone(),
        origin.path.clone(),
        origin.alias.clone(),
    );
    let imports: Vec<_> = declared.imports.iter().map(origin).collect();
    serde_json::json!([declared.package, declared.names, declared.places, declared.taken, imports, declared.loads, declared.library])
}

fn parsed(text: &str) -> Option<Declared> {
    type Imports = Vec<(String, String, String, Option<String>)>;
    let parts: (_, _, _, _, Imports, _, _) = serde_json::from_str(text).ok()?;
    let (package, names, places, taken, imports, loads, library) = parts;
    let origin = |(name, source, path, alias)| (name, Origin { source, path, alias });
    let imports = imports.into_iter().map(origin).collect();
    Some(Declared { package, names, places, taken, imports, loads, library })
}
