"""The pieces that sample Word packages are made of: WordprocessingML as strings, and packages."""

import re
import zipfile
import zlib
import struct
from xml.sax.saxutils import escape, quoteattr

W = "http://schemas.openxmlformats.org/wordprocessingml/2006/main"
R = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
NAMESPACES = {
    "w": W,
    "r": R,
    "a": "http://schemas.openxmlformats.org/drawingml/2006/main",
    "pic": "http://schemas.openxmlformats.org/drawingml/2006/picture",
    "wp": "http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing",
    "wps": "http://schemas.microsoft.com/office/word/2010/wordprocessingShape",
    "wpg": "http://schemas.microsoft.com/office/word/2010/wordprocessingGroup",
    "mc": "http://schemas.openxmlformats.org/markup-compatibility/2006",
    "m": "http://schemas.openxmlformats.org/officeDocument/2006/math",
    "v": "urn:schemas-microsoft-com:vml",
    "o": "urn:schemas-microsoft-com:office:office",
    "c": "http://schemas.openxmlformats.org/drawingml/2006/chart",
    "dgm": "http://schemas.openxmlformats.org/drawingml/2006/diagram",
    "w14": "http://schemas.microsoft.com/office/word/2010/wordml",
    "w15": "http://schemas.microsoft.com/office/word/2012/wordml",
    "asvg": "http://schemas.microsoft.com/office/drawing/2016/SVG/main",
    "adec": "http://schemas.microsoft.com/office/drawing/2017/decorative",
    "b": "http://schemas.openxmlformats.org/officeDocument/2006/bibliography",
}
STRICT = {
    W: "http://purl.oclc.org/ooxml/wordprocessingml/main",
    R: "http://purl.oclc.org/ooxml/officeDocument/relationships",
    NAMESPACES["a"]: "http://purl.oclc.org/ooxml/drawingml/main",
    NAMESPACES["wp"]: "http://purl.oclc.org/ooxml/drawingml/wordprocessingDrawing",
    NAMESPACES["m"]: "http://purl.oclc.org/ooxml/officeDocument/math",
}
DECLARED = " ".join(f'xmlns:{prefix}="{uri}"' for prefix, uri in NAMESPACES.items())


def properties(wanted):
    """`b i sz=28 color=C00000` as elements; a value in brackets is an element's inside."""
    found = []
    for word in wanted.split():
        name, _, value = word.partition("=")
        found.append(f'<w:{name} w:val="{escape(value)}"/>' if value else f"<w:{name}/>")
    return "".join(found)


def t(text):
    return f'<w:t xml:space="preserve">{escape(text)}</w:t>'


def r(text="", wanted="", more=""):
    """A run; tabs and line endings in the text become their elements."""
    inside = []
    for piece in re.split(r"(\t|\n)", text):
        inside.append({"\t": "<w:tab/>", "\n": "<w:br/>"}.get(piece) or (t(piece) if piece else ""))
    rpr = properties(wanted) + more
    return f"<w:r>{f'<w:rPr>{rpr}</w:rPr>' if rpr else ''}{''.join(inside)}</w:r>"


def raw(inside, wanted="", more=""):
    rpr = properties(wanted) + more
    return f"<w:r>{f'<w:rPr>{rpr}</w:rPr>' if rpr else ''}{inside}</w:r>"


def p(*content, style=None, num=None, ppr="", wanted=""):
    """A paragraph; strings without markup become runs. `num` is (list, level)."""
    inside = "".join(c if c.startswith("<") else r(c) for c in content if c)
    found = f'<w:pStyle w:val="{style}"/>' if style else ""
    if num:
        found += f'<w:numPr><w:ilvl w:val="{num[1]}"/><w:numId w:val="{num[0]}"/></w:numPr>'
    found += ppr + properties(wanted)
    return f"<w:p>{f'<w:pPr>{found}</w:pPr>' if found else ''}{inside}</w:p>"


def cell(*content, tcpr=""):
    inside = "".join(c if c.startswith("<") else p(c) for c in content) or "<w:p/>"
    return f"<w:tc>{f'<w:tcPr>{tcpr}</w:tcPr>' if tcpr else ''}{inside}</w:tc>"


