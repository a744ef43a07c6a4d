"""The gears of a stage as bodies in space: in place, in phase, with width, bore or rim, and helix."""

from __future__ import annotations

from functools import cached_property
from itertools import pairwise
from math import radians, tan

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from cooper.arrays import Loose as Array
from cooper.document.gear_data import Gear, Mesh
from cooper.document.models import Design
from cooper.errors import OutOfRange
from cooper.exchange.bore_profile import BoreProfile
from cooper.exchange.outlines import grown
from cooper.gears.flank_form import FlankForm, helix_form
from cooper.gears.outline import half_tooth
from cooper.gears.tooth import Tooth
from cooper.i18n.text import tr
from cooper.kinds.section import Section
from cooper.results.flank_forms import form_of
from cooper.results.result_tree import StageResults


class Body(Struct, frozen=True, dict=True):
    """One gear; lengths in mm. Its axis or datum line is parallel to z at (x, 0), the middle of its width at z = 0.

    ``phase`` is the motion of its section (`kinds.section`) at z = 0, where the halves of a double helix meet;
    ``twist`` moves the section per mm along the axis, counter-clockwise for a right-hand helix, up to the gap of a
    double helix and back after it.
    """

    name: str
    section: Section
    x: float
    phase: float
    b: float
    twist: float
    double: bool
    gap: float
    helix: tuple[FlankForm, FlankForm] | None = None
    """What is taken off its right and its left flanks along the face; None where nothing is."""
    bore_profile: BoreProfile | None = None
    """Its opening where that is no plain bore: a hub's keyways or spline; solids alone have it."""

    def outline(self, tolerance: float, grow: float = 0.0) -> Array:
        """Closed outline of the section at z = 0 about the body's own axis or datum line, grown by a compensation;
        mm."""
        return grown(self.section.outline(tolerance, self.phase), grow, self.section.inward)

    def moved(self, points: Array, z: float) -> Array:
        """Points of the section at z = 0 as they stand at another height; mm."""
        return self.section.moved(points, self.angle(np.float64(z)))

    def bands(self, low: float, high: float) -> list[tuple[float, float]]:
        """The heights between which a toothed part from low to high has no kink along its face."""
        kinks = [z for f in self.helix or () for z in (low + f.l_I * bool(f.C_bI), high - f.l_II * bool(f.C_bII))]
        if self._mirrored(low):
            kinks = [low + high - z for z in kinks]
        return list(pairwise(sorted({low, high} | {z for z in kinks if low < z < high})))

    def _mirrored(self, low: float) -> bool:
        """Whether a toothed part is the mirror image of the one before it: the upper half of a double helix, the
        left end of which is its outer one."""
        return self.double and low > -1e-9

    def eased(self, points: Array, z: float, low: float, high: float, motion: float = 0.0) -> Array:
        """Points of the section at a motion as the helix form leaves them at a height of the toothed part that holds
        low to high: both flanks of each tooth turned about the axis towards its middle, which fades to nothing over its
        tip land and its space.

        Amounts are taken in the transverse section along the base tangent; the left end is the lower one.
        """
        if self.helix is None:
            return points
        start, end, _ = next(h for h in self.halves if h[0] <= low + 1e-9 and high <= h[1] + 1e-9)
        y = end - z if self._mirrored(start) else z - start
        off = [float(helix_form(form, y, end - start)) / 1000 / (abs(float(self.tooth.d_b)) / 2) for form in self.helix]
        half = float(np.pi / abs(float(self.tooth.z)))
        phi = (np.arctan2(points[:, 1], points[:, 0]) - motion + half) % (2 * half) - half
        # A tooth that points outwards has its right flank below the axis, one that points inwards above it.
        left = (phi > 0) != self.section.inward
        turn, at_tip, at_root = (
            np.where(left, b, a) for a, b in zip((off[0], *self._ends[0]), (off[1], *self._ends[1]), strict=True)
        )
        share = np.clip(np.abs(phi) / at_tip, 0, 1) * np.clip((half - np.abs(phi)) / (half - at_root), 0, 1)
        c, s = np.cos(turn * share), -np.sign(phi) * np.sin(turn * share)
        return np.stack((c * points[:, 0] - s * points[:, 1], s * points[:, 0] + c * points[:, 1]), axis=-1)

    def most_eased(self) -> float:
        """The most that the helix form takes off; mm."""
        return (
            max(abs(f.C_beta) + abs(f.C_Hbeta) + abs(f.C_bI) + abs(f.C_bII) for f in self.helix or (FlankForm(),))
            / 1000
        )

    @cached_property
    def _ends(self) -> tuple[tuple[float, float], tuple[float, float]]:
        """The angles from the middle of the tooth at which a right flank ends at its tip and at its root, and a left
        one; rad."""
        form = self.section.form

        def of(tooth: Tooth) -> tuple[float, float]:
            r, a = np.abs(half_tooth(tooth, 1e-3, form)).T
            corner = int(np.flatnonzero(np.abs(r - r[-1]) > 1e-9 * r[-1])[-1]) + 1
            root = int(np.argmin(np.abs(r[: corner + 1] - abs(float(form.d_Ff)) / 2)))
            return float(a[corner]), float(a[root])

        return of(self.tooth), of(self.tooth.turned)

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
        opening = 0.0 if self.bore_profile is None else self.bore_profile.area - np.pi / 4 * self.section.edge**2
        return float((self.section.area() - opening) * self.b + groove * self.gap)


def bodies(design: Design, results: StageResults, stage: int) -> tuple[Body, Body]:
    """Both gears of a stage with driving flanks in contact; the driving gear at the origin, the mesh on +x."""
    doc = design.train.stages[stage]
    mesh = doc.mesh
    kind = results.kind
    if mesh.double_helix and mesh.b_gap > 0 and not kind.grooves:
        raise OutOfRange(
            "b_gap",
            mesh.b_gap,
            tr("a double helical {name} is made without a gap here", name=kind.name),
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
            _along(gear, results, mesh, pinion=results.pinion == n) if results.kinds[n - 1].turns else None,
        )
        for n, (gear, section, x, phase, sense) in enumerate(
            zip(
                doc.gears,
                results.sections,
                (0.0, results.wheel_x),
                results.motions(0.0, 1.0),
                (first, first * kind.twist),
                strict=True,
            ),
            1,
        )
    )
    return one, two


def _along(gear: Gear, results: StageResults, mesh: Mesh, pinion: bool) -> tuple[FlankForm, FlankForm] | None:
    """What is taken off along the face of right and left flanks: the gear's end reliefs, and of the pair's crowning
    and slope all on the pinion."""
    C, C_H = (mesh.C_beta, mesh.C_Hbeta) if pinion else (0.0, 0.0)
    right, left = (replace(form_of(gear, results, side), C_beta=C, C_Hbeta=C_H) for side in (False, True))
    return (right, left) if any(f.C_bI or f.C_bII or f.C_beta or f.C_Hbeta for f in (right, left)) else None
