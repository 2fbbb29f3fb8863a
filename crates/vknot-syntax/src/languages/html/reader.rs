//! Reads markup as it is found: end tags may be left out where the HTML standard allows it, tags may be stray, templates may stand anywhere.
//!
//! Source: the HTML Living Standard, sections "Optional tags" and "Void elements".

use std::collections::HashMap;

use crate::language::Field;
use crate::reading::{char_len, kinds, word_end};
use crate::tree::{NodeId, TreeBuilder};

kinds! {
    PAGE = "page" as File,
    ELEMENT = "element" as Element,
    OPENING_TAG = "opening_tag" as Open,
    LONE_TAG = "tag",
    CLOSING_TAG = "closing_tag" as Close,
    TAG_NAME = "tag_name" as Name,
    ATTRIBUTE = "attribute" as Attribute,
    ATTRIBUTE_NAME = "attribute_name" as Name,
    VALUE = "value" as String,
    TEXT = "text" as Inert,
    RAW = "raw" as Inert,
    PRESERVED = "preserved" as Inert,
    COMMENT = "comment" as Comment,
    DECLARATION = "declaration",
    TEMPLATE = "template" as Macro,
    MARK = "<",
}

/// Reads a text.
pub(super) fn read(text: &str, builder: &mut TreeBuilder<'_>) {
    builder.open(PAGE, Field(0));
    let mut reader = Reader { text, bytes: text.as_bytes(), builder, open: Vec::new(), counts: HashMap::new() };
    let mut at = 0;
    while at < text.len() {
        at = reader.piece(at).max(at + 1);
    }
    reader.close_to(0);
}

/// An element that is open.
struct Open {
    name: String,
    tag: NodeId,
    /// Whether it wants the first text inside for its name.
    heading: Option<NodeId>,
}

struct Reader<'r, 't> {
    text: &'r str,
    bytes: &'r [u8],
    builder: &'r mut TreeBuilder<'t>,
    open: Vec<Open>,
    /// How many elements of each name are open.
    counts: HashMap<String, u32>,
}

impl Reader<'_, '_> {
    /// One tag, comment, template mark or run of text; gives where it ends.
    fn piece(&mut self, at: usize) -> usize {
        let rest = &self.text[at..];
        let next = self.bytes.get(at + 1).copied().unwrap_or(b' ');
        if let Some(end) = self.template(at) {
            self.builder.token(TEMPLATE, at, end);
            return end;
        }
        match self.bytes[at] {
            b'<' if rest.starts_with("<!--") => {
                let end = rest[4..].find("-->").map_or(self.text.len(), |end| at + end + 7);
                self.builder.token(COMMENT, at, end);
                end
            }
            b'<' if matches!(next, b'!' | b'?') => {
                let closing = if rest.starts_with("<![CDATA[") { "]]>" } else { ">" };
                let end = rest.find(closing).map_or(self.text.len(), |end| at + end + closing.len());
                self.builder.token(DECLARATION, at, end);
                end
            }
            b'<' if next == b'/' && self.bytes.get(at + 2).is_some_and(u8::is_ascii_alphabetic) => self.closing_tag(at),
            b'<' if next.is_ascii_alphabetic() => self.opening_tag(at),
            byte if byte.is_ascii_whitespace() && !self.is_preserved() =>
                word_end(self.bytes, at, |byte| byte.is_ascii_whitespace()),
            _ => self.run_of_text(at),
        }
    }

    /// Marks of templates: `{{ }}`, `{% %}`, `{# #}`, `<% %>`, `<?name ?>`.
    fn template(&self, at: usize) -> Option<usize> {
        let closing = match (self.bytes[at], self.bytes.get(at + 1)?) {
            (b'{', b'{') => "}}",
            (b'{', b'%') => "%}",
            (b'{', b'#') => "#}",
            (b'<', b'%') => "%>",
            (b'<', b'?') => "?>",
            _ => return None,
        };
        let limit = self.text.len().min(at + TEMPLATE_AT_MOST);
        let found = memchr::memmem::find(&self.bytes[at + 2..limit], closing.as_bytes());
        found.map(|end| at + end + 2 + closing.len())
    }

