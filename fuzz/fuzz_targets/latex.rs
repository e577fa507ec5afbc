//! Any text as LaTeX, into every other format, compared with itself and checked: no panic, no hang, and what is
//! written can be read.

#![no_main]

use libfuzzer_sys::fuzz_target;
use obblet::Format;

mod routes;

fuzz_target!(|bytes: &[u8]| routes::all(bytes, Format::Latex));
