"""The dimension sheet of a gear for its drawing: tooth data, measured sizes with limits, tolerances."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

import numpy as np
from msgspec import Struct

from cooper.document.gear_data import Gear, Mesh
from cooper.document.models import Design
from cooper.document.quantities import QUANTITIES, plain
from cooper.document.units import KINDS, number, screen_unit
from cooper.gears import measure
from cooper.gears.tolerances import (
    RADIAL_RANGES,
    RANGES,
    flank_tolerances,
    pitch_span_tolerance,
    radial_tolerances,
    rounded,
    single_flank_tolerances,
)
from cooper.gears.tooth import Tooth, shift_of_allowance
from cooper.i18n.text import capital, figure, join, tr
from cooper.results.flank_forms import form_of
from cooper.results.result_tree import StageResults
from cooper.values import GearValues, MeshValues


class Row(Struct, frozen=True):
    """One line of the sheet: a value, or a lower and an upper limit (value NaN-free None), or plain words."""

    group: str
    meaning: str
    symbol: str
    kind: str
    value: float | None = None
    low: float | None = None
    high: float | None = None
    words: str = ""

    def text(self, system: str, digits: int | None = None) -> str:
        """What stands in the value's column, in a unit system and with a number of decimals."""
        if self.words:
            return self.words
        unit = screen_unit(KINDS[self.kind].display_unit(system))
        values = [v for v in (self.value, self.low, self.high) if v is not None]
        shown = equal_digits(values, self.kind, system, digits)
        space = "" if unit in ("°", "′") else " "
        return (" … ".join(shown) + (tr("{space}{unit}", space=space, unit=unit) if unit else "")).strip()


def signed_limits(upper: float, lower: float, system: str) -> tuple[str, str]:
    """Upper and lower deviation of a length (mm) as figures with their signs, in a unit system."""
    figures = equal_digits([upper, lower], "length", system, 3 if system == "mm" else 4)
    one, two = (
        "0" if s == "0" else f"+{s}" if v > 0 else s.replace("-", "−")
        for v, s in zip((upper, lower), figures, strict=True)
    )
    return one, two


def equal_digits(values: list[float], kind: str, system: str, digits: int | None = None) -> list[str]:
    """Figures of limits in one row, all with as many decimals as the one that has most.

    >>> equal_digits([36.75, 36.8], "length", "mm"), equal_digits([0.0, 0.021], "length", "mm"), equal_digits([12.5], "length", "mm")
    (['36.75', '36.80'], ['0', '0.021'], ['12.5'])
    """  # noqa: E501
    shown = [number(v, kind, system, digits) for v in values]
    places = max(len(s.partition(".")[2]) for s in shown)
    if len(shown) < 2 or not places or any("e" in s for s in shown):
        return shown
    return [
        s if s == "0" else figure(str(s) + ("" if "." in s else ".") + "0" * (places - len(s.partition(".")[2])))
        for s in shown
    ]


def dimension_rows(design: Design, stage: int, results: StageResults, i: int, D_M: float | None = None) -> list[Row]:
    """The sheet of gear i (1, 2) of a stage; ``D_M`` the measuring ball (mm), else the best one rounded to 0.25 mm."""
    return list(_rows(design, stage, results, i, D_M))


