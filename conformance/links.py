#!/usr/bin/env python3
"""Checks that every link between pages of a web folder leads somewhere, and every picture is there.

    python3 conformance/links.py FOLDER…

Links to other hosts are left alone. Exits with 1 when anything is broken.
"""

import sys
from html.parser import HTMLParser
from pathlib import Path
from urllib.parse import unquote, urlsplit


class Page(HTMLParser):
    def __init__(self, path):
        super().__init__()
        self.ids, self.links = set(), []
        self.feed(path.read_text(encoding="utf-8"))

    def handle_starttag(self, tag, attributes):
        values = dict(attributes)
        if values.get("id"):
            self.ids.add(values["id"])
        for name in ("href", "src"):
            if values.get(name) is not None:
                self.links.append(values[name])


def broken(path, link, pages):
    """What is wrong with a link of the page at path, or None."""
    parts = urlsplit(link)
    if parts.scheme or parts.netloc:
        return None
    target = path
    if parts.path:
        target = (path.parent / unquote(parts.path)).resolve()
    if not target.is_file():
        return "no such file"
    if parts.fragment and target.suffix == ".html" and unquote(parts.fragment) not in pages[target].ids:
        return "no such place"
    return None


def main():
    checked, failures = 0, 0
    for folder in sys.argv[1:]:
        files = sorted(Path(folder).resolve().rglob("*.html"))
        pages = {path: Page(path) for path in files}
        if not pages:
            sys.exit(f"{folder}: no pages")
        for path, page in pages.items():
            for link in page.links:
                checked += 1
                if why := broken(path, link, pages):
                    failures += 1
                    print(f"{path}: {link}: {why}")
    print(f"{checked} links and pictures checked, {failures} broken")
    sys.exit(1 if failures else 0)


main()
