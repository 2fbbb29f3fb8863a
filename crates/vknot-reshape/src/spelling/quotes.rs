//! Quotes around strings.

use super::draft::Draft;

/// Writes strings between such quotes, unless that takes more backslashes.
pub(super) fn write(draft: &mut Draft<'_>, quote: char) {
    let (tree, spec) = (draft.code.tree, draft.spec);
    for (index, token) in tree.tokens().iter().enumerate() {
        if !spec.strings.contains(&tree.kind_name(token.node)) {
            continue;
        }
        // What holds the string, or the word or value that it is, says that it has one form only.
        let mut holders = std::iter::successors(tree.parent(token.node), |holder| tree.parent(*holder)).take(HOLDERS);
        if holders.any(|holder| is_fixed(draft, holder)) {
            continue;
        }
        let text = draft.text(index as u32);
        if let Some(new) =
            requoted(text, quote).filter(|_| !spec.strings_without.iter().any(|mark| text.contains(mark)))
        {
            draft.write(index as u32, new);
        }
    }
}

/// How many holders of a string are asked whether it stays as it is.
const HOLDERS: usize = 3;

fn is_fixed(draft: &Draft<'_>, holder: vknot_syntax::NodeId) -> bool {
    let tree = draft.code.tree;
    let first = draft.text(tree.node(holder).first_token);
    draft.spec.strings_stay_in.iter().any(|kind| *kind == tree.kind_name(holder) || *kind == first)
}

/// A string between other quotes; `None` where it has them, or one of them stands inside.
fn requoted(text: &str, quote: char) -> Option<String> {
    let other = if quote == '"' { '\'' } else { '"' };
    let inner = text.strip_prefix(other)?.strip_suffix(other)?;
    if inner.contains(['\n', quote]) {
        return None;
    }
    // A quote that needed its backslash does not any more.
    let mut new = String::from(quote);
    let mut escaped = false;
    for c in inner.chars() {
        if escaped && c == other {
            new.pop();
        }
        new.push(c);
        escaped = c == '\\' && !escaped;
    }
    new.push(quote);
    Some(new)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_string_gets_other_quotes_if_none_stands_inside() {
        let cases = [
            ("'quay'", '"', Some("\"quay\"")),
            ("'it\\'s high'", '"', Some("\"it's high\"")),
            ("'a \\\\ b\\n'", '"', Some("\"a \\\\ b\\n\"")),
            ("\"a \\\" b\"", '\'', Some("'a \" b'")),
            ("'say \"high\"'", '"', None),
            ("\"it's\"", '\'', None),
            ("\"quay\"", '"', None),
            ("'two\\\nlines'", '"', None),
            ("'", '"', None),
        ];
        for (text, quote, new) in cases {
            assert_eq!(requoted(text, quote).as_deref(), new, "{text}");
        }
    }
}
