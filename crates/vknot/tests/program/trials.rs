//! Other programs, kills and keys at the worst moment. The long trials are ignored by default: `cargo test -- --ignored`.

use std::io::{Read, Write};
use std::process::{Command, Stdio};
use std::sync::atomic::{AtomicU32, Ordering};
use std::thread;
use std::time::{Duration, Instant};

use crate::harness::{Desk, ignores_interrupts};

/// A text that takes a while to lay out, with a number in its first lines.
fn save(number: u32) -> String {
    format!("class A {{\nint save{number};\n{}}}\n", "void read(int level) {gauge.note(level);}\n".repeat(40))
}

/// Saves so many texts, one after another, while the program writes the same file again and again; gives those that were not there a moment
/// later, and how often the program wrote.
fn lost_saves(saves: u32) -> (Vec<u32>, u32) {
    let desk = Desk::new();
    let (path, saved) = (desk.file("A.java"), AtomicU32::new(0));
    desk.write("A.java", save(0));
    // Saves come at any time in the program's work, and some far enough apart for it to end, however slow the machine is.
    let begun = Instant::now();
    desk.run(&["format", "--write", "A.java"]);
    let longest = (begun.elapsed().as_micros() as u64 * 2).max(30_000);
    thread::scope(|scope| {
        let saver = scope.spawn(|| {
            let holds = |number: u32| desk.read("A.java").contains(&format!("int save{number};"));
            let mut lost = Vec::new();
            for number in 1..=saves {
                let temporary = path.with_extension("saving");
                std::fs::write(&temporary, save(number)).unwrap();
                std::fs::rename(&temporary, &path).unwrap();
                thread::sleep(Duration::from_micros(u64::from(number) * 7919 % longest));
                // For some microseconds others may see what is then put back.
                let there = (0..200).any(|_| {
                    let there = holds(number);
                    thread::sleep(Duration::from_micros(if there { 0 } else { 500 }));
                    there
                });
                if !there {
                    lost.push(number);
                }
                saved.store(number, Ordering::Relaxed);
            }
            lost
        });
        let mut written = 0;
        while saved.load(Ordering::Relaxed) < saves {
            written += u32::from(desk.run(&["format", "--write", "A.java"]).contains("1 file changed"));
        }
        (saver.join().unwrap(), written)
    })
}

#[test]
fn what_another_program_saves_stays() {
    let (lost, written) = lost_saves(150);
    assert_eq!(lost, Vec::<u32>::new());
    assert!(written > 0, "the program never came to write");
}

#[test]
#[ignore = "takes minutes"]
fn what_another_program_saves_twenty_thousand_times_stays() {
    let (lost, written) = lost_saves(20_000);
    println!("{written} times written meanwhile");
    assert_eq!(lost, Vec::<u32>::new());
}

#[test]
fn two_runs_at_once_write_each_file_once() {
    let desk = Desk::new();
    desk.write("vknot.toml", "");
    let jumble = |number: u32| format!("class A{number} {{\nint b;\n}}\n");
    let name = |number: u32| format!("A{number}.java");
    (0..200).for_each(|number| desk.write(&name(number), jumble(number)));
    let started: Vec<_> = (0..2)
        .map(|_| desk.command(&["format", "--write", "--no-cache", "."]).stderr(Stdio::piped()).spawn().unwrap())
        .collect();
    let said: Vec<String> = started
        .into_iter()
        .map(|run| String::from_utf8(run.wait_with_output().unwrap().stderr).unwrap())
        .collect();
    // The summary comes last, and begins with the count.
    let counted = |said: &String| -> u32 { said.lines().last().unwrap().split(' ').next().unwrap().parse().unwrap() };
    assert_eq!(said.iter().map(counted).sum::<u32>(), 200, "{said:?}");
    (0..200).for_each(|number| assert!(desk.read(&name(number)).contains("    int b;")));
    for _ in said.iter().filter(|said| counted(said) > 0) {
        desk.run(&["undo"]);
    }
    (0..200).for_each(|number| assert_eq!(desk.read(&name(number)), jumble(number)));
}

