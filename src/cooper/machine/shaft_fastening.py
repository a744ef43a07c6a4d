"""What keeps bearings and hubs in their place along a shaft: sleeves between neighbours, retaining rings in grooves,
nuts on threads."""

from __future__ import annotations

from math import ceil, floor

import numpy as np
from msgspec import Struct

from cooper.i18n.text import tr
from cooper.machine.shaft_making import ShaftMaking
from cooper.machine.shaft_model import Joint, Piece
from cooper.stock.fasteners import nut_for, ring_on, rings
from cooper.stock.rolling import Bearing

HELD_BY_ITSELF = ("integral", "press fit", "pin", "set screw", "two set screws")
"""Joints that keep a hub along its shaft as well."""
HUB_SHOULDER = 0.06
"""Height of a shoulder beside a hub in diameters, 0.5 mm at least, so that it stands out over the hub's chamfer."""
SLEEVED = 0.8
"""How thick the shaft under a sleeve is at least, over the seat that the sleeve keeps: else it is thicker without."""
LEAST_GAP = 0.5
"""Length (mm) that is left of a gap at least for a piece of its own."""


class Row(Struct):
    """Diameter and extent of what stands on one place of a shaft: a bearing's ring or a hub."""

    name: str
    start: float
    end: float
    d: float
    r: float
    on: str
    integral: bool = False
    shoulder: float = 0.0
    """The least diameter of the shaft beside it, towards the collar."""
    most: float = np.inf
    """The greatest one, so that a bearing's ring can still be pulled."""
    loose: bool = True
    """Whether something has to keep it on its outer side."""
    sleeve: float = 0.0
    """Outside diameter of the sleeve between it and what stands outside of it; mm, 0 without one."""
    ring: bool = False
    """Whether a retaining ring keeps it on its outer side."""
    thrust: float = 0.0
    """Axial load that what keeps it on its outer side has to bear; N."""
    threaded: bool = False
    """Whether it is tightened by a nut, as a pair of bearings back to back is."""


def hub_shoulder(d: float) -> float:
    """Least diameter of a shoulder against which a hub of this bore stands; mm.

    Parameters
    ----------
    d : float
        Bore of the hub (mm).

    Returns
    -------
    float
        Diameter (mm).

    Examples
    --------
    >>> hub_shoulder(50.0), hub_shoulder(5.0)
    (56.0, 6.0)
    """
    return d + 2 * max(HUB_SHOULDER * d, 0.5)


def loose_hub(joint: Joint) -> bool:
    """Whether a joint of a hub leaves it free along the shaft.

    Parameters
    ----------
    joint : Joint
        The joint.

    Returns
    -------
    bool
        Whether something has to keep it.
    """
    return joint.kind not in HELD_BY_ITSELF


def loose_bearing(b: Bearing, back_to_back: bool) -> bool:
    """Whether a bearing's inner ring has to be kept on its outer side: one of a pair face to face is kept by its
    shoulder and the other bearing.

    Parameters
    ----------
    b : Bearing
        The bearing at its place.
    back_to_back : bool
        Whether bearings with a contact angle stand back to back.

    Returns
    -------
    bool
        Whether something has to keep it.
    """
    return not b.adjusted or back_to_back


def sleeve_between(m: ShaftMaking, outer: Row, inner: Row, gap: str, length: float) -> float:
    """Outside diameter of a sleeve that keeps two neighbours apart.

    Parameters
    ----------
    m : ShaftMaking
        The shaft while it is made.
    outer, inner : Row
        What stands outside, and what stands nearer to the collar.
    gap : str
        Name of the piece between both.
    length : float
        Length of the sleeve (mm).

    Returns
    -------
    float
        Diameter (mm): high enough for the chamfers of both and no higher than a bearing's ring; 0 where no sleeve can
        be, as the shaft has to be thicker between both.
    """
    if m.wish.retention.get(inner.name, "sleeve") != "sleeve":
        return 0.0
    given = m.piece_given(gap).d
    least = max(m.least.get(gap, 0.0), given or 0.0)
    low, high = max(outer.shoulder, inner.shoulder), min(outer.most, inner.most)
    if (
        not inner.loose
        or not SLEEVED * inner.d <= outer.d <= inner.d + 1e-9
        or least > outer.d + 1e-9
        or length < LEAST_GAP
        or low > high
    ):
        return 0.0
    up = ceil(2 * low) / 2
    return up if up <= high else max(floor(2 * high) / 2, low)


def ring_above(row: Row, outer: Row | None) -> float:
    """The diameter that a hub or ring needs so that the land of its retaining ring is as high as the shoulder of what
    stands outside of it.

    Parameters
    ----------
    row : Row
        What is kept.
    outer : Row | None
        What stands outside of it, None where nothing does.

    Returns
    -------
    float
        Diameter (mm); 0 where it is wide enough.
    """
    ring = ring_on(row.d)
    if outer is None or not row.loose or ring is None or ring.d >= outer.shoulder - 1e-9:
        return 0.0
    return next((r.d for r in rings() if r.d >= outer.shoulder - 1e-9), 0.0)


def ring_pieces(m: ShaftMaking, row: Row, room: float = np.inf) -> list[Piece]:
    """Groove and land of the retaining ring that keeps a ring or hub, or the thread of its nut, from there outwards.

    Parameters
    ----------
    m : ShaftMaking
        The shaft while it is made.
    row : Row
        What is kept.
    room : float
        Length that there is (mm).

    Returns
    -------
    list[Piece]
        Pieces with their lengths, none where nothing of that size is made or the room is too short.
    """
    nut, ring, chosen = nut_for(row.d), ring_on(row.d), m.wish.retention.get(row.name)
    weak = ring is None or row.thrust > ring.load(m.wish.steel.sigma_S)
    if chosen == "nothing":
        return []
    if nut is not None and chosen != "retaining ring" and (chosen == "nut" or row.threaded or weak):
        name = tr("thread of {name}", name=row.name)
        length = m.piece_given(name).length or float(ceil(2 * (nut.B + nut.t + 2 * nut.P)) / 2)
        if length <= room:
            return [Piece(name=name, kind="thread", start=0.0, end=length, d=nut.d, r=0.144 * nut.P, holds=row.name)]
    if ring is None:
        return []
    groove, land = tr("groove of {name}", name=row.name), tr("land of {name}", name=row.name)
    given = m.piece_given(groove)
    wide = given.length or ring.m
    long = m.piece_given(land).length or float(ceil(2 * ring.n) / 2)
    if wide + long > room + 1e-9:
        return []
    return [
        Piece(
            name=groove,
            kind="groove",
            start=0.0,
            end=wide,
            d=given.d or ring.d_2,
            r=given.r or 0.1 * ring.s,
            holds=row.name,
        ),
        Piece(name=land, kind="land", start=0.0, end=long, d=ring.d, r=0.02 * ring.d, holds=row.name),
    ]
