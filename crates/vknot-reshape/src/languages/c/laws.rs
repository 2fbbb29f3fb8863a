//! What a C or C++ compiler does not take though the reader does, which holds any text (ISO/IEC 9899 and 14882, their grammars).

use vknot_syntax::{NodeId, Role};

use crate::spec::Code;
use crate::spec::laws::{Law, conditions_balance};

pub(crate) static LAWS: &[Law] = &[
    Law::Parted { kinds: &["arguments", "parameters", "group", "template_arguments"], marks: &[","], last: false },
    Law::Parted { kinds: &["initializer"], marks: &[","], last: true },
    Law::Sound { holder: "unit", is_sound: conditions_close },
    Law::Sound { holder: "unit", is_sound: declares },
    Law::Sound { holder: "body", is_sound: declares },
    Law::Sound { holder: "statement", is_sound: ends },
    Law::Sound { holder: "declaration", is_sound: ends },
    Law::Sound { holder: "statement", is_sound: declares_names },
    Law::Sound { holder: "block", is_sound: no_functions },
    Law::Sound { holder: "function", is_sound: initializes },
    Law::Sound { holder: "assignment", is_sound: to_a_place },
    Law::Sound { holder: "call", is_sound: calls_name },
    Law::Sound { holder: "arguments", is_sound: values },
    Law::Sound { holder: "parameters", is_sound: typed },
    Law::Sound { holder: "subscript", is_sound: counted },
    Law::Sound { holder: "conditional", is_sound: has_body },
    Law::Sound { holder: "loop", is_sound: has_body },
    Law::Sound { holder: "arm", is_sound: does_something },
    Law::Sound { holder: "statement", is_sound: jumps_in_loop },
    Law::Within { kinds: &["arm"], holders: &[&["conditional", "guard", "macro_block"]], callables: false },
    Law::Sound { holder: "assignment", is_sound: designates_in_list },
    Law::Sound { holder: "block", is_sound: begins_with_no_other },
    Law::Sound { holder: "unit", is_sound: hands_nothing_over },
    Law::Sound { holder: "function", is_sound: headed_once },
    Law::Sound { holder: "operation", is_sound: of_values },
    Law::Sound { holder: "declaration", is_sound: with_last_argument },
];

/// Every `#endif` and `#else` has its `#if`.
fn conditions_close(code: Code<'_>, file: NodeId) -> bool {
    let tree = code.tree;
    let words = tree.subtree(file).filter(|id| tree.node(*id).is_leaf()).map(|id| code.text(id));
    conditions_balance(words.filter_map(|text| text.strip_prefix('#').map(str::trim_start)))
}

/// What stands outside of functions begins as a declaration does.
fn declares(code: Code<'_>, holder: NodeId) -> bool {
    let mut parts =
        code.tree.parts(holder).filter(|part| code.tree.node(*part).token_end > code.tree.node(*part).first_token);
    let brackets = code.tree.role(holder) == Role::Body;
    parts.all(|part| {
        let text = code.text(part);
        let lone = brackets && matches!(text, "{" | "}");
        let kind = code.tree.parts(part).next().map_or("", |first| code.tree.kind_name(first));
        let word = text.split(|c: char| !c.is_alphanumeric()).next().unwrap_or("");
        let streams = kind == "operation" && text.contains("<<");
        if code.tree.role(part) == Role::Branch
            || word == "return"
            || kind == "assignment"
            || streams
            || does(code, part)
        {
            return false;
        }
        lone || !text.starts_with(|c: char| c.is_ascii_digit() || "({\"'.&".contains(c))
    })
}

/// Whether something only calls: a function, whose name is not in capitals as those of macros are, or what belongs to a value.
fn does(code: Code<'_>, part: NodeId) -> bool {
    let tree = code.tree;
    let parts: Vec<NodeId> = tree.parts(part).collect();
    let member = || parts
        .iter()
        .take_while(|part| tree.role(**part) != Role::List)
        .any(|part| matches!(code.text(*part), "." | "->"));
    let callee = match parts.as_slice() {
        [call, end] if tree.role(*call) == Role::Call && code.text(*end) == ";" => tree.parts(*call).next(),
        _ => return tree.role(part) == Role::Callable && member(),
    };
    let callee = callee.map_or("", |callee| code.text(callee));
    !callee.contains("assert") && !callee.contains("asm") && callee.contains(|c: char| c.is_lowercase())
}

/// Statements end with a mark, or with a block.
fn ends(code: Code<'_>, statement: NodeId) -> bool {
    code.text(statement).ends_with([';', '}', ':']) || parted(code, statement)
}

