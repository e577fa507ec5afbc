#!/usr/bin/env python3
"""Holds what Obblet writes of hostile sources against a real browser: nothing may run.

    harmless.py OBBLET CHROMIUM WORK_FOLDER

Every injection of crates/obblet/tests/fixtures/injections.json goes in as Markdown, as HTML (written
as a body, a page, a page with its looks and XHTML), as LaTeX (text, code, the words of a formula, a
colour, a link, a picture), as Org (text, title, lines of its own, markup, code, cells, attributes, links) and as
the text and link of a Word file. A published folder has every one of them as the title, description, author,
topic, alternative text, id and former address of a document, as the name of a file and of a folder and as a folder's
title, so that they reach indexes, topics, feed, redirects and catalogue. The results stand in frames of one page, in
which every frame tells the page when something runs; then every link is clicked and every element gets the usual events. One frame is left as it
is and must be noticed, or the check is blind. Two parsers of other families (Python's own, and libxml2 where lxml
is installed) look at the same results for scripts, handlers and addresses that run.
"""
import csv
import html
import html.parser
import json
import pathlib
import re
import shutil
import subprocess
import sys
import xml.etree.ElementTree
import zipfile
from xml.sax.saxutils import escape, quoteattr

try:
    import lxml.html as lxml_html
except ImportError:
    lxml_html = None

obblet, chromium, work = sys.argv[1], sys.argv[2], pathlib.Path(sys.argv[3])
work.mkdir(parents=True, exist_ok=True)
fixtures = pathlib.Path(__file__).parent.parent / "crates/obblet/tests/fixtures"
injections = json.loads((fixtures / "injections.json").read_text(encoding="utf-8"))


def convert(name, source, house="body"):
    """What the command makes of a source."""
    path = work / name
    path.write_bytes(source)
    command = [obblet, "convert", str(path), "-", "--write-as", "html", "--house", house]
    ran = subprocess.run(command, capture_output=True)
    # Control characters can make a source no text, which is refused.
    if ran.returncode != 0 and b"this is a binary file" not in ran.stderr:
        sys.exit(f"{name}: {ran.stderr.decode(errors='replace')}\n{source!r}")
    return ran.stdout.decode("utf-8")


def word_file(texts, addresses):
    """A Word file with a paragraph for each text and a link for each address."""
    relations = "".join(
        f'<Relationship Id="a{n}" TargetMode="External" Target={quoteattr(address)} Type='
        '"http://schemas.openxmlformats.org/officeDocument/2006/relationships/hyperlink"/>'
        for n, address in enumerate(addresses)
    )
    allowed = lambda text: "".join(c for c in text if c >= " " or c in "\t\n")
    paragraphs = "".join(
        f'<w:p><w:r><w:t xml:space="preserve">{escape(allowed(text))}</w:t></w:r></w:p>' for text in texts
    ) + "".join(
        f'<w:p><w:hyperlink r:id="a{n}"><w:r><w:t>x</w:t></w:r></w:hyperlink></w:p>'
        for n in range(len(addresses))
    )
    office = "http://schemas.openxmlformats.org"
    path = work / "parts.docx"
    with zipfile.ZipFile(path, "w") as package:
        package.writestr(
            "[Content_Types].xml",
            f'<Types xmlns="{office}/package/2006/content-types"><Default Extension="rels" ContentType='
            '"application/vnd.openxmlformats-package.relationships+xml"/><Override PartName='
            '"/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.'
            'wordprocessingml.document.main+xml"/></Types>',
        )
        package.writestr(
            "_rels/.rels",
            f'<Relationships xmlns="{office}/package/2006/relationships"><Relationship Id="r" Type='
            f'"{office}/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/>'
            "</Relationships>",
        )
        package.writestr(
            "word/_rels/document.xml.rels",
            f'<Relationships xmlns="{office}/package/2006/relationships">{relations}</Relationships>',
        )
        package.writestr(
            "word/document.xml",
            f'<w:document xmlns:w="{office}/wordprocessingml/2006/main" xmlns:r='
            f'"{office}/officeDocument/2006/relationships"><w:body>{paragraphs}</w:body></w:document>',
        )
    return path.read_bytes()


