#!/usr/bin/env python3
"""Lists every element name in Word files that the reader neither reads nor reports.

    word_elements.py OBBLET FOLDER FILE...

Each name is changed to one that nobody knows, wherever it stands in the parts with text of one file.
An element that is read, or is known to say nothing, makes a difference then: the output is another, or
a finding tells of the unknown name. Where neither happens, nobody looks at the element at all.
"""

import collections
import pathlib
import re
import subprocess
import sys
import zipfile

PARTS = re.compile(r"(document|footnotes|endnotes|comments|styles|numbering)\d*\.xml$", re.IGNORECASE)
NAMES = re.compile(r"<([A-Za-z][\w.-]*:[A-Za-z][\w.-]*)")


def outcome(obblet, file, folder):
    target, ledger = folder / "page.html", folder / "ledger.json"
    for old in (target, ledger):
        old.unlink(missing_ok=True)
    command = [obblet, "convert", str(file), str(target), "--house", "looks", "--set", "review.comments=true", "--ledger", str(ledger)]
    done = subprocess.run(command, capture_output=True, text=True)
    return done.returncode, target.read_text(encoding="utf-8") if target.exists() else "", ledger.read_text(encoding="utf-8") if ledger.exists() else ""


def main():
    obblet, folder, *files = sys.argv[1:]
    folder = pathlib.Path(folder)
    folder.mkdir(parents=True, exist_ok=True)
    where = collections.OrderedDict()
    texts = {}
    for file in files:
        try:
            archive = zipfile.ZipFile(file)
        except zipfile.BadZipFile:
            continue
        parts = {name: archive.read(name) for name in archive.namelist()}
        texts[file] = parts
        for name, data in parts.items():
            if PARTS.search(name):
                for element in set(NAMES.findall(data.decode("utf-8", "replace"))):
                    # A prefix may be bound otherwise in another file; the name is tried in up to three.
                    where.setdefault(element, []).append((file, name))
    before = {}
    silent = []
    for element, places in sorted(where.items()):
        for file, part in places[:3]:
            if file not in before:
                (folder / "sample.docx").write_bytes(pathlib.Path(file).read_bytes())
                before[file] = outcome(obblet, folder / "sample.docx", folder)
            changed = folder / "sample.docx"
            renamed = re.sub(rb"(</?)" + element.encode() + rb"(?=[\s/>])", rb"\g<1>" + element.encode() + rb"Unheard", texts[file][part])
            with zipfile.ZipFile(changed, "w", zipfile.ZIP_DEFLATED) as archive:
                for name, data in texts[file].items():
                    archive.writestr(name, renamed if name == part else data)
            if outcome(obblet, changed, folder) != before[file]:
                break
        else:
            silent.append((element, places[0]))
    for element, (file, part) in silent:
        print(f"{element}: neither read nor reported, as in {pathlib.Path(file).name}, {part}")
    print(f"{len(where)} element names, {len(silent)} neither read nor reported")
    sys.exit(1 if silent else 0)


main()
