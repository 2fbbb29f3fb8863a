//! Includes of C and C++: sorted where that is switched on, each in its author's group, the header of the file itself first. They are never
//! dropped: what a header brings in, and what it takes from those in front of it, no name tells.

use vknot_syntax::NodeId;

use crate::imports::words::has_comment;
use crate::spec::Code;
use crate::spec::imports::{Form, Home, Import};
use crate::spec::{IMPORTS_OF_MOST, ImportSpec};

pub(crate) const IMPORTS: ImportSpec = ImportSpec {
    is_import: |code, id| code.tree.kind_name(id) == "include",
    read,
    home: |import, _| home(import),
    orders: &[
        &["written", "other", "near"],
        &["written", "near", "other"],
        &["written", "standard", "other", "near"],
        &["written", "near", "other", "standard"],
        &["written"],
    ],
    ..IMPORTS_OF_MOST
};

/// How headers end that are included for what they declare. What others hold is text that may be meant for its very place.
const HEADERS: [&str; 6] = [".h", ".hh", ".hpp", ".hxx", ".h++", ".cuh"];

/// What a file's name has behind the name of the header that it tests.
const TESTS: [&str; 4] = ["_test", "_tests", "_unittest", "-test"];

/// `#include <stdio.h>` or `#include "gauge.h"`; not one whose path a macro says.
fn read(code: Code<'_>, id: NodeId) -> Option<Import> {
    let written = code.tree.text_of(code.source.text(), id);
    let word = written.strip_prefix('#')?.trim_start();
    let path = word.strip_prefix("include").map(str::trim).filter(|_| !has_comment(code, id))?;
    let quoted = path.strip_prefix('"').and_then(|path| path.strip_suffix('"'));
    let bracketed = path.strip_prefix('<').and_then(|path| path.strip_suffix('>'));
    let source = quoted.or(bracketed)?;
    let name = source.rsplit(['/', '\\']).next().unwrap_or(source);
    let declares = HEADERS.iter().any(|ending| name.ends_with(ending)) || bracketed.is_some() && !name.contains('.');
    Some(Import {
        head: if quoted.is_some() { "\"" } else { "<" }.to_owned(),
        source: source.to_owned(),
        form: if quoted.is_some() && is_own(code, name) { Form::Own } else { Form::Plain },
        manner: written.to_owned(),
        barrier: !declares,
        required: true,
        fixed: true,
        ..Import::default()
    })
}

/// Whether a header is that of the file that includes it.
fn is_own(code: Code<'_>, header: &str) -> bool {
    let Some(file) = code.source.path().file_stem().and_then(|stem| stem.to_str()) else { return false };
    let header = header.split('.').next().unwrap_or(header);
    let tested = TESTS.iter().find_map(|behind| file.strip_suffix(behind));
    !header.is_empty() && (file == header || tested == Some(header))
}

fn home(import: &Import) -> Home {
    match () {
        () if import.head == "\"" => Home::Near,
        () if is_standard(&import.source) => Home::Standard,
        () => Home::Other,
    }
}

/// Whether a header is one of the language's own: those that ISO/IEC 9899:2024, 7.1.2, and ISO/IEC 14882:2023, 16.4.2.3, name.
fn is_standard(header: &str) -> bool {
    let name = header.strip_suffix(".h").or_else(|| header.strip_prefix('c'));
    name.is_some_and(|name| OF_C.contains(&name)) || OF_CPP.contains(&header)
}

const OF_C: [&str; 31] = [
    "assert", "complex", "ctype", "errno", "fenv", "float", "inttypes", "iso646", "limits", "locale", "math", "setjmp",
    "signal", "stdalign", "stdarg", "stdatomic", "stdbit", "stdbool", "stdckdint", "stddef", "stdint", "stdio",
    "stdlib", "stdnoreturn", "string", "tgmath", "threads", "time", "uchar", "wchar", "wctype",
];

const OF_CPP: [&str; 83] = [
    "algorithm", "any", "array", "atomic", "barrier", "bit", "bitset", "charconv", "chrono", "codecvt", "compare",
    "complex", "concepts", "condition_variable", "coroutine", "deque", "exception", "execution", "expected",
    "filesystem", "flat_map", "flat_set", "format", "forward_list", "fstream", "functional", "future", "generator",
    "initializer_list", "iomanip", "ios", "iosfwd", "iostream", "istream", "iterator", "latch", "limits", "list",
    "locale", "map", "mdspan", "memory", "memory_resource", "mutex", "new", "numbers", "numeric", "optional",
    "ostream", "print", "queue", "random", "ranges", "ratio", "regex", "scoped_allocator", "semaphore", "set",
    "shared_mutex", "source_location", "span", "spanstream", "sstream", "stack", "stacktrace", "stdexcept",
    "stdfloat", "stop_token", "streambuf", "string", "string_view", "strstream", "syncstream", "system_error",
    "thread", "tuple", "type_traits", "typeindex", "typeinfo", "unordered_map", "unordered_set", "utility",
    "valarray",
];
