use vknot_reshape::*; use vknot_syntax::*; use vknot_style::Style;
fn main(){ let p=std::env::args().nth(1).unwrap(); let s=Source::from_bytes(&p,std::fs::read(&p).unwrap()).unwrap();
let l=Language::for_path(s.path()).unwrap(); let t=Tree::read(&s,l);
if std::env::args().nth(2).as_deref()==Some("tree"){ for (i,n) in t.nodes().iter().enumerate(){ let d=t.ancestors(NodeId(i as u32)).count(); println!("{}{} {:?} {:?}", "  ".repeat(d), l.kind_name(n.kind), l.field_name(n.field), if n.is_leaf(){t.text_of(s.text(),NodeId(i as u32))}else{""}); } return; }
let r= if std::env::args().nth(2).as_deref()==Some("indent") {layout::indent(&s,&t,&Style::defaults(l.name()),None)} else {layout::format(&s,&t,&Style::defaults(l.name()),None)};
print!("{}", r.edits.apply(s.text())); if let Err(e)=proof::prove_layout(&s,&t,&r){eprintln!("{e}")} }
