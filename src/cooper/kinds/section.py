"""A toothed body in transverse section, so far as drawings, files and solids need it: teeth that repeat along a
motion."""

from __future__ import annotations

from abc import ABCMeta, abstractmethod
from collections.abc import Callable
from itertools import pairwise

import numpy as np
from msgspec import Struct, StructMeta
from msgspec.structs import replace

from cooper.arrays import Array, Real, as_float
from cooper.gears.area import section_area
from cooper.gears.outline import one_tooth
from cooper.gears.profile_curves import Curve, profile_pieces
from cooper.gears.rack_gear import rack_tooth, transverse_pitch
from cooper.gears.root import RootForm
from cooper.gears.tooth import Tooth

NO_POINTS = np.empty((0, 2))


class AbstractRecord(StructMeta, ABCMeta):
    """A record of which only kinds can be made that bring all that is asked of them."""


class Section(Struct, frozen=True, metaclass=AbstractRecord):
    """One body about its own axis or datum line at motion 0. A *motion* is what moves it along its mesh: the angle
    of a wheel (rad), the shift of a rack along y (mm). Its teeth are one tooth at the motions `teeth`.

    ``edge`` is the diameter of the bore, of the outside where the teeth point ``inward``, and 0 for none.
    """

    tooth: Tooth
    form: RootForm
    edge: float = 0.0
    inward: bool = False

    @property
    @abstractmethod
    def arm(self) -> float:
        """Length along the reference line for one unit of motion; mm."""

    @property
    @abstractmethod
    def teeth(self) -> Array:
        """The motion of every tooth, in the order in which they make the outline counter-clockwise."""

    @abstractmethod
    def moved(self, points: Array, motion: Real) -> Array:
        """Points (n, 2) moved by each motion; (..., n, 2) in mm."""

    @abstractmethod
    def placed(self, motion: float) -> tuple[float, float]:
        """Shift along y (mm) and turn (rad) of what is drawn at motion 0."""

    @abstractmethod
    def one(self, tolerance: float) -> Array:
        """One tooth at motion 0 from the middle of one space to the middle of the next; (n, 2) in mm."""

    @abstractmethod
    def curves(self) -> list[Curve]:
        """The same as exact curves."""

    @abstractmethod
    def area(self) -> float:
        """Area of metal; mm2."""

    def within(self, motion: float) -> float:
        """The same stand of the teeth, kept in the picture where the body would run out of it."""
        return motion

    def filling(self, height: float) -> Section:
        """The body as far as it fills a picture to that height above and below the axis; mm."""
        return self

    @property
    def closing(self) -> Array:
        """Corners that close the outline behind the last tooth; (n, 2) in mm, none where the teeth close themselves."""
        return NO_POINTS

    @property
    def reach(self) -> float:
        """Greatest distance from the axis about which the section turns; mm, 0 for what does not turn."""
        return 0.0

    @property
    def bounds(self) -> tuple[float, ...]:
        """Diameters (mm) of the bore or rim that close the outline."""
        return (self.edge,)

    @property
    @abstractmethod
    def tip(self) -> Array:
        """The middle of the tip of the tooth at motion 0; (2,) in mm."""

    @property
    def depth(self) -> float:
        """Depth of a tooth; mm."""
        return abs(float(self.tooth.d_a) - float(self.tooth.d_f)) / 2

    @property
    def datum(self) -> float:
        """Half the length of a straight reference line; mm, 0 where it is a circle."""
        return 0.0

    @property
    def groove(self) -> float:
        """Diameter of the groove between the halves of a double helix: half a module beneath the root circle; mm."""
        return abs(float(self.tooth.d_f)) - float(self.tooth.sign) * float(self.tooth.m_n)

    def closing_curves(self) -> list[Curve]:
        """The straight lines between the last tooth and the first."""
        corners = self.closing
        if not len(corners):
            return []
        first = self.moved(self.one(0.1)[:1], self.teeth[0])
        return [_line(a, b) for a, b in pairwise(np.vstack((corners, first)))]

    def outline(self, tolerance: float, motion: float = 0.0, coarse: float = 0.0, fine: Array | None = None) -> Array:
        """Closed outline, counter-clockwise, first point not repeated; of an inward section the edge of its opening.
        (n, 2) in mm.

        Where ``fine`` (a mask over the teeth) is false a tooth keeps the tolerance ``coarse``.
        """
        at = self.teeth + motion
        if fine is None or fine.all():
            points = self.moved(self.one(tolerance)[:-1], at).reshape(-1, 2)
        else:
            teeth: list[Array] = [NO_POINTS] * len(at)
            for mask, bound in ((fine, tolerance), (np.logical_not(fine), coarse)):
                for k, tooth in zip(np.flatnonzero(mask), self.moved(self.one(bound)[:-1], at[mask]), strict=True):
                    teeth[k] = tooth
            points = np.concatenate(teeth)
        corners = self.closing
        return np.vstack((points, self.moved(corners, np.float64(motion)))) if len(corners) else points


