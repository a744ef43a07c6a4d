"""The gears of a stage as bodies in space: in place, in phase, with width, bore or rim, and helix."""

from __future__ import annotations

from dataclasses import dataclass
from math import radians, tan

import numpy as np

from cooper.arrays import Loose as Array
from cooper.document.models import Design
from cooper.errors import OutOfRange
from cooper.exchange.outlines import grown
from cooper.gears.outline import gear_outline
from cooper.gears.phase import mesh_stand
from cooper.gears.rack_gear import rack_outline, tooth_place
from cooper.gears.root import RootForm
from cooper.gears.tooth import Tooth
from cooper.results.result_tree import StageResults


@dataclass(frozen=True)
class Body:
    """One gear; lengths in mm, angles in rad. Its axis is parallel to z through (x, 0), the middle of its width at z = 0.

    ``phase`` is the angle of a tooth at z = 0, where the halves of a double helix meet; ``twist`` turns the section per mm
    along the axis, counter-clockwise for a right-hand helix, up to the gap of a double helix and back after it.
    ``edge`` is the diameter of the bore (0 for none) or of the outside of an internal gear. A ``rack`` (its count and the
    height of its back) has its datum line at x, ``phase`` as the place of its middle along y in mm, and ``twist`` as the shift
    along y per mm of width.
    """

    name: str
    tooth: Tooth
    form: RootForm
    x: float
    phase: float
    b: float
    edge: float
    twist: float
    double: bool
    gap: float
    rack: tuple[int, float] | None = None

    def outline(self, tolerance: float, grow: float = 0.0) -> Array:
        """Closed outline of the section at z = 0 about the body's own axis or datum line, grown by a compensation; mm."""
        if self.rack is None:
            return grown(gear_outline(self.tooth, self.phase, tolerance), grow, self.internal)
        place, height = grown(rack_outline(self.tooth, *self.rack, tolerance, self.form), grow).T
        return np.column_stack((-height, place + self.phase))

    def moved(self, points: Array, z: float) -> Array:
        """Points of the section at z = 0 as they stand at another height; mm."""
        angle = float(self.angle(np.float64(z)))
        if self.rack is not None:
            return points + [0.0, angle]
        c, s = np.cos(angle), np.sin(angle)
        return points @ np.array([[c, s], [-s, c]])

    @property
    def internal(self) -> bool:
        return bool(self.tooth.sign < 0)

    @property
    def halves(self) -> list[tuple[float, float, float]]:
        """The toothed parts: from z, to z, twist."""
        if not self.double:
            return [(-self.b / 2, self.b / 2, self.twist)]
        start, end = self.gap / 2, (self.b + self.gap) / 2
        return [(-end, -start, self.twist), (start, end, -self.twist)]

    def angle(self, z: Array) -> Array:
        """Turn of the section at heights within the toothed parts against the phase; rad."""
        z = np.asarray(z, dtype=float)
        if not self.double:
            return self.twist * z
        return -self.twist * (np.abs(z) - self.gap / 2)

    @property
    def volume(self) -> float:
        """Area of the section times the width, and the groove of a double helix; mm3. The second way to a solid's."""
        from cooper.gears.area import section_area

        if self.rack is not None:
            x, y = self.outline(1e-5).T
            area = 0.5 * float(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1)))
            return area * self.b
        area = float(section_area(self.tooth, self.form))
        edge = np.pi / 4 * self.edge**2
        groove = abs(np.pi / 4 * self.groove**2 - edge) if self.double else 0.0
        return float(abs(edge - area)) * self.b + groove * self.gap

    @property
    def groove(self) -> float:
        """Diameter of the groove between the halves: half a module beneath the root circle."""
        return abs(float(self.tooth.d_f)) - float(self.tooth.sign) * float(self.tooth.m_n)


def bodies(design: Design, results: StageResults, stage: int) -> tuple[Body, Body]:
    """Both gears of a stage with driving flanks in contact; pinion at the origin, wheel at (a_w, 0), a ring at (-a_w, 0)."""
    doc = design.train.stages[stage]
    mesh = doc.meshes[0]
    members = (doc.members[mesh.driver], doc.members[mesh.driven])
    one, two = results.teeth
    stand = mesh_stand(one.z, two.z, np.float64(results.mesh.j_wt), np.float64(results.wheel_x))
    if results.rack and mesh.double_helix and mesh.b_gap > 0:
        raise OutOfRange(
            "b_gap", mesh.b_gap, "a double helical rack is made without a gap here", low=0.0, high=0.0, unit="mm"
        )
    first = 1.0 if mesh.hand == "right" else -1.0
    hands = (first, first if results.internal else -first)
    out = []
    for i, gear in enumerate(members):
        g = results.gears[i]
        twist = hands[i] * tan(radians(mesh.beta)) / (g.d / 2) if "d" in g else first * tan(radians(mesh.beta))
        phase = float((stand.phi_1, stand.phi_2)[i])
        rack = None
        if results.rack and i == 1:
            z_2, p_t = int(g.z), results.mesh.p_t
            rack = (z_2, g.h_back)
            place = tooth_place(results.gears[0].z, results.gears[0].d / 2, results.mesh.j_wt, 0.0, 1.0)
            phase = place - (0.5 if z_2 % 2 == 0 else 1.0) * p_t
        out.append(
            Body(
                gear.name,
                results.teeth[i],
                results.forms[i],
                (0.0, results.wheel_x)[i],
                phase,
                gear.b,
                g.get("d_rim", g.get("d_bore", 0.0)),
                twist,
                mesh.double_helix,
                mesh.b_gap if mesh.double_helix else 0.0,
                rack,
            )
        )
    return out[0], out[1]