def _rows(design: Design, stage: int, results: StageResults, i: int, D_M: float | None) -> Iterator[Row]:
    mesh_doc = design.train.stages[stage].mesh
    gear = design.train.stages[stage].gears[i - 1]
    g, m, t = results.gears[i - 1], results.mesh, results.teeth[i - 1]

    def of(group: str, *symbols: str) -> Iterator[Row]:
        for s in symbols:
            q = QUANTITIES[s]
            yield Row(group, q.meaning, s, q.kind, g[s] if s in g else m[s])

    yield from of(tr("Tooth data"), "z", "m_n", "alpha_n", "beta")
    if m.beta > 0:
        right = (mesh_doc.hand == "right") == (i == 1 or results.kind.inward)
        both = tr("double: left half ") if mesh_doc.double_helix else ""
        yield Row(
            tr("Tooth data"), tr("hand of the helix"), "", "factor", words=both + (tr("right") if right else tr("left"))
        )
        if "p_z" in g:
            yield from of(tr("Tooth data"), "p_z")
    yield from of(tr("Tooth data"), "x", "h_aP", "h_fP", "rho_fP")
    yield Row(tr("Tooth data"), tr("root made by"), "", "factor", words=_tool_words(gear))
    if gear.h_K > 0 or gear.rho_a > 0:
        edge = (
            tr("chamfer {h_K:g} mm at {delta_K:g}°", h_K=gear.h_K, delta_K=gear.delta_K)
            if gear.h_K > 0
            else tr("rounding {rho_a:g} mm", rho_a=gear.rho_a)
        )
        yield Row(tr("Tooth data"), tr("edges of the tip"), "", "factor", words=edge)
    yield from _forms(gear, results, mesh_doc)
    if not results.kinds[i - 1].turns:
        yield from of(capital(results.kinds[i - 1].name), "h_a", "h_f", "h", "p_t", "L_z", "h_back", "travel")
        yield from _thickness(gear, g, m, t)
        yield from _tolerances(g, m, gear.Q, results.gears[0].d, turns=False)
        yield from _mate(results, i, m, mesh_doc)
        return
    yield from of(tr("Diameters"), "d", "d_a", "d_Fa", "d_f", "d_fE", "d_b", "d_Ff", "d_Nf")
    if g.d_b > g.d_fE and not results.kinds[i - 1].inward:
        between = (
            tr("radial line and fillet") if gear.tool == "form" and g.d_Ff <= g.d_b * (1 + 1e-9) else tr("fillet only")
        )
        yield Row(
            tr("Diameters"),
            tr("between base and root circle, involute from {d_Ff:.3f} mm on", d_Ff=g.d_Ff),
            "",
            "factor",
            words=between,
        )
    yield from _thickness(gear, g, m, t)
    x_low, x_high = (g.x + float(shift_of_allowance(e, m.m_n, t.rack.alpha_n)) for e in (gear.E_sni, gear.E_sns))
    chords = [float(measure.chordal_thickness(t, x)[0]) for x in (x_low, x_high)]
    yield Row(
        tr("Tooth thickness"), tr("chord at the reference circle"), "s_nc", "length", low=chords[0], high=chords[1]
    )
    yield Row(
        tr("Tooth thickness"),
        tr("height from the tip to that chord"),
        "h_ac",
        "length",
        value=float(measure.chordal_thickness(t)[1]),
    )
    if not results.kinds[i - 1].inward:
        yield from _span(t, g, x_low, x_high)
    yield from _balls(t, g, x_low, x_high, D_M)
    yield from _tolerances(g, m, gear.Q, g.d)
    yield from _mate(results, i, m, mesh_doc)


def _forms(gear: Gear, results: StageResults, mesh: Mesh) -> Iterator[Row]:
    """What is taken off the flanks on purpose, where there is anything."""
    own = gear.flanks_left is not None
    for left, f in enumerate(gear.each_flanks[: 1 + own]):
        of = ("", tr(", right flanks"), tr(", left flanks"))[own + left]
        made = form_of(gear, results, bool(left))
        for C, length, symbol, place in (
            (f.C_alphaa, made.l_Ca, "C_alphaa", "l_Ca"),
            (f.C_alphaf, made.l_Cf, "C_alphaf", "l_Cf"),
            (f.C_betaI, f.l_CI, "C_betaI", "l_CI"),
            (f.C_betaII, f.l_CII, "C_betaII", "l_CII"),
        ):
            if C:
                yield Row(tr("Flank forms"), QUANTITIES[symbol].meaning + of, symbol, "roughness", C)
                yield Row(tr("Flank forms"), QUANTITIES[place].meaning + of, place, "length", length)
        if f.C_alphaa or f.C_alphaf:
            yield Row(tr("Flank forms"), tr("run of the reliefs") + of, "", "factor", words=f.relief)
        for symbol in ("C_alpha", "C_Halpha"):
            if C := getattr(f, symbol):
                yield Row(tr("Flank forms"), QUANTITIES[symbol].meaning + of, symbol, "roughness", C)
    for symbol, C in {"C_beta": mesh.C_beta, "C_Hbeta": mesh.C_Hbeta}.items():
        if C:
            text = QUANTITIES[symbol].meaning + tr(", on one of both gears")
            yield Row(tr("Flank forms"), text, symbol, "roughness", C)