/// Kills the program so many milliseconds after it began to write the first of many files; gives how many it had changed.
fn changed_when_killed(files: usize, after: Duration) -> usize {
    let desk = Desk::new();
    let old = |number: usize| format!("{{\"gauge\":{number},\n\"levels\":[{}]}}", "1.25, ".repeat(400) + "2");
    let name = |number: usize| format!("{number:04}.json");
    (0..files).for_each(|number| desk.write(&name(number), old(number)));
    let mut running = desk.command(&["format", "--write", "."]).stderr(Stdio::null()).spawn().unwrap();
    let start = Instant::now();
    while desk.read(&name(0)) == old(0) && start.elapsed() < Duration::from_secs(60) {
        thread::sleep(Duration::from_micros(200));
    }
    thread::sleep(after);
    running.kill().unwrap();
    running.wait().unwrap();
    let mut changed = 0;
    for number in (0..files).filter(|number| desk.read(&name(*number)) != old(*number)) {
        changed += 1;
        let expected = desk.pipe(&["format", "-", "--language", "json"], &old(number));
        assert_eq!(format!("{}── exit 0\n", desk.read(&name(number))), expected, "{} is broken", name(number));
    }
    assert!(changed > 0, "the program was killed before it wrote anything");
    let names = std::fs::read_dir(desk.file("")).unwrap().map(|entry| entry.unwrap().file_name());
    let foreign = |name: &String| !(name.ends_with(".json") || name.starts_with(".vknot-") && name.ends_with(".tmp"));
    assert_eq!(names.map(|name| name.into_string().unwrap()).find(foreign), None);
    desk.run(&["undo"]);
    (0..files).for_each(|number| assert_eq!(desk.read(&name(number)), old(number)));
    changed
}

#[test]
fn killed_in_the_middle_every_file_is_old_or_new() {
    assert!(changed_when_killed(600, Duration::ZERO) < 600);
}

#[test]
#[ignore = "takes minutes"]
fn killed_two_hundred_times_every_file_is_old_or_new() {
    for round in 0..200u64 {
        changed_when_killed(150, Duration::from_micros(round * 7919 % 60_000));
    }
}

#[test]
fn an_interrupt_from_the_terminal_reaches_an_interpreter_once() {
    if ignores_interrupts() {
        return;
    }
    let desk = Desk::new();
    let code = "trap 'echo interrupted' INT\necho ready\nsleep 3\necho done\n";
    desk.write("vknot.toml", "");
    let program = desk.command(&[]).get_program().to_str().unwrap().to_owned();
    let line = format!("exec '{program}' sections run tide.md@Wait --with sh");
    desk.write("tide.md", format!("# Wait\n\n```sh\n{code}```\n"));
    let mut command = Command::new("script");
    command.args(["--quiet", "--return", "--command", &line, "/dev/null"]).current_dir(desk.file(""));
    let Ok(mut terminal) = command.stdin(Stdio::piped()).stdout(Stdio::piped()).spawn() else {
        return eprintln!("skipped: `script`, which makes a terminal, is not there");
    };
    let (mut keys, mut screen) = (terminal.stdin.take().unwrap(), terminal.stdout.take().unwrap());
    let mut shown = String::new();
    let mut key_pressed = false;
    let mut part = [0; 256];
    while let Ok(length @ 1..) = screen.read(&mut part) {
        shown.push_str(&String::from_utf8_lossy(&part[..length]));
        if !key_pressed && shown.contains("ready") {
            key_pressed = true;
            thread::sleep(Duration::from_millis(100));
            keys.write_all(b"\x03").unwrap();
        }
    }
    assert_eq!(terminal.wait().unwrap().code(), Some(0), "{shown}");
    assert_eq!(shown.matches("interrupted").count(), 1, "{shown}");
    assert!(shown.contains("done"), "{shown}");
}
