//! Layouts of the brace languages and the style sheets: a mess put right, and what well-kept code keeps.

use crate::support::{formatted, shown};

/// Cases laid out with the defaults of a language.
fn laid_out(language: &str, cases: &[(&str, &str)]) -> String {
    let done: Vec<(&str, String)> =
        cases.iter().map(|(name, text)| (*name, formatted(language, text, &["max_line_length=60"]))).collect();
    shown(&done)
}

#[test]
fn a_comment_behind_a_statement_comes_into_its_braces() {
    let text = "class A {\n    void a() {\n        if (b) return; // Low water.\n        c();\n    }\n}\n";
    let result = formatted("java", text, &["vknot_brace_required=always"]);
    assert!(result.contains("        if (b) {\n            return; // Low water.\n        }\n        c();\n"), "{result}");
}

#[test]
fn a_comment_in_front_of_an_item_goes_with_it() {
    let items = "/* level= */ surgeOfTheDay, /*zone*/north, /* hour */ twelveHours";
    for (language, before, behind) in [
        ("c", "int a = send(", ");\n"),
        ("csharp", "class A { int a = Send(", "); }\n"),
        ("java", "class A { int a = send(", "); }\n"),
        ("javascript", "const a = send(", ");\n"),
        ("rust", "const A: u32 = send(", ");\n"),
        ("typescript", "const a = [", "];\n"),
    ] {
        let text = format!("{before}{items}{behind}");
        let each = ["max_line_length=50", "vknot_wrap_list=each"];
        let laid_out = formatted(language, &text, &each);
        let lines: Vec<&str> = laid_out.lines().map(str::trim).filter(|line| line.starts_with("/*")).collect();
        let closed = |line: &&str| line.trim_end_matches([',', ')', ';', ']', '}', ' ']).to_owned();
        let lines: Vec<String> = lines.iter().map(closed).collect();
        assert_eq!(lines, ["/* level= */ surgeOfTheDay", "/*zone*/north", "/* hour */ twelveHours"], "{laid_out}");
        // What closes the list does not go along.
        let text = format!("{before}north, /* none */ {behind}");
        assert!(formatted(language, &text, &each).contains("north, /* none */"), "{language}");
    }
}

#[test]
fn elements_are_read_alike_whatever_lines_end_with() {
    let text = "const board = (\n  <ul>\n    {open && (\n      <li>\n        low\n      </li>\n    )}\n  </ul>\n);\n";
    let ended = text.replace('\n', "\r\n");
    assert_eq!(formatted("tsx", text, &["end_of_line=crlf"]), ended);
    assert_eq!(formatted("tsx", &ended, &["end_of_line=lf"]), text);
}

#[test]
fn what_indentation_is_made_of_is_as_set() {
    let text = "const struct gauge north = {\n\t.name = \"north\",\n\t.alias = \"n\",\n\n\t.flags = 1\n};\n\nint level(int a)\n{\n\tint b = a;\n\n\treturn b;\n}\n";
    let result = formatted("c", text, &["indent_style=space", "indent_size=4"]);
    assert!(!result.contains('\t'), "{result}");
}

#[test]
fn no_brace_comes_to_stand_on_the_line_of_a_directive() {
    let text = "void a(void)\n{\n#if B\n    if (c)\n        d();\n    else\n#endif\n        e();\n}\n";
    let result = formatted("c", text, &["vknot_brace_required=always"]);
    assert!(result.contains("    } else\n#endif\n"), "{result}");
}

#[test]
fn comments_behind_joined_characters_stay_lined_up() {
    let family = "\u{1f468}\u{200d}\u{1f468}\u{200d}\u{1f467}";
    let text = format!("class A {{\n    void a() {{\n        b(\"p.{family}\", p); // Low.\n        b(\"a.{family}\", a); // High.\n    }}\n}}\n");
    assert_eq!(formatted("java", &text, &[]), text);
}

#[test]
fn a_number_in_front_of_a_point_keeps_its_distance() {
    for (language, text) in [
        ("cpp", "auto low = 1.2_a .epsilon(tide);\n"),
        ("javascript", "let low = 1 .toFixed(tide);\n"),
        ("csharp", "class A\n{\n    string low = 1 .ToString(tide);\n}\n"),
    ] {
        assert_eq!(formatted(language, text, &[]), text);
    }
}

#[test]
fn a_property_that_is_a_blank_keeps_it() {
    for text in ["a {\n  --b: ;\n  c: d;\n}\n", "a {\n  --b:;\n  c: d;\n}\n"] {
        assert_eq!(formatted("css", text, &[]), text);
    }
}