def _thickness(gear: Gear, g: GearValues[float], m: MeshValues[float], t: Tooth) -> Iterator[Row]:
    yield Row(tr("Tooth thickness"), QUANTITIES["s_n"].meaning, "s_n", "length", g.s_n)
    low, high = (g.x + float(shift_of_allowance(e, m.m_n, t.rack.alpha_n)) for e in (gear.E_sni, gear.E_sns))
    yield Row(
        tr("Tooth thickness"),
        tr("normal thickness with its allowances"),
        "s_n",
        "length",
        low=float(t.s_t(low) * np.cos(t.beta)),
        high=float(t.s_t(high) * np.cos(t.beta)),
    )


def _mate(results: StageResults, i: int, m: MeshValues[float], mesh_doc: Mesh) -> Iterator[Row]:
    yield Row(tr("Mate"), tr("tooth count of the mate"), "z", "count", results.gears[2 - i].z)
    yield Row(
        tr("Mate"),
        tr("working centre distance with its allowances"),
        "a_w",
        "length",
        low=m.a_w + mesh_doc.A_ai,
        high=m.a_w + mesh_doc.A_as,
    )
    yield Row(tr("Mate"), tr("circumferential backlash"), "j_wt", "length", low=m.j_wt_min, high=m.j_wt_max)


def _tool_words(gear: Gear) -> str:
    if gear.tool == "pinion cutter":
        return tr("pinion cutter, {z_0} teeth, x_0 = {x_0:g}", z_0=gear.z_0, x_0=gear.x_0)
    if gear.tool == "form":
        return tr("form with a plain fillet")
    if gear.tool == "elliptic":
        return tr("form with an elliptic root, h_Ff = {h_Ff:g}, w_F = {w_F:g}", h_Ff=gear.h_Ff, w_F=gear.w_F)
    return tr("rack or hob") + (
        tr(", protuberance {pr_P:g} mm, stock {q_P:g} mm", pr_P=gear.pr_P, q_P=gear.q_P)
        if gear.pr_P > 0 or gear.q_P > 0
        else ""
    )


def _span(t: Tooth, g: GearValues[float], x_low: float, x_high: float) -> Iterator[Row]:
    first, last = (int(v) for v in measure.measurable_span(t, g.d_Ff))
    if last < first:
        yield Row(
            tr("Measured sizes"), tr("span"), "W_k", "length", words=tr("no span touches two flanks on this gear")
        )
        return
    k = int(measure.best_span(t, g.d_Ff))
    # Over fewer teeth a span of a helical gear needs less width.
    while k > first and g.b <= float(measure.least_face_width_for_span(t, k)):
        k -= 1
    need = float(measure.least_face_width_for_span(t, k))
    over = tr("span over {k} teeth (possible over {first} to {last})", k=k, first=first, last=last)
    if g.b <= need:
        words = tr("too narrow for it by {need:.2f} mm: over balls", need=need - g.b)
        yield Row(tr("Measured sizes"), over, "W_k", "length", words=words)
        return
    low, high = (float(measure.span(t, k, x)) for x in (x_low, x_high))
    yield Row(tr("Measured sizes"), over, "W_k", "length", low=low, high=high)
    if need > 0:
        yield Row(
            tr("Measured sizes"),
            tr("face width that this span needs"),
            "b",
            "length",
            words=tr("{need:.2f} mm, wide enough", need=need),
        )


