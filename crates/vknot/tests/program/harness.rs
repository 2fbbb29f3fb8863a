//! A folder of one's own, a clean environment, and output as a person would see it.

use std::path::{Path, PathBuf};
use std::process::{Command, Output, Stdio};

use assert_cmd::cargo::CommandCargoExt;

pub struct Desk {
    folder: tempfile::TempDir,
}

impl Desk {
    /// An empty folder.
    pub fn new() -> Self {
        let desk = Desk { folder: tempfile::tempdir().unwrap() };
        std::fs::create_dir(desk.path("work")).unwrap();
        desk
    }

    /// A folder with the sample project.
    pub fn with_sample() -> Self {
        let desk = Desk::new();
        let sample = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo");
        let mut folders = vec![sample.clone()];
        while let Some(folder) = folders.pop() {
            for entry in std::fs::read_dir(folder).unwrap() {
                let path = entry.unwrap().path();
                match path.is_dir() {
                    true => folders.push(path),
                    false => {
                        let name = path.strip_prefix(&sample).unwrap().to_str().unwrap().to_owned();
                        desk.write(&name, std::fs::read(&path).unwrap());
                    }
                }
            }
        }
        desk
    }

    fn path(&self, name: &str) -> PathBuf {
        self.folder.path().join(name)
    }

    pub fn file(&self, name: &str) -> PathBuf {
        self.path("work").join(name)
    }

    /// A file of the user's state folder.
    pub fn state(&self, name: &str) -> PathBuf {
        self.path("state").join(name)
    }

    /// A file of the user's cache folder.
    pub fn cache(&self, name: &str) -> PathBuf {
        self.path("home").join(".cache").join(name)
    }

    pub fn write(&self, name: &str, content: impl AsRef<[u8]>) {
        let path = self.file(name);
        std::fs::create_dir_all(path.parent().unwrap()).unwrap();
        std::fs::write(path, content).unwrap();
    }

    pub fn read(&self, name: &str) -> String {
        std::fs::read_to_string(self.file(name)).unwrap()
    }

    /// The program with these arguments, in the folder, with nothing of the user's environment.
    pub fn command(&self, arguments: &[&str]) -> Command {
        let mut command = Command::cargo_bin("vknot").unwrap();
        command
            .args(arguments)
            .current_dir(self.path("work"))
            .env_clear()
            .env("HOME", self.path("home"))
            .env("XDG_STATE_HOME", self.path("state"))
            .env("XDG_RUNTIME_DIR", self.path("run"))
            .stdin(Stdio::null());
        command
    }

    /// Runs and shows standard output, standard error and the exit code.
    pub fn run(&self, arguments: &[&str]) -> String {
        self.shown(&self.command(arguments).output().unwrap())
    }

    /// Runs with a text on standard input.
    pub fn pipe(&self, arguments: &[&str], input: &str) -> String {
        let output = assert_cmd::Command::from_std(self.command(arguments)).write_stdin(input).output().unwrap();
        self.shown(&output)
    }

    /// Runs and gives standard output alone; the exit code must be 0.
    pub fn stdout(&self, arguments: &[&str]) -> String {
        let output = self.command(arguments).output().unwrap();
        assert!(output.status.success(), "{}", self.shown(&output));
        String::from_utf8(output.stdout).unwrap()
    }

    fn shown(&self, output: &Output) -> String {
        let mut shown = String::from_utf8_lossy(&output.stdout).into_owned();
        let errors = String::from_utf8_lossy(&output.stderr);
        if !errors.is_empty() {
            shown.push_str("── standard error\n");
            shown.push_str(&errors);
        }
        shown.push_str(&format!("── exit {}\n", output.status.code().unwrap_or(-1)));
        shown.replace(&self.folder.path().display().to_string(), "[FOLDER]")
    }
}

/// Whether the tests themselves run where interrupts are ignored, as behind `nohup` or `&`: what they start cannot be interrupted then.
pub fn ignores_interrupts() -> bool {
    const INTERRUPT: u64 = 1 << (2 - 1);
    let status = std::fs::read_to_string("/proc/self/status").unwrap_or_default();
    let ignored = status.lines().find_map(|line| line.strip_prefix("SigIgn:"));
    let ignored = ignored
        .and_then(|signals| u64::from_str_radix(signals.trim(), 16).ok())
        .is_some_and(|signals| signals & INTERRUPT > 0);
    if ignored {
        eprintln!("skipped: interrupts are ignored where the tests run");
    }
    ignored
}
