//! Gives lexemes their place in the tree. What is open is on a stack of frames; one step looks at the innermost.

mod values;

use crate::language::{Field, Kind};
use crate::reading::{begins_line, Lexeme, NO_PARTNER};
use crate::reading::expressions::{Plan, Shape};
use crate::tree::TreeBuilder;
use super::expressions::Run;
use super::heads::{Context, Heads};
use super::*;

/// Something that is open.
enum Frame {
    /// Declarations or statements up to the lexeme `end`; `closes` nodes end with it.
    Sequence { end: usize, context: Context, closes: u32, arm: Arm },
    /// Words and groups up to the lexeme `end`.
    Values { end: usize },
    /// What is declared with a type up to the lexeme `end`, when its body was read.
    Declarators { end: usize },
    /// Words and groups up to the bracket `end`; `closes` nodes end with it.
    Group { end: usize, closes: u32 },
    /// A branch whose sub-statement is being read.
    Branch { what: What, arm: bool },
    /// A statement whose words have been read: its `;`, then its end.
    Tail,
}

/// Whether an arm of a `switch` is open in a sequence, and whether anything but labels is in it.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Arm {
    Closed,
    Labels,
    Open,
}

#[derive(Clone, Copy, PartialEq, Eq)]
enum What {
    If,
    Do,
    Try,
    Other,
}

pub(super) struct Reader<'r, 't> {
    heads: Heads<'r>,
    lexemes: &'r [Lexeme],
    partner: &'r [u32],
    inactive: &'r [(u32, u32)],
    builder: &'r mut TreeBuilder<'t>,
    frames: Vec<Frame>,
    /// The ends of the sequences that are open.
    ends: Vec<usize>,
    /// How many heads are being read through within one another.
    heads_within: u32,
    /// The nodes of the expressions that are open.
    plan: Plan,
    shapes: Vec<Shape>,
    at: usize,
}

impl<'r, 't> Reader<'r, 't> {
    pub fn new(
        text: &'r str,
        lexemes: &'r [Lexeme],
        partner: &'r [u32],
        inactive: &'r [(u32, u32)],
        builder: &'r mut TreeBuilder<'t>,
    ) -> Self {
        let heads = Heads { text, lexemes, partner };
        let file = Frame::Sequence { end: lexemes.len(), context: Context::Outside, closes: 0, arm: Arm::Closed };
        Self {
            heads,
            lexemes,
            partner,
            inactive,
            builder,
            frames: vec![file],
            ends: vec![lexemes.len()],
            heads_within: 0,
            plan: Plan::default(),
            shapes: Vec::new(),
            at: 0,
        }
    }

    pub fn run(mut self) {
        while self.step() {}
    }

    /// Goes on by a lexeme or a frame; false at the end.
    fn step(&mut self) -> bool {
        if let Some((start, end)) = self.inactive.first().copied() && self.at >= start as usize {
            self.inactive = &self.inactive[1..];
            self.flat(end as usize);
            return true;
        }
        self.plan.apply(self.at, self.builder);
        match self.frames.last() {
            None => return false,
            Some(Frame::Values { end }) if self.at >= *end => drop(self.frames.pop()),
            Some(Frame::Declarators { end }) => {
                let end = *end;
                self.frames.pop();
                self.values(end, Run::Declared);
            }
            Some(Frame::Group { end, closes }) if self.at >= *end => {
                let closes = *closes;
                self.frames.pop();
                self.token();
                (0..closes).for_each(|_| self.builder.close());
            }
            Some(Frame::Values { end } | Frame::Group { end, .. }) => {
                let end = *end;
                self.value(end);
            }
            Some(Frame::Tail) => {
                self.frames.pop();
                if self.heads.kind(self.at) == Some(SEMICOLON) {
                    self.token();
                }
                self.builder.close();
                self.finished();
            }
            Some(Frame::Sequence { end, .. }) if self.at >= *end => self.end_sequence(),
            Some(Frame::Branch { .. }) if self.at >= self.limit() => self.finished(),
            Some(_) => self.item(),
        }
        true
    }

