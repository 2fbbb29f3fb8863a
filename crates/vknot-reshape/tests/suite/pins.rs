//! Pins, held against generated edits whose effect is known.

use vknot_reshape::pins::{Anchor, Found, Lines};

use crate::support::sample_files;

/// Numbers that are the same on every run.
struct Random(u64);

impl Random {
    fn below(&mut self, limit: usize) -> usize {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        ((self.0 >> 33) % limit.max(1) as u64) as usize
    }
}

/// A line that knows whether it was pinned.
#[derive(Clone)]
struct Tracked {
    text: String,
    pinned: bool,
}

/// One change, as people make them.
fn edit(lines: &mut Vec<Tracked>, random: &mut Random) -> &'static str {
    let first = lines.iter().position(|line| line.pinned).unwrap_or(0);
    let count = lines.iter().filter(|line| line.pinned).count();
    let fresh = |random: &mut Random| {
        let text = format!("    log_entry_{} = measure_{}({});", random.below(900), random.below(900), random.below(9));
        Tracked { text, pinned: false }
    };
    match random.below(8) {
        0 => {
            let at = random.below(first + 1);
            (0..random.below(6) + 1).for_each(|_| lines.insert(at, fresh(random)));
            "insert above"
        }
        1 if first > 2 => {
            let at = random.below(first - 1);
            lines.drain(at..(at + 1 + random.below(3)).min(first));
            "delete above"
        }
        2 if count > 2 => {
            let at = first + 1 + random.below(count - 2);
            lines.insert(at, fresh(random));
            "insert inside"
        }
        3 if count > 4 => {
            let at = first + 1 + random.below(count - 2);
            lines.remove(at);
            "delete inside"
        }
        4 => {
            lines.iter_mut().filter(|line| !line.text.is_empty()).for_each(|line| line.text.insert_str(0, "  "));
            "indent all"
        }
        5 => {
            let words: Vec<String> = lines
                .iter()
                .filter(|line| line.pinned)
                .flat_map(|line| {
                    line.text
                        .split(|c: char| !c.is_alphanumeric() && c != '_')
                        .filter(|word| word.len() > 3)
                        .map(str::to_owned)
                        .collect::<Vec<_>>()
                })
                .collect();
            if !words.is_empty() {
                let word = &words[random.below(words.len())];
                lines.iter_mut().for_each(|line| line.text = line.text.replace(word.as_str(), "renamedThing"));
            }
            "rename"
        }
        6 if lines.iter().filter(|line| line.pinned).all(|line| line.pinned) && count > 0 => {
            let last = lines.iter().rposition(|line| line.pinned).unwrap_or(first);
            let block: Vec<Tracked> = lines.drain(first..=last).collect();
            let at = random.below(lines.len() + 1);
            lines.splice(at..at, block);
            "move"
        }
        _ => {
            let at = (first + count + random.below(5)).min(lines.len());
            lines.insert(at, fresh(random));
            "insert below"
        }
    }
}

fn text_of(lines: &[Tracked]) -> String {
    lines.iter().map(|line| format!("{}\n", line.text)).collect()
}

/// Where the pinned lines are.
fn truth(lines: &[Tracked]) -> Option<(u32, u32)> {
    let first = lines.iter().position(|line| line.pinned)?;
    let last = lines.iter().rposition(|line| line.pinned)?;
    Some((first as u32 + 1, last as u32 + 1))
}

#[test]
fn pins_follow_their_lines_and_are_never_wrong() {
    let files: Vec<String> =
        sample_files().into_iter().map(|(_, _, text)| text).filter(|text| text.lines().count() > 18).collect();
    let mut random = Random(20_261_123);
    let mut counts = std::collections::BTreeMap::new();
    let mut wrong = Vec::new();
    for sequence in 0..480 {
        let text = &files[sequence % files.len()];
        let mut lines: Vec<Tracked> =
            text.lines().map(|line| Tracked { text: line.to_owned(), pinned: false }).collect();
        let first = random.below(lines.len() - 8);
        let length = 3 + random.below(10).min(lines.len() - first - 4);
        let inked = |line: &Tracked| !line.text.trim().is_empty();
        let (Some(from), Some(to)) = (
            lines[first..first + length].iter().position(inked),
            lines[first..first + length].iter().rposition(inked),
        ) else { continue };
        lines[first + from..=first + to].iter_mut().for_each(|line| line.pinned = true);
        let anchor = Anchor::of(&text_of(&lines), Lines { first: first as u32 + 1, last: (first + length) as u32 });
        let done: Vec<&str> = (0..random.below(4) + 1).map(|_| edit(&mut lines, &mut random)).collect();
        let found = anchor.find(&text_of(&lines));
        *counts.entry(found.name()).or_insert(0) += 1;
        let right = found.lines().map(|lines| (lines.first, lines.last));
        if found != Found::Lost && right != truth(&lines) {
            wrong.push(format!("{done:?}: {found:?}, truly {:?}\n{}", truth(&lines), anchor.lines.join("\n")));
        }
    }
    assert!(wrong.is_empty(), "{} wrong, the first:\n{}", wrong.len(), wrong[0]);
    let lost = counts.get("lost").copied().unwrap_or(0);
    println!("{counts:?}");
    assert!(lost * 10 <= 480, "{lost} of 480 lost: {counts:?}");
}

