//! A text with all that is known of it: what steps work on.

use std::sync::{Arc, OnceLock};

use vknot_style::Style;
use vknot_syntax::{Embedded, Language, Limits, same_lexemes, Source, Span, Tree};

use crate::edits::Edits;
use crate::looks::{Marks, NamedSpan};
use crate::reshape::Reshape;
use crate::spec::Code;

/// A text with its tree, its project's marks, its style, and limits for the work on it.
#[derive(Clone, Debug)]
pub struct Document {
    source: Arc<Source>,
    language: &'static Language,
    /// Read when it is first asked for.
    tree: OnceLock<Arc<Tree>>,
    marks: Arc<Marks>,
    style: Arc<Style>,
    limits: Limits,
}

impl Document {
    /// A text in a language. Nothing is read yet.
    pub fn new(source: Source, language: &'static Language, style: Style) -> Document {
        Document {
            source: Arc::new(source),
            language,
            tree: OnceLock::new(),
            marks: Arc::default(),
            style: Arc::new(style),
            limits: Limits::default(),
        }
    }

    /// The same with another text.
    pub(crate) fn with_text(&self, text: String) -> Document {
        let source = Source::from_text(self.source.path(), text);
        Document { source: Arc::new(source), tree: OnceLock::new(), ..self.clone() }
    }

    /// The same as layout or indentation makes it.
    pub(crate) fn laid_out(&self, reshape: &Reshape) -> Document {
        let laid_out = self.with_text(reshape.edits.apply(self.source.text()));
        laid_out.tree.get_or_init(|| Arc::new(self.code().tree_after(reshape, &laid_out.source)));
        laid_out
    }

    /// A piece of another language in it, as a document of its own.
    pub(super) fn piece(&self, piece: &Embedded) -> Document {
        Document {
            source: Arc::new(piece.source.clone()),
            language: piece.tree.language(),
            tree: OnceLock::new(),
            marks: Arc::default(),
            ..self.clone()
        }
    }

    /// The same with its project's marks.
    pub fn with_marks(self, marks: Marks) -> Document {
        Document { marks: Arc::new(marks), ..self }
    }

    /// The same with another style.
    pub fn with_style(self, style: Style) -> Document {
        Document { style: Arc::new(style), ..self }
    }

    /// The same within limits.
    pub fn within(self, limits: Limits) -> Document {
        Document { limits, ..self }
    }

    /// The text.
    pub fn source(&self) -> &Source {
        &self.source
    }

    /// The language it is in.
    pub fn language(&self) -> &'static Language {
        self.language
    }

    /// Its tree.
    pub fn tree(&self) -> &Tree {
        self.tree.get_or_init(|| Arc::new(Tree::read_within(&self.source, self.language, &self.limits)))
    }

    /// The project's marks and the file's pins.
    pub fn marks(&self) -> &Marks {
        &self.marks
    }

    /// Its style.
    pub fn style(&self) -> &Style {
        &self.style
    }

    /// Whether work on it is to end.
    pub fn is_stopped(&self) -> bool {
        self.limits.is_stopped()
    }

    /// Text and tree together, as looks take them.
    pub fn code(&self) -> Code<'_> {
        Code::of(&self.source, self.tree())
    }

    /// The document as edits make it. Pins move along with the text.
    pub(super) fn changed(&self, edits: &Edits) -> Document {
        let text = edits.apply(self.source.text());
        let moved = |pin: &NamedSpan| {
            // What is put in behind its last byte is not its own.
            let last = pin.span.end.saturating_sub(1).max(pin.span.start);
            let span = Span::new(edits.moved(pin.span.start), edits.moved(last) + u32::from(!pin.span.is_empty()));
            NamedSpan { name: pin.name.clone(), span }
        };
        let marks = match self.marks.pins.is_empty() {
            true => Arc::clone(&self.marks),
            false => Arc::new(Marks { pins: self.marks.pins.iter().map(moved).collect(), ..(*self.marks).clone() }),
        };
        Document {
            source: Arc::new(Source::from_text(self.source.path(), text)),
            language: self.language,
            tree: OnceLock::new(),
            marks,
            style: Arc::clone(&self.style),
            limits: self.limits.clone(),
        }
    }

    /// Whether another text is made of the same lexemes, in a language that does not read the white space between them. A `false` only
    /// says that this cannot tell.
    pub(super) fn same_lexemes(&self, other: &Document) -> bool {
        let lexis = self.language.reading().lexis;
        lexis.is_some_and(|lexis| same_lexemes(self.source.text(), other.source.text(), lexis))
    }
}
