//! Any text as Markdown, into every other format, compared with itself and mended: no panic, no hang, and
//! what is written can be read.

#![no_main]

use libfuzzer_sys::fuzz_target;
use obblet::check::mend_source;
use obblet::{Format, House};

mod routes;

fuzz_target!(|bytes: &[u8]| {
    routes::all(bytes, Format::Markdown);
    let _ = mend_source(bytes, Format::Markdown, &House::default(), &());
});
