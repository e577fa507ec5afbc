//! A repair pass of one's own, before those of a house: the Trust writes “Tide Mill” in capitals.
//!
//! ```text
//! cargo run -p obblet --example own_repair
//! ```

use obblet::document::{Document, Inline, walk_inlines_mut};
use obblet::findings::{Code, Findings};
use obblet::repair::Repair;
use obblet::{Additions, Converter, Format, House};

/// Spells the Trust's name as the Trust spells it.
#[derive(Debug)]
struct OurName;

impl Repair for OurName {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        walk_inlines_mut(&mut document.blocks, |place, inlines| {
            for inline in inlines {
                let Inline::Text(text) = inline else { continue };
                if text.contains("tide mill trust") {
                    *text = text.replace("tide mill trust", "Tide Mill Trust").into();
                    findings.count(Code::CharactersRepaired, "the Trust's name", Some(place));
                }
            }
        });
    }
}

fn main() -> Result<(), obblet::ConvertError> {
    let page = b"<p class=MsoNormal>The Marrowby&nbsp; tide mill trust<o:p></o:p></p>";
    let converter = Converter::to(Format::Html)
        .from(Format::Html)
        .house(House::for_cleaning(b"<p>"))
        .additions(Additions::new().with_first_pass(OurName));
    let written = converter.convert(page)?;
    print!("{}", written.text());
    assert_eq!(written.text(), "<p>The Marrowby Tide Mill Trust</p>\n");
    for finding in &written.findings {
        println!("{}", finding.line("page.html"));
    }
    Ok(())
}