#[test]
fn blank_lines_between_members_are_as_set() {
    let text = "class A {\n    int b;\n\n    int c;\n    // Low.\n    int d;\n    abstract int e();\n\n    abstract int f();\n}\n";
    let cases = [
        (vec!["vknot_blank_member=0"], text.replace("b;\n\n", "b;\n").replace("e();\n\n", "e();\n")),
        (vec!["vknot_blank_member=1"], text.replace("b;\n    int", "b;\n\n    int")),
        (vec!["vknot_blank_kind=1"], text.replace("d;\n", "d;\n\n")),
        (vec!["vknot_blank_kind=1", "vknot_blank_most=0"], text.replace("\n\n", "\n")),
    ];
    for (set, wanted) in cases {
        assert_eq!(formatted("java", text, &set), wanted, "{set:?}");
    }
    // Statements are no members.
    let text = "class A {\n    void b() {\n        int c;\n\n        int d;\n    }\n}\n";
    assert_eq!(formatted("java", text, &["vknot_blank_member=0"]), text);
}

#[test]
fn comments_stand_as_far_behind_code_as_set() {
    let text = "int a; // Low.\n\nint b;  // High.\nint cc; // Tide.\n";
    for (set, wanted) in [
        ("vknot_comment_gap=2", "int a;  // Low.\n\nint b;   // High.\nint cc;  // Tide.\n"),
        ("vknot_comment_gap=1", text),
    ] {
        assert_eq!(formatted("c", text, &[set]), wanted);
        assert_eq!(formatted("c", wanted, &[]), wanted);
    }
}

#[test]
fn no_line_begins_where_go_would_end_a_statement() {
    let text = "package a\n\nfunc b() {\n\tgauges.Near(harbour).Above(expected, level).Warn(language)\n\tc := lowestExpectedLevel + windSetupOfGauge + pressure\n}\n";
    let wanted = "package a\n\nfunc b() {\n\tgauges.Near(harbour).\n\t\tAbove(expected, level).\n\t\tWarn(language)\n\tc := lowestExpectedLevel +\n\t\twindSetupOfGauge +\n\t\tpressure\n}\n";
    assert_eq!(formatted("go", text, &["vknot_break_keep=some", "max_line_length=50"]), wanted);
}

#[test]
fn a_comment_on_joined_lines_is_in_its_macro() {
    let text = "#define TIDE(level) \\\n\tvoid note_##level(void) { \\\n\t\t/* The level \\\n\t\t * of the tide. \\\n\t\t */ \\\n\t\tnote(level); \\\n\t}\n";
    assert_eq!(formatted("c", text, &[]), text);
}

#[test]
fn a_brace_that_comes_in_stands_in_front_of_the_comment_behind_it() {
    let text = "function f() {\n  if (a) return b;\n\n  // Low water.\n  if (d) {\n    e();\n  }\n}\n";
    let wanted =
        "function f() {\n   if (a) {\n      return b;\n   }\n\n   // Low water.\n   if (d) {\n      e();\n   }\n}\n";
    assert_eq!(formatted("javascript", text, &["vknot_brace_required=always", "indent_size=3"]), wanted);
    let text = "fn a() {\n  b(ccccccccccccccccccccc, ddddddddddddddddddddd // Low water.\n  );\n}\n";
    assert!(formatted("rust", text, &["max_line_length=40", "indent_size=3"]).contains("ddddddddddddddddddddd, // Low water."));
}

#[test]
fn scripts() {
    snapshot!(laid_out("javascript", &[
        ("modules", "import def,{a as b} from './x';import * as y from 'y';export {a,b as c};export default class A extends B{static x=1;get y(){return 1}async *z(a,...r){}}"),
        ("no semicolons", "let a=1\nlet b=[2]\n;[3].map(f)\nreturn_\n++a"),
        ("statements", "for(;;){continue}for(const a of b)x++;do{f()}while(a);switch(a){case 1:case 2:f();break;default:g()}try{a}catch{b}finally{c}"),
        ("bodies", "if(a)b();else if(c)d();else{e()}"),
        ("callables", "var f=async function*(a=1,{b}){return a?.b?.[0]?.(c)};const g=x=>({a:x});h(function(){a();b()},100)"),
        ("chain", "stations.filter(s=>s.open).map(s=>s.level).reduce((a,b)=>Math.max(a,b),0).toFixed(2);"),
        ("hugging", "describe('tide',()=>{it('rises',function(done){done()});});"),
        ("operators", "const surge=highestLevel-expectedLevel>threshold&&!station.isDoubtful||station.isForced;"),
        ("literals", "const a={b:1,...c,[d]:2,e(){return 1}},f=[1,2,3];\nconst kept={\nb:1,c:2};"),
        ("templates", "x=`a ${ b } c`;/re/g.test(y);"),
    ]));
}

