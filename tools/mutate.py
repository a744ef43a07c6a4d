"""Alters the numbers' code in one small place at a time and sees whether a test notices: a mutation job.

Run: .venv/bin/python tools/mutate.py [--sample 200] [--seed 1] [--jobs 2] [--folders gears rating] [--report FILE]

Altered are constants (by 5 %; not what only guards against nothing), operators (+ and -, * and /) and comparisons
(turned round) in gears, rating, running, machine, field and trains, each in a copy of the tree. Alive is what neither
the pins and result trees nor the tests of its own folder notice. Not part of ./check, as it takes half an hour.
"""

from __future__ import annotations

import argparse
import ast
import os
import random
import shutil
import subprocess
import tempfile
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from queue import Queue

ROOT = Path(__file__).resolve().parent.parent
FOLDERS = ("gears", "rating", "running", "machine", "field", "trains")
SWAP = {ast.Add: ("+", "-"), ast.Sub: ("-", "+"), ast.Mult: ("*", "/"), ast.Div: ("/", "*")}
TURN = {
    ast.Lt: ("<", ">="),
    ast.LtE: ("<=", ">"),
    ast.Gt: (">", "<="),
    ast.GtE: (">=", "<"),
    ast.Eq: ("==", "!="),
    ast.NotEq: ("!=", "=="),
}
LONGEST = 600
"""Seconds after which a test run counts as one that noticed: the change made it hang."""
GUARD = 1e-5
"""Constants up to this size keep a division or a comparison from nothing; 5 % of them is no change of a number."""


@dataclass(frozen=True)
class Mutant:
    """One change of a file as it was at the start: bytes ``start`` to ``end`` of its ``source`` replaced by
    ``text``."""

    file: Path
    source: bytes
    line: int
    start: int
    end: int
    text: str
    what: str


def mutants(file: Path) -> list[Mutant]:
    """Every change of a file that is made."""
    source = file.read_text(encoding="utf-8")
    starts = [0]
    for line in source.splitlines(keepends=True):
        starts.append(starts[-1] + len(line.encode()))
    raw = source.encode()
    result: list[Mutant] = []

    def at(line: int, column: int) -> int:
        return starts[line - 1] + column

    def add(node: ast.AST, start: int, end: int, text: str) -> None:
        old = raw[start:end].decode()
        result.append(Mutant(file, raw, node.lineno, start, end, text, f"{old.strip()} -> {text.strip()}"))  # type: ignore[attr-defined]

    annotations = {
        id(n) for node in ast.walk(ast.parse(source)) for n in ast.walk(getattr(node, "annotation", None) or ast.Pass())
    }
    for node in ast.walk(ast.parse(source)):
        if id(node) in annotations:
            continue
        if isinstance(node, ast.Constant) and type(node.value) in (int, float) and abs(node.value) > GUARD:
            assert node.end_lineno is not None and node.end_col_offset is not None
            add(
                node,
                at(node.lineno, node.col_offset),
                at(node.end_lineno, node.end_col_offset),
                repr(node.value * 1.05),
            )
        pairs = []
        if isinstance(node, ast.BinOp) and type(node.op) in SWAP:
            pairs = [(node.left, node.right, SWAP[type(node.op)])]
        elif isinstance(node, ast.Compare) and len(node.ops) == 1 and type(node.ops[0]) in TURN:
            pairs = [(node.left, node.comparators[0], TURN[type(node.ops[0])])]
        for left, right, (old, new) in pairs:
            assert left.end_lineno is not None and left.end_col_offset is not None
            low, high = at(left.end_lineno, left.end_col_offset), at(right.lineno, right.col_offset)
            between = raw[low:high].decode()
            if between.count(old) == 1 and "#" not in between:
                place = low + between.index(old)
                add(node, place, place + len(old), new)
    return result


def notices(tree: Path, m: Mutant, whole: bool) -> str:
    """Which run of tests notices a mutant in a copy of the tree; empty when none does."""
    inside = m.file.relative_to(ROOT)
    copy = tree / inside
    raw = m.source
    copy.write_bytes(raw[: m.start] + m.text.encode() + raw[m.end :])
    area = inside.parts[2]
    runs = [
        ("pins and trees", [str(inside), "tests/pins"]),
        ("own tests", [f"tests/{area}"]),
    ]
    if whole:
        runs.append(
            (
                "other tests",
                [f"tests/{k}" for k in (*FOLDERS, "document", "results", "editing", "exchange", "stock") if k != area],
            )
        )
    env = os.environ | {
        "PYTHONDONTWRITEBYTECODE": "1",
        "QT_QPA_PLATFORM": "offscreen",
        "OMP_NUM_THREADS": "1",
        "OPENBLAS_NUM_THREADS": "1",
    }
    try:
        for name, what in runs:
            done = subprocess.run(
                [str(ROOT / ".venv/bin/python"), "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", *what],
                cwd=tree,
                env=env,
                capture_output=True,
                timeout=LONGEST,
            )
            if done.returncode != 0:
                return name
    except subprocess.TimeoutExpired:
        return "time"
    finally:
        copy.write_bytes(raw)
    return ""


def main() -> None:
    at = argparse.ArgumentParser(description="mutation job")
    at.add_argument("--sample", type=int, default=200)
    at.add_argument("--seed", type=int, default=1)
    at.add_argument("--jobs", type=int, default=2)
    at.add_argument("--folders", nargs="+", choices=FOLDERS, default=FOLDERS)
    at.add_argument("--whole", action="store_true", help="ask the tests of the other folders too; takes twice as long")
    at.add_argument("--report", type=Path, default=Path("mutation-report.txt"))
    given = at.parse_args()
    files = sorted(f for k in given.folders for f in (ROOT / "src/cooper" / k).rglob("*.py"))
    every = [m for f in files for m in mutants(f)]
    sample = random.Random(given.seed).sample(every, min(given.sample, len(every)))
    print(f"{len(every)} mutants in {len(files)} files; {len(sample)} at random", flush=True)
    trees: Queue[Path] = Queue()
    with tempfile.TemporaryDirectory() as folder:
        for n in range(given.jobs):
            tree = Path(folder) / str(n)
            shutil.copytree(ROOT, tree, ignore=shutil.ignore_patterns(".venv", ".git", "__pycache__", ".*_cache"))
            trees.put(tree)
        results: list[tuple[Mutant, str]] = []

        def one(m: Mutant) -> None:
            tree = trees.get()
            try:
                results.append((m, notices(tree, m, given.whole)))
            finally:
                trees.put(tree)
            # Written as it goes, so that a job that is stopped has told what it found.
            given.report.write_text(report(list(results), len(every), given.seed), encoding="utf-8")

        with ThreadPoolExecutor(given.jobs) as pool:
            list(pool.map(one, sample))
    print(report(results, len(every), given.seed))


def report(results: list[tuple[Mutant, str]], of: int, seed: int) -> str:
    """How many mutants were noticed, by what, and which were not."""
    alive = sorted(((m.file.relative_to(ROOT), m.line, m.what) for m, by in results if not by), key=str)
    by = Counter(b for _, b in results if b)
    return "\n".join(
        (
            f"{len(results)} of {of} mutants (seed {seed}): {len(results) - len(alive)} noticed "
            f"({100 * (1 - len(alive) / len(results)):.1f} %), by {dict(by)}",
            "",
            "Alive:",
            *(f"  {f}:{line}  {what}" for f, line, what in alive),
            "",
        )
    )


if __name__ == "__main__":
    main()