    fn run_of_text(&mut self, at: usize) -> usize {
        let mut end = at + char_len(self.bytes[at]);
        while let Some(found) = memchr::memchr2(b'<', b'{', self.bytes.get(end..).unwrap_or(b"")) {
            end += found;
            let next = self.bytes.get(end + 1).copied().unwrap_or(b' ');
            let tag =
                self.bytes[end] == b'<' && (next.is_ascii_alphabetic() || matches!(next, b'/' | b'!' | b'?' | b'%'));
            if tag || self.bytes[end] == b'{' && self.template(end).is_some() {
                self.text_token(at, end);
                return end;
            }
            end += 1;
        }
        self.text_token(at, self.text.len());
        self.text.len()
    }

    fn text_token(&mut self, start: usize, end: usize) {
        match self.is_preserved() {
            true => self.builder.exact(PRESERVED, start, end),
            false => self.builder.token(TEXT, start, end),
        }
        let leaf = self.builder.last();
        if let Some(open) = self.open.last_mut() && open.heading.take().is_some() {
            self.builder.set_field(leaf, Field::NAME);
        }
    }

    /// Whether white space is shown as it is.
    fn is_preserved(&self) -> bool {
        self.counts.get("pre").is_some_and(|open| *open > 0)
    }

    fn opening_tag(&mut self, at: usize) -> usize {
        let name_end = word_end(self.bytes, at + 1, is_name);
        let name = self.text[at + 1..name_end].to_ascii_lowercase();
        self.end_implied(&name);
        let void = VOID.contains(&name.as_str());
        let element = self.builder.open(ELEMENT, Field(0));
        let tag = self.builder.open(OPENING_TAG, Field::PARAMETERS);
        self.builder.token(MARK, at, at + 1);
        self.builder.token(TAG_NAME, at + 1, name_end);
        let tag_name = self.builder.last();
        let (end, closed, identified) = self.attributes(name_end);
        self.builder.close();
        if !identified && SECTIONING.contains(&name.as_str()) {
            self.builder.set_field(tag_name, Field::NAME);
        }
        if void || closed {
            self.builder.retag(tag, LONE_TAG);
            self.builder.close();
            return end;
        }
        if RAW_ELEMENTS.contains(&name.as_str()) {
            return self.raw(&name, end);
        }
        let heading = HEADINGS.contains(&name.as_str()).then_some(element);
        *self.counts.entry(name.clone()).or_default() += 1;
        self.open.push(Open { name, tag, heading });
        end
    }

    /// Attributes up to the tag's end: where that is, whether the tag closes itself, whether there was an `id`.
    fn attributes(&mut self, from: usize) -> (usize, bool, bool) {
        let mut at = from;
        let mut identified = false;
        while let Some(&byte) = self.bytes.get(at) {
            match byte {
                b'>' => {
                    self.builder.token(MARK, at, at + 1);
                    return (at + 1, false, identified);
                }
                b'/' if self.bytes.get(at + 1) == Some(&b'>') => {
                    self.builder.token(MARK, at, at + 2);
                    return (at + 2, true, identified);
                }
                // The tag was never ended.
                b'<' if self.template(at).is_none() => return (at, false, identified),
                _ if byte.is_ascii_whitespace() => at += 1,
                _ => match self.template(at) {
                    Some(end) => {
                        self.builder.token(TEMPLATE, at, end);
                        at = end;
                    }
                    None => (at, identified) = self.attribute(at, identified),
                },
            }
        }
        (self.bytes.len(), false, identified)
    }