#[test]
fn typed_scripts() {
    snapshot!(laid_out("typescript", &[
        ("types", "type A<T>={readonly a?:string;b:number[]}&B<T>;type L='low'|'high';interface S extends T{a():void;[k:string]:any}"),
        ("union", "type Level =\n| 'low'\n| 'high';"),
        ("conditional", "type R<T>=T extends Promise<infer U>?U extends string?'text':'other value here':never;"),
        ("class", "abstract class G<T extends object=any> implements H{@input() private readonly a!:number;constructor(private b:B,public c?:C){super()}}"),
        ("overloads", "function f(a:string):void;function f(a:number):void;function f(a:any){}"),
        ("casts", "const a=b as unknown as C;const d=e satisfies F;g!.h;<T,>(x:T)=>x;"),
        ("enum", "export const enum L{Low=1,High}declare module 'x'{}"),
    ]));
}

#[test]
fn elements() {
    snapshot!(laid_out("tsx", &[
        ("tags", "const a=<Card name=\"North\"   level={ 1.5 } onOpen={()=>{open()}}/>;"),
        ("text keeps its blanks", "const a=<p>Level {level} m, <b>{state}</b> since\n   noon</p>;"),
        ("long", "const a=<ul><li>North Harbour</li><li>Skerry Light</li><Station id={3}/></ul>;"),
        ("conditional", "const a=<div>\n{open?<Open/>:null}\n\n{a && (\n<B/>\n)}\n</div>;"),
    ]));
}

#[test]
fn go() {
    snapshot!(laid_out("go", &[
        ("columns", "package a\n\ntype S struct {\na int `json:\"a\"` // level\nlonger string `json:\"b\"`\n}\n\nconst (\nA int = 1\nBcd = 2\n)\n\nvar m = map[string]int{\n\"a\": 1,\n\"bcd\": 2,\n}\n"),
        ("statements", "package a\n\nfunc (s *S) M(a,b int,c ...string) (int,error) {\nif v,ok:=m[a];ok&&a>1 {\nreturn v<<1+a*b,nil\n} else if x {\ngoto L\n}\nL:\nfor i:=0;i<10;i++ {\ngo func() { ch<-i }()\n}\nswitch x:=y.(type) {\ncase int,string:\ndefer f()\ndefault:\n}\nreturn x.(*T).y(a...), a[1 : 2]\n}\n"),
        ("lines stay", "package a\n\nfunc f() {\n\tx := g(a,\n\t\tb).\n\t\th()\n}\n"),
    ]));
}

#[test]
fn csharp() {
    snapshot!(laid_out("csharp", &[
        ("members", "namespace A{[Serializable]public sealed class C<T>:D where T:class,new(){int _a=1,_b;public int P{get;private set;}=3;public int Q=>_a;public C(int a):base(a){}public static C<T> operator +(C<T> a,C<T> b)=>a;}}"),
        ("statements", "class A{void F(){if(a)b();else{c();}foreach(var k in b){d();}using(var s=new S()){e();}for(int i=0;i<1;i++){}try{f();}catch(E e) when(e!=null){}do{g();}while(true);}}"),
        ("expressions", "class A{void F(){var y=b?.Where(z=>z!=null).Select((p,q)=>p).ToList();x=(int)-y;int? n=null;n??=1;var t=a switch{1=>2,>3=>4,_=>5};var s=new S{A=1,B={1,2}};}}"),
        ("query", "class A{void F(){var x=from a in b\nwhere a>1 select a;}}"),
        ("directives", "class A {\n#if DEBUG\n    int a;\n#endif\n#region B\nint b;\n#endregion\n}\n"),
        ("kept braces", "class A {\n  void F() {\n    if (a) {\n      b();\n    } else {\n      c();\n    }\n  }\n}\n"),
    ]));
}

