//! What must never happen: a save lost, a private file shown, a wrong file taken back, a program that hangs, a terminal led astray.

use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

use crate::harness::Desk;

const JUMBLE: &str = "class A {\nint b;\n}\n";
const TIDY: &str = "class A {\n    int b;\n}\n";

/// A Java file that is laid out by the default style.
fn desk() -> Desk {
    let desk = Desk::new();
    desk.write("A.java", JUMBLE);
    desk.write("vknot.toml", "");
    desk
}

/// The same command in another folder of the desk.
fn run_in(desk: &Desk, folder: &str, arguments: &[&str]) -> String {
    let output = desk.command(arguments).current_dir(desk.file(folder)).output().unwrap();
    format!("{}{}", String::from_utf8_lossy(&output.stdout), String::from_utf8_lossy(&output.stderr))
}

#[test]
fn undo_stays_in_the_project() {
    let desk = Desk::new();
    for project in ["north", "south"] {
        desk.write(&format!("{project}/vknot.toml"), "");
        desk.write(&format!("{project}/A.java"), JUMBLE);
        run_in(&desk, project, &["format", "--write", "A.java"]);
    }
    assert!(run_in(&desk, "north", &["undo"]).contains("1 file as before"));
    assert_eq!((desk.read("north/A.java"), desk.read("south/A.java")), (JUMBLE.to_owned(), TIDY.to_owned()));
    assert!(run_in(&desk, "north", &["undo"]).contains("there is nothing to take back in"));
    assert!(!run_in(&desk, "north", &["undo", "--list"]).contains("south"));
    assert!(run_in(&desk, "north", &["undo", "--all"]).contains("south"));
    assert!(run_in(&desk, "north", &["undo", "--run", "2"]).contains("1 file as before"));
    assert_eq!(desk.read("south/A.java"), JUMBLE);
}

#[test]
fn what_was_taken_back_can_be_done_again() {
    let desk = desk();
    desk.run(&["format", "--write", "A.java"]);
    desk.run(&["undo"]);
    assert_eq!(desk.read("A.java"), JUMBLE);
    assert!(desk.run(&["undo", "--redo"]).contains("did again vknot format --write A.java"));
    assert_eq!(desk.read("A.java"), TIDY);
    assert!(desk.run(&["undo", "--redo"]).contains("nothing was taken back"));
    desk.run(&["undo"]);
    assert_eq!(desk.read("A.java"), JUMBLE);
}

#[test]
fn undo_tells_what_it_could_not_do_and_goes_no_further_back() {
    let desk = desk();
    desk.write("B.java", "class B {\nint c;\n}\n");
    desk.run(&["format", "--write", "B.java"]);
    desk.run(&["format", "--write", "A.java"]);
    desk.write("A.java", "class A { int mine; }\n");
    let said = desk.run(&["undo"]);
    assert!(said.contains("has changed since; it is left as it is") && said.contains("0 files as before, 1 file not"), "{said}");
    assert!(said.ends_with("exit 2\n"), "{said}");
    assert!(desk.run(&["undo", "--list"]).contains("partly taken back"));
    desk.run(&["undo"]);
    assert!(desk.read("B.java").contains("    int c;"), "an older run was taken back");
    std::fs::remove_file(desk.file("A.java")).unwrap();
    assert!(desk.run(&["undo"]).contains("1 file as before"));
    assert_eq!(desk.read("A.java"), JUMBLE);
}

#[test]
fn a_lost_journal_is_told() {
    let desk = desk();
    desk.run(&["format", "--write", "A.java"]);
    std::fs::remove_file(desk.state("vknot/runs/000001/before")).unwrap();
    let said = desk.run(&["undo"]);
    assert!(said.contains("0 files as before, 1 file not") && said.contains("exit 2"), "{said}");
    assert_eq!(desk.read("A.java"), TIDY);
}

#[test]
fn empty_files_and_byte_order_marks_are_taken_back() {
    let desk = desk();
    desk.write("A.java", "");
    desk.write("B.java", format!("\u{feff}{JUMBLE}"));
    desk.write(".editorconfig", "[*]\ncharset = utf-8\n");
    desk.run(&["format", "--write", "B.java"]);
    assert_eq!(desk.read("B.java"), TIDY);
    desk.run(&["undo"]);
    assert_eq!(desk.read("B.java"), format!("\u{feff}{JUMBLE}"));
}

