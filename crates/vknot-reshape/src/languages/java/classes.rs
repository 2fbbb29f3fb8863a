//! Compiled classes in archives: which types they offer (The Java Virtual Machine Specification, chapter 4).

use crate::spec::LibrarySpec;

pub(super) const ARCHIVES: LibrarySpec = LibrarySpec { ending: "jar", offers };

/// The package and the name of a type that an entry of an archive offers to others: a public class that is in no other one.
fn offers(entry: &str, class: &[u8]) -> Option<(String, String)> {
    let path = entry.strip_suffix(".class").filter(|path| !path.starts_with("META-INF/") && !path.contains('$'))?;
    let (package, name) = path.rsplit_once('/').unwrap_or(("", path));
    let plain = !name.contains('-') && !package.is_empty() && is_public(class)?;
    plain.then(|| (package.replace('/', "."), name.to_owned()))
}

/// The number that stands at the head of every class.
const MAGIC: &[u8] = &[0xca, 0xfe, 0xba, 0xbe];
/// The flag of what other packages may use.
const PUBLIC: u8 = 1;

/// Whether a class is public; `None` where it cannot be read.
fn is_public(class: &[u8]) -> Option<bool> {
    class.strip_prefix(MAGIC)?;
    let short = |at: usize| Some(usize::from(u16::from_be_bytes([*class.get(at)?, *class.get(at + 1)?])));
    let count = short(8)?;
    let (mut at, mut index) = (10, 1);
    // The flags stand behind the pool of constants, each of which has the length of its kind (section 4.4).
    while index < count {
        let kind = *class.get(at)?;
        at += 1
            + match kind {
                1 => 2 + short(at + 1)?,
                3 | 4 | 9..=12 | 17 | 18 => 4,
                5 | 6 => 8,
                7 | 8 | 16 | 19 | 20 => 2,
                15 => 3,
                _ => return None,
            };
        index += if matches!(kind, 5 | 6) { 2 } else { 1 };
    }
    Some(class.get(at + 1)? & PUBLIC != 0)
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A class with a constant of each length, and those flags.
    fn class(flags: u8) -> Vec<u8> {
        let mut class = [MAGIC, &[0, 0, 0, 61, 0, 8]].concat();
        class.extend([
            1, 0, 2, b'a', b'b', 3, 0, 0, 0, 1, 5, 0, 0, 0, 0, 0, 0, 0, 2, 7, 0, 1, 15, 1, 0, 1, 12, 0, 1, 0, 1,
        ]);
        class.extend([0, flags]);
        class
    }

    #[test]
    fn public_types_of_a_package_are_offered() {
        let offered = Some(("tide.level".to_owned(), "Gauge".to_owned()));
        assert_eq!(offers("tide/level/Gauge.class", &class(0x21)), offered);
        assert_eq!(offers("tide/level/Gauge.class", &class(0x20)), None);
        for entry in [
            "tide/Gauge$Part.class",
            "Gauge.class",
            "META-INF/versions/17/tide/Gauge.class",
            "tide/package-info.class",
            "tide/a.txt",
        ] {
            assert_eq!(offers(entry, &class(0x21)), None, "{entry}");
        }
        let whole = class(0x21);
        assert!((0..whole.len()).all(|end| offers("tide/Gauge.class", &whole[..end]).is_none()));
    }
}
