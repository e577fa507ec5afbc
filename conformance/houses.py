#!/usr/bin/env python3
"""Publishes a folder in every built-in house, and holds what comes out to what the house promises.

    houses.py OBBLET FOLDER OUTPUT

Bodies are put into pages, so that a checker of pages can look at them too.
"""

import pathlib
import re
import shutil
import subprocess
import sys
import xml.dom.minidom

PAGE = '<!DOCTYPE html>\n<html lang="en">\n<head>\n<title>Body</title>\n</head>\n<body>\n{}</body>\n</html>\n'


def houses(obblet):
    listing = subprocess.run([obblet, "house"], check=True, capture_output=True, text=True).stdout
    return [line.split()[0] for line in listing.splitlines()]


def promises(house, page, text):
    """What is wrong with a page of this house."""
    elements = set(re.findall(r"<([a-z][a-z0-9]*)", text))
    # The list of pages is for people, not for the form.
    if house == "listing" and page.stem != "index" and elements - {"br", "p"}:
        yield f"elements {elements - {'br', 'p'}}"
    if house == "filing" and not text.isascii():
        yield "characters outside ASCII"
    if house == "ebook":
        xml.dom.minidom.parseString(text)
    if house == "body" and "<html" in text:
        yield "a whole page"
    if re.search(r"<p>\s*</p>", text):
        yield "an empty paragraph"


def main(obblet, folder, output):
    wrong = 0
    pages = 0
    for house in houses(obblet):
        target = pathlib.Path(output) / house
        shutil.rmtree(target, ignore_errors=True)
        subprocess.run(
            [obblet, "publish", folder, str(target), "--house", house],
            check=True,
            capture_output=True,
        )
        for page in sorted([*target.rglob("*.html"), *target.rglob("*.xhtml")]):
            text = page.read_text(encoding="utf-8")
            pages += 1
            for problem in promises(house, page, text):
                print(f"{page}: {problem}", file=sys.stderr)
                wrong += 1
            if "<html" not in text:
                page.write_text(PAGE.format(text), encoding="utf-8")
    print(f"{pages} pages in {len(houses(obblet))} houses")
    return wrong or not pages


if __name__ == "__main__":
    sys.exit(1 if main(*sys.argv[1:4]) else 0)
