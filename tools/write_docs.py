"""Writes the generated pages of docs/ anew. Run: .venv/bin/python tools/write_docs.py"""

import sys
from pathlib import Path

root = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(root / "src"))

from cooper.demo import demo  # noqa: E402
from cooper.design.evaluate import evaluate  # noqa: E402
from cooper.design.pages import pages  # noqa: E402

for name, text in pages(evaluate(demo())).items():
    (root / "docs" / name).write_text(text, encoding="utf-8")
