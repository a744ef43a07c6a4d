"""The drawing sheet of a gear: section and end view by ISO 128 and 2203 with limits, run-outs and surface texture,
the table of its toothing by ISO 1340, a title block."""

from __future__ import annotations

from datetime import date
from math import ceil, sqrt

from msgspec.structs import replace

from cooper.document.models import Design
from cooper.document.quantities import parts
from cooper.document.units import number, screen_unit
from cooper.exchange.bore_profile import spline_bore
from cooper.exchange.dimension_sheet import dimension_rows, equal_digits
from cooper.exchange.drawing_marks import across, along, datum, leader, run_out, texture
from cooper.exchange.paper import DrawingPage, fitting, width_of
from cooper.exchange.statement import statement
from cooper.gears.tolerances import RANGES, flank_tolerances
from cooper.i18n.text import join, term, tr
from cooper.i18n.translate import translate
from cooper.machine.shaft_model import Joint
from cooper.results.blank import Blank, blank_of
from cooper.results.result_tree import Results
from cooper.stock.fits import standard_tolerance
from cooper.stock.materials import groups
from cooper.stock.racks import rack_profiles

SCALES = {
    "50:1": 50.0,
    "20:1": 20.0,
    "10:1": 10.0,
    "5:1": 5.0,
    "2:1": 2.0,
    "1:1": 1.0,
    "1:2": 0.5,
    "1:5": 0.2,
    "1:10": 0.1,
    "1:20": 0.05,
    "1:50": 0.02,
    "1:100": 0.01,
}
"""Scales of ISO 5455."""
PAPERS = {"A4": (297.0, 210.0), "A3": (420.0, 297.0)}
FITTING = "what fits"


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
    found = 0.3 * float(t["F_pT"]), 0.1 * datum_d / b * float(t["F_betaT"])
    return tuple(max(0.005, 0.005 * int(v / 5)) for v in found)  # type: ignore[return-value]


def key_of(results: Results, k: int, i: int, identity: str) -> Joint | None:
    """The joint that holds a gear on its shaft, where the machine is laid out."""
    if results.machine is None:
        return None
    for shaft in results.machine.shafts:
        for joint in shaft.made.joints:
            if joint.gear == identity:
                return joint
    return None


def gear_drawing(design: Design, results: Results, k: int, i: int, system: str = "mm") -> DrawingPage:
    """The sheet of gear i (1, 2) of stage k in a unit system, with what the gear's `Drawing` says; raises
    `OutOfRange` beyond the tolerance tables."""
    return _Sheet(design, results, k, i, system).paper


def says(design: Design, results: Results, k: int, i: int) -> frozenset[str]:
    """Which tolerances and surfaces of `Drawing` the sheet of gear i (1, 2) of stage k makes use of."""
    return _Sheet(design, results, k, i, "mm").said


PLAINER = {"z": tr("number of teeth"), "p_z": tr("lead of the helix")}
"""Shorter words than those of the design for some rows."""