def _balls(t: Tooth, g: GearValues[float], x_low: float, x_high: float, D_M: float | None) -> Iterator[Row]:
    best = float(measure.best_ball(t))
    step = 0.25 if best > 1 else 0.05
    D = D_M if D_M is not None else max(step, round(best / step) * step)
    yield Row(tr("Measured sizes"), tr("measuring ball (best {best:.3f} mm)", best=best), "D_M", "length", value=D)
    touch = float(measure.ball_contact_diameter(t, D))
    between = tr("size over two balls") if t.sign > 0 else tr("size between two balls")
    if not min(g.d_Ff, g.d_Fa) <= touch <= max(g.d_Ff, g.d_Fa):
        words = tr(
            "this ball would touch at {touch:.3f} mm, outside the involute ({d_Ff:.3f} to {d_Fa:.3f} mm)",
            touch=touch,
            d_Ff=g.d_Ff,
            d_Fa=g.d_Fa,
        )
        yield Row(tr("Measured sizes"), between, "M_dK", "length", words=words)
        return
    low, high = (float(measure.over_two_balls(t, D, x)) for x in (x_low, x_high))
    yield Row(tr("Measured sizes"), between, "M_dK", "length", low=min(low, high), high=max(low, high))
    if t.beta > 0 and g.z % 2:
        low, high = sorted(float(measure.ball_centre_diameter(t, D, x)) for x in (x_low, x_high))
        sign = float(t.sign)
        low, high = sorted(abs(abs(v) + sign * D) for v in (low, high))
        need = np.pi * float(t.m_n) / (2 * np.sin(t.beta))
        over = tr("size over two pins, shifted to the greatest")
        if g.b > need:
            yield Row(tr("Measured sizes"), over, "M_dR", "length", low=low, high=high)
        else:
            yield Row(
                tr("Measured sizes"),
                over,
                "M_dR",
                "length",
                words=tr("too narrow for pins by {need:.2f} mm", need=need - g.b),
            )
    if t.sign > 0 and g.z % 2 and t.beta == 0:
        low, high = (float(measure.over_three_pins(t, D, x)) for x in (x_low, x_high))
        yield Row(
            tr("Measured sizes"), tr("size over three pins, two on one side"), "M_3", "length", low=low, high=high
        )


def _tolerances(g: GearValues[float], m: MeshValues[float], Q: int, d: float, *, turns: bool = True) -> Iterator[Row]:
    words = {
        "f_pT": tr("single pitch"),
        "F_pT": tr("total cumulative pitch"),
        "F_alphaT": tr("total profile"),
        "F_betaT": tr("total helix"),
    } | ({"F_rT": tr("runout")} if turns else {})
    values = {"d": d, "m_n": m.m_n, "b": g.b, "Q": Q}
    outside = [
        tr("{k} = {values:g}", k=k, values=values[k])
        for k, (low, high) in RANGES.items()
        if not low <= values[k] <= high
    ]
    yield Row(tr("Flank tolerances, ISO 1328-1:2013"), tr("flank tolerance class"), "Q", "count", value=Q)
    if outside:
        text = tr("not stated for {outside}", outside=join(", ", outside))
        yield Row(tr("Flank tolerances, ISO 1328-1:2013"), tr("tolerances"), "", "factor", words=text)
        return
    for symbol, value in flank_tolerances(d, m.m_n, g.b, Q).items():
        if symbol in words:
            yield Row(
                tr("Flank tolerances, ISO 1328-1:2013"), words[symbol], symbol, "roughness", value=float(rounded(value))
            )
    k = max(2, ceil(abs(g.z) / 8))
    span = float(rounded(pitch_span_tolerance(d, m.m_n, g.z, k, Q)))
    yield Row(
        tr("Flank tolerances, ISO 1328-1:2013"),
        tr("cumulative pitch over {k} pitches", k=k),
        "F_pkT",
        "roughness",
        value=span,
    )
    single = single_flank_tolerances(d, m.m_n, Q)
    for symbol, meaning in (
        ("F_isT", tr("single flank composite, total")),
        ("f_isT", tr("single flank composite, tooth to tooth")),
    ):
        yield Row(
            tr("Flank tolerances, ISO 1328-1:2013"), meaning, symbol, "roughness", value=float(rounded(single[symbol]))
        )
    if all(low <= values[k] <= high for k, (low, high) in RADIAL_RANGES.items()):
        radial = radial_tolerances(d, m.m_n, Q)
        for symbol, meaning in (
            ("F_i", tr("radial composite on a master gear, total")),
            ("f_i", tr("radial composite, tooth to tooth")),
        ):
            yield Row(
                tr("Radial tolerances, ISO 1328-2:1997 (withdrawn; the 2020 edition has other classes)"),
                meaning,
                f"{symbol}″",
                "roughness",
                value=float(rounded(radial[symbol])),
            )


def dimension_text(rows: list[Row], system: str, digits: int | None = None) -> str:
    """The sheet as tab-separated text, for pasting into a drawing or a spreadsheet."""
    lines, group = [], ""
    for row in rows:
        if row.group != group:
            group = row.group
            lines.append(group)
        lines.append(
            tr(
                "{meaning}\t{symbol}\t{system}",
                meaning=row.meaning,
                symbol=plain(row.symbol),
                system=row.text(system, digits),
            )
        )
    return join("\n", lines)