def row(*cells, trpr=""):
    inside = "".join(c if c.startswith("<w:tc>") or c.startswith("<w:sdt>") else cell(c) for c in cells)
    return f"<w:tr>{f'<w:trPr>{trpr}</w:trPr>' if trpr else ''}{inside}</w:tr>"


def table(*rows, widths=(), tblpr=""):
    grid = "".join(f'<w:gridCol w:w="{width}"/>' for width in widths)
    return f"<w:tbl><w:tblPr>{tblpr}</w:tblPr><w:tblGrid>{grid}</w:tblGrid>{''.join(rows)}</w:tbl>"


def field(instruction, result):
    mark = lambda kind: f'<w:r><w:fldChar w:fldCharType="{kind}"/></w:r>'
    shown = result if result.startswith("<") else r(result)
    return (
        mark("begin")
        + f'<w:r><w:instrText xml:space="preserve"> {escape(instruction)} </w:instrText></w:r>'
        + mark("separate")
        + shown
        + mark("end")
    )


def link(target, text):
    attribute = f'w:anchor="{target[1:]}"' if target.startswith("#") else f'r:id="{target}"'
    return f"<w:hyperlink {attribute}>{r(text, 'rStyle=Hyperlink')}</w:hyperlink>"


def bookmark(name, inside, number=1):
    return f'<w:bookmarkStart w:id="{number}" w:name="{name}"/>{inside}<w:bookmarkEnd w:id="{number}"/>'


def style(kind, identifier, name, based="", ppr="", rpr="", more="", default=False):
    base = f'<w:basedOn w:val="{based}"/>' if based else ""
    mark = ' w:default="1"' if default else ""
    ppr = f"<w:pPr>{ppr}</w:pPr>" if ppr else ""
    rpr = f"<w:rPr>{rpr}</w:rPr>" if rpr else ""
    return (
        f'<w:style w:type="{kind}" w:styleId="{identifier}"{mark}><w:name w:val="{name}"/>{base}'
        f"{ppr}{rpr}{more}</w:style>"
    )


def level(at, form, text, indent=None, more="", font="", start=1):
    left = indent if indent is not None else 720 * (at + 1)
    run = f'<w:rPr><w:rFonts w:ascii="{font}" w:hAnsi="{font}" w:hint="default"/></w:rPr>' if font else ""
    return (
        f'<w:lvl w:ilvl="{at}"><w:start w:val="{start}"/><w:numFmt w:val="{form}"/>{more}'
        f'<w:lvlText w:val={quoteattr(text)}/><w:lvlJc w:val="left"/>'
        f'<w:pPr><w:ind w:left="{left}" w:hanging="360"/></w:pPr>{run}</w:lvl>'
    )


def abstract(number, *levels, more=""):
    return f'<w:abstractNum w:abstractNumId="{number}">{more}{"".join(levels)}</w:abstractNum>'


def num(number, of, overrides=""):
    return f'<w:num w:numId="{number}"><w:abstractNumId w:val="{of}"/>{overrides}</w:num>'


def png(width, height, colour):
    """A picture of one colour with a darker edge, so that cropping can be seen."""
    dark = tuple(channel // 2 for channel in colour)
    rows = b""
    for y in range(height):
        rows += b"\0"
        for x in range(width):
            edge = x < 4 or y < 4 or x >= width - 4 or y >= height - 4
            rows += bytes(dark if edge else colour)
    chunk = lambda kind, data: (
        struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))
    )
    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(rows)) + chunk(b"IEND", b"")
    )


