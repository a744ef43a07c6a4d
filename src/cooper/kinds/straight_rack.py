"""The rack, and the pair of a pinion and a rack: heights in place of diameters, a force and a speed in place of a
torque."""

from __future__ import annotations

from collections.abc import Mapping
from math import ceil, cos

import numpy as np

from cooper.arrays import Array
from cooper.gears.phase import MeshPlacement
from cooper.gears.rack_gear import COUNT, rack_tooth, tooth_place, transverse_pitch
from cooper.gears.root import RootForm
from cooper.gears.tooth import Tooth
from cooper.i18n.text import tr
from cooper.kinds.kind import Changes, Entered, Kind
from cooper.kinds.section import RackSection, Section
from cooper.values import GearValues, MeshValues

BACK = 3.5
"""Modules behind the datum line of a new rack at least."""
NOT_OF_A_RACK = ("x_min", "z_n", "p_z", "j_phi_min", "j_phi_max", "z")
BESIDE = 1.5
"""How far a rack is drawn to either side of its pinion, in tip radii of it."""


class RackKind(Kind, frozen=True):
    """A rack, of which so many teeth are cut; the core computes it as a wheel of very many teeth
    (`gears.rack_gear`)."""

    key: str = "rack"
    words: str = tr("pinion and rack")
    shape: str = "rack"
    name: str = "rack"
    gear_words: tuple[str, str] | None = (tr("pinion"), "rack")
    turns: bool = False
    drives: bool = False
    shifts: bool = False
    splits: bool = False
    tools: tuple[str, ...] = ("rack",)
    grows: tuple[str, ...] = ("h_back",)
    boundary_diameter: str = "h_back"
    edge_words: str = "back"
    on_drawing: tuple[str, ...] = ("z", "b", "h_back")
    data: tuple[str, ...] = ()
    rack_tool_data: tuple[str, ...] = ()
    web: bool = False
    twist: float = 1.0
    grooves: bool = False
    straight: str = tr("its flanks are straight lines at the pressure angle")
    no_agma: str = tr("AGMA 908 gives no geometry factors for racks")

    def fault(self, gear: Entered) -> str:
        if gear.z < 0 or gear.x != 0 or gear.d_a is not None or gear.tool != "rack":
            return tr(
                "a rack has a positive count, no shift (x = 0), no tip diameter, and the profile of its own basic rack"
            )
        if gear.d_i is not None:
            return tr("a rim on a web (d_i) belongs to an external wheel")
        return super().fault(gear)

    def counts(self, z: int) -> bool:
        return True

    def count(self, z: int) -> int:
        return COUNT

    def cut(self, z: int) -> float | None:
        return float(z)

    def distance(self, a_w: float, m_n: float, beta: float) -> float:
        # Measured to the datum line.
        return a_w + self.datum(m_n, beta)

    def measured(self, a_w: float, m_n: float, beta: float) -> float:
        return a_w - self.datum(m_n, beta)

    @staticmethod
    def datum(m_n: float, beta: float) -> float:
        """Radius of the datum line of the great wheel that stands for the rack; mm."""
        return COUNT * m_n / (2 * cos(beta))

    def core_edge(self, gear: Entered, m_n: float, beta: float) -> float:
        # What lies behind the root of a rack is its rim.
        return 2 * self.datum(m_n, beta) - 2 * gear.h_back

    def measured_edge(self, d_bore: float, d: float) -> float:
        return (d - d_bore) / 2

    def edge_low(self, tooth: Tooth) -> float | None:
        h_f, h = float(tooth.d - tooth.d_f) / 2, float(tooth.d_a - tooth.d_f_nominal) / 2
        return round(h_f + 0.501 * h, 3)

    def has_in_mesh(self, symbol: str) -> bool:
        return symbol not in ("u", "a", "a_w")

    def has(self, symbol: str) -> bool:
        # Diameters would be those of the great wheel that stands for it.
        return symbol != "d" and not symbol.startswith("d_") and symbol not in NOT_OF_A_RACK

    def present(
        self, mesh: MeshValues[float], gears: tuple[GearValues[float], GearValues[float]], tooth: Tooth, own: Entered
    ) -> None:
        half, r_1, p_t = float(tooth.d) / 2, gears[0].d / 2, transverse_pitch(tooth)
        mesh.update(a=r_1, p_t=p_t, travel=2 * np.pi * r_1)
        gears[1].update(
            h_a=float(tooth.d_a) / 2 - half,
            h_f=half - float(tooth.d_f_nominal) / 2,
            L_z=own.z * p_t,
            h_back=own.h_back,
        )

    def edge_of(self, values: Mapping[str, float]) -> float:
        return 0.0

    def reaches(self, values: Mapping[str, float]) -> tuple[float, float]:
        return 0.0, values["h_back"]

    def outside(self, values: Mapping[str, float]) -> float:
        return 0.0

    def behind(
        self, T: float, omega: float, mesh: MeshValues[float], gears: tuple[GearValues[float], GearValues[float]]
    ) -> dict[str, float]:
        r_1 = gears[0].d / 2
        return {"F_out": 1000 * T / r_1 * mesh.eta_z, "v_out": omega * r_1 / 1000}

    def tip_room(self, a_w: float, roots: tuple[float, float], c: float, i: int, mate_h_f: float) -> float:
        return a_w + mate_h_f - c

    def section(self, tooth: Tooth, form: RootForm, values: Mapping[str, float]) -> Section:
        return RackSection(tooth, form, count=int(values["z"]), back=values["h_back"])

    def upright(self, tooth: Tooth, tolerance: float) -> Array:
        return rack_tooth(tooth, tolerance)

    def levels(self, values: Mapping[str, float]) -> dict[str, float]:
        return {"tip": values["h_a"], "datum": 0.0, "root": -values["h_f"]}

    def stand(self, teeth: tuple[Tooth, Tooth], j_wt: float, a_w: float, roll: float, side: float) -> MeshPlacement:
        one = teeth[0]
        place = tooth_place(float(one.z), float(one.d) / 2, j_wt, roll, side)
        return MeshPlacement(np.float64(roll), np.float64(place))

    def motion(self, section: Section, stand: MeshPlacement) -> float:
        # The stand tells the tooth next above the line of centres; the section is moved by its middle.
        assert isinstance(section, RackSection)
        return float(stand.phi_2) - (0.5 if section.count % 2 == 0 else 1.0) * transverse_pitch(section.tooth)

    def extent(
        self, gears: tuple[Mapping[str, float], Mapping[str, float]], outer: float, a_w: float
    ) -> tuple[float, float, float]:
        return -outer, a_w + gears[1]["h_back"], BESIDE * outer

    def pushed(self, a: tuple[float, float], b: tuple[float, float], a_w: float, ratio: float, r_w1: float) -> float:
        return (b[1] - a[1]) / r_w1

    def made(self, gear: Entered, m_n: float, beta: float) -> Changes:
        back = max(gear.h_back, ceil(BACK * m_n))
        return super().made(gear, m_n, beta) | {"x": 0.0, "h_back": float(back)}

    def first_count(self, z_1: int, z_2: int) -> int:
        return abs(z_2)

    def first_shift(self, x_1: float) -> float | None:
        return 0.0


RACK = RackKind()
