//! Pictures that documents carry inside themselves, made fit to be files on a site: the kind is what the
//! bytes say, the name is harmless, and so is what a drawing holds.

use super::kind::PictureKind;
use super::svg;
use std::sync::Arc;

/// Characters of the longest name, without its ending.
const LONGEST_NAME: usize = 80;

/// Names that Windows keeps for devices.
const DEVICES: [&str; 4] = ["con", "prn", "aux", "nul"];

/// A picture as it may be written.
pub(crate) struct Carried {
    pub(crate) name: String,
    pub(crate) kind: PictureKind,
    pub(crate) bytes: Arc<[u8]>,
    /// Something that could do harm was taken out.
    pub(crate) is_cleaned: bool,
}

/// A picture out of a document. `None` where the bytes are no picture of a known kind, whatever the name is.
pub(crate) fn carried(name: &str, bytes: Arc<[u8]>) -> Option<Carried> {
    let kind = PictureKind::of(&bytes)?;
    let (bytes, is_cleaned) = match kind {
        PictureKind::Svg => {
            let clean = svg::clean_drawing(&bytes)?;
            (clean.svg.into_bytes().into(), clean.is_changed)
        }
        _ => (bytes, false),
    };
    Some(Carried { name: safe_name(name, kind), kind, bytes, is_cleaned })
}

/// A name that means the same on every system and in every address, with an ending of its kind.
fn safe_name(name: &str, kind: PictureKind) -> String {
    let (stem, ending) = name.rsplit_once('.').unwrap_or((name, ""));
    let ending = ending.to_ascii_lowercase();
    let ending = kind.endings().iter().find(|known| **known == ending);
    let ending = ending.or(kind.endings().first()).copied().unwrap_or_default();
    // What is no ending of a picture is no ending at all: servers may look at any of them.
    let safe = |c: char| if c.is_alphanumeric() || matches!(c, '-' | '_') { c } else { '-' };
    let stem: String = stem.chars().map(safe).take(LONGEST_NAME).collect();
    let stem = stem.trim_matches('-');
    let is_device = |stem: &str| {
        let small = stem.to_ascii_lowercase();
        let numbered = small.strip_prefix("com").or_else(|| small.strip_prefix("lpt"));
        DEVICES.contains(&small.as_str()) || numbered.is_some_and(|number| number.len() == 1)
    };
    match stem {
        "" => format!("picture.{ending}"),
        stem if is_device(stem) => format!("picture-{stem}.{ending}"),
        stem => format!("{stem}.{ending}"),
    }
}

#[cfg(test)]
#[allow(clippy::expect_used, reason = "a test fails by panicking")]
mod tests {
    use super::*;

    #[test]
    fn a_name_is_harmless_and_ends_as_its_kind_does() {
        let png: Arc<[u8]> = b"\x89PNG\r\n\x1a\n".as_slice().into();
        let cases = [
            ("image1.png", "image1.png"),
            ("Wheel 2.PNG", "Wheel-2.png"),
            ("index.html", "index.png"),
            (".htaccess", "picture.png"),
            ("i.php.png", "i-php.png"),
            ("a#b?c%41.png", "a-b-c-41.png"),
            ("../../etc/passwd", "picture.png"),
            ("Mühle.jpeg", "Mühle.png"),
            ("NUL.png", "picture-NUL.png"),
            ("lpt1", "picture-lpt1.png"),
            ("a\u{1b}[2J\u{202e}gnp.exe", "a--2J-gnp.png"),
            ("", "picture.png"),
        ];
        for (name, safe) in cases {
            let carried = carried(name, png.clone()).expect("a picture");
            assert_eq!(carried.name, safe, "{name}");
        }
        let long = "w".repeat(1000);
        assert_eq!(carried(&long, png).expect("a picture").name.len(), LONGEST_NAME + 4);
    }

    #[test]
    fn what_is_no_picture_is_not_carried() {
        for bytes in [b"<script>alert(1)</script>".as_slice(), b"<?php ?>", b"AddType x .y", b""] {
            assert!(carried("wheel.png", bytes.into()).is_none());
        }
    }
}
