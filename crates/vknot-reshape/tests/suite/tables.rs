//! Tables of numbers, whose columns stay lined up, and spaces that part what would be read otherwise.

use proptest::prelude::*;

use crate::support::{formatted, indented};

/// Where a table may stand: the language, what is in front of its rows and behind them, and the indentation of a row.
const PLACES: &[(&str, &str, &str, usize)] = &[
    ("rust", "fn bend() -> Matrix {\n    Matrix::new(\n", "    )\n}\n", 8),
    ("rust", "const BENDS: [f64; 4] = [\n", "];\n", 4),
    ("c", "double bends[] = {\n", "};\n", 4),
    ("javascript", "const bends = [\n", "];\n", 2),
    ("javascript", "function bend() {\n  turn(\n", "  );\n}\n", 4),
    ("java", "class Board {\n    double[] bends = {\n", "    };\n}\n", 8),
];

/// Rows of numbers, each lined up at its end with those above and below.
fn rows(numbers: &[Vec<i32>], indentation: usize) -> String {
    let columns = numbers.iter().map(Vec::len).min().unwrap_or(0);
    let width = |column: usize| numbers.iter().map(|row| row[column].to_string().len()).max().unwrap_or(0);
    let row = |row: &Vec<i32>| {
        let cells = (0..columns).map(|column| format!("{:>1$},", row[column], width(column)));
        format!("{}{}\n", " ".repeat(indentation), cells.collect::<Vec<_>>().join(" "))
    };
    numbers.iter().map(row).collect()
}

fn numbers() -> impl Strategy<Value = Vec<Vec<i32>>> {
    (2..5usize).prop_flat_map(|columns| {
        proptest::collection::vec(proptest::collection::vec(-2000..2000i32, columns), 2..6)
    })
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 40, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn numbers_stay_lined_up(numbers in numbers()) {
        for (language, before, behind, indentation) in PLACES {
            let text = format!("{before}{}{behind}", rows(&numbers, *indentation));
            prop_assert_eq!(indented(language, &text, &[]), text.clone(), "indent, {}", language);
            prop_assert_eq!(formatted(language, &text, &[]), text, "format, {}", language);
        }
    }

    #[test]
    fn numbers_move_as_one(numbers in numbers(), off in 1..7usize) {
        let text = |indentation: usize| format!("function bend() {{\n  turn(\n{}  );\n}}\n", rows(&numbers, indentation));
        let set = ["indent_size=2", "vknot_wrap_indent=1"];
        prop_assert_eq!(indented("javascript", &text(4 + off), &set), text(4));
    }
}

#[test]
fn tables_of_numbers_move_as_one() {
    let text = "function turn() {\n        bend(\n                10,\n                 5,\n        );\n}\n";
    let wanted = "function turn() {\n    bend(\n        10,\n         5,\n    );\n}\n";
    assert_eq!(indented("javascript", text, &["indent_size=4"]), wanted);
}

#[test]
fn rows_move_as_one() {
    let text = "int levels[2][2] = {\n    { 1200, -15 },\n    { 1980,   3 },\n};\n";
    let wanted = "int levels[2][2] = {\n    {1200, -15},\n    {1980,   3},\n};\n";
    assert_eq!(formatted("c", text, &["vknot_space_brace=false"]), wanted);
}

#[test]
fn operators_without_spaces_are_read_as_before() {
    let cases = [
        ("javascript", "x = a * 2 - -b + ++c / /d/.e < !--f;\n", "x = a*2 - -b + ++c / /d/.e < !--f;\n"),
        ("rust", "const X: u32 = a / *b - -c & &d;\n", "const X: u32 = a / *b--c & &d;\n"),
        ("java", "class A {\n    int a = b * 2 - -c + ++d;\n}\n", "class A {\n    int a = b*2 - -c + ++d;\n}\n"),
        ("csharp", "class A\n{\n    int a = b * 2 - -c / *d;\n}\n", "class A\n{\n    int a = b*2 - -c / *d;\n}\n"),
    ];
    let keys = &["vknot_space_operator=false", "vknot_space_comparison=false"];
    for (language, text, wanted) in cases {
        assert_eq!(formatted(language, text, keys), wanted, "{language}");
        assert_eq!(formatted(language, wanted, &[]), text, "{language}, and back");
    }
}

#[test]
fn prefixed_names_stay_lined_up_behind_their_prefixes() {
    let rows =
        ".tide {\n  -webkit-box-align: end;\n      -ms-flex-align: end;\n          align-items: end;\n  color: red;\n}\n";
    for language in ["css", "scss", "less"] {
        assert_eq!(indented(language, rows, &[]), rows, "{language}");
        assert_eq!(formatted(language, rows, &[]), rows, "{language}");
    }
    // They move as one, levels of tabs and what lines them up apart.
    let tabbed =
        ".tide {\n\t-webkit-box-align: end;\n\t    -ms-flex-align: end;\n\t        align-items: end;\n\tcolor: red;\n}\n";
    assert_eq!(formatted("css", rows, &["indent_style=tab", "indent_size=8"]), tabbed);
    let off = rows.replace("\n  ", "\n     ");
    assert_eq!(indented("css", &off, &["indent_size=2"]), rows);
    // Names that stand elsewhere line up with nothing, and variables have no prefixes.
    for (blank, first) in [("         ", "-webkit-align-items"), ("        ", "--tide-align-items")] {
        let text = |blank: &str| format!(".tide {{\n  {first}: end;\n{blank}align-items: end;\n}}\n");
        assert_eq!(formatted("css", &text(blank), &["indent_size=2"]), text("  "));
    }
}
