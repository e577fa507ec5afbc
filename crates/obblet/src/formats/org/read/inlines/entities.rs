//! Characters by their names (Org syntax, “Entities”).

use std::collections::HashMap;
use std::sync::LazyLock;

/// Names and what they stand for, in lines of pairs.
const TABLE: &str = "
Agrave À agrave à Aacute Á aacute á Acirc Â acirc â Amacr Ā amacr ā Atilde Ã atilde ã Auml Ä auml ä
Aring Å AA Å aring å AElig Æ aelig æ Ccedil Ç ccedil ç Egrave È egrave è Eacute É eacute é Ecirc Ê
ecirc ê Euml Ë euml ë Igrave Ì igrave ì Iacute Í iacute í Idot İ inodot ı Icirc Î icirc î Iuml Ï iuml ï
Ntilde Ñ ntilde ñ Ograve Ò ograve ò Oacute Ó oacute ó Ocirc Ô ocirc ô Otilde Õ otilde õ Ouml Ö ouml ö
Oslash Ø oslash ø OElig Œ oelig œ Scaron Š scaron š szlig ß Ugrave Ù ugrave ù Uacute Ú uacute ú Ucirc Û
ucirc û Uuml Ü uuml ü Yacute Ý yacute ý Yuml Ÿ yuml ÿ
fnof ƒ real ℜ image ℑ weierp ℘ ell ℓ imath ı jmath ȷ
Alpha Α alpha α Beta Β beta β Gamma Γ gamma γ Delta Δ delta δ Epsilon Ε epsilon ε varepsilon ε Zeta Ζ
zeta ζ Eta Η eta η Theta Θ theta θ thetasym ϑ vartheta ϑ Iota Ι iota ι Kappa Κ kappa κ Lambda Λ
lambda λ Mu Μ mu μ nu ν Nu Ν Xi Ξ xi ξ Omicron Ο omicron ο Pi Π pi π Rho Ρ rho ρ Sigma Σ sigma σ
sigmaf ς varsigma ς Tau Τ Upsilon Υ upsih ϒ upsilon υ Phi Φ phi ɸ varphi φ Chi Χ chi χ acutex ´x
Psi Ψ psi ψ tau τ Omega Ω omega ω piv ϖ varpi ϖ partial ∂
alefsym ℵ aleph ℵ gimel ℷ beth ב dalet ד ETH Ð eth ð THORN Þ thorn þ
lbrace { rbrace } dots … cdots ⋯ hellip … middot · iexcl ¡ iquest ¿ shy \u{ad} ndash – mdash — quot \" acute ´ ldquo “
rdquo ” bdquo „ lsquo ‘ rsquo ’ sbquo ‚ laquo « raquo » lsaquo ‹ rsaquo ›
circ ˆ vert | vbar | brvbar ¦ S § sect § para ¶ amp & lt < gt > tilde ~ slash / plus + under _ equal =
asciicirc ^ dagger † dag † Dagger ‡ ddag ‡ nbsp \u{a0} ensp \u{2002} emsp \u{2003} thinsp \u{2009}
curren ¤ cent ¢ pound £ yen ¥ euro € EUR € dollar $ USD $ copy © reg ® trade ™
minus − pm ± plusmn ± times × frasl ⁄ colon : div ÷ frac12 ½ frac14 ¼ frac34 ¾ permil ‰ sup1 ¹ sup2 ²
sup3 ³ radic √ sum ∑ prod ∏ micro µ macr ¯ deg ° prime ′ Prime ″ infin ∞ infty ∞ prop ∝ propto ∝ not ¬
neg ¬ land ∧ wedge ∧ lor ∨ vee ∨ cap ∩ cup ∪ smile ⌣ frown ⌢ int ∫ therefore ∴ there4 ∴ because ∵
sim ∼ cong ≅ simeq ≅ asymp ≈ approx ≈ ne ≠ neq ≠ equiv ≡ triangleq ≜ le ≤ leq ≤ ge ≥ geq ≥ lessgtr ≶
lesseqgtr ⋚ ll ≪ Ll ⋘ lll ⋘ gg ≫ Gg ⋙ ggg ⋙ prec ≺ preceq ≼ preccurlyeq ≼ succ ≻ succeq ≽ succcurlyeq ≽
sub ⊂ subset ⊂ sup ⊃ supset ⊃ nsub ⊄ sube ⊆ nsup ⊅ supe ⊇ setminus ∖ forall ∀ exist ∃ exists ∃ nexist ∄
nexists ∄ empty ∅ emptyset ∅ isin ∈ in ∈ notin ∉ ni ∋ nabla ∇ ang ∠ angle ∠ perp ⊥ parallel ∥ sdot ⋅
cdot ⋅ lceil ⌈ rceil ⌉ lfloor ⌊ rfloor ⌋ lang ⟨ rang ⟩ langle ⟨ rangle ⟩ hbar ℏ mho ℧
larr ← leftarrow ← gets ← lArr ⇐ Leftarrow ⇐ uarr ↑ uparrow ↑ uArr ⇑ Uparrow ⇑ rarr → to → rightarrow →
rArr ⇒ Rightarrow ⇒ darr ↓ downarrow ↓ dArr ⇓ Downarrow ⇓ harr ↔ leftrightarrow ↔ hArr ⇔ Leftrightarrow ⇔
crarr ↵ hookleftarrow ↵
arccos arccos arcsin arcsin arctan arctan arg arg cos cos cosh cosh cot cot coth coth csc csc deg °
det det dim dim exp exp gcd gcd hom hom inf inf ker ker lg lg lim lim liminf liminf limsup limsup ln ln
log log max max min min Pr Pr sec sec sin sin sinh sinh tan tan tanh tanh
bull • bullet • star * lowast ∗ ast * odot ⊙ oplus ⊕ otimes ⊗ check ✓ checkmark ✓ ordf ª ordm º cedil ¸
oline ‾ uml ¨ zwnj \u{200c} zwj \u{200d} lrm \u{200e} rlm \u{200f} smiley ☺ blacksmile ☻ sad ☹
frowny ☹ clubs ♣ clubsuit ♣ spades ♠ spadesuit ♠ hearts ♥ heartsuit ♥ diams ◆ diamondsuit ◆ diamond ⋄
Diamond ⋄ loz ◊ LaTeX LaTeX TeX TeX
";

static ENTITIES: LazyLock<HashMap<&'static str, &'static str>> = LazyLock::new(|| {
    let mut words = TABLE.split([' ', '\n']).filter(|word| !word.is_empty());
    let mut entities = HashMap::new();
    while let (Some(name), Some(characters)) = (words.next(), words.next()) {
        entities.insert(name, characters);
    }
    entities
});

/// What a name stands for.
pub(super) fn entity(name: &str) -> Option<&'static str> {
    ENTITIES.get(name).copied()
}

/// Whether a text begins with the name of a character.
pub(in crate::formats::org) fn entity_at(text: &str) -> bool {
    let length = text.find(|c: char| !c.is_ascii_alphanumeric()).unwrap_or(text.len());
    text.get(..length).is_some_and(|name| entity(name).is_some())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_are_paired_with_characters() {
        assert!(ENTITIES.len() > 300, "{}", ENTITIES.len());
        let cases = [
            ("Agrave", "À"),
            ("nbsp", "\u{a0}"),
            ("rarr", "→"),
            ("rlm", "\u{200f}"),
            ("TeX", "TeX"),
        ];
        for (name, expected) in cases {
            assert_eq!(entity(name), Some(expected), "{name}");
        }
        assert_eq!(entity("tide"), None);
    }
}
