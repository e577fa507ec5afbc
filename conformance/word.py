#!/usr/bin/env python3
"""Holds what the reader makes of Word files against counts of its own over their XML.

    word.py OBBLET OUTPUT FILE...

Of each file, in the houses page, body, looks and filing: it is read without an error; every visible
word is in the output, in the same order; headings, list items, tables, cells, links, pictures and
notes are as many as the XML has. The pages are left in OUTPUT for the Nu checker.

This script knows WordprocessingML by itself and shares nothing with the reader.
"""

import html.parser
import pathlib
import posixpath
import re
import subprocess
import sys
import zipfile
import xml.etree.ElementTree as ET

HOUSES = ["page", "body", "looks", "filing"]
UNDERSTOOD = {"wps", "wpg", "wpc", "w14", "w15", "wp14", "a14", "v2", "c14"}
SYMBOLIC = {"symbol", "wingdings", "wingdings 2", "wingdings 3", "webdings"}


def local(element):
    return element.tag.rsplit("}", 1)[-1] if isinstance(element.tag, str) else ""


def attribute(element, name):
    for key, value in element.attrib.items():
        if key.rsplit("}", 1)[-1] == name:
            return value
    return None


def child(element, name):
    return next((inner for inner in element if local(inner) == name), None) if element is not None else None


def value(element, *path):
    for name in path:
        element = child(element, name)
    return attribute(element, "val") if element is not None else None


def is_on(element):
    return element is not None and attribute(element, "val") not in ("0", "false", "off", "none")


class Package:
    def __init__(self, path):
        self.archive = zipfile.ZipFile(path)
        self.names = {name.replace("\\", "/").lower(): name for name in self.archive.namelist()}
        self.main = next(
            (target for kind, target, _ in self.relations("").values() if kind == "officeDocument"), "word/document.xml"
        )

    def read(self, part):
        name = self.names.get(part.lower())
        if not name:
            return None
        try:
            return ET.fromstring(self.archive.read(name))
        except ET.ParseError:
            return None

    def relations(self, part):
        folder, name = posixpath.split(part)
        root = self.read(posixpath.join(folder, "_rels", name + ".rels"))
        found = {}
        for relation in root if root is not None else []:
            target = relation.get("Target") or ""
            if relation.get("TargetMode") != "External":
                target = posixpath.normpath(posixpath.join("/" + folder, target)).lstrip("/")
            found[relation.get("Id")] = (relation.get("Type", "").rsplit("/", 1)[-1], target, relation.get("TargetMode"))
        return found


