"""The gears of a stage as bodies in space: in place, in phase, with width, bore or rim, and helix."""

from __future__ import annotations

from dataclasses import dataclass
from math import radians, tan

import numpy as np

from cooper.arrays import Loose as Array
from cooper.document.models import Design
from cooper.errors import OutOfRange
from cooper.exchange.outlines import grown
from cooper.gears.tooth import Tooth
from cooper.kinds.section import Section
from cooper.results.result_tree import StageResults


@dataclass(frozen=True)
class Body:
    """One gear; lengths in mm. Its axis or datum line is parallel to z at (x, 0), the middle of its width at z = 0.

    ``phase`` is the motion of its section (`kinds.section`) at z = 0, where the halves of a double helix meet; ``twist`` moves the
    section per mm along the axis, counter-clockwise for a right-hand helix, up to the gap of a double helix and back after it.
    """

    name: str
    section: Section
    x: float
    phase: float
    b: float
    twist: float
    double: bool
    gap: float

    def outline(self, tolerance: float, grow: float = 0.0) -> Array:
        """Closed outline of the section at z = 0 about the body's own axis or datum line, grown by a compensation; mm."""
        return grown(self.section.outline(tolerance, self.phase), grow, self.section.inward)

    def moved(self, points: Array, z: float) -> Array:
        """Points of the section at z = 0 as they stand at another height; mm."""
        return self.section.moved(points, self.angle(np.float64(z)))

    @property
    def tooth(self) -> Tooth:
        return self.section.tooth

    @property
    def edge(self) -> float:
        """Diameter of bore or outside; mm."""
        return self.section.edge

    @property
    def halves(self) -> list[tuple[float, float, float]]:
        """The toothed parts: from z, to z, twist."""
        if not self.double:
            return [(-self.b / 2, self.b / 2, self.twist)]
        start, end = self.gap / 2, (self.b + self.gap) / 2
        return [(-end, -start, self.twist), (start, end, -self.twist)]

    def angle(self, z: Array) -> Array:
        """Motion of the section at heights within the toothed parts against the phase."""
        z = np.asarray(z, dtype=float)
        if not self.double:
            return self.twist * z
        return -self.twist * (np.abs(z) - self.gap / 2)

    @property
    def volume(self) -> float:
        """Area of the section times the width, and the groove of a double helix; mm3. The second way to a solid's."""
        groove = abs(np.pi / 4 * (self.section.groove**2 - self.edge**2)) if self.gap > 0 else 0.0
        return self.section.area() * self.b + groove * self.gap


def bodies(design: Design, results: StageResults, stage: int) -> tuple[Body, Body]:
    """Both gears of a stage with driving flanks in contact; the driving gear at the origin, the mesh on +x."""
    doc = design.train.stages[stage]
    mesh = doc.meshes[0]
    kind = results.kind
    if mesh.double_helix and mesh.b_gap > 0 and not kind.grooves:
        raise OutOfRange(
            "b_gap",
            mesh.b_gap,
            f"a double helical {kind.name} is made without a gap here",
            low=0.0,
            high=0.0,
            unit="mm",
        )
    first = 1.0 if mesh.hand == "right" else -1.0
    one, two = (
        Body(
            gear.name,
            section,
            x,
            phase,
            gear.b,
            sense * tan(radians(mesh.beta)) / section.arm,
            mesh.double_helix,
            mesh.b_gap if mesh.double_helix else 0.0,
        )
        for gear, section, x, phase, sense in zip(
            (doc.members[mesh.driver], doc.members[mesh.driven]),
            results.sections,
            (0.0, results.wheel_x),
            results.motions(0.0, 1.0),
            (first, first * kind.twist),
            strict=True,
        )
    )
    return one, two
