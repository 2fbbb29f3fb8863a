//! Which brackets among lexemes belong together.

use crate::language::Kind;
use super::lexeme::Lexeme;
use super::margins::Margins;

/// What stands for "no partner".
pub(crate) const NO_PARTNER: u32 = u32::MAX;

/// How a bracket counts.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(crate) enum Side {
    Opens,
    /// Opens what holds a value and no statement: without its partner it ends in front of a block or a semicolon.
    OpensValue,
    Closes,
}

impl Side {
    pub fn opens(self) -> bool {
        self != Self::Closes
    }
}

/// How many open brackets of another shape, or of another indentation, a closing one may skip.
const SKIPPED_AT_MOST: usize = 32;

/// For each lexeme that is a bracket, the index of its partner.
///
/// Brackets are matched in order. Where that leaves some over, indentation decides: a closing bracket that begins its line goes
/// to the bracket whose line begins as far to the right, and a line that stands no further in than that of an open bracket is behind it, so that
/// the one that is really missing stays alone.
pub(crate) fn partners(text: &str, lexemes: &[Lexeme], shape: impl Fn(Kind) -> Option<(u8, Side)>) -> Vec<u32> {
    let ends_value = |lexeme: &Lexeme| text.as_bytes().get(lexeme.start as usize) == Some(&b';');
    let (plain, left) = matched(lexemes, (&shape, &ends_value), None);
    if left == 0 {
        return plain;
    }
    let margins = Margins::new(text, lexemes);
    let (indented, still_left) = matched(lexemes, (&shape, &ends_value), Some(&margins));
    if still_left <= left { indented } else { plain }
}

/// Matches brackets, by indentation too if that is given. Gives how many are left over, too.
fn matched(
    lexemes: &[Lexeme],
    (shape, ends_value): (&impl Fn(Kind) -> Option<(u8, Side)>, &impl Fn(&Lexeme) -> bool),
    margins: Option<&Margins>,
) -> (Vec<u32>, usize) {
    let mut partner = vec![NO_PARTNER; lexemes.len()];
    // Brackets with their shapes, and the columns of the lines they belong to.
    let mut open: Vec<(usize, u8, u32)> = Vec::new();
    let holds_value = |(at, ..): &mut (usize, u8, u32)| {
        matches!(shape(lexemes[*at].kind), Some((_, Side::OpensValue)))
    };
    let mut left = 0;
    for (index, lexeme) in lexemes.iter().enumerate() {
        let side = shape(lexeme.kind);
        if let Some(margins) = margins && !matches!(side, Some((_, Side::Closes))) {
            while open.pop_if(|(at, _, head)| margins.is_behind(index, (*at, *head))).is_some() {
                left += 1;
            }
        }
        let block = |&(_, other, _): &(usize, u8, u32)| matches!(side, Some((own, Side::Opens)) if own == other);
        while open.last().is_some_and(|last| block(last) || ends_value(lexeme)) && open.pop_if(holds_value).is_some() {
            left += 1;
        }
        match side {
            Some((_, Side::Opens)) if margins.is_some_and(|margins| margins.holds_nothing(index)) => left += 1,
            Some((kind, Side::Opens | Side::OpensValue)) => {
                open.push((index, kind, margins.map_or(0, |margins| margins.head(index))));
            }
            Some((kind, Side::Closes)) => {
                let column = margins.and_then(|margins| margins.column(index));
                let fits = |head: u32| column.is_none_or(|column| column == head);
                let mut candidates = open.iter().rev().take(SKIPPED_AT_MOST);
                let exact = candidates.position(|(_, other, head)| *other == kind && fits(*head));
                let round = margins.is_some_and(|margins| matches!(margins.word(index), ")" | "]"));
                let innermost = |column: &u32| is_innermost(&open, (kind, round), *column);
                match exact.or_else(|| column.filter(innermost).map(|_| 0)) {
                    Some(skipped) => {
                        left += skipped;
                        open.truncate(open.len() - skipped);
                        if let Some((at, ..)) = open.pop() {
                            partner[at] = index as u32;
                            partner[index] = at as u32;
                        }
                    }
                    None => left += 1,
                }
            }
            None => {}
        }
    }
    (partner, left + open.len())
}

/// Whether a line that stands at `column` can close none but the innermost bracket: it stands further out than that, and further
/// in than the one around it. What is in round brackets may stand further in with their end.
fn is_innermost(open: &[(usize, u8, u32)], (kind, round): (u8, bool), column: u32) -> bool {
    match open {
        [.., (_, own, head)] if round && column > *head => *own == kind,
        [.., (.., around), (_, own, head)] => *own == kind && *around < column && column < *head,
        [(_, own, head)] => *own == kind && column < *head,
        [] => false,
    }
}
