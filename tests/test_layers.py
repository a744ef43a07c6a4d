"""Imports run downwards only."""

import ast
from functools import cache
from pathlib import Path

import cooper

LEVEL = {
    "stock": 0,
    "gears": 1,
    "running": 2,
    "rating": 2,
    "trains": 3,
    "machine": 2,
    "field": 2.5,
    "kinds": 3.5,
    "document": 4,
    "results": 5,
    "editing": 6,
    "survey": 6.5,
    "exchange": 7,
    "demo": 7,
    "handbook": 7.5,
    "helper": 0,
    "i18n": -1,
    "version": -2,
    "folders": -1,
    "cli_words": 7.9,
    "desk": 8,
    "api": 8,
    "cli_survey": 8,
    "cli_match": 8,
    "cli_demo": 8.5,
    "cli": 9,
    "__main__": 10,
}


@cache
def tree_of(file):
    """The syntax tree of a file, read once for all tests."""
    return ast.parse(file.read_text(encoding="utf-8"))


def test_imports_run_downwards_and_qt_stays_on_the_desk():
    root = Path(cooper.__file__).parent
    for file in root.rglob("*.py"):
        part = file.relative_to(root).parts[0].removesuffix(".py")
        for node in ast.walk(tree_of(file)):
            names = [a.name for a in node.names] if isinstance(node, ast.Import) else []
            if isinstance(node, ast.ImportFrom):
                names = [node.module or ""]
            for name in names:
                assert part == "desk" or not name.startswith(("PySide6", "shiboken6")), f"{file} imports Qt"
                if name.startswith("cooper.") and part in LEVEL:
                    other = name.split(".")[1]
                    if other in LEVEL:
                        assert other == part or LEVEL[other] < LEVEL[part], f"{file} imports {name}"


def length_of_docstring(node):
    first = node.body[0]
    return first.end_lineno - first.lineno if ast.get_docstring(node) else 0


def test_no_function_is_longer_than_a_screen():
    long = [
        f"{path.name}: {node.name}"
        for path in Path(cooper.__file__).parent.rglob("*.py")
        for node in ast.walk(tree_of(path))
        if isinstance(node, ast.FunctionDef) and node.end_lineno - node.lineno - length_of_docstring(node) >= 90
    ]
    assert not long


ROOMS = ("base", "widgets", "lenses", "sheets", "survey", "shell")
"""The rooms of the desk: each imports from those before it alone."""


def modules():
    """Every module with its file."""
    root = Path(cooper.__file__).parent
    return {
        ".".join(("cooper", *f.relative_to(root).with_suffix("").parts)).removesuffix(".__init__"): f
        for f in root.rglob("*.py")
    }


def imports(node, files):
    """The modules of the program that are imported anywhere in a syntax tree, but for types alone."""
    if isinstance(node, ast.If) and "TYPE_CHECKING" in ast.unparse(node.test):
        return set()
    if isinstance(node, ast.ImportFrom) and node.module:
        return {f"{node.module}.{a.name}" if f"{node.module}.{a.name}" in files else node.module for a in node.names}
    if isinstance(node, ast.Import):
        return {a.name for a in node.names}
    return {name for child in ast.iter_child_nodes(node) for name in imports(child, files)}


@cache
def uses_of_modules():
    files = modules()
    return {m: (imports(tree_of(f), files) & set(files)) - {m} for m, f in files.items()}


def test_no_two_modules_share_a_name_and_no_files_import_each_other_in_a_circle():
    stems = [m.rpartition(".")[2] for m, f in modules().items() if f.name != "__init__.py"]
    assert sorted(s for s in set(stems) if stems.count(s) > 1) == []
    uses = uses_of_modules()
    while True:
        ends = {m for m, result in uses.items() if not result}
        if not ends:
            break
        uses = {m: result - ends for m, result in uses.items() if m not in ends}
    assert not uses, f"these import each other: {sorted(uses)}"


def test_the_rooms_of_the_desk_import_one_way():
    for module, result in uses_of_modules().items():
        here = module.split(".")
        for name in result:
            there = name.split(".")
            if here[:2] == there[:2] == ["cooper", "desk"] and len(here) > 2 < len(there):
                assert ROOMS.index(there[2]) <= ROOMS.index(here[2]), f"{module} imports {name}"


TABLES = {"messages", "quantities", "values"}
"""Files of rows, which may be as long as they are."""


def test_files_are_short():
    long = {m.rpartition(".")[2] for m, f in modules().items() if len(f.read_text(encoding="utf-8").splitlines()) > 450}
    assert long <= TABLES
