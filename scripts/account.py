#!/usr/bin/env python3
"""Runs documents through every format; see scripts/account."""

import concurrent.futures
import json
import pathlib
import subprocess
import sys
import tempfile

TARGETS = {"html": "html", "markdown": "md", "word": "docx", "latex": "tex", "org": "org", "text": "txt"}
HERE = pathlib.Path(__file__).parent


def documents(folder, kind):
    """The documents of a format."""
    mains = folder / kind / "MAINS"
    if mains.is_file():
        return [folder / kind / line for line in mains.read_text().split() if "/" in line]
    return sorted(path for path in (folder / kind).iterdir() if path.is_file())


def converted(command, kind, source, to, work):
    """What one conversion says: its account, or why there is none."""
    target = work / f"{to}-{abs(hash(source))}.{TARGETS[to]}"
    ledger = target.with_suffix(".json")
    arguments = [command, "convert", source, target, "--read-as", kind, "--ledger", ledger]
    arguments += ["--pictures", work / "pictures"]
    run = subprocess.run(arguments, capture_output=True, check=False, timeout=600)
    if not ledger.is_file():
        return {"refused": run.stderr.decode(errors="replace").strip()[-200:]}, target
    return json.loads(ledger.read_text())["files"][0]["account"], target


def outside(kind, source, page, work):
    """The recall of an outside count, or None where it cannot count."""
    arguments = [sys.executable, HERE / "outside-count.py", kind, source, page]
    if kind == "latex":
        pdf = printed(source, work)
        if pdf is None:
            return None
        arguments.append(pdf)
    run = subprocess.run(arguments, capture_output=True, text=True, check=False)
    return float(run.stdout.split("\t")[0]) if run.returncode == 0 else None


def printed(source, work):
    """The PDF that TeX makes of a document, or None."""
    out = work / f"pdf-{abs(hash(source))}"
    out.mkdir(exist_ok=True)
    command = ["pdflatex", "-interaction=nonstopmode", f"-output-directory={out}", source.name]
    try:
        for _ in range(2):
            subprocess.run(command, cwd=source.parent, capture_output=True, check=False, timeout=120)
    except (FileNotFoundError, subprocess.TimeoutExpired):
        return None
    pdf = out / f"{source.stem}.pdf"
    return pdf if pdf.is_file() else None


def of_kind(command, folder, kind, work):
    """Runs all documents of a format; gives how many failed."""
    failures, recalls = 0, []
    for to in TARGETS:
        def one(source, to=to):
            account, target = converted(command, kind, source, to, work)
            recall = outside(kind, source, target, work) if to == "html" and "refused" not in account else None
            target.unlink(missing_ok=True)
            return source, account, recall

        with concurrent.futures.ThreadPoolExecutor() as pool:
            results = list(pool.map(one, documents(folder, kind)))
        refused = [(source, account) for source, account, _ in results if "refused" in account]
        open_words = [(source, account["unaccounted"]) for source, account, _ in results if account.get("unaccounted")]
        words = sum(account.get("source", 0) for _, account, _ in results)
        missing = sum(count for _, count in open_words)
        print(f"{kind} to {to}: {len(results)} documents, {words:,} words, {missing:,} unaccounted "
              f"in {len(open_words)}, {len(refused)} refused")
        for source, account in refused:
            print(f"  refused {source.name}: {account['refused']}")
        for source, count in sorted(open_words, key=lambda row: -row[1])[:5]:
            print(f"  {count:,} words of {source.name}")
        recalls += [recall for _, _, recall in results if recall is not None]
        failures += len(refused) + len(open_words)
    if recalls:
        recalls.sort()
        print(f"{kind}: outside recall, lowest {recalls[0]:.4f}, median {recalls[len(recalls) // 2]:.4f}")
    return failures


def main():
    command, folder = sys.argv[1], pathlib.Path(sys.argv[2])
    kinds = sys.argv[3:] or [kind for kind in TARGETS if (folder / kind).is_dir()]
    with tempfile.TemporaryDirectory() as work:
        failures = sum(of_kind(command, folder, kind, pathlib.Path(work)) for kind in kinds)
    sys.exit(1 if failures else 0)


main()
