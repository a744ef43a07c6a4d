"""Edits of the machine around the gears: what a person fixes of its proposal, and lets go again."""

from __future__ import annotations

from typing import Any

from cooper.document.change import changed
from cooper.document.models import Design
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.machine.shaft_model import MadeShaft, Piece
from cooper.results.result_tree import Results


def in_machine(design: Design, *changes: tuple[tuple[str, ...], Any]) -> Design:
    """The design with values of its machine set, each by its path below ``train.machine``; None lets go what was
    fixed. The machine counts from then on."""
    machine = _plain(design) | {"counted": True}
    for path, value in changes:
        node = machine
        for key in path[:-1]:
            node[key] = dict(node.get(key) or {})
            node = node[key]
        if value is None and (path[0] == "angles" or "retention" in path):
            node.pop(path[-1], None)
        else:
            node[path[-1]] = value
    return _with(design, machine)


def _plain(design: Design) -> dict[str, Any]:
    """The machine as plain data; empty where there is none."""
    return {} if design.train.machine is None else design.train.machine.plain()


def _with(design: Design, machine: dict[str, Any]) -> Design:
    return changed(design, {"train.machine": machine})


def refuse_unbuildable(before: Design, after: Design, results: Results) -> None:
    """Refuse an edit of the machine itself with which it cannot be worked out: raises the `OutOfRange` that tells
    why. An edit of the gears around which no machine can stand is no fault of theirs; the results say so."""
    if results.no_machine is not None and after.train.machine != before.train.machine:
        raise results.no_machine


def count_machine(design: Design, counted: bool = True) -> Design:
    """Let the machine count among the checks, or not; what is fixed of it stays."""
    return _with(design, _plain(design) | {"counted": counted})


def propose_anew(design: Design, shaft: str | None = None) -> Design:
    """Let go all that is fixed of one shaft, or of all shafts."""
    machine = _plain(design)
    shafts = dict(machine.get("shafts") or {})
    if shaft is None:
        shafts = {}
    else:
        shafts.pop(shaft, None)
    return _with(design, {**machine, "shafts": shafts})


def cut_piece(design: Design, shaft: str, made: MadeShaft, at: float) -> Design:
    """Cut the piece of a shaft at a place along the machine (mm); its right part becomes a piece of its own with the
    same diameter."""
    piece = next((p for p in made.pieces if p.start < at < p.end), None)
    if piece is None:
        raise OutOfRange("cut", at, tr("a cut lies on the shaft"), low=made.start, high=made.end, unit="mm")
    whole = {"seat": tr("a hub"), "bearing": tr("a bearing"), "groove": tr("a retaining ring")}
    whole |= {"land": tr("a retaining ring"), "thread": tr("a nut")}
    if piece.kind in whole and (piece.kind in ("seat", "bearing") or piece.holds):
        free = [p for p in made.pieces if p.kind not in ("seat", "bearing") and not p.holds]
        near = min(free, key=lambda p: min(abs(at - p.start), abs(at - p.end)), default=piece)
        what = whole[piece.kind]
        raise OutOfRange(
            "cut",
            at,
            tr("{what} needs its seat whole; {name} beside it can be cut", what=what, name=near.name),
            low=near.start,
            high=near.end,
            unit="mm",
        )
    base = piece.name.partition(", part ")[0]
    start = next(p.start for p in made.pieces if p.name == base)
    machine = design.train.machine
    data = machine.shafts.get(shaft) if machine is not None else None
    cuts = data.pieces[base].cuts if data is not None and base in data.pieces else ()
    place = round(at - start, 1)
    least = min((abs(place - c) for c in (0.0, *cuts, piece.end - start)), default=1.0)
    if place <= 0 or least < 0.2:
        raise OutOfRange("cut", place, tr("a part is at least 0.2 mm long"), low=0.2, unit="mm")
    return in_machine(design, (("shafts", shaft, "pieces", base, "cuts"), tuple(sorted((*cuts, place)))))


def join_piece(design: Design, shaft: str, name: str) -> Design:
    """Take away all cuts of a piece, and what was fixed of its parts; the same design where it is not cut."""
    base = name.partition(", part ")[0]
    machine = _plain(design)
    shafts = dict(machine.get("shafts") or {})
    own = dict(shafts.get(shaft) or {})
    if not dict(dict(own.get("pieces") or {}).get(base) or {}).get("cuts"):
        return design
    pieces = {k: v for k, v in dict(own.get("pieces") or {}).items() if not k.startswith(f"{base}, part ")}
    if base in pieces:
        pieces[base] = {**pieces[base], "cuts": ()}
    return _with(design, {**machine, "shafts": {**shafts, shaft: {**own, "pieces": pieces}}})


def set_bearing(design: Design, shaft: str, made: MadeShaft, at: float) -> Design:
    """Set one more bearing on the shaft at a place along the machine (mm)."""
    first = next(b.at for b in made.bearings if b.name == "bearing 1")
    names = {b.name for b in made.bearings}
    name = next((tr("bearing {n}", n=n) for n in range(3, 7) if f"bearing {n}" not in names), None)
    if name is None:
        raise OutOfRange("bearings", len(names) + 1, tr("a shaft has up to six bearings"), low=2, high=6)
    return in_machine(design, (("shafts", shaft, "bearings", name, "at"), round(at - first, 1)))


def take_bearing(design: Design, shaft: str, name: str) -> Design:
    """Take away a bearing that was set by hand, and what was fixed of it."""
    machine = _plain(design)
    own = dict((machine.get("shafts") or {}).get(shaft) or {})
    for what in ("bearings", "pieces"):
        own[what] = {k: v for k, v in dict(own.get(what) or {}).items() if k != name}
    return _with(design, {**machine, "shafts": {**machine["shafts"], shaft: own}})


def drag_step(made: MadeShaft, piece: Piece, d: float) -> float:
    """A dragged diameter on the grid that a hand wants: bearings on their bores, all else on standard diameters; mm."""
    from cooper.stock.diameters import STANDARD
    from cooper.stock.rolling import bores_of

    grid: tuple[float, ...] = STANDARD
    if piece.kind == "bearing":
        kind = next(b.bearing.type for b in made.bearings if b.name == piece.name)
        grid = bores_of(kind)
    return float(min(grid, key=lambda v: abs(v - d)))