    fn attribute(&mut self, at: usize, mut identified: bool) -> (usize, bool) {
        let ends = |byte: u8| byte.is_ascii_whitespace() || matches!(byte, b'=' | b'>' | b'"' | b'\'' | b'<');
        let mut end = word_end(self.bytes, at + 1, |byte| !ends(byte) && byte != b'/' && byte != b'{').max(at + 1);
        if self.bytes[at] == b'"' || self.bytes[at] == b'\'' {
            end = at + 1;
        }
        while !self.text.is_char_boundary(end) {
            end += 1;
        }
        let node = self.builder.open(ATTRIBUTE, Field(0));
        self.builder.token(ATTRIBUTE_NAME, at, end);
        let blank = |byte: u8| byte.is_ascii_whitespace();
        let equals = word_end(self.bytes, end, blank);
        let mut stop = end;
        if self.bytes.get(equals) == Some(&b'=') {
            self.builder.token(MARK, equals, equals + 1);
            let start = word_end(self.bytes, equals + 1, blank);
            stop = self.value_end(start);
            if stop > start {
                self.builder.token(VALUE, start, stop);
                if self.text[at..end].eq_ignore_ascii_case("id") {
                    self.builder.set_field(self.builder.last(), Field::NAME);
                    self.builder.set_field(node, Field::PARAMETERS);
                    identified = true;
                }
            }
        }
        self.builder.close();
        (stop.max(end), identified)
    }

    fn value_end(&self, start: usize) -> usize {
        match self.bytes.get(start) {
            Some(&quote @ (b'"' | b'\'')) => self.quoted_end(start, quote),
            Some(_) => {
                let end = word_end(self.bytes, start, |byte| !byte.is_ascii_whitespace() && byte != b'>');
                self.template(start).map_or(end, |template| template.max(end))
            }
            None => start,
        }
    }

    /// A quoted value; templates inside may hold quotes of their own.
    fn quoted_end(&self, start: usize, quote: u8) -> usize {
        let mut at = start + 1;
        while let Some(found) = memchr::memchr3(quote, b'{', b'<', self.bytes.get(at..).unwrap_or(b"")) {
            at += found;
            if self.bytes[at] == quote {
                return at + 1;
            }
            at = self.template(at).unwrap_or(at + 1);
        }
        // Without an end it goes no further than its line.
        word_end(self.bytes, start, |byte| byte != b'\n' && byte != b'>')
    }

    /// The text of a script or style up to its closing tag.
    fn raw(&mut self, name: &str, at: usize) -> usize {
        let mut from = at;
        let closing = loop {
            let Some(found) = memchr::memmem::find(&self.bytes[from..], b"</") else { break None };
            let end = from + found + 2 + name.len();
            if self.bytes.get(from + found + 2..end).is_some_and(|found| found.eq_ignore_ascii_case(name.as_bytes())) {
                break Some(from + found);
            }
            from += found + 2;
        };
        let end = closing.unwrap_or(self.text.len());
        let code = matches!(name, "script" | "style");
        if name == "textarea" {
            self.builder.exact(PRESERVED, at, end);
        } else if !self.text[at..end].trim().is_empty() {
            self.builder.token(if code { RAW } else { TEXT }, at, end);
        }
        let end = closing.map_or(self.text.len(), |closing| self.tag_token(closing));
        self.builder.close();
        end
    }

    /// A closing tag as one node.
    fn tag_token(&mut self, at: usize) -> usize {
        let name_end = word_end(self.bytes, at + 2, is_name);
        let end = memchr::memchr2(b'>', b'<', &self.bytes[name_end..])
            .map_or(self.text.len(), |found| name_end + found + usize::from(self.bytes[name_end + found] == b'>'));
        self.builder.token(CLOSING_TAG, at, end);
        end
    }

