"""Every public function of `rating`, `running` and `machine` is held by values that no code of the program produced."""

import ast
import importlib
import importlib.util
import inspect
import pkgutil
import re
from pathlib import Path

import numpy as np
import pytest
from msgspec import Struct
from msgspec.structs import astuple

import cooper.machine
import cooper.rating
import cooper.running

HERE = Path(__file__).parent


def value(word):
    """A cell: an angle in degrees, a number, a list, or a word."""
    if re.fullmatch(r"-?[\d.]+d", word):
        return np.radians(float(word[:-1]))
    if word in ("nan", "inf", "-inf"):
        return float(word)
    try:
        result = ast.literal_eval(word)
    except (ValueError, SyntaxError):
        return word
    return tuple(result) if isinstance(result, list) and not isinstance(result[0], list) else result


def rows():
    for file in sorted(HERE.glob("*.txt")):
        name = head = None
        for line in file.read_text(encoding="utf-8").splitlines():
            cells = line.partition("#")[0].split()
            if not cells:
                name = None if not line.strip() else name
            elif not line.startswith(" "):
                name, head = cells[0], None
            elif head is None:
                head = cells[: cells.index("->")]
            else:
                at = cells.index("->")
                yield pytest.param(
                    name,
                    dict(zip(head, map(value, cells[:at]), strict=True)),
                    [value(c) for c in cells[at + 1 :]],
                    id=f"{name}({', '.join(cells[:at])})",
                )


def function(name):
    module, _, own = name.rpartition(".")
    return getattr(importlib.import_module(f"cooper.{module}"), own)


def numbers(result):
    if isinstance(result, Struct):
        result = astuple(result)
    return [float(v) for v in result] if isinstance(result, tuple | list) else np.ravel(result).tolist()


@pytest.mark.parametrize(("name", "given", "expected"), list(rows()))
def test_a_row_of_the_tables(name, given, expected):
    with np.errstate(all="ignore"):
        result = numbers(function(name)(**given))
    assert result == pytest.approx(
        expected, rel=3e-6 if name != "rating.agma2101.factors.bending_cycle_factor" else 1e-5, abs=1e-9, nan_ok=True
    ) or (
        # What is published stands with the digits that it is published with.
        len(expected) == 1 and expected[0] in PUBLISHED and result[0] == pytest.approx(expected[0], rel=4e-3)
    )


PUBLISHED = {2.495, 189.8, 0.296, 0.322, 0.384, 0.46}


def public():
    for package in (cooper.rating, cooper.running, cooper.machine):
        for found in pkgutil.walk_packages(package.__path__, package.__name__ + "."):
            module = importlib.import_module(found.name)
            for name, f in vars(module).items():
                if inspect.isfunction(f) and f.__module__ == found.name and not name.startswith("_"):
                    yield f"{found.name.removeprefix('cooper.')}.{name}"


def test_every_public_function_has_two_rows_or_a_derivation_that_is_named():
    counted: dict[str, int] = {}
    for row in rows():
        counted[row.values[0]] = counted.get(row.values[0], 0) + 1
    derived = dict(
        line.split(maxsplit=1)
        for line in (HERE / "derived.md").read_text(encoding="utf-8").splitlines()
        if line.startswith(("r", "m"))
    )
    everything = set(public())
    missing = {name for name in everything if counted.get(name, 0) < 2 and name not in derived}
    assert not missing
    assert set(counted) | set(derived) <= everything
    for where in derived.values():
        for place in where.split(", "):
            path, _, test = place.partition("::")
            assert f"def {test}(" in (HERE.parent / path).read_text(encoding="utf-8"), place


def test_the_page_of_what_holds_each_number_is_that_of_the_program():
    spec = importlib.util.spec_from_file_location("write_docs", HERE.parents[1] / "tools" / "write_docs.py")
    tool = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(tool)
    page = tool.held_page()
    assert (HERE.parents[1] / "docs" / "held.md").read_text(encoding="utf-8") == page, "run tools/write_docs.py"
    assert all(f"`{name}`" in page for name in public())