def picture(relation, alt="", width=1905000, height=1270000, crop="", more="", anchor=False, extension=""):
    descr = f" descr={quoteattr(alt)}" if alt else ""
    place = "anchor" if anchor else "inline"
    position = (
        '<wp:simplePos x="0" y="0"/><wp:positionH relativeFrom="column"><wp:align>right</wp:align></wp:positionH>'
        '<wp:positionV relativeFrom="paragraph"><wp:posOffset>0</wp:posOffset></wp:positionV>'
        if anchor
        else ""
    )
    wrap = "<wp:wrapSquare wrapText=\"bothSides\"/>" if anchor else ""
    return (
        f'<w:r><w:drawing><wp:{place} distT="0" distB="0">{position}<wp:extent cx="{width}" cy="{height}"/>{wrap}'
        f'<wp:docPr id="1" name="Picture"{descr}>{more}</wp:docPr><wp:cNvGraphicFramePr/>'
        f'<a:graphic><a:graphicData uri="{NAMESPACES["pic"]}"><pic:pic><pic:nvPicPr><pic:cNvPr id="0" name="x"/>'
        f'<pic:cNvPicPr/></pic:nvPicPr><pic:blipFill><a:blip r:embed="{relation}">{extension}</a:blip>{crop}'
        f"<a:stretch><a:fillRect/></a:stretch></pic:blipFill><pic:spPr><a:xfrm><a:off x=\"0\" y=\"0\"/>"
        f'<a:ext cx="{width}" cy="{height}"/></a:xfrm><a:prstGeom prst="rect"><a:avLst/></a:prstGeom></pic:spPr>'
        f"</pic:pic></a:graphicData></a:graphic></wp:{place}></w:drawing></w:r>"
    )


def text_box(*content, fallback=True):
    inside = "".join(content)
    shape = (
        f'<w:drawing><wp:anchor><wp:extent cx="1905000" cy="952500"/><wp:docPr id="9" name="Text box"/>'
        f'<a:graphic><a:graphicData uri="{NAMESPACES["wps"]}"><wps:wsp><wps:cNvSpPr txBox="1"/><wps:spPr>'
        f'<a:prstGeom prst="rect"><a:avLst/></a:prstGeom><a:solidFill><a:srgbClr val="EAF3F5"/></a:solidFill>'
        f'<a:ln w="12700"><a:solidFill><a:srgbClr val="0A5A6B"/></a:solidFill></a:ln></wps:spPr>'
        f"<wps:txbx><w:txbxContent>{inside}</w:txbxContent></wps:txbx><wps:bodyPr/></wps:wsp></a:graphicData>"
        f"</a:graphic></wp:anchor></w:drawing>"
    )
    if not fallback:
        return f"<w:r>{shape}</w:r>"
    older = f"<w:pict><v:shape><v:textbox><w:txbxContent>{inside}</w:txbxContent></v:textbox></v:shape></w:pict>"
    return (
        f'<w:r><mc:AlternateContent><mc:Choice Requires="wps">{shape}</mc:Choice>'
        f"<mc:Fallback>{older}</mc:Fallback></mc:AlternateContent></w:r>"
    )


PAGE = '<w:sectPr><w:pgSz w:w="11906" w:h="16838"/><w:pgMar w:top="1440" w:right="1304" w:bottom="1440" w:left="1304"/>{}</w:sectPr>'

THEME = (
    '<a:themeElements><a:clrScheme name="Mill">'
    + "".join(
        f"<a:{slot}><a:srgbClr val=\"{value}\"/></a:{slot}>"
        for slot, value in [
            ("dk1", "1B2A2F"), ("lt1", "FFFFFF"), ("dk2", "0A5A6B"), ("lt2", "EAF3F5"),
            ("accent1", "0A5A6B"), ("accent2", "7D4A36"), ("accent3", "6B8E4E"), ("accent4", "C9A227"),
            ("accent5", "4A5D8A"), ("accent6", "8A4A6B"), ("hlink", "0A5A6B"), ("folHlink", "6B4A8A"),
        ]
    )
    + '</a:clrScheme><a:fontScheme name="Mill"><a:majorFont><a:latin typeface="Georgia"/><a:ea typeface=""/>'
    '<a:cs typeface=""/></a:majorFont><a:minorFont><a:latin typeface="Calibri"/><a:ea typeface=""/>'
    '<a:cs typeface=""/></a:minorFont></a:fontScheme></a:themeElements>'
)

