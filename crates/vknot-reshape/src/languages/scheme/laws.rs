//! What a reader of Scheme does not take though ours, which holds any text, does (R7RS, section 7.1.2).

use crate::languages::racket::laws::{has_datum, no_dot, one_dot};
use crate::spec::laws::Law;

pub(super) static LAWS: &[Law] = &[
    Law::Sound { holder: "form", is_sound: one_dot },
    Law::Sound { holder: "vector", is_sound: no_dot },
    Law::Sound { holder: "quoted", is_sound: has_datum },
    Law::Sound { holder: "skipped", is_sound: has_datum },
];
