"""Numbers of teeth and trains that no evaluation asks for: outlines, measures over balls and spans, tool profiles,
overlaps, tolerances, searches for counts."""

from __future__ import annotations

from typing import Any

import numpy as np
from msgspec.structs import astuple

from cooper.arrays import Array
from cooper.document.models import Design
from cooper.gears import measure
from cooper.gears.area import section_area
from cooper.gears.flank_form import SHAPES, FlankForm, MadeFlank, eased, helix_form, profile_form
from cooper.gears.flank_points import half_angles, in_frame
from cooper.gears.identify import identify
from cooper.gears.inputs import GearInput, PairInput
from cooper.gears.layers import makes_of
from cooper.gears.outline import gear_outline
from cooper.gears.overlap import overlaps
from cooper.gears.profile_curves import profile_pieces
from cooper.gears.rack_gear import is_rack, rack_outline
from cooper.gears.tip_path import tip_path, tip_room
from cooper.gears.tolerances import flank_tolerances, pitch_span_tolerance, radial_tolerances, single_flank_tolerances
from cooper.gears.tool_profile import tool_profile
from cooper.rating.along_path import along_path
from cooper.rating.iso6336.spectrum import SHAPES as COLLECTIVES
from cooper.rating.iso6336.spectrum import standard_levels
from cooper.results.evaluate import QUICK, evaluate
from cooper.results.result_tree import StageResults
from cooper.running.play import play, sampled
from cooper.trains import counts, two_ring_counts
from cooper.trains.equal_strength import Strength, bears, equal_strength
from cooper.trains.planets import nearest_angles, positions
from makers import shaped, tooth

OF = np.array([0.0, 0.05, 0.37, 0.8, 0.95, 1.0])


GEOMETRY = (
    "ground helical",
    "tip forms and reliefs",
    "shaped with a cutter",
    "elliptic root and a form",
    "high contact ratio",
    "coarse and cast",
    "a ring, helical",
    "a rack, helical",
    "a set held at its sun",
)
"""Odd designs whose first pair is looked at more closely."""


def told(points: Array, places: int = 5) -> str:
    """Some of many numbers, and the sum of their amounts, which all of them move."""
    flat = np.asarray(points, dtype=float).ravel()
    some = [*flat[np.linspace(0, len(flat) - 1, places).astype(int)], np.abs(flat).sum()]
    return " ".join(f"{0.0 if abs(v) < 1e-9 else v:.10g}" for v in some)


def of_stage(s: StageResults) -> dict[str, Any]:
    """What the geometry of a pair says beyond its evaluation."""
    result: dict[str, Any] = {}
    a_w = float(s.mesh.a_w)
    for name, t, f in (("one", s.teeth[0], s.forms[0]), ("two", s.teeth[1], s.forms[1])):
        mine: dict[str, Any] = {"area": float(section_area(t, f))}
        if is_rack(t):
            mine["outline"] = told(rack_outline(t, 3, 9.0, 0.002))
        else:
            mine["outline"] = told(gear_outline(t, 0.2, 0.002))
            mine["pieces"] = [told(piece(OF), 12) for piece in profile_pieces(t, f)]
            d_y = np.linspace(float(f.d_Ff), float(t.d_a), 5)[1:-1]
            half = half_angles(t, f, d_y)
            mine["points"] = [told(in_frame(t, d_y, half, frame)) for frame in ("tooth", "space")]
            D_M = float(measure.best_ball(t))
            k = float(measure.best_span(t, f.d_Ff)) if t.sign > 0 else 3.0
            mine["measures"] = {
                "D_M": D_M,
                "balls": float(measure.over_two_balls(t, D_M)),
                "pins": float(measure.over_three_pins(t, D_M)),
                "touch": float(measure.ball_contact_diameter(t, D_M)),
                "span": [k, float(measure.span(t, k)), float(measure.span_contact_diameter(t, k))],
                "spans": told(np.array(measure.measurable_span(t, f.d_Ff)), 2),
                "width": float(measure.least_face_width_for_span(t, k)),
                "chord": told(np.array(measure.chordal_thickness(t)), 2),
            }
        if t.tool is None:
            profile = tool_profile(t.rack)
            mine["tool"] = told(profile.half)
        mine["makes"] = {key: float(made.x_E) for key, made in makes_of(t).items()}
        result[name] = mine
    one, two = s.teeth
    rack = is_rack(two)
    result["too near"] = [
        f"{o.depth:.6f} {o.inside} {o.part}" for o in overlaps(one, two, s.wheel_x - 0.12, s.stand(0.03, 1.0))
    ]
    if not rack:
        result["tip path"] = told(tip_path(one, two, a_w)) + " " + told(tip_path(two, one, a_w))
        result["tip room"] = [tip_room(two, s.forms[1], one, a_w), tip_room(one, s.forms[0], two, a_w)]
        m = s.mesh
        g = np.linspace(float(m.g_A), float(m.g_E), 9)
        path = along_path(
            g, s.T2, s.ratio, float(m.g_A), float(m.g_E), float(m.p_et), 1000.0, 20.0, 189.8, 1.2, float(one.beta_b)
        )
        result["along"] = {"share": told(path.share), "pressure": told(path.sigma_H)}
    return result


