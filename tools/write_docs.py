"""Writes the pages of docs/ that are made from the program, its data and its pins. Run: .venv/bin/python
tools/write_docs.py"""

import importlib
import json
import re
import sys
from collections.abc import Iterator
from pathlib import Path

root = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(root / "src"))

from cooper.demo import demo  # noqa: E402
from cooper.document.units import by_library, pairs_of_units  # noqa: E402
from cooper.results.evaluate import evaluate  # noqa: E402
from cooper.results.pages import pages  # noqa: E402

PINS = root / "tests" / "pins"
DATA = root / "src" / "cooper" / "stock" / "data"


def held_page() -> str:
    """docs/held.md: what holds each function of rating, running and machine, and what each data file says of its
    certainty."""
    return "\n".join(_held()) + "\n"


def _held() -> Iterator[str]:
    rows: dict[str, list[str]] = {}
    for file in sorted(PINS.glob("*.txt")):
        name = ""
        for line in file.read_text(encoding="utf-8").splitlines():
            if re.match(r"[rm]\w+\.", line):
                name = line.split()[0]
                rows[name] = []
            elif name and line.strip() and "->" in line:
                rows[name].append(line)
    derived = dict(
        line.split(maxsplit=1)
        for line in (PINS / "derived.md").read_text(encoding="utf-8").splitlines()
        if line.startswith(("r", "m"))
    )
    yield "# What holds each number"
    yield ""
    yield (
        "Made by `tools/write_docs.py` from the program, `tests/pins` and the data files. What the methods are, "
        "and what is not certain, is told in"
    )
    yield "[numbers.md](numbers.md)."
    yield ""
    yield "## Functions of rating, running and machine"
    yield ""
    yield "| function | source | rows by hand or published | derivation in a test |"
    yield "|---|---|---|---|"
    for name in sorted({*rows, *derived}):
        module, _, own = name.rpartition(".")
        words = " ".join((getattr(importlib.import_module(f"cooper.{module}"), own).__doc__ or "").split())
        result = re.findall(r"((?:ANSI/AGMA|AGMA|ISO/T[RS]|ISO|VDI|DIN|ASTM) ?[\w-]+(?::\d{4})?(?:, \d[\d.]*)?)", words)
        # The heading of the file tells the source of all in it that name none.
        heading = re.findall(
            r"((?:ANSI/AGMA|ISO/T[RS]|ISO|VDI|DIN) ?[\w-]+(?::\d{4})?)",
            " ".join((importlib.import_module(f"cooper.{module}").__doc__ or "").split()),
        )
        count = max(len(rows.get(name, [])) - 1, 0)
        source = (result or heading or ["own derivation"])[-1].rstrip(".")
        yield f"| `{name}` | {source} | {count or '–'} | {derived.get(name, '–').replace('::', ': ')} |"
    yield ""
    yield "## Data files"
    yield ""
    yield "| file | source | certainty |"
    yield "|---|---|---|"
    for file in sorted(DATA.glob("*.json")):
        data = json.loads(file.read_text(encoding="utf-8"))
        yield f"| `{file.name}` | {data['source']} | {data['certainty']} |"


def man_page() -> str:
    """packaging/cooper.1 from the commands' own help."""
    import click

    from cooper import __version__
    from cooper.cli import main

    def plain(text: str) -> str:
        return text.replace("\\", "\\e").replace("-", "\\-")

    lines = [
        f'.TH COOPER 1 "" "Cooper {__version__}" "User commands"',
        ".SH NAME",
        "cooper \\- design and check gear trains on a drawing",
    ]
    lines += [".SH SYNOPSIS", ".B cooper", "[FILE] | COMMAND ..."]
    context = click.Context(main, info_name="cooper")
    lines += [".SH DESCRIPTION", plain(" ".join((main.help or "").split())), ".SH COMMANDS"]
    for name, command in sorted(main.commands.items()):
        if command.hidden:
            continue
        own = click.Context(command, parent=context, info_name=name)
        usage = command.get_usage(own).removeprefix("Usage: ")
        lines += [".SS " + plain(usage), plain(" ".join((command.help or "").split()))]
        for parameter in command.params:
            record = parameter.get_help_record(own)
            if record is not None:
                lines += [".TP", f"\\fB{plain(record[0])}\\fR", plain(record[1]) or "\\&"]
    lines += [
        ".SH EXIT STATUS",
        "0: all holds; 1: a check is short; 2: an unusable file or call; 70: a fault of the program; 128 and "
        "more: a signal.",
    ]
    return "\n".join(lines) + "\n"


def completion() -> str:
    """packaging/cooper.bash: completion of commands and options in a shell."""
    from click.shell_completion import BashComplete

    from cooper.cli import main

    return BashComplete(main, {}, "cooper", "_COOPER_COMPLETE").source()


def handbook() -> str:
    """docs/handbook.html: the handbook as one page, with those of its pictures that stand in docs/screenshots."""
    from cooper.desk.shell.app import application
    from cooper.desk.shell.handbook_commands import verbs
    from cooper.handbook.book import as_html, book, picture_places

    application()
    whole = book(verbs())
    names = {name for page in whole.pages for name, _ in picture_places(page)}
    files = {n: f"screenshots/{n.rpartition('/')[2].replace(' ', '-')}.png" for n in names}
    return as_html(whole, {n: f for n, f in files.items() if (root / "docs" / f).exists()})


if __name__ == "__main__":
    (root / "docs" / "handbook.html").write_text(handbook(), encoding="utf-8")
    packaging = root / "packaging"
    (packaging / "cooper.1").write_text(man_page(), encoding="utf-8")
    (packaging / "cooper.bash").write_text(completion(), encoding="utf-8")
    for name, text in {**pages(evaluate(demo())), "held.md": held_page()}.items():
        (root / "docs" / name).write_text(text, encoding="utf-8")
    factors = {f"{a} -> {b}": by_library(a, b) for a, b in pairs_of_units()}
    kept = root / "src" / "cooper" / "document" / "unit_factors.json"
    kept.write_text(json.dumps(factors, indent=1) + "\n", encoding="utf-8")
