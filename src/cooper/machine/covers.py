"""Bearing covers: what closes a bearing's bore in an outer wall, presses its outer ring, and carries the seal."""

from __future__ import annotations

from math import ceil, pi

import numpy as np
from msgspec import Struct

from cooper.i18n.text import tr
from cooper.machine.shaft_model import Borne, MadeShaft
from cooper.stock.seals import Seal

SCREWS = ((22, 3, 3), (35, 4, 4), (47, 5, 4), (65, 6, 4), (80, 8, 4), (100, 8, 6), (140, 10, 6), (230, 12, 6))
"""Up to which bore, thread, and number of a cover's screws; mm. Customary."""
LARGEST = (16, 8)
"""Thread and number above."""
STRESS_AREA = {3: 5.03, 4: 8.78, 5: 14.2, 6: 20.1, 8: 36.6, 10: 58.0, 12: 84.3, 16: 157.0}
"""Stress area by the thread; mm2. ISO 898-1."""
PROOF = 640.0
"""Yield point of screws of class 8.8; MPa. ISO 898-1."""
SCREW_LENGTHS = (6, 8, 10, 12, 16, 20, 25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 80)
"""Lengths of socket head cap screws; mm. ISO 4762."""


class Cover(Struct, frozen=True, kw_only=True):
    """One cover. ``outward`` is the way out of the housing, ``z_1`` the bearing's face that it presses or faces,
    ``z_2`` where its flange lies on the wall, ``z_3`` its outer face; ``D`` of its spigot, ``D_2`` of its flange,
    ``d_1`` of the circle of its screws (mm). ``depth`` is how far it is hollow from ``z_1``, for what stands out of the
    bearing; ``hole`` its opening for the shaft (0: closed), with the seal whose middle stands at ``z_seal``."""

    bearing: str
    outward: int
    z_1: float
    z_2: float
    z_3: float
    D: float
    D_2: float
    d_1: float
    screw: int
    screws: int
    depth: float
    hole: float = 0.0
    seal: Seal | None = None
    z_seal: float = 0.0

    @property
    def flange(self) -> float:
        """Thickness of the flange; mm."""
        return abs(self.z_3 - self.z_2)

    @property
    def inner(self) -> float:
        """Diameter of its hollow, within the outer ring of the bearing; mm."""
        return 0.8 * self.D

    @property
    def screw_length(self) -> int:
        """Length of its screws: flange and one and a half threads, the next that is made; mm."""
        need = self.screw_in_flange + 1.5 * self.screw
        return next((v for v in SCREW_LENGTHS if v >= need), SCREW_LENGTHS[-1])

    @property
    def screw_in_flange(self) -> float:
        """How much of a screw stands in the flange, whose head is sunk where that is thick; mm."""
        return min(self.flange, 1.2 * self.screw)

    @property
    def bears(self) -> float:
        """Axial load (N) that half of its screws' yield points bears; the other half is left for tightening."""
        return 0.5 * self.screws * STRESS_AREA[self.screw] * PROOF

    @property
    def mass(self) -> float:
        """Mass of a cover of grey cast iron; kg."""
        long = abs(self.z_3 - self.z_1)
        flange = (self.D_2**2 - self.D**2) * self.flange
        body = self.D**2 * long - self.inner**2 * self.depth
        out = self.hole**2 * max(long - self.depth, 0.0)
        if self.seal is not None:
            out += max(self.seal.D**2 - self.hole**2, 0.0) * min(self.seal.b, long - self.depth)
        return 7.2e-6 * pi / 4 * max(flange + body - out, 0.0)


def screws_of(D: float) -> tuple[int, int]:
    """Thread (mm) and number of the screws of a cover over a bore (mm).

    Parameters
    ----------
    D : float
        Outside diameter of the bearing (mm).

    Returns
    -------
    tuple[int, int]
        Thread (mm) and number.

    Examples
    --------
    >>> screws_of(62.0), screws_of(300.0)
    ((6, 4), (16, 8))
    """
    return next(((d, n) for up, d, n in SCREWS if up >= D), LARGEST)


def spigot_of(D: float) -> float:
    """How far a cover reaches into the bore of an outside diameter (mm), to be centred.

    Parameters
    ----------
    D : float
        Outside diameter of the bearing (mm).

    Returns
    -------
    float
        Length (mm).

    Examples
    --------
    >>> spigot_of(62.0), spigot_of(22.0)
    (4.0, 1.5)
    """
    return float(np.clip(ceil(2 * 0.06 * D) / 2, 1.5, 6.0))


