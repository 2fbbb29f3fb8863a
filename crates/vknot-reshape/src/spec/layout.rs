//! The vocabulary of layout rules, and a language's table of them made ready for use.

use std::collections::HashMap;

use vknot_style::Key;
use vknot_syntax::{Kind, Language};

use super::spelling::{SPELLING_OF_MOST, SpellingSpec};

/// How the parts of one kind of node are laid out.
#[derive(Clone, Copy, Debug)]
pub(crate) enum Rule {
    /// Everything inside stays as the author wrote it.
    Keep,
    /// Parts one after another, spaced by the table.
    Words(Words),
    /// Items on lines of their own, without brackets.
    Items(Items),
    /// Items on lines of their own between braces.
    Braces(Braces),
    /// Items between brackets: on one line, or each on its own.
    List(List),
    /// Items with commas and no brackets, filled.
    Commas,
    /// Commas are spaced; everything else inside stays as the author wrote it.
    CommasOnly,
    /// A labelled group: labels, then indented items.
    Arm(Arm),
    /// Parts whose lines are their author's; commas may break lines that are too long. A setting may say that what is behind each
    /// comma begins a line.
    Lines(Option<Key>),
    /// Operands and operators of one precedence, broken at the operators.
    Operators(Operators),
    /// A target, one of these operators, a value that may go to the next line.
    Assign(&'static [&'static str]),
    /// Links of a chain of calls.
    Chain,
    /// A keyword and indented items below it, with commas.
    Clause,
    /// An element: tags and what is between them.
    Markup,
    /// A tag with its attributes.
    Tag,
}

/// See [`Rule::Arm`].
#[derive(Clone, Copy, Debug)]
pub(crate) struct Arm {
    /// A single simple item may stay on the line of the label, as its author had it.
    pub single: bool,
}

pub(crate) const ARM: Rule = Rule::Arm(Arm { single: true });

/// See [`Rule::Operators`].
#[derive(Clone, Copy, Debug)]
pub(crate) struct Operators {
    /// Lines always begin with the operators, and one may stand in front of the first operand.
    pub leads: bool,
}

pub(crate) const OPERATORS: Rule = Rule::Operators(Operators { leads: false });

/// When annotations in front of a declaration get lines of their own.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Annotations {
    Inline,
    Author,
    /// As a setting says, which keeps them where their author has them or gives them lines of their own.
    BySetting,
}

/// Which setting places an opening brace.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum BraceOf {
    Control,
    Type,
    Declaration,
    /// That of a property, an event, and what reads or sets it.
    Accessor,
    /// That of a callable without a name.
    Lambda,
    Neither,
}

/// See [`Rule::Words`].
#[derive(Clone, Copy, Debug)]
pub(crate) struct Words {
    /// Parts (kinds or tokens) that begin lines when the whole does not fit.
    pub wrap: &'static [&'static str],
    /// The setting that says whether a line breaks before such a token or after it.
    pub wrap_by: Option<Key>,
    /// Whether the author's line break at one of them has all of them begin lines.
    pub wrap_kept: bool,
    /// Parts that begin a line when they do not fit on the one before.
    pub clauses: &'static [&'static str],
    /// A part that begins a line when not even the beginning of the header fits with it: kind before, field.
    pub late: Option<(&'static str, &'static str)>,
    /// A part that goes to the next line if it fits there as a whole, or can only there begin: kind before, field.
    pub value: Option<(&'static str, &'static str)>,
    /// A mark in a header that begins a line if what it leads does not fit, and behind it each item after a comma if
    /// they do not fit there.
    pub led: Option<&'static str>,
    /// Parts that always begin a line.
    pub own_line: &'static [&'static str],
    /// Parts that begin a line where the author had it so.
    pub author: &'static [&'static str],
    /// Fields that line up with those of neighbouring lines, the foremost first.
    pub cells: &'static [&'static str],
    /// Which items these are.
    pub cells_of: CellsOf,
    /// Whether the column of a part that is missing stays open in front of those behind it, comments too.
    pub open_columns: bool,
    /// Fields that hold one statement, braced or not.
    pub bodies: &'static [&'static str],
    /// Kinds that are one statement under a header, whatever field they are in.
    pub body_kinds: &'static [&'static str],
    /// Whether line breaks between parts are their author's.
    pub lines: bool,
    /// Whether the last part is one statement, braced or not.
    pub ends_in_body: bool,
    /// Parts that follow a closing brace on its line, or begin a line with `next`.
    pub joined: &'static [&'static str],
    pub annotations: Annotations,
    pub brace: BraceOf,
}

