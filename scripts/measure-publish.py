#!/usr/bin/env python3
"""Publishes 10,000 made-up documents of all formats in 400 folders, and states what that costs as ratios
of one run's times:

    python3 scripts/measure-publish.py OBBLET FOLDER [COUNT]

One worker and two; a second run with nothing changed, and whether it wrote anything; one changed layout;
the most memory. The numbers for docs/performance.md come from here.
"""

import os
import random
import resource
import subprocess
import sys
import zipfile

WORDS = """tide mill wheel sluice gate pond ebb flood timber oak iron float spindle stone grain flour
miller causeway estuary mud reed heron moon water power head race apron hatch shaft bearing grease rope
pulley hoist sack chute hopper dresser harp furrow land crane paddle trust warden volunteer visitor key
ladder stair beam pier pile weir shutter bell rota ledger repair season spring autumn""".split()
NS = "http://schemas.openxmlformats.org/wordprocessingml/2006/main"
TYPES = """<?xml version="1.0" encoding="UTF-8"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>"""
RELS = """<?xml version="1.0" encoding="UTF-8"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>"""
ENDINGS = ["md", "md", "md", "md", "org", "org", "tex", "docx", "docx", "html"]


def sentence(chance):
    words = [chance.choice(WORDS) for _ in range(chance.randint(6, 18))]
    return " ".join(words).capitalize() + "."


def paragraph(chance):
    return " ".join(sentence(chance) for _ in range(chance.randint(3, 8)))


def word_file(path, title, parts):
    def run(text, style=""):
        properties = f'<w:pPr><w:outlineLvl w:val="{style}"/></w:pPr>' if style else ""
        return f'<w:p>{properties}<w:r><w:t xml:space="preserve">{text}</w:t></w:r></w:p>'

    body = run(title, "0") + "".join(run(head, "1") + "".join(map(run, texts)) for head, texts in parts)
    xml = f'<?xml version="1.0" encoding="UTF-8"?><w:document xmlns:w="{NS}"><w:body>{body}</w:body></w:document>'
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as file:
        file.writestr("[Content_Types].xml", TYPES)
        file.writestr("_rels/.rels", RELS)
        file.writestr("word/document.xml", xml)


def write(path, ending, number, link, chance):
    title = f"Report {number}"
    parts = [(sentence(chance)[:40], [paragraph(chance) for _ in range(chance.randint(1, 4))])
             for _ in range(chance.randint(2, 6))]
    if ending == "docx":
        word_file(path, title, parts)
        return
    texts = {
        "md": lambda: f"---\nkeywords: [{chance.choice(WORDS)}]\ndescription: {sentence(chance)}\n---\n# {title}\n\n"
        + f"See [the next]({link}).\n\n"
        + "".join(f"## {head}\n\n" + "\n\n".join(body) + "\n\n| Day | Tide |\n|---|---|\n| 1 | 12:30 |\n\n" for head, body in parts),
        "org": lambda: f"#+TITLE: {title}\n\nSee [[file:{link}][the next]].\n\n"
        + "".join(f"* {head}\n" + "\n\n".join(body) + "\n\n- one\n- two\n\n" for head, body in parts),
        "tex": lambda: "\\documentclass{article}\\title{" + title + "}\\begin{document}\\maketitle\n"
        + "".join("\\section{" + head + "}\n" + "\n\n".join(body) + "\n\\begin{equation}P=\\rho g Q h\\end{equation}\n" for head, body in parts)
        + "\\end{document}\n",
        "html": lambda: f"<!DOCTYPE html><html lang=en><title>{title}</title><h1>{title}</h1><p>See <a href='{link}'>the next</a>.</p>"
        + "".join(f"<h2>{head}</h2>" + "".join(f"<p style='margin:0'>{text}</p>" for text in body) for head, body in parts),
    }
    with open(path, "w", encoding="utf-8") as file:
        file.write(texts[ending]())


def generate(folder, count, folders):
    chance = random.Random(1784)
    names = [f"{n % folders // 20:02}/{n % folders % 20:02}/r{n}.{ENDINGS[n // folders % len(ENDINGS)]}" for n in range(count)]
    for number, name in enumerate(names):
        path = os.path.join(folder, name)
        os.makedirs(os.path.dirname(path), exist_ok=True)
        link = "../../" + names[(number + 1) % count]
        write(path, name.rsplit(".", 1)[1], number, link, chance)
    inner = os.path.join(folder, "00", "01")
    with open(os.path.join(inner, "obblet.toml"), "w", encoding="utf-8") as file:
        file.write('layout = "own.html"\nskip = ["own.html"]\n')
    own_layout(folder, "")
    return sum(os.path.getsize(os.path.join(folder, name)) for name in names)