#[test]
fn a_setting_that_cannot_be_read_keeps_its_files_from_being_written() {
    let desk = desk();
    desk.write("b.rs", "fn a() {\nb();\n}\n");
    desk.write(".editorconfig", "[*.java]\nindent_size = many\n[*.rs\nindent_size = 2\n");
    let said = desk.run(&["format", "--write", "."]);
    assert!(said.contains("A.java: is not written: "), "{said}");
    assert_eq!(desk.read("A.java"), JUMBLE);
    assert_eq!(desk.read("b.rs"), "fn a() {\n    b();\n}\n");
}

#[test]
fn one_file_in_two_spellings_is_one_file() {
    let desk = desk();
    desk.write("A.java", "class A {\nint b;\nint c;\nint d;\n}\n");
    let said = desk.run(&["indent", "--write", "A.java:2", "./A.java:4"]);
    assert!(said.contains("1 file changed"), "{said}");
    assert_eq!(desk.read("A.java"), "class A {\n    int b;\nint c;\n    int d;\n}\n");
}

#[test]
fn many_pins_at_once_are_all_kept() {
    let desk = desk();
    let adding: Vec<_> = (0..30)
        .map(|number| {
            let mut command = desk.command(&["pin", "add", "A.java:2", "--name", &format!("pin{number}")]);
            command.stdout(Stdio::null()).spawn().unwrap()
        })
        .collect();
    for mut child in adding {
        assert!(child.wait().unwrap().success());
    }
    assert!(desk.stdout(&["pin", "list"]).contains("30 pins"));
}

#[test]
fn pins_stay_in_the_project_and_keep_what_others_wrote() {
    let desk = desk();
    let pins = |schema: &str, file: &str| {
        format!("{{\"schema\":\"{schema}\",\"pins\":[{{\"file\":\"{file}\",\"name\":\"a\",\"firstLine\":2,\"lines\":[\"int b;\"],\"color\":\"red\"}}],\"owner\":\"us\"}}")
    };
    desk.write(".vknot/pins.json", pins("vknot.pins/1", "../secret"));
    assert!(desk.run(&["pin", "list"]).contains("names `../secret`, which is outside of the project"));
    desk.write(".vknot/pins.json", pins("vknot.pins/2", "A.java"));
    assert!(desk.run(&["pin", "list"]).contains("is of version `vknot.pins/2`"));
    desk.write(".vknot/pins.json", pins("vknot.pins/1", "A.java"));
    desk.stdout(&["pin", "add", "A.java:1", "--name", "b"]);
    let kept = desk.read(".vknot/pins.json");
    assert!(kept.contains("\"color\": \"red\"") && kept.contains("\"owner\": \"us\""), "{kept}");
}

#[test]
fn only_fences_of_prose_are_run() {
    let desk = Desk::new();
    desk.write(
        "a.md",
        "# Tide\n\nrm everything\n\n```sh\necho level\n```\n\n```python\nprint(1)\n```\n\n# Prose\n\necho no\n",
    );
    let said = desk.run(&["sections", "run", "a.md@Tide", "--with", "cat"]);
    assert!(said.trim_start().starts_with("echo level\n") && said.contains("what is in python is left out"), "{said}");
    let said = desk.run(&["sections", "run", "a.md@Prose", "--with", "cat"]);
    assert!(said.contains("the section holds no code to run"), "{said}");
    let said = desk.run(&["sections", "run", "a.md@Tide", "--with", "sh -c 'cat; echo two words'"]);
    assert!(said.trim_start().starts_with("echo level\ntwo words\n"), "{said}");
}

#[test]
fn diffs_in_pipes_keep_every_byte() {
    let desk = desk();
    desk.write("A.java", "class A {\r\nint b; // \u{1b}[31m\r\n}\r\n");
    let diff = desk.stdout(&["format", "A.java"]);
    assert!(diff.contains("-int b; // \u{1b}[31m\r\n+    int b; // \u{1b}[31m\r\n"), "{diff:?}");
    desk.write("A.java", "class A {\r\n}\r\n");
    let diff = desk.stdout(&["format", "--set", "end_of_line=lf", "A.java"]);
    assert!(diff.contains("-class A {\r\n-}\r\n+class A {}\n"), "{diff:?}");
}

#[cfg(unix)]
mod unix {
    use std::os::unix::fs::{MetadataExt, PermissionsExt};

