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
    Closes,
}

/// How many open brackets of another shape, or of another indentation, a closing one may skip.
const SKIPPED_AT_MOST: usize = 32;

/// For each lexeme that is a bracket, the index of its partner.
///
/// Brackets are matched in order. Where that leaves some over, indentation decides: a closing bracket that begins its line goes
/// to the bracket whose line begins as far to the right, and a line that stands no further in than that of an open bracket is behind it, so that
/// the one that is really missing stays alone.
pub(crate) fn partners(text: &str, lexemes: &[Lexeme], shape: impl Fn(Kind) -> Option<(u8, Side)>) -> Vec<u32> {
    let (plain, left) = matched(lexemes, &shape, None);
    if left == 0 {
        return plain;
    }
    let margins = Margins::new(text, lexemes);
    let (indented, still_left) = matched(lexemes, &shape, Some(&margins));
    if still_left <= left { indented } else { plain }
}

/// Matches brackets, by indentation too if that is given. Gives how many are left over, too.
fn matched(
    lexemes: &[Lexeme],
    shape: &impl Fn(Kind) -> Option<(u8, Side)>,
    margins: Option<&Margins>,
) -> (Vec<u32>, usize) {
    let mut partner = vec![NO_PARTNER; lexemes.len()];
    // Brackets with their shapes, and the columns of the lines they belong to.
    let mut open: Vec<(usize, u8, u32)> = Vec::new();
    let mut left = 0;
    for (index, lexeme) in lexemes.iter().enumerate() {
        let side = shape(lexeme.kind);
        if let Some(margins) = margins && !matches!(side, Some((_, Side::Closes))) {
            while open.pop_if(|(at, _, head)| margins.is_behind(index, (*at, *head))).is_some() {
                left += 1;
            }
        }
        match side {
            Some((kind, Side::Opens)) => {
                open.push((index, kind, margins.map_or(0, |margins| margins.head(index))));
            }
            Some((kind, Side::Closes)) => {
                let column = margins.and_then(|margins| margins.column(index));
                let fits = |head: u32| column.is_none_or(|column| column == head);
                let mut candidates = open.iter().rev().take(SKIPPED_AT_MOST);
                match candidates.position(|(_, other, head)| *other == kind && fits(*head)) {
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
