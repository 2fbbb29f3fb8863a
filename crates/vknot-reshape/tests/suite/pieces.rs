//! Code inside other files: imports and edits in the cells of a notebook, the fences of a text, the scripts of a page.

use vknot_reshape::Receipt;
use vknot_reshape::editing::{Edit, To};
use vknot_reshape::steps::{Request, StepError, Wish};
use vknot_syntax::Span;

use crate::support::{done, organized, prove_as, read, reshape, step};

/// A notebook of code cells, each as the value of its `source`.
fn notebook(cells: &[&str]) -> String {
    let cell = |source: &&str| {
        format!("  {{\"cell_type\": \"code\", \"outputs\": [\"low\"], \"source\": {source}, \"metadata\": {{}}}}")
    };
    let cells: Vec<String> = cells.iter().map(cell).collect();
    format!("{{\n \"cells\": [\n{}\n ],\n \"metadata\": {{}},\n \"nbformat\": 4\n}}\n", cells.join(",\n"))
}

/// A notebook, and what it is to become.
fn becomes(cells: &[&str], wanted: &[&str]) {
    assert_eq!(organized("notebook", &notebook(cells)).0, notebook(wanted));
}

#[test]
fn cells_use_what_others_import() {
    becomes(
        &["[\"import sys\\n\", \"import os\\n\", \"import json\\n\", \"print(\\\"a\\\\tb\\\")\"]", "\"os.read(sys)\""],
        &["[\"import os\\n\", \"import sys\\n\", \"print(\\\"a\\\\tb\\\")\"]", "\"os.read(sys)\""],
    );
    // A string is one, an array stays one, and a last line has no line end.
    becomes(&["\"import zero\\nimport os\\nprint(os)\""], &["\"import os\\nprint(os)\""]);
    becomes(&["[\"print(1)\\n\", \"import os\"]"], &["[\"print(1)\"]"]);
    becomes(&["[\"import b\\n\", \"import a\"]", "\"a(b)\""], &["[\"import a\\n\", \"import b\"]", "\"a(b)\""]);
}

#[test]
fn commands_of_a_notebook_use_names_and_stay() {
    for cells in [
        &["\"import os\\nx = 1\"", "\"%timeit os.read()\""][..],
        &["\"import os\\nx = 1\"", "\"%%time\\nos.read()\""],
        &["\"import os\\nx = 1\"", "\"!ls {os}\""],
        // Nothing would be left of the cell.
        &["\"import os\""],
        // What stands between may need what is in front of it.
        &["\"import b\\n%load_ext tide\\nimport a\\na(b)\""],
        // What is broken may use anything.
        &["\"import os\\nx = 1\"", "\"print(os.\""],
    ] {
        becomes(cells, cells);
    }
    let cells = ["\"import b\\n%load_ext tide\\nimport a\\na(b)\""];
    let (_, told) = organized("notebook", &notebook(&cells));
    assert_eq!(told, ["* imports stay as they are: commands of the notebook stand among them"]);
}

#[test]
fn a_script_of_a_page_is_put_in_order_where_it_stands() {
    let page = |script: &str| format!("<html>\n<body>\n  <script type=\"module\">\n{script}  </script>\n</body>\n</html>\n");
    let text = page(
        "    import { surge, level } from './tide.js';\n    import { gauge } from './gauge.js';\n    show(gauge, level);\n",
    );
    let wanted = page(
        "    import { gauge } from './gauge.js';\n    import { level } from './tide.js';\n    show(gauge, level);\n",
    );
    assert_eq!(organized("html", &text).0, wanted);
}

#[test]
fn a_fence_is_an_example_of_which_nothing_goes() {
    let text = "# Use\n\n```python\nimport tide\nimport gauge\n```\n\n> ```js\n> import b from 'b';\n> import a from 'a';\n> ```\n";
    let wanted = "# Use\n\n```python\nimport gauge\nimport tide\n```\n\n> ```js\n> import a from 'a';\n> import b from 'b';\n> ```\n";
    assert_eq!(organized("markdown", text).0, wanted);
}

#[test]
fn what_its_file_keeps_stays() {
    let text = "<!-- vknot: keep file -->\n\n```js\nimport b from 'b';\nimport a from 'a';\n```\n";
    assert_eq!(organized("markdown", text).0, text);
    let text = "```js\n// vknot: keep file\nimport b from 'b';\nimport a from 'a';\n```\n";
    assert_eq!(organized("markdown", text).0, text);
}

