//! Half-written files: what is open at the end is closed, so that the lines before can be told from a sound tree.

use vknot_syntax::{Source, TokenId, Tree};

use crate::spec::Code;
use crate::partners::{bracket_of, OpenBrackets};

/// A text that leaves nothing open.
pub(super) struct Completed {
    pub source: Source,
    pub tree: Tree,
    /// Where it goes on otherwise than the text it was made from.
    pub end: u32,
}

/// A text without its last line, with what it leaves open closed behind it. `None` when nothing is open.
pub(super) fn completed(code: Code<'_>) -> Option<Completed> {
    let Code { source, tree, .. } = code;
    let text = source.text();
    // The last line may break off anywhere, and in the middle of a comment or string, too.
    let last = tree.tokens().last()?;
    let mut line = source.line_start(last.start);
    let reaching = |line: u32| tree.token_from(line)
        .checked_sub(1)
        .and_then(|before| tree.tokens().get(before as usize));
    // What reaches into that line is left out whole.
    while let Some(token) = reaching(line).filter(|token| token.end > line) {
        line = source.line_start(token.start);
    }
    let mut open: OpenBrackets<()> = OpenBrackets::new();
    let above = tree.token_from(line);
    (0..above).for_each(|token| pass(code, token, &mut open));
    let open_above: Vec<u8> = open.iter().map(|(bracket, ())| bracket).collect();
    (above..tree.tokens().len() as u32).for_each(|token| pass(code, token, &mut open));
    open.iter().next()?;
    let mut done = text.get(..line as usize)?.to_owned();
    for bracket in open_above.into_iter().rev() {
        done.push(match bracket {
            b'(' => ')',
            b'[' => ']',
            _ => '}',
        });
    }
    done.push('\n');
    let source = Source::from_text(source.path(), done);
    let tree = Tree::read(&source, tree.language());
    Some(Completed { source, tree, end: line })
}

fn pass(code: Code<'_>, token: TokenId, open: &mut OpenBrackets<()>) {
    match bracket_of(code, token) {
        Some(bracket) if bracket.opens => open.open(bracket.shape, ()),
        Some(bracket) => drop(open.close(bracket.shape)),
        None => {}
    }
}
