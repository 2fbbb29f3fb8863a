//! Gaps that go one of two ways, as the style or the manner of the file says, which is known when all of it was walked.

use vknot_style::Key;
use vknot_syntax::{NodeId, Role};

use super::manner::{Named, Spaced, Waiting, is_second_word};
use super::plan::{Form, GapPlan};
use super::planner::Planner;
use crate::spec::layout::Spacing;

impl Planner<'_> {
    /// Gives a gap one of two policies, unless a rule further out gave it one before. `shows` says which way its author had it.
    pub fn set_by(&mut self, gap: u32, key: Key, ways: [GapPlan; 2], shows: Option<bool>) {
        if !self.plan.is_open(gap) {
            return;
        }
        self.plan.set(gap, ways[0]);
        self.or_by(gap, key, ways, shows);
    }

    /// Gives a gap that has its first way another one, as a second setting says.
    pub fn or_by(&mut self, gap: u32, key: Key, [first, second]: [GapPlan; 2], shows: Option<bool>) {
        self.show(gap, key, shows.filter(|_| self.written[gap as usize].plain));
        self.manner.waiting.push(Waiting { gap, key, first, second });
    }

    /// Counts the way in which a gap was written. Beside a comment it says nothing.
    pub fn show(&mut self, gap: u32, key: Key, shows: Option<bool>) {
        let commented = self.is_comment_token(gap) || gap > 0 && self.is_comment_token(gap - 1);
        let shows = shows.filter(|_| !commented);
        match shows {
            // Where something is set, no name tells.
            _ if self.goes_by_name(key) && self.style.word(key) != "as-found" => {}
            _ if self.goes_by_name(key) => self.manner.named.push(Named { gap, key, shows }),
            Some(second) => self.manner.vote(key, second),
            None => {}
        }
    }

    /// Whether a gap goes the second of the two ways of a setting.
    fn goes_second(&self, gap: u32, key: Key) -> bool {
        self.own_way(gap, key).unwrap_or_else(|| self.follows(key))
    }

    /// The side of its tokens on which a run breaks, before them or after: where nothing is set, that on which its author broke it.
    pub fn side(&self, key: Key, gaps: impl Iterator<Item = u32>) -> Option<bool> {
        let mut sides = [false; 2];
        for gap in gaps {
            let [before, behind] = [gap, gap + 1].map(|gap| self.newlines(gap) > 0);
            sides = [sides[0] || before, sides[1] || behind];
        }
        let open = self.style.word(key) == "as-found" && self.style.language().covers(key);
        (open && sides[0] != sides[1]).then_some(sides[1])
    }

    /// Whether a setting wants a space, if anything is set.
    pub fn set_space(&self, key: Key) -> Option<bool> {
        let word = self.style.word(key);
        (word != "as-found" && self.style.language().covers(key)).then(|| is_second_word(word))
    }

    /// Lets the settings on spaces between the braces of blocks and what is on their line decide on a gap that is planned.
    pub fn spaced_as_block(&mut self, gap: u32) {
        if self.style.language().covers(Key::SpaceBlock) {
            // What holds statements on its line was put there in a hurry.
            let beside = if self.token_text(gap) == "{" { gap + 1 } else { gap.saturating_sub(1) };
            let shows = self.newlines(gap) == 0 && self.newlines(beside) > 0;
            self.show(gap, Key::SpaceBlock, shows.then(|| !self.written[gap as usize].empty));
            self.manner.spaced.push((gap, Spaced::By(Key::SpaceBlock)));
        }
    }

    /// The same of an item of a list and the comma in front of it.
    pub fn spaced_behind_comma(&mut self, id: NodeId, comma: NodeId, item: NodeId) {
        if self.style.language().covers(Key::SpaceComma) && self.name(comma) == "," {
            self.spaced_as_table(id, comma, item);
        }
    }

    /// Lets the table of spaces decide whether a planned gap between two parts holds a space, should the line not break there.
    pub fn spaced_as_table(&mut self, parent: NodeId, left: NodeId, right: NodeId) {
        let gap = self.first(right);
        let written = self.written.get(gap as usize).is_some_and(|written| !written.empty);
        let spaced = match self.spacing(parent, left, right) {
            Spacing::Nothing => Spaced::As(false),
            Spacing::Space => return,
            Spacing::Author => Spaced::As(written || self.newlines(gap) > 0),
            Spacing::Set(key) => Spaced::As(self.set_space(key).unwrap_or(written || self.newlines(gap) > 0)),
            Spacing::By(key) => {
                let shows = (self.newlines(gap) == 0).then_some(written);
                self.show(gap, key, shows);
                Spaced::By(key)
            }
        };
        self.manner.spaced.push((gap, spaced));
    }

    /// Gives the gaps on both sides of a token their policies: the first of the two on the side where the line breaks.
    pub fn set_side(
        &mut self,
        gap: u32,
        (key, side): (Key, Option<bool>),
        [breaks, stays]: [GapPlan; 2],
        shows: Option<bool>,
    ) {
        match side {
            Some(behind) => {
                shows.into_iter().for_each(|second| self.manner.vote(key, second));
                self.plan.set(gap + u32::from(behind), breaks);
                self.plan.set(gap + u32::from(!behind), stays);
            }
            None => {
                self.set_by(gap, key, [breaks, stays], shows);
                self.set_by(gap + 1, key, [stays, breaks], None);
            }
        }
    }

    /// Whether a setting is the second of its two ways, as far as the file was walked.
    pub fn is_second(&self, key: Key) -> bool {
        let with_callables = matches!(key, Key::BraceType | Key::BraceAccessor) && self.tells_of_types();
        let own = key == Key::BraceType && !self.table.spec.types_as_callables || key == Key::BraceWrapped;
        let lone = self.meant.as_ref().filter(|_| own).and_then(|_| self.manner.lone(key));
        // Few conditionals, or lambdas, that open on the next line, as callables do, are no chance.
        let alike = || self.manner
            .lone(key)
            .filter(|next| *next && self.manner.found(Key::BraceDeclaration) == Some(true));
        let lone = if matches!(key, Key::BraceControl | Key::BraceLambda) { alike() } else { lone };
        let habit = || match key {
            _ if with_callables => self.is_second(Key::BraceDeclaration),
            // Where even conditionals open on the next line, everything does.
            Key::BraceType if !self.table.spec.types_as_callables => self.is_second(Key::BraceControl),
            key => self.table.spec.habits.contains(&key),
        };
        // How types open goes by callables, and so by more than most of those of one file.
        let by_more = with_callables || key == Key::BraceDeclaration && self.table.spec.types_as_callables;
        let shown = lone.or_else(|| self.beside(key)).or_else(|| self.manner.most(key).filter(|_| !by_more));
        let habit = shown.unwrap_or_else(habit);
        self.manner.second(self.style, key, habit)
    }

    /// Whether types and accessors go with callables, which is so where a setting says how these go, and in most languages where the
    /// file or those beside it show it; in others the few types of a well-kept file go as they are.
    fn tells_of_types(&self) -> bool {
        let key = Key::BraceDeclaration;
        let shown = || self.manner.shows(key) || self.beside(key).is_some();
        self.style.word(key) != "as-found" || self.table.spec.types_as_callables && shown()
    }

    /// Whether a setting is the second of its two ways in the files beside.
    fn beside(&self, key: Key) -> Option<bool> {
        self.style.beside(key).map(is_second_word)
    }

    /// Leaves a space between tokens that stand apart and would be read as one if they touched.
    fn part_what_would_merge(&mut self) {
        let (tokens, text) = (self.tree.tokens(), self.text);
        let joined = self.tree.language().spec().joined;
        let mut parted = Vec::new();
        for (index, pair) in tokens.windows(2).enumerate() {
            let gap = &mut self.plan.gaps[index + 1];
            if pair[0].end == pair[1].start && self.tree.is_joined(text, index as u32 + 1) {
                if !matches!(gap.form, Form::Unset | Form::Keep | Form::Verbatim) {
                    *gap = GapPlan::fixed(false);
                }
                continue;
            }
            if gap.spaced
                || pair[0].end == pair[1].start
                || !matches!(gap.form, Form::Fixed | Form::Soft | Form::Author)
            {
                continue;
            }
            let byte = |at: u32| text.as_bytes().get(at as usize).copied().unwrap_or(b' ');
            let (left, right) = (byte(pair[0].end.saturating_sub(1)), byte(pair[1].start));
            if left.is_ascii_punctuation() && right.is_ascii_punctuation() {
                gap.spaced = joined.iter().any(|pair| pair.as_bytes() == [left, right]);
                // What begins a comment; of HTML, too, in scripts (ECMA-262, annex B.1.1).
                gap.spaced |= matches!([left, right], [b'/', b'/' | b'*'] | [b'<', b'!']);
            }
            // A number goes on behind a point.
            gap.spaced |= right == b'.' && byte(pair[0].start).is_ascii_digit();
            if gap.spaced {
                parted.push(index as u32 + 1);
            }
        }
        self.space_both_sides(&parted);
    }

    /// Lets an operator with a space on one side have one on the other.
    fn space_both_sides(&mut self, parted: &[u32]) {
        for gap in parted {
            let beside = [(gap - 1, gap - 1), (*gap, gap + 1)];
            for (token, other) in beside {
                if !self.is_infix(token) {
                    continue;
                }
                let slot = &mut self.plan.gaps[other as usize];
                slot.spaced |= matches!(slot.form, Form::Fixed | Form::Soft);
            }
        }
    }

    /// Whether a token is an operator between two operands.
    pub fn is_infix(&self, token: u32) -> bool {
        let operator = self.tree.tokens().get(token as usize).map(|token| token.node);
        let holder = operator.and_then(|node| self.tree.ancestors(node).nth(1));
        let holder = holder.filter(|id| self.role(*id) == Role::Operator && self.first(*id) < token);
        holder.is_some_and(|id| self.operator_of(id) == operator)
    }

    /// Whether a setting is the second of its two ways. What follows a closing brace goes with how the braces of conditionals open.
    pub fn follows(&self, key: Key) -> bool {
        match key {
            Key::BraceFollow => {
                // What begins a line behind a brace in a well-kept file was put there.
                let lone = self.meant.as_ref().and_then(|_| self.manner.lone(key)).filter(|next| *next);
                let shown = lone.or_else(|| self.beside(key)).or_else(|| self.manner.most(key));
                let habit = shown.unwrap_or(self.options.control_next);
                self.manner.second(self.style, key, habit)
            }
            key => self.is_second(key),
        }
    }

    /// Counts the braces behind heads that wrap, where those behind others stay on their lines: elsewhere they say nothing of themselves.
    /// Where none is seen that stays on its line, they speak for all, but in languages where they are expected on the next line.
    pub fn count_wrapped(&mut self) {
        let wrapped = std::mem::take(&mut self.manner.wrapped);
        let expected = self.style.language().default_of(Key::BraceWrapped) == "next";
        let none_stays: Vec<bool> = wrapped.iter().map(|(key, _)| self.manner.shown(*key)[0] == 0).collect();
        for ((key, next), none_stays) in wrapped.into_iter().zip(none_stays) {
            if next && none_stays && !expected {
                self.manner.vote(key, next);
            } else if !self.is_second(key) {
                self.manner.vote(Key::BraceWrapped, next);
            }
        }
    }

    /// Gives the gaps that waited their policies.
    pub fn settle_ways(&mut self) {
        self.options.control_next = self.is_second(Key::BraceControl);
        let follows = self.follows(Key::BraceFollow);
        for waiting in std::mem::take(&mut self.manner.waiting) {
            let second = self.goes_second(waiting.gap, waiting.key);
            let slot = &mut self.plan.gaps[waiting.gap as usize];
            if second && slot.form == waiting.first.form {
                *slot = waiting.second;
            }
        }
        for (gap, spaced) in std::mem::take(&mut self.manner.spaced) {
            let spaced = match spaced {
                Spaced::As(spaced) => spaced,
                Spaced::By(key) => self.goes_second(gap, key),
            };
            let touches = self.tree.is_joined(self.text, gap);
            let slot = &mut self.plan.gaps[gap as usize];
            if matches!(slot.form, Form::Fixed | Form::Soft | Form::Author) {
                slot.spaced = spaced && !touches;
            }
        }
        self.part_what_would_merge();
        self.plan.gaps.iter_mut().filter(|gap| gap.joins).for_each(|gap| gap.joins = !follows);
    }
}
