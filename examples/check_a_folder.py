"""Checks every design of a folder and lists the verdict with the worst check. Run: python examples/check_a_folder.py
[FOLDER]"""

import sys
from pathlib import Path

import cooper

folder = Path(sys.argv[1] if len(sys.argv) > 1 else Path(cooper.__file__).parent / "demo")
for path in sorted(folder.glob("*.json")):
    model = cooper.open(path)
    worst = min(model.checks, key=lambda check: check.margin)
    print(f"{model.verdict:6} {path.name:28} {worst.label}: {worst.value:.3g} {worst.sense} {worst.limit:.3g}")
