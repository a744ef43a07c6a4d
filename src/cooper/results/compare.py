"""Two states of a design side by side: every input that differs, every check, the main results, and what rose or
fell."""

from __future__ import annotations

from collections.abc import Iterator
from math import inf
from typing import Any

from msgspec import Struct

from cooper.document.models import Design
from cooper.document.quantities import QUANTITIES, plain
from cooper.i18n.text import tr
from cooper.results.result_tree import Results

MAIN_MESH = (
    "u",
    "a_w",
    "x_sum",
    "alpha_wt",
    "eps_alpha",
    "eps_beta",
    "K_V",
    "K_Hbeta",
    "K_Halpha",
    "j_wt_min",
    "j_wt_max",
    "eta_z",
)
MAIN_GEAR = ("d", "d_a", "d_f", "d_Ff", "s_anE", "zeta_f", "sigma_H", "sigma_F", "mass")


class Line(Struct, frozen=True):
    """One line of a comparison. ``kind`` is that of the quantity, None for words; ``first`` and ``second`` are
    numbers or words, None where a state has no such thing; ``moved`` is "rose", "fell" or empty."""

    group: str
    name: str
    kind: str | None
    first: float | str | None
    second: float | str | None

    @property
    def moved(self) -> str:
        a, b = self.first, self.second
        if isinstance(a, int | float) and isinstance(b, int | float) and abs(b - a) > 1e-9 * max(abs(a), abs(b), 1e-12):
            return "rose" if b > a else "fell"
        return ""

    @property
    def by(self) -> float:
        """By how much of what it was it moved; infinite for what was nothing or no number."""
        a, b = self.first, self.second
        if not (isinstance(a, int | float) and isinstance(b, int | float)):
            return inf
        if self.kind == "share":
            # Shares in 100 differ by their difference.
            return abs(b - a) / 100
        return abs(b - a) / abs(a) if a else inf

    @property
    def same(self) -> bool:
        if isinstance(self.first, int | float) and isinstance(self.second, int | float):
            return not self.moved
        return self.first == self.second


def compare(first: tuple[Design, Results], second: tuple[Design, Results]) -> list[Line]:
    """Inputs that differ, then all checks, then the main results, in this order."""
    return [*_inputs(first[0], second[0]), *_checks(first[1], second[1]), *_results(first[1], second[1])]


def differing(first: tuple[Design, Results], second: tuple[Design, Results]) -> list[Line]:
    """What differs between two states alone, in each group that which moved by the largest part of itself first."""
    groups: dict[str, list[Line]] = {}
    for line in compare(first, second):
        if not line.same:
            groups.setdefault(line.group, []).append(line)
    return [line for rows in groups.values() for line in sorted(rows, key=lambda n: -n.by)]


def _leaves(value: Any, path: str = "") -> Iterator[tuple[str, Any]]:
    if isinstance(value, dict):
        for key, part in value.items():
            yield from _leaves(part, f"{path}.{key}" if path else key)
    elif isinstance(value, list | tuple):
        for k, part in enumerate(value):
            yield from _leaves(part, f"{path}.{k + 1}")
    else:
        yield path, value


def _kind(path: str) -> str | None:
    """The kind of quantity of a place in the document; its last word is the symbol, d_1 and d_2 being diameters."""
    name = path.split(".")[-1]
    symbol = "d" if name in ("d_1", "d_2") else name
    return QUANTITIES[symbol].kind if symbol in QUANTITIES else None


def _inputs(first: Design, second: Design) -> Iterator[Line]:
    one, two = (dict(_leaves(d.plain(without={"survey"}))) for d in (first, second))
    places = _places(first) | _places(second)
    for path in dict.fromkeys([*one, *two]):
        a, b = one.get(path), two.get(path)
        if a != b and not path.endswith(".id"):
            at = ".".join(path.split(".")[:3])
            name = path.removeprefix("train.") if at not in places else places[at] + path[len(at) :]
            numbers = all(v is None or (isinstance(v, int | float) and not isinstance(v, bool)) for v in (a, b))
            shown = (
                v
                if isinstance(v, int | float) and not isinstance(v, bool)
                else "solved"
                if v is None and numbers
                else "–"
                if v is None
                else str(v)
                for v in (a, b)
            )
            yield Line(tr("Inputs that differ"), name.replace(".", ", "), _kind(path) if numbers else None, *shown)


def _places(design: Design) -> dict[str, str]:
    """Paths of meshes and gears, and where they stand in words."""
    result: dict[str, str] = {}
    for k, stage in enumerate(design.train.stages, 1):
        result[stage.path] = tr("stage {k}", k=k)
        for i, path in enumerate(stage.paths, 1):
            result.setdefault(path, tr("stage {k}, gear {i}", k=k, i=i))
    return result


def _checks(first: Results, second: Results) -> Iterator[Line]:
    one, two = ({c.key: c for c in r.checks} for r in (first, second))
    for key in dict.fromkeys([*one, *two]):
        a, b = one.get(key), two.get(key)
        check = b or a
        assert check is not None
        where = "" if check.stage is None or len(second.stages) == 1 else tr("stage {value}, ", value=check.stage + 1)
        values = (None if c is None else c.value for c in (a, b))
        yield Line(
            tr("Checks"),
            tr("{where}{label} ({symbol})", where=where, label=check.label, symbol=plain(check.symbol, check.index)),
            check.kind,
            *values,
        )


def _results(first: Results, second: Results) -> Iterator[Line]:
    for k in range(max(len(first.stages), len(second.stages))):
        pair = [r.stages[k] if k < len(r.stages) else None for r in (first, second)]
        where = tr("stage {value}, ", value=k + 1) if max(len(first.stages), len(second.stages)) > 1 else ""
        for symbol in MAIN_MESH:
            values = [None if s is None else s.mesh.get(symbol) for s in pair]
            if any(v is not None for v in values):
                yield Line(tr("Results"), f"{where}{symbol}", QUANTITIES[symbol].kind, *values)
        for i in (0, 1):
            for symbol in MAIN_GEAR:
                values = [None if s is None else s.gears[i].get(symbol) for s in pair]
                if any(v is not None for v in values):
                    yield Line(tr("Results"), f"{where}{plain(symbol, i + 1)}", QUANTITIES[symbol].kind, *values)