    /// The end of the innermost sequence.
    fn limit(&self) -> usize {
        self.ends.last().copied().unwrap_or(self.lexemes.len())
    }

    fn context(&self) -> Context {
        match self.frames.last() {
            Some(Frame::Sequence { context, .. }) => *context,
            _ => Context::Code,
        }
    }

    fn token(&mut self) {
        if let Some(lexeme) = self.lexemes.get(self.at).copied() {
            let lone = shape(lexeme.kind).is_some() && self.partner[self.at] == NO_PARTNER;
            let kind = if lone { self.builder.error_kind() } else { lexeme.kind };
            match lexeme.start < lexeme.end {
                true => self.builder.token(kind, lexeme.start as usize, lexeme.end as usize),
                false => self.builder.missing(kind, Field(0)),
            }
        }
        self.at += 1;
    }

    /// Lexemes without structure, as one node.
    fn flat(&mut self, end: usize) {
        self.builder.open(INACTIVE, Field(0));
        while self.at < end {
            self.token();
        }
        self.builder.close();
    }

    fn end_sequence(&mut self) {
        let Some(Frame::Sequence { closes, arm, .. }) = self.frames.pop() else { return };
        self.ends.pop();
        if arm != Arm::Closed {
            self.builder.close();
        }
        if closes == 0 {
            return;
        }
        self.token();
        (0..closes).for_each(|_| self.builder.close());
        // A type's body is followed by what is declared with it; values go on by themselves.
        if !matches!(self.frames.last(), Some(Frame::Declarators { .. } | Frame::Values { .. } | Frame::Group { .. } | Frame::Tail)) {
            self.finished();
        }
    }

    /// A statement has ended: branches around it go on with their next part, or end too.
    fn finished(&mut self) {
        while let Some(Frame::Branch { what, arm }) = self.frames.last() {
            let (what, arm) = (*what, *arm);
            let next = self.heads.skip_notes(self.at, self.limit());
            let word = if next < self.limit() { self.heads.word(next) } else { "" };
            match (what, word) {
                (What::If, "else") | (What::Try, "catch" | "__except" | "__finally" | "@catch" | "@finally") => {
                    if arm {
                        self.builder.close();
                    }
                    self.notes(next);
                    self.builder.open(ARM, Field(0));
                    self.token();
                    // On a line of its own it is a conditional inside the other.
                    if self.heads.word(self.at) == "if"
                        && !begins_line(self.heads.text.as_bytes(), self.lexemes[self.at].start as usize)
                    {
                        self.token();
                        self.words_of_condition();
                    }
                    self.condition();
                    self.set_arm();
                    return;
                }
                (What::Do, "while") => {
                    self.notes(next);
                    self.token();
                    self.condition();
                    if self.heads.kind(self.at) == Some(SEMICOLON) {
                        self.token();
                    }
                }
                _ => {}
            }
            if arm {
                self.builder.close();
            }
            self.builder.close();
            self.frames.pop();
        }
    }

    fn set_arm(&mut self) {
        if let Some(Frame::Branch { arm, .. }) =
            self.frames.iter_mut().rev().find(|frame| matches!(frame, Frame::Branch { .. }))
        {
            *arm = true;
        }
    }

    /// Comments and directives up to the lexeme `end`.
    fn notes(&mut self, end: usize) {
        while self.at < end {
            self.token();
        }
    }

    /// A group in round brackets, if there is one, and what is said about the sub-statement: `[[likely]]`.
    fn condition(&mut self) {
        if self.heads.kind(self.at) == Some(OPEN_ROUND) && let Some(close) = self.heads.close_of(self.at) {
            self.builder.open(GROUP, Field(0));
            self.token();
            self.group(close, 1, Run::Values);
            // What is inside is read before the sub-statement.
            while matches!(self.frames.last(), Some(Frame::Group { .. } | Frame::Values { .. })) && self.step() {}
        }
        self.attributes();
    }