class Counter:
    """Walks the main part in reading order, and the notes where their marks stand."""

    def __init__(self, package):
        self.package = package
        self.relations = package.relations(package.main)
        self.words = []
        self.notes = []
        self.counts = dict.fromkeys(["headings", "items", "tables", "cells", "links", "pictures", "notes"], 0)
        self.fields = []
        self.charts = 0
        self.styles = {}
        self.default = None
        self.captioned, self.table_before = False, None
        self.formats = {}
        self.read_styles()
        self.read_numbering()
        self.note_parts = {}
        for kind, target, mode in self.relations.values():
            if kind in ("footnotes", "endnotes") and mode != "External":
                root = package.read(target)
                for note in root if root is not None else []:
                    if attribute(note, "type") in (None, "normal"):
                        self.note_parts[(kind[:-1], attribute(note, "id"))] = (note, package.relations(target))

    def part(self, wanted):
        for kind, target, mode in self.relations.values():
            if kind == wanted and mode != "External":
                return self.package.read(target)
        return None

    def read_styles(self):
        root = self.part("styles")
        for style in root if root is not None else []:
            if local(style) == "style":
                self.styles[attribute(style, "styleId")] = style
                if attribute(style, "type") in ("paragraph", None) and attribute(style, "default") in ("1", "true"):
                    self.default = attribute(style, "styleId")

    def read_numbering(self):
        root = self.part("numbering")
        abstracts, by_link = {}, {}
        nums = root if root is not None else []
        for element in nums:
            if local(element) == "abstractNum":
                abstracts[attribute(element, "abstractNumId")] = element
                if value(element, "styleLink"):
                    by_link[value(element, "styleLink")] = element
        for element in nums:
            if local(element) == "num":
                of = abstracts.get(value(element, "abstractNumId"))
                if of is None:
                    continue
                of = by_link.get(value(of, "numStyleLink"), of)
                levels = {attribute(lvl, "ilvl"): self.format(lvl) for lvl in of if local(lvl) == "lvl"}
                levels["styles"] = {value(lvl, "pStyle"): attribute(lvl, "ilvl") for lvl in of if local(lvl) == "lvl"}
                for override in element:
                    if local(override) == "lvlOverride" and child(override, "lvl") is not None:
                        levels[attribute(override, "ilvl")] = self.format(child(override, "lvl"))
                self.formats[attribute(element, "numId")] = levels

    @staticmethod
    def format(level):
        return value(level, "numFmt") or "decimal"

    def chain(self, identifier):
        seen = []
        style = self.styles.get(identifier) if identifier in self.styles else self.styles.get(self.default)
        while style is not None and style not in seen and len(seen) < 32:
            seen.append(style)
            style = self.styles.get(value(style, "basedOn"))
        return seen

    def heading(self, ppr):
        direct = value(ppr, "outlineLvl")
        if direct is not None and 0 <= int(direct) <= 8:
            return True
        for style in self.chain(value(ppr, "pStyle")):
            name = (value(style, "name") or "").lower()
            outline = value(style, "pPr", "outlineLvl")
            if outline is not None:
                return int(outline) <= 8
            if name == "title" or (name.startswith("heading ") and name[8:] in "123456789"):
                return True
            if name in ("quote", "intense quote", "caption", "list paragraph", "block text") or name.startswith("toc "):
                return False
        return False

    def role(self, ppr):
        for style in self.chain(value(ppr, "pStyle")):
            name = (value(style, "name") or "").lower()
            if self.heading(ppr):
                return "heading"
            if "code" in name.replace("-", " ").replace("_", " ").split() or name in ("macro text", "html preformatted", "plain text"):
                return "code"
        return "text"

    def item(self, ppr):
        number, level = value(ppr, "numPr", "numId"), value(ppr, "numPr", "ilvl")
        direct = number is not None
        style_id = value(ppr, "pStyle") if value(ppr, "pStyle") in self.styles else self.default
        for style in self.chain(value(ppr, "pStyle")):
            number = number if number is not None else value(style, "pPr", "numPr", "numId")
            if level is None and not direct:
                level = value(style, "pPr", "numPr", "ilvl")
        if number in (None, "0") or number not in self.formats:
            return False
        levels = self.formats[number]
        if not direct and style_id in levels["styles"]:
            level = levels["styles"][style_id]
        return levels.get(level or "0", "decimal") != "none"

    # Blocks.

    def blocks(self, element):
        for inner in element:
            self.block(inner)

    def block(self, element):
        name = local(element)
        if name == "p":
            self.paragraph(element)
        elif name == "tbl":
            self.table(element)
        elif name == "sdt":
            self.blocks(child(element, "sdtContent") if child(element, "sdtContent") is not None else [])
        elif name == "AlternateContent":
            branch = self.branch(element)
            self.blocks(branch if branch is not None else [])
        elif name in ("customXml", "smartTag", "ins", "del", "moveTo", "moveFrom"):
            self.blocks(element)
        elif name == "altChunk":
            self.chunk(element)

    @staticmethod
    def branch(element):
        for branch in element:
            if local(branch) == "Fallback" or all(p in UNDERSTOOD for p in (branch.get("Requires") or "").split()):
                return branch
        return None

    def table(self, element):
        rows = [row for row in element.iter() if local(row) == "tr" and self.table_of(element, row)]
        if not rows:
            return
        self.counts["tables"] += 1
        start, has_caption = len(self.words), self.captioned
        above = {}
        ends = []
        for row in rows:
            column = int(value(row, "trPr", "gridBefore") or 0)
            if column:
                self.counts["cells"] += 1
            now = {}
            for cell in [cell for cell in row.iter() if local(cell) == "tc" and self.row_of(row, cell)]:
                properties = child(cell, "tcPr")
                merge = child(properties, "vMerge")
                goes_on = merge is not None and attribute(merge, "val") != "restart" and above.get(column)
                across = child(properties, "hMerge")
                across = across is not None and attribute(across, "val") != "restart"
                if not goes_on and not across:
                    self.counts["cells"] += 1
                now[column] = True
                column += int(value(properties, "gridSpan") or 1)
                self.blocks(cell)
            above = now
            ends.append(column)
        # Rows that end before the others are filled up.
        self.counts["cells"] += sum(end < max(ends) for end in ends)
        self.captioned = False
        self.table_before = None if has_caption else start

    def parents(self, root):
        return {inner: outer for outer in root.iter() for inner in outer}

    def table_of(self, table, row):
        parents = self.known_parents()
        outer = parents.get(row)
        while outer is not None and local(outer) not in ("tbl", "txbxContent"):
            outer = parents.get(outer)
        return outer is table

    def row_of(self, row, cell):
        parents = self.known_parents()
        outer = parents.get(cell)
        while outer is not None and local(outer) not in ("tr", "txbxContent"):
            outer = parents.get(outer)
        return outer is row

    def known_parents(self):
        if not hasattr(self, "parent_map"):
            self.parent_map = {}
            for root in [self.root] + [note for note, _ in self.note_parts.values()]:
                self.parent_map.update(self.parents(root))
        return self.parent_map

    def paragraph(self, element):
        ppr = child(element, "pPr")
        role = self.role(ppr)
        words_before = list(self.words)
        self.line, self.shown, self.later, self.sequences = [], False, [], []
        outer_contents = any(field.get("contents") for field in self.fields)
        saved = dict(self.counts)
        self.inlines(element)
        # A link over several paragraphs is one in each.
        for field in self.fields:
            if field.get("link") and len(self.line) > field.get("at", 0) and not self.hidden():
                self.counts["links"] += 1
                field["at"] = 0
        line, shown, later = self.line, self.shown, self.later
        if outer_contents or any(field.get("contents") for field in self.fields):
            self.words, self.counts = words_before, saved
            return
        words = "".join(line).split()
        is_caption = any((value(style, "name") or "").lower() == "caption" for style in self.chain(value(ppr, "pStyle")))
        if is_caption and self.table_before is not None and "Table" in self.sequences:
            # HTML has a table's caption before its rows.
            self.words[self.table_before:self.table_before] = words
        else:
            self.words += words
        self.captioned = is_caption
        self.table_before = None
        if shown and role == "heading":
            self.counts["headings"] += 1
        elif shown and self.item(ppr):
            self.counts["items"] += 1
        for box in later:
            self.blocks(box)

    # Inlines.

    def hidden(self):
        return any(not field["result"] for field in self.fields)

    def put(self, text):
        if not self.hidden():
            self.line.append(text)
            if text:
                self.shown = True

    def inlines(self, element):
        for inner in element:
            self.inline(inner)

    def inline(self, element):
        name = local(element)
        if name == "r":
            self.run(element)
        elif name == "hyperlink":
            target = attribute(element, "id")
            is_link = (target in self.relations) or attribute(element, "anchor")
            before = len(self.line)
            self.inlines(element)
            if is_link and len(self.line) > before and not self.hidden():
                self.counts["links"] += 1
        elif name == "fldSimple":
            words = (attribute(element, "instr") or "").split()
            before = len(self.line)
            self.inlines(element)
            if words and words[0].upper() in ("HYPERLINK", "REF", "PAGEREF", "NOTEREF") and len(self.line) > before:
                self.counts["links"] += 1
        elif name == "sdt":
            box = [found for found in element.iter() if local(found) == "checkbox"]
            if box:
                self.shown = True
            elif child(element, "sdtContent") is not None:
                self.inlines(child(element, "sdtContent"))
        elif name in ("ins", "del", "moveTo", "moveFrom", "smartTag", "customXml", "dir", "bdo", "sdtContent"):
            self.inlines(element)
        elif name in ("bookmarkStart",):
            if not (attribute(element, "name") or "_").startswith("_"):
                self.shown = True
        elif name in ("oMath", "oMathPara"):
            self.shown = self.shown or not self.hidden()
        elif name == "AlternateContent":
            branch = self.branch(element)
            for inner in branch if branch is not None else []:
                self.content(inner)

    def run(self, element):
        properties = child(element, "rPr")
        if is_on(child(properties, "vanish")):
            return
        fonts = child(properties, "rFonts")
        symbolic = fonts is not None and (attribute(fonts, "ascii") or "").lower() in SYMBOLIC
        has_mark = False
        for inner in element:
            # A mark that the author chose becomes a number, with a finding.
            if not (has_mark and local(inner) == "t"):
                self.content(inner, symbolic)
            has_mark |= attribute(inner, "customMarkFollows") in ("1", "true", "on")

    def content(self, element, symbolic=False):
        name = local(element)
        if name in ("t", "delText"):
            text = element.text or ""
            space = element.get("{http://www.w3.org/XML/1998/namespace}space")
            self.put("" if symbolic else text if space == "preserve" else text.strip())
            self.shown = self.shown or (bool(text) and not self.hidden())
        elif name in ("tab", "ptab", "br", "cr"):
            if not (name == "br" and attribute(element, "type") in ("page", "column")):
                self.put(" ")
        elif name == "noBreakHyphen":
            self.put("\u2011")
        elif name == "softHyphen":
            self.put("\u00ad")
        elif name == "sym":
            self.put("\ufffc")
        elif name in ("footnoteReference", "endnoteReference"):
            self.shown = True
            found = self.note_parts.get((name[:-9], attribute(element, "id")))
            if found and found not in self.notes:
                self.notes.append(found)
                self.counts["notes"] += 1
        elif name == "fldChar":
            self.field_mark(element)
        elif name in ("instrText", "delInstrText"):
            if self.fields:
                self.fields[-1]["words"] += element.text or ""
        elif name in ("drawing", "pict", "object") and not self.hidden():
            self.drawing(element)
        elif name == "ruby":
            for part in ("rubyBase", "rt"):
                self.inlines(child(element, part))
        elif name == "AlternateContent":
            branch = self.branch(element)
            for inner in branch if branch is not None else []:
                self.content(inner)
        elif name in ("r", "hyperlink"):
            self.inline(element)

    def drawing(self, element):
        # The picture of a line for signatures shows what its words say.
        is_signature = any(local(inner) == "signatureline" for inner in element)
        for inner in element:
            name = local(inner)
            if name == "txbxContent":
                self.later.append(inner)
            elif name in ("blip", "imagedata") and not is_signature:
                target = self.relations.get(attribute(inner, "embed") or attribute(inner, "id") or attribute(inner, "link"))
                # A picture on somebody's own machine is on nobody else's page.
                is_linked = target and target[2] == "External" and not target[1].lower().startswith("file:")
                if is_linked or target and target[1].lower() in self.package.names:
                    self.counts["pictures"] += 1
                    self.shown = True
            elif name == "chart":
                self.charts += 1
            elif name == "OLEObject":
                # The file goes beside the page, where it can do no harm there.
                target = self.relations.get(attribute(inner, "id"), ("", "", ""))[1].lower()
                self.counts["links"] += target in self.package.names and target.endswith((".xlsx", ".docx", ".pdf"))
            elif name == "relIds":
                self.diagram(attribute(inner, "dm"))
            elif name == "hlinkClick" and attribute(inner, "id") in self.relations:
                self.counts["links"] += 1
            if name != "txbxContent":
                self.drawing(inner)

    def diagram(self, relation):
        """A diagram is a list of what its parts say."""
        root = self.package.read(self.relations.get(relation, ("", "", ""))[1])
        for point in root.iter() if root is not None else []:
            if local(point) == "pt" and attribute(point, "type") in (None, "node", "asst"):
                self.counts["items"] += any(text.text for text in point.iter() if local(text) == "t")

    def chunk(self, element):
        """What HTML in a part of its own says is in the output as well."""
        target = self.relations.get(attribute(element, "id"), ("", "", ""))[1]
        name = self.package.names.get(target.lower())
        text = self.package.archive.read(name).decode("utf-8", "replace") if name else ""
        if "<html" in text:
            self.counts["headings"] += len(re.findall("<h[1-6]", text))
            text = re.sub("(?s).*<body>|<script.*?</script>|<[^>]*>", " ", text)
        self.words += text.split()

    def field_mark(self, element):
        kind = attribute(element, "fldCharType")
        if kind == "begin":
            self.fields.append({"words": "", "result": False, "form": child(element, "ffData")})
        elif kind == "separate" and self.fields:
            field = self.fields[-1]
            field["result"] = True
            words = field["words"].split()
            name = words[0].upper() if words else ""
            field["contents"] = name == "TOC" and not {"\\c", "\\a", "\\f"} & set(words)
            field["link"] = name in ("HYPERLINK", "REF", "PAGEREF", "NOTEREF") and len(words) > 1
            field["at"] = len(self.line)
            if name == "SEQ" and len(words) > 1:
                self.sequences.append(words[1])
        elif kind == "end" and self.fields:
            field = self.fields.pop()
            if field.get("link") and not self.hidden() and len(self.line) > field["at"]:
                self.counts["links"] += 1
            words = field["words"].split()
            name = words[0].upper() if words else ""
            if field["form"] is not None and not self.hidden():
                boxes = [found for found in field["form"].iter() if local(found) in ("checkBox", "ddList")]
                self.shown = self.shown or bool(boxes)
            if not field["result"] and name in ("SYMBOL", "MACROBUTTON", "EQ"):
                self.shown = True

    def count(self):
        self.root = self.package.read(self.package.main)
        body = child(self.root, "body")
        self.blocks(body if body is not None else [])
        # Endnotes stand behind all footnotes.
        apart = {"footnotes": [], "endnotes": []}
        at = 0
        while at < len(self.notes):
            note, relations = self.notes[at]
            self.relations = relations
            begin = len(self.words)
            self.blocks(note)
            apart[local(note) + "s"] += self.words[begin:]
            del self.words[begin:]
            at += 1
        self.words += apart["footnotes"] + apart["endnotes"]


