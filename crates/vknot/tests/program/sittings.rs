//! Sittings: interpreters that stay between runs of sections.

use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

use crate::harness::{Desk, ignores_interrupts};

const GUIDE: &str = "# Set

```sh
level=3
```

# Say

```sh
echo \"level $level\"
level=$((level + 1))
```

# Fail

```sh
nonsense_of_tides
```

# Wait

```sh
echo waits
sleep 60
```

# Leave

```sh
exit 7
```

# Shout

```sh
printf '\\036 levels\\n'
printf 'no end'
```

# Flood

```sh
yes level
```

# Count

```python
level = 4
```
";

/// A desk whose sitting ends with it.
struct Room {
    desk: Desk,
}

impl Room {
    fn new() -> Room {
        let desk = Desk::new();
        desk.write("guide.md", GUIDE);
        desk.write("vknot.toml", "[interpreters]\nsh = \"sh\"\npython = \"sh\"\njava = \"sh\"\n");
        Room { desk }
    }

    fn run(&self, section: &str) -> String {
        self.desk.run(&["sections", "run", &format!("guide.md@{section}"), "--keep", "tides", "--idle", "1m"])
    }

    /// Begins to run a section, and waits until it says something.
    fn begin(&self, section: &str) -> Child {
        let place = format!("guide.md@{section}");
        let mut command = self.desk.command(&["sections", "run", &place, "--keep", "tides", "--idle", "1m"]);
        let child = command.stdout(Stdio::piped()).stderr(Stdio::piped()).spawn().unwrap();
        until(|| self.list().contains("runs something now"));
        child
    }

    fn list(&self) -> String {
        self.desk.stdout(&["sections", "sittings"])
    }

    fn end(&self) -> String {
        self.desk.run(&["sections", "sittings", "--end", "tides"])
    }
}

impl Drop for Room {
    fn drop(&mut self) {
        self.end();
    }
}

fn until(holds: impl Fn() -> bool) {
    let begun = Instant::now();
    while !holds() {
        assert!(begun.elapsed() < Duration::from_secs(30), "it does not come");
        std::thread::sleep(Duration::from_millis(20));
    }
}

/// What a program that was begun says in the end.
fn said(child: Child) -> (String, String, Option<i32>) {
    let output = child.wait_with_output().unwrap();
    let text = |bytes: Vec<u8>| String::from_utf8(bytes).unwrap();
    (text(output.stdout), text(output.stderr), output.status.code())
}

fn interrupt(child: &Child) {
    let status = Command::new("sh").args(["-c", &format!("kill -INT {}", child.id())]).status().unwrap();
    assert!(status.success());
}

#[test]
fn what_a_section_leaves_is_there_for_the_next() {
    let room = Room::new();
    assert_eq!(room.run("Set"), "── exit 0\n");
    assert_eq!(room.run("Say"), "level 3\n── exit 0\n");
    assert_eq!(room.run("Say"), "level 4\n── exit 0\n");
    assert_eq!(room.desk.run(&["sections", "run", "guide.md@Say", "--with", "sh"]), "level \n── exit 0\n");
    let listed = room.list();
    assert!(listed.contains("tides  sh  sh  3 runs, idle for"), "{listed}");
    assert_eq!(room.end(), "the sitting tides has ended\n── exit 0\n");
    assert_eq!(room.list(), "no sittings\n");
    snapshot!("sitting_unknown", room.end());
    assert_eq!(room.run("Say"), "level \n── exit 0\n");
}

#[test]
fn code_in_a_sitting_fails_and_ends_as_it_would_alone() {
    let room = Room::new();
    room.run("Set");
    let failed = room.run("Fail");
    assert!(failed.contains("guide.md: ") && failed.contains("17") && failed.ends_with("exit 127\n"), "{failed}");
    assert_eq!(room.run("Say"), "level 3\n── exit 0\n");
    assert_eq!(room.run("Shout"), "\u{1e} levels\nno end── exit 0\n");
    snapshot!("sitting_left", room.run("Leave"));
    assert_eq!(room.list(), "no sittings\n");
}

