"""The seat of a radial shaft seal between the end of a shaft and its bearing."""

from __future__ import annotations

import numpy as np

from cooper.machine.shaft_making import ShaftMaking
from cooper.machine.shaft_model import SEALS, Piece
from cooper.stock.seals import Seal, seal_for


def seal_fits(d_end: float, least: float = 0.0, most: float = np.inf) -> Seal | None:
    """The radial shaft seal beside an end of a shaft.

    Parameters
    ----------
    d_end : float
        Diameter of the end (mm).
    least : float
        Least diameter of its seat (mm).
    most : float
        Greatest one (mm).

    Returns
    -------
    Seal | None
        The seal whose seat is thicker than the end, so that the lip passes over it unhurt; None where there is none,
        or where the end is so thin that it is better left without.
    """
    seal = seal_for(max(d_end + max(2.0, SEAL_STEP * d_end), least), most) or seal_for(d_end, most)
    return None if seal is None or (seal.d > max(SMALL_END * d_end, d_end + 2.5) and seal.d > least) else seal


def seal_piece(m: ShaftMaking, direction: int, d_end: float, under: float) -> Piece | None:
    """The piece on which a radial shaft seal runs, between the end and its bearing, no thicker than the bearing's bore
    may be; None where there is no room for one.

    Parameters
    ----------
    m : ShaftMaking
        The shaft while it is made.
    direction : int
        The way inwards: +1 at the left end, -1 at the right.
    d_end : float
        Diameter of the end (mm).
    under : float
        Greatest diameter of the seat (mm).

    Returns
    -------
    Piece | None
        The piece, None where there is no room.
    """
    name = SEALS[direction]
    given = m.piece_given(name)
    seal = seal_fits(d_end, m.least.get(name, 0.0), under)
    if seal is None and given.d is None:
        return None
    b = seal.b if seal is not None else 7.0
    d = given.d or (seal.d if seal is not None else d_end)
    length = given.length or float(np.ceil(b + 2 * max(1.5, BESIDE_SEAL * d)))
    return Piece(name=name, kind="seal", start=0.0, end=length, d=d, r=given.r or 0.02 * d)


SEAL_STEP = 0.08
"""How much thicker than the end the seat of a seal is, in diameters of the end; 1 mm on each side at least."""
SMALL_END = 1.6
"""How much thicker than the end a seal's seat is at most."""
BESIDE_SEAL = 0.04
"""Room on each side of a seal for its cover, in diameters."""