/// Which items have parts that line up with those of their neighbours.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum CellsOf {
    /// Those of one line that nothing else is on.
    Line,
    /// Those of one line that begin it; below a line that holds more, columns begin anew.
    First,
    /// Those that begin and end lines.
    Long,
}

pub(crate) const WORDS: Words = Words {
    wrap: &[],
    wrap_by: None,
    wrap_kept: false,
    clauses: &[],
    late: None,
    value: None,
    led: None,
    own_line: &[],
    author: &[],
    cells: &[],
    cells_of: CellsOf::Line,
    open_columns: false,
    bodies: &[],
    body_kinds: &[],
    lines: false,
    ends_in_body: false,
    joined: &[],
    annotations: Annotations::Inline,
    brace: BraceOf::Neither,
};

impl Words {
    /// Whether the table of spaces says all there is to say.
    pub fn is_plain(&self) -> bool {
        let lists = [self.own_line, self.author, self.bodies, self.joined];
        lists.iter().all(|list| list.is_empty()) && !self.ends_in_body && !self.lines && self.brace == BraceOf::Neither
    }
}

/// See [`Rule::Items`].
#[derive(Clone, Copy, Debug)]
pub(crate) struct Items {
    /// Kinds that have blank lines around them, as many as a setting says, when they end in a brace.
    pub apart: &'static [&'static str],
    /// Whether a blank line parts imports and package lines from the rest.
    pub imports_apart: bool,
}

/// See [`Rule::Braces`].
#[derive(Clone, Copy, Debug)]
pub(crate) struct Braces {
    /// As in [`Items`].
    pub apart: &'static [&'static str],
    /// Whether a blank line behind the opening brace is kept.
    pub leading_blank: bool,
    /// Parents in which a single expression may stay on the line, as the author had it.
    pub inline_in: &'static [&'static str],
    /// Whether simple items may share lines as the author had them.
    pub rows: bool,
    /// A comma may stand behind the last item, unless it ends in a brace.
    pub comma: bool,
    /// A single simple item may stay on the line of the braces, as its author had it.
    pub single: bool,
    /// So may several.
    pub several: bool,
}

pub(crate) const BRACES: Braces = Braces {
    apart: &[],
    leading_blank: false,
    inline_in: &[],
    rows: false,
    comma: false,
    single: false,
    several: false,
};

/// What stands inside the brackets of a list on one line.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Pad {
    Nothing,
    /// What that setting says.
    By(Key),
}

/// What a broken list does with its items.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Fill {
    /// Each item on its own line.
    Never,
    /// As many on a line as the author had, or as fit, when all are simple.
    Simple,
    /// As the author had them, where the list is kept broken.
    Author,
    /// As many on a line as fit if none has brackets of its own; else of those that are plain names.
    Flat,
}

/// See [`Rule::List`].
#[derive(Clone, Copy, Debug)]
pub(crate) struct List {
    /// What is inside the brackets on one line.
    pub padded: Pad,
    /// The closing bracket gets a line of its own.
    pub close_apart: bool,
    /// The author's line break behind the opening bracket is a wish to have it broken.
    pub keep: bool,
    pub fill: Fill,
    /// A last item that opens a bracket of its own may stay on the line.
    pub hug: bool,
    /// Broken when the rest of the header does not fit behind it.
    pub with_header: bool,
    /// When broken, all items go on the next line together if they fit there.
    pub together: bool,
    /// A last item stays on the line only if the items would not fit on a line of their own.
    pub reluctant: bool,
    /// A single item may stay on the line with its own brackets broken.
    pub hug_single: bool,
    /// Any item may, where the author broke no line between the items.
    pub hug_any: bool,
    /// A single item that its author had on the line stays there, however long that is.
    pub stay_single: bool,
    /// Broken only where the author had it so.
    pub only_kept: bool,
    /// Items may be parted by a line break alone.
    pub lines: bool,
    /// A comma may stand behind the last item.
    pub comma: bool,
}

