//! What a reader of Clojure does not take though ours, which holds any text, does (the language's reference, on its reader).

use vknot_syntax::NodeId;

use crate::languages::racket::laws::{data, has_datum};
use crate::spec::Code;
use crate::spec::laws::Law;

pub(super) static LAWS: &[Law] = &[
    Law::Sound { holder: "map", is_sound: keys_have_values },
    Law::Sound { holder: "quoted", is_sound: has_datum },
    Law::Sound { holder: "skipped", is_sound: has_datum },
];

/// A map holds keys with their values, as far as it is told when it is read.
fn keys_have_values(code: Code<'_>, map: NodeId) -> bool {
    let held: Vec<&str> = data(code, map).map(|part| code.text(part)).filter(|text| *text != ",").collect();
    held.len().is_multiple_of(2) || held.iter().any(|text| text.starts_with("#?"))
}
