"""Forms of the flanks: their fields, and a relief given to both gears."""

from __future__ import annotations

import numpy as np
from msgspec.structs import replace

from cooper.document.models import Design
from cooper.document.plain import get_at
from cooper.document.quantities import plain
from cooper.editing.edit import set_many
from cooper.editing.fields import Field, optional_field, path_field
from cooper.editing.sheet_fields import member_path
from cooper.errors import OutOfRange
from cooper.i18n.text import tr
from cooper.results.flank_forms import LEFT, reach_of, single_relief
from cooper.results.result_tree import Results

TIPS = ("C_alphaa", "l_Ca")
PROFILE = ("C_alphaa", "l_Ca", "C_alphaf", "l_Cf", "C_alpha", "C_Halpha")
FACE = ("C_betaI", "l_CI", "C_betaII", "l_CII")
FINE = {"l_Ca": 0.1, "l_Cf": 0.1, "l_CI": 0.5, "l_CII": 0.5}


def sides_of(design: Design, stage: int, i: int, bears: bool | None = None) -> list[tuple[str, str]]:
    """Paths of the forms of gear i (1, 2) with the end of their quantities' names: of its right and its left flanks
    where those are not alike, or of those that bear alone, the left ones or not."""
    member = member_path(design, stage, i)
    both = [(f"{member}.flanks", ""), (f"{member}.flanks_left", LEFT)]
    if get_at(design, f"{member}.flanks_left") is None:
        return both[:1]
    return both if bears is None else [both[bears]]


def form_fields(
    design: Design, stage: int, symbols: tuple[str, ...] = TIPS, bears: bool | None = None
) -> dict[str, Field]:
    """Fields of the forms of both gears' flanks (`sides_of`), and of the helix of the pair."""
    fields: list[Field] = []
    for i in (1, 2):
        for form, end in sides_of(design, stage, i, bears):
            for s in symbols:
                key, path, fine = plain(s, i) + end, f"{form}.{s}", FINE.get(s, 1.0)
                long = s in ("l_Ca", "l_Cf")
                field = (
                    optional_field(key, s, i, path, fine, tr("long"))
                    if long
                    else path_field(key, s, i, path, fine=fine)
                )
                own = len(sides_of(design, stage, i)) > 1
                fields.append(
                    replace(
                        field,
                        label=tr("{meaning}, {end} flanks", meaning=field.meaning, end="left" if end else "right"),
                    )
                    if own
                    else field
                )
    mesh = design.train.stages[stage].path
    fields += [path_field(s, s, None, f"{mesh}.{s}", fine=1.0) for s in ("C_beta", "C_Hbeta")]
    place = f"{design.train.stages[stage].id}."
    return {f.key: replace(f, place=place) for f in fields}


def start_fields(design: Design, stage: int, i: int) -> dict[str, Field]:
    """Where the reliefs of gear i (1, 2) begin, by diameter and by roll angle: other ways to give their lengths."""
    if not design.train.stages[stage].kinds[i - 1].turns:
        return {}
    result: list[Field] = []
    for path, side in sides_of(design, stage, i):
        for end in ("a", "f"):
            for symbol, fine in (("d", 0.1), ("xi", 0.5)):
                result.append(_start(stage, i, path, side, end, symbol, fine))
    place = f"{design.train.stages[stage].id}."
    return {f.key: replace(f, place=place) for f in result}


def _start(stage: int, i: int, path: str, side: str, end: str, symbol: str, fine: float) -> Field:
    name = f"{symbol}_C{end}"
    key = plain(name, i) + side

    def lengths(r: Results) -> tuple[float, float, float]:
        """Base radius, length of roll at the relief's own end of the contact, and the way inwards."""
        s = r.stages[stage]
        root, tip = reach_of(s, i - 1)
        own, other = (tip, root) if end == "a" else (root, tip)
        return abs(float(s.teeth[i - 1].d_b)) / 2, own, other - own

    def read(d: Design, r: Results) -> float | None:
        flanks = get_at(d, path)
        if flanks is None:
            # The left flanks are as the right ones again; whoever shows the field is about to be made anew.
            return None
        r_b, own, way = lengths(r)
        length = (flanks.l_Ca if end == "a" else flanks.l_Cf) or single_relief(r.stages[stage])
        L = own + np.sign(way) * length
        return float(2 * np.hypot(r_b, L)) if symbol == "d" else float(np.degrees(L / r_b))

    def give(d: Design, r: Results, value: float) -> Design:
        r_b, own, way = lengths(r)
        ends = sorted((own, own + way))
        low, high = (2 * np.hypot(r_b, v) if symbol == "d" else np.degrees(v / r_b) for v in ends)
        L = np.sqrt(max((value / 2) ** 2 - r_b**2, 0.0)) if symbol == "d" else np.radians(value) * r_b
        if not low < value < high:
            raise OutOfRange(
                key,
                value,
                tr("a relief begins on the part of the flank that touches its mate"),
                low=round(float(low), 3),
                high=round(float(high), 3),
            )
        return set_many(d, {f"{path}.l_C{end}": round(float(abs(L - own)), 4)})

    return Field(key, name, i, read, lambda _d, _r: False, give, fine=fine)


ON = {"both": tr("on both gears"), "driving": tr("on the driving gear"), "driven": tr("on the driven gear")}
"""Where a relief is made, with its words."""


FLANKS = {"alike": tr("both flanks alike"), "bear": tr("the flanks that bear")}
"""On which flanks a relief is made, with its words."""


def own_flanks(design: Design, stage: int, i: int, own: bool = True) -> Design:
    """The design whose gear i (1, 2) has left flanks of their own, which begin as the right ones; or flanks alike
    again, as the right ones are."""
    member = member_path(design, stage, i)
    return set_many(design, {f"{member}.flanks_left": get_at(design, f"{member}.flanks").plain() if own else None})


def give_relief(
    design: Design, stage: int, C_a: float, l_Ca: float | None, on: str = "both", bears: bool | None = None
) -> Design:
    """The design with a straight tip relief on both gears of a stage, the long one where no length is given; or on
    one gear alone, which has it at its tips and, in place of its mate's tips, at its roots: the flanks then part alike.
    ``bears`` gives it to the left flanks (true) or the right ones alone; the others stay as they are.

    A gear in two meshes whose flanks are alike has it on both.
    """
    values: dict[str, object] = {}
    for i in (1, 2):
        if bears is not None and get_at(design, f"{member_path(design, stage, i)}.flanks_left") is None:
            design = own_flanks(design, stage, i)
        here = on == "both" or (on == "driving") == (i == 1)
        tip, root = (C_a if here else 0.0), (C_a if here and on != "both" else 0.0)
        for path, _end in sides_of(design, stage, i, bears):
            values |= {
                f"{path}.C_alphaa": tip,
                f"{path}.l_Ca": l_Ca,
                f"{path}.C_alphaf": root,
                f"{path}.l_Cf": l_Ca,
                f"{path}.relief": "straight",
            }
    return set_many(design, values)
