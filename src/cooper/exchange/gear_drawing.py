"""The drawing sheet of a gear: section and end view by ISO 128 and 2203 with limits, run-outs and surface texture,
the table of its toothing by ISO 1340, a title block."""

from __future__ import annotations

from datetime import date
from math import sqrt

from msgspec.structs import replace

from cooper.document.models import Design
from cooper.document.units import number, screen_unit
from cooper.exchange.bore_profile import spline_bore
from cooper.exchange.dimension_sheet import dimension_rows, signed_limits
from cooper.exchange.drawing_marks import across, along
from cooper.exchange.drawing_title import TABLE, TITLE, rows_table, title_block
from cooper.exchange.gear_section import draw_rack, draw_section
from cooper.exchange.paper import DrawingPage
from cooper.exchange.statement import statement
from cooper.i18n.text import join, term, tr
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
    return GearSheet(design, results, k, i, system).paper


def says(design: Design, results: Results, k: int, i: int) -> frozenset[str]:
    """Which tolerances and surfaces of `Drawing` the sheet of gear i (1, 2) of stage k makes use of."""
    return GearSheet(design, results, k, i, "mm").said


PLAINER = {"z": tr("number of teeth"), "p_z": tr("lead of the helix")}
"""Shorter words than those of the design for some rows."""


class GearSheet:
    """One sheet while it is drawn; lengths on paper in mm."""

    def __init__(self, design: Design, results: Results, k: int, i: int, system: str) -> None:
        self.design, self.results, self.k, self.i, self.system = design, results, k, i, system
        self.stage = results.stages[k]
        doc = design.train.stages[k]
        self.gear = doc.gears[i - 1]
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
        text = tr(
            "Drawing sheet of {name}; scale {scale_name}; {units}; {design}",
            name=self.gear.name,
            scale_name=self.scale_name,
            units=units,
            design=statement(design, tr("lengths on the sheet")),
        )
        self.paper = DrawingPage(w, h, tr("{name}, {name_2}", name=self.gear.name, name_2=design.name), text)
        self._frame()
        self._table()
        self._title()
        if self.blank is not None:
            self._views(self.blank)
        else:
            draw_rack(self)

    # --- room

    def _room(self, name: str) -> tuple[float, float, float, float]:
        """Left, low, right, high of where views may stand."""
        w, h = PAPERS[name]
        return 22.0, 12.0 + TITLE, w - 12 - TABLE, h - 12.0

    ASIDE = (74.0, 50.0)
    """Room for dimensions beside the views, across and upwards; mm."""

    def _fitting(self, wide: float, high: float) -> tuple[str, str]:
        """The smallest paper on which the views are not tiny, and the greatest scale that fits."""
        names = [self.c.paper] if self.c.paper in PAPERS else list(PAPERS)
        result = (names[-1], list(SCALES)[-1])
        for name in names:
            left, low, right, top = self._room(name)
            room = min((right - left - self.ASIDE[0]) / wide, (top - low - self.ASIDE[1]) / high)
            scale = next((n for n, s in SCALES.items() if s <= room * 1.0001), list(SCALES)[-1])
            result = (name, scale)
            if SCALES[scale] * high >= 45 or SCALES[scale] >= 1:
                break
        return (result[0], self.c.scale) if self.c.scale != FITTING else result

    # --- figures

    def length(self, mm: float) -> str:
        """A length as its figure in the unit system."""
        return number(mm, "length", self.system, 3 if self.system == "mm" else 4)

    def limits(self, upper: float, lower: float) -> tuple[str, str]:
        """Deviations (mm) as figures with their signs."""
        return signed_limits(upper, lower, self.system)

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
        result: list[tuple[str, str, str]] = []
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
            result.append((meaning, row.symbol, value))
        result.insert(2 if len(result) > 2 else len(result), (tr("basic rack"), "", self._rack_name()))
        return [*result, *self._hardened()]

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
        p = self.paper
        right, top = p.width - 10, p.height - 10
        rows_table(p, tr("Toothing"), self.rows, (right - TABLE, right), (10 + TITLE, top))

    def _title(self) -> None:
        c = self.c
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
        # What holds for all surfaces without a mark of their own.
        title_block(self.paper, cells, tr("Ra {Ra_rest:g}", Ra_rest=c.Ra_rest))

    # --- views

    def _views(self, k: Blank) -> None:
        p, s = self.paper, self.s
        left, low, right, high = self._room(self.name)
        room = right - left - self.ASIDE[0] - s * (k.b + k.greatest)
        middle = left + 22 + room / 6 + s * k.b / 2
        end = middle + s * k.b / 2 + 36 + room / 3 + s * k.greatest / 2
        axis = (low + high) / 2
        draw_section(self, k, middle, axis)
        self._end_view(k, end, axis)
        p.text((end, axis - s * k.greatest / 2 - 12), self._joint_words(), 2.3, "middle")
        p.line("axis", (middle - s * k.b / 2 - 6, axis), (middle + s * k.b / 2 + 6, axis))
        reach = s * k.greatest / 2 + 6
        p.line("axis", (end - reach, axis), (end + reach, axis))
        p.line("axis", (end, axis - reach), (end, axis + reach))

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
