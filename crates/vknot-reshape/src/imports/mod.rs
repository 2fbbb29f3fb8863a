//! stub
pub(crate) struct ImportSpec {}