pub(crate) const LIST: List = List {
    padded: Pad::Nothing,
    close_apart: false,
    keep: false,
    fill: Fill::Never,
    hug: true,
    with_header: false,
    together: false,
    reluctant: false,
    hug_single: false,
    hug_any: false,
    stay_single: false,
    only_kept: false,
    lines: false,
    comma: false,
};

/// Where the opening bracket is that a last argument leaves on the line.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Hug {
    /// The node begins with it.
    Opens,
    /// It is in the node's last part.
    Last,
    /// It is in the node's first part, and little comes behind it.
    First,
    /// It is in the node's last part, else in its first.
    Either,
    /// The node is a list: it is in its last item, if no other item has one.
    Item,
}

/// What a kind is in a chain.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Link {
    /// Has the dot and is a call itself.
    Call,
    /// Has the dot; a call if the next part hands over arguments.
    Access,
    /// Type arguments between a name and its arguments.
    Types,
    /// Hands over arguments to what is before it.
    Arguments,
    /// Something else behind: an index, a question mark.
    Suffix,
}

/// Whether a space stands at one side of a part.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(crate) enum Side {
    /// As the neighbour wants; a space if it does not mind.
    #[default]
    Open,
    /// No space.
    Tight,
    /// As the author had it.
    Author,
    /// The same, unless the neighbour has a wish.
    Written,
    /// A space if that setting says so.
    By(Key),
    /// The same; as the author had it where nothing is set.
    Set(Key),
}

/// What stands between two neighbouring parts on a line.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Spacing {
    Nothing,
    Space,
    Author,
    By(Key),
    Set(Key),
}

/// The setting that says what stands round an operator between two operands.
pub(crate) fn key_of_operator(operator: &str) -> Key {
    match operator {
        "&&" | "||" | "??" => Key::SpaceLogical,
        "==" | "!=" | "===" | "!==" | "<" | ">" | "<=" | ">=" | "<=>" => Key::SpaceComparison,
        _ => Key::SpaceOperator,
    }
}

/// One row of a spacing table: within parent (empty: any), the part, its two sides.
pub(crate) type SpaceRow = (&'static str, &'static str, Side, Side);

/// What a language's folder says about layout.
pub(crate) struct LayoutSpec {
    pub rules: &'static [(&'static str, Rule)],
    /// Rules for a kind within one kind of parent: parent, kind, rule.
    pub within: &'static [(&'static str, &'static str, Rule)],
    pub spacing: &'static [SpaceRow],
    pub hugs: &'static [(&'static str, Hug)],
    /// What a link may begin with.
    pub dots: &'static [&'static str],
    /// Kind, the field of the part before it, what it is.
    pub chain: &'static [(&'static str, &'static str, Link)],
    /// Operators of one precedence, class by class.
    pub precedence: &'static [&'static [&'static str]],
    /// Operators whose runs are filled and break in front of them where nothing says otherwise.
    pub streams: &'static [&'static str],
    /// Whether the braces of types open as those of callables do, where nothing says otherwise.
    pub types_as_callables: bool,
    /// Whether there are classes without names, whose braces need not open as those of lambdas do.
    pub classes_without_names: bool,
    /// Whether a block with a single statement stays on its line in a well-kept file, if nothing says otherwise.
    pub blocks_are_meant: bool,
    /// Whether settings say what stands round the operators of these classes, and round those that assign.
    pub space_operators: bool,
    /// Whether a chain's first call stays with a plain name before it, whatever its width.
    pub names_hold_first_call: bool,
    /// Whether a chain may go on behind a bracket of several lines that opens in its midst.
    pub chains_hold_blocks: bool,
    /// Whether a chain breaks behind its dots, since a line end in front of one would end the statement.
    pub dots_end_lines: bool,
    /// Whether comments behind the lines of a list or an expression line up only while there is one item on each, and none is of quite
    /// another size.
    pub columns_of_items: bool,
    /// Kinds that hold what is behind `else`, as a branch does.
    pub else_kinds: &'static [&'static str],
    /// Kinds that pass for a value where they are alone in a block.
    pub values: &'static [&'static str],
    /// Kinds of item that no comma may follow.
    pub no_comma: &'static [&'static str],
    /// How wide lines may be where nothing says and the file does not show it.
    pub width: u32,
    /// The kind that stands for all marks, if a reader does not tell them apart: then they are known by their text.
    pub marks: &'static str,
    /// What items begin with that may stay on the line of a closing brace.
    pub follows: &'static [&'static str],
    /// Marks known by their text of which it cannot be told for sure what they are: what the table says of operators of all kinds goes for them.
    pub unsure: &'static [&'static str],
    /// Pairs of tokens between which white space stays as written: it is all that stands there.
    pub nothing_between: &'static [(&'static str, &'static str)],
    /// Whether spaces that no row of the table speaks of stay as written.
    pub as_written: bool,
    /// Settings of two ways that are usually the second of them, where neither a setting nor the file says.
    pub habits: &'static [Key],
    /// What may be written otherwise.
    pub spelling: SpellingSpec,
}