    /// `[[likely]]`, as often as it is next.
    fn attributes(&mut self) {
        while let Some(end) = self.heads.behind_attribute(self.at) {
            self.builder.open(ATTRIBUTE, Field(0));
            self.notes(end);
            self.builder.close();
        }
    }

    /// One declaration or statement.
    fn item(&mut self) {
        match self.lexemes[self.at].kind {
            COMMENT | DIRECTIVE | REGION_MARK | INCLUDE | INERT => return self.token(),
            MACRO_DEFINITION => return self.macro_definition(),
            SEMICOLON => {
                self.mark_arm_used();
                self.token();
                return self.finished();
            }
            COMMA if self.context() == Context::Constants => return self.token(),
            CLOSE_CURLY | CLOSE_ROUND | CLOSE_SQUARE => return self.token(),
            OPEN_CURLY if self.heads.close_of(self.at).is_none() => return self.token(),
            OPEN_CURLY if let Some(end) = self.heads.requirement_end(self.at, self.limit()) => {
                self.mark_arm_used();
                return self.requirement(end);
            }
            OPEN_CURLY => {
                self.mark_arm_used();
                return self.block(BLOCK, Context::Code, 1);
            }
            _ => {}
        }
        let context = self.context();
        if context == Context::Constants {
            return self.constant();
        }
        if self.label(context) {
            return;
        }
        self.mark_arm_used();
        match self.heads.word(self.at) {
            "if" => self.branch(CONDITIONAL, What::If),
            "switch" => self.branch(CONDITIONAL, What::Other),
            "for" | "while" => self.branch(LOOP, What::Other),
            "do" => self.branch(LOOP, What::Do),
            "try" | "__try" | "@try" => self.branch(GUARD, What::Try),
            // Behind the body of a function.
            "catch" if context != Context::Code => self.branch(GUARD, What::Try),
            "else" if context == Context::Code => self.branch(CONDITIONAL, What::If),
            _ => self.headed(context),
        }
    }

    fn macro_definition(&mut self) {
        self.builder.open(MACRO_DEFINITION, Field(0));
        let start = self.lexemes[self.at];
        self.builder.leaf(DIRECTIVE, Field(0), start.start, start.end);
        self.at += 1;
        if self.heads.kind(self.at) == Some(WORD) {
            self.token();
            self.builder.set_field(self.builder.last(), Field::NAME);
        }
        if self.heads.kind(self.at) == Some(MACRO_BODY) {
            self.token();
        }
        self.builder.close();
    }

    /// The body of a block or type from its `{`; `closes` nodes end with it.
    fn block(&mut self, kind: Kind, context: Context, closes: u32) {
        let Some(close) = self.heads.close_of(self.at) else { return self.token() };
        self.builder.open(kind, Field::BODY);
        self.token();
        self.frames.push(Frame::Sequence { end: close, context, closes, arm: Arm::Closed });
        self.ends.push(close);
    }

    /// `case x:`, `default:`, `name:`, `public:`; says whether there was one.
    fn label(&mut self, context: Context) -> bool {
        let mut first = self.at;
        while let Some(behind) = self.heads.behind_attribute(first).filter(|_| context == Context::Code) {
            first = behind;
        }
        let (word, limit) = (self.heads.word(first), self.limit());
        let case = matches!(word, "case" | "default") && context == Context::Code;
        let plain =
            context == Context::Code && self.heads.kind(self.at) == Some(WORD) && self.heads.word(self.at + 1) == ":";
        if !(case
            || plain
            || self.heads.begins_access(self.at, context)
            || self.heads.is_access_macro(self.at, context))
        {
            return false;
        }
        let mut colon = first;
        while colon < limit
            && self.heads.word(colon) != ":"
            && !matches!(self.heads.kind(colon), Some(SEMICOLON | OPEN_CURLY))
        {
            colon = self.heads.behind(colon);
        }
        if case && matches!(self.frames.last(), Some(Frame::Sequence { .. })) {
            self.open_arm();
        }
        self.builder.open(LABEL, Field(0));
        self.attributes();
        while self.at <= colon.min(limit.saturating_sub(1)) {
            self.token();
        }
        self.builder.close();
        true
    }

