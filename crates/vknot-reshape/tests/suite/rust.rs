//! Rust: layout by construct, macros, trailing commas, `use` trees.

use crate::support::{formatted, indented, organized, shown};

fn statements(code: &str, set: &[&str]) -> String {
    let text = formatted("rust", &format!("fn read() {{\n{code}\n}}"), set);
    let lines = text.lines().collect::<Vec<_>>();
    lines[1..lines.len() - 1].iter().map(|line| format!("{}\n", line.strip_prefix("    ").unwrap_or(line))).collect()
}

fn items(code: &str, set: &[&str]) -> String {
    formatted("rust", code, set)
}

fn all(layout: fn(&str, &[&str]) -> String, cases: &[(&'static str, &str)], set: &[&str]) -> String {
    let cases: Vec<(&str, String)> = cases.iter().map(|(name, code)| (*name, layout(code, set))).collect();
    shown(&cases)
}

#[test]
fn statements_are_laid_out() {
    snapshot!(all(statements, &[
        ("spaces", "let  a:u32=-1+b*2 ;let mut c= & mut d;let e=!f&&g;let h= * i;x+=1 ;a [ 0 ]=b ..=c;"),
        ("conditional as a value", "let a=if b{1}else{2};let c=if d{e()}else if f{g()}else{h()};"),
        ("conditional as a statement", "if a{b();}else{c()}"),
        ("if let and let else", "if let Some(a)=b{c();} let Some(d)=e else{return};while let Ok(f)=g{h();}"),
        ("match", "match a{1|2=>b(),Some(x)if x>3=>{c();}_=>d,}"),
        ("loops and labels", "'outer:loop{break 'outer;} for i in 0..n{a(i);} while b{c();}"),
        ("closures", "let f=|a:u32,b|a+b;let g=move||{h();i()};let j=|_|->u32{1};k(|x|x+1);"),
        ("calls and chains", "a.b( c ).d?.e.await?;f::<u8>( );g(h,i)(j);"),
        ("structs", "let a=Point{x:1,y:2};let b=Point{x,..c};let Point{x,..}=d;"),
        ("tuples and arrays", "let (a,b)=(1,2);let c=[0;4];let d=[1,2,\n3];let e=(1,);"),
        ("casts and ranges", "let a=b as u32 as f64;for i in ..=3{} let c=&d[1..];"),
        ("macros keep their insides", "println!(\"{}\",a);vec![ 1,2 ];tide!{ low=>high }\nassert!(\na ,\n  b\n);"),
        ("unsafe and async", "let a=unsafe{*b};let c=async move{d().await};"),
        ("raw strings", "let a=r#\"x\n  y\"#;"),
    ], &[]));
}

#[test]
fn long_lines_are_wrapped() {
    snapshot!(all(statements, &[
        ("arguments", "self.record(reading_of_north_harbour, reading_of_long_bar, reading_of_skerry_light, 15)?;"),
        ("chain", "let top = readings.iter().filter(|r| !r.doubtful).map(|r| r.level).fold(f64::MIN, f64::max);"),
        ("chain with a block", "let all = readings.iter().map(|reading| { let level = reading.level; level * 2.0 }).collect();"),
        ("operators", "let alarm = surge_is_above_threshold && wind_is_north_west || pressure_is_falling && rising;"),
        ("header", "if surge_is_above_threshold && wind_is_from_the_north_west && pressure_is_falling { warn(); }"),
        ("struct", "let notice = Notice { station: station.name.clone(), level: Level::Warning, lasting: minutes };"),
        ("struct in a call", "send(Notice { station: station.name.clone(), level: Level::Warning, lasting: minutes });"),
        ("value on the next line", "let readings_of_all_stations: Vec<Reading> = collect_readings_of(&stations_of_network);"),
        ("patterns", "match level { Level::Quiet | Level::Watch | Level::Falling | Level::Rising | Level::Unknown => 1, _ => 2 }"),
        ("below a closing bracket", "alt((first_of_all, second_of_all, third_of_all, fourth)).context(\"level\").parse(input)"),
        ("what is done without a value", "let Some(level)=gauge.read().of(station).at(hour_of_the_highest_tide).above(zero) else{return;}; let Some(level)=gauge.read()\nelse{return}; let Some(level)=measured_height_of_the_water_of(gauge, hour) else{return;};"),
        ("alternatives break together", "let warning = if surge > threshold_of_warning { Level::Warning } else { Level::Quiet };"),
    ], &["max_line_length=80"]));
}

#[test]
fn items_are_laid_out() {
    snapshot!(all(items, &[
        ("struct", "#[derive(Debug,Clone)] pub struct Gauge<'a,T:Clone+'a>where T:Send{pub name:&'a str,pub(crate)level:f64}"),
        ("tuple and unit structs", "struct Metres(pub f64);struct Nothing;"),
        ("enum", "enum Level{Quiet,Watch{since:u32},Warning(f64),#[cfg(x)]Odd=3}"),
        ("function", "pub async unsafe fn read<T>(&mut self,a:&[u8],b:impl Fn(u8)->u8)->Result<T,Box<dyn Error+Send>>where T:Default{todo!()}"),
        ("trait", "pub trait Sink:Send+Sync{type Item;const N:usize=3;fn take(&self,item:Self::Item)->bool;}"),
        ("impl", "impl<T>Sink for Gauge<T>{fn take(&self,_:T)->bool{true} fn drop(self){}}"),
        ("use", "use std::{fmt,io::{self,Read}};pub(crate) use self::a::*;use b as c;"),
        ("modules and constants", "mod a;pub mod b{pub const C:u32=1;static mut D:u8=2;type E=Vec<u8>;}"),
        ("attributes", "#![allow(dead_code)]\n#[test] fn a(){}\n#[inline]\n#[must_use]\nfn b(){}"),
        ("doc comments", "//! Crate.\n\n    /// Item.\n  fn a(){} // behind\n/** Block. */ fn b(){}"),
        ("long signature", "pub fn find(stations: &[Station], foretold: &HashMap<StationId, f64>, threshold: f64, x: u8) -> u8 { 1 }"),
        ("macro rules", "macro_rules! tide{($a:expr)=>{ $a  +1 };}"),
        ("extern", "extern \"C\"{fn level(station:*const u8)->f64;}"),
        ("lifetimes and bounds", "fn a<'a,F>(f:F)->&'a str where F:for<'b>Fn(&'b str)->&'a str{f(\"\")}"),
    ], &[]));
}

#[test]
fn trailing_commas_can_be_left_out() {
    let code = "fn a() { send(station_of_north_harbour, level_of_the_surge); }";
    let kept = formatted("rust", code, &["max_line_length=40", "vknot_wrap_comma=keep"]);
    let added = formatted("rust", code, &["max_line_length=40"]);
    assert!(kept.contains("level_of_the_surge\n"), "{kept}");
    assert!(added.contains("level_of_the_surge,\n"), "{added}");
}

#[test]
fn indentation_follows_structure() {
    let text = "impl A {\nfn b() {\nc\n.d()\n.e(|x| {\nx\n});\nmatch f {\ng =>\nh,\n}\nm!{\n  raw\n    raw\n}\n}\n}\n";
    snapshot!(indented("rust", text, &["indent_size=4"]));
}

#[test]
fn use_trees_are_sorted_and_merged() {
    let (text, remarks) = organized("rust", include_str!("samples/imports.rs.txt"));
    snapshot!(format!("{text}\n{}", remarks.join("\n")));
}

#[test]
fn what_an_author_broke_well_stays() {
    let kept = [
        (
            "links below a first part of several lines",
            "    let gauge = open(|| {\n        connect()\n    })\n    .await?;",
        ),
        ("the only link", "    let level = readings\n        .last();"),
        ("a field in front of a call", "    let level = self\n        .gauge\n        .read();"),
        (
            "the last arguments",
            "    self.network.record(\n        reading_of_north_harbour,\n        reading_of_skerry_light,\n    );",
        ),
        (
            "the only argument",
            "    send(Notice::new(Level::of(\n        reading_of_north_harbour,\n        reading_of_skerry_light,\n    )?));",
        ),
        (
            "a tuple as the only argument",
            "    queue.push((\n        reading_of_north_harbour_before,\n        reading_of_skerry_light_and_more,\n    ));",
        ),
        (
            "a conditional below its name",
            "    let warning_of_the_tide =\n        if surge > threshold { Level::Warning } else { Level::Quiet };",
        ),
        (
            "links behind a bracket in a macro",
            "    assert_eq!(\n        read(\n            gauge,\n        )\n        .level()\n        .rounded(),\n        3\n    );",
        ),
    ];
    for (name, code) in kept {
        let text = format!("fn read() {{\n{code}\n}}\n");
        assert_eq!(formatted("rust", &text, &["max_line_length=80"]), text, "{name}");
    }
    let kept = [
        ("a comment below an attribute", "#[inline]\n/// Reads the gauge.\nfn read() {}\nfn write() {}\n"),
        ("an attribute beside an import", "#[cfg(test)] use std::fmt;\n#[cfg(test)]\nuse std::io;\n"),
        (
            "a clause behind a bracket",
            "fn read<T>(\n    gauge_of_north_harbour: &Gauge<T>,\n    since_the_last_tide: Minutes,\n) where\n    T: Source,\n{}\n",
        ),
        ("a clause of one line", "fn read<T>() -> T\nwhere T: Source {\n    todo()\n}\n"),
        ("a clause behind a bound", "trait Gauge {\n    type Level<'a>: Source<'a> where Self: 'a;\n}\n"),
        (
            "a long header",
            "impl<Reading, Channel: Source<Reading>> Iterator\n    for ReadingsOfChannel<Reading, Channel>\n{}\n",
        ),
        (
            "names behind lists",
            "use tide::{\n    level::{Level, Surge},\n    network::station::Registration,\n    network::station::StationOfNetwork,\n    Gauge, Reading,\n};\n",
        ),
        ("a blank line in a module", "mod tests {\n\n    use super::*;\n}\n"),
        ("a sign of several bytes", "const SIGNS: [&str; 2] = [\n    \"−\",  // minus\n    \"--\", // two\n];\n"),
    ];
    for (name, text) in kept {
        assert_eq!(formatted("rust", text, &["max_line_length=80", "vknot_blank_item=0"]), text, "{name}");
    }
}

#[test]
fn heads_of_implementations_stay_as_their_author_broke_them() {
    let kept = [
        "impl<R> Reader for R where R: Source {}\n",
        "struct Gauge<T>(T) where T: Level;\n",
        "impl<Container, From: Level, To: Level>\n    Convert<Readings<To, Vec<To::Reading>>> for Readings<From, Container>\nwhere\n    Container: Deref,\n{}\n",
        // A comment behind the last arm asks for no comma.
        "fn most(at: u8) {\n    match at {\n        1 => {\n            low();\n        } // ebb\n        _ => {\n            high();\n        } // flow\n    }\n}\n",
    ];
    for text in kept {
        assert_eq!(formatted("rust", text, &["max_line_length=76"]), text);
    }
    let text = "impl<R> Reader for R where R: Source,\nR: Level {}\nfn read<R>(of: R) where R: Source { of.read() }\n";
    let apart = "impl<R> Reader for R\nwhere\n    R: Source,\n    R: Level,\n{}\nfn read<R>(of: R)\nwhere\n    R: Source,\n{\n    of.read()\n}\n";
    assert_eq!(formatted("rust", text, &[]), apart);
}

#[test]
fn blank_lines_around_items_are_a_setting() {
    let text = "fn a() {}\nfn b() {}\nconst C: u8 = 1;\n/// D.\nfn d() {}\n";
    assert_eq!(formatted("rust", text, &[]), text);
    let apart = "fn a() {}\n\nfn b() {}\n\nconst C: u8 = 1;\n\n/// D.\nfn d() {}\n";
    assert_eq!(formatted("rust", text, &["vknot_blank_item=1"]), apart);
}

#[test]
fn imports_that_grow_are_laid_out() {
    let text = "use tide::zero::Zero;\nuse tide::level::{LevelOfNorthHarbour, LevelOfSkerryLight};\nuse tide::level::{LevelOfLongBar, LevelOfTheEstuary, Surge};\n\nfn read() { }\n";
    snapshot!(organized("rust", text).0);
}

#[test]
fn what_settles_after_some_rounds_is_laid_out_with_its_commas() {
    // Where columns stay lined up depends on the lines that are left in them.
    let code = "\
impl Iterator for Surge {
    fn next(&mut self) -> Option<u16> {
        match (self.first, self.second) {
            (FIRST_USED, SECOND_USED)  =>  {                            None        },
            (FIRST_USED, second     )  =>  {self.second = SECOND_USED;  Some(second)},
            (first     ,      _     )  =>  {self.first = FIRST_USED;    Some(first )}
        }
    }
    fn levels() -> Levels {
        Levels {
            first: FIRST_USED,
            second: SECOND_USED
        }
    }
}
";
    snapshot!(formatted("rust", code, &[]));
}

#[test]
fn items_that_a_macro_repeats_stand_below_each_other() {
    let items = |blank: &str| {
        let lines = [
            "impl Station for $name {",
            "    fn $level(&self) {",
            "    }",
            "}",
            "",
            "impl Gauge for $name {",
            "    type Level = u32;",
            "}",
        ];
        lines.map(|line| if line.is_empty() { "\n".to_owned() } else { format!("{blank}{line}\n") }).concat()
    };
    let text = |blank: &str| {
        format!("macro_rules! stations {{\n    ($($name:ident)+) => {{\n        $(\n{}        )+\n    }};\n}}\n", items(blank))
    };
    for blank in ["        ", "            "] {
        assert_eq!(formatted("rust", &text(blank), &[]), text(blank));
    }
}

#[test]
fn what_is_given_back_stands_further_in_also_at_the_end_of_a_block() {
    let wide = ["max_line_length=40"];
    let sum = "low_level_of(gauge) && high(gauge) && tide()";
    let broken = "low_level_of(gauge)\n        && high(gauge)\n        && tide()";
    let given = |word: &str, end: &str| format!("fn read() {{\n    {word} {sum}{end}\n}}\n");
    for (word, end) in [("return", ""), ("return", ";"), ("break", ""), ("break 'tide", ";")] {
        let laid_out = items(&given(word, end), &wide);
        assert_eq!(laid_out, format!("fn read() {{\n    {word} {broken}{end}\n}}\n"));
    }
}

#[test]
fn spaces_in_macros_count_for_what_fits() {
    let text = "fn read() -> bool {\n    is!(low, high, ebb, flow, neap) || tide() || of('>')\n}\n";
    let broken = text.replace(" || ", "\n        || ");
    for width in 52..56 {
        assert_eq!(items(text, &[&format!("max_line_length={width}")]), broken, "{width}");
    }
}
