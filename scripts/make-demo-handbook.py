#!/usr/bin/env python3
"""Makes crates/obblet-cli/demo/volunteers/handbook.docx, the demo's Word file.

Needs python-docx 1.2 and Pillow. The file is committed; run this only to change it:

    python3 -m venv .venv && .venv/bin/pip install python-docx==1.2.0 pillow==13.0.0
    .venv/bin/python scripts/make-demo-handbook.py
"""

import io
import math
from datetime import datetime, timezone
from pathlib import Path

from docx import Document
from docx.enum.style import WD_STYLE_TYPE
from docx.enum.text import WD_ALIGN_PARAGRAPH
from docx.opc.constants import RELATIONSHIP_TYPE
from docx.opc.packuri import PackURI
from docx.opc.part import Part
from docx.oxml import parse_xml
from docx.oxml.ns import nsdecls, qn
from docx.shared import Cm, Pt, RGBColor
from PIL import Image, ImageDraw

TARGET = Path(__file__).resolve().parent.parent / "crates" / "obblet-cli" / "demo" / "volunteers" / "handbook.docx"
FOOTNOTES = "application/vnd.openxmlformats-officedocument.wordprocessingml.footnotes+xml"

document = Document()
notes = []


def numbering_definition(number, levels):
    """A multi-level list: one (format, text) a level. Gives its w:numId."""
    numbering = document.part.numbering_part.element
    level_xml = "".join(
        f'<w:lvl w:ilvl="{at}"><w:start w:val="1"/><w:numFmt w:val="{fmt}"/>'
        f'<w:lvlText w:val="{text}"/><w:lvlJc w:val="left"/>'
        f'<w:pPr><w:ind w:left="{420 * (at + 1)}" w:hanging="420"/></w:pPr></w:lvl>'
        for at, (fmt, text) in enumerate(levels)
    )
    abstract = parse_xml(
        f'<w:abstractNum {nsdecls("w")} w:abstractNumId="{number}">'
        f'<w:multiLevelType w:val="multilevel"/>{level_xml}</w:abstractNum>'
    )
    first_num = numbering.find(qn("w:num"))
    if first_num is not None:
        first_num.addprevious(abstract)
    else:
        numbering.append(abstract)
    numbering.append(
        parse_xml(
            f'<w:num {nsdecls("w")} w:numId="{number}"><w:abstractNumId w:val="{number}"/></w:num>'
        )
    )
    return number


def item(text, list_id, level=0):
    paragraph = document.add_paragraph(style="List Paragraph")
    properties = paragraph._p.get_or_add_pPr()
    properties.append(
        parse_xml(
            f'<w:numPr {nsdecls("w")}><w:ilvl w:val="{level}"/><w:numId w:val="{list_id}"/></w:numPr>'
        )
    )
    rich(paragraph, text)
    return paragraph


def rich(paragraph, text):
    """Text in which *stars* stress and __lines__ weigh."""
    for index, part in enumerate(text.split("__")):
        for inner, piece in enumerate(part.split("*")):
            if piece:
                run = paragraph.add_run(piece)
                run.bold = True if index % 2 else None
                run.italic = True if inner % 2 else None
    return paragraph


def text(words):
    return rich(document.add_paragraph(), words)


def footnote(paragraph, words):
    notes.append(words)
    number = len(notes)
    paragraph._p.append(
        parse_xml(
            f'<w:r {nsdecls("w")}><w:rPr><w:vertAlign w:val="superscript"/></w:rPr>'
            f'<w:footnoteReference w:id="{number}"/></w:r>'
        )
    )


def link(paragraph, words, address=None, anchor=None):
    attributes = f'w:anchor="{anchor}"' if anchor else ""
    if address:
        identifier = document.part.relate_to(address, RELATIONSHIP_TYPE.HYPERLINK, is_external=True)
        attributes += f' r:id="{identifier}"'
    paragraph._p.append(
        parse_xml(
            f'<w:hyperlink {nsdecls("w", "r")} {attributes}><w:r><w:rPr>'
            f'<w:color w:val="0A5A6B"/><w:u w:val="single"/></w:rPr>'
            f'<w:t xml:space="preserve">{words}</w:t></w:r></w:hyperlink>'
        )
    )


def bookmark(paragraph, name, number):
    first = paragraph._p.find(qn("w:r"))
    first.addprevious(
        parse_xml(f'<w:bookmarkStart {nsdecls("w")} w:id="{number}" w:name="{name}"/>')
    )
    paragraph._p.append(parse_xml(f'<w:bookmarkEnd {nsdecls("w")} w:id="{number}"/>'))


def picture(draw, size, alternative, width):
    image = Image.new("RGB", size, "#f3efe4")
    draw(ImageDraw.Draw(image), size)
    data = io.BytesIO()
    image.save(data, "PNG", optimize=True)
    data.seek(0)
    paragraph = document.add_paragraph()
    shape = paragraph.add_run().add_picture(data, width=width)
    shape._inline.docPr.set("descr", alternative)
    return paragraph