def of_forms() -> dict[str, Any]:
    """Forms of flanks and helices."""
    share, y, L = np.linspace(-0.2, 1.2, 8), np.linspace(0.0, 20.0, 9), np.linspace(5.0, 15.0, 11)
    result: dict[str, Any] = {shape: told(eased(share, shape, 30.0, 2.0), 8) for shape in SHAPES}
    for shape in SHAPES:
        form = FlankForm(
            C_a=20.0,
            l_Ca=2.2,
            C_f=9.0,
            l_Cf=1.7,
            shape=shape,
            C_alpha=6.0,
            C_Halpha=-4.0,
            C_beta=8.0,
            C_Hbeta=5.0,
            C_bI=7.0,
            l_I=4.0,
            C_bII=10.0,
            l_II=6.0,
        )
        result[f"{shape} profile"] = told(profile_form(form, L, 6.0, 14.0), 11)
        result[f"{shape} helix"] = told(helix_form(form, y, 20.0), 9)
        result[f"{shape} made"] = told(MadeFlank(form, 6.0, 14.0, 5.0).off(L), 11)
    return result


def of_tolerances() -> dict[str, Any]:
    """Tolerances over the classes and at the ends of their ranges, where they are refused beyond."""
    result: dict[str, Any] = {}
    for d, m, b in (
        (5.0, 0.5, 4.0),
        (4.9, 0.5, 4.0),
        (5.0, 0.49, 4.0),
        (5.0, 0.5, 3.9),
        (100.0, 4.0, 40.0),
        (15000.0, 70.0, 1200.0),
        (15001.0, 70.0, 1200.0),
        (9e3, 70.1, 900.0),
        (9e3, 60.0, 1201.0),
    ):
        for Q in (1, 6, 11, 12):
            row = flank_tolerances(d, m, b, Q) | radial_tolerances(d, m, Q) | single_flank_tolerances(d, m, Q)
            row["F_pk"] = pitch_span_tolerance(d, m, 40.0, 7.0, Q)
            result[f"{d:g} {m:g} {b:g} {Q}"] = {k: float(np.asarray(v)) for k, v in row.items()}
    return result


