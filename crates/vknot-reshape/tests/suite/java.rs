//! Java: layout by construct, settings, indentation, imports.

use crate::support::{formatted, indented, organized, shown};

/// Puts statements into a method, lays out, and takes them out again.
fn statements(code: &str, set: &[&str]) -> String {
    let text = formatted("java", &format!("class Gauge {{ void read() {{\n{code}\n}} }}"), set);
    let lines = text.lines().collect::<Vec<_>>();
    let inner = &lines[2..lines.len() - 2];
    inner.iter().map(|line| format!("{}\n", line.strip_prefix("        ").unwrap_or(line))).collect()
}

fn members(code: &str, set: &[&str]) -> String {
    let text = formatted("java", &format!("class Gauge {{\n{code}\n}}"), set);
    let lines = text.lines().collect::<Vec<_>>();
    lines[1..lines.len() - 1].iter().map(|line| format!("{}\n", line.strip_prefix("    ").unwrap_or(line))).collect()
}

fn all(layout: fn(&str, &[&str]) -> String, cases: &[(&'static str, &str)], set: &[&str]) -> String {
    let cases: Vec<(&str, String)> = cases.iter().map(|(name, code)| (*name, layout(code, set))).collect();
    shown(&cases)
}

#[test]
fn statements_are_laid_out() {
    snapshot!(all(statements, &[
        ("spaces", "int  a=1+2 *3,b ; a++ ; -- b; boolean c=! d&&e ;int[ ] f=new int[ 3 ] ; g = ( String )h;"),
        ("one statement per line", "open(); read();close( );"),
        ("conditional", "if(a){b();}else if(c){d();}else{e();}"),
        ("conditional without braces", "if(a)return;\nif (b)\nc();\nelse\nd();"),
        ("loops", "for(int i=0;i<n;i++){a();} for(;;){b();} for(Station s:stations)c(s); while(d){e();}do{f();}while(g);"),
        ("switch", "switch(level){case 1:case 2:warn();break;default:{ quiet(); }}"),
        ("switch with arrows", "int x=switch(level){case LOW,MID->1;case HIGH->{yield 2;}default->throw new Error();};"),
        ("try", "try{a();}catch(IOException|TimeoutException e){b();}finally{c();}\ntry(Reader r=open();Writer w=to()){copy();}"),
        ("labels", "outer:for(;;){continue outer;}"),
        ("lambdas", "run(()->{a();});map(x->x+1);sort((a,b)->{return a-b;});"),
        ("anonymous class", "start(new Runnable(){public void run(){a();}});"),
        ("ternary", "int level=isHigh?1:isLow?-1:0;"),
        ("generics", "Map < String , List< Integer > > m=new HashMap< >( ); Collections.<String>emptyList();"),
        ("casts and instanceof", "if(o instanceof Gauge g&&g.isOpen( ))use((Gauge)o);"),
        ("method references", "names.map(Station :: name).toArray(String[ ] :: new);"),
        ("assert, throw, synchronized", "assert a:\"b\";synchronized(lock){throw new Error( );}"),
        ("empty blocks", "try { a(); } catch (Error ignored) {\n}\nif (b) {   }"),
        ("text block", "String s=\"\"\"\n   low\n     high\n   \"\"\";f(\"\"\"\nx\"\"\",y);"),
    ], &[]));
}

#[test]
fn long_lines_are_wrapped() {
    snapshot!(all(statements, &[
        ("arguments", "record(readingOfTheNorthHarbour, readingOfTheLongBar, readingOfSkerryLight, Duration.ofMinutes(15));"),
        ("arguments on a line", "notifyTheHarbourOfficeOfNorthHarbour(\"a rather long message for the harbour\", surgeLevel, x);"),
        ("named arguments", "record(/* station= */ northHarbour, /*level=*/readingOfTheLongBar, /* hour= */ hourOfTheDay);"),
        ("chain", "double top = readings.stream().filter(r -> !r.isDoubtful()).mapToDouble(Reading::level).max().orElse(0);"),
        ("operators", "boolean alarm = surgeIsAboveTheThreshold && windIsFromTheNorthWest || pressureIsFalling && tideIsRising;"),
        ("concatenation", "log(\"the surge at \" + station + \" is \" + surge + \" metres above the tide foretold for \" + time);"),
        ("ternary", "Level level = surge > thresholdOfWarning ? Level.WARNING_OF_THE_HIGHEST_KIND : Level.QUIET_AS_BEFORE_IT;"),
        ("value on the next line", "final Map<Station, List<Reading>> readingsOfStations = collectReadings(stationsOfNetwork);"),
        ("last argument keeps the line", "executor.schedule(Duration.ofMinutes(15), Priority.of(Level.WARNING), () -> { send(); });"),
        ("value of what is opened", "try (var tides = readTides(zone); var levelsOfAllStations = readingsOfAllStationsByZoneAndLevel.ofHighest(zone)) { a(); }"),
        ("array", "double[] steps = {0.25, 0.5, 0.75, 1.0, 1.25, 1.5, 1.75, 2.0, 2.25, 2.5, 2.75, 3.0, 3.25, 3.5, 3.75};"),
    ], &["max_line_length=80"]));
}

#[test]
fn declarations_are_laid_out() {
    snapshot!(all(members, &[
        ("fields and methods", "int a;int b=1;\nvoid c(){d();} void e(){}\nabstract int f( );\nint g;"),
        ("annotations", "@Override @Deprecated public void a(){}\n@Inject private Gauge gauge;\n@Inject\nGauge other;\nvoid b(@Nullable String c){}"),
        ("annotation arguments", "@Limits(low=1,high = 2) @Names({\"a\",\"b\"}) int level;"),
        ("constructor", "public Gauge ( String name ) throws IOException{super( name );}"),
        ("long header", "public Reading record(Station station, Duration age, double level, boolean isDoubtful) throws IOException, TimeoutException {}"),
        ("type parameters", "< T extends Comparable<T>&Serializable > T highest(List< ? super T > all){return null;}"),
        ("generic header", "public static <K extends Comparable<K>, V extends Comparable<V>> LinkedHashMultimap<K, V> create(Multimap<K, V> from) throws IOException {}"),
        ("nested types", "enum State{QUIET,ALARM}\nrecord Point(double x,double y){}\ninterface Sink{void take( Reading r );}\n@interface Mark{String value( ) default \"\";}"),
        ("enum with members", "enum Level { LOW(1), HIGH(2) { int rank() { return 9; } };\nfinal int rank;Level(int rank){this.rank=rank;} }"),
        ("blank lines", "int a;\n\n\n\nint b;\nvoid c() {\n\nd();\n\n\n}\n\n"),
        ("doc comments", "/**\n  * Height.\n      */\n  int a; // metres\n    int bb;   // feet"),
        ("lined-up comments", "int a;     // metres\nint bbb;   // feet\n           // or fathoms\nint c;"),
        ("commented-out code", "    int a;\n//    int b;\n    int c;"),
        ("comments in lists", "void a(int b, // first\nint c /* second */) {}"),
        ("static initializer", "static{load( );}"),
    ], &[]));
}

#[test]
fn settings_have_effect() {
    let code = "if (a) b();\nelse\nc();\nx.y().z().w();\nrun(() -> { d(); });";
    for (name, set) in [
        ("braces_next", "vknot_brace_control=next"),
        ("braces_always", "vknot_brace_required=always"),
        ("braces_multiline", "vknot_brace_required=multiline"),
        ("chain_always", "vknot_wrap_chain=always"),
        ("tabs", "indent_style=tab"),
    ] {
        snapshot!(name, statements(code, &[set]));
    }
    let method = formatted("java", "class A { void a() { if (b) { c(); } } }", &["vknot_brace_declaration=next"]);
    snapshot!("declaration_next", method);
    let broken = "f(\na,\nb);\nint x = a\n+ b;";
    snapshot!("keep_all", statements(broken, &["vknot_break_keep=all"]));
    snapshot!("keep_none", statements(broken, &["vknot_break_keep=none"]));
    assert_eq!(members("int a;\n\n\n\nint b;", &["vknot_blank_most=3"]), "int a;\n\n\n\nint b;\n");
    let crlf = formatted("java", "class A {\nint b;\n}\n", &["end_of_line=crlf"]);
    assert_eq!(crlf, "class A {\r\n    int b;\r\n}\r\n");
}

#[test]
fn required_braces_take_trailing_comments_along() {
    let set = ["vknot_brace_required=always"];
    snapshot!(statements("if (a) b(); // why\nelse if (c) d();\nfor (;;) if (e) f();", &set));
}

#[test]
fn the_files_own_indentation_is_followed() {
    for unit in ["  ", "   ", "\t"] {
        let text = format!("class A {{\n{unit}void b() {{\n{unit}{unit}c();\n{unit}}}\n}}\n");
        assert_eq!(formatted("java", &text, &[]), text);
        assert_eq!(indented("java", &text, &[]), text);
    }
}

#[test]
fn indentation_changes_only_line_starts() {
    snapshot!(indented("java", include_str!("samples/Jumble.java.txt"), &["indent_size=4"]));
}

#[test]
fn broken_code_is_indented_by_its_brackets() {
    snapshot!(indented("java", include_str!("samples/Broken.java.txt"), &["indent_size=4"]));
}

#[test]
fn broken_code_is_laid_out_around_the_break() {
    snapshot!(formatted("java", include_str!("samples/Broken.java.txt"), &["indent_size=4"]));
}

#[test]
fn imports_are_sorted_grouped_and_pruned() {
    let (text, remarks) = organized("java", include_str!("samples/Imports.java.txt"));
    snapshot!(format!("{text}\n{}", remarks.join("\n")));
}

#[test]
fn imports_stay_when_the_file_cannot_be_read() {
    let (text, _) = organized("java", "import b.B;\nimport a.A;\nclass C { void d( { } }\n");
    assert_eq!(text, "import a.A;\nimport b.B;\nclass C { void d( { } }\n");
}

#[test]
fn an_import_is_used_only_where_its_name_stands_alone() {
    for (body, kept) in [
        ("List x;", true),
        ("java.util.List x;", false),
        ("void f() { a.List(); }", false),
        ("/** See {@link List}. */ int x;", true),
        ("// List\nint x;", false),
        ("Object f() { return List::of; }", true),
        ("@List int x;", true),
        ("String s = \"List\";", false),
    ] {
        let (text, _) = organized("java", &format!("package p;\n\nimport java.util.List;\n\nclass A {{ {body} }}\n"));
        assert_eq!(text.contains("import"), kept, "{body}");
    }
}

#[test]
fn lists_and_operands_line_up_where_the_style_says_so() {
    let text = "class A {\n    void b() {\n        conclude(first, second, third + fourth);\n        int[] all = {1, 2, 3, 4, 5, 6, 7, 8, 9};\n        int sum = first + second + third;\n    }\n}\n";
    let list = "class A {\n    void b() {\n        conclude(first,\n                 second,\n                 third + fourth);\n";
    let width = "max_line_length=36";
    assert!(formatted("java", text, &[width, "vknot_align_list=arguments"]).starts_with(list));
    let all = formatted("java", text, &[width, "vknot_align_list=all"]);
    assert!(all.contains("all = {1, 2, 3, 4, 5,\n                     6, 7, 8, 9};"), "{all}");
    let sum = formatted("java", text, &[width, "vknot_align_operand=true"]);
    assert!(sum.contains("int sum = first\n                  + second\n                  + third;"), "{sum}");
    for set in ["vknot_align_list=all", "vknot_align_operand=true"] {
        let once = formatted("java", text, &[width, set]);
        assert_eq!(indented("java", &once, &[width, set]), once);
    }
}
