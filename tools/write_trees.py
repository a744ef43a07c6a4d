"""Writes the result trees of all demos anew, and those of odd designs and teeth, which a test holds. Run:
.venv/bin/python tools/write_trees.py

Look at the difference before it is committed: each line that moved is a number that somebody may rely on.
"""

import sys
from pathlib import Path

root = Path(__file__).resolve().parent.parent
sys.path[:0] = [str(root / "src"), str(root / "tests")]

from cooper.demo import DEMOS, demo  # noqa: E402
from cooper.results.evaluate import evaluate  # noqa: E402
from pins.odd_designs import odd_designs, odd_lines  # noqa: E402
from pins.odd_teeth import tree_of_teeth  # noqa: E402
from pins.tree_lines import tree_lines  # noqa: E402

trees = {name: tree_lines(evaluate(demo(name)).as_tree()) for name in DEMOS}
trees |= {"odd-designs": odd_lines(), "odd-teeth": tree_lines(tree_of_teeth(odd_designs()))}
for name, lines in trees.items():
    (root / "tests" / "pins" / "trees" / f"{name}.txt").write_text("\n".join(lines) + "\n", encoding="utf-8")
