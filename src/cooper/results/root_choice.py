"""The root that is stressed least: of all elliptic ones that the mate's tips and the needed flank leave room for, or
of all tips of a hob.

Found by trying, each with the field of its true section.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import as_float
from cooper.errors import OutOfRange
from cooper.field.stress_field import field_basis
from cooper.field.tooth_grid import COARSE
from cooper.gears.cutter import ConicCut
from cooper.gears.rack import greatest_rho_fP
from cooper.gears.root import root_form
from cooper.gears.tip_path import tip_room
from cooper.gears.tooth import Tooth
from cooper.i18n.text import tr
from cooper.results.limits import tool_fits
from cooper.results.loaded_tooth import LoadedAsk
from cooper.results.result_tree import StageResults
from cooper.results.root_comparison import load_place

DEPTHS = np.linspace(0.6, 1.2, 7)
WEIGHTS = np.linspace(0.2, 0.95, 6)
RADII = 7
ROOM = 0.004
"""Least room between the tips of the mate, pressed onto this flank, and the root in modules: where the flank ends
they stand near it by their nature."""


class RootChoice(Struct, frozen=True):
    """A root for gear i (0, 1): what is set in the document, the stress of the field at the load's place before and
    with it (MPa), and why in words."""

    i: int
    values: dict[str, object]
    sigma: tuple[float, float]
    why: str


def elliptic_roots(s: StageResults, i: int) -> list[tuple[dict[str, object], Tooth]]:
    """The elliptic roots that leave the flank that is needed and room for the mate's tips."""
    own, mate = s.teeth[i], s.teeth[1 - i]
    m_n = float(own.m_n)
    needed = abs(float(s.gears[i].d_Nf)) / 2
    result: list[tuple[dict[str, object], Tooth]] = []
    seen = set()
    for h in DEPTHS:
        for w in WEIGHTS:
            tooth = replace(own, tool=ConicCut(float(h), float(w)), flank=None)
            form = root_form(tooth)
            sign = float(tooth.sign)
            r_F = abs(float(form.d_Ff)) / 2
            # Beneath the base circle all depths are one.
            if (key := (round(r_F / m_n, 4), float(w))) in seen or not bool(tool_fits(tooth)):
                continue
            seen.add(key)
            if sign * r_F > sign * needed - 0.01 * m_n:
                continue
            if tip_room(tooth, form, mate, abs(float(s.mesh.a_w)), float(s.mesh.j_wt)) < ROOM * m_n:
                continue
            values: dict[str, object] = {"tool": "elliptic", "h_Ff": round(float(h), 3), "w_F": round(float(w), 3)}
            result.append((values, tooth))
    return result


def hob_tips(s: StageResults, i: int) -> list[tuple[dict[str, object], Tooth]]:
    """The gear as a hob of the same depth leaves it with other tip radii, which its tip has room for and which leave
    the flank that is needed."""
    own = s.teeth[i]
    rack = own.rack
    most = float(greatest_rho_fP(float(rack.alpha_n), float(rack.h_fP), float(rack.s_pr)))
    needed = abs(float(s.gears[i].d_Nf)) / 2
    result: list[tuple[dict[str, object], Tooth]] = []
    for rho in np.linspace(0.0, most, RADII + 1)[1:]:
        tooth = replace(own, rack=replace(rack, rho_fP=as_float(np.floor(1000 * rho) / 1000)), flank=None)
        if abs(float(root_form(tooth).d_Ff)) / 2 <= needed:
            result.append(({"rho_fP": float(tooth.rack.rho_fP)}, tooth))
    return result


WAYS = {"elliptic": elliptic_roots, "hob": hob_tips}


def each_root(s: StageResults, ask: LoadedAsk, i: int, way: str) -> Iterator[RootChoice]:
    """The root of gear i that is stressed least under the load of ``ask`` where ISO 6336-3 has it; raises
    `OutOfRange` where none fits."""
    candidates = WAYS[way](s, i)
    if not candidates:
        what = (
            tr("no elliptic root leaves the flank that the mate needs and room for its tips")
            if way == "elliptic"
            else tr("no tip of a hob leaves the flank that the mate needs")
        )
        raise OutOfRange("h_fP", float(s.teeth[i].rack.h_fP), tr("{what} at this depth", what=what))
    L, w = load_place(s, i), ask.F / ask.b
    body = ask.bodies[i]
    now = w * field_basis(body, COARSE).root(L)[0]
    stressed = [
        w * field_basis(replace(body, tooth=tooth, form=root_form(tooth)), COARSE).root(L)[0] for _, tooth in candidates
    ]
    k = int(np.argmin(stressed))
    least = stressed[k]
    text = (
        tr("elliptic roots that leave the needed flank and room for the mate's tips")
        if way == "elliptic"
        else tr("tip radii of the hob that fit")
    )
    why = tr(
        "Of {candidates} {told} this one is stressed least: {least:.4g} MPa in the field, {now:.4g} MPa as it is.",
        candidates=len(candidates),
        told=text,
        least=least,
        now=now,
    )
    values = candidates[k][0] if least < now * (1 - 1e-6) else {}
    if not values:
        why = tr(
            "Of {candidates} {told} none is stressed less than the {now:.4g} MPa of the root as it is.",
            candidates=len(candidates),
            told=text,
            now=now,
        )
    yield RootChoice(i, values, (now, least), why)