const GAUGE: &str = "read tides from gauge\nwrite levels to board\nif surge then warn\nend of gauge\n";

fn found_in(text: &str) -> Found {
    Anchor::of(GAUGE, Lines { first: 2, last: 3 }).find(text)
}

#[test]
fn each_state_is_named() {
    let lines = |first, last| Lines { first, last };
    for (text, expected) in [
        (GAUGE.to_owned(), Found::Exact(lines(2, 3))),
        (GAUGE.replace("levels", "heights"), Found::Exact(lines(2, 3))),
        (format!("new\n{GAUGE}"), Found::Moved(lines(3, 4))),
        (GAUGE.replace("\nif surge", "\n  log the level\nif surge"), Found::Resized(lines(2, 4))),
        (GAUGE.replace("board\nif", "board if"), Found::Resized(lines(2, 2))),
        (GAUGE.replace("write levels to board\nif surge then warn\n", ""), Found::Lost),
        // Twice the same: neither is guessed.
        (
            "write levels to board\nif surge then warn\n\nwrite levels to board\nif surge then warn\n".to_owned(),
            Found::Lost,
        ),
        (String::new(), Found::Lost),
    ] {
        assert_eq!(found_in(&text), expected, "{text}");
    }
}

/// Two pieces of a kind, and something in between.
const BOARDS: &str = "begin board north\nread levels of north\nsend levels to north\nwarn when north floods\nend board\n\nwait for the tide\nkeep the log open\n\nbegin board south\nread levels of south\nsend levels to south\nwarn when south floods\nend board\n\nclose the log again\n";

#[test]
fn twins_are_not_taken_for_each_other() {
    let north = Anchor::of(BOARDS, Lines { first: 2, last: 4 });
    assert!(north.twins);
    let lines = |first, last| Lines { first, last };
    let without = BOARDS.replace("read levels of north\nsend levels to north\nwarn when north floods\n", "");
    let behind = format!("{without}\nread levels of north\nsend levels to north\nwarn when north floods\n");
    for (what, text, expected) in [
        ("as it was", BOARDS.to_owned(), Found::Exact(lines(2, 4))),
        ("further down", format!("new\nnewer\n{BOARDS}"), Found::Moved(lines(4, 6))),
        ("its twin is gone", BOARDS.replace("south", "shore"), Found::Exact(lines(2, 4))),
        ("it is deleted", without, Found::Lost),
        ("it is moved as it was", behind, Found::Moved(lines(15, 17))),
        ("a line changed in place", BOARDS.replace("levels to north", "heights to north"), Found::Exact(lines(2, 4))),
        (
            "a line came in",
            BOARDS.replace("\nsend levels to north", "\nlook twice\nsend levels to north"),
            Found::Resized(lines(2, 5)),
        ),
    ] {
        assert_eq!(north.find(&text), expected, "{what}");
    }
}

#[test]
fn what_has_no_twin_may_move_and_change_at_once() {
    let text = BOARDS.replace("board south", "quay south").replace("levels of south", "wind at the quay").replace(
        "send levels to south\nwarn when south floods\n",
        "raise a flag\n",
    );
    let north = Anchor::of(&text, Lines { first: 2, last: 4 });
    assert!(!north.twins);
    let own = "read levels of north\nsend levels to north\nwarn when north floods\n";
    let moved = format!("{}\n{}", text.replace(own, ""), own.replace("north floods", "north is flooded"));
    assert!(matches!(north.find(&moved), Found::Moved(_) | Found::Lost), "{:?}", north.find(&moved));
    assert_eq!(north.find(&text.replace(own, "")), Found::Lost);
    let first = (moved.lines().count() - 2) as u32;
    let whole = format!("{}\n{own}", text.replace(own, ""));
    assert_eq!(north.find(&whole), Found::Moved(Lines { first, last: first + 2 }));
}
