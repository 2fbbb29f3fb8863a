//! stub
pub(crate) struct LookSpec { pub details: &'static [(&'static str, &'static [&'static str])] }
pub(crate) const LOOKS: LookSpec = LookSpec { details: &[] };