def published():
    """The pages of a folder in which whatever names something is an injection."""
    source, web, catalogue = work / "folder", work / "web", work / "catalogue.csv"
    for folder in (source, web):
        shutil.rmtree(folder, ignore_errors=True)
    (source / "news").mkdir(parents=True)
    (source / "obblet.toml").write_text('[web]\naddress = "https://mill.example/"\n', encoding="utf-8")
    (source / "news/obblet.toml").write_text("dated = true\n", encoding="utf-8")
    for number, vector in enumerate(injections["markup"] + injections["addresses"]):
        flat = "".join(c for c in vector if c.isprintable())
        fields = {
            "title": flat, "description": flat, "author": [flat], "keywords": [flat, f"{flat} {number}"],
            "date": "2026-12-01", "formerly": [f"{flat}.html", f"old/{number}{flat}.html"],
        }
        lines = "".join(f"{key}: {json.dumps(value)}\n" for key, value in fields.items())
        text = f"---\n{lines}---\n# {flat}\n\n![{flat}](x.png)\n\n## {flat} {{#{flat}}}\n"
        (source / f"news/{number}.md").write_text(text, encoding="utf-8")
        name = flat.replace("/", "\u2215")[:60]
        if name.strip(". "):
            inside = source / f"{name} f"
            inside.mkdir(exist_ok=True)
            (inside / "obblet.toml").write_text(f"title = {json.dumps(flat)}\n", encoding="utf-8")
            (inside / f"{name}.md").write_text("# Weir\n\nHigh water.\n", encoding="utf-8")
    command = [obblet, "publish", str(source), str(web), "--catalogue", str(catalogue)]
    ran = subprocess.run(command, capture_output=True)
    if ran.returncode not in (0, 1):
        sys.exit(f"publish: {ran.stderr.decode(errors='replace')[-2000:]}")
    for file in web.rglob("*.xml"):
        xml.etree.ElementTree.parse(file)
    with open(catalogue, encoding="utf-8", newline="") as rows:
        for cell in (cell for row in csv.reader(rows) for cell in row):
            if cell.startswith(("=", "+", "-", "@", "\t", "\r")):
                sys.exit(f"catalogue: a table would take this for a formula: {cell!r}")
    pages = sorted(web.rglob("*.html"))
    if len(pages) < 3 * len(injections["markup"]):
        sys.exit(f"publish: only {len(pages)} pages")
    # What the index of a folder says, its page says too.
    pages = [page for page in pages if page.name != "index.html" or page.parent in (web, web / "news")]
    return [(f"published {page.relative_to(web)}", page.read_text(encoding="utf-8")) for page in pages]


ADDRESSES = {
    "href", "xlink:href", "src", "srcset", "action", "formaction", "data", "poster", "background", "cite", "ping",
}


def runs(tag, attributes):
    """What of a tag could run."""
    is_search = re.fullmatch(r"(\.\./)*search\.js", attributes.get("src") or "")
    if tag in ("iframe", "object", "embed", "applet") or tag == "script" and not is_search:
        yield tag
    for name, value in attributes.items():
        is_address = name in ADDRESSES or name == "content" and "http-equiv" in attributes
        bare = "".join(c for c in value or "" if c > " ").lower()
        address_runs = is_address and re.search(r"(^|^\d*;url=|,)(javascript:|vbscript:|data:text/html)", bare)
        if name.startswith("on") or name == "srcdoc" or address_runs:
            yield f"{tag} {name}={value}"


class Tags(html.parser.HTMLParser):
    """What could run of the tags that Python's parser sees. No browser has its rules, which is why it is asked."""

    def __init__(self, text):
        super().__init__()
        self.found = []
        self.feed(text)
        self.close()

    def handle_starttag(self, tag, attributes):
        self.found += runs(tag, dict(attributes))


def seen_by_others(text):
    """What parsers of other families see in a page that could run."""
    found = Tags(text).found
    if lxml_html is not None and text.strip():
        parser = lxml_html.HTMLParser(encoding="utf-8", huge_tree=True)
        elements = lxml_html.document_fromstring(text.encode(), parser=parser).iter()
        for element in elements:
            found += runs(element.tag, dict(element.items())) if isinstance(element.tag, str) else []
    return found


