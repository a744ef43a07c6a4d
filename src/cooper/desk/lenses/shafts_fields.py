"""The quantities of a machine that stand as tags in the lens Shafts."""

from __future__ import annotations

from typing import TYPE_CHECKING

from cooper.desk.lenses.shafts_places import FACE, WHOLE
from cooper.editing.fields import Field
from cooper.editing.machine_fields import angle_field, box_field, diameter_field, face_fields, length_field
from cooper.machine.shaft_model import Piece
from cooper.results.machine_result import MachineResult, ShaftResult

if TYPE_CHECKING:
    from cooper.desk.lenses.shafts_lens import ShaftsLens


RING_PIECES = ("groove", "land", "thread")
"""Kinds of pieces that a retaining ring or nut asks for."""


def fields_of(lens: ShaftsLens, result: MachineResult | None, shaft: ShaftResult | None) -> dict[str, Field]:
    if result is None:
        return {}
    if lens.key == WHOLE:
        turning = [k for k, s in enumerate(lens.session.results.stages) if s.kind.turns and is_free(lens, k)]
        fields = [angle_field(lens.session.design, k) for k in turning]
        fields += [
            box_field("L_box", lambda m: m.housing.length),
            box_field("W_box", lambda m: m.housing.width),
            box_field("H_box", lambda m: m.housing.height),
        ]
        return {f.key: f for f in fields}
    if lens.key == FACE:
        return {f.key: f for f in face_fields(lens.session.design, lens.session.stage)}
    if shaft is None:
        return {}
    # Grooves and threads are as their rings and nuts ask for.
    fields = [diameter_field(shaft, p.name) for p in shaft.made.pieces if not (p.holds and p.kind in RING_PIECES)]
    fields += [length_field(shaft, p.name) for p in shaft.made.pieces if has_length(shaft, p)]
    return {f.key: f for f in fields}


def is_free(lens: ShaftsLens, k: int) -> bool:
    """Whether the line of centres of a stage can be laid anywhere: not within a set about one axis."""
    one = lens.session.results.within[k]
    return one is None or not one.arranged.around


def has_length(shaft: ShaftResult, p: Piece) -> bool:
    if ", part " in p.name or any(q.name.startswith(f"{p.name}, part ") for q in shaft.made.pieces):
        return False
    if p.kind in ("end", "seat", "collar"):
        return True
    k = next(k for k, q in enumerate(shaft.made.pieces) if q.name == p.name)
    beside = [q.kind for q in shaft.made.pieces[max(k - 1, 0) : k + 2]]
    return p.kind == "gap" and "bearing" in beside and "seat" in beside
