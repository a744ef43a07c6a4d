"""Writes the result trees of all demos anew, which a test holds. Run: .venv/bin/python tools/write_trees.py

Look at the difference before it is committed: each line that moved is a number that somebody may rely on.
"""

import sys
from pathlib import Path

root = Path(__file__).resolve().parent.parent
sys.path[:0] = [str(root / "src"), str(root / "tests")]

from cooper.demo import DEMOS, demo  # noqa: E402
from cooper.results.evaluate import evaluate  # noqa: E402
from pins.tree_lines import tree_lines  # noqa: E402

for name in DEMOS:
    lines = tree_lines(evaluate(demo(name)).as_tree())
    (root / "tests" / "pins" / "trees" / f"{name}.txt").write_text("\n".join(lines) + "\n", encoding="utf-8")
