"""The turned parts around a shaft as sections about its axis: retaining rings, nuts, sleeves, seals, covers, screws."""

from __future__ import annotations

from math import cos, pi, sin

from msgspec import Struct

from cooper.i18n.text import tr
from cooper.machine.covers import Cover, cover_outline, screw_designation
from cooper.machine.holding import Holding
from cooper.machine.shaft_model import MadeShaft, Piece

Profile = list[tuple[float, float]]
"""Places along the axis and radii (mm), closed by the first."""


class TurnedPart(Struct, frozen=True):
    """One part: its name, its section, whether it turns with the shaft, and of screws how far their axes lie from that
    of the shaft, with their directions (rad)."""

    name: str
    profile: Profile
    turns: bool = True
    arm: float = 0.0
    angles: tuple[float, ...] = (0.0,)

    @property
    def places(self) -> list[tuple[float, float]]:
        """Where its axes lie from that of the shaft; mm."""
        return [(self.arm * cos(a), self.arm * sin(a)) for a in self.angles]


def box(z_1: float, z_2: float, r_1: float, r_2: float) -> Profile:
    """A rectangle between two places and two radii.

    Parameters
    ----------
    z_1 : float
        One end (mm).
    z_2 : float
        The other end (mm).
    r_1 : float
        Inner radius (mm).
    r_2 : float
        Outer radius (mm).

    Returns
    -------
    Profile
        The corners (mm).
    """
    low, high = min(z_1, z_2), max(z_1, z_2)
    return [(low, r_1), (high, r_1), (high, r_2), (low, r_2)]


def owner_left(made: MadeShaft, piece: Piece) -> bool:
    """Whether what a groove or thread keeps stands on its left.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    piece : Piece
        The groove or thread.

    Returns
    -------
    bool
        Whether it stands on the left.
    """
    return made.piece(piece.holds).end <= piece.start + 1e-6


def screw_angles(c: Cover) -> tuple[float, ...]:
    """Directions of the screws of a cover, none of them in the plane of the axes; rad.

    Parameters
    ----------
    c : Cover
        The cover.

    Returns
    -------
    tuple[float, ...]
        Directions (rad).
    """
    return tuple(2 * pi * (k + 0.5) / c.screws for k in range(c.screws))


def on_shaft(made: MadeShaft) -> list[TurnedPart]:
    """Retaining rings (as closed rings), nuts with their washers, and sleeves.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.

    Returns
    -------
    list[TurnedPart]
        The parts, which turn with it.
    """
    result = []
    for piece, ring in made.rings:
        low = piece.start if owner_left(made, piece) else piece.end - ring.s
        section = box(low, low + ring.s, ring.d_2 / 2, ring.d_2 / 2 + ring.width)
        result.append(TurnedPart(tr("retaining ring {name}", name=ring.designation), section))
    for piece, nut in made.nuts:
        way = 1 if owner_left(made, piece) else -1
        near = piece.start if way > 0 else piece.end
        washer = near + way * nut.t
        result.append(TurnedPart(tr("tab washer MB {n}", n=nut.number), box(near, washer, nut.d / 2, nut.D / 2 - 0.5)))
        section = box(washer, washer + way * nut.B, nut.d / 2, nut.D / 2)
        result.append(TurnedPart(tr("nut KM {n}", n=nut.number), section))
    for p in made.sleeves:
        size = tr("sleeve {D:g} x {d:g} x {length:g}", D=p.sleeve, d=p.d, length=round(p.length, 2))
        result.append(TurnedPart(size, box(p.start, p.end, p.d / 2, p.sleeve / 2)))
    return result


def in_housing(made: MadeShaft, holding: Holding) -> list[TurnedPart]:
    """Seals, covers and their screws.

    Parameters
    ----------
    made : MadeShaft
        The shaft as made.
    holding : Holding
        Its covers.

    Returns
    -------
    list[TurnedPart]
        The parts, which stand still.
    """
    result = []
    for piece, seal in made.seals:
        wall = 0.18 * (seal.D - seal.d) / 2
        low, high = piece.at - seal.b / 2, piece.at + seal.b / 2
        case = [(low, seal.D / 2), (high, seal.D / 2), (high, seal.D / 2 - wall), (low + wall, seal.D / 2 - wall)]
        case += [(low + wall, seal.d / 2), (low, seal.d / 2)]
        result.append(TurnedPart(tr("seal {name}", name=seal.designation), case, False))
    for c in holding.covers:
        result.append(TurnedPart(tr("cover of {bearing}", bearing=c.bearing), cover_outline(c), False))
        way, r = c.outward, c.screw / 2
        head = c.z_2 + way * c.screw_in_flange
        tip = head - way * c.screw_length
        ends = [(tip, 0.0), (tip, r), (head, r), (head, 0.9 * c.screw), (head + way * c.screw, 0.9 * c.screw)]
        section = [*ends, (head + way * c.screw, 0.0)]
        screws = TurnedPart(tr("screw {name}", name=screw_designation(c)), section, False, c.d_1 / 2, screw_angles(c))
        result.append(screws)
    return result