frames = published()
for number, vector in enumerate(injections["markup"]):
    source = vector.encode("utf-8")
    frames.append((f"markdown {vector}", convert("v.md", b"Text " + source + b" more.\n\n" + source + b"\n")))
    frames.append((f"html {vector}", convert("v.html", source)))
    frames.append((f"page {vector}", convert("p.html", b"<body>" + source, "page")))
    frames.append((f"looks {vector}", convert("s.html", b"<body>" + source, "looks")))
    frames.append((f"ebook {vector}", convert("e.html", b"<body>" + source, "ebook")))
    typed = vector.replace("\\", "").replace("%", "")
    latex = f"Text {typed} more.\n\n\\begin{{verbatim}}\n{vector}\n\\end{{verbatim}}\n\n$\\text{{{typed}}}$\n"
    frames.append((f"latex {vector}", convert("v.tex", latex.encode())))
    colour = "$\\textcolor[HTML]{" + typed + "}{x}\\label{" + typed + "}$ \\foreignlanguage{" + typed + "}{x}"
    frames.append((f"latex colour {vector}", convert("c.tex", colour.encode(), "looks")))
    flat = vector.replace("\n", " ")
    org = (
        f"#+TITLE: {flat}\n#+HTML_HEAD: {flat}\n#+MACRO: m {flat}\n* Text {flat}\n"
        f"Text {flat} more @@html:{flat}@@ {{{{{{m}}}}}}.\n\n#+HTML: {flat}\n\n"
        f"#+begin_export html\n{vector}\n#+end_export\n#+begin_src {flat}\n{vector}\n#+end_src\n"
        f"| {flat} |\n\n#+ATTR_HTML: :class {flat} :title {flat} :onclick alert(1)\nx[fn:: {flat}]\n"
    )
    frames.append((f"org {vector}", convert("v.org", org.encode())))
    frames.append((f"org page {vector}", convert("p.org", org.encode(), "page")))
    text = (
        f"Title: {flat}\nAuthor: {flat}\n\nCHAPTER ONE\n{flat}\n\nText {vector} _{flat}_ *{flat}*\n\n"
        f"- {flat}\n- {flat}\n\n> {flat}\n\n{flat} | {flat}\n----|----\nx | {flat}\n"
    )
    topic = f"NAME\n    {flat} - {flat}\n\nSYNOPSIS\n    {vector}\n\nPARAMETERS\n    {flat}  {flat}\n"
    for kind, source in (("text", text), ("topic", topic)):
        frames.append((f"{kind} {vector}", convert("v.txt", source.encode())))
        frames.append((f"{kind} page {vector}", convert("p.txt", source.encode(), "page")))
for address in injections["addresses"]:
    frames.append((f"text link {address}", convert("l.txt", f"See {address} and <{address}>.\n".encode())))
    link = "\\href{" + address + "}{x} \\url{" + address + "} \\includegraphics{" + address + "}"
    frames.append((f"latex link {address}", convert("l.tex", link.encode())))
    link = f"[[{address}][x]] [[{address}]] <{address}> [[file:{address}]] [[{address}.png]] @@html:<a href='{address}'>x</a>@@"
    frames.append((f"org link {address}", convert("l.org", link.encode())))
    frames.append((f"link {address}", convert("l.md", f"[x](<{address}>) ![x](<{address}>)\n".encode())))
    anchor = f'<a href="{html.escape(address)}">x</a>'
    frames.append((f"html link {address}", convert("l.html", anchor.encode())))
word = word_file(injections["markup"], injections["addresses"] + ["javascript:alert(2)"])
frames.append(("word", convert("v.docx", word)))
# What is the same does the same.
frames = list({text: (name, text) for name, text in reversed(frames)}.values())[::-1]
CONTROLS = [
    ("control: a script", "<script>alert(1)</script>"),
    ("control: an event", "<p onmouseover='alert(1)'>x</p>"),
    ("control: a link", "<a href='javascript:alert(1)'>x</a>"),
]
suspects = [(name, found) for name, text in frames if (found := seen_by_others(text))]
for name, found in suspects:
    print(f"harmless: another parser sees {found[0]}: {name}", file=sys.stderr)
blind = [name for name, text in CONTROLS if not seen_by_others(text)]
if blind:
    sys.exit(f"harmless: the other parsers are blind to {blind}")
# More frames in one page take a browser longer than it is given.
MOST_FRAMES = 200

HOOK = """<script>for (const name of ["alert", "confirm", "prompt", "print", "eval"])
  window[name] = () => parent.postMessage(NUMBER, "*");</script>"""
