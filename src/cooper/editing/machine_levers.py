"""Levers of the machine: one diameter, bearing, joint, steel or oil that brings a check of a part to its limit."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import TypeVar

from cooper.document.machine_data import Machine
from cooper.document.models import Design
from cooper.editing.machine_edits import in_machine, propose_anew
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.machine.rolling_life import CLEANLINESS
from cooper.machine.shaft_beam import piece_of
from cooper.results.evaluate import evaluate
from cooper.results.machine_result import ShaftResult
from cooper.results.result_tree import Check, Results
from cooper.stock.diameters import STANDARD
from cooper.stock.rolling import bores_of, series_of
from cooper.stock.shaft_steel import shaft_steel, shaft_steels

V = TypeVar("V", float, str)
Found = tuple[str, float | str, str | None, Design | None, Results | None, str]
"""Label, value, kind of its unit, design and results (None where it is out of reach), and why it cannot."""
MACHINE_LEVERED = ("S_D", "S_Y", "L_nmh", "S_0", "S_J", "w_g", "theta_sh", "n_crit")
"""Checks of the machine that have levers."""
STEPS = 8
"""Next greater diameters that are tried."""


def machine_levers(design: Design, results: Results, check: Check) -> Iterator[Found]:
    """The levers of a check of a shaft, a bearing or a joint, each as it is found."""
    if results.machine is None or check.symbol not in MACHINE_LEVERED:
        return
    shafts = [s for s in results.machine.shafts if check.part == s.key or check.part.startswith(f"{s.key} ")]
    data = design.train.machine or Machine()
    if shafts:
        shaft = max(shafts, key=lambda s: len(s.key))
        rest = check.part.removeprefix(shaft.key).strip()
        name = _piece(shaft, rest, check)
        if shaft.key in data.shafts:
            anew = _first(
                check,
                tr("what is fixed of the shaft"),
                None,
                [tr("let go")],
                lambda _v: propose_anew(design, shaft.key),
            )
            yield anew
        if name is not None:
            yield _diameter(design, check, shaft, name)
        if check.symbol in ("L_nmh", "S_0", "theta_sh"):
            yield from _bearings(design, check, shaft, rest)
        if check.symbol == "S_J":
            yield from _joints(design, check, shaft, rest)
    if check.symbol in ("S_D", "S_Y", "S_J"):
        now = data.shafts[shafts[0].key].steel if shafts and shafts[0].key in data.shafts else None
        yield _steel(design, check, now or data.steel)
    if check.symbol == "L_nmh":
        order = list(CLEANLINESS)
        cleaner = order[: order.index(data.cleanliness)][::-1]
        yield _first(
            check, tr("cleanliness of the oil"), None, cleaner, lambda v: in_machine(design, (("cleanliness",), v))
        )


def _piece(shaft: ShaftResult, rest: str, check: Check) -> str | None:
    """The piece whose diameter decides a check; None where it is cut into the shaft."""
    names = [p.name for p in shaft.made.pieces]
    if check.symbol in ("S_D", "S_Y"):
        at, _ = shaft.checked.place(shaft.checked.S_D if check.symbol == "S_D" else shaft.checked.S_Y)
        return piece_of(shaft.made.pieces, at).name
    result = next((n for n in (rest, tr("seat {rest}", rest=rest)) if n in names), None)
    if check.symbol == "n_crit":
        return max(shaft.made.pieces, key=lambda p: p.length).name
    cut = any(j.piece == result and j.kind == "integral" for j in shaft.made.joints)
    return None if cut else result


def _diameter(design: Design, check: Check, shaft: ShaftResult, name: str) -> Found:
    piece = shaft.made.piece(name)
    bearing = next((b.bearing.type for b in shaft.made.bearings if b.name == name), None)
    grid = bores_of(bearing) if bearing else STANDARD
    wider = [d for d in grid if d > piece.d][:STEPS]
    path = ("shafts", shaft.key, "pieces", name, "d")
    return _first(check, tr("diameter of {name}", name=name), "length", wider, lambda d: in_machine(design, (path, d)))


def _bearings(design: Design, check: Check, shaft: ShaftResult, name: str) -> Iterator[Found]:
    """Each type of bearing in its lightest series that reaches the limit."""
    base = ("shafts", shaft.key, "bearings", name)
    for kind in ("deep groove ball", "cylindrical roller", "spherical roller"):
        rows = [tr("{kind}, series {s}", kind=kind, s=s) for s in series_of(kind)]

        def make(row: str, kind: str = kind) -> Design:
            series = row.rpartition(" ")[2]
            return in_machine(design, ((*base, "type"), kind), ((*base, "series"), series))

        yield _first(check, "bearing", None, rows, make)


def _joints(design: Design, check: Check, shaft: ShaftResult, piece: str) -> Iterator[Found]:
    on = piece.removeprefix("seat ")
    path = ("shafts", shaft.key, "joints", on, "kind")
    now = next((j.kind for j in shaft.made.joints if j.piece == piece), "")
    kinds = [k for k in ("key", "two keys", "spline", "press fit") if k != now]
    for kind in kinds:
        yield _first(check, "joint", None, [kind], lambda v: in_machine(design, (path, v)))


def _steel(design: Design, check: Check, now: str) -> Found:
    stronger = sorted(
        (s for s in shaft_steels() if shaft_steel(s).sigma_B > shaft_steel(now).sigma_B),
        key=lambda s: shaft_steel(s).sigma_B,
    )
    return _first(check, tr("steel of the shafts"), None, stronger, lambda v: in_machine(design, (("steel",), v)))


def _first(check: Check, label: str, kind: str | None, values: Sequence[V], make: Callable[[V], Design]) -> Found:
    """The first of the values that brings the check to its limit, on the whole evaluation."""
    for value in values:
        try:
            design = make(value)
            results = evaluate(design)
        except OutOfRange:
            continue
        result = results.check(check.key)
        if result is not None and result.margin >= 0:
            return label, value, kind, design, results, ""
    last: float | str = values[-1] if values else ""
    return label, last, kind, None, None, tr("none of them reaches it") if values else tr("there is nothing beyond it")
