//! How the forms of files are indented, told from the files themselves.

use std::collections::BTreeMap;

use vknot_syntax::{NodeId, Role, Source};

use crate::spec::Code;
use crate::frames::forms::{head_text, usual_rule};
use crate::spec::forms::{FormSpec, HeadRule};
use crate::frames::place::blank_columns;

/// What may be the rule of a head, with how the setting calls it.
const RULES: [(HeadRule, &str); 10] = [
    (HeadRule::Call, "call"),
    (HeadRule::Data, "data"),
    (HeadRule::Clauses, "clauses"),
    (HeadRule::Inner, "inner"),
    (HeadRule::Body(0), "0"),
    (HeadRule::Body(1), "1"),
    (HeadRule::Body(2), "2"),
    (HeadRule::Body(3), "3"),
    (HeadRule::Aligned(2), "aligned-2"),
    (HeadRule::Aligned(3), "aligned-3"),
];

/// On how many more lines than the usual one a rule must hold to be taken for more than chance.
const LEAST: u32 = 2;

/// How many lines of other files one line counts for.
const OWN: u32 = 1000;

/// For each head of a form, on how many lines each rule holds.
#[derive(Default)]
pub struct HeadVotes {
    votes: BTreeMap<String, [u32; RULES.len()]>,
}

impl HeadVotes {
    /// Counts the forms of a file.
    pub fn count(&mut self, code: Code<'_>) {
        let Code { source, tree, .. } = code;
        let Some(spec) = code.toolkit().indent.spec.forms else { return };
        for index in 0..tree.nodes().len() as u32 {
            let id = NodeId(index);
            let node = tree.node(id);
            if !node.is_leaf() && source.line(node.start) != source.line(node.end) {
                self.count_form(code, id, spec);
            }
        }
    }

    fn count_form(&mut self, code: Code<'_>, form: NodeId, spec: &FormSpec) {
        let Code { source, tree, .. } = code;
        let mut parts = tree.parts(form);
        let open = parts.next().map_or("", |open| tree.text_of(source.text(), open));
        let is_head = |head: &NodeId| tree.role(*head) == Role::Name || head_text(code, *head) == "[";
        let Some(head) = parts.next().filter(|head| open.ends_with('(') && is_head(head)) else { return };
        let line_of = |id: NodeId| source.line(tree.node(id).start);
        let bracket = tree.node(form).start + open.len() as u32 - 1;
        let column = column_of(source, bracket);
        let parts: Vec<NodeId> = parts.collect();
        let first = parts.first().filter(|first| line_of(**first) == line_of(form));
        let first = first.map(|first| column_of(source, tree.node(*first).start));
        for (index, element) in parts.into_iter().enumerate() {
            if !source.begins_line(tree.node(element).start) {
                continue;
            }
            let found = column_of(source, tree.node(element).start);
            let entry = self.votes.entry(head_text(code, head).to_owned()).or_default();
            for (votes, (rule, _)) in entry.iter_mut().zip(RULES) {
                let wanted = match rule {
                    HeadRule::Call => first.unwrap_or(column + 1),
                    HeadRule::Data => column + 1,
                    HeadRule::Inner => column + 1 + spec.body,
                    HeadRule::Clauses => first.unwrap_or(column + spec.body),
                    HeadRule::Body(count) if (index as u32) < count => column + spec.argument,
                    HeadRule::Aligned(count) if (index as u32) < count => first.unwrap_or(column + spec.argument),
                    HeadRule::Body(_) | HeadRule::Aligned(_) => column + spec.body,
                };
                *votes += u32::from(wanted == found);
            }
        }
    }

    /// Counts what other files have, too, which decides where these files tell nothing.
    pub fn count_others(&mut self, others: &HeadVotes) {
        for votes in self.votes.values_mut().flatten() {
            *votes = votes.saturating_mul(OWN);
        }
        for (head, others) in &others.votes {
            let entry = self.votes.entry(head.clone()).or_default();
            entry.iter_mut().zip(others).for_each(|(votes, others)| *votes += others);
        }
    }

    /// The heads for which a rule holds on more lines than what the language says of them.
    pub(super) fn rules(
        &self,
        spec: Option<&'static FormSpec>,
    ) -> impl Iterator<Item = (&str, (HeadRule, &'static str))> {
        self.votes.iter().filter_map(move |(head, votes)| {
            let (rule, most) = RULES.iter().zip(votes).rev().max_by_key(|(_, votes)| **votes)?;
            let usual = if head == "[" { HeadRule::Data } else { usual_rule(spec?, head) };
            let usual = RULES.iter().zip(votes).find(|((rule, _), _)| *rule == usual).map_or(0, |(_, votes)| *votes);
            (*most >= usual + LEAST).then_some((head.as_str(), *rule))
        })
    }

    /// The same as a value of `vknot_indent_heads`.
    pub fn setting(&self, code: Code<'_>) -> String {
        self.rules(code.toolkit().indent.spec.forms)
            .map(|(head, (_, word))| format!("{head}={word}"))
            .collect::<Vec<_>>()
            .join(", ")
    }
}

/// Columns of a tab, as editors of these languages have it.
const TAB_WIDTH: u32 = 8;

/// The column of a token, tabs in front of its line counted.
fn column_of(source: &Source, offset: u32) -> u32 {
    let line = source.line_start(offset);
    let before = source.text().get(line as usize..offset as usize).unwrap_or("");
    let tabs = before.bytes().take_while(|byte| matches!(byte, b' ' | b'\t')).count();
    blank_columns(&before[..tabs], TAB_WIDTH) + source.line_column(offset).column - 1 - tabs as u32
}
