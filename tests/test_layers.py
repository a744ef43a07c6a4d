"""Imports run downwards only."""

import ast
from pathlib import Path

import cooper

LEVEL = {"stock": 0, "gears": 1, "running": 2, "rating": 2, "trains": 3, "machine": 2, "field": 2.5, "kinds": 3.5, "document": 4, "results": 5, "editing": 6, "survey": 6.5, "exchange": 7,
         "demo": 7, "handbook": 7.5, "helper": 0, "language": -1, "folders": -1, "cli_words": 7.9, "desk": 8, "api": 8, "cli_survey": 8, "cli": 9, "__main__": 10}  # fmt: skip


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


def test_no_function_is_longer_than_a_screen():
    long = [
        f"{path.name}: {node.name}"
        for path in Path(cooper.__file__).parent.rglob("*.py")
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8")))
        if isinstance(node, ast.FunctionDef) and node.end_lineno - node.lineno >= 90
    ]
    assert not long


def test_no_two_modules_share_a_name_and_no_imports_go_round():
    root = Path(cooper.__file__).parent
    files = {
        ".".join(("cooper", *f.relative_to(root).with_suffix("").parts)).removesuffix(".__init__"): f
        for f in root.rglob("*.py")
    }
    stems = [m.rpartition(".")[2] for m, f in files.items() if f.name != "__init__.py"]
    assert sorted(s for s in set(stems) if stems.count(s) > 1) == []
    uses = {}
    for module, file in files.items():
        found = set()
        # What is imported within a function is asked for only when it is needed.
        for node in ast.parse(file.read_text()).body:
            if isinstance(node, ast.ImportFrom) and node.module:
                found |= {
                    f"{node.module}.{a.name}" if f"{node.module}.{a.name}" in files else node.module for a in node.names
                }
            elif isinstance(node, ast.Import):
                found |= {a.name for a in node.names}
        uses[module] = found & set(files) - {module}
    while True:
        ends = {m for m, found in uses.items() if not found}
        if not ends:
            break
        uses = {m: found - ends for m, found in uses.items() if m not in ends}
    assert not uses, f"these import each other: {sorted(uses)}"