class Page(html.parser.HTMLParser):
    """The words and the counts of a page's main part."""

    def __init__(self):
        super().__init__()
        self.counts = dict.fromkeys(["headings", "items", "tables", "cells", "links", "pictures", "notes"], 0)
        self.text = []
        self.skip = 0
        self.open = []
        self.in_notes = 0
        self.last_link, self.last_link_end = None, 0

    VOID = {"br", "img", "hr", "input", "col", "meta", "link", "wbr"}
    BLOCKS = {"p", "li", "td", "th", "h1", "h2", "h3", "h4", "h5", "h6", "div", "aside", "figure", "figcaption", "caption", "tr", "table", "ul", "ol", "pre", "blockquote", "section", "header", "footer", "details", "summary", "br", "rt", "dd", "dt"}

    def handle_starttag(self, tag, attributes):
        given = dict(attributes)
        if tag not in self.VOID:
            self.open.append((tag, given))
        leaves = (
            tag in ("nav", "style", "head", "math", "details")
            or given.get("role") in ("doc-noteref", "doc-backlink")
            # Where roles are not taken, marks of notes are links alone.
            or (tag == "a" and given.get("href", "").startswith(("#note-", "#endnote-")))
            or "data-label" in given
            or (tag == "a" and given.get("class") == "skip")
        )
        if leaves and tag not in self.VOID:
            self.skip += 1
            self.open[-1][1]["skips"] = True
        if given.get("role") == "doc-endnotes":
            self.in_notes = len(self.open)
        if tag in self.BLOCKS:
            self.text.append(" ")
            self.last_link = None
        if self.skip:
            if given.get("role") == "doc-noteref":
                pass
            return
        if tag in ("h1", "h2", "h3", "h4", "h5", "h6"):
            self.counts["headings"] += 1
        elif tag == "li":
            is_note = self.in_notes and len(self.open) == self.in_notes + 2
            self.counts["notes" if is_note else "items"] += 1
        elif tag == "table":
            self.counts["tables"] += 1
        elif tag in ("td", "th"):
            self.counts["cells"] += 1
        elif tag == "a" and "href" in given:
            # Where looks are kept, a tab cuts a link in two.
            if not (given["href"] == self.last_link and not "".join(self.text[self.last_link_end:]).strip()):
                self.counts["links"] += 1
            self.last_link = given["href"]
        elif tag == "img":
            self.counts["pictures"] += 1

    def handle_endtag(self, tag):
        while self.open:
            name, given = self.open.pop()
            if given.get("skips"):
                self.skip -= 1
            if self.in_notes > len(self.open):
                self.in_notes = 0
            if name == tag:
                break
        if tag == "a":
            self.last_link_end = len(self.text)
        if tag in self.BLOCKS:
            self.text.append(" ")

    def handle_data(self, data):
        if not self.skip:
            self.text.append(data)


