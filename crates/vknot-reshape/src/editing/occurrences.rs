//! Every use of the name at a place: by the binding rules of the language where they are known, else by word.

use vknot_syntax::{Role, Span, is_word_character, word_span_at};

use crate::spec::Code;
use super::error::EditError;
use super::scopes;
use super::wish::Edit;
use super::words::{words, words_in};

/// The uses of a name.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Occurrences {
    /// The name.
    pub name: String,
    /// Where it stands, in order.
    pub spans: Vec<Span>,
    /// What tells that these are uses of one thing.
    pub by: By,
}

/// What tells which uses of a name are of one thing.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum By {
    /// The binding rules of the language: it is declared at this place.
    Scope(Span),
    /// The word alone.
    Word,
}

/// Which uses are meant.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Sought {
    /// Only those in this span.
    pub within: Option<Span>,
    /// At most so many.
    pub first: Option<usize>,
    /// Those in comments, too, by word.
    pub comments: bool,
    /// Those in strings, too, by word.
    pub strings: bool,
}

/// The uses of the name at a place.
///
/// # Errors
/// When no name is there.
pub fn occurrences(code: Code<'_>, at: Span, sought: Sought) -> Result<Occurrences, EditError> {
    let tree = code.tree;
    let named = name_at(code, at)?;
    let name = code.source.slice(named).to_owned();
    let bound = scopes::uses(code, named);
    let by = bound.as_ref().map_or(By::Word, |(declared, _)| By::Scope(*declared));
    let mut spans = bound.map_or_else(|| words(code, &name), |(_, spans)| spans);
    let tokens = tree.tokens().iter().filter(|token| {
        let role = tree.role(token.node);
        sought.comments && role == Role::Comment || sought.strings && role == Role::String
    });
    spans.extend(tokens.flat_map(|token| words_in(code, token.span(), &name)));
    spans.sort_unstable_by_key(|span| span.start);
    spans.dedup();
    spans.retain(|span| sought.within.is_none_or(|within| within.covers(*span)));
    spans.truncate(sought.first.unwrap_or(usize::MAX));
    Ok(Occurrences { name, spans, by })
}

/// The name at a place: the token, or the word in a comment or string.
fn name_at(code: Code<'_>, at: Span) -> Result<Span, EditError> {
    let tree = code.tree;
    let at = crate::looks::settle(code, Span::new(at.start, at.start));
    let token = tree.token_at(at.start).and_then(|token| tree.tokens().get(token as usize)).ok_or(EditError::Nothing)?;
    let span = token.span();
    let text = code.source.slice(span);
    match tree.role(token.node) {
        Role::Comment | Role::String => word_span_at(code.source.text(), span, at.start).ok_or(EditError::Nothing),
        _ if text.chars().any(char::is_alphabetic) || text.starts_with('_') => Ok(span),
        _ => Err(EditError::Name(format!("`{text}` is no name; name a place on one"))),
    }
}

/// What is written in each place where another name comes in.
pub fn replacement(code: Code<'_>, found: &Occurrences, new: &str) -> Edit {
    Edit::Replace(match found.by {
        By::Scope(_) => scopes::written(code, &found.spans, new),
        By::Word => found.spans.iter().map(|span| (*span, new.to_owned())).collect(),
    })
}

/// Whether a name can take the place of another one everywhere: what is found would not be taken for something else, and nothing else for it.
///
/// # Errors
/// With the clash.
pub fn renamed(code: Code<'_>, found: &Occurrences, new: &str) -> Result<(), EditError> {
    let word = new.chars().next().is_some_and(|first| !first.is_numeric()) && new.chars().all(is_word_character);
    let kind = |name: &str| name.chars().all(is_word_character);
    if new.is_empty() || !word && kind(&found.name) || new.contains(char::is_whitespace) {
        return Err(EditError::Name(format!("`{new}` is no name in place of `{}`", found.name)));
    }
    if new == found.name {
        return Err(EditError::Name(format!("it is called `{new}` already")));
    }
    let at = |span: Span| {
        let at = code.source.line_column(span.start);
        format!("{}:{}", at.line, at.column)
    };
    match found.by {
        By::Word => match words(code, new).first() {
            Some(clash) => Err(EditError::Name(format!(
                "`{new}` is in this file already, at {}, and what it is bound to is not known here; choose another name",
                at(*clash)
            ))),
            None => Ok(()),
        },
        By::Scope(declared) => match scopes::clash(code, declared, &found.spans, new) {
            Some(clash) if clash == declared => {
                Err(EditError::Name(format!("`{new}` means something else in this language; choose another name")))
            }
            Some(clash) => Err(EditError::Name(format!(
                "`{new}` at {} would be taken for it, or it for that; choose another name",
                at(clash)
            ))),
            None => Ok(()),
        },
    }
}