def draw_stair(draw, size):
    width, height = size
    for step in range(9):
        x, y = 60 + step * 62, height - 60 - step * 34
        draw.rectangle([x, y, x + 66, y + 8], fill="#6b5337")
        draw.line([x, y, x, y + 34], fill="#b7aa92", width=3)
    draw.line([60, height - 150, 620, height - 456], fill="#0a5a6b", width=7)
    draw.rectangle([430, 30, width - 20, 78], fill="#4c3b28")
    draw.text((448, 42), "BEAM: 1.62 m", fill="#f6e7b0", font_size=24)
    draw.text((70, 60), "hold the rail", fill="#0a5a6b", font_size=28)


def draw_tide(draw, size):
    width, height = size
    middle = height * 0.52
    points = [
        (x, middle - math.sin(x / width * 4 * math.pi) * height * 0.3) for x in range(40, width - 10)
    ]
    draw.line([40, 20, 40, height - 30], fill="#1d2a30", width=3)
    draw.line([40, height - 30, width - 10, height - 30], fill="#1d2a30", width=3)
    draw.line([40, middle - 60, width - 10, middle - 60], fill="#a5482f", width=3)
    draw.line(points, fill="#45798a", width=6)
    draw.text((186, middle - 92), "3.6 m: the pond fills", fill="#a5482f", font_size=22)
    for hour in range(0, 25, 6):
        draw.text((36 + hour / 24 * (width - 70), height - 28), f"{hour:02}", fill="#1d2a30", font_size=18)


# The styles: a table with a real header, and a paragraph style for what is typed.
normal = document.styles["Normal"]
normal.font.name, normal.font.size = "Georgia", Pt(11)
typed = document.styles.add_style("Code Lines", WD_STYLE_TYPE.PARAGRAPH)
typed.font.name, typed.font.size = "Courier New", Pt(10)
warning = document.styles.add_style("House Rule", WD_STYLE_TYPE.PARAGRAPH)
warning.base_style = normal
warning.font.color.rgb = RGBColor(0x7D, 0x4A, 0x36)

ordered = numbering_definition(
    90, [("decimal", "%1."), ("lowerLetter", "%2)"), ("lowerRoman", "%3.")]
)
bulleted = numbering_definition(91, [("bullet", "\u2022"), ("bullet", "\u2013")])

document.add_paragraph("Volunteers\u2019 handbook", style="Title")
paragraph = text("For everybody who keeps the __Marrowby Tide Mill__ turning. Read it once, "
                 "keep it dry, and ask *Ada Weir* when it does not answer.")
footnote(paragraph, "The first handbook, of 1931, had four pages; three were about the stair.")

document.add_heading("Your first day", 1)
text("Come an hour before high water. Then, in this order:")
item("Sign the __work book__ by the door.", ordered)
item("Find your captain of the day, and take from them:", ordered)
item("a key with a *blue* tag,", ordered, 1)
item("gloves,", ordered, 1)
item("the bell code, which is", ordered, 1)
item("one stroke: pond is filling;", ordered, 2)
item("two strokes: gates are closed;", ordered, 2)
item("three strokes: stop the wheel.", ordered, 2)
item("Walk the whole mill once, bottom to top.", ordered)
text("Captains then say who does what. When they have, go on:")
item("Open the shutters on the river side.", ordered)
item("Ring once.", ordered)

heading = document.add_heading("The stair", 1)
bookmark(heading, "the-stair", 1)
picture(draw_stair, (760, 520), "Drawing of the stair: nine steps, a rail on the left, and a beam "
        "at 1.62 metres above the seventh step", Cm(11))
document.add_paragraph("The stair, with the beam that everybody meets once", style="Caption")
paragraph = text("There are nine steps and one beam. Hold the rail")
footnote(paragraph, "The rail is on the left going up. It was on the right until 1958.")
paragraph.add_run(", keep one hand free, and never carry a sack alone.")
rule = document.add_paragraph("Nobody goes up while the wheel turns, except to stop it.",
                              style="House Rule")
rule.runs[0].bold = True

document.add_heading("Rotas and tides", 1)
document.add_heading("Who is here when", 2)
document.add_paragraph("Rota for the first week of June", style="Caption")
table = document.add_table(rows=6, cols=4, style="Table Grid")
rows = [
    ["Day", "Captain", "Doors", "Wheel"],
    ["Saturday", "Ada Weir", "10:30 \u2013 13:00", "Tom Leat"],
    ["", "", "13:00 \u2013 17:00", "Hesper Sands"],
    ["Sunday", "Tom Leat", "10:30 \u2013 17:00", "Ada Weir"],
    ["Monday", "Closed for mending; ask Ada Weir", "", ""],
    ["Wednesday", "Hesper Sands", "10:30 \u2013 17:00", "Jory Crake"],
]
for row, words in zip(table.rows, rows):
    for cell, word in zip(row.cells, words):
        cell.text = word