DEFAULTS = (
    '<w:docDefaults><w:rPrDefault><w:rPr><w:rFonts w:asciiTheme="minorHAnsi" w:hAnsiTheme="minorHAnsi" '
    'w:eastAsiaTheme="minorEastAsia" w:cstheme="minorBidi"/><w:sz w:val="22"/><w:lang w:val="en-GB" '
    'w:eastAsia="ja-JP" w:bidi="ar-SA"/></w:rPr></w:rPrDefault><w:pPrDefault><w:pPr>'
    '<w:spacing w:after="160" w:line="259" w:lineRule="auto"/></w:pPr></w:pPrDefault></w:docDefaults>'
)

STYLES = (
    DEFAULTS
    + style("paragraph", "Normal", "Normal", default=True)
    + "".join(
        style(
            "paragraph", f"Heading{n}", f"heading {n}", "Normal",
            f'<w:keepNext/><w:spacing w:before="{360 - 60 * n}" w:after="80"/><w:outlineLvl w:val="{n - 1}"/>',
            f'<w:rFonts w:asciiTheme="majorHAnsi" w:hAnsiTheme="majorHAnsi"/><w:b/><w:color w:val="0A5A6B" '
            f'w:themeColor="accent1"/><w:sz w:val="{36 - 4 * n}"/>',
        )
        for n in (1, 2, 3)
    )
    + style("paragraph", "Title", "Title", "Normal", '<w:spacing w:after="240"/>', '<w:rFonts w:asciiTheme="majorHAnsi"/><w:sz w:val="52"/>')
    + style("paragraph", "ListParagraph", "List Paragraph", "Normal", '<w:contextualSpacing/><w:ind w:left="720"/>')
    + style("paragraph", "Caption", "caption", "Normal", '<w:spacing w:after="200"/>', '<w:i/><w:color w:val="44546A"/><w:sz w:val="18"/>')
    + style("paragraph", "TOC1", "toc 1", "Normal") + style("paragraph", "TOC2", "toc 2", "Normal")
    + style("paragraph", "Quote", "Quote", "Normal", '<w:ind w:left="864" w:right="864"/>', "<w:i/>")
    + style("character", "Hyperlink", "Hyperlink", rpr='<w:color w:val="0A5A6B" w:themeColor="hyperlink"/><w:u w:val="single"/>')
    + style("character", "Strong", "Strong", rpr="<w:b/>")
    + style("table", "TableNormal", "Normal Table", default=True, more='<w:tblPr><w:tblCellMar><w:left w:w="108" w:type="dxa"/><w:right w:w="108" w:type="dxa"/></w:tblCellMar></w:tblPr>')
    + style(
        "table", "TableGrid", "Table Grid", "TableNormal", '<w:spacing w:after="0" w:line="240" w:lineRule="auto"/>',
        more="<w:tblPr><w:tblBorders>" + "".join(f'<w:{side} w:val="single" w:sz="4" w:space="0" w:color="auto"/>' for side in ("top", "left", "bottom", "right", "insideH", "insideV")) + "</w:tblBorders></w:tblPr>",
    )
    + style(
        "table", "Banded", "Banded Rows", "TableNormal", '<w:spacing w:after="0"/>',
        more='<w:tblPr><w:tblStyleRowBandSize w:val="1"/><w:tblBorders><w:top w:val="single" w:sz="8" w:color="0A5A6B"/><w:bottom w:val="single" w:sz="8" w:color="0A5A6B"/></w:tblBorders></w:tblPr>'
        '<w:tblStylePr w:type="firstRow"><w:rPr><w:b/><w:color w:val="FFFFFF"/></w:rPr><w:tcPr><w:shd w:val="clear" w:fill="0A5A6B"/></w:tcPr></w:tblStylePr>'
        '<w:tblStylePr w:type="lastRow"><w:rPr><w:b/></w:rPr><w:tcPr><w:tcBorders><w:top w:val="double" w:sz="4" w:color="0A5A6B"/></w:tcBorders></w:tcPr></w:tblStylePr>'
        '<w:tblStylePr w:type="firstCol"><w:rPr><w:b/></w:rPr></w:tblStylePr>'
        '<w:tblStylePr w:type="band1Horz"><w:tcPr><w:shd w:val="clear" w:fill="EAF3F5"/></w:tcPr></w:tblStylePr>'
        '<w:tblStylePr w:type="nwCell"><w:rPr><w:i/></w:rPr></w:tblStylePr>',
    )
)