class _Sheet:
    """One sheet while it is drawn; lengths on paper in mm."""

    TABLE = 92.0
    TITLE = 34.0
    ROW = 4.3

    def __init__(self, design: Design, results: Results, k: int, i: int, system: str) -> None:
        self.design, self.results, self.k, self.i, self.system = design, results, k, i, system
        self.stage = results.stages[k]
        doc = design.train.stages[k]
        mesh = doc.meshes[0]
        self.gear = doc.members[(mesh.driver, mesh.driven)[i - 1]]
        self.c = self.gear.drawing
        self.values = self.stage.gears[i - 1]
        self.turns = self.stage.kinds[i - 1].turns
        self.joint = key_of(results, k, i, self.gear.id)
        self.rows = self._rows()
        self.said = frozenset({"Ra_rest"})
        if self.turns:
            blank = blank_of(design, results, k, i - 1)
            if self.joint is not None and self.joint.kind == "integral":
                blank = replace(blank, bore=0.0)
            elif self.joint is not None and not blank.outside:
                # A splined hub is bored to its tip circle; else the bore has the diameter of the seat.
                blank = replace(blank, bore=spline_bore(self.joint) if self.joint.kind == "spline" else self.joint.d)
            self.blank: Blank | None = blank
            self.said |= {"IT_tip", "Ra_face"}
            splined = self.joint is not None and self.joint.kind == "spline"
            self.said |= {"Ra_bore"} | (set() if splined else {"IT_bore"}) if blank.bore else set()
            on_shaft = self.joint is not None and self.joint.kind == "integral"
            self.said |= {"t_tip", "t_face"} if blank.bore or blank.outside or on_shaft else set()
            wide, high = self.blank.b + self.blank.greatest, self.blank.greatest
        else:
            self.blank = None
            tall = float(self.values.h_back) + float(self.values.h_a)
            wide, high = float(self.values.L_z) + float(self.values.b), tall
        self.name, self.scale_name = self._fitting(wide, high)
        self.s = SCALES[self.scale_name]
        w, h = PAPERS[self.name]
        units = tr("dimensions in mm") if self.system == "mm" else tr("dimensions in inch")
        told = tr(
            "Drawing sheet of {name}; scale {scale_name}; {units}; {design}",
            name=self.gear.name,
            scale_name=self.scale_name,
            units=units,
            design=statement(design, tr("lengths on the sheet")),
        )
        self.paper = DrawingPage(w, h, tr("{name}, {name_2}", name=self.gear.name, name_2=design.name), told)
        self._frame()
        self._table()
        self._title()
        if self.blank is not None:
            self._views(self.blank)
        else:
            self._rack()

    # --- room

    def _room(self, name: str) -> tuple[float, float, float, float]:
        """Left, low, right, high of where views may stand."""
        w, h = PAPERS[name]
        return 22.0, 12.0 + self.TITLE, w - 12 - self.TABLE, h - 12.0

    ASIDE = (74.0, 50.0)
    """Room for dimensions beside the views, across and upwards; mm."""

    def _fitting(self, wide: float, high: float) -> tuple[str, str]:
        """The smallest paper on which the views are not tiny, and the greatest scale that fits."""
        names = [self.c.paper] if self.c.paper in PAPERS else list(PAPERS)
        found = (names[-1], list(SCALES)[-1])
        for name in names:
            left, low, right, top = self._room(name)
            room = min((right - left - self.ASIDE[0]) / wide, (top - low - self.ASIDE[1]) / high)
            scale = next((n for n, s in SCALES.items() if s <= room * 1.0001), list(SCALES)[-1])
            found = (name, scale)
            if SCALES[scale] * high >= 45 or SCALES[scale] >= 1:
                break
        return (found[0], self.c.scale) if self.c.scale != FITTING else found

    # --- figures

    def length(self, mm: float) -> str:
        """A length as its figure in the unit system."""
        return number(mm, "length", self.system, 3 if self.system == "mm" else 4)

    def limits(self, upper: float, lower: float) -> tuple[str, str]:
        """Deviations (mm) as figures with their signs."""

        places = 3 if self.system == "mm" else 4
        one, two = (
            "0" if s == "0" else f"+{s}" if v > 0 else s.replace("-", "−")
            for v, s in zip((upper, lower), equal_digits([upper, lower], "length", self.system, places), strict=True)
        )
        return one, two

    # --- frame, table, title

    def _frame(self) -> None:
        p = self.paper
        p.box("frame", 20, 10, p.width - 10, p.height - 10)

    def _rows(self) -> list[tuple[str, str, str]]:
        """Meaning, symbol and value of what the table holds. ISO 1340:1976 with what measuring and flank classes of
        today ask for."""
        kept = {
            "Tooth data": None,
            "Flank forms": None,
            "Diameters": ("d", "d_b", "d_f", "d_Ff"),
            "Tooth thickness": ("s_n", "s_nc", "h_ac"),
            "Measured sizes": None,
            "Mate": None,
        }
        found: list[tuple[str, str, str]] = []
        for row in dimension_rows(self.design, self.k, self.stage, self.i):
            if row.group in kept:
                only = kept[row.group]
                if only is not None and row.symbol not in only:
                    continue
                if row.group == "Tooth thickness" and row.symbol == "s_n" and row.value is not None:
                    continue
            elif not row.group.startswith((tr("Flank tol"), tr("Rack"))):
                continue
            if row.symbol in ("F_isT", "f_isT", "F_pkT", "b"):
                continue
            value = (
                tr("ISO 1328-1, {system}", system=row.text(self.system)) if row.symbol == "Q" else row.text(self.system)
            )
            meaning = PLAINER.get(row.symbol if row.group != "Mate" else "", row.meaning.partition(";")[0])
            found.append((meaning, row.symbol, value))
        found.insert(2 if len(found) > 2 else len(found), (tr("basic rack"), "", self._rack_name()))
        return [*found, *self._hardened()]

    def _rack_name(self) -> str:
        """The basic rack by its standard where it is one; else that it is its own, whose numbers stand in the table."""
        g, m = self.gear, self.stage.mesh
        own = (float(m.alpha_n), g.h_aP, g.h_fP, g.rho_fP)
        for name, p in rack_profiles().items():
            standard = (p.alpha_n, p.h_aP, p.dedendum(float(m.m_n)), p.rho_fP)
            if all(abs(a - b) < 1e-4 for a, b in zip(own, standard, strict=True)):
                return name
        return tr("own, {alpha_n:g}°", alpha_n=float(m.alpha_n))

    def _hardened(self) -> list[tuple[str, str, str]]:
        """What a heat treatment has to reach."""
        rows = []
        if self.gear.CHD is not None and self.gear.material.group == "Eh":
            rows.append(
                (
                    tr("case depth to 550 HV"),
                    "CHD",
                    tr("{CHD} mm", CHD=self.length(self.gear.CHD))
                    if self.system == "mm"
                    else tr("{CHD} in", CHD=self.length(self.gear.CHD)),
                )
            )
        if self.gear.HV_core is not None and self.gear.material.group == "Eh":
            rows.append((tr("core hardness"), "HV_core", tr("{HV_core:g} HV", HV_core=self.gear.HV_core)))
        return rows

    def _table(self) -> None:
        p, row = self.paper, self.ROW
        right, top = p.width - 10, p.height - 10
        left = right - self.TABLE
        most = int((top - 10 - self.TITLE) / row) - 1
        rows = self.rows[:most]
        p.box("table", left, top - row * (len(rows) + 1), right, top)
        p.text((left + 1.5, top - row + 1.2), tr("Toothing"), 2.5)
        p.line("table", (left, top - row), (right, top - row))
        split, symbols = right - 31.0, right - 41.0
        for n, (meaning, symbol, value) in enumerate(rows):
            y = top - row * (n + 2)
            p.line("table", (left, y), (right, y))
            meaning, value = translate(meaning), translate(value)
            size = fitting(meaning, 1.9, symbols - left - 2, 1.3)
            p.text((left + 1.2, y + 1.3), _shortened(meaning, size, symbols - left - 2), size)
            if symbol:
                p.symbol((symbols + 0.6, y + 1.3), *parts(symbol.rstrip("″")), 1.9)
            size = fitting(value, 1.9, right - split - 2)
            p.text((right - 1.2, y + 1.3), _shortened(value, size, right - split - 2), size, "end")
        bottom = top - row * (len(rows) + 1)
        p.line("table", (split, top - row), (split, bottom))
        p.line("table", (symbols, top - row), (symbols, bottom))

    def _title(self) -> None:
        p, c = self.paper, self.c
        right, low = p.width - 10, 10.0
        left, high = right - 180.0, low + self.TITLE
        p.box("frame", left, low, right, high)
        m = self.gear.material
        group = groups()[m.group]
        hardness = (
            tr("{hardness:g} {hardness_scale}", hardness=m.hardness, hardness_scale=group["hardness_scale"])
            if group.get("hardness_scale")
            else ""
        )
        mass = (
            tr(
                "{mass} {screen_unit}",
                mass=number(float(self.values.mass), "mass", self.system),
                screen_unit=screen_unit("kg" if self.system == "mm" else "lb"),
            )
            if "mass" in self.values
            else ""
        )
        units = tr("millimetre") if self.system == "mm" else "inch"
        columns = ((0.0, 62.0), (62.0, 62.0), (124.0, 56.0))
        cells = (
            (
                (tr("title"), self.gear.name),
                (tr("part of"), self.design.name),
                (tr("part number"), c.part),
                (tr("drawn, checked"), join(", ", filter(None, (c.drawn, c.checked)))),
            ),
            (
                (tr("material"), tr("{name}, {grade}", name=group["name"], grade=term(m.grade))),
                (tr("surface hardness"), hardness),
                (tr("mass, with its teeth cut"), mass),
                (tr("general tolerances"), c.general),
            ),
            (
                (tr("scale"), tr("{scale_name}, {name}", scale_name=self.scale_name, name=self.name)),
                (tr("dimensions in"), units),
                (tr("edges"), c.edges),
                (tr("date"), date.today().isoformat()),
            ),
        )
        high_of = self.TITLE / 4
        for (x, wide), rows in zip(columns, cells, strict=True):
            if x:
                p.line("table", (left + x, low), (left + x, high))
            for n, (what, value) in enumerate(rows):
                y = high - high_of * (n + 1)
                if n < 3:
                    p.line("table", (left + x, y), (left + x + wide, y))
                p.text((left + x + 1.2, y + high_of - 2.6), what, 1.5)
                size = fitting(value, 2.9 if (x, n) == (0.0, 0) else 2.3, wide - 2, 0.9)
                p.text((left + x + 1.2, y + 1.6), _shortened(value, size, wide - 2), size)
        # What holds for all surfaces without a mark of their own.
        texture(p, (24.0, 14.0), tr("Ra {Ra_rest:g}", Ra_rest=c.Ra_rest))
        p.text((46.0, 16.5), "(", 3.5)
        texture(p, (51.0, 14.0), "")
        p.text((57.5, 16.5), ")", 3.5)

    # --- views

    def _views(self, k: Blank) -> None:
        p, s = self.paper, self.s
        left, low, right, high = self._room(self.name)
        room = right - left - self.ASIDE[0] - s * (k.b + k.greatest)
        middle = left + 22 + room / 6 + s * k.b / 2
        end = middle + s * k.b / 2 + 36 + room / 3 + s * k.greatest / 2
        axis = (low + high) / 2
        self._section(k, middle, axis)
        self._end_view(k, end, axis)
        p.text((end, axis - s * k.greatest / 2 - 12), self._joint_words(), 2.3, "middle")
        p.line("axis", (middle - s * k.b / 2 - 6, axis), (middle + s * k.b / 2 + 6, axis))
        reach = s * k.greatest / 2 + 6
        p.line("axis", (end - reach, axis), (end + reach, axis))
        p.line("axis", (end, axis - reach), (end, axis + reach))

    def _section(self, k: Blank, middle: float, axis: float) -> None:
        p, s = self.paper, self.s
        key = self.joint if self.joint is not None and self.joint.kind in ("key", "two keys") and k.bore else None
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
            d = float(self.values.d)
            p.line("axis", *((middle + e * (s * k.b / 2 + 3), axis + side * s * d / 2) for e in (-1, 1)))
        for e in (-1, 1):
            # Faces of the hub between the cut halves.
            x = middle + e * s * k.b / 2
            inner = k.bore / 2 if k.outside is None else min(k.d_a, k.d_f) / 2
            p.line("edge", (x, axis - s * inner), (x, axis + s * inner))
        self._section_dimensions(k, middle, axis, key)

    def _web_dimensions(self, k: Blank, middle: float, axis: float) -> None:
        """The diameters of hub and rim, and the width of the web between them."""
        p, s = self.paper, self.s
        left, below = middle - s * k.b / 2, axis - s * k.greatest / 2
        assert k.web is not None
        hub, rim, web = k.web
        x = left - 19
        for d in (rim, hub):
            if d > k.bore + 1e-6:
                across(p, x, (axis - s * d / 2, axis + s * d / 2), (left, left), f"Ø{self.length(d)}")
                x -= 8
        if web < k.b - 1e-9:
            along(
                p,
                below - 17,
                (middle - s * web / 2, middle + s * web / 2),
                (axis - s * (rim + max(hub, k.bore)) / 4,) * 2,
                self.length(web),
            )

    def _section_dimensions(self, k: Blank, middle: float, axis: float, key: Joint | None) -> None:
        p, s, c = self.paper, self.s, self.c
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
            tr("Ø{d_a} {kind}{IT_tip}", d_a=self.length(k.d_a), kind=kind, IT_tip=c.IT_tip),
            self.limits(upper, lower),
        )
        below = axis - s * k.greatest / 2
        along(p, below - 9, (left, right), (below, below), self.length(k.b))
        if k.outside:
            tolerance = standard_tolerance(k.outside, c.IT_tip)
            across(
                p,
                x - 9,
                (axis - s * k.outside / 2, axis + s * k.outside / 2),
                (left, left),
                tr("Ø{outside} h{IT_tip}", outside=self.length(k.outside), IT_tip=c.IT_tip),
                self.limits(0.0, -tolerance),
            )
            datum(p, (x - 9, axis - s * k.outside / 2), "A")
        elif k.bore:
            splined = self.joint is not None and self.joint.kind == "spline"
            grade = 11 if splined else c.IT_bore
            fit = standard_tolerance(k.bore, grade)
            x = right + 9 + short
            across(
                p,
                x,
                (axis - s * k.bore / 2, axis + s * k.bore / 2),
                (right, right),
                tr("Ø{bore} H{grade}", bore=self.length(k.bore), grade=grade),
                self.limits(fit, 0.0),
            )
            low = axis - s * k.bore / 2
            p.line("dimension", (x, low), (right + 33, low))
            texture(p, (right + 19, low), tr("Ra {Ra_bore:g}", Ra_bore=c.Ra_bore))
            datum(p, (x + 5, low), "A")
        if k.web is not None:
            self._web_dimensions(k, middle, axis)
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
            (middle + 0.12 * s * k.b, axis + up * s * float(self.values.d) / 2),
            tr("Rz {Rz_H:g}", Rz_H=self.gear.Rz_H),
        )
        run = proposed_run_outs(float(self.values.d), float(self.stage.mesh.m_n), k.b, self.gear.Q, k.d_f)
        run_tip = c.t_tip if c.t_tip is not None else (run[0] if run else None)
        run_face = c.t_face if c.t_face is not None else (run[1] if run else None)
        # A pinion cut into its shaft runs out against the axis of the bearing seats.
        on_shaft = self.joint is not None and self.joint.kind == "integral"
        to = "A–B" if on_shaft else "A"
        if (k.bore or k.outside or on_shaft) and run_tip:
            run_out(p, (middle - 8, above + 9), self.length(run_tip), to)
            leader(p, (middle - 5, above + 9), (middle - 5, axis + s * k.d_a / 2 if not k.outside else above))
        if (k.bore or k.outside or on_shaft) and run_face:
            y = (
                axis + s * (k.d_f / 2 - 0.25 * (k.d_f - k.bore) / 2)
                if not k.outside
                else axis + s * (k.d_f + k.outside) / 4 - 6
            )
            aside = 8 + 3 * short
            run_out(p, (right + aside, y - 2.5), self.length(run_face), to)
            leader(p, (right + aside, y), (right, y))

    def _end_view(self, k: Blank, x: float, axis: float) -> None:
        p, s = self.paper, self.s
        p.circle("edge", (x, axis), s * k.d_a / 2)
        p.circle("thin", (x, axis), s * k.d_f / 2)
        p.circle("axis", (x, axis), s * float(self.values.d) / 2)
        if k.outside:
            p.circle("edge", (x, axis), s * k.outside / 2)
        if k.web is not None:
            for d in k.web[:2]:
                if d > k.bore + 1e-6:
                    p.circle("edge", (x, axis), s * d / 2)
        if not k.bore:
            return
        key = self.joint if self.joint is not None and self.joint.kind in ("key", "two keys") else None
        if self.joint is not None and self.joint.kind == "spline":
            # By ISO 6413: the tip circle of the hub in a wide line, its root circle in a narrow one, the reference
            # circle as an axis.
            p.circle("thin", (x, axis), s * self.joint.d / 2)
            p.circle("axis", (x, axis), s * self.joint.m * self.joint.z / 2)
        r = k.bore / 2
        if key is None:
            p.circle("edge", (x, axis), s * r)
            return
        from math import asin, degrees

        half = key.b / 2
        at = degrees(asin(min(half / r, 1.0)))
        top = r + key.t_2
        sides = (1,) if key.kind == "key" else (1, -1)
        if len(sides) == 1:
            p.arc("edge", (x, axis), s * r, 90 + at, 450 - at)
        else:
            p.arc("edge", (x, axis), s * r, 90 + at, 270 - at)
            p.arc("edge", (x, axis), s * r, 270 + at, 450 - at)
        foot = sqrt(max(r * r - half * half, 0.0))
        for side in sides:
            p.line(
                "edge",
                *((x + s * e * half, axis + side * s * h) for e, h in ((-1, foot), (-1, top), (1, top), (1, foot))),
            )
        clear = s * k.greatest / 2 + 9
        width = standard_tolerance(key.b, 9) / 2
        along(
            p,
            axis + clear,
            (x - s * half, x + s * half),
            (axis + s * top,) * 2,
            tr("{b} JS9", b=self.length(key.b)),
            (f"+{self.length(width)}", f"−{self.length(width)}"),
        )
        deep = 0.1 if key.b <= 6 else 0.2 if key.b <= 32 else 0.3
        beyond = x + s * k.greatest / 2 + 7
        whole, limits = k.bore + key.t_2 * len(sides), self.limits(deep * len(sides), 0.0)
        bottom = axis - s * (r if len(sides) == 1 else top)
        across(p, beyond, (bottom, axis + s * top), (x, x + s * half), self.length(whole), limits)

    def _joint_words(self) -> str:
        """How the gear is joined to its shaft, where the drawing does not show it."""
        j = self.joint
        if j is None:
            return ""
        return {
            "integral": tr("cut into its shaft; A–B: axis of its bearing seats"),
            "spline": tr(
                "spline DIN 5480 – N {d:g} x {m:g} x {z} x 9H; tip circle of the hub Ø{j} H11",
                d=j.d,
                m=j.m,
                z=j.z,
                j=self.length(spline_bore(j)),
            ),
            "press fit": tr("bore for a press fit {fit}", fit=j.fit),
            "pin": tr("pin Ø{d_pin} across hub and shaft", d_pin=self.length(j.d_pin)),
            "set screw": tr("set screw M{d_screw:g} ISO 4029", d_screw=j.d_screw),
            "two set screws": tr("two set screws M{d_screw:g} ISO 4029, 90° apart", d_screw=j.d_screw),
        }.get(j.kind, "")

    def _rack(self) -> None:
        p, s, g = self.paper, self.s, self.values
        left, low, _, high = self._room(self.name)
        b, length, back, tip, root = (float(v) for v in (g.b, g.L_z, g.h_back, g.h_a, g.h_f))
        y = (low + high) / 2
        x = left + 30
        for start, wide in ((x, b), (x + s * b + 34, length)):
            p.box("edge", start, y - s * back, start + s * wide, y + s * tip)
            p.line("thin", (start, y - s * root), (start + s * wide, y - s * root))
            p.line("axis", (start - 4, y), (start + s * wide + 4, y))
        p.hatch([(x, y - s * back), (x + s * b, y - s * back), (x + s * b, y - s * root), (x, y - s * root)])
        along(p, y - s * back - 9, (x, x + s * b), (y - s * back,) * 2, self.length(b))
        start = x + s * b + 34
        along(p, y - s * back - 9, (start, start + s * length), (y - s * back,) * 2, self.length(length))
        across(p, x - 9, (y - s * back, y + s * tip), (x, x), self.length(back + tip))
        across(p, start - 9, (y - s * back, y), (start, start), self.length(back))
        texture(p, (x + 0.4 * s * b, y), tr("Rz {Rz_H:g}", Rz_H=self.gear.Rz_H))


def _shortened(words: str, size: float, room: float) -> str:
    """Words that fit a room, cut with an ellipsis where they do not."""
    if width_of(words, size) <= room:
        return words
    keep = max(1, ceil(len(words) * room / width_of(words, size)))
    while keep > 1 and width_of(words[:keep] + "…", size) > room:
        keep -= 1
    return words[:keep] + "…"
