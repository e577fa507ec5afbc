#!/usr/bin/env python3
"""Counts, without any of our code, how many of a source's words stand in the HTML made of it.

    outside-count.py FORMAT SOURCE PAGE [PDF]

prints one line: recall (0 to 1), words in the source, words missing, and the first missing ones. Of
Word the text of the XML is counted; of HTML the text nodes; of Markdown and Org the words outside what
is surely markup; of plain text all words; of LaTeX the words of the PDF that TeX made of it.
"""

import collections
import html.parser
import re
import subprocess
import sys
import unicodedata
import xml.etree.ElementTree as ElementTree
import zipfile

WORD = re.compile(r"[^\W_]+")
# Pages of TeX have no space between a word and the mark of its note, nor inside LaTeX2e.
LETTERS_OR_DIGITS = re.compile(r"[^\W_\d]+|\d+")
# Lines at the top or foot of a page that may run through a document.
RUNNING_LINES = 2
W = "{http://schemas.openxmlformats.org/wordprocessingml/2006/main}"
M = "{http://schemas.openxmlformats.org/officeDocument/2006/math}"
A = "{http://schemas.openxmlformats.org/drawingml/2006/main}"
COMPATIBILITY = "{http://schemas.openxmlformats.org/markup-compatibility/2006}"


def words(text, word=WORD):
    return word.findall(unicodedata.normalize("NFKC", text.replace("\xad", "")).casefold())


def without_accents(text):
    """Fonts of TeX print accents as signs of their own, before or behind their letters."""
    text = re.sub("[\u00a8\u00b4\u00b8\u02c6\u02c7\u02d8\u02da\u02dc`^~]", "", text).replace("ı", "i")
    return "".join(c for c in unicodedata.normalize("NFKD", text) if not unicodedata.combining(c))


class Page(html.parser.HTMLParser):
    """The text nodes of a page; inline elements do not part words."""

    HIDDEN = {"script", "style", "template", "annotation", "title"}
    INLINE = set("a abbr b bdi bdo big cite code data del dfn em font i ins kbd label mark q s samp small "
                 "span strike strong sub sup time tt u var wbr mi mn mo mtext mrow math o:p ruby".split())

    def __init__(self):
        super().__init__(convert_charrefs=True)
        self.parts, self.hidden = [], 0

    def handle_starttag(self, tag, attributes):
        if tag in self.HIDDEN:
            self.hidden += 1
        # The mark of a note is no part of the word before it.
        if tag not in self.INLINE or dict(attributes).get("role") == "doc-noteref":
            self.parts.append(" ")
        alternative = dict(attributes).get("alt") if tag == "img" else None
        # Lists of contents and abstracts have their headings as names.
        name = dict(attributes).get("aria-label") if tag in ("nav", "section") else None
        for words_beside in (alternative, name):
            if words_beside and not self.hidden:
                self.parts.append(f" {words_beside} ")

    def handle_endtag(self, tag):
        if tag in self.HIDDEN:
            self.hidden = max(0, self.hidden - 1)
        if tag not in self.INLINE:
            self.parts.append(" ")

    def handle_data(self, data):
        if not self.hidden:
            self.parts.append(data)


def text_of_html(text):
    page = Page()
    page.feed(text)
    page.close()
    return "".join(page.parts)