/// What most languages need not say; for the end of a language's own table.
pub(crate) const LAYOUT_OF_MOST: LayoutSpec = LayoutSpec {
    rules: &[],
    within: &[],
    spacing: &[],
    hugs: &[],
    dots: &["."],
    chain: &[],
    precedence: &[],
    streams: &[],
    types_as_callables: true,
    classes_without_names: false,
    blocks_are_meant: false,
    space_operators: false,
    names_hold_first_call: false,
    chains_hold_blocks: false,
    dots_end_lines: false,
    columns_of_items: false,
    else_kinds: &[],
    values: &[],
    no_comma: &[],
    width: 100,
    marks: "",
    follows: &[],
    unsure: &[],
    nothing_between: &[],
    as_written: false,
    habits: &[],
    spelling: SPELLING_OF_MOST,
};

/// A language's tables by number of kind.
pub(crate) struct LayoutTable {
    pub spec: &'static LayoutSpec,
    rules: Vec<Rule>,
    /// By the number of the kind: rules within certain parents.
    within: Vec<Vec<(Kind, Rule)>>,
    /// The kind of marks that are known by their text, with what is said of them within a kind, or within any.
    marks: Option<Kind>,
    by_text: HashMap<(Option<Kind>, &'static str), (Side, Side)>,
    general: Vec<(Side, Side)>,
    special: Vec<Vec<(Kind, Side, Side)>>,
    pub hugs: Vec<Option<Hug>>,
    pub chain: Vec<Option<(vknot_syntax::Field, Link)>>,
    precedence: HashMap<Kind, u8>,
    precedence_of: HashMap<&'static str, u8>,
}

impl LayoutTable {
    pub fn new(spec: &'static LayoutSpec, language: &'static Language) -> Self {
        let count = language.kind_count();
        // A part may be a kind with a name or a fixed token.
        let both = |name: &str| [language.kind(name), language.token_kind(name)].into_iter().flatten();
        let mut table = Self {
            spec,
            rules: vec![Rule::Keep; count],
            within: vec![Vec::new(); count],
            marks: language.token_kind(spec.marks).or(language.kind(spec.marks)).filter(|_| !spec.marks.is_empty()),
            by_text: HashMap::new(),
            precedence_of: HashMap::new(),
            general: vec![if spec.as_written { (Side::Written, Side::Written) } else { Default::default() }; count],
            special: vec![Vec::new(); count],
            hugs: vec![None; count],
            chain: vec![None; count],
            precedence: HashMap::new(),
        };
        for (name, rule) in spec.rules {
            language.kind(name).into_iter().for_each(|kind| table.rules[kind.0 as usize] = *rule);
        }
        for (parent, name, rule) in spec.within {
            if let (Some(parent), Some(kind)) = (language.kind(parent), language.kind(name)) {
                table.within[kind.0 as usize].push((parent, *rule));
            }
        }
        for (parent, name, before, after) in spec.spacing {
            if both(name).next().is_none() && table.marks.is_some() {
                let within = language.kind(parent);
                let known = within.is_some() || parent.is_empty();
                if known && !spec.unsure.contains(name) {
                    table.by_text.insert((within, name), (*before, *after));
                }
                continue;
            }
            for kind in both(name) {
                match language.kind(parent) {
                    Some(parent) => table.special[parent.0 as usize].push((kind, *before, *after)),
                    // Kin share a table, and not each has every kind in it.
                    None if !parent.is_empty() => {}
                    None => table.general[kind.0 as usize] = (*before, *after),
                }
            }
        }
        for (name, rule) in spec.rules.iter().filter(|_| spec.space_operators) {
            let Rule::Assign(operators) = rule else { continue };
            let by = Side::By(Key::SpaceAssignment);
            for operator in operators.iter().filter(|operator| operator.ends_with('=')) {
                let (Some(id), Some(kind)) = (language.kind(name), language.token_kind(operator)) else { continue };
                table.special[id.0 as usize].push((kind, by, by));
            }
        }
        for (name, hug) in spec.hugs {
            language.kind(name).into_iter().for_each(|kind| table.hugs[kind.0 as usize] = Some(*hug));
        }
        for (name, field, link) in spec.chain {
            let entry = Some((language.field(field), *link));
            language.kind(name).into_iter().for_each(|kind| table.chain[kind.0 as usize] = entry);
        }
        let operations = spec.rules.iter().filter(|(_, rule)| matches!(rule, Rule::Operators(_)));
        let operations: Vec<Kind> = operations.filter_map(|(name, _)| language.kind(name)).collect();
        for (class, operators) in spec.precedence.iter().enumerate() {
            for operator in *operators {
                let mark = spec.space_operators && !operator.starts_with(|c: char| c.is_alphabetic());
                let by = Side::By(key_of_operator(operator));
                if let Some(kind) = language.token_kind(operator).filter(|_| mark) {
                    operations.iter().for_each(|id| table.special[id.0 as usize].push((kind, by, by)));
                }
                table.precedence_of.insert(operator, class as u8);
                table.precedence.extend(both(operator).map(|kind| (kind, class as u8)));
            }
        }
        table
    }

