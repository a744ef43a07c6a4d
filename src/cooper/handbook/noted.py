"""Every note that Cooper can say, read from where it is said; what it puts in stands as an ellipsis."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from functools import lru_cache
from importlib.resources import files

from msgspec import Struct

from cooper.document.quantities import QUANTITIES

LEVEL = re.compile(r"^(warning|range|assumed)(:(thin|short))?(@.*)?$", re.S)


class Noted(Struct, frozen=True):
    """One note: its level, what it counts for, the symbols of the quantities that it marks, its words."""

    level: str
    counts: str
    about: tuple[str, ...]
    text: str


def words_of(node: ast.expr) -> str | None:
    """A text that is written in the source, with … for what is put in; None for another expression.

    >>> words_of(ast.parse("f'z = {z}: ' 'few'", mode="eval").body)
    'z = …: few'
    """
    match node:
        case ast.Constant(value=str() as value):
            return value
        case ast.JoinedStr(values=values):
            return "".join(v.value if isinstance(v, ast.Constant) and isinstance(v.value, str) else "…" for v in values)
        case ast.BinOp(left=left, op=ast.Add(), right=right):
            both = words_of(left), words_of(right)
            return None if both == (None, None) else "".join(w if w is not None else "…" for w in both)
    return None


def _pairs(tree: ast.AST) -> Iterator[tuple[str, str]]:
    for node in ast.walk(tree):
        if (
            isinstance(node, ast.Assign)
            and getattr(node.targets[0], "id", "") == "texts"
            and isinstance(node.value, ast.List)
        ):
            # What is simplified for every design.
            yield from (("assumed", w) for e in node.value.elts if (w := words_of(e)) and " " in w)
        parts = node.args if isinstance(node, ast.Call) else node.elts if isinstance(node, ast.Tuple) else []
        for n, one in enumerate(parts):
            level = words_of(one.body if isinstance(one, ast.IfExp) else one)
            text = next((w for p in parts[n + 1 :] if (w := words_of(p)) and " " in w), None)
            if level is not None and text and LEVEL.match(level):
                yield level, text


@lru_cache(maxsize=1)
def noted() -> tuple[Noted, ...]:
    """All notes of the results, warnings first, each once."""
    found: dict[str, Noted] = {}
    for file in sorted(files("cooper.results").iterdir(), key=lambda f: f.name):
        if not file.name.endswith(".py"):
            continue
        for level, text in _pairs(ast.parse(file.read_text(encoding="utf-8"))):
            m = LEVEL.match(level)
            assert m is not None
            about = tuple(w.rstrip("…").rstrip("_") for w in (m[4] or "").lstrip("@").split())
            text = re.sub(r"\s+", " ", text)
            found.setdefault(text, Noted(m[1], m[3] or "", about, text))
    order = ("warning", "range", "assumed")
    return tuple(sorted(found.values(), key=lambda n: order.index(n.level)))


SENSES = {"least": "at least", "most": "at most"}
"""What a check is called where it is made, and what its value must be."""
BY_METHOD = {"root": ("S_F", "S_Feq", "S_FA"), "flank": ("S_H", "S_Heq", "S_HA")}
"""Checks whose symbol the method and the load decide."""
MAKERS = ("checks.py", "machine_checks.py", "set_results.py", "machine_pins.py", "machine_torsion.py")


class Checked(Struct, frozen=True):
    """A check: its words, whether the value must be at least or at most the limit, and what a short one means for the part."""

    label: str
    sense: str
    means: str


@lru_cache(maxsize=1)
def checked() -> dict[str, tuple[Checked, ...]]:
    """The checks by symbol, read from where they are made."""
    found: dict[str, list[Checked]] = {}
    for name in MAKERS:
        tree = ast.parse((files("cooper.results") / name).read_text(encoding="utf-8"))
        for function in ast.walk(tree):
            if isinstance(function, ast.FunctionDef):
                for symbols, one in _checks_of(function):
                    for symbol in symbols:
                        found.setdefault(symbol, []).append(one)
    return {symbol: tuple(dict.fromkeys(rows)) for symbol, rows in found.items()}


def _checks_of(function: ast.FunctionDef) -> Iterator[tuple[tuple[str, ...], Checked]]:
    said: dict[str, str] = {}
    for node in ast.walk(function):
        if isinstance(node, ast.Assign) and isinstance(node.targets[0], ast.Name) and (w := words_of(node.value)):
            said[node.targets[0].id] = w
    in_rows: list[str] = []
    for node in ast.walk(function):
        if isinstance(node, ast.Tuple) and node.elts and (symbol := words_of(node.elts[0])) in QUANTITIES and symbol:
            # A row of a table that is gone through.
            in_rows.append(symbol)
            texts = [w for e in node.elts[1:] if (w := words_of(e))]
            if len(texts) > 1 and texts[-1].count(" ") > 4:
                yield (symbol,), Checked(texts[0], "at least", texts[-1].replace("{}", "…"))
    for node in ast.walk(function):
        if not isinstance(node, ast.Call) or not node.args:
            continue
        called = node.func.attr if isinstance(node.func, ast.Attribute) else getattr(node.func, "id", "")
        if called == "Check":
            sense = next((w for a in node.args if (w := words_of(a)) in SENSES.values()), None)
        else:
            sense = SENSES.get(called)
        first = node.args[0]
        if isinstance(first, ast.Name):
            symbols = tuple(in_rows) if first.id == "symbol" else BY_METHOD.get(first.id, ())
        else:
            symbols = (words_of(first) or "",)
        if sense is None or not symbols or symbols[0] not in QUANTITIES:
            continue
        texts = [said.get(a.id, "") if isinstance(a, ast.Name) else words_of(a) or "" for a in node.args[1:]]
        texts = [re.sub("…+", "…", t) for t in texts if t and t not in SENSES.values()]
        said_of = [t for t in texts if re.search("[a-z]{3}.* ", t)]
        if said_of and (not isinstance(first, ast.Name) or said_of[-1].count(" ") > 4):
            label = next((t for t in texts if t != said_of[-1] and re.search("[a-z]{4}", t)), "")
            yield tuple(symbols), Checked(label, sense, said_of[-1])
