//! Pages saved with their pictures and style sheets as one file (MHTML, RFC 2557).

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

use obblet::{Format, WriteOptions, convert};

const SAVED: &str = "From: <Saved by a browser>\r
Snapshot-Content-Location: https://mill.example/tides/today.html\r
Subject: Tides\r
MIME-Version: 1.0\r
Content-Type: multipart/related; type=\"text/html\"; boundary=\"weir\"\r
\r
--weir\r
Content-Type: text/html\r
Content-Transfer-Encoding: quoted-printable\r
Content-Location: https://mill.example/tides/today.html\r
\r
<!DOCTYPE html><html lang=3D\"en\"><head><meta charset=3D\"utf-8\"><title>Tides=\r
</title><link rel=3D\"stylesheet\" href=3D\"../look.css\"></head><body><h1>Tide=\r
s =E2=80=93 today</h1><p class=3D\"loud\">High water</p><img src=3D\"wheel.png\" =\r
alt=3D\"wheel\"><img src=3D\"cid:gate@mill.example\" alt=3D\"gate\"><img src=3D\"h=\r
ttps://count.example/p?x\" width=3D\"1\" height=3D\"1\"><a href=3D\"log.html\">log</=\r
a> <a href=3D\"today.html#ebb\">ebb</a></body></html>\r
--weir\r
Content-Type: image/png\r
Content-Transfer-Encoding: base64\r
Content-Location: https://mill.example/tides/wheel.png\r
\r
iVBORw0KGgo=\r
--weir\r
Content-Type: image/gif\r
Content-Transfer-Encoding: base64\r
Content-ID: <gate@mill.example>\r
\r
R0lGODlhAQ==\r
--weir\r
Content-Type: text/css; charset=\"utf-8\"\r
Content-Transfer-Encoding: quoted-printable\r
Content-Location: https://mill.example/look.css\r
\r
.loud { font-weight: bold }\r
--weir--\r
";

fn converted(source: &[u8]) -> obblet::Written {
    let options = WriteOptions {
        picture_folder: Some("pictures".into()),
        ..WriteOptions::house("body").unwrap()
    };
    convert(source, Format::Html, &options).unwrap()
}

#[test]
fn a_saved_page_brings_its_pictures_and_style_sheets() {
    assert_eq!(Format::detect(SAVED.as_bytes()), Format::Html);
    assert_eq!(Format::of_file_name("tides.mhtml"), Some(Format::Html));
    let written = converted(SAVED.as_bytes());
    let expected = "<h1 id=\"tides-today\">Tides – today</h1>\n\
                    <p><strong>High water</strong></p>\n\
                    <p><img src=\"pictures/wheel.png\" alt=\"wheel\">\
                    <img src=\"pictures/picture.gif\" alt=\"gate\">\
                    <a href=\"https://mill.example/tides/log.html\">log</a> \
                    <a href=\"#ebb\">ebb</a></p>\n";
    assert_eq!(written.text(), expected);
    let media: Vec<&[u8]> = written.media.iter().map(|media| &*media.bytes).collect();
    assert_eq!(media, [b"\x89PNG\r\n\x1a\n".as_slice(), b"GIF89a\x01"]);
    let lines: Vec<String> = written.findings.iter().map(|found| found.line("p")).collect();
    assert_eq!(
        lines,
        ["p:1:1: lost: a picture that only counts readers was dropped: \
          https://count.example/p?x [counting-picture-dropped]"]
    );
}

/// Whatever is cut off: no panic, and text that is there comes through.
#[test]
fn a_saved_page_may_end_anywhere() {
    for end in 0..SAVED.len() {
        let written = converted(&SAVED.as_bytes()[..end]);
        if end > 900 {
            assert!(written.text().contains("today"), "{end}: {}", written.text());
        }
    }
    // A message that holds no page is read as the text it is.
    let bare = "MIME-Version: 1.0\r\nContent-Type: multipart/related; boundary=x\r\n\r\n--x--\r\n";
    assert!(converted(bare.as_bytes()).text().contains("MIME-Version"));
}

/// Parts inside parts, far deeper than anybody saves: on a small stack, in time that grows with
/// the length.
#[test]
fn parts_may_nest_deep() {
    let mut nested = String::from("MIME-Version: 1.0\r\n");
    for depth in 0..20_000 {
        nested += &format!(
            "Content-Type: multipart/related; boundary=\"b{depth}\"\r\n\r\n--b{depth}\r\n"
        );
    }
    nested += "Content-Type: text/html\r\n\r\n<p>weir</p>\r\n";
    let thread = std::thread::Builder::new().stack_size(256 << 10);
    let text = move || converted(nested.as_bytes()).text().to_string();
    let text = thread.spawn(text).unwrap().join().unwrap();
    assert!(text.contains("b0") || text.contains("weir"), "{text:.100}");
}
