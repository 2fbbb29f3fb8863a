//! Edits are values: what a reshape yields, and what a diff, a write, an undo or an editor takes.

use vknot_syntax::{Source, Span, Tree};

/// Replacements of spans of one text, in order and apart from each other.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Edits {
    list: Vec<(Span, (u32, u32))>,
    pool: String,
}

/// How many lines are compared each with each at most, which takes time by the square of what differs; of more, only those at both ends.
const LINES_COMPARED: usize = 4_000;

impl Edits {
    /// Adds a replacement behind all earlier ones.
    pub fn push(&mut self, span: Span, text: &str) {
        let start = self.pool.len() as u32;
        self.pool.push_str(text);
        self.list.push((span, (start, self.pool.len() as u32)));
    }

    /// The spans with the text that replaces each.
    pub fn iter(&self) -> impl ExactSizeIterator<Item = (Span, &str)> {
        self.list.iter().map(|(span, (start, end))| (*span, Span { start: *start, end: *end }.of(&self.pool)))
    }

    /// How many replacements there are.
    pub fn len(&self) -> usize {
        self.list.len()
    }

    /// Whether nothing changes.
    pub fn is_empty(&self) -> bool {
        self.list.is_empty()
    }

    /// The new text.
    pub fn apply(&self, text: &str) -> String {
        let mut out = String::with_capacity(text.len() + self.pool.len());
        let mut reached = 0;
        for (span, new) in self.iter() {
            out.push_str(Span { start: reached, end: span.start }.of(text));
            out.push_str(new);
            reached = span.end;
        }
        out.push_str(Span { start: reached, end: text.len() as u32 }.of(text));
        out
    }

