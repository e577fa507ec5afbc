#!/usr/bin/env python3
"""Holds LaTeX against TeX itself: latex.py OBBLET OUTPUT SOURCE...

Each source is compiled, and every number that TeX wrote down for a label is looked up in the page that
Obblet makes of it. Each source in any format is written as LaTeX, and that compiles in both engines
without an error. Fails on any difference.
"""

import concurrent.futures
import pathlib
import re
import shutil
import subprocess
import sys

OBBLET = pathlib.Path(sys.argv[1]).resolve()
OUTPUT = pathlib.Path(sys.argv[2]).resolve()
# Pictures need not be there: a box stands for them.
DEMO = r"\PassOptionsToPackage{demo}{graphicx}\input{%s}"


def run(command, folder):
    return subprocess.run(command, cwd=folder, capture_output=True, timeout=300)


def compiled(engine, folder, name, times=1):
    """The errors of compiling a file."""
    for _ in range(times):
        job = pathlib.Path(name).stem + "-" + engine
        result = run(
            [engine, "-interaction=nonstopmode", f"-jobname={job}", DEMO % name], folder
        )
        log = result.stdout.decode("utf-8", "replace")
        errors = re.findall(r"^! .*(?:\n.*){0,3}", log, re.M)
        if errors or result.returncode:
            return [f"{name}: {engine}: {error}" for error in errors] or [f"{name}: {engine}: {log[-400:]}"]
    return []


def numbers_of_tex(aux):
    """The number of each label, as TeX wrote it down."""
    numbers = {}
    for label, number in re.findall(r"\\newlabel\{([^}]*)\}\{\{((?:[^{}]|\{[^{}]*\})*)\}", aux):
        if "@cref" not in label:
            plain = re.sub(r"\\[a-zA-Z]+ ?|[{}]", "", number)
            numbers[label] = plain.strip()
    return numbers


def check_numbers(source, folder):
    """Every label's number in the page is the one that TeX gave it."""
    text = source.read_text(encoding="utf-8")
    labels = sorted(set(re.findall(r"\\label\{([^}]*)\}|label=([a-z:]+)", text)))
    labels = [one or two for one, two in labels]
    if not labels:
        return []
    errors = compiled("pdflatex", folder, source.name, 2)
    aux = folder / f"{source.stem}-pdflatex.aux"
    if errors or not aux.exists():
        return errors or [f"{source.name}: no .aux file"]
    wanted = numbers_of_tex(aux.read_text(encoding="utf-8", errors="replace"))
    asked = "\n\n".join(r"\ref{%s}" % label for label in labels)
    probe = folder / f"{source.stem}-probe.tex"
    probe.write_text(text.replace(r"\end{document}", "\n\n" + asked + "\n\\end{document}"), encoding="utf-8")
    page = folder / f"{source.stem}-probe.html"
    run([OBBLET, "convert", probe, page], folder)
    html = page.read_text(encoding="utf-8")
    found = dict(re.findall(r'<p><a href="#([^"]*)" data-shows="number">([^<]*)</a></p>', html))
    problems = []
    for label in labels:
        number = found.get(label, "").strip()
        if label in wanted and number != wanted[label]:
            problems.append(f"{source.name}: {label} is {number!r}, in TeX {wanted[label]!r}")
    return problems


def check(source):
    source = pathlib.Path(source).absolute()
    folder = OUTPUT / re.sub(r"\W+", "-", str(source.relative_to(pathlib.Path.cwd())))
    folder.mkdir(parents=True, exist_ok=True)
    problems = []
    if source.suffix == ".tex":
        shutil.copy(source, folder)
        problems += check_numbers(folder / source.name, folder)
    written = folder / f"{source.stem}-written.tex"
    result = run([OBBLET, "convert", source, written], source.parent)
    if result.returncode:
        return problems + [f"{source}: {result.stderr.decode()}"]
    for engine in ["pdflatex", "lualatex"]:
        problems += compiled(engine, folder, written.name)
    return problems


def main():
    sources = sys.argv[3:]
    shutil.rmtree(OUTPUT, ignore_errors=True)
    with concurrent.futures.ThreadPoolExecutor(2) as pool:
        problems = [problem for found in pool.map(check, sources) for problem in found]
    for problem in problems:
        print(problem, file=sys.stderr)
    print(f"{len(sources)} sources written as LaTeX and compiled twice, {len(problems)} differences or errors")
    return 1 if problems else 0


if __name__ == "__main__":
    sys.exit(main())