def of_counts() -> dict[str, Any]:
    """The first offers of each search for counts."""
    bounds = counts.Bounds(
        least=17, greatest=70, tolerance=1.5, planets=3, largest=150, m_t=(2.0, 2.5), over=(4.4, 5.5)
    )
    narrow = counts.Bounds(
        least=17, greatest=70, tolerance=2.0, m_t=(2.0, 2.5), over=(4.4, 5.5), a_most=150.0, d_most=170.0
    )
    rings = counts.Bounds(least=12, greatest=60, tolerance=2.0, largest=120, modules_2=(0.8, 1.25))
    now = Strength((1.0, 1.5), (2.0, 3.0), (4.0, 3.0), (20, 20))
    offers = {
        "pairs": counts.pairs(2.7, bounds),
        "in line": counts.in_line(11.3, 2, bounds),
        "in line, small": counts.in_line(7.7, 2, narrow),
        "in line, split": counts.in_line(12.0, 2, bounds, split=equal_strength(12.0, now), near=0.3),
        "three in line": counts.in_line(40.0, 3, bounds, near=0.1),
        "planetary": counts.planetary(4.6, ("sun", "carrier", "ring"), bounds),
        "five planets": counts.planetary(
            4.1, ("sun", "carrier", "ring"), counts.Bounds(tolerance=3.0, planets=5, greatest=45, largest=120)
        ),
        "planetary, held at the carrier": counts.planetary(2.9, ("sun", "ring", "carrier"), bounds),
        "planetary, held at the sun": counts.planetary(1.4, ("ring", "carrier", "sun"), bounds),
        "two rings": two_ring_counts.two_rings(45.0, rings),
        "two rings with a sun": two_ring_counts.two_rings(160.0, rings, sun=True),
    }
    result: dict[str, Any] = {}
    for name, list_ in offers.items():
        result[name] = {"of": len(list_)} | {
            f"{k}": f"{o.z} {o.even} "
            + told(np.array([o.ratio, o.deviation, o.hunting, o.a, o.d, *o.more.values()]), 6)
            for k, o in enumerate(list_[:6], 1)
        }
    result["efficiency"] = [two_ring_counts.efficiency_of(o) for o in offers["two rings"][:4]]
    result["driven"] = [two_ring_counts.driven_sun_efficiency(o.z, 0.015) for o in offers["two rings with a sun"][:4]]
    result["bears"] = told(bears(now, np.array([[4.4, 3.3], [3.0, 5.0]]), np.array([[18, 22], [24, 19]])))
    result["angles"] = {
        str((s, p, q, r)): told(nearest_angles(int(positions((p, s), (q, -r))), 3))
        for s, p, q, r in ((20, 30, 20, 70), (19, 31, 17, 67))
    }
    return result


def of_inputs() -> dict[str, Any]:
    """What is taken where nothing is given."""
    return {
        f"{made.__name__}.{name}": float(default)
        for made in (GearInput, PairInput)
        for name, default in zip(
            made.__struct_fields__[-len(made.__struct_defaults__) :], made.__struct_defaults__, strict=True
        )
        if isinstance(default, int | float)
    }


def of_the_rest() -> dict[str, Any]:
    """A gear identified, a spectrum of a standard shape, backlash as it falls."""
    sizes = {k: float(measure.span(tooth(21, 0.15, 2.0), k)) for k in (3, 4)}
    matches = identify(21, float(tooth(21, 0.15, 2.0).d_a), sizes, (1.75, 2.0, 2.25))
    slanted = tooth(21, 0.15, 2.0, beta=15.0)
    balls = {4.0: float(measure.over_two_balls(slanted, 4.0)), 3.5: float(measure.over_two_balls(slanted, 3.5))}
    matches += identify(21, float(slanted.d_a), {}, (1.75, 2.0, 2.25), balls=balls, beta=None)
    spread = play(20, 41, 2.0, np.radians(20.0), 0.0, (0.1, 0.08), (0.0, -0.02), (61.3, 61.26), (0.03, 0.04), 0.01)
    return {
        "identified": {str(k): told(np.array(astuple(m)), 8) for k, m in enumerate(matches, 1)},
        "levels": {shape: [list(level) for level in standard_levels(shape, 0.2, 5)] for shape in COLLECTIVES},
        "drawn": told(sampled(spread, 500, 3)),
    }


def tree_of_teeth(odd: dict[str, Design]) -> dict[str, Any]:
    """All of it, by name."""
    result: dict[str, Any] = {name: of_stage(evaluate(odd[name], QUICK).stages[0]) for name in GEOMETRY}
    result["cut thin"] = told(gear_outline(shaped(-60, 0.3), 0.0, 0.002))
    return result | {
        "forms": of_forms(),
        "tolerances": of_tolerances(),
        "counts": of_counts(),
        "inputs": of_inputs(),
        "rest": of_the_rest(),
    }
