#!/usr/bin/env python3
"""Writes a Markdown document of all formulas of the table of tests: formula-page.py TARGET."""

import pathlib
import sys

table = pathlib.Path("crates/obblet/tests/fixtures/formulas.txt")
lines = ["# Formulas", ""]
for line in table.read_text(encoding="utf-8").splitlines()[2:]:
    if line.startswith("# "):
        lines += ["", f"## {line[2:]}", ""]
    elif line:
        # As displays, too: sizes and limits differ there.
        lines += [f"${line}$", "", f"$${line}$$", ""]
pathlib.Path(sys.argv[1]).write_text("\n".join(lines) + "\n", encoding="utf-8")