#[test]
fn c_family() {
    snapshot!(laid_out("cpp", &[
        ("types", "namespace a{template<typename T>class C:public D<T>{public:C(int a):a_(a){}virtual ~C()=default;private:int a_,*b_;};enum class E{A=1,B};}"),
        ("statements", "int f(int a){for(int i=0;i<10;++i)if(a)b();else c();switch(a){case 1:b();break;default:{c();}}do{x();}while(0);auto l=[&](int x){return x;};out:return *p*(a&~b);}"),
        ("pointers stay", "int f() { a * b; x = (int *)q; T& r = y; foo< a > (b); }"),
        ("directives", "#define X(a) \\\n  a+1\n#ifdef Y\n  int a;\n#else\nint b;\n#endif\n"),
        ("long heads", "class TideGauge : public StationOfTheHarbour, public ReadingOfTheWater, private Something<int, long> {\nTideGauge(Station const& station) : StationOfTheHarbour(\"at the pier\", station), level(station.level()) {}\nTideGauge(Station const& station, int level) : StationOfTheHarbour(\"at the pier\", station), level_above_zero(level), station(station) {}\n};\n"),
        ("streams", "void f() {\nstd::cout << \"Load result: \" << result.description() << \", name of the gauge: \" << station.child(\"gauge\").name() << std::endl;\n}\n"),
        ("lambdas with a result", "auto sums = std::accumulate(levels.begin(), levels.end(), std::make_pair(0., 0.), [low](std::pair<double, double> sums, double level) -> std::pair<double, double> {\nreturn g(sums.first + level);\n});\n"),
    ]));
    snapshot!("c", laid_out("c", &[
        ("columns stay", "struct gauge {\n\tint\t\tlevel;\t/* metres */\n\tconst char\t*name;\t/* of the place */\n};\n"),
        ("old style", "static int\nh(a, b)\n\tint a;\n{\n\treturn a;\n}\n"),
    ]));
}

#[test]
fn sheets() {
    snapshot!(laid_out("scss", &[
        ("a mess", "@use \"x\" as y;$map:(a:1,b:2);.a,.b>c{color:red;&:hover{b:c}&-x{d:e f,g}}@media (min-width:1px){.d{e:f}}@mixin m($a,$b:1){@content}.e{@include m(1,$b:2){c:d}@if $a==1{a:b}@else{e:f}}"),
        ("white space in selectors", "a:hover b :hover .c.d > e+f ~ g{h:calc(1px + 2px) -1px}"),
        ("columns stay", "$short:       1px;\n$much-longer: 2px;\n"),
        ("comments", "// head\na{/* one */b:c;// two\nd:e/* three */}\n"),
    ]));
    snapshot!("css", laid_out("css", &[
        ("values", ":root{--a:1px}.g{grid-template:\"a b\" 40px\n\"c d\" 1fr;src:url(a.woff2) format(\"woff2\"),\nurl(a.woff);filter:progid:X(a=b)}"),
    ]));
}

/// White space is meaning in selectors and beside text in elements; a rule that forgot it would be caught.
#[test]
fn white_space_that_means_something_is_guarded() {
    use vknot_reshape::steps::{Contract, prove};
    use vknot_reshape::{Edits, Reshape};
    use vknot_syntax::Span;
    let cases = [
        ("css", "a :hover { b: c }", Span::new(1, 2), ""),
        ("less", "a { &:extend(b); }", Span::new(6, 6), " "),
        ("css", "a { b: 1px -2px }", Span::new(10, 11), ""),
        ("css", "a:not(:b) { c: d }", Span::new(7, 7), " "),
        ("tsx", "x = <p>low {tide}</p>;", Span::new(10, 11), ""),
        ("tsx", "x = <p>low {tide}</p>;", Span::new(10, 11), "\n"),
    ];
    for (language, text, span, new) in cases {
        let document = crate::support::read(language, text);
        let mut edits = Edits::default();
        edits.push(span, new);
        let refusal = prove(&document, Reshape { edits, ..Reshape::default() }, Contract::LAYOUT).unwrap_err();
        assert!(!refusal.reason.to_string().is_empty(), "{text}");
    }
}

/// A file is laid out in the width, and in the manner, that it shows.
#[test]
fn what_nothing_sets_is_found() {
    let long = "let level = { a: 1 };\nif(a) { b(); }\nif(c) { d(); }\nif(e) { d(); }\nfunction f (a) {}\nfunction g (a) {}\nfunction h (a) {}\n";
    assert_eq!(formatted("javascript", long, &[]), long);
    let wide = format!("f(\n  {},\n  b\n);\n", "a".repeat(30));
    assert_eq!(formatted("javascript", &format!("{wide}x();\n"), &["max_line_length=30"]).lines().count(), 5);
    let line = format!("tide({}, {}, {});\n", "a".repeat(38), "b".repeat(38), "c".repeat(30));
    assert_eq!(formatted("javascript", &line, &[]), line, "120 columns are kept to");
}

