#!/usr/bin/env python3
"""Holds Obblet's checker of HTML against the Nu checker, page by page.

    validity.py OBBLET NU_JAR SNIPPETS FOLDER... [--least SHARE]

SNIPPETS is the list of pieces that the tests are about; each FOLDER holds more pages, and of each of
these a copy is broken in one way. States on how many pages both say the same, how many errors were missed,
and how many alarms were false; fails when the share of pages on which both agree is too low, or when the
list says something else than the Nu checker.
"""

import json
import pathlib
import subprocess
import sys
import tempfile

PAGE = '<!DOCTYPE html>\n<html lang="en">\n<head><meta charset="utf-8"><title>Mill</title></head>\n<body>\n{}\n</body>\n</html>\n'

# Ways to break a page that is whole; each is made at the first place where it can be.
BREAKS = [
    ("</p>", "</p></p>"),
    ("<p>", "<p align=\"center\">"),
    ("<li>", "<li><tr>"),
    ("<title>", "<title></title><title>"),
    ("<p>", "<p><div>x</div>"),
    ("<h2", "<h2 width=\"3\""),
    ("</main>", ""),
    ("<p>", "<p><img src=\"x.png\">"),
    ("<ul>", "<ul>x"),
    ("<p>", "<p><font>x</font>"),
    (" href=\"", " href=\"a b"),
    ("<!DOCTYPE html>", ""),
]


def snippets(path):
    """Each piece with what the list says of it."""
    lines = []
    for line in pathlib.Path(path).read_text(encoding="utf-8").splitlines():
        if line[:2] in ("+ ", "- ", "~ ", "! "):
            lines.append(line)
        elif lines and line and not line.startswith("#"):
            lines[-1] += "\n" + line
    return [(line[0] in "+~", line[2:]) for line in lines]


def page_of(piece):
    start = piece.lower()
    return piece if start.startswith(("<!doctype", "<html")) else PAGE.format(piece)


def nu_errors(jar, folder):
    """The pages in which the Nu checker finds an error, with its first words."""
    done = subprocess.run(
        ["java", "-jar", jar, "--format", "json", "--exit-zero-always", "--skip-non-html", str(folder)],
        capture_output=True,
        text=True,
        check=True,
    )
    found = {}
    for message in json.loads(done.stderr or done.stdout)["messages"]:
        if message["type"] == "error" or message.get("subType") == "fatal":
            name = message.get("url", "").rsplit("/", 1)[-1]
            found.setdefault(name, message["message"])
    return found


def our_errors(obblet, folder):
    done = subprocess.run(
        [obblet, "check", str(folder), "--json", "--only", "html"], capture_output=True, text=True
    )
    found = {}
    for file in json.loads(done.stdout)["files"]:
        for finding in file["findings"]:
            if finding["severity"] == "error":
                found.setdefault(pathlib.Path(file["file"]).name, finding["message"])
    return found


def main():
    arguments = sys.argv[1:]
    least = 0.97
    if "--least" in arguments:
        at = arguments.index("--least")
        least = float(arguments[at + 1])
        del arguments[at : at + 2]
    obblet, jar, list_file, *folders = arguments
    with tempfile.TemporaryDirectory() as scratch:
        scratch = pathlib.Path(scratch)
        stated = {}
        for number, (is_good, piece) in enumerate(snippets(list_file)):
            name = f"piece-{number:03}.html"
            (scratch / name).write_text(page_of(piece), encoding="utf-8")
            stated[name] = (is_good, piece)
        number = 0
        for folder in folders:
            for page in sorted(pathlib.Path(folder).rglob("*.html")):
                text = page.read_text(encoding="utf-8")
                (scratch / f"page-{number:03}.html").write_text(text, encoding="utf-8")
                before, behind = BREAKS[number % len(BREAKS)]
                if before in text:
                    text = text.replace(before, behind, 1)
                    (scratch / f"page-{number:03}-broken.html").write_text(text, encoding="utf-8")
                number += 1
        names = sorted(page.name for page in scratch.iterdir())
        nu, ours = nu_errors(jar, scratch), our_errors(obblet, scratch)
    wrong_list = [name for name, (is_good, _) in stated.items() if is_good == (name in nu)]
    missed = [name for name in names if name in nu and name not in ours]
    false = [name for name in names if name in ours and name not in nu]
    agreed = len(names) - len(missed) - len(false)
    for title, some, why in (
        ("the list is wrong", wrong_list, nu),
        ("missed", missed, nu),
        ("false alarm", false, ours),
    ):
        for name in some:
            piece = stated.get(name, (None, ""))[1]
            print(f"  {title}: {name} {piece}\n      {why.get(name, '')}")
    share = agreed / len(names)
    print(
        f"validity: {len(names)} pages ({len(nu)} with errors): both say the same of {agreed}"
        f" ({share:.1%}); {len(missed)} missed, {len(false)} false alarms"
    )
    if share < least or wrong_list:
        sys.exit(1)


main()