    use super::*;

    #[test]
    fn the_journal_is_private() {
        let desk = desk();
        std::fs::set_permissions(desk.file("A.java"), std::fs::Permissions::from_mode(0o600)).unwrap();
        desk.run(&["format", "--write", "A.java"]);
        for (path, mode) in [("vknot/runs", 0o700), ("vknot/runs/000001", 0o700), ("vknot/runs/000001/before", 0o600)] {
            assert_eq!(std::fs::metadata(desk.state(path)).unwrap().mode() & 0o777, mode, "{path}");
        }
    }

    #[test]
    fn names_that_are_no_text_work() {
        use std::os::unix::ffi::OsStrExt;
        let desk = desk();
        let name = std::ffi::OsStr::from_bytes(b"st\xe4tion.java");
        std::fs::write(desk.file("A.java").with_file_name(name), JUMBLE).unwrap();
        let read = || std::fs::read_to_string(desk.file("A.java").with_file_name(name)).unwrap();
        let said = desk.run(&["format", "--write", "."]);
        assert!(said.contains("2 files changed"), "{said}");
        assert_eq!(read(), TIDY);
        desk.run(&["undo"]);
        assert_eq!(read(), JUMBLE);
        let mut command = desk.command(&["format", "--write"]);
        assert!(command.arg(name).output().unwrap().status.success());
        assert_eq!(read(), TIDY);
    }

    /// Runs with standard output closed after the first bytes.
    fn cut_off(desk: &Desk, arguments: &[&str]) -> Option<i32> {
        let mut child = desk.command(arguments).stdout(Stdio::piped()).stderr(Stdio::null()).spawn().unwrap();
        drop(child.stdout.take());
        child.wait().unwrap().code()
    }

    #[test]
    fn whoever_stops_reading_changes_nothing() {
        let desk = desk();
        for number in 0..300 {
            desk.write(&format!("many/A{number}.java"), JUMBLE);
        }
        assert_eq!(cut_off(&desk, &["format", "--check", "."]), Some(1));
        assert_eq!(cut_off(&desk, &["format", "--output", "json", "."]), Some(0));
        assert_eq!(cut_off(&desk, &["outline", "."]), Some(0));
        assert_eq!(cut_off(&desk, &["format", "--write", "--output", "diff", "."]), Some(0));
        assert!((0..300).all(|number| desk.read(&format!("many/A{number}.java")) == TIDY));
    }

    #[test]
    fn a_full_output_is_an_error() {
        let Ok(full) = std::fs::OpenOptions::new().write(true).open("/dev/full") else {
            return eprintln!("skipped: there is no /dev/full");
        };
        let desk = desk();
        desk.write("data.json", "{}");
        let all: [&[&str]; 7] = [
            &["outline", "A.java"],
            &["format", "A.java"],
            &["format", "--output", "text", "data.json"],
            &["format", "--output", "sarif", "A.java"],
            &["pairs", "A.java"],
            &["todos", "--output", "json", "."],
            &["completions", "bash"],
        ];
        for arguments in all {
            let status =
                desk.command(arguments).stdout(full.try_clone().unwrap()).stderr(Stdio::null()).status().unwrap();
            assert_eq!(status.code(), Some(2), "{arguments:?}");
        }
    }

    #[test]
    fn pipes_and_devices_are_not_read() {
        let desk = desk();
        let fifo = |name: &str| {
            std::fs::create_dir_all(desk.file(name).parent().unwrap()).unwrap();
            assert!(Command::new("mkfifo").arg(desk.file(name)).status().unwrap().success());
        };
        fifo("pipe.java");
        fifo("settings/.editorconfig");
        fifo("project/vknot.toml");
        fifo("pins/.vknot/pins.json");
        std::os::unix::fs::symlink("/dev/zero", desk.file("zero.java")).unwrap();
        for folder in ["settings", "project", "pins"] {
            desk.write(&format!("{folder}/A.java"), JUMBLE);
        }
        let started = Instant::now();
        for file in ["pipe.java", "zero.java", "settings/A.java", "project/A.java", "pins/A.java"] {
            let said = desk.run(&["format", "--check", file]);
            assert!(said.contains("is no plain file, but a pipe, a socket or a device"), "{file}: {said}");
            assert!(said.ends_with("exit 2\n"), "{file}: {said}");
        }
        assert!(started.elapsed() < Duration::from_secs(60));
    }