def missing_words(wanted, text):
    """The first word that is not in the text behind the one before it."""
    at = 0
    squeezed = "".join(text.split())
    for number, word in enumerate(wanted):
        word = word.replace("\ufffc", "\0")
        for piece in word.split("\0"):
            found = squeezed.find(piece, at) if piece else at
            if found < 0:
                return f"word {number} of {len(wanted)}, “{piece}”, behind “{' '.join(wanted[max(0, number - 4):number])}”"
            at = found + len(piece)
    return None


def main():
    obblet, output, *files = sys.argv[1:]
    wrong, pages = [], 0
    for file in map(pathlib.Path, files):
        try:
            counter = Counter(Package(file))
            counter.count()
        except (zipfile.BadZipFile, KeyError, AttributeError, TypeError) as error:
            print(f"{file.name}: not counted ({error!r})")
            continue
        for house in HOUSES:
            target = pathlib.Path(output) / house / (file.stem + ".html")
            target.parent.mkdir(parents=True, exist_ok=True)
            # The page would show a title that no heading of the document says.
            quiet = ["--set", "page.show_title=false"] if house == "page" else []
            done = subprocess.run([obblet, "convert", str(file), str(target), "--house", house, *quiet], capture_output=True, text=True)
            if done.returncode != 0:
                wrong.append(f"{file.name}, house {house}: exit {done.returncode}: {done.stderr.strip()}")
                continue
            pages += 1
            text = target.read_text(encoding="utf-8")
            if house == "body":
                target.write_text(f'<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><title>x</title></head><body>{text}</body></html>', encoding="utf-8")
            page = Page()
            page.feed(text)
            words, text = counter.words, "".join(page.text)
            if house == "filing":
                # Its marks of notes are plain numbers.
                letters = lambda text: "".join(c if not c.isdigit() and c not in "[]" else " " for c in text)
                words, text = letters(" ".join(words)).split(), letters(text)
            missing = missing_words(words, text)
            if missing:
                wrong.append(f"{file.name}, house {house}: not in the output: {missing}")
            if house == "filing":
                continue
            counter.counts["pictures"] += counter.charts if house == HOUSES[0] else 0
            for what, expected in counter.counts.items():
                if page.counts[what] != expected:
                    wrong.append(f"{file.name}, house {house}: {page.counts[what]} {what}, and the XML has {expected}")
    for line in wrong:
        print(line)
    print(f"{len(files)} Word files, {pages} pages, {len(wrong)} differences")
    sys.exit(1 if wrong else 0)


main()
