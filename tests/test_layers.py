"""Imports run downwards only."""

import ast
from pathlib import Path

import cooper

LEVEL = {"stock": 0, "gears": 1, "running": 2, "rating": 2, "trains": 3, "design": 4, "survey": 5, "exchange": 5,
         "demo": 5, "desk": 6, "cli": 7, "__main__": 8}  # fmt: skip


def test_imports_run_downwards_and_qt_stays_on_the_desk():
    root = Path(cooper.__file__).parent
    for file in root.rglob("*.py"):
        part = file.relative_to(root).parts[0].removesuffix(".py")
        for node in ast.walk(ast.parse(file.read_text())):
            names = [a.name for a in node.names] if isinstance(node, ast.Import) else []
            if isinstance(node, ast.ImportFrom):
                names = [node.module or ""]
            for name in names:
                assert part == "desk" or not name.startswith(("PySide6", "shiboken6")), f"{file} imports Qt"
                if name.startswith("cooper.") and part in LEVEL:
                    other = name.split(".")[1]
                    if other in LEVEL:
                        assert other == part or LEVEL[other] < LEVEL[part], f"{file} imports {name}"