for cell in table.rows[0].cells:
    cell.paragraphs[0].runs[0].bold = True
table.rows[0]._tr.get_or_add_trPr().append(parse_xml(f'<w:tblHeader {nsdecls("w")}/>'))
for column in (0, 1):
    table.cell(1, column).merge(table.cell(2, column))
table.cell(4, 1).merge(table.cell(4, 3))
table.cell(4, 1).paragraphs[0].alignment = WD_ALIGN_PARAGRAPH.CENTER
extra = table.cell(5, 3)
extra.add_paragraph("and, if the wind is south-west:")
for words in ("the second bell", "sandbags"):
    line = extra.add_paragraph(words, style="List Paragraph")
    line._p.get_or_add_pPr().append(
        parse_xml(f'<w:numPr {nsdecls("w")}><w:ilvl w:val="0"/><w:numId w:val="{bulleted}"/></w:numPr>')
    )
document.add_paragraph()

document.add_heading("Reading the tide", 2)
picture(draw_tide, (760, 360), "Curve of one day's tide: two high waters, each above the line at "
        "3.6 metres where the pond fills", Cm(12))
document.add_paragraph("One day\u2019s tide at the outer piles", style="Caption")
paragraph = text("The pond fills at 3.6 m. The times are in the ")
link(paragraph, "table of high water", "../high-water.md")
paragraph.add_run("; how wind changes them is told on the ")
link(paragraph, "page of the estuary office", "https://estuary.example/wind?area=marrowby&lang=en")
paragraph.add_run(". Before you touch a gate, go back to ")
link(paragraph, "the stair", anchor="the-stair")
paragraph.add_run(".")
text("The height of the pond is written H\u2082O-proof, as the joke goes:")
paragraph = document.add_paragraph()
for words, script in (("3.6 m", None), (" above datum, or 2", None), ("4", "superscript"),
                      (" hand-widths on pile P", None), ("3", "subscript"), (".", None)):
    run = paragraph.add_run(words)
    if script:
        setattr(run.font, script, True)

document.add_heading("Things to bring", 1)
item("Warm clothes: the bin floor is *never* warm.", bulleted)
item("Food", bulleted)
item("for yourself,", bulleted, 1)
item("and a biscuit for Jory.", bulleted, 1)
item("A torch.", bulleted)
document.add_paragraph("A mill is a clock that eats corn.", style="Intense Quote")

document.add_heading("The work book", 1)
text("One line a day, like this:")
for line in ("2026-06-06  AW  pond 4.1 m  wheel 2 h 50", "            TL  changed seal, gate 1"):
    document.add_paragraph(line, style="Code Lines")
paragraph = document.add_paragraph()
paragraph.add_run("Write with a pencil. Ink ")
paragraph.add_run("runs").font.strike = True
paragraph.add_run(" ")
run = paragraph.add_run("swims")
run.underline = True
paragraph.add_run(".")

properties = document.core_properties
properties.title = "Volunteers\u2019 handbook"
properties.author = "Ada Weir"
properties.keywords = "volunteers, safety, rota"
properties.comments = "Everything a volunteer at the tide mill needs to know."
properties.language = "en-GB"
properties.created = properties.modified = datetime(2026, 5, 2, 9, 0, tzinfo=timezone.utc)
properties.last_modified_by, properties.revision = "Ada Weir", 3

note_xml = "".join(
    f'<w:footnote w:id="{number}"><w:p><w:r><w:rPr><w:vertAlign w:val="superscript"/></w:rPr>'
    f"<w:footnoteRef/></w:r><w:r><w:t xml:space=\"preserve\"> {words}</w:t></w:r></w:p></w:footnote>"
    for number, words in enumerate(notes, 1)
)
xml = (
    f'<?xml version="1.0" encoding="UTF-8" standalone="yes"?><w:footnotes {nsdecls("w")}>'
    '<w:footnote w:type="separator" w:id="-1"><w:p><w:r><w:separator/></w:r></w:p></w:footnote>'
    '<w:footnote w:type="continuationSeparator" w:id="0"><w:p><w:r><w:continuationSeparator/></w:r></w:p>'
    f"</w:footnote>{note_xml}</w:footnotes>"
)
part = Part(PackURI("/word/footnotes.xml"), FOOTNOTES, xml.encode(), document.part.package)
document.part.relate_to(part, RELATIONSHIP_TYPE.FOOTNOTES)

TARGET.parent.mkdir(parents=True, exist_ok=True)
document.save(TARGET)
print(f"wrote {TARGET}, {TARGET.stat().st_size} bytes")