def own_layout(folder, words):
    with open(os.path.join(folder, "00", "01", "own.html"), "w", encoding="utf-8") as file:
        file.write('<!DOCTYPE html><html lang="en">{% include "obblet/head" %}<body>' + words + '{% include "obblet/text" %}</body></html>\n')


def publish(obblet, folder, output, *options):
    command = [obblet, "publish", folder, output, "--formats", "markdown,word,latex,org,html", *options]
    before = resource.getrusage(resource.RUSAGE_CHILDREN)
    done = subprocess.run(["/usr/bin/env", "python3", "-c", PEAK, *command], capture_output=True, text=True, check=False)
    after = resource.getrusage(resource.RUSAGE_CHILDREN)
    head, _, measured = done.stdout.rpartition("\npeak ")
    if done.returncode:
        sys.exit(f"{command}: {done.returncode}\n{done.stderr[-2000:]}")
    counts = {words[1]: int(words[0]) for words in map(str.split, head.splitlines()) if len(words) == 2 and words[0].isdigit()}
    peak, took = measured.split()
    cpu = after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime
    return float(took), cpu, int(peak) / 1024, counts


# The most memory of a child is known by who waits for it alone.
PEAK = """
import resource, subprocess, sys, time
begun = time.monotonic()
done = subprocess.run(sys.argv[1:], stdout=subprocess.PIPE)
took = time.monotonic() - begun
sys.stdout.buffer.write(done.stdout)
sys.stdout.flush()
print("\\npeak", resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss, took)
sys.exit(done.returncode)
"""


def state(output):
    found = {}
    for path, _, names in os.walk(output):
        for name in names:
            whole = os.path.join(path, name)
            facts = os.stat(whole)
            found[whole] = (facts.st_ino, facts.st_mtime_ns)
    return found


def main():
    obblet, scratch = sys.argv[1:3]
    count = int(sys.argv[3]) if len(sys.argv) > 3 else 10_000
    # A disk is slow where much was taken away a moment ago: always a new folder.
    if os.path.exists(scratch):
        sys.exit(f"{scratch} is there already; choose another folder")
    folder = os.path.join(scratch, "texts")
    size = generate(folder, count, min(400, count))
    print(f"{count} documents, {size / 1e6:.1f} MB")
    # The best of three runs each, in turn: other work on the machine only ever adds.
    times = {}
    for turn, jobs in enumerate((1, 2) * 3):
        # Each into a folder of its own: a disk is slow where much was just taken away.
        output = os.path.join(scratch, f"web{turn}")
        took, cpu, peak, counts = publish(obblet, folder, output, "--jobs", str(jobs))
        assert "failed" not in counts, counts
        times[jobs] = min(times.get(jobs, 1e9), took)
        print(f"{jobs} workers: {took:.2f} s ({cpu:.2f} s of processor), peak {peak:.0f} MB, {counts['converted']} converted, {counts['made']} made")
    print(f"two workers' throughput: {times[1] / times[2]:.2f} times one's")
    before = state(output)
    second = min(publish(obblet, folder, output)[0] for _ in range(5))
    took, _, peak, counts = publish(obblet, folder, output)
    assert set(counts) <= {"unchanged", "skipped"}, counts
    print(f"nothing changed: {min(second, took):.3f} s, {100 * min(second, took) / times[2]:.1f} % of the first run, peak {peak:.0f} MB, wrote {'nothing' if state(output) == before else 'SOMETHING'}")
    own_layout(folder, "<p>Changed</p>")
    took, _, _, counts = publish(obblet, folder, output)
    changed = {path for path, facts in state(output).items() if before.get(path) != facts}
    outside = [path for path in changed if os.sep + os.path.join("00", "01") + os.sep not in path and ".obblet" not in path]
    print(f"one layout changed: {took:.2f} s, {counts['converted']} converted, {len(outside)} files elsewhere written")


if __name__ == "__main__":
    main()