TYPES = {
    "document": "document.main", "styles": "styles", "numbering": "numbering", "footnotes": "footnotes",
    "endnotes": "endnotes", "comments": "comments", "header": "header", "footer": "footer", "settings": "settings",
}
ROOTS = {
    "document": "w:document", "styles": "w:styles", "numbering": "w:numbering", "footnotes": "w:footnotes",
    "endnotes": "w:endnotes", "comments": "w:comments", "header": "w:hdr", "footer": "w:ftr", "settings": "w:settings",
    "theme": "a:theme",
}


def xml(root, inside):
    return f'<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n<{root} {DECLARED}>{inside}</{root}>'


class Package:
    """A package under way: its main part, and what it refers to."""

    def __init__(self, body, styles=STYLES, numbering="", page=PAGE.format("")):
        self.parts = {}
        self.relations = []
        self.root_relations = []
        self.main_type = "application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"
        self.strict = False
        self.body = body + page
        if styles is not None:
            self.add("styles", styles)
            self.add("theme", THEME)
        if numbering:
            self.add("numbering", numbering)

    def add(self, kind, inside, name=None, relation=None):
        """A part of WordprocessingML that the main part refers to."""
        name = name or f"word/{kind}.xml"
        self.parts[name] = xml(ROOTS[kind], inside)
        return self.relate(kind, name[len("word/"):], relation)

    def add_file(self, kind, name, data, relation=None):
        self.parts[name] = data
        return self.relate(kind, "../" + name if not name.startswith("word/") else name[len("word/"):], relation)

    def relate(self, kind, target, relation=None, external=False, base=R):
        relation = relation or f"rId{len(self.relations) + 1}"
        kind = kind if "://" in kind else f"{base}/{kind}"
        mode = ' TargetMode="External"' if external else ""
        self.relations.append(f'<Relationship Id="{relation}" Type="{kind}" Target={quoteattr(target)}{mode}/>')
        return relation

    def property_part(self, kind, name, text):
        self.parts[name] = text
        base = R if kind != "core-properties" else "http://schemas.openxmlformats.org/package/2006/relationships/metadata"
        self.root_relations.append(f'<Relationship Id="p{len(self.root_relations)}" Type="{base}/{kind}" Target="{name}"/>')

    def save(self, path):
        relationships = "http://schemas.openxmlformats.org/package/2006/relationships"
        parts = dict(self.parts)
        parts["word/document.xml"] = xml("w:document", f"<w:body>{self.body}</w:body>")
        wrap = lambda inside: f'<Relationships xmlns="{relationships}">{inside}</Relationships>'
        parts["word/_rels/document.xml.rels"] = wrap("".join(self.relations))
        parts["_rels/.rels"] = wrap(
            f'<Relationship Id="rId1" Type="{R}/officeDocument" Target="word/document.xml"/>' + "".join(self.root_relations)
        )
        overrides = f'<Override PartName="/word/document.xml" ContentType="{self.main_type}"/>'
        for name in parts:
            stem = re.sub(r"\d*\.xml$", "", name.rsplit("/", 1)[-1])
            if stem in TYPES and stem != "document":
                kind = f"application/vnd.openxmlformats-officedocument.wordprocessingml.{TYPES[stem]}+xml"
                overrides += f'<Override PartName="/{name}" ContentType="{kind}"/>'
        parts["[Content_Types].xml"] = (
            '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">'
            '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>'
            '<Default Extension="xml" ContentType="application/xml"/><Default Extension="png" ContentType="image/png"/>'
            f"{overrides}</Types>"
        )
        with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as archive:
            for name in sorted(parts):
                data = parts[name]
                if self.strict and isinstance(data, str):
                    for transitional, strict in STRICT.items():
                        data = data.replace(transitional, strict)
                info = zipfile.ZipInfo(name, (2026, 1, 1, 0, 0, 0))
                info.compress_type = zipfile.ZIP_DEFLATED
                archive.writestr(info, data)
