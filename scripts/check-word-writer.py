#!/usr/bin/env python3
"""Writes Word files and holds them against independent checkers and against their sources.

    check-word-writer.py OBBLET FOLDER SOURCE…

Each source, in any format, is written as a Word file by way of nothing, and one in Word by way of HTML too.
Every written file must pass openxml-audit with no error, load in python-docx, and compare as its source does
with itself; what was written from it once more must be the same bytes. Differences that Word cannot help
having are named in ALLOWED, each with its reason.

Needs openxml-audit and python-docx (PyPI).
"""
import pathlib
import re
import subprocess
import sys

import docx
from openxml_audit import OpenXmlValidator

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
    if source.suffix == ".docx":
        page, back = folder / f"{stem}.html", folder / f"{stem}-by-html.docx"
        found += written(obblet, source, page, house) + written(obblet, page, back, house)
        if back.exists():
            found += [f"by way of HTML: {line}" for line in problems_of(back)]
            found += [f"by way of HTML: {line}"
                      for line in differences(obblet, str(source), str(back), house)
                      if not any(lost.search(line) for lost in LOST_IN_HTML)]
    return found


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
        sys.exit("check-word-writer: no sources")
    print(f"{len(sources)} sources written as Word files, {wrong} differences or errors")
    sys.exit(1 if wrong else 0)


main()
