//! Gives lexemes their place in the tree, statement by statement.

use crate::language::{Field, Kind};
use crate::reading::{Lexeme, NO_PARTNER};
use crate::reading::expressions::{Plan, Shape};
use crate::tree::TreeBuilder;
use super::expressions::Values;
use super::*;

pub(super) struct Reader<'r, 't> {
    text: &'r str,
    dialect: Dialect,
    lexemes: &'r [Lexeme],
    partner: &'r [u32],
    builder: &'r mut TreeBuilder<'t>,
    /// The closing brackets of the bodies that are open.
    bodies: Vec<u32>,
    /// The nodes of the expressions that are open.
    plan: Plan,
    shapes: Vec<Shape>,
}

impl<'r, 't> Reader<'r, 't> {
    pub fn new(
        text: &'r str,
        dialect: Dialect,
        lexemes: &'r [Lexeme],
        partner: &'r [u32],
        builder: &'r mut TreeBuilder<'t>,
    ) -> Self {
        let (plan, shapes) = (Plan::default(), Vec::new());
        Self { text, dialect, lexemes, partner, builder, bodies: Vec::new(), plan, shapes }
    }

    pub fn run(mut self) {
        let mut at = 0;
        while at < self.lexemes.len() {
            if self.bodies.last() == Some(&(at as u32)) {
                self.bodies.pop();
                self.token(at);
                // The body, and the statement it ends.
                self.builder.close();
                self.builder.close();
                at += 1;
                continue;
            }
            at = match self.lexemes[at].kind {
                COMMENT | SEMICOLON => {
                    self.token(at);
                    at + 1
                }
                CLOSE_CURLY => self.flat(at),
                _ => self.statement(at),
            };
        }
    }

    fn token(&mut self, at: usize) {
        let lexeme = self.lexemes[at];
        let lone = shape(lexeme.kind).is_some() && self.partner[at] == NO_PARTNER;
        let kind = if lone { self.builder.error_kind() } else { lexeme.kind };
        match lexeme.start < lexeme.end {
            true => self.builder.token(kind, lexeme.start as usize, lexeme.end as usize),
            false => self.builder.missing(kind, Field(0)),
        }
    }

    fn flat(&mut self, at: usize) -> usize {
        self.token(at);
        at + 1
    }

    /// Reads one statement, or the head of one with a block; gives where to go on.
    fn statement(&mut self, start: usize) -> usize {
        let end = self.head_end(start);
        let has_body =
            self.lexemes.get(end).is_some_and(|lexeme| lexeme.kind == OPEN_CURLY && self.partner[end] != NO_PARTNER);
        let kind = self.kind_of(start, end, has_body);
        self.builder.open(kind, Field(0));
        match kind {
            DECLARATION | VARIABLE_DECLARATION => self.declaration(start, end),
            RULE => {
                // The commas of a condition part no selectors.
                let (head, part) =
                    if self.is_guarded(start, end) { (HEAD, None) } else { (SELECTORS, Some(SELECTOR)) };
                self.builder.open(head, Field::NAME);
                self.values(start, end, part, false);
                self.builder.close();
            }
            _ => self.at_rule(start, end, kind),
        }
        if has_body {
            self.builder.open(BODY, Field::BODY);
            self.token(end);
            self.bodies.push(self.partner[end]);
            return end + 1;
        }
        let next = match self.lexemes.get(end).map(|lexeme| lexeme.kind) {
            Some(SEMICOLON | OPEN_CURLY) => self.flat(end),
            _ => end,
        };
        self.builder.close();
        next
    }

    /// The lexeme that ends a statement's head: `;`, `{`, or what closes the body around it.
    fn head_end(&self, start: usize) -> usize {
        let limit = self.bodies.last().map_or(self.lexemes.len(), |end| *end as usize);
        let mut at = start;
        while at < limit {
            match self.lexemes[at].kind {
                SEMICOLON | OPEN_CURLY | CLOSE_CURLY => return at,
                OPEN_ROUND | OPEN_SQUARE | OPEN_INTERPOLATION if self.partner[at] != NO_PARTNER => {
                    at = self.partner[at] as usize + 1;
                }
                _ => at += 1,
            }
        }
        limit
    }

    fn kind_of(&self, start: usize, end: usize, has_body: bool) -> Kind {
        let first = self.lexemes[start];
        let colon = self.lexemes.get(start + 1).is_some_and(|next| next.kind == COLON);
        match first.kind {
            VARIABLE => VARIABLE_DECLARATION,
            AT_WORD if colon && self.dialect.at_variables => VARIABLE_DECLARATION,
            AT_WORD => match first.of(self.text).to_ascii_lowercase().as_str() {
                "@import" | "@use" | "@forward" | "@charset" | "@plugin" => IMPORT,
                "@mixin" | "@function" => MIXIN,
                "@if" | "@else" | "@elseif" => CONDITIONAL,
                "@each" | "@for" | "@while" => LOOP,
                _ if has_body => AT_RULE,
                _ => STATEMENT,
            },
            WORD if colon && first.of(self.text).starts_with("--") => VARIABLE_DECLARATION,
            _ if has_body => RULE,
            _ if self.colon(start, end).is_some_and(|colon| !self.extends(colon)) => DECLARATION,
            _ => STATEMENT,
        }
    }

