//! Blocks of templates in pages (`{% if high %} ... {% endif %}`), whose lines may stand a level further in.

use std::collections::HashMap;

use vknot_syntax::TokenId;

use crate::spec::Code;
use crate::spec::indent::{TemplatePart, TemplateSpec};

/// The marks of a page that begin, part and end blocks. What begins one and ends none is not among them.
#[derive(Default)]
pub(super) struct Templates(HashMap<TokenId, TemplatePart>);

impl Templates {
    /// What a token is to a block.
    pub(super) fn part(&self, token: TokenId) -> Option<TemplatePart> {
        self.0.get(&token).copied()
    }

    /// Those of a text.
    pub(super) fn of(code: Code<'_>, spec: Option<&TemplateSpec>) -> Self {
        let mut templates = Self::default();
        let kind = spec.and_then(|spec| code.tree.language().kind(spec.kind));
        let Some((spec, kind)) = spec.zip(kind) else { return templates };
        let mut open: Vec<(TokenId, &str)> = Vec::new();
        // How many of a name are open: an end without a beginning must not look for one.
        let mut counts: HashMap<&str, usize> = HashMap::new();
        for (index, token) in code.tree.tokens().iter().enumerate() {
            if code.tree.node(token.node).kind != kind {
                continue;
            }
            let token_id = index as TokenId;
            match (spec.said)(code.source.slice(token.span())) {
                Some((TemplatePart::Begin, name)) => {
                    open.push((token_id, name));
                    *counts.entry(name).or_default() += 1;
                }
                Some((TemplatePart::Middle, _)) => drop(templates.0.insert(token_id, TemplatePart::Middle)),
                Some((TemplatePart::End, name)) => {
                    let mut begins = counts.get(name).is_some_and(|count| *count > 0);
                    while begins && let Some((begin, passed)) = open.pop() {
                        counts.entry(passed).and_modify(|count| *count -= 1);
                        if passed == name {
                            templates.0.extend([(begin, TemplatePart::Begin), (token_id, TemplatePart::End)]);
                            begins = false;
                        }
                    }
                }
                None => {}
            }
        }
        templates
    }
}