def _line(a: Array, b: Array) -> Callable[[Array], Array]:
    return lambda t: a + as_float(t)[:, None] * (b - a)


class WheelSection(Section, frozen=True):
    """A wheel: its teeth turn about the origin."""

    @property
    def arm(self) -> float:
        return abs(float(self.tooth.d)) / 2

    @property
    def teeth(self) -> Array:
        count = abs(int(self.tooth.z))
        return 2 * np.pi * np.arange(count) / count

    def moved(self, points: Array, motion: Real) -> Array:
        c, s = np.cos(motion)[..., None], np.sin(motion)[..., None]
        x, y = points[:, 0], points[:, 1]
        return np.stack((c * x - s * y, s * x + c * y), axis=-1)

    def placed(self, motion: float) -> tuple[float, float]:
        return 0.0, motion

    def one(self, tolerance: float) -> Array:
        return one_tooth(self.tooth, tolerance, self.form)

    def curves(self) -> list[Curve]:
        return profile_pieces(self.tooth, self.form)

    def area(self) -> float:
        """Of the section and its bore, or of the ring outside its opening.

        By Green's theorem along the exact curves (`gears.area`).
        """
        return abs(np.pi / 4 * self.edge**2 - float(section_area(self.tooth, self.form)))

    @property
    def tip(self) -> Array:
        return np.array([abs(float(self.tooth.d_a)) / 2, 0.0])

    @property
    def reach(self) -> float:
        return max(abs(float(self.tooth.d_a)), abs(float(self.tooth.d_f))) / 2


class RackSection(Section, frozen=True):
    """A rack: ``count`` teeth along y that point to -x from the datum line x = 0, the back at x = ``back``; mm."""

    count: int = 1
    back: float = 1.0

    @property
    def arm(self) -> float:
        return 1.0

    @property
    def teeth(self) -> Array:
        return transverse_pitch(self.tooth) * (np.arange(self.count, dtype=np.float64)[::-1] - (self.count - 1) / 2)

    def moved(self, points: Array, motion: Real) -> Array:
        at: Array = np.asarray(motion, dtype=np.float64)[..., None, None] * np.array([0.0, 1.0])
        return points + at

    def placed(self, motion: float) -> tuple[float, float]:
        return motion, 0.0

    def one(self, tolerance: float) -> Array:
        place, height = rack_tooth(self.tooth, tolerance, self.form)[::-1].T
        return np.column_stack((-height, place))

    def curves(self) -> list[Curve]:
        half = float(self.tooth.d) / 2

        def flat(piece: Curve) -> Curve:
            def at(t: Array) -> Array:
                x, y = piece(1 - as_float(t)).T
                return np.column_stack((half - np.hypot(x, y), half * np.arctan2(y, x)))

            return at

        # From above to below, as the teeth follow each other; those of a wheel on +x point the other way.
        return [flat(piece) for piece in reversed(profile_pieces(self.tooth.turned, self.form))]

    @property
    def bounds(self) -> tuple[float, ...]:
        return float(self.count), self.back

    @property
    def tip(self) -> Array:
        return np.array([float(self.tooth.d - self.tooth.d_a) / 2, 0.0])

    def within(self, motion: float) -> float:
        p = transverse_pitch(self.tooth)
        low = -(0.5 if self.count % 2 == 0 else 1.0) * p
        return low + (motion - low) % p

    def filling(self, height: float) -> Section:
        pitches = int(height / transverse_pitch(self.tooth) + 3)
        return replace(self, count=2 * pitches + self.count % 2)

    @property
    def closing(self) -> Array:
        end = self.datum
        root = float(self.one(0.1)[-1, 0])
        return np.array([[root, -end], [self.back, -end], [self.back, end]])

    @property
    def datum(self) -> float:
        return self.count * transverse_pitch(self.tooth) / 2

    def area(self) -> float:
        x, y = self.outline(1e-5).T
        return 0.5 * float(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1)))