#[test]
fn commas_come_behind_the_last_item_where_the_language_takes_one() {
    for (language, text, expected) in [
        ("javascript", "a = [\n  b(1),\n  c(2)\n];\n", "a = [\n  b(1),\n  c(2),\n];\n"),
        ("javascript", "a = { b, c };\n", "a = { b, c };\n"),
        ("javascript", "const {\n  a,\n  ...b\n} = c;\n", "const {\n  a,\n  ...b\n} = c;\n"),
        ("javascript", "a(b, () => {\n  c();\n});\n", "a(b, () => {\n  c();\n});\n"),
        ("javascript", "import {\n  a,\n  b // c\n} from 'd';\n", "import {\n  a,\n  b, // c\n} from 'd';\n"),
        ("typescript", "enum A {\n  B,\n  C\n}\n", "enum A {\n  B,\n  C,\n}\n"),
        ("typescript", "type A = {\n  b: string\n};\n", "type A = {\n  b: string\n};\n"),
        (
            "java",
            "class A {\n    int[] b = {\n        c(1),\n        d(2)\n    };\n}\n",
            "class A {\n    int[] b = {\n        c(1),\n        d(2),\n    };\n}\n",
        ),
        ("c", "int a[] = {\n    b(1),\n    c(2)\n};\n", "int a[] = {\n    b(1),\n    c(2),\n};\n"),
        ("c", "struct a {\n    int b;\n};\n", "struct a {\n    int b;\n};\n"),
        ("csharp", "enum A\n{\n    B,\n    C\n}\n", "enum A\n{\n    B,\n    C,\n}\n"),
    ] {
        assert_eq!(formatted(language, text, &["vknot_wrap_comma=add"]), expected, "{language}");
        assert_eq!(formatted(language, text, &[]), text, "{language}");
    }
}

/// A row of values too long for a line is filled; values with more inside stand below each other, and none is taken apart for the others.
#[test]
fn rows_of_values_that_are_too_long_are_filled() {
    let numbers = "    1, 22, 333, 4444, 55555, 'a', 'b', 7, 88, 999, 1010, 11,\n    1212";
    let row = format!("int levels[] = {{{}}};\n", numbers.trim().replace(",\n    ", ", "));
    let filled = format!("int levels[] = {{\n{numbers}\n}};\n");
    let pairs = ["{\"high\", read()}", "{\"low\", 2}", "{\"surge\", null}", "{\"mean\", 4}"];
    let nested = format!("level all = {{{}}};\n", pairs.join(", "));
    let below = format!("level all = {{\n    {}\n}};\n", pairs.join(",\n    "));
    let table = "int board[] = {\n    { 1,  2}, {30,  4},\n    {50, 60}, { 7,  8}\n};\n";
    for (text, wanted) in [(row.as_str(), filled.as_str()), (nested.as_str(), below.as_str()), (table, table)] {
        assert_eq!(formatted("cpp", text, &["max_line_length=60"]), wanted);
    }
}

#[test]
fn heads_of_clauses_break_behind_their_semicolons() {
    let head = "int index = first.level; index < last.level && goesOn(index); index += 1";
    let method = ("class A { void a() {", "} }");
    for (language, head, (before, behind)) in [
        ("javascript", "let index = first.level; index < last.level && goesOn(index); index += 1", ("", "")),
        ("java", head, method),
        ("csharp", head, method),
        ("c", head, ("void a(void) {", "}")),
    ] {
        let text = format!("{before} for ({head}) {{ record(index); }} {behind}\n");
        let result = formatted(language, &text, &["max_line_length=60"]);
        let lines: Vec<&str> = result.lines().map(str::trim).collect();
        let wanted = format!("for ({head})").replace("; ", ";\n");
        assert!(lines.join("\n").contains(&wanted), "{language}: {result}");
        let short = formatted(language, &text, &["max_line_length=200"]);
        assert!(short.contains(&format!("for ({head})")), "{language}: {short}");
    }
}

#[test]
fn labels_of_go_have_lines_of_their_own() {
    let text = "package a\n\nfunc f() {\nagain: for {\n\t\tbreak again\n\t}\nnext: g()\nend:\n}\n";
    let wanted = "package a\n\nfunc f() {\nagain:\n\tfor {\n\t\tbreak again\n\t}\nnext:\n\tg()\nend:\n}\n";
    assert_eq!(formatted("go", text, &[]), wanted);
}