    /// The rule for a kind within a parent.
    pub fn rule(&self, parent: Kind, kind: Kind) -> &Rule {
        let within = self.within.get(kind.0 as usize).and_then(|rows| rows.iter().find(|row| row.0 == parent));
        within.map(|row| &row.1).or_else(|| self.rules.get(kind.0 as usize)).unwrap_or(&Rule::Keep)
    }

    /// Whether a part is a mark that is known by its text.
    pub fn is_mark(&self, kind: Kind) -> bool {
        self.marks == Some(kind)
    }

    /// What stands between two neighbouring parts of `parent`, each with its text if it is a mark.
    pub fn spacing(&self, parent: Kind, left: (Kind, &str), right: (Kind, &str)) -> Spacing {
        match (self.sides(parent, left).1, self.sides(parent, right).0) {
            (Side::Author, _) | (_, Side::Author) => Spacing::Author,
            (Side::Tight, _) | (_, Side::Tight) => Spacing::Nothing,
            (Side::By(key), _) | (_, Side::By(key)) => Spacing::By(key),
            (Side::Set(key), _) | (_, Side::Set(key)) => Spacing::Set(key),
            (Side::Written, Side::Written) => Spacing::Author,
            _ => Spacing::Space,
        }
    }

    fn sides(&self, parent: Kind, (kind, text): (Kind, &str)) -> (Side, Side) {
        if self.is_mark(kind) {
            let row = |within| self.by_text.get(&(within, text));
            if let Some(sides) = row(Some(parent)).or_else(|| row(None)) {
                return *sides;
            }
        }
        let special = self.special.get(parent.0 as usize).and_then(|rows| rows.iter().find(|row| row.0 == kind));
        match special {
            Some((_, before, after)) => (*before, *after),
            None => self.general.get(kind.0 as usize).copied().unwrap_or_default(),
        }
    }

    /// The precedence class of an operator; unknown ones have none.
    pub fn precedence(&self, operator: Kind, text: &str) -> Option<u8> {
        match self.is_mark(operator) {
            true => self.precedence_of.get(text).copied(),
            false => self.precedence.get(&operator).copied(),
        }
    }
}
