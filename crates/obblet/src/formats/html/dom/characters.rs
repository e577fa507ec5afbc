//! Names of characters for character references: those of HTML 4, which every program that reads
//! HTML knows.

/// Characters and their names, sorted by character.
#[rustfmt::skip]
const NAMES: &[(char, &str)] = &[
    ('\u{A0}', "nbsp"), ('\u{A1}', "iexcl"), ('\u{A2}', "cent"), ('\u{A3}', "pound"),
    ('\u{A4}', "curren"), ('\u{A5}', "yen"), ('\u{A6}', "brvbar"), ('\u{A7}', "sect"),
    ('\u{A8}', "uml"), ('\u{A9}', "copy"), ('\u{AA}', "ordf"), ('\u{AB}', "laquo"),
    ('\u{AC}', "not"), ('\u{AD}', "shy"), ('\u{AE}', "reg"), ('\u{AF}', "macr"),
    ('\u{B0}', "deg"), ('\u{B1}', "plusmn"), ('\u{B2}', "sup2"), ('\u{B3}', "sup3"),
    ('\u{B4}', "acute"), ('\u{B5}', "micro"), ('\u{B6}', "para"), ('\u{B7}', "middot"),
    ('\u{B8}', "cedil"), ('\u{B9}', "sup1"), ('\u{BA}', "ordm"), ('\u{BB}', "raquo"),
    ('\u{BC}', "frac14"), ('\u{BD}', "frac12"), ('\u{BE}', "frac34"), ('\u{BF}', "iquest"),
    ('\u{C0}', "Agrave"), ('\u{C1}', "Aacute"), ('\u{C2}', "Acirc"), ('\u{C3}', "Atilde"),
    ('\u{C4}', "Auml"), ('\u{C5}', "Aring"), ('\u{C6}', "AElig"), ('\u{C7}', "Ccedil"),
    ('\u{C8}', "Egrave"), ('\u{C9}', "Eacute"), ('\u{CA}', "Ecirc"), ('\u{CB}', "Euml"),
    ('\u{CC}', "Igrave"), ('\u{CD}', "Iacute"), ('\u{CE}', "Icirc"), ('\u{CF}', "Iuml"),
    ('\u{D0}', "ETH"), ('\u{D1}', "Ntilde"), ('\u{D2}', "Ograve"), ('\u{D3}', "Oacute"),
    ('\u{D4}', "Ocirc"), ('\u{D5}', "Otilde"), ('\u{D6}', "Ouml"), ('\u{D7}', "times"),
    ('\u{D8}', "Oslash"), ('\u{D9}', "Ugrave"), ('\u{DA}', "Uacute"), ('\u{DB}', "Ucirc"),
    ('\u{DC}', "Uuml"), ('\u{DD}', "Yacute"), ('\u{DE}', "THORN"), ('\u{DF}', "szlig"),
    ('\u{E0}', "agrave"), ('\u{E1}', "aacute"), ('\u{E2}', "acirc"), ('\u{E3}', "atilde"),
    ('\u{E4}', "auml"), ('\u{E5}', "aring"), ('\u{E6}', "aelig"), ('\u{E7}', "ccedil"),
    ('\u{E8}', "egrave"), ('\u{E9}', "eacute"), ('\u{EA}', "ecirc"), ('\u{EB}', "euml"),
    ('\u{EC}', "igrave"), ('\u{ED}', "iacute"), ('\u{EE}', "icirc"), ('\u{EF}', "iuml"),
    ('\u{F0}', "eth"), ('\u{F1}', "ntilde"), ('\u{F2}', "ograve"), ('\u{F3}', "oacute"),
    ('\u{F4}', "ocirc"), ('\u{F5}', "otilde"), ('\u{F6}', "ouml"), ('\u{F7}', "divide"),
    ('\u{F8}', "oslash"), ('\u{F9}', "ugrave"), ('\u{FA}', "uacute"), ('\u{FB}', "ucirc"),
    ('\u{FC}', "uuml"), ('\u{FD}', "yacute"), ('\u{FE}', "thorn"), ('\u{FF}', "yuml"),
    ('\u{152}', "OElig"), ('\u{153}', "oelig"), ('\u{160}', "Scaron"), ('\u{161}', "scaron"),
    ('\u{178}', "Yuml"), ('\u{192}', "fnof"), ('\u{2C6}', "circ"), ('\u{2DC}', "tilde"),
    ('\u{391}', "Alpha"), ('\u{392}', "Beta"), ('\u{393}', "Gamma"), ('\u{394}', "Delta"),
    ('\u{395}', "Epsilon"), ('\u{396}', "Zeta"), ('\u{397}', "Eta"), ('\u{398}', "Theta"),
    ('\u{399}', "Iota"), ('\u{39A}', "Kappa"), ('\u{39B}', "Lambda"), ('\u{39C}', "Mu"),
    ('\u{39D}', "Nu"), ('\u{39E}', "Xi"), ('\u{39F}', "Omicron"), ('\u{3A0}', "Pi"),
    ('\u{3A1}', "Rho"), ('\u{3A3}', "Sigma"), ('\u{3A4}', "Tau"), ('\u{3A5}', "Upsilon"),
    ('\u{3A6}', "Phi"), ('\u{3A7}', "Chi"), ('\u{3A8}', "Psi"), ('\u{3A9}', "Omega"),
    ('\u{3B1}', "alpha"), ('\u{3B2}', "beta"), ('\u{3B3}', "gamma"), ('\u{3B4}', "delta"),
    ('\u{3B5}', "epsilon"), ('\u{3B6}', "zeta"), ('\u{3B7}', "eta"), ('\u{3B8}', "theta"),
    ('\u{3B9}', "iota"), ('\u{3BA}', "kappa"), ('\u{3BB}', "lambda"), ('\u{3BC}', "mu"),
    ('\u{3BD}', "nu"), ('\u{3BE}', "xi"), ('\u{3BF}', "omicron"), ('\u{3C0}', "pi"),
    ('\u{3C1}', "rho"), ('\u{3C2}', "sigmaf"), ('\u{3C3}', "sigma"), ('\u{3C4}', "tau"),
    ('\u{3C5}', "upsilon"), ('\u{3C6}', "phi"), ('\u{3C7}', "chi"), ('\u{3C8}', "psi"),
    ('\u{3C9}', "omega"), ('\u{3D1}', "thetasym"), ('\u{3D2}', "upsih"), ('\u{3D6}', "piv"),
    ('\u{2002}', "ensp"), ('\u{2003}', "emsp"), ('\u{2009}', "thinsp"), ('\u{200C}', "zwnj"),
    ('\u{200D}', "zwj"), ('\u{200E}', "lrm"), ('\u{200F}', "rlm"), ('\u{2013}', "ndash"),
    ('\u{2014}', "mdash"), ('\u{2018}', "lsquo"), ('\u{2019}', "rsquo"), ('\u{201A}', "sbquo"),
    ('\u{201C}', "ldquo"), ('\u{201D}', "rdquo"), ('\u{201E}', "bdquo"), ('\u{2020}', "dagger"),
    ('\u{2021}', "Dagger"), ('\u{2022}', "bull"), ('\u{2026}', "hellip"), ('\u{2030}', "permil"),
    ('\u{2032}', "prime"), ('\u{2033}', "Prime"), ('\u{2039}', "lsaquo"), ('\u{203A}', "rsaquo"),
    ('\u{203E}', "oline"), ('\u{2044}', "frasl"), ('\u{20AC}', "euro"), ('\u{2111}', "image"),
    ('\u{2118}', "weierp"), ('\u{211C}', "real"), ('\u{2122}', "trade"), ('\u{2135}', "alefsym"),
    ('\u{2190}', "larr"), ('\u{2191}', "uarr"), ('\u{2192}', "rarr"), ('\u{2193}', "darr"),
    ('\u{2194}', "harr"), ('\u{21B5}', "crarr"), ('\u{21D0}', "lArr"), ('\u{21D1}', "uArr"),
    ('\u{21D2}', "rArr"), ('\u{21D3}', "dArr"), ('\u{21D4}', "hArr"), ('\u{2200}', "forall"),
    ('\u{2202}', "part"), ('\u{2203}', "exist"), ('\u{2205}', "empty"), ('\u{2207}', "nabla"),
    ('\u{2208}', "isin"), ('\u{2209}', "notin"), ('\u{220B}', "ni"), ('\u{220F}', "prod"),
    ('\u{2211}', "sum"), ('\u{2212}', "minus"), ('\u{2217}', "lowast"), ('\u{221A}', "radic"),
    ('\u{221D}', "prop"), ('\u{221E}', "infin"), ('\u{2220}', "ang"), ('\u{2227}', "and"),
    ('\u{2228}', "or"), ('\u{2229}', "cap"), ('\u{222A}', "cup"), ('\u{222B}', "int"),
    ('\u{2234}', "there4"), ('\u{223C}', "sim"), ('\u{2245}', "cong"), ('\u{2248}', "asymp"),
    ('\u{2260}', "ne"), ('\u{2261}', "equiv"), ('\u{2264}', "le"), ('\u{2265}', "ge"),
    ('\u{2282}', "sub"), ('\u{2283}', "sup"), ('\u{2284}', "nsub"), ('\u{2286}', "sube"),
    ('\u{2287}', "supe"), ('\u{2295}', "oplus"), ('\u{2297}', "otimes"), ('\u{22A5}', "perp"),
    ('\u{22C5}', "sdot"), ('\u{2308}', "lceil"), ('\u{2309}', "rceil"), ('\u{230A}', "lfloor"),
    ('\u{230B}', "rfloor"), ('\u{25CA}', "loz"), ('\u{2660}', "spades"), ('\u{2663}', "clubs"),
    ('\u{2665}', "hearts"), ('\u{2666}', "diams"), ('\u{27E8}', "lang"), ('\u{27E9}', "rang"),
];

/// The name of a character.
pub(super) fn name_of(character: char) -> Option<&'static str> {
    let index = NAMES.binary_search_by_key(&character, |entry| entry.0).ok()?;
    NAMES.get(index).map(|entry| entry.1)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::formats::html::dom::Dom;

    #[test]
    fn names_are_sorted_and_mean_their_characters() {
        assert!(NAMES.is_sorted_by_key(|entry| entry.0));
        for (character, name) in NAMES {
            let parsed = Dom::of_body(&format!("&{name};"));
            assert_eq!(parsed.text_of(0), character.to_string(), "{name}");
        }
        assert_eq!(name_of('—'), Some("mdash"));
        assert_eq!(name_of('ł'), None);
    }
}