def outward_of(made: MadeShaft, b: Borne) -> int:
    """The way out of the housing from a bearing: away from the other one.

    Of two in one wall that is the way from both to the outside.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    b : Borne
        The bearing at its place.

    Returns
    -------
    int
        -1 to the left, +1 to the right.
    """
    k = next(n for n, one in enumerate(made.bearings) if one.name == b.name)
    if k < 2:
        walls = made.wish.walls
        return walls[k].outward
    return 1 if b.at > (made.bearings[0].at + made.bearings[1].at) / 2 else -1


def in_outer_wall(made: MadeShaft, b: Borne, inner: tuple[float, float]) -> bool:
    """Whether a bearing stands in an outer wall of the housing, whose inside reaches from ``inner`` to there (mm), and
    nothing of its own shaft stands outside of it in the same bore.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    b : Borne
        The bearing at its place.
    inner : tuple[float, float]
        Start and end of the room between the walls (mm).

    Returns
    -------
    bool
        Whether it gets a cover.
    """
    way, low, high = outward_of(made, b), *inner
    outside = any(
        way * (one.at - b.at) > 1e-9 and outward_of(made, one) == way for one in made.bearings if one.name != b.name
    )
    beyond = b.at <= low + 1e-9 if way < 0 else b.at >= high - 1e-9
    return beyond and not outside


def covers_of(made: MadeShaft, inner: tuple[float, float]) -> tuple[Cover, ...]:
    """The covers of a shaft's bearings in the outer walls.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    inner : tuple[float, float]
        Start and end of the room between the walls (mm).

    Returns
    -------
    tuple[Cover, ...]
        One for each bearing in an outer wall: with the seal and a hole where an end comes through, else closed.
    """
    result = []
    for b in made.bearings:
        if not in_outer_wall(made, b, inner):
            continue
        way, D = outward_of(made, b), b.bearing.D
        screw, screws = screws_of(D)
        z_1 = b.at + way * b.bearing.B / 2
        z_2 = z_1 + way * spigot_of(D)
        thick = ceil(2 * 1.2 * screw) / 2
        end = next((p for p in made.pieces if p.kind == "end" and way * (p.at - b.at) > 0), None)
        own = next(((p, s) for p, s in made.seals if way * (p.at - b.at) > 0), None)
        outside = [way * (p.end if way > 0 else p.start) for p in made.pieces if p.kind in ("groove", "land", "thread")]
        out = max([v - way * z_1 for v in outside if v > way * z_1 + 1e-9], default=0.0)
        depth = ceil(2 * (out + 1.0)) / 2 if end is None or out else 0.0
        hole, seal, z_seal = 0.0, None, 0.0
        if end is not None and own is not None:
            piece, seal = own
            hole, z_seal = piece.d + 1.0, piece.at
            z_3 = way * max(way * z_2 + thick, way * z_seal + seal.b / 2 + 1.0)
        elif end is not None:
            beside = min((p for p in made.pieces if way * (p.at - z_1) > 0), key=lambda p: abs(p.at - z_1))
            hole = (beside if beside.kind == "end" else end).d + 0.5
            z_3 = z_2 + way * thick
        else:
            z_3 = way * max(way * z_2 + thick, way * z_1 + depth + 0.6 * thick)
        result.append(
            Cover(
                bearing=b.name,
                outward=way,
                z_1=z_1,
                z_2=z_2,
                z_3=z_3,
                D=D,
                D_2=D + 5.0 * screw,
                d_1=D + 2.5 * screw,
                screw=screw,
                screws=screws,
                depth=depth,
                hole=hole,
                seal=seal,
                z_seal=z_seal,
            )
        )
    return tuple(result)


def screw_designation(c: Cover) -> str:
    """What the screws of a cover are ordered by.

    Parameters
    ----------
    c : Cover
        The cover.

    Returns
    -------
    str
        Designation.
    """
    return tr("ISO 4762, M{d} x {length}", d=c.screw, length=c.screw_length)


def cover_outline(c: Cover) -> list[tuple[float, float]]:
    """One half of the section of a cover: places along the shaft and radii (mm), closed by its first point.

    Parameters
    ----------
    c : Cover
        The cover.

    Returns
    -------
    list[tuple[float, float]]
        Places along the shaft and radii (mm).
    """
    way, r_hole = c.outward, c.hole / 2
    deep = c.z_1 + way * c.depth
    points = [(c.z_1, c.inner / 2), (c.z_1, c.D / 2), (c.z_2, c.D / 2), (c.z_2, c.D_2 / 2), (c.z_3, c.D_2 / 2)]
    if c.seal is not None:
        # The seal is pressed in from outside, against a step.
        step = way * max(way * (c.z_seal - way * c.seal.b / 2), way * deep)
        points += [(c.z_3, c.seal.D / 2), (step, c.seal.D / 2), (step, r_hole)]
    else:
        points += [(c.z_3, r_hole)]
    return [*points, (deep, r_hole), (deep, c.inner / 2)]
