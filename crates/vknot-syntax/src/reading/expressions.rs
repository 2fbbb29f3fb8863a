//! Expressions, for all hand-made readers: which operands belong to which operator.
//!
//! A language says what a lexeme is where an operand is wanted and behind one ([`Items`]); operators with their operands, calls, links
//! and unary ones are put together here, by how tightly they bind. What comes out are [`Shape`]s, nodes over runs of lexemes. Brackets stay closed: what
//! is inside them is read as expressions of its own, so that the work is linear and the depth is the reader's.

use crate::language::{Field, Kind};
use crate::tree::TreeBuilder;

/// A node over lexemes.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Shape {
    pub kind: Kind,
    /// Its first lexeme.
    pub start: u32,
    /// One past its last.
    pub end: u32,
}

/// What a lexeme begins in an expression. Ends are one past the last lexeme.
#[derive(Clone, Copy)]
pub(crate) enum Item {
    /// A value, with the kind of its node if it is more than a token.
    Operand { end: usize, node: Option<Kind> },
    /// An operator in front of its operand, or a cast; the node of the operator itself if it is more than a token.
    Prefix { end: usize, kind: Kind, binding: u8, node: Option<Kind> },
    /// An operator between two operands; `to_right` when the last one of several comes first.
    Infix { end: usize, kind: Kind, binding: u8, to_right: bool },
    /// What follows an operand and makes a larger one of it: arguments, a link, an operator.
    Postfix { end: usize, kind: Kind, node: Option<Kind> },
    /// The first mark of an operator with three operands, like `?`.
    Ask { binding: u8 },
    /// Its second mark, like `:`.
    Answer { kind: Kind },
    /// A comment or a line of the preprocessor.
    Note { end: usize },
    /// Nothing that belongs here.
    Unknown,
}

/// What a language knows of the lexemes of an expression.
pub(crate) trait Items {
    /// What the lexeme at `at` begins where an operand is wanted, in what ends at `end`.
    fn leading(&self, at: usize, end: usize) -> Item;
    /// What it begins behind an operand.
    fn following(&self, at: usize, end: usize) -> Item;
}

/// How deep operations and links nest; what goes on beyond joins the last.
const NESTED_AT_MOST: u32 = 100;

/// Reads the lexemes from `start` to `end` as one expression and adds its nodes. Where they are none, values and what follows them are
/// still told. Says whether one operand covers them all.
pub(crate) fn read(items: &impl Items, start: usize, end: usize, shapes: &mut Vec<Shape>) -> bool {
    let mark = shapes.len();
    let mut reading = Reading { items, shapes, operands: Vec::new(), operators: Vec::new(), end };
    if reading.run(start).is_some() {
        return true;
    }
    shapes.truncate(mark);
    read_values(items, start, end, shapes);
    false
}

/// Tells values and what follows them, and no operators: for what is no expression, like the head of a declaration.
pub(crate) fn read_values(items: &impl Items, start: usize, end: usize, shapes: &mut Vec<Shape>) {
    let mut reading = Reading { items, shapes, operands: Vec::new(), operators: Vec::new(), end };
    let mut at = start;
    while at < end {
        at = match items.leading(at, end) {
            Item::Operand { end, node } => {
                let first = reading.operand(at, end, node);
                reading.followed(first).end as usize
            }
            Item::Prefix { end, node, .. } => {
                node.into_iter().for_each(|kind| reading.add(kind, at, end));
                end
            }
            Item::Note { end } => end,
            _ => at + 1,
        };
    }
}

/// An operand that has been read.
#[derive(Clone, Copy)]
struct Operand {
    start: u32,
    end: u32,
    /// How many nodes are inside each other.
    depth: u32,
    /// Its own node.
    shape: Option<usize>,
}

/// An operator that waits for its last operand.
enum Pending {
    Prefix { at: usize, kind: Kind, binding: u8 },
    Infix { kind: Kind, binding: u8 },
    Ask { binding: u8 },
    Answer { kind: Kind, binding: u8 },
}

impl Pending {
    fn binding(&self) -> u8 {
        match self {
            Pending::Prefix { binding, .. }
            | Pending::Infix { binding, .. }
            | Pending::Ask { binding }
            | Pending::Answer { binding, .. } => *binding,
        }
    }
}

struct Reading<'i, I> {
    items: &'i I,
    shapes: &'i mut Vec<Shape>,
    operands: Vec<Operand>,
    operators: Vec<Pending>,
    end: usize,
}

