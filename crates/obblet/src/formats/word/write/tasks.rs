//! Ticked and open boxes.

use super::Writer;
use super::runs::RunLook;

impl<'d> Writer<'d> {
    /// A check box as a content control that Word lets people tick.
    pub(super) fn push_check_box(&mut self, ticked: bool, look: &RunLook, out: &mut String) {
        let (state, sign) = if ticked { (1, "☒") } else { (0, "☐") };
        out.push_str(&format!(
            "<w:sdt><w:sdtPr><w14:checkbox><w14:checked w14:val=\"{state}\"/>\
             <w14:checkedState w14:val=\"2612\" w14:font=\"MS Gothic\"/>\
             <w14:uncheckedState w14:val=\"2610\" w14:font=\"MS Gothic\"/></w14:checkbox></w:sdtPr><w:sdtContent>"
        ));
        self.push_run(sign, look, out);
        out.push_str("</w:sdtContent></w:sdt>");
    }
}