/// Behind a comma stands another name, and brackets do not stand around a declaration.
fn declares_names(code: Code<'_>, statement: NodeId) -> bool {
    let tree = code.tree;
    let parts: Vec<NodeId> = tree.parts(statement).collect();
    let is_name = |part: NodeId| tree.role(part) != Role::Literal && code.text(part) != ";";
    let unnamed = parts.windows(2).any(|pair| code.text(pair[0]) == "," && !is_name(pair[1]));
    let group = parts.first().filter(|first| tree.kind_name(**first) == "group" && parts.len() == 2);
    !unnamed && !group.is_some_and(|group| tree.parts(*group).any(|part| tree.kind_name(part) == "parameter"))
}

/// Functions are not made inside of others.
fn no_functions(code: Code<'_>, block: NodeId) -> bool {
    let tree = code.tree;
    tree.parts(block).all(|part| {
        let body = tree.child_named(part, "body").is_some_and(|body| tree.role(body) == Role::Block);
        let mut first = tree.parts(part);
        let typed = first.next().is_some_and(|first| tree.role(first) == Role::Name);
        let called = first.next().is_some_and(|second| tree.role(second) == Role::Call);
        !(tree.kind_name(part) == "function" || tree.kind_name(part) == "statement" && body && typed && called)
    })
}

/// Behind each comma in front of a body something is initialized.
fn initializes(code: Code<'_>, function: NodeId) -> bool {
    let parts: Vec<NodeId> = code.tree.parts(function).collect();
    let bare = |id: NodeId| matches!(code.text(id), "," | ":");
    let of_value = |id: NodeId| code.tree.parts(id).next().is_some_and(|callee| {
        code.tree.kind_name(callee) == "access"
            && code.tree.parts(callee).any(|part| matches!(code.text(part), "." | "->"))
    });
    parts.windows(2).all(|pair| {
        let wrong = bare(pair[1])
            || code.tree.role(pair[1]) == Role::Block
            || code.text(pair[1]).starts_with('(')
            || of_value(pair[1]);
        !(bare(pair[0]) && wrong)
    })
}

/// What is put somewhere is not put into a number.
fn to_a_place(code: Code<'_>, assignment: NodeId) -> bool {
    code.tree.parts(assignment).next().is_none_or(|left| !matches!(code.tree.role(left), Role::Literal | Role::String))
}

/// Whether something is one of several between marks, or in brackets: in the head of a loop, or a lambda's.
fn parted(code: Code<'_>, id: NodeId) -> bool {
    let holder = code.tree.parent(id);
    holder.is_none_or(
        |holder| !matches!(code.tree.role(holder), Role::File | Role::Block | Role::Body | Role::Arm | Role::Branch),
    )
}

/// What is called has a name that is no word of the language.
fn calls_name(code: Code<'_>, call: NodeId) -> bool {
    let callee = code.tree.parts(call).next().map_or("", |callee| code.text(callee));
    let empty = matches!(callee, "decltype" | "sizeof" | "alignof" | "typeof" | "__attribute__");
    let held = code.tree.parts(call).last().map_or(0, |list| code.tree.parts(list).count());
    let word = matches!(
        callee,
        "if" | "for" | "while" | "switch" | "do" | "else" | "case" | "goto" | "break" | "continue"
    );
    let attributes = || code.tree.parts(call).last().is_some_and(|list| {
        let mut held = code.tree.parts(list).filter(|part| !matches!(code.text(*part), "(" | ")"));
        held.next().is_some_and(|held| code.text(held).starts_with('(')) && held.next().is_none()
    });
    !(word || empty && held < 3 || callee == "__attribute__" && !attributes())
}

/// Arguments are values: no designators, no statements, no words of the language alone.
fn values(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    tree.parts(list).all(|part| {
        let kind = tree.kind_name(part);
        let text = code.text(part);
        let word = text.split([' ', ';']).next().unwrap_or("");
        let jump = matches!(word, "return" | "goto" | "break" | "continue" | "case");
        let declares = kind == "parameter" && text.contains(" = ");
        !(jump
            || declares
            || kind == "statement"
            || kind == "assignment" && text.starts_with('.')
            || text.ends_with(';'))
    })
}

/// Parameters begin with a type.
fn typed(code: Code<'_>, list: NodeId) -> bool {
    let tree = code.tree;
    let ends = |part: NodeId| tree.language().bracket(tree.node(part).kind).is_some();
    let mut closed = false;
    tree.parts(list).filter(|part| !ends(*part)).all(|part| {
        let text = code.text(part);
        // Behind what takes any number nothing follows.
        let follows = closed;
        closed |= text == "...";
        !follows && !text.starts_with(['(', '"', '{']) && !text.ends_with(';')
    })
}

/// What is put into an array has a place in it.
fn counted(code: Code<'_>, subscript: NodeId) -> bool {
    let tree = code.tree;
    let empty = tree.parts(subscript).count() <= 2;
    let holder = tree.ancestors(subscript).skip(1).find(|id| tree.role(*id) != Role::Link);
    let declared = holder.is_none_or(|id| {
        let first = tree.parent(id).and_then(|statement| tree.parts(statement).next());
        tree.role(id) == Role::Assignment && first.is_some_and(|first| first != id)
            || matches!(tree.kind_name(id), "parameter" | "declaration" | "variable" | "statement" | "function_declaration")
            && tree.parts(id).next().is_some_and(|first| code.text(first) != "return")
    });
    !empty || declared
}