    #[test]
    fn hostile_settings_end_soon() {
        let desk = desk();
        let nested = format!("[{}a{}]\nindent_size = 2\n", "{".repeat(100_000), "}".repeat(100_000));
        let ranges = format!("[{}]\nindent_size = 2\n", "{1..999}".repeat(500));
        desk.write(".editorconfig", nested + &ranges);
        assert!(desk.run(&["format", "--check", "A.java"]).contains("characters, and 4096 are the most"));
    }

    /// Runs a shell command in a mount namespace of its own, with a small file system on the state folder; `None` where that cannot be made.
    fn on_a_small_disk(desk: &Desk, script: &str) -> Option<String> {
        let state = desk.state("");
        std::fs::create_dir_all(&state).unwrap();
        let program = desk.command(&[]).get_program().to_os_string();
        let script = format!("mount -t tmpfs -o size=300k tmpfs '{}' || exit 77\n{script}", state.display());
        let mut command = Command::new("unshare");
        command.args(["--mount", "sh", "-c", &script]).current_dir(desk.file("")).env("XDG_STATE_HOME", &state);
        let output = command.env("VKNOT", program).output().ok()?;
        let said = [output.stdout, output.stderr].concat();
        (output.status.code() != Some(77)).then(|| String::from_utf8_lossy(&said).into_owned())
    }

    #[test]
    fn on_a_full_disk_what_was_written_is_named_and_taken_back() {
        let desk = desk();
        let text = |number: u32| format!("class A{number} {{\nint b; // {}\n}}\n", "x".repeat(1500));
        (100..400).for_each(|number| desk.write(&format!("A{number}.java"), text(number)));
        let Some(said) = on_a_small_disk(&desk, "\"$VKNOT\" format --write .; \"$VKNOT\" undo; true") else {
            return eprintln!("skipped: no small file system can be made here");
        };
        assert!(said.contains("No space left on device") && said.contains("files written before: A"), "{said}");
        assert!(said.contains("took back") && !said.contains("has changed since"), "{said}");
        (100..400).for_each(|number| assert_eq!(desk.read(&format!("A{number}.java")), text(number)));
    }

    #[test]
    fn a_file_of_someone_else_is_left() {
        use std::os::unix::process::CommandExt;
        const NOBODY: u32 = 65534;
        let desk = desk();
        let open = |path: std::path::PathBuf, mode| std::fs::set_permissions(
            path,
            std::fs::Permissions::from_mode(mode),
        );
        std::fs::create_dir_all(desk.state("")).unwrap();
        for (path, mode) in [("..", 0o755), (".", 0o777), ("A.java", 0o666), ("../state", 0o777)] {
            open(desk.file(path), mode).unwrap();
        }
        let mut command = desk.command(&["format", "--write", "A.java"]);
        let Ok(output) = command.uid(NOBODY).gid(NOBODY).output() else {
            return eprintln!("skipped: only root can become another user, and must reach the program as one");
        };
        let said = String::from_utf8_lossy(&output.stderr).into_owned();
        assert!(said.contains("belongs to someone else, which a new file could not; it is left as it is"), "{said}");
        assert_eq!(desk.read("A.java"), JUMBLE);
    }

    #[test]
    fn what_a_run_could_not_write_is_not_taken_back() {
        let desk = desk();
        desk.write("B.java", "class B {\nint c;\n}\n");
        std::fs::hard_link(desk.file("B.java"), desk.file("C.txt")).unwrap();
        let said = desk.run(&["format", "--write", "."]);
        assert!(said.contains("has 2 names") && said.contains("1 file changed"), "{said}");
        let said = desk.run(&["undo"]);
        assert!(said.contains("1 file as before\n") && said.ends_with("exit 0\n"), "{said}");
    }
}

#[test]
fn deep_files_have_room_beside_each_other() {
    let desk = Desk::new();
    // Beside each other, files are read by threads with small stacks.
    for name in ["a.java", "b.java", "c.js", "d.go"] {
        desk.write(name, "([{".repeat(20_000));
    }
    desk.write("Gauge.java", "class Gauge {  }\n");
    let told = desk.run(&["format", "--write", "."]);
    assert!(told.ends_with("── exit 0\n") || told.ends_with("── exit 2\n"), "{told}");
    assert_eq!(desk.read("Gauge.java"), "class Gauge {}\n");
}
