pub(super) const IMPORTS: crate::imports::ImportSpec = crate::imports::ImportSpec {};