    /// These edits with others put in, which are in order and apart from these.
    pub fn merged<'e>(&self, others: impl Iterator<Item = (Span, &'e str)>) -> Edits {
        let mut merged = Edits::default();
        let mut own = self.iter().peekable();
        for (span, text) in others {
            while let Some((before, replacement)) = own.next_if(|(before, _)| before.start < span.start) {
                merged.push(before, replacement);
            }
            merged.push(span, text);
        }
        own.for_each(|(span, text)| merged.push(span, text));
        merged
    }

    /// Where in the new text what was put in stands.
    pub fn new_spans(&self) -> impl Iterator<Item = Span> {
        let mut delta = 0i64;
        self.iter().map(move |(span, new)| {
            let start = (i64::from(span.start) + delta) as u32;
            delta += new.len() as i64 - i64::from(span.len());
            Span::new(start, start + new.len() as u32)
        })
    }

    /// Where an offset of the old text is in the new one. What is inside a replaced span goes to the end of what replaces it.
    pub fn moved(&self, offset: u32) -> u32 {
        let mut delta = 0i64;
        for (span, new) in self.iter().take_while(|(span, _)| span.start < offset || span.end <= offset) {
            if offset < span.end {
                return (i64::from(span.start) + delta) as u32 + new.len() as u32;
            }
            delta += new.len() as i64 - i64::from(span.len());
        }
        (i64::from(offset) + delta) as u32
    }

    /// Where an offset of the new text was in the old one. What was put in goes to the end of what it replaced.
    pub fn origin(&self, offset: u32) -> u32 {
        let mut delta = 0i64;
        for (span, new) in self.iter() {
            let start = i64::from(span.start) + delta;
            if i64::from(offset) < start {
                break;
            }
            if i64::from(offset) < start + new.len() as i64 {
                return span.end;
            }
            delta += new.len() as i64 - i64::from(span.len());
        }
        (i64::from(offset) - delta) as u32
    }

    /// These edits and then others, which are to the text that these make of `text`, as edits to `text`.
    pub fn then(&self, text: &str, next: &Edits) -> Edits {
        let between = self.apply(text);
        // What either replaces, in the text between: where it begins and ends, and by how much each text is longer than that.
        let mut pieces: Vec<(u32, u32, i64, i64)> = Vec::with_capacity(self.len() + next.len());
        let mut delta = 0i64;
        for (span, new) in self.iter() {
            let start = (i64::from(span.start) + delta) as u32;
            let grown = new.len() as i64 - i64::from(span.len());
            pieces.push((start, start + new.len() as u32, -grown, 0));
            delta += grown;
        }
        pieces.extend(
            next.iter().map(|(span, new)| (span.start, span.end, 0, new.len() as i64 - i64::from(span.len()))),
        );
        pieces.sort_unstable();
        let after = next.apply(&between);
        let mut composed = Edits::default();
        let (mut before_delta, mut after_delta) = (0i64, 0i64);
        let mut at = 0;
        while let Some((start, mut end, mut shorter, mut longer)) = pieces.get(at).copied() {
            at += 1;
            while let Some((_, other_end, less, more)) = pieces.get(at).filter(|(other, ..)| *other <= end) {
                (end, shorter, longer) = (end.max(*other_end), shorter + less, longer + more);
                at += 1;
            }
            let shifted = |offset: u32, delta: i64| (i64::from(offset) + delta) as u32;
            let span = Span { start: shifted(start, before_delta), end: shifted(end, before_delta + shorter) };
            let new = Span { start: shifted(start, after_delta), end: shifted(end, after_delta + longer) }.of(&after);
            if span.of(text) != new {
                composed.push(span, new);
            }
            (before_delta, after_delta) = (before_delta + shorter, after_delta + longer);
        }
        composed
    }

    /// The same edits of `text`, those of several lines taken apart: lines that stay are in none.
    pub fn by_lines(&self, text: &str) -> Edits {
        let mut apart = Edits::default();
        for (span, new) in self.iter() {
            let old = span.of(text);
            if !old.contains('\n') && !new.contains('\n') {
                apart.push(span, new);
                continue;
            }
            // The last line counts as a line where it is one.
            let rest = text.get(span.end as usize..).unwrap_or("");
            let end = ["\r\n", "\n"].into_iter().find(|end| rest.starts_with(end)).unwrap_or("");
            let (old, new) = (format!("{old}{end}"), format!("{new}{end}"));
            let (old, new): (Vec<&str>, Vec<&str>) = (
                old.split_inclusive('\n').collect(),
                new.split_inclusive('\n').collect(),
            );
            let starts: Vec<u32> = std::iter::once(span.start)
                .chain(old.iter().scan(span.start, |at, line| {
                    *at += line.len() as u32;
                    Some(*at)
                }))
                .collect();
            if old.len().max(new.len()) > LINES_COMPARED {
                let same = |(old, new): &(&&str, &&str)| old == new;
                let first = old.iter().zip(&new).take_while(same).count();
                let last = old[first..].iter().rev().zip(new[first..].iter().rev()).take_while(same).count();
                let changed = new.get(first..new.len() - last).unwrap_or_default().concat();
                apart.push(Span::new(starts[first], starts[old.len() - last]), &changed);
                continue;
            }
            // Where an insertion stands is told by the lines before it: its own index may lag behind them.
            let mut reached = 0;
            for operation in similar::capture_diff_slices(similar::Algorithm::Myers, &old, &new) {
                let (from, to) = (operation.old_range(), operation.new_range());
                if operation.tag() != similar::DiffTag::Equal {
                    let start = from.start.max(reached);
                    apart.push(Span::new(starts[start], starts[from.end.max(start)]), &new[to].concat());
                }
                reached = reached.max(from.end);
            }
        }
        apart
    }

    /// The tree of the text that these make of one that was read, without reading it again where they move whole tokens only, the language
    /// does not tell things by white space, and nothing in it is broken or in another language.
    pub(crate) fn tree_after(&self, tree: &Tree, new: &Source) -> Tree {
        let whole =
            tree.language().grammar().is_some() && !tree.has_error() && !tree.gave_up() && tree.embedded().is_empty();
        let sizes = self.iter().map(|(span, new)| (span, new.len() as u32));
        let moved = whole.then(|| tree.moved(sizes, new.text().len() as u32)).flatten();
        moved.unwrap_or_else(|| Tree::read(new, tree.language()))
    }

    /// Only the edits that pass.
    pub fn filtered(&self, mut keep: impl FnMut(Span, &str) -> bool) -> Edits {
        let mut kept = Edits::default();
        self.iter().filter(|(span, text)| keep(*span, text)).for_each(|(span, text)| kept.push(span, text));
        kept
    }

    /// The edits with what may come in place of each span; those for which that is nothing are left out.
    pub(crate) fn rewritten(&self, mut held: impl FnMut(Span, &str) -> Option<String>) -> Edits {
        let mut kept = Edits::default();
        self.iter().for_each(|(span, text)| held(span, text).into_iter().for_each(|new| kept.push(span, &new)));
        kept
    }

    /// Whether any of them is at a span.
    pub(crate) fn touch(&self, span: Span) -> bool {
        let behind = self.list.partition_point(|(own, _)| own.end < span.start);
        self.list.get(behind).is_some_and(|(own, _)| own.start <= span.end)
    }

    /// Whether spans are in order, apart and inside a text of `length` bytes.
    pub fn are_sound(&self, length: u32) -> bool {
        let mut reached = 0;
        self.iter().all(|(span, _)| {
            let sound = reached <= span.start && span.start <= span.end && span.end <= length;
            reached = span.end;
            sound
        })
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    /// Edits from numbers: how far behind the last one, how much is replaced, by how many letters.
    fn edits(text: &str, changes: &[(u8, u8, u8)]) -> Edits {
        let mut edits = Edits::default();
        let mut at = 0;
        for (gap, taken, put) in changes {
            let start = at + u32::from(gap % 5);
            let end = start + u32::from(taken % 4);
            if end as usize > text.len() {
                break;
            }
            edits.push(Span::new(start, end), &"tide"[..usize::from(put % 5)]);
            at = end;
        }
        edits
    }

    proptest! {
        #[test]
        fn edits_one_after_the_other_are_one(
            text in "[a-f]{0,30}",
            first in prop::collection::vec(any::<(u8, u8, u8)>(), 0..8),
            second in prop::collection::vec(any::<(u8, u8, u8)>(), 0..8),
        ) {
            let first = edits(&text, &first);
            let between = first.apply(&text);
            let second = edits(&between, &second);
            let both = first.then(&text, &second);
            prop_assert!(both.are_sound(text.len() as u32));
            prop_assert_eq!(both.apply(&text), second.apply(&between));
            prop_assert_eq!(first.new_spans().count(), first.len());
            for (span, (_, new)) in first.new_spans().zip(first.iter()) {
                prop_assert_eq!(span.of(&between), new);
            }
            for offset in 0..=text.len() as u32 {
                prop_assert!(first.moved(offset) as usize <= between.len());
            }
            for offset in 0..=between.len() as u32 {
                prop_assert!(first.origin(offset) as usize <= text.len());
            }
        }
    }

    /// Edits that double all white space.
    fn spread(text: &str) -> Edits {
        let mut edits = Edits::default();
        for (at, blank) in text.match_indices([' ', '\n']) {
            edits.push(Span::new(at as u32, at as u32 + 1), &blank.repeat(2));
        }
        edits
    }

    #[test]
    fn a_tree_whose_tokens_move_is_the_one_that_is_read() {
        let texts = [
            ("java", "class Gauge {\n /* of\n the quay */\n int level = 3; // metres\n\n}\n"),
            ("javascript", "const a = [1, 2]\nfunction f(x) { return x }\n"),
            ("go", "package tide\n\nfunc level(a int) {\n\tif a > 0 {\n\t\tprint(a)\n\t}\n}\n"),
            ("rust", "fn level() -> u32 { /// of the quay\n let a = 1; a }\n"),
            ("csharp", "class Gauge { int Level => 3; }\n"),
        ];
        for (language, text) in texts {
            let language = vknot_syntax::Language::named(language).unwrap();
            let read = |text: String| Source::from_text("Gauge", text);
            let (old, edits) = (read(text.to_owned()), spread(text));
            let tree = Tree::read(&old, language);
            let new = read(edits.apply(text));
            let sizes = edits.iter().map(|(span, new)| (span, new.len() as u32));
            let moved = tree.moved(sizes, new.text().len() as u32).unwrap();
            let shown = |tree: &Tree| format!("{:?}{:?}", tree.nodes(), tree.tokens());
            assert_eq!(shown(&moved), shown(&Tree::read(&new, language)), "{}", new.text());
            assert_eq!(shown(&edits.tree_after(&tree, &new)), shown(&moved));
        }
    }

    #[test]
    fn what_reaches_over_the_edge_of_a_token_is_read_again() {
        let language = vknot_syntax::Language::named("java").unwrap();
        let old = Source::from_text("Gauge.java", "class Gauge { int level; }\n");
        let mut edits = Edits::default();
        edits.push(Span::new(9, 12), "   ");
        let new = Source::from_text("Gauge.java", edits.apply(old.text()));
        let tree = Tree::read(&old, language);
        assert!(tree.moved([(Span::new(9, 12), 3)].into_iter(), new.text().len() as u32).is_none());
        assert_eq!(edits.tree_after(&tree, &new).tokens().len(), Tree::read(&new, language).tokens().len());
    }

    #[test]
    fn lines_that_stay_are_in_no_edit() {
        let text = "import c;\nimport a;\nimport b;\nend\n";
        let mut edits = Edits::default();
        edits.push(Span::new(0, 29), "import a;\nimport b;\nimport c;");
        let apart = edits.by_lines(text);
        let shown: Vec<(&str, &str)> = apart.iter().map(|(span, new)| (span.of(text), new)).collect();
        assert_eq!(shown, [("import c;\n", ""), ("", "import c;\n")]);
        assert_eq!(apart.apply(text), edits.apply(text));
    }

    #[test]
    fn long_texts_are_compared_at_their_ends() {
        let lines = |from: usize, to: usize| (from..to)
            .map(|number| format!("import a{number};\n"))
            .collect::<String>();
        let text = lines(0, 5_000);
        let new = format!("{}{}", lines(0, 10), lines(20, 5_000));
        let mut edits = Edits::default();
        edits.push(Span::new(0, text.len() as u32), &new);
        let apart = edits.by_lines(&text);
        assert_eq!(apart.iter().map(|(span, new)| (span.of(&text), new)).collect::<Vec<_>>(), [(lines(10, 20).as_str(), "")]);
        assert_eq!(apart.apply(&text), new);
    }

    #[test]
    fn edits_are_merged_in_order() {
        let edits = |list: &[(u32, u32)]| {
            let mut edits = Edits::default();
            list.iter().for_each(|(start, end)| edits.push(Span::new(*start, *end), "x"));
            edits
        };
        let merged = edits(&[(0, 1), (4, 5)]).merged(edits(&[(2, 3), (4, 4)]).iter());
        let spans: Vec<(u32, u32)> = merged.iter().map(|(span, _)| (span.start, span.end)).collect();
        assert_eq!(spans, [(0, 1), (2, 3), (4, 4), (4, 5)]);
        assert!(merged.are_sound(5));
    }

    #[test]
    fn offsets_go_there_and_back() {
        let mut edits = Edits::default();
        edits.push(Span::new(2, 4), "tide");
        edits.push(Span::new(6, 6), "x");
        assert_eq!([0, 2, 3, 4, 5, 6, 7].map(|offset| edits.moved(offset)), [0, 2, 6, 6, 7, 9, 10]);
        assert_eq!([0, 1, 2, 5, 6, 7, 8, 9].map(|offset| edits.origin(offset)), [0, 1, 4, 4, 4, 5, 6, 6]);
    }
}