#[test]
fn only_pieces_that_are_touched_change() {
    let text =
        "```js\nimport b from 'b';\nimport a from 'a';\n```\n\n```js\nimport d from 'd';\nimport c from 'c';\n```\n";
    let second = text.find("import d").unwrap() as u32;
    let only = [Span::new(second, text.len() as u32)];
    let request = Request { only: Some(&only), ..Request::default() };
    let proven = step("imports").run(&read("markdown", text), &request).unwrap();
    let wanted =
        "```js\nimport b from 'b';\nimport a from 'a';\n```\n\n```js\nimport c from 'c';\nimport d from 'd';\n```\n";
    assert_eq!(proven.text(), wanted);
}

#[test]
fn nothing_beside_the_imports_of_a_cell_may_change() {
    let text = notebook(&["[\"import os\\n\", \"import json\\n\", \"print(os)\"]"]);
    let document = read("notebook", &text);
    let mut wrong = reshape("imports", &document, Wish::Nothing);
    assert!(prove_as("imports", &document, wrong.clone()).is_ok());
    // Without what went on the receipt.
    let mut silent = wrong.clone();
    silent.receipt.pieces = vec![(0, Receipt::default())];
    assert!(prove_as("imports", &document, silent).is_err());
    // With what another cell says on it.
    let mut elsewhere = wrong.clone();
    elsewhere.receipt.pieces[0].0 = 1;
    assert!(prove_as("imports", &document, elsewhere).is_err());
    // The output of the cell with it.
    let output = text.find("low").unwrap() as u32;
    let put = [(Span::new(output, output + 3), "high")];
    wrong.edits = wrong.edits.merged(put.into_iter());
    assert!(prove_as("imports", &document, wrong).is_err());
}

/// An edit at a text in a notebook.
fn edited(cells: &[&str], at: &str, edit: Edit) -> Result<String, StepError> {
    let text = notebook(cells);
    let start = text.find(at).unwrap() as u32;
    let only = [Span::new(start, start)];
    let request = Request { only: Some(&only), wish: Wish::Edit(edit), ..Request::default() };
    step("edit").run(&read("notebook", &text), &request).map(|proven| proven.text().to_owned())
}

#[test]
fn edits_reach_into_cells() {
    let cells = ["[\"low = \\\"ebb\\\"\\n\", \"tide = [1, 2]\\n\", \"print(tide)\"]"];
    let moved = edited(&cells, "low = ", Edit::Move(To::Down(1))).unwrap();
    assert_eq!(moved, notebook(&["[\"tide = [1, 2]\\n\", \"low = \\\"ebb\\\"\\n\", \"print(tide)\"]"]));
    let deleted = edited(&cells, "print", Edit::Delete).unwrap();
    assert_eq!(deleted, notebook(&["[\"low = \\\"ebb\\\"\\n\", \"tide = [1, 2]\"]"]));
    let swapped = edited(&cells, "1, 2", Edit::Swap(To::Down(1))).unwrap();
    assert_eq!(swapped, notebook(&["[\"low = \\\"ebb\\\"\\n\", \"tide = [2, 1]\\n\", \"print(tide)\"]"]));
    // A command of the notebook is no comment of the code below it.
    let commands = ["\"%matplotlib inline\\nlow = 1\\nprint(low)\""];
    let refused = edited(&commands, "low = ", Edit::Delete);
    assert!(!matches!(&refused, Ok(text) if !text.contains("%matplotlib inline")), "{refused:?}");
}

#[test]
fn a_second_run_leaves_pieces_as_they_are() {
    let text = notebook(&["\"import b, a\\nfrom c import e, d\\na(b, d, e)\"", "[\"import json\\n\", \"json(1)\"]"]);
    done("imports", &read("notebook", &text), Wish::Nothing);
}

#[test]
fn a_fence_with_lines_that_are_not_shown_stays() {
    let hidden = "Reads a level:\n\n```rust\n# fn main() {\n#     let gauge = Gauge::new()\n#         .open();\n#\nlet level = gauge.read();\n# }\n```\n";
    assert_eq!(crate::support::indented("markdown", hidden, &[]), hidden);
    let shown = "Reads a level:\n\n```rust\nfn main() {\n  let level = 1;\n      read(level);\n}\n```\n";
    let wanted = "Reads a level:\n\n```rust\nfn main() {\n  let level = 1;\n  read(level);\n}\n```\n";
    assert_eq!(crate::support::indented("markdown", shown, &[]), wanted);
}