def decoded(path):
    raw = open(path, "rb").read()
    for bom, name in ((b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16"), (b"\xef\xbb\xbf", "utf-8-sig")):
        if raw.startswith(bom):
            return raw.decode(name, "replace")
    stated = re.search(rb"charset=[\"']?([\w-]+)", raw[:4096])
    for name in ["utf-8", stated and stated[1].decode(), "cp1252", "latin-1"]:
        try:
            return raw.decode(name)
        except (TypeError, LookupError, UnicodeDecodeError):
            continue


def text_of_word(path):
    archive = zipfile.ZipFile(path)
    names = archive.namelist()
    parts = [n for n in names if re.search(r"word/(document\d*|footnotes|endnotes|comments)\.xml$", n)]
    text = []

    def walk(element, in_field):
        for child in element:
            tag = child.tag
            if tag in (W + "del", W + "moveFrom", W + "instrText", COMPATIBILITY + "Fallback"):
                continue
            if tag in (W + "t", M + "t", A + "t"):
                text.append(child.text or "")
            elif tag in (W + "tab", W + "br", W + "cr"):
                text.append(" ")
            else:
                walk(child, in_field)
                if tag in (W + "p", W + "tc", A + "p"):
                    text.append("\n")

    for part in parts:
        root = ElementTree.fromstring(archive.read(part))
        walk(root, False)
        text.append("\n")
    return "".join(text)


def text_of_markdown(text):
    text = re.sub(r"\A---\n.*?\n(---|\.\.\.)\n", "", text, flags=re.S)
    text = re.sub(r"<!--.*?-->", " ", text, flags=re.S)
    text = re.sub(r"<(script|style)\b.*?</\1>", " ", text, flags=re.S | re.I)
    text = re.sub(r"^ {0,3}\[[^\]]+\]:.*$", " ", text, flags=re.M)
    text = re.sub(r"\]\([^()\s]*(\([^()]*\)[^()\s]*)*(\s+[\"'(][^\n]*?[\"')])?\s*\)", "] ", text)
    text = re.sub(r"\]\[[^\]]*\]", "] ", text)
    text = re.sub(r"</?[a-zA-Z][^<>]*>", " ", text)
    text = re.sub(r"^\s*([`~]{3,}|:{3,}).*$", " ", text, flags=re.M)
    text = re.sub(r"^\s*\d+[.)]\s", " ", text, flags=re.M)
    text = re.sub(r"\[\^[^\]]+\]", " ", text)
    text = re.sub(r"\[!\w+\]", " ", text)
    return re.sub(r"&\w+;|&#\w+;|\{[#.][^}]*\}", " ", text)


def text_of_org(text):
    text = re.sub(r"^\s*#\+begin_comment.*?^\s*#\+end_comment.*?$", " ", text, flags=re.S | re.M | re.I)
    text = re.sub(r"^\s*#\+.*$|^\s*#( .*)?$|^\s*:[\w-]+:.*$", " ", text, flags=re.M)
    text = re.sub(r"\[\[[^\]]*\]\[", " ", text)
    text = re.sub(r"^(\*+ )(TODO|DONE)\b", r"\1", text, flags=re.M)
    text = re.sub(r"\s:[\w:@]+:\s*$", " ", text, flags=re.M)
    text = re.sub(r"^\s*\d+[.)]\s", " ", text, flags=re.M)
    text = re.sub(r"\[fn:[^\]:]*:?", " ", text)
    return re.sub(r"<\d{4}-\d\d-\d\d[^>]*>|\[\d{4}-\d\d-\d\d[^\]]*\]|^.*CLOCK:.*$", " ", text, flags=re.M)


def text_of_pdf(path):
    run = subprocess.run(["pdftotext", "-enc", "UTF-8", path, "-"], capture_output=True, check=False)
    text = without_running_lines(run.stdout.decode("utf-8", "replace"))
    return re.sub(r"(\w)[-\u2010]\n(\w)", r"\1\2", text)


def without_running_lines(text):
    """Takes away what TeX adds to pages of paper: their numbers, and lines at their top and foot that
    say again what stands elsewhere."""
    pages = [[line.strip() for line in page.split("\n") if line.strip()] for page in text.split("\f")]

    def said(line):
        return " ".join(re.sub(r"\d+", " ", line).casefold().split())

    often = collections.Counter(said(line) for page in pages for line in page)
    kept = []
    for page in pages:
        for end in (0, -1):
            for _ in range(RUNNING_LINES):
                if page and (not said(page[end]) or often[said(page[end])] > 1):
                    page.pop(end)
        kept.append("\n".join(page))
    return "\n".join(kept)


def main():
    kind, source, page = sys.argv[1:4]
    if kind == "word":
        wanted = text_of_word(source)
    elif kind == "html":
        wanted = text_of_html(decoded(source))
    elif kind == "markdown":
        wanted = text_of_markdown(decoded(source))
    elif kind == "org":
        wanted = text_of_org(decoded(source))
    elif kind == "latex":
        wanted = text_of_pdf(sys.argv[4])
    else:
        wanted = decoded(source)
    shown = text_of_html(open(page, encoding="utf-8").read())
    word = WORD
    if kind == "latex":
        wanted, shown = without_accents(wanted), without_accents(shown)
        word = LETTERS_OR_DIGITS
    wanted = words(wanted, word)
    found = collections.Counter(words(shown, word))
    missing = []
    for word in wanted:
        if found[word] > 0:
            found[word] -= 1
        else:
            missing.append(word)
    recall = 1 - len(missing) / len(wanted) if wanted else 1.0
    print(f"{recall:.4f}\t{len(wanted)}\t{len(missing)}\t{' '.join(missing[:12])}")


main()