impl<I: Items> Reading<'_, I> {
    fn add(&mut self, kind: Kind, start: usize, end: usize) {
        self.shapes.push(Shape { kind, start: start as u32, end: end as u32 });
    }

    /// The one operand that covers everything; `None` when there is none.
    fn run(&mut self, start: usize) -> Option<()> {
        let mut at = start;
        loop {
            at = self.leading(at)?;
            match self.operator(at)? {
                Some(next) => at = next,
                None => break,
            }
        }
        while !self.operators.is_empty() {
            self.reduce()?;
        }
        (self.operands.len() == 1).then_some(())
    }

    /// Operators in front of an operand, the operand, and what follows it.
    fn leading(&mut self, mut at: usize) -> Option<usize> {
        while at < self.end {
            match self.items.leading(at, self.end) {
                Item::Operand { end, node } => {
                    let first = self.operand(at, end, node);
                    let whole = self.followed(first);
                    self.operands.push(whole);
                    return Some(whole.end as usize);
                }
                Item::Prefix { end, kind, binding, node } => {
                    node.into_iter().for_each(|node| self.add(node, at, end));
                    self.operators.push(Pending::Prefix { at, kind, binding });
                    at = end;
                }
                // `a ?: b`
                Item::Answer { kind } => {
                    let Some(Pending::Ask { binding }) = self.operators.pop() else { return None };
                    self.operators.push(Pending::Infix { kind, binding });
                    at += 1;
                }
                Item::Note { end } => at = end,
                _ => return None,
            }
        }
        None
    }

    /// The operator behind an operand, and where it ends; `Some(None)` at the end.
    fn operator(&mut self, mut at: usize) -> Option<Option<usize>> {
        while at < self.end {
            match self.items.following(at, self.end) {
                Item::Infix { end, kind, binding, to_right } => {
                    self.reduce_down_to(binding, to_right)?;
                    self.operators.push(Pending::Infix { kind, binding });
                    return Some(Some(end));
                }
                Item::Ask { binding } => {
                    self.reduce_down_to(binding, true)?;
                    self.operators.push(Pending::Ask { binding });
                    return Some(Some(at + 1));
                }
                Item::Answer { kind } => {
                    while !matches!(self.operators.last()?, Pending::Ask { .. }) {
                        self.reduce()?;
                    }
                    let binding = self.operators.pop()?.binding();
                    self.operators.push(Pending::Answer { kind, binding });
                    return Some(Some(at + 1));
                }
                Item::Note { end } => at = end,
                _ => return None,
            }
        }
        Some(None)
    }

    fn reduce_down_to(&mut self, binding: u8, to_right: bool) -> Option<()> {
        while let Some(last) = self.operators.last()
            && (last.binding() > binding || last.binding() == binding && !to_right)
            && !matches!(last, Pending::Ask { .. })
        {
            self.reduce()?;
        }
        Some(())
    }

    /// Gives the last operator its operands.
    fn reduce(&mut self) -> Option<()> {
        let last = self.operands.pop()?;
        let whole = match self.operators.pop()? {
            Pending::Prefix { at, kind, .. } => {
                let bare = Operand { start: at as u32, end: at as u32, depth: 0, shape: None };
                self.joined(kind, bare, last)
            }
            Pending::Infix { kind, .. } => {
                let first = self.operands.pop()?;
                self.joined(kind, first, last)
            }
            Pending::Answer { kind, .. } => {
                let middle = self.operands.pop()?;
                let first = self.operands.pop()?;
                let depth = middle.depth.max(last.depth);
                self.joined(kind, first, Operand { depth, ..last })
            }
            Pending::Ask { .. } => return None,
        };
        self.operands.push(whole);
        Some(())
    }

    fn operand(&mut self, start: usize, end: usize, node: Option<Kind>) -> Operand {
        node.into_iter().for_each(|kind| self.add(kind, start, end));
        Operand { start: start as u32, end: end as u32, depth: 0, shape: None }
    }

    /// An operand with all that follows it and belongs to it.
    fn followed(&mut self, first: Operand) -> Operand {
        let mut whole = first;
        let mut at = first.end as usize;
        loop {
            if at >= self.end {
                return whole;
            }
            let (end, kind, node) = match self.items.following(at, self.end) {
                Item::Postfix { end, kind, node } => (end, kind, node),
                Item::Note { end } => {
                    at = end;
                    continue;
                }
                _ => return whole,
            };
            node.into_iter().for_each(|node| self.add(node, at, end));
            let bare = Operand { start: at as u32, end: end as u32, depth: 0, shape: None };
            whole = self.joined(kind, whole, bare);
            at = end;
        }
    }

    /// A node from the first operand to the last, or the deeper of the two stretched to hold both when it is deep enough.
    fn joined(&mut self, kind: Kind, first: Operand, last: Operand) -> Operand {
        let (start, end) = (first.start, last.end);
        let deeper = if first.depth >= last.depth { first } else { last };
        if deeper.depth >= NESTED_AT_MOST && let Some(shape) = deeper.shape.and_then(|at| self.shapes.get_mut(at)) {
            (shape.start, shape.end) = (start, end);
            return Operand { start, end, ..deeper };
        }
        self.shapes.push(Shape { kind, start, end });
        Operand { start, end, depth: deeper.depth + 1, shape: Some(self.shapes.len() - 1) }
    }
}

/// Nodes to open and close on the way through lexemes, the next one last.
#[derive(Default)]
pub(crate) struct Plan {
    events: Vec<(u32, Option<Kind>)>,
    open: Vec<u32>,
    made: Vec<(u32, Option<Kind>)>,
}

impl Plan {
    /// Adds nodes over lexemes that lie inside those of which the next lexeme is a part, and takes them out of `shapes`.
    pub fn add(&mut self, shapes: &mut Vec<Shape>) {
        // What was made later holds what was made before.
        let mut order: Vec<(usize, Shape)> = shapes.drain(..).enumerate().collect();
        order.sort_unstable_by_key(|(made, shape)| (shape.start, u32::MAX - shape.end, usize::MAX - made));
        for (_, shape) in order {
            self.close_up_to(shape.start);
            self.made.push((shape.start, Some(shape.kind)));
            self.open.push(shape.end);
        }
        self.close_up_to(u32::MAX);
        self.events.extend(self.made.drain(..).rev());
    }

    fn close_up_to(&mut self, at: u32) {
        while let Some(end) = self.open.pop_if(|end| *end <= at) {
            self.made.push((end, None));
        }
    }

    /// Opens and closes what begins and ends in front of the lexeme `at`.
    pub fn apply(&mut self, at: usize, builder: &mut TreeBuilder<'_>) {
        while let Some((_, kind)) = self.events.pop_if(|(next, _)| *next as usize <= at) {
            match kind {
                Some(kind) => drop(builder.open(kind, Field(0))),
                None => builder.close(),
            }
        }
    }
}