    fn closing_tag(&mut self, at: usize) -> usize {
        let name_end = word_end(self.bytes, at + 2, is_name);
        let name = self.text[at + 2..name_end].to_ascii_lowercase();
        if self.counts.get(&name).is_none_or(|count| *count == 0) {
            return self.tag_token(at);
        }
        let found = self.open.iter().rposition(|open| open.name == name).unwrap_or(0);
        self.close_to(found + 1);
        let end = self.tag_token(at);
        if let Some(open) = self.open.pop() {
            self.forget(&open.name);
            self.builder.close();
        }
        end
    }

    /// Ends elements without an end tag until `depth` are open.
    fn close_to(&mut self, depth: usize) {
        while self.open.len() > depth {
            let Some(open) = self.open.pop() else { return };
            if OPTIONAL_END.contains(&open.name.as_str()) {
                self.builder.retag(open.tag, LONE_TAG);
            }
            self.forget(&open.name);
            self.builder.close();
        }
    }

    fn forget(&mut self, name: &str) {
        if let Some(count) = self.counts.get_mut(name) {
            *count = count.saturating_sub(1);
        }
    }

    /// Ends the elements whose end tag a new element's start stands for.
    fn end_implied(&mut self, name: &str) {
        while let Some(last) = self.open.last() {
            let ends = ENDED_BY.iter().any(|(open, by)| *open == last.name && by.contains(&name));
            if !ends {
                return;
            }
            self.close_to(self.open.len() - 1);
        }
    }
}

fn is_name(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || matches!(byte, b'-' | b'_' | b':' | b'.')
}

/// How long a template's mark may be.
const TEMPLATE_AT_MOST: usize = 20_000;

const VOID: [&str; 17] = [
    "area", "base", "basefont", "br", "col", "embed", "frame", "hr", "img", "input", "keygen", "link", "meta", "param",
    "source", "track", "wbr",
];

const RAW_ELEMENTS: [&str; 4] = ["script", "style", "textarea", "title"];

const HEADINGS: [&str; 8] = ["h1", "h2", "h3", "h4", "h5", "h6", "caption", "legend"];

/// Elements that have an outline entry without an `id`.
const SECTIONING: [&str; 20] = [
    "html", "head", "body", "header", "main", "nav", "section", "article", "aside", "footer", "form", "table",
    "template", "script", "style", "svg",
    "dialog", "fieldset", "select", "video",
];

/// Elements whose end tag may be left out.
const OPTIONAL_END: [&str; 20] = [
    "html", "head", "body", "p", "li", "dt", "dd", "rt", "rp", "optgroup", "option", "colgroup", "caption", "thead",
    "tbody", "tfoot", "tr", "td",
    "th", "frameset",
];

const BLOCKS: &[&str] = &[
    "address", "article", "aside", "blockquote", "center", "details", "dialog", "dir", "div", "dl", "fieldset",
    "figcaption", "figure", "footer", "form",
    "h1", "h2", "h3", "h4", "h5", "h6", "header", "hr", "main", "menu", "nav", "ol", "p", "pre", "section", "table",
    "ul", "li", "dt", "dd", "td",
    "th", "tr",
];

/// Which elements end where which others begin.
const ENDED_BY: [(&str, &[&str]); 15] = [
    ("p", BLOCKS),
    ("li", &["li"]),
    ("dt", &["dt", "dd"]),
    ("dd", &["dt", "dd"]),
    ("option", &["option", "optgroup"]),
    ("optgroup", &["optgroup"]),
    ("tr", &["tr", "tbody", "tfoot", "thead"]),
    ("td", &["td", "th", "tr", "tbody", "tfoot", "thead"]),
    ("th", &["td", "th", "tr", "tbody", "tfoot", "thead"]),
    ("thead", &["tbody", "tfoot"]),
    ("tbody", &["tbody", "tfoot", "thead"]),
    ("colgroup", &["thead", "tbody", "tfoot", "tr", "colgroup"]),
    ("caption", &["thead", "tbody", "tfoot", "tr", "colgroup", "col"]),
    ("head", &["body"]),
    ("rt", &["rt", "rp"]),
];
