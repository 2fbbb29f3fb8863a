//! For each setting a piece of code that shows what it does.

use crate::schema::Key;

/// A piece of code that a setting changes.
#[derive(Clone, Copy, Debug)]
pub struct Sample {
    /// Which setting it shows.
    pub key: Key,
    /// The name of the language it is in.
    pub language: &'static str,
    /// Other settings without which it would show nothing, as `KEY=VALUE`.
    pub along: &'static [&'static str],
    /// The code.
    pub text: &'static str,
}

/// One sample of each setting, sorted by key.
pub static SAMPLES: &[Sample] = &[
    of(Key::Charset, "java", &[], "class Gauge {\n}\n"),
    of(Key::EndOfLine, "java", &[], "class Gauge {\n}\n"),
    of(
        Key::IndentSize,
        "java",
        &["indent_style=space"],
        "class Gauge {\n    int level() {\n        return read();\n    }\n}\n",
    ),
    of(Key::IndentStyle, "java", &[], "class Gauge {\n    int level() {\n        return read();\n    }\n}\n"),
    of(Key::InsertFinalNewline, "java", &[], "class Gauge {\n}"),
    of(
        Key::MaxLineLength,
        "java",
        &[],
        "class Gauge {\n    void warn() {\n        notices.send(harbour.name(), surge.level(), surge.expected(), language);\n    }\n}\n",
    ),
    of(
        Key::TabWidth,
        "java",
        &["indent_style=tab", "max_line_length=60"],
        "class Gauge {\n\tvoid warn() {\n\t\tif (high()) {\n\t\t\tnotices.send(harbour, surge, expected);\n\t\t}\n\t}\n}\n",
    ),
    of(Key::TrimTrailingWhitespace, "java", &[], "/* Reads the tide.   \n   Twice an hour. */\nclass Gauge {   \n}\n"),
    of(
        Key::AlignColumn,
        "go",
        &[],
        "type Gauge struct {\n\tName  string\n\tLevel float64\n}\n\ntype Tide struct {\n\tTime time.Time\n\tHeight float64\n}\n",
    ),
    of(
        Key::AlignComment,
        "java",
        &[],
        "class Gauge {\n    int level;  // metres\n    short tide; // of the day\n\n    int zero; // metres\n    long time; // seconds\n}\n",
    ),
    of(
        Key::AlignList,
        "rust",
        &["max_line_length=48"],
        "fn surge() {\n    warn(harbours_downstream, expected_level, time_of_arrival);\n    let levels = [first_level, second_level, third_level, last];\n}\n",
    ),
    of(
        Key::AlignOperand,
        "rust",
        &["max_line_length=44"],
        "fn surge() {\n    let worst = wind_setup_of_gauge\n        + pressure_of_gauge;\n}\n",
    ),
    of(
        Key::AlignTabs,
        "javascript",
        &["indent_style=tab", "tab_width=4", "vknot_align_list=all", "max_line_length=40"],
        "function surge() {\n\twarn(harbours_downstream, expected_level, time);\n}\n",
    ),
    of(Key::BlankEdge, "java", &[], "class Gauge {\n    int level() {\n\n        return read();\n\n    }\n}\n"),
    of(
        Key::BlankItem,
        "javascript",
        &[],
        "function level() {\n    return read();\n}\nfunction tide() {\n    return 0;\n}\n",
    ),
    of(
        Key::BlankKind,
        "java",
        &[],
        "interface Gauge {\n    double ZERO = 0;\n    double level();\n    double surge();\n}\n",
    ),
    of(Key::BlankMember, "java", &[], "class Gauge {\n    int zero;\n    int level;\n\n    int surge;\n}\n"),
    of(
        Key::BlankMost,
        "java",
        &[],
        "class Gauge {\n    int level;\n\n\n    int tide;\n\n\n    int surge;\n\n\n\n\n\n\n\n\n\n\n    int zero;\n}\n",
    ),
    of(
        Key::BraceAccessor,
        "csharp",
        &[],
        "class Gauge\n{\n    int Level {\n        get {\n            return Read();\n        }\n    }\n}\n",
    ),
    of(
        Key::BraceControl,
        "java",
        &[],
        "class Gauge {\n    void warn() {\n        if (high()) {\n            send();\n        }\n    }\n}\n",
    ),
    of(Key::BraceDeclaration, "java", &[], "class Gauge {\n    int level() {\n        return read();\n    }\n}\n"),
    of(Key::BraceEmpty, "java", &[], "class Gauge {\n    Gauge() {}\n\n    void idle() {\n    }\n}\n"),
    of(
        Key::BraceFollow,
        "java",
        &[],
        "class Gauge {\n    void warn() {\n        if (high()) {\n            send();\n        } else {\n            wait();\n        }\n    }\n}\n",
    ),
    of(
        Key::BraceLambda,
        "csharp",
        &[],
        "class Gauge\n{\n    void Warn()\n    {\n        harbours.ForEach(harbour => {\n            Send(harbour);\n        });\n    }\n}\n",
    ),
    of(
        Key::BraceRequired,
        "java",
        &[],
        "class Gauge {\n    void warn() {\n        if (high()) send();\n        if (low())\n            wait();\n    }\n}\n",
    ),
    of(Key::BraceType, "java", &[], "class Gauge {\n    int level;\n}\n"),
    of(
        Key::BraceWrapped,
        "c",
        &["vknot_break_keep=all"],
        "int warn(int level)\n{\n    if (level > HIGH &&\n        is_rising())\n    {\n        send();\n    }\n}\n",
    ),
    of(
        Key::BreakBlock,
        "javascript",
        &[],
        "function level() { return read(); }\nfunction warn() { send(); wait(); }\n",
    ),
    of(
        Key::BreakKeep,
        "java",
        &[],
        "class Gauge {\n    int[] levels = {\n        1, 2\n    };\n\n    void warn(int level,\n            int tide) {\n        send(level,\n                tide,\n            zone);\n    }\n}\n",
    ),
    of(
        Key::CommentGap,
        "java",
        &[],
        "class Gauge {\n    int level; // metres\n\n    int zero;  // metres\n    long time; // seconds\n}\n",
    ),
    of(
        Key::CommentSpace,
        "java",
        &[],
        "class Gauge {\n    //metres above the chart datum\n    int level; //as read last\n}\n",
    ),
    of(
        Key::CommentWrap,
        "java",
        &["max_line_length=60"],
        "class Gauge {\n    // The level as it was read last, in metres above the chart datum.\n    // Twice an hour.\n    int level;\n}\n",
    ),
    of(
        Key::ImportBlank,
        "java",
        &[],
        "import tide.Surge;\nimport java.util.Map;\nimport tide.Gauge;\nimport java.util.List;\nimport tide.Level;\n\nclass Board {\n    Map<Gauge, List<Level>> levels;\n    Surge surge;\n}\n",
    ),
    of(
        Key::ImportCase,
        "java",
        &[],
        "import tide.surge.Warning;\nimport tide.Surge;\nimport tide.level.Zero;\nimport tide.Gauge;\n\nclass Board {\n    Gauge gauge;\n    Surge surge;\n    Warning warning;\n    Zero zero;\n}\n",
    ),
    of(
        Key::ImportDoc,
        "java",
        &[],
        "import tide.Gauge;\nimport tide.Surge;\n\n/** Shows what a {@link Surge} does. */\nclass Board {\n    Gauge gauge;\n}\n",
    ),
    of(
        Key::ImportForm,
        "python",
        &[],
        "from tide import surge\nimport zero\nfrom gauge import read\nimport level\n\nprint(surge, zero, read, level)\n",
    ),
    of(
        Key::ImportGroups,
        "python",
        &[],
        "import tide\nimport sys\n\nimport gauge\nimport json\n\nprint(tide, sys, gauge, json)\n",
    ),
    of(
        Key::ImportInclude,
        "c",
        &[],
        "#include <stdlib.h>\n#include <stdio.h>\n\n#include \"surge.h\"\n#include \"gauge.h\"\n\nint main(void) { return surge(gauge()); }\n",
    ),
    of(
        Key::ImportMerge,
        "python",
        &[],
        "from tide import gauge, level\nfrom tide import surge\n\nprint(gauge, level, surge)\n",
    ),
    of(
        Key::ImportNames,
        "javascript",
        &[],
        "import { surge, level, gauge } from './tide.js';\nimport { warn } from './notices.js';\n\nwarn(surge, level, gauge);\n",
    ),
    of(Key::ImportOffer, "python", &[], "from tide import gauge, level\n\nprint(gauge)\n"),
    of(
        Key::ImportOwn,
        "python",
        &["vknot_import_groups=standard, other, own"],
        "import gauge\nimport tide\nimport zero\n\nprint(gauge, tide, zero)\n",
    ),
    of(
        Key::ImportRequire,
        "javascript",
        &[],
        "const { surge, level } = require('./tide.js');\nconst fs = require('fs');\n\nfs.write(level);\n",
    ),
    of(
        Key::ImportStatic,
        "java",
        &[],
        "import tide.Surge;\nimport static tide.Level.zero;\nimport tide.Gauge;\n\nclass Board {\n    Gauge gauge = zero();\n    Surge surge;\n}\n",
    ),
    of(
        Key::ImportWildcard,
        "java",
        &[],
        "import java.io.File;\nimport java.io.Reader;\nimport java.util.ArrayList;\nimport java.util.List;\nimport java.util.Map;\nimport java.util.function.*;\n\nclass Board {\n    File file;\n    Reader reader;\n    List<Map<String, Integer>> levels = new ArrayList<>();\n    Function<Integer, Integer> shift;\n}\n",
    ),
    of(
        Key::IndentAccess,
        "cpp",
        &[],
        "class Gauge {\npublic:\n    int level() const;\n\nprivate:\n    int level_;\n};\n",
    ),
    of(
        Key::IndentBrace,
        "c",
        &["vknot_brace_control=next"],
        "void warn(void)\n{\n    if (high())\n    {\n        send();\n    }\n}\n",
    ),
    of(
        Key::IndentBracket,
        "rust",
        &["max_line_length=40"],
        "fn warn() {\n    send(harbours_downstream, expected_level);\n    let levels = [\n        low,\n        high,\n    ];\n}\n",
    ),
    of(
        Key::IndentCase,
        "java",
        &[],
        "class Gauge {\n    void warn(int state) {\n        switch (state) {\n            case 1:\n                send();\n        }\n    }\n}\n",
    ),
    of(
        Key::IndentCaseBrace,
        "c",
        &[],
        "void warn(int state)\n{\n    switch (state)\n    {\n    case 1:\n    {\n        send();\n    }\n    }\n}\n",
    ),
    of(Key::IndentCaseElse, "pascal", &[], "begin\n  case State of\n    1: Send;\n  else\n    Wait;\n  end;\nend.\n"),
    of(Key::IndentCondition, "pascal", &[], "begin\n  if High\n    and Rising then\n    Send;\nend.\n"),
    of(Key::IndentDirective, "c", &[], "void warn(void)\n{\nread();\n#ifdef SURGE\nsend();\n#endif\n}\n"),
    of(
        Key::IndentElseIf,
        "pascal",
        &[],
        "begin\n  if High then\n    Send\n  else\n    if Low then\n      Wait;\nend.\n",
    ),
    of(Key::IndentFunction, "matlab", &[], "function y = level(x)\n    y = x;\nend\n"),
    of(Key::IndentHeads, "scheme", &[], "(with-gauge north\n  (read-level)\n  (send))\n"),
    of(
        Key::IndentLabel,
        "c",
        &[],
        "void warn(void)\n{\n    while (1) {\n        if (high()) goto out;\n        read();\nout:\n        send();\n    }\n}\n",
    ),
    of(Key::IndentNamespace, "cpp", &[], "namespace tide {\nint level();\n}\n"),
    of(Key::IndentOperand, "rust", &["vknot_break_keep=all"], "fn warn(\nlevel:\nf64,\nharbour: &str,\n) {\n}\n"),
    of(Key::IndentPage, "html", &[], "<html>\n<body>\n<main>\n<p>Tide</p>\n</main>\n</body>\n</html>\n"),
    of(
        Key::IndentWrapper,
        "javascript",
        &[],
        "define(function (require) {\n\nvar gauge = require(\"gauge\");\n\nreturn gauge.level();\n\n});\n",
    ),
    of(Key::SpaceArguments, "javascript", &[], "warn(level);\n"),
    of(Key::SpaceAssignment, "c", &[], "int level = 1;\n"),
    of(Key::SpaceBlock, "javascript", &[], "if (high) {\n    warn();\n} else {\n    calm();\n}\n"),
    of(Key::SpaceBrace, "javascript", &[], "gauge = { level: 1 };\n"),
    of(Key::SpaceBracket, "javascript", &[], "levels = [1, 2];\n"),
    of(Key::SpaceCast, "csharp", &[], "class Gauge\n{\n    int level = (int)read;\n}\n"),
    of(Key::SpaceColon, "css", &[], ".gauge {\n    color: navy;\n}\n"),
    of(Key::SpaceComma, "css", &[], ".gauge {\n    color: rgb(0, 51, 102);\n}\n"),
    of(Key::SpaceComparison, "c", &[], "int high(int level, int mark)\n{\n    return level >= mark;\n}\n"),
    of(Key::SpaceControl, "javascript", &[], "if (high) {\n    warn();\n}\n"),
    of(Key::SpaceEmbedded, "javascript", &[], "board = <Gauge level={level} />;\n"),
    of(Key::SpaceEmpty, "javascript", &[], "function idle() {}\n"),
    of(Key::SpaceIndex, "javascript", &[], "level = levels[0];\n"),
    of(Key::SpaceLambda, "javascript", &[], "read = function (level) {\n    warn(level);\n};\n"),
    of(Key::SpaceLogical, "c", &[], "int warn(int high, int rising)\n{\n    return high && rising;\n}\n"),
    of(Key::SpaceOperator, "c", &[], "int sum(int level, int surge)\n{\n    return level + surge;\n}\n"),
    of(Key::SpacePair, "json", &[], "{\n    \"level\": 2\n}\n"),
    of(Key::SpaceParameters, "javascript", &[], "function warn(level) {\n    send(level);\n}\n"),
    of(Key::SpaceParenthesis, "javascript", &[], "warn(level, tide);\n"),
    of(Key::SpaceUnary, "javascript", &[], "calm = !high;\n"),
    of(Key::TokenQuote, "javascript", &[], "warn('high water', \"at six o'clock\", \"quay\");\n"),
    of(Key::TokenSemicolon, "javascript", &[], "const level = read()\nwarn(level);\n;[1, 2].forEach(warn)\n"),
    of(
        Key::WrapAnnotation,
        "java",
        &[],
        "class Gauge {\n    @Override public int level() {\n        return 0;\n    }\n}\n",
    ),
    of(
        Key::WrapChain,
        "java",
        &["max_line_length=80"],
        "class Gauge {\n    void warn() {\n        harbours.stream().filter(near).forEach(send);\n        harbours.stream().filter(Harbour::isDownstream).map(Harbour::name).forEach(send);\n    }\n}\n",
    ),
    of(
        Key::WrapComma,
        "rust",
        &["max_line_length=40"],
        "fn warn() {\n    send(harbours_downstream, expected_level);\n    let levels = [\n        low,\n        high,\n    ];\n}\n",
    ),
    of(
        Key::WrapConditional,
        "java",
        &["max_line_length=60"],
        "class Gauge {\n    String state = level > highest_of_year ? \"surge warning\" : \"calm\";\n}\n",
    ),
    of(
        Key::WrapIndent,
        "java",
        &["max_line_length=60", "vknot_break_keep=all"],
        "class Gauge {\n    int worst = wind_setup_of_this_gauge\n            + pressure_of_this_gauge;\n}\n",
    ),
    of(
        Key::WrapList,
        "javascript",
        &["max_line_length=50"],
        "warn(harbours, expected,\n    time_of_arrival, language_of_notice, copies);\n",
    ),
    of(Key::WrapLiteral, "javascript", &["vknot_wrap_indent=2"], "levels = [\n    1,\n    2,\n];\n"),
    of(
        Key::WrapOperand,
        "java",
        &["max_line_length=60"],
        "class Gauge {\n    int worst = wind_setup + pressure\n            + rainfall_upstream + release_of_dams + spring_tide;\n}\n",
    ),
    of(
        Key::WrapOperator,
        "java",
        &["max_line_length=60"],
        "class Gauge {\n    int worst = wind_setup_of_this_gauge + pressure_of_this_gauge;\n}\n",
    ),
    of(Key::WrapSelector, "css", &[], ".gauge, .tide {\n    color: navy;\n}\n"),
    of(Key::WrapTag, "javascript", &["max_line_length=40"], "board = <Gauge name=\"North Mole\" level={level} />;\n"),
];

const fn of(key: Key, language: &'static str, along: &'static [&'static str], text: &'static str) -> Sample {
    Sample { key, language, along, text }
}

impl Key {
    /// What shows the setting.
    pub fn sample(self) -> Option<&'static Sample> {
        SAMPLES.get(self as usize)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::schema::SETTINGS;

    #[test]
    fn every_setting_has_its_sample() {
        let keys: Vec<Key> = SAMPLES.iter().map(|sample| sample.key).collect();
        assert_eq!(keys, SETTINGS.iter().map(|setting| setting.id).collect::<Vec<_>>());
    }
}