PAGE = """<!DOCTYPE html><meta charset="utf-8"><title>waiting</title><body><script>
const sources = SOURCES;
const ran = new Set();
const loaded = new Set();
let isOver = false;
function finish() {
  if (isOver) return;
  isOver = true;
  document.body.textContent = "RAN " + JSON.stringify([...ran].sort((a, b) => a - b)) + " END";
}
addEventListener("message", event => ran.add(event.data));
const events = ["click", "mouseover", "mouseenter", "pointerover", "focus", "toggle", "beforetoggle",
  "scroll", "load", "error", "start", "begin", "close", "auxclick"];
function poke(frame) {
  const inside = frame.contentDocument;
  if (!inside) return;
  for (const element of inside.querySelectorAll("*")) {
    if (element.localName === "script") continue;
    for (const name of events) {
      // A link that leads away would take the frame with it.
      const address = element.getAttribute("href") || "";
      if (name === "click" && element.localName === "a" && !/^\\s*\\w*script:/i.test(element.href)) continue;
      try { element.dispatchEvent(new Event(name, {bubbles: true, cancelable: true})); } catch (_) {}
    }
    if (element.localName === "a" && /script:/i.test(element.href)) element.click();
  }
}
const frames = sources.map((source, number) => {
  const frame = document.createElement("iframe");
  frame.srcdoc = source;
  frame.onload = () => {
    poke(frame);
    loaded.add(number);
    // What runs late still has its time.
    if (loaded.size === sources.length) setTimeout(finish, 5000);
  };
  document.body.append(frame);
  return frame;
});
setTimeout(finish, 100000);
</script>"""


def ran_in_browser(frames):
    """The names of the frames in which something ran."""
    sources = [HOOK.replace("NUMBER", str(number)) + text for number, (_, text) in enumerate(frames)]
    page = work / "frames.html"
    page.write_text(PAGE.replace("SOURCES", json.dumps(sources).replace("</", "<\\/")), encoding="utf-8")
    command = [
        chromium, "--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
        "--disable-background-networking", "--disable-component-update", "--disable-sync",
        f"--user-data-dir={work / 'profile'}", "--virtual-time-budget=120000", "--dump-dom", page.resolve().as_uri(),
    ]
    done = subprocess.run(command, capture_output=True, timeout=300, check=False)
    seen = done.stdout.decode("utf-8", "replace")
    if "RAN [" not in seen:
        sys.exit(f"harmless: the browser did not finish: {seen[:500]}")
    return {frames[number][0] for number in json.loads(seen.split("RAN ", 1)[1].split(" END", 1)[0])}


def ran_of(frames):
    """The same of any number of frames; each page of frames has the controls as well."""
    found = set()
    for start in range(0, len(frames), MOST_FRAMES):
        ran = ran_in_browser(frames[start : start + MOST_FRAMES] + CONTROLS)
        missed = [name for name, _ in CONTROLS if name not in ran]
        if missed:
            sys.exit(f"harmless: the check is blind to {missed}")
        found |= ran - {name for name, _ in CONTROLS}
    return found


def together(frames):
    """Pages by themselves, and pieces of HTML ten in a frame: what a frame costs, it costs empty."""
    pieces = [(name, text) for name, text in frames if not text.startswith(("<!DOCTYPE", "<?xml"))]
    tens = [pieces[start : start + 10] for start in range(0, len(pieces), 10)]
    groups = {f"pieces from {ten[0][0]}": ten for ten in tens}
    alone = [frame for frame in frames if frame not in set(pieces)]
    return alone + [(name, "\n<hr>\n".join(text for _, text in ten)) for name, ten in groups.items()], groups


# An old address leads away at once: the other parsers have seen these pages.
shown, groups = together([frame for frame in frames if 'http-equiv="refresh"' not in frame[1]])
harmful = ran_of(shown)
harmful |= ran_of([frame for name in sorted(harmful & groups.keys()) for frame in groups[name]])
for name in sorted(harmful):
    print(f"harmless: this ran: {name}", file=sys.stderr)
parsers = 2 if lxml_html is not None else 1
print(f"{len(frames)} results in {len(shown)} frames of a browser, {len(harmful)} of them ran something; {parsers} other parsers see "
      f"something that could run in {len(suspects)}")
sys.exit(1 if harmful or suspects else 0)
