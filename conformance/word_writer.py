#!/usr/bin/env python3
"""Writes Word files and holds them against independent checkers and against their sources.

    word_writer.py OBBLET FOLDER SOURCE…

Each source, in any format, is written as a Word file by way of nothing, and one in Word by way of HTML too.
Every written file must pass openxml-audit with no error, load in python-docx, and compare as its source does
with itself; what was written from it once more must be the same bytes. Differences that Word cannot help
having are named in ALLOWED, each with its reason.

Needs openxml-audit and python-docx (PyPI).
"""
import pathlib
import re
import subprocess
import zipfile
import sys

import docx
import docx.enum.style
import docx.shared
from openxml_audit import OpenXmlValidator

from word_parts import png

# What a comparison may say, with why.
ALLOWED = [
    # Word keeps names of authors alone.
    re.compile(r"metadata changed: the authors “.*<.*>.*” became"),
]


# What HTML has no words for, so that it cannot come back from there.
LOST_IN_HTML = [
    re.compile(r"structure missing: (a column break|a page break|a section break)$"),
    re.compile(r"stands in: columns"),
    re.compile(r"emphasis missing: small capitals"),
    # Files inside the document go beside a page.
    re.compile(r"the target of the link .*: cid:\S+ became \S+-pictures/"),
    # Nothing is listed where there are no headings.
    re.compile(r"structure missing: a contents list"),
    # A body says nothing of its document.
    re.compile(r"^metadata "),
]

# Nothing is repaired on the way: what hands typed stays as they typed it.
HOUSE = """like = "body"

[page]
audiences = ["web", "print"]

[repairs]
sources = []
"""


def run(*arguments):
    return subprocess.run(arguments, capture_output=True, text=True)


def differences(obblet, left, right, house):
    """What a comparison says beyond its table."""
    told = run(obblet, "compare", left, right, "--house", house)
    if told.returncode == 0:
        return []
    if told.returncode != 1:
        return [f"compare failed: {told.stderr.strip()}"]
    lines = told.stdout.splitlines()
    rest = lines[lines.index("") + 1:] if "" in lines else lines
    return [line for line in rest if line.strip() and not any(a.search(line) for a in ALLOWED)]


def problems_of(path):
    """What the independent checkers say of a written file."""
    found = [f"openxml-audit: {error}" for error in OpenXmlValidator().validate(str(path)).errors]
    try:
        docx.Document(str(path))
    except Exception as error:  # whatever it is, the file does not load
        found.append(f"python-docx: {error}")
    return found


def written(obblet, source, target, house):
    told = run(obblet, "convert", str(source), str(target), "--house", house)
    return [] if told.returncode == 0 else [f"{target.name}: {told.stderr.strip()}"]


def has_local_pictures(source):
    with zipfile.ZipFile(source) as package:
        relations = [name for name in package.namelist() if name.endswith(".rels")]
        return any(b'Target="file:' in package.read(name) for name in relations)


def check(obblet, source, folder, house):
    """All that is wrong with what becomes of a source."""
    stem = re.sub(r"\W+", "-", str(source.with_suffix("")))[-60:]
    first, second = folder / f"{stem}.docx", folder / f"{stem}-again.docx"
    found = written(obblet, source, first, house)
    if found:
        return found
    found = problems_of(first) + differences(obblet, str(source), str(first), house)
    found += written(obblet, first, second, house)
    third = folder / f"{stem}-third.docx"
    found += written(obblet, second, third, house)
    if not found and second.read_bytes() != third.read_bytes():
        found.append("a second trip changes bytes")
    # A page does not ask for pictures of one machine.
    if source.suffix == ".docx" and not has_local_pictures(source):
        page, back = folder / f"{stem}.html", folder / f"{stem}-by-html.docx"
        found += written(obblet, source, page, house) + written(obblet, page, back, house)
        if back.exists():
            found += [f"by way of HTML: {line}" for line in problems_of(back)]
            found += [f"by way of HTML: {line}"
                      for line in differences(obblet, str(source), str(back), house)
                      if not any(lost.search(line) for lost in LOST_IN_HTML)]
    return found


def pattern_file(folder):
    """An organisation's own file: a header with a picture, a footer for first pages, styles of its own."""
    pattern = docx.Document()
    section = pattern.sections[0]
    section.page_width, section.page_height = docx.shared.Mm(200), docx.shared.Mm(260)
    section.header.paragraphs[0].text = "Marrowby Tide Mill Trust"
    section.header.paragraphs[0].add_run().add_picture(str(folder / "wheel.png"))
    section.different_first_page_header_footer = True
    section.first_page_footer.paragraphs[0].text = "Printed at the mill"
    pattern.styles["Heading 1"].font.size = docx.shared.Pt(31)
    style = pattern.styles.add_style("Trust Notice", docx.enum.style.WD_STYLE_TYPE.PARAGRAPH)
    style.font.bold = True
    path = folder / "pattern.docx"
    pattern.save(path)
    return path


def check_pattern(obblet, folder):
    """What is wrong with a file that takes over a pattern."""
    picture = folder / "wheel.png"
    picture.write_bytes(png(24, 24, (10, 90, 107)))
    pattern = pattern_file(folder)
    source, target = folder / "notice.md", folder / "notice.docx"
    source.write_text("# Gates\n\n# Wheel\n\n::: warning\nLoud.\n:::\n\n- one\n", encoding="utf-8")
    told = run(obblet, "convert", str(source), str(target), "--set", f"word.pattern={pattern}",
               "--set", 'word.admonition="Trust Notice"')
    if told.returncode != 0:
        return [told.stderr.strip()]
    found = problems_of(target)
    made = docx.Document(str(target))
    section = made.sections[0]
    expected = {
        "header": (section.header.paragraphs[0].text, "Marrowby Tide Mill Trust"),
        "pictures of the header": (len(section.header.part.related_parts), 1),
        "footer of the first page": (section.first_page_footer.paragraphs[0].text, "Printed at the mill"),
        "paper": (section.page_width, docx.Document(str(pattern)).sections[0].page_width),
        "heading": (made.paragraphs[0].style.font.size, docx.shared.Pt(31)),
        "notice": (made.styles["Trust Notice"].font.bold, True),
        "text of the notice": ("Trust Notice".replace(" ", "") in made.element.xml, True),
    }
    return found + [f"{what} is {is_}, not {wanted}" for what, (is_, wanted) in expected.items() if is_ != wanted]


def main():
    obblet, folder, *sources = sys.argv[1:]
    folder = pathlib.Path(folder)
    folder.mkdir(parents=True, exist_ok=True)
    house = folder / "house.toml"
    house.write_text(HOUSE, encoding="utf-8")
    wrong = 0
    for source in map(pathlib.Path, sources):
        for line in check(obblet, source, folder, str(house)):
            wrong += 1
            print(f"{source}: {line}")
    if not sources:
        sys.exit("word_writer: no sources")
    for line in check_pattern(obblet, folder):
        wrong += 1
        print(f"pattern: {line}")
    print(f"{len(sources)} sources written as Word files, {wrong} differences or errors")
    sys.exit(1 if wrong else 0)


main()