    /// Whether a rule holds only under a condition: `.level(@a) when (@a > 0)`.
    fn is_guarded(&self, start: usize, end: usize) -> bool {
        let is_when = |at: usize| self.lexemes[at].kind == WORD && self.lexemes[at].of(self.text) == "when";
        self.dialect.at_variables && (start..end).any(is_when)
    }

    /// The first colon outside brackets.
    fn colon(&self, start: usize, end: usize) -> Option<usize> {
        let mut at = start;
        while at < end {
            if self.lexemes[at].kind == COLON {
                return Some(at);
            }
            let partner = self.partner[at];
            at = if partner != NO_PARTNER && partner as usize > at { partner as usize + 1 } else { at + 1 };
        }
        None
    }

    /// Whether what stands behind a colon says, without a blank, that a rule takes over from others: `&:extend(.gauge all);`.
    fn extends(&self, colon: usize) -> bool {
        let next = |by: usize| self.lexemes
            .get(colon + by)
            .filter(|next| next.start == self.lexemes[colon + by - 1].end);
        self.dialect.at_variables
            && next(1).is_some_and(|word| word.of(self.text) == "extend")
            && next(2).is_some_and(|bracket| bracket.kind == OPEN_ROUND)
    }

    /// `name: value`.
    fn declaration(&mut self, start: usize, end: usize) {
        let colon = self.colon(start, end).unwrap_or(start);
        let simple = colon == start + 1;
        if simple {
            self.token(start);
            self.builder.set_field(self.builder.last(), Field::NAME);
        } else {
            self.values(start, colon, None, false);
        }
        if colon < end {
            self.token(colon.max(start));
            self.builder.open(VALUE, Field::VALUE);
            self.values(colon + 1, end, Some(PART), self.computes());
            self.builder.close();
        }
    }

    /// `@word` and what follows it. Mixins are called by their own name, other rules by all of their head.
    fn at_rule(&mut self, start: usize, end: usize, kind: Kind) {
        if kind == MIXIN && start + 1 < end {
            self.token(start);
            self.token(start + 1);
            self.builder.set_field(self.builder.last(), Field::NAME);
            let parameters = self.lexemes.get(start + 2).is_some_and(|next| next.kind == OPEN_ROUND)
                && self.partner[start + 2] != NO_PARTNER;
            let close = self.partner.get(start + 2).copied().unwrap_or(0) as usize;
            if parameters && close < end {
                self.builder.open(ARGUMENTS, Field::PARAMETERS);
                self.values_in(start + 2, close + 1);
                self.builder.close();
                return self.values(close + 1, end, None, false);
            }
            return self.values(start + 2, end, None, false);
        }
        let named = if kind == AT_RULE { Field::NAME } else { Field(0) };
        self.builder.open(HEAD, named);
        self.values(start, end, None, self.computes());
        self.builder.close();
    }

    /// The bracket at `from`, what is inside, and its partner at `end - 1`.
    fn values_in(&mut self, from: usize, end: usize) {
        self.token(from);
        self.values(from + 1, end - 1, None, true);
        self.token(end - 1);
    }

    /// Words, marks and groups; `part` is what each is that commas part, and `computes` says whether marks are operators.
    fn values(&mut self, start: usize, end: usize, part: Option<Kind>, computes: bool) {
        self.expect(start, end, part, computes);
        for at in start..end {
            self.plan.apply(at, self.builder);
            self.token(at);
            let called = self.lexemes
                .get(at + 1)
                .is_some_and(|next| next.kind == OPEN_ROUND && next.start == self.lexemes[at].end);
            if called
                && matches!(self.lexemes[at].kind, WORD | AT_WORD)
                && self.builder.kind_of(self.builder.parent_of(self.builder.last())) == CALL
            {
                self.builder.set_field(self.builder.last(), Field::NAME);
            }
            let partner = self.partner[at] as usize;
            if partner > at && partner < end {
                self.expect(at + 1, partner, None, true);
            }
        }
        self.plan.apply(end, self.builder);
    }

    /// Finds the nodes of what is read next.
    fn expect(&mut self, start: usize, end: usize, part: Option<Kind>, computes: bool) {
        let values = Values { text: self.text, lexemes: self.lexemes, partner: self.partner, computes, part };
        values.shapes(start, end, &mut self.shapes);
        self.plan.add(&mut self.shapes);
    }

    /// Whether the language computes with what is no function's argument.
    fn computes(&self) -> bool {
        self.dialect.line_comments || self.dialect.at_variables
    }
}
