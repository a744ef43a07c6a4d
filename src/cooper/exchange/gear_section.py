"""The section of a gear on its drawing, with its dimensions."""

from __future__ import annotations

from typing import TYPE_CHECKING

from cooper.exchange.drawing_marks import across, along, datum, leader, run_out, texture
from cooper.gears.tolerances import RANGES, flank_tolerances
from cooper.i18n.text import tr
from cooper.machine.shaft_model import Joint
from cooper.results.blank import Blank
from cooper.stock.fits import standard_tolerance

if TYPE_CHECKING:
    from cooper.exchange.gear_drawing import GearSheet


def draw_section(sheet: GearSheet, k: Blank, middle: float, axis: float) -> None:
    p, s = sheet.paper, sheet.s
    key = sheet.joint if sheet.joint is not None and sheet.joint.kind in ("key", "two keys") and k.bore else None
    for side in (1, -1):
        over = key.t_2 if key is not None and (side == 1 or key.kind == "two keys") else 0.0
        face = [(middle + s * x, axis + side * s * r) for x, r in k.cut(over)]
        p.hatch(face)
        p.line("edge", *face, closed=True)
        if over:
            p.line("edge", *((middle + e * s * k.b / 2, axis + side * s * k.bore / 2) for e in (-1, 1)))
        for half in (-1, 1):
            x = middle + half * s * k.b / 2
            p.line("edge", (x, axis + side * s * k.d_f / 2), (x, axis + side * s * k.d_a / 2))
        tips = [(middle + e * s * k.b / 2, axis + side * s * k.d_a / 2) for e in (-1, 1)]
        p.line("edge", *tips)
        d = float(sheet.values.d)
        p.line("axis", *((middle + e * (s * k.b / 2 + 3), axis + side * s * d / 2) for e in (-1, 1)))
    for e in (-1, 1):
        # Faces of the hub between the cut halves.
        x = middle + e * s * k.b / 2
        inner = k.bore / 2 if k.outside is None else min(k.d_a, k.d_f) / 2
        p.line("edge", (x, axis - s * inner), (x, axis + s * inner))
    section_dimensions(sheet, k, middle, axis, key)


def web_dimensions(sheet: GearSheet, k: Blank, middle: float, axis: float) -> None:
    """The diameters of hub and rim, and the width of the web between them."""
    p, s = sheet.paper, sheet.s
    left, below = middle - s * k.b / 2, axis - s * k.greatest / 2
    assert k.web is not None
    hub, rim, web = k.web
    x = left - 19
    for d in (rim, hub):
        if d > k.bore + 1e-6:
            across(p, x, (axis - s * d / 2, axis + s * d / 2), (left, left), f"Ø{sheet.length(d)}")
            x -= 8
    if web < k.b - 1e-9:
        along(
            p,
            below - 17,
            (middle - s * web / 2, middle + s * web / 2),
            (axis - s * (rim + max(hub, k.bore)) / 4,) * 2,
            sheet.length(web),
        )