#[test]
fn what_runs_in_a_sitting_is_interrupted_and_outlives_its_visitor() {
    if ignores_interrupts() {
        return;
    }
    let room = Room::new();
    room.run("Set");
    let waits = room.begin("Wait");
    interrupt(&waits);
    let (output, _, code) = said(waits);
    assert_eq!((output.as_str(), code), ("waits\n", Some(130)));
    assert_eq!(room.run("Say"), "level 3\n── exit 0\n");

    let mut waits = room.begin("Wait");
    waits.kill().unwrap();
    waits.wait().unwrap();
    assert!(room.list().contains("runs something now"));
    let next = room.desk
        .command(&["sections", "run", "guide.md@Say", "--keep", "tides"])
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    assert_eq!(room.end(), "the sitting tides has ended\n── exit 0\n");
    let (_, errors, code) = said(next);
    // It waited, or came so late that it began a sitting of its own.
    assert!(code == Some(2) && !errors.is_empty() || code == Some(0) && errors.is_empty(), "{code:?}: {errors}");
}

#[test]
fn sittings_are_of_one_language_and_one_interpreter() {
    let room = Room::new();
    room.run("Set");
    snapshot!("sitting_of_another_language", room.run("Count"));
    let with = |command: &str| room.desk.run(&["sections", "run", "guide.md@Say", "--keep", "tides", "--with", command]);
    snapshot!("sitting_of_another_interpreter", with("bash"));
    assert_eq!(with("sh"), "level 3\n── exit 0\n");
    let other = |arguments: &[&str]| room.desk.run(
        &[&["sections", "run", "guide.md@Say", "--keep"], arguments].concat(),
    );
    snapshot!("sitting_without_program", other(&["ebb", "--with", "no_such_program"]));
    snapshot!("sitting_without_time", other(&["ebb", "--idle", "soon"]));
    room.desk.write("gauge.clj", ";; %% One\n(def level 3)\n");
    let clojure = ["sections", "run", "gauge.clj@One", "--keep", "ebb", "--with", "sh"];
    snapshot!("sitting_without_driver", room.desk.run(&clojure));
}

#[test]
fn a_project_names_a_driver_of_its_own() {
    let room = Room::new();
    // It says what it was asked to run.
    let driver = "while IFS= read -r line; do cat \"${line%%\t*}\"; printf '\\036%s 3\\n' \"$VKNOT_MARK\"; printf '\\036%s 0\\n' \"$VKNOT_MARK\" >&2; done\n";
    room.desk.write("driver.sh", driver);
    room.desk.write("vknot.toml", "[sittings]\npython = \"sh driver.sh\"\n");
    let said = room.run("Count");
    assert_eq!(said.trim_start_matches('\n'), "level = 4\n── exit 3\n");
    assert_eq!(said.matches('\n').count(), 50, "the code stands on its lines");
}

#[test]
fn a_sitting_ends_by_itself_when_nothing_runs() {
    let room = Room::new();
    room.desk.run(&["sections", "run", "guide.md@Set", "--keep", "tides", "--idle", "1s"]);
    until(|| room.list() == "no sittings\n");
    assert_eq!(room.run("Say"), "level \n── exit 0\n");
}

#[test]
fn many_who_come_at_once_share_one_sitting() {
    let room = Room::new();
    let come = |_| {
        let mut command =
            room.desk.command(&["sections", "run", "guide.md@Set", "guide.md@Say", "--keep", "tides", "--idle", "1m"]);
        command.stdout(Stdio::piped()).stderr(Stdio::piped()).spawn().unwrap()
    };
    let all: Vec<Child> = (0..8).map(come).collect();
    for child in all {
        assert_eq!(said(child), ("level 3\n".to_owned(), String::new(), Some(0)));
    }
    let listed = room.list();
    assert!(listed.contains("8 runs"), "{listed}");
}

#[test]
fn a_visitor_that_does_not_listen_keeps_no_sitting_from_ending() {
    let room = Room::new();
    // Nobody reads what it says.
    let mut floods = room.begin("Flood");
    assert_eq!(room.end(), "the sitting tides has ended\n── exit 0\n");
    assert_eq!(room.list(), "no sittings\n");
    floods.kill().unwrap();
    floods.wait().unwrap();
}