/// Out of a loop or a branch, and on in a loop, one goes inside of it. What macros head may be one.
fn jumps_in_loop(code: Code<'_>, statement: NodeId) -> bool {
    let tree = code.tree;
    let word = tree.parts(statement).next().map_or("", |first| code.text(first));
    let loops = |id: NodeId| match tree.kind_name(id) {
        "loop" | "macro_block" => true,
        "conditional" => word == "break" && code.text(id).starts_with("switch"),
        _ => false,
    };
    let within = |id: &NodeId| !matches!(tree.role(*id), Role::Callable | Role::Lambda);
    !matches!(word, "break" | "continue") || tree.ancestors(statement).skip(1).take_while(within).any(loops)
}

/// A member is named with a dot in front where it gets its value in a list.
fn designates_in_list(code: Code<'_>, assignment: NodeId) -> bool {
    let holder = code.tree.parent(assignment).map_or("", |holder| code.tree.kind_name(holder));
    !code.text(assignment).starts_with('.') || !matches!(holder, "group" | "arguments" | "statement")
}

/// So it is behind `else`.
fn does_something(code: Code<'_>, arm: NodeId) -> bool {
    let tree = code.tree;
    // Behind the last label, too, up to the latest versions of both languages.
    let behind = tree.nodes().get(tree.node(arm).next as usize).map(|next| next.first_token);
    let closes = behind
        .and_then(|token| tree.tokens().get(token as usize))
        .is_some_and(|token| code.source.slice(token.span()) == "}");
    let empty = closes && tree.parts(arm).all(|part| tree.role(part) == Role::Label);
    !empty && (code.text(arm).split_whitespace().next() != Some("else") || has_body(code, arm))
}

/// Behind a condition something is done.
fn has_body(code: Code<'_>, branch: NodeId) -> bool {
    let mut words = code.tree.parts(branch).map(|part| code.text(part)).skip_while(|word| *word == "else");
    let asks = matches!(words.next(), Some("if" | "for" | "while" | "switch"));
    let head = !asks || words.find(|word| *word != "constexpr").is_none_or(|head| head.starts_with(['(', '{']));
    // A branch at its end answers for itself.
    let last = code.tree.parts(branch).last();
    let ends_in_one = last.is_some_and(|last| matches!(code.tree.kind_name(last), "conditional" | "loop" | "arm"));
    head && (ends_in_one || code.text(branch).ends_with([';', '}', ':']) || code.text(branch).contains('#'))
}

/// What is done otherwise stands behind what is asked.
fn begins_with_no_other(code: Code<'_>, block: NodeId) -> bool {
    let first = code.tree.parts(block).find(|part| !matches!(code.text(*part), "{"));
    first.is_none_or(|first| {
        code.tree.kind_name(first) != "conditional"
            || code.tree.parts(first).next().is_none_or(|word| code.text(word) != "else")
    })
}

/// Only a function hands something over. What else does nothing outside of one is often a macro's.
fn hands_nothing_over(code: Code<'_>, unit: NodeId) -> bool {
    let tree = code.tree;
    tree.parts(unit).all(|part| match tree.kind_name(part) {
        "statement" => tree.parts(part).next().is_none_or(|word| code.text(word) != "return"),
        "conditional" | "loop" => false,
        _ => true,
    })
}

/// The head of a function stands in front of it once.
fn headed_once(code: Code<'_>, function: NodeId) -> bool {
    let tree = code.tree;
    let Some(name) = tree.child_named(function, "name") else { return true };
    let front = tree.parts(function).take_while(|part| tree.node(*part).start < tree.node(name).start);
    let mut calls = front.filter(|part| tree.role(*part) == Role::Call);
    calls.all(|call| tree.parts(call).next().is_none_or(|callee| code.text(callee) != code.text(name)))
}

/// The words for the types that every program has.
const TYPES: &[&str] = &["bool", "char", "double", "float", "int", "long", "short", "signed", "unsigned", "void"];

/// What is reckoned with is a value.
fn of_values(code: Code<'_>, operation: NodeId) -> bool {
    let parts: Vec<&str> = code.tree.parts(operation).map(|part| code.text(part)).collect();
    !matches!(parts.as_slice(), [_, "+" | "-" | "*" | "/" | "%", right] if TYPES.contains(right))
}

/// Behind a comma in the brackets of a type stands another argument.
fn with_last_argument(code: Code<'_>, declaration: NodeId) -> bool {
    let tree = code.tree;
    let written = tree.parts(declaration).filter(|part| tree.role(*part) != Role::Comment);
    let parts: Vec<&str> = written.map(|part| code.text(part)).collect();
    !parts.windows(2).any(|pair| pair == [",", ">"])
}