/// A file that is well kept but for what is put into it.
fn among_well_kept(statements: &str) -> String {
    format!(
        "class Gauge {{\n    void read() {{\n        open();\n        wait();\n{statements}        note();\n        close();\n    }}\n}}\n"
    )
}

#[test]
fn breaks_that_are_meant_stay_in_a_well_kept_file() {
    for meant in [
        "        send(level,\n            zone);\n",
        "        send(\n            level,\n            zone\n        );\n",
        "        send(level, () -> {\n            note();\n        }, zone);\n",
        "        int sum = level\n            + surge;\n",
        "        int sum =\n            level;\n",
        "        gauges.near(zone)\n            .above(level).warn();\n",
        "        if (level > 3 && zone.isOpen()\n            && warned) {\n            note();\n        }\n",
    ] {
        let text = among_well_kept(meant);
        assert_eq!(formatted("java", &text, &[]), text);
        let joined = formatted("java", &text, &["vknot_break_keep=none"]);
        assert_ne!(joined, text);
        // What nobody indented says nothing.
        let flat: String = text.lines().map(|line| format!("{}\n", line.trim_start())).collect();
        assert_ne!(formatted("java", &flat, &[]), text);
    }
}

#[test]
fn breaks_that_are_not_meant_go() {
    for (jumble, wanted) in [
        // Not further in, not alike, or on a line that is too long.
        ("        send(level,\n        zone);\n", "        send(level, zone);\n"),
        ("        send(level,\n            zone,\n          3);\n", "        send(level, zone, 3);\n"),
        (
            "        send(levelOfTheWater, surgeOfTheDay, zone,\n            3);\n",
            "        send(\n                levelOfTheWater,\n                surgeOfTheDay,\n                zone,\n                3);\n",
        ),
    ] {
        let text = among_well_kept(jumble);
        assert_eq!(formatted("java", &text, &["max_line_length=48"]), among_well_kept(wanted));
    }
    // A setting that says how lists are broken is obeyed whatever is meant.
    let text = among_well_kept("        send(levelOfTheWater, surgeOfTheDay,\n            zone, 3);\n");
    let wanted = "        send(\n                levelOfTheWater,\n                surgeOfTheDay,\n                zone,\n                3);\n";
    let set = ["vknot_wrap_list=each", "max_line_length=50"];
    assert_eq!(formatted("java", &text, &set), among_well_kept(wanted));
}

#[test]
fn a_well_kept_file_may_have_longer_lines_than_usual() {
    let line = |name: &str, most: usize| format!("    int {name} = {};\n", "a + ".repeat(most) + "b");
    let file = |long: usize, most: usize| {
        let short: String = (0..120).map(|index| line(&format!("level{index}"), 3)).collect();
        let wide: String = (0..long).map(|index| line(&format!("surge{index}"), most)).collect();
        format!("class Gauge {{\n{short}{wide}}}\n")
    };
    // Twelve of about 130 columns: the file keeps to 140. One of 180 is an exception, and is wrapped.
    let text = file(12, 28);
    assert_eq!(formatted("java", &text, &[]), text);
    let text = file(1, 40);
    assert_ne!(formatted("java", &text, &[]), text);
    // In a shorter file one line is no reason to wrap those that keep to a usual width.
    let some: String = (0..24).map(|index| line(&format!("level{index}"), 23)).collect();
    let text = format!("class Gauge {{\n{some}{}}}\n", line("surge", 40));
    let laid_out = formatted("java", &text, &[]);
    assert!(laid_out.contains(&some) && laid_out != text, "{laid_out}");
    // A few lines are no file that keeps to anything.
    let text = format!("class Gauge {{\n{}}}\n", line("surge", 28));
    assert_ne!(formatted("java", &text, &[]), text);
}

/// Lines that begin further out fit a narrower width, which a second run would find; it would add a comma.
#[test]
fn a_width_that_only_other_levels_kept_to_is_not_kept() {
    let text = "fn record_every_level_of_the_station_at_the_harbour(levels: &mut Vec<crate::levels::Level>) {
    if high {
        if low {
            if rising {
                levels.push(between(previous_level(station), next_level(station)));
            }
        }
    }
}
";
    let set = ["indent_size=2"];
    let formatted = formatted("rust", text, &set);
    assert!(formatted.contains("\n  if high {\n    if low {\n"), "{formatted}");
    assert_eq!(self::formatted("rust", &formatted, &set), formatted);
}