    /// Begins an arm of a `switch`, unless one has just begun and has labels only.
    fn open_arm(&mut self) {
        let Some(Frame::Sequence { arm, .. }) = self.frames.last_mut() else { return };
        let before = std::mem::replace(arm, Arm::Labels);
        if before == Arm::Open {
            self.builder.close();
        }
        if before != Arm::Labels {
            self.builder.open(ARM, Field(0));
        }
    }

    fn mark_arm_used(&mut self) {
        if let Some(Frame::Sequence { arm, .. }) = self.frames.last_mut() && *arm == Arm::Labels {
            *arm = Arm::Open;
        }
    }

    /// A keyword, a condition, and a sub-statement to come.
    fn branch(&mut self, kind: Kind, what: What) {
        self.builder.open(kind, Field(0));
        self.token();
        self.words_of_condition();
        self.frames.push(Frame::Branch { what, arm: false });
        self.condition();
    }

    /// `if constexpr`, `if !consteval`, and `else` that has lost its `if`.
    fn words_of_condition(&mut self) {
        while matches!(self.heads.word(self.at), "constexpr" | "consteval" | "if")
            || self.heads.word(self.at) == "!" && self.heads.word(self.at + 1) == "consteval"
        {
            self.token();
        }
    }

    /// `{ size() } noexcept -> Number;`, which ends at the lexeme `end`.
    fn requirement(&mut self, end: usize) {
        self.builder.open(STATEMENT, Field(0));
        self.frames.push(Frame::Tail);
        self.values(end, Run::Words);
    }

    /// What its head tells: functions, types, namespaces, declarations, expressions.
    fn headed(&mut self, context: Context) {
        let limit = self.limit();
        let head = self.heads.head(self.at, limit, context);
        // What begins nothing stands alone, so that reading goes on.
        if !head.has_body && head.end <= self.at {
            return self.token();
        }
        self.builder.open(head.kind, Field(0));
        if !head.has_body {
            self.frames.push(Frame::Tail);
            self.named_values(&head);
            return;
        }
        match head.kind {
            CLASS | STRUCT | UNION | ENUM => {
                // What follows the body up to `;` is declared with the type.
                let behind = self.heads.behind(head.end);
                let tail = self.declarators_end(behind, limit);
                self.frames.push(Frame::Tail);
                self.frames.push(Frame::Declarators { end: tail });
                self.head_values(&head);
                self.block(BODY, if head.kind == ENUM { Context::Constants } else { Context::Members }, 1);
            }
            NAMESPACE | LINKAGE => {
                self.head_values(&head);
                self.block(BODY, Context::Outside, 2);
            }
            // A macro that stands for a condition may have another branch.
            MACRO_BLOCK if self.heads.word(self.heads.skip_notes(self.heads.behind(head.end), limit)) == "else" => {
                self.frames.push(Frame::Branch { what: What::If, arm: false });
                self.head_values(&head);
                self.block(BLOCK, Context::Code, 1);
            }
            _ => {
                self.head_values(&head);
                self.block(BLOCK, Context::Code, 2);
            }
        }
    }

    /// The end of what is declared behind a type's body.
    fn declarators_end(&self, start: usize, limit: usize) -> usize {
        let mut at = start;
        while at < limit {
            match self.heads.kind(at) {
                Some(SEMICOLON) => return at,
                // The brace of a value, not that of the next item.
                Some(OPEN_CURLY) if at > start && self.heads.word(at - 1) == "=" => at = self.heads.behind(at),
                Some(OPEN_CURLY | CLOSE_CURLY | MACRO_DEFINITION | INCLUDE | DIRECTIVE) => return start,
                _ => at = self.heads.behind(at),
            }
        }
        start
    }
}