def section_dimensions(sheet: GearSheet, k: Blank, middle: float, axis: float, key: Joint | None) -> None:
    p, s, c = sheet.paper, sheet.s, sheet.c
    left, right = middle - s * k.b / 2, middle + s * k.b / 2
    # The figure of a small bore runs on upwards, clear of the texture of the flanks.
    short = 5 if k.bore and s * k.bore < 24 else 0
    tip = standard_tolerance(k.d_a, c.IT_tip)
    upper, lower = (tip, 0.0) if k.outside else (0.0, -tip)
    kind = "H" if k.outside else "h"
    x = left - 10
    across(
        p,
        x,
        (axis - s * k.d_a / 2, axis + s * k.d_a / 2),
        (left, left),
        tr("Ø{d_a} {kind}{IT_tip}", d_a=sheet.length(k.d_a), kind=kind, IT_tip=c.IT_tip),
        sheet.limits(upper, lower),
    )
    below = axis - s * k.greatest / 2
    along(p, below - 9, (left, right), (below, below), sheet.length(k.b))
    if k.outside:
        tolerance = standard_tolerance(k.outside, c.IT_tip)
        across(
            p,
            x - 9,
            (axis - s * k.outside / 2, axis + s * k.outside / 2),
            (left, left),
            tr("Ø{outside} h{IT_tip}", outside=sheet.length(k.outside), IT_tip=c.IT_tip),
            sheet.limits(0.0, -tolerance),
        )
        datum(p, (x - 9, axis - s * k.outside / 2), "A")
    elif k.bore:
        splined = sheet.joint is not None and sheet.joint.kind == "spline"
        grade = 11 if splined else c.IT_bore
        fit = standard_tolerance(k.bore, grade)
        x = right + 9 + short
        across(
            p,
            x,
            (axis - s * k.bore / 2, axis + s * k.bore / 2),
            (right, right),
            tr("Ø{bore} H{grade}", bore=sheet.length(k.bore), grade=grade),
            sheet.limits(fit, 0.0),
        )
        low = axis - s * k.bore / 2
        p.line("dimension", (x, low), (right + 33, low))
        texture(p, (right + 19, low), tr("Ra {Ra_bore:g}", Ra_bore=c.Ra_bore))
        datum(p, (x + 5, low), "A")
    if k.web is not None:
        web_dimensions(sheet, k, middle, axis)
    # Texture of a face on a shelf beneath it, of the flanks on the reference line; run-outs.
    shelf = min(below - 5, axis - s * k.bore / 2 - 18 if k.bore else below)
    rim = (k.d_f + k.outside) / 4 if k.outside else k.d_f / 2 - 0.25 * (k.d_f - k.bore) / 2
    leader(p, (right + 8, shelf), (right, axis - s * rim))
    p.line("dimension", (right + 8, shelf), (right + 28, shelf))
    texture(p, (right + 14, shelf), tr("Ra {Ra_face:g}", Ra_face=c.Ra_face))
    above = axis + s * k.greatest / 2
    up = -1 if k.outside else 1
    texture(
        p,
        (middle + 0.12 * s * k.b, axis + up * s * float(sheet.values.d) / 2),
        tr("Rz {Rz_H:g}", Rz_H=sheet.gear.Rz_H),
    )
    run = proposed_run_outs(float(sheet.values.d), float(sheet.stage.mesh.m_n), k.b, sheet.gear.Q, k.d_f)
    run_tip = c.t_tip if c.t_tip is not None else (run[0] if run else None)
    run_face = c.t_face if c.t_face is not None else (run[1] if run else None)
    # A pinion cut into its shaft runs out against the axis of the bearing seats.
    on_shaft = sheet.joint is not None and sheet.joint.kind == "integral"
    to = "A–B" if on_shaft else "A"
    if (k.bore or k.outside or on_shaft) and run_tip:
        run_out(p, (middle - 8, above + 9), sheet.length(run_tip), to)
        leader(p, (middle - 5, above + 9), (middle - 5, axis + s * k.d_a / 2 if not k.outside else above))
    if (k.bore or k.outside or on_shaft) and run_face:
        y = (
            axis + s * (k.d_f / 2 - 0.25 * (k.d_f - k.bore) / 2)
            if not k.outside
            else axis + s * (k.d_f + k.outside) / 4 - 6
        )
        aside = 8 + 3 * short
        run_out(p, (right + aside, y - 2.5), sheet.length(run_face), to)
        leader(p, (right + aside, y), (right, y))


def draw_rack(sheet: GearSheet) -> None:
    p, s, g = sheet.paper, sheet.s, sheet.values
    left, low, _, high = sheet._room(sheet.name)
    b, length, back, tip, root = (float(v) for v in (g.b, g.L_z, g.h_back, g.h_a, g.h_f))
    y = (low + high) / 2
    x = left + 30
    for start, wide in ((x, b), (x + s * b + 34, length)):
        p.box("edge", start, y - s * back, start + s * wide, y + s * tip)
        p.line("thin", (start, y - s * root), (start + s * wide, y - s * root))
        p.line("axis", (start - 4, y), (start + s * wide + 4, y))
    p.hatch([(x, y - s * back), (x + s * b, y - s * back), (x + s * b, y - s * root), (x, y - s * root)])
    along(p, y - s * back - 9, (x, x + s * b), (y - s * back,) * 2, sheet.length(b))
    start = x + s * b + 34
    along(p, y - s * back - 9, (start, start + s * length), (y - s * back,) * 2, sheet.length(length))
    across(p, x - 9, (y - s * back, y + s * tip), (x, x), sheet.length(back + tip))
    across(p, start - 9, (y - s * back, y), (start, start), sheet.length(back))
    texture(p, (x + 0.4 * s * b, y), tr("Rz {Rz_H:g}", Rz_H=sheet.gear.Rz_H))


def proposed_run_outs(d: float, m_n: float, b: float, Q: float, datum_d: float) -> tuple[float, float] | None:
    """Run-out of the tip cylinder, 0.3 F_p, and of a datum face, 0.1 (D_d/b) F_beta, rounded down to 5 um, at least
    that; mm. ISO/TR 10064-3; None where the flank tolerances are not stated.

    >>> proposed_run_outs(100.0, 2.0, 20.0, 7, 100.0)
    (0.01, 0.005)
    """
    values = {"d": d, "m_n": m_n, "b": b, "Q": Q}
    if any(not low <= values[k] <= high for k, (low, high) in RANGES.items()):
        return None
    t = flank_tolerances(d, m_n, b, Q)
    result = 0.3 * float(t["F_pT"]), 0.1 * datum_d / b * float(t["F_betaT"])
    return tuple(max(0.005, 0.005 * int(v / 5)) for v in result)  # type: ignore[return-value]
